// Package client talks to the service's API.
package client

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"net/url"
	"strings"
	"time"
)

// Client calls one service with a key.
type Client struct {
	Server string // http://host:port
	Key    string
	HTTP   *http.Client
}

// New makes a client.
func New(server, key string) *Client {
	return &Client{Server: strings.TrimRight(server, "/"), Key: key, HTTP: &http.Client{Timeout: 10 * time.Minute}}
}

// Problem is an error that the service told (RFC 9457).
type Problem struct {
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail"`
}

func (p *Problem) Error() string {
	return fmt.Sprintf("the service says: %s (%d %s)", p.Detail, p.Status, p.Title)
}

// do makes a request; the caller closes the body.
func (c *Client) do(ctx context.Context, method, path, contentType string, body io.Reader) (*http.Response, error) {
	req, err := http.NewRequestWithContext(ctx, method, c.Server+"/api/v1"+path, body)
	if err != nil {
		return nil, err
	}
	req.Header.Set("Authorization", "Bearer "+c.Key)
	if contentType != "" {
		req.Header.Set("Content-Type", contentType)
	}
	res, err := c.HTTP.Do(req)
	if err != nil {
		return nil, fmt.Errorf("the service at %s does not answer; is “olive serve” running? (%w)", c.Server, errors.Unwrap(err))
	}
	if res.StatusCode < 400 {
		return res, nil
	}
	defer res.Body.Close()
	p := &Problem{Status: res.StatusCode, Title: http.StatusText(res.StatusCode)}
	data, _ := io.ReadAll(io.LimitReader(res.Body, 1<<20))
	if json.Unmarshal(data, p) != nil || p.Detail == "" {
		p.Detail = strings.TrimSpace(string(data))
	}
	return nil, p
}

func (c *Client) call(ctx context.Context, method, path, contentType string, body io.Reader, out any) error {
	res, err := c.do(ctx, method, path, contentType, body)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	return json.NewDecoder(res.Body).Decode(out)
}

func (c *Client) post(ctx context.Context, path string, in, out any) error {
	b, err := json.Marshal(in)
	if err != nil {
		return err
	}
	return c.call(ctx, http.MethodPost, path, "application/json", bytes.NewReader(b), out)
}

// Template names a template and one of its versions.
type Template struct {
	Name    string `json:"name"`
	Title   string `json:"title"`
	Version int    `json:"version"`
	Latest  int    `json:"latest"`
}

// Push sends a template folder as the next version.
func (c *Client) Push(ctx context.Context, name, note string, files fs.FS) (t Template, err error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	if err := z.AddFS(files); err != nil {
		return t, err
	}
	if err := z.Close(); err != nil {
		return t, err
	}
	return t, c.call(ctx, http.MethodPut, "/templates/"+url.PathEscape(name)+"?note="+url.QueryEscape(note), "application/zip", &b, &t)
}

// Templates lists the templates.
func (c *Client) Templates(ctx context.Context) ([]Template, error) {
	var out struct{ Items []Template }
	return out.Items, c.call(ctx, http.MethodGet, "/templates", "", nil, &out)
}

// RecordSet is a set of records.
type RecordSet struct {
	ID    uint64 `json:"id"`
	Name  string `json:"name"`
	Count int    `json:"count"`
}

// Import sends a record file.
func (c *Client) Import(ctx context.Context, name, format string, body io.Reader) (s RecordSet, err error) {
	return s, c.call(ctx, http.MethodPost, "/record-sets?name="+url.QueryEscape(name)+"&format="+format, "application/octet-stream", body, &s)
}

// RecordSets lists the sets, newest first.
func (c *Client) RecordSets(ctx context.Context) ([]RecordSet, error) {
	var out struct{ Items []RecordSet }
	return out.Items, c.call(ctx, http.MethodGet, "/record-sets", "", nil, &out)
}

// Document is one PDF that the service keeps.
type Document struct {
	ID       uint64    `json:"id"`
	Name     string    `json:"name"`
	Title    string    `json:"title"`
	Template string    `json:"template"`
	Version  int       `json:"version"`
	Record   int       `json:"record"`
	Pages    int       `json:"pages"`
	Bytes    int       `json:"bytes"`
	SHA256   string    `json:"sha256"`
	Created  time.Time `json:"created"`
	Error    string    `json:"error"`
}

// Order asks for documents.
type Order struct {
	HTML      string          `json:"html,omitempty"`
	Name      string          `json:"name,omitempty"`
	Template  string          `json:"template,omitempty"`
	Version   int             `json:"version,omitempty"`
	RecordSet uint64          `json:"recordSet,omitempty"`
	Records   []int           `json:"records,omitempty"`
	Record    json.RawMessage `json:"record,omitempty"`
}

// Issue makes documents; those that failed have an Error.
func (c *Client) Issue(ctx context.Context, o Order) ([]Document, error) {
	var out struct{ Items []Document }
	return out.Items, c.post(ctx, "/documents", o, &out)
}

// Documents lists documents, newest first.
func (c *Client) Documents(ctx context.Context, search string, limit int) ([]Document, int, error) {
	var out struct {
		Items []Document
		Total int
	}
	err := c.call(ctx, http.MethodGet, fmt.Sprintf("/documents?limit=%d&search=%s", limit, url.QueryEscape(search)), "", nil, &out)
	return out.Items, out.Total, err
}

// Document finds one.
func (c *Client) Document(ctx context.Context, id uint64) (d Document, err error) {
	return d, c.call(ctx, http.MethodGet, fmt.Sprintf("/documents/%d", id), "", nil, &d)
}

// PDF gives a document's bytes.
func (c *Client) PDF(ctx context.Context, id uint64) ([]byte, error) {
	res, err := c.do(ctx, http.MethodGet, fmt.Sprintf("/documents/%d/pdf", id), "", nil)
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	return io.ReadAll(res.Body)
}

// Render sets a page at once; nothing is kept.
func (c *Client) Render(ctx context.Context, o Order) ([]byte, error) {
	b, err := json.Marshal(struct {
		Order
		Number int `json:"number,omitempty"`
	}{o, first(o.Records)})
	if err != nil {
		return nil, err
	}
	res, err := c.do(ctx, http.MethodPost, "/renderings", "application/json", bytes.NewReader(b))
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	return io.ReadAll(res.Body)
}

func first(list []int) int {
	if len(list) > 0 {
		return list[0]
	}
	return 0
}

// NewKey makes a key for a program; its secret is told only now.
func (c *Client) NewKey(ctx context.Context, name string) (secret string, err error) {
	var out struct{ Key string }
	return out.Key, c.post(ctx, "/keys", map[string]string{"name": name}, &out)
}
