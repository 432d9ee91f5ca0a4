package servicetest

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// described makes requests and checks each answer by the service's OpenAPI
// description: the route, the status, the type and the shape.
type described struct {
	t      testing.TB
	server string
	once   sync.Once
	doc    map[string]any
	schema *jsonschema.Compiler
	mu     sync.Mutex
}

const docName = "openapi.json"

func (d *described) load() error {
	res, err := http.Get(d.server + "/api/v1/openapi.json")
	if err != nil {
		return err
	}
	defer res.Body.Close()
	doc, err := jsonschema.UnmarshalJSON(res.Body)
	if err != nil {
		return err
	}
	d.doc = doc.(map[string]any)
	d.schema = jsonschema.NewCompiler()
	return d.schema.AddResource(docName, doc)
}

func (d *described) RoundTrip(req *http.Request) (*http.Response, error) {
	res, err := http.DefaultTransport.RoundTrip(req)
	if err != nil {
		return nil, err
	}
	d.once.Do(func() {
		if err := d.load(); err != nil {
			d.t.Errorf("the description cannot be read: %v", err)
		}
	})
	kind, _, _ := strings.Cut(res.Header.Get("Content-Type"), ";")
	if kind == "text/event-stream" || kind == "application/zip" || kind == "application/pdf" {
		return res, d.check(req, res.StatusCode, kind, nil)
	}
	body, err := io.ReadAll(res.Body)
	res.Body.Close()
	res.Body = io.NopCloser(bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	return res, d.check(req, res.StatusCode, kind, body)
}

var parameter = regexp.MustCompile(`\\\{[a-z]+\\\}`)

// pathOf finds the path of the description that a request goes to.
func (d *described) pathOf(path string) string {
	best := ""
	for p := range d.doc["paths"].(map[string]any) {
		pattern := "^" + parameter.ReplaceAllString(regexp.QuoteMeta(p), "[^/]+") + "$"
		if strings.HasSuffix(p, "{path}") {
			pattern = strings.TrimSuffix(pattern, "[^/]+$")
		}
		if regexp.MustCompile(pattern).MatchString(path) && (best == "" || strings.Count(p, "{") < strings.Count(best, "{")) {
			best = p
		}
	}
	return best
}

func (d *described) check(req *http.Request, status int, kind string, body []byte) error {
	path := d.pathOf(strings.TrimPrefix(req.URL.Path, "/api/v1"))
	at := fmt.Sprintf("%s %s", req.Method, req.URL.Path)
	op, ok := d.doc["paths"].(map[string]any)[path].(map[string]any)[strings.ToLower(req.Method)].(map[string]any)
	if !ok {
		return fmt.Errorf("%s is not in the description", at)
	}
	responses := op["responses"].(map[string]any)
	code := strconv.Itoa(status)
	answer, ok := responses[code].(map[string]any)
	if !ok {
		if status == http.StatusNotModified {
			return nil // it has no body
		}
		if status < 400 {
			return fmt.Errorf("%s answered %d, which the description does not tell", at, status)
		}
		code = code[:1] + "XX"
		answer = responses[code].(map[string]any)
	}
	content, ok := answer["content"].(map[string]any)
	if !ok {
		if len(body) > 0 {
			return fmt.Errorf("%s answered %d with a body that the description does not tell", at, status)
		}
		return nil
	}
	if content["*/*"] != nil {
		return nil
	}
	if _, ok := content[kind]; !ok {
		return fmt.Errorf("%s answered %d with %q, which the description does not tell", at, status, kind)
	}
	if !strings.HasSuffix(kind, "json") {
		return nil
	}
	escape := strings.NewReplacer("~", "~0", "/", "~1", "{", "%7B", "}", "%7D")
	ref := fmt.Sprintf("%s#/paths/%s/%s/responses/%s/content/%s/schema", docName, escape.Replace(path), strings.ToLower(req.Method), code, escape.Replace(kind))
	d.mu.Lock()
	shape, err := d.schema.Compile(ref)
	d.mu.Unlock()
	if err != nil {
		return fmt.Errorf("%s: the description's schema: %w", at, err)
	}
	var v any
	if v, err = jsonschema.UnmarshalJSON(bytes.NewReader(body)); err == nil {
		err = shape.Validate(v)
	}
	if err != nil {
		return fmt.Errorf("%s answered what the description does not tell: %w\n%s", at, err, json.RawMessage(body))
	}
	return nil
}
