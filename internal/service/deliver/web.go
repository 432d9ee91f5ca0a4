package deliver

import (
	"bytes"
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/store"
)

// web follows no redirects: they could lead to a host that is not allowed.
var web = &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}

// Message is what a webhook gets.
type Message struct {
	Type      string `json:"type"` // document.delivered
	Timestamp string `json:"timestamp"`
	Data      struct {
		ID     uint64 `json:"id"`
		Number string `json:"number,omitempty"`
		Name   string `json:"name"`
		Title  string `json:"title"`
		Pages  int    `json:"pages"`
		SHA256 string `json:"sha256"`
		PDF    []byte `json:"pdf"` // in base64
	} `json:"data"`
}

// Sign is the signature of a webhook's message: HMAC-SHA256 over its
// identifier, time and body, with dots between, in base64.
func Sign(secret, id, timestamp string, body []byte) string {
	mac := hmac.New(sha256.New, []byte(secret))
	fmt.Fprintf(mac, "%s.%s.", id, timestamp)
	mac.Write(body)
	return "v1," + base64.StdEncoding.EncodeToString(mac.Sum(nil))
}

// post tells a webhook. The identifier stays the same at each try, so that the
// receiver knows a message that it has had already.
func (w *Ways) post(ctx context.Context, p Parcel) error {
	m := Message{Type: "document.delivered", Timestamp: clock.Now().UTC().Format(time.RFC3339)}
	d := p.Document
	m.Data.ID, m.Data.Number, m.Data.Name, m.Data.Title, m.Data.Pages, m.Data.SHA256, m.Data.PDF = d.ID, d.Number, d.Name, d.Title, d.Pages, d.SHA256, p.PDF
	body, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return w.signed(ctx, p.Delivery, body)
}

// signed posts a message with its signature.
func (w *Ways) signed(ctx context.Context, d store.Delivery, body []byte) error {
	id, stamp := fmt.Sprintf("delivery-%d", d.ID), strconv.FormatInt(clock.Now().Unix(), 10)
	return w.request(ctx, http.MethodPost, d.To, body, map[string]string{"Content-Type": "application/json", "webhook-id": id, "webhook-timestamp": stamp, "webhook-signature": Sign(w.Secret, id, stamp, body)})
}

// put stores the PDF on a WebDAV server; an address that ends in a slash is a
// folder there.
func (w *Ways) put(ctx context.Context, p Parcel) error {
	to := p.Delivery.To
	if strings.HasSuffix(to, "/") {
		to += url.PathEscape(p.Document.Name)
	}
	return w.request(ctx, http.MethodPut, to, p.PDF, map[string]string{"Content-Type": "application/pdf"})
}

func (w *Ways) request(ctx context.Context, method, to string, body []byte, headers map[string]string) error {
	req, err := http.NewRequestWithContext(ctx, method, to, bytes.NewReader(body))
	if err != nil {
		return final{err}
	}
	for k, v := range headers {
		req.Header.Set(k, v)
	}
	if u := req.URL.User; u != nil {
		password, _ := u.Password()
		req.SetBasicAuth(u.Username(), password)
	}
	res, err := web.Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	said, _ := io.ReadAll(io.LimitReader(res.Body, 300))
	if res.StatusCode < 300 {
		return nil
	}
	err = fmt.Errorf("%s answered %s: %s", req.URL.Host, res.Status, strings.TrimSpace(string(said)))
	if c := res.StatusCode; c >= 300 && c < 500 && c != http.StatusRequestTimeout && c != http.StatusTooManyRequests {
		return final{err}
	}
	return err
}
