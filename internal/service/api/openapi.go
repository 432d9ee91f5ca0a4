package api

import (
	_ "embed"
	"encoding/json"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/deliver"
	"oliveledger/internal/service/store"
)

// object is a piece of the description.
type object = map[string]any

// describe serves the API's description (OpenAPI 3.1).
func (a *API) describe(c *echo.Context) error { return c.JSON(http.StatusOK, a.Describe()) }

// Describe makes the description from the table of routes.
func (a *API) Describe() map[string]any {
	s := schemas{}
	s.of(reflect.TypeFor[Problem]())
	paths := object{}
	for _, r := range routes() {
		path, params := pathOf(r.path)
		at, ok := paths[path].(object)
		if !ok {
			at = object{}
			paths[path] = at
		}
		at[strings.ToLower(r.method)] = s.operation(r, path, params)
	}
	return object{
		"openapi": "3.1.0",
		"info": object{
			"title": "Olive Ledger", "version": "1", "contact": object{"name": "whoever runs this service"}, "summary": "Merges records into templates, sets them as PDF and keeps the documents",
			"description": "Errors are problem+json (RFC 9457). Lists take offset, limit and sort. POST takes an Idempotency-Key: a request that comes twice with the same key is done once. What can be edited has an ETag, and edits hear If-Match. The header Olive-Limits tells how large and long requests may be.",
		},
		"servers":    []object{{"url": "/api/v1"}},
		"tags":       tags(),
		"security":   []object{{"key": []string{}}, {"session": []string{}}},
		"paths":      paths,
		"webhooks":   s.notices(),
		"components": object{"schemas": s, "securitySchemes": object{"key": object{"type": "http", "scheme": "bearer", "description": "A key with scopes: " + strings.Join(store.AllScopes, ", ")}, "session": object{"type": "apiKey", "in": "cookie", "name": cookieName}}},
	}
}

// notices are the messages that webhooks get.
func (s schemas) notices() object {
	header := func(name, about string) object {
		return object{"name": name, "in": "header", "required": true, "description": about, "schema": object{"type": "string"}}
	}
	out := object{}
	for _, name := range append(slices.Clone(store.AllHappenings), store.HookTested) {
		out[name] = object{"post": object{
			"summary": happenings[name], "operationId": strings.ReplaceAll(name, ".", "-"), "tags": []string{"hooks"}, "security": []object{},
			"parameters": []object{
				header("webhook-id", "Stays the same at each try, so that a message that comes twice is known."), header("webhook-timestamp", "When it was sent, in seconds since 1970."),
				header("webhook-signature", "“v1,” and an HMAC-SHA256 in Base64: of webhook-id, webhook-timestamp and the body, with dots between, by the secret that the service was started with."),
			},
			"requestBody": object{"required": true, "content": object{"application/json": object{"schema": s.of(reflect.TypeFor[deliver.Notice]())}}},
			"responses":   object{"2XX": object{"description": "It has arrived. Anything else is tried again, but for 3XX and 4XX other than 408 and 429."}},
		}}
	}
	return out
}

// happenings say what webhooks are told of.
var happenings = map[string]string{
	store.DocumentIssued: "A document was issued", store.DocumentVoid: "A document was made void", store.DeliveryDone: "A document has arrived",
	store.DeliveryFailed: "A delivery is not tried any more", store.BatchEnded: "A batch has ended", store.HookTested: "A webhook is tested",
}

// tags tell of the things that the API is about, in the order of the routes.
func tags() (list []object) {
	said := map[string]bool{}
	for _, r := range routes() {
		if name := tagOf(r); !said[name] {
			said[name] = true
			list = append(list, object{"name": name, "description": tagWords[name]})
		}
	}
	return list
}

// tagOf is what a route is about: the beginning of its path.
func tagOf(r route) string { return strings.Split(r.path, "/")[1] }

var tagWords = map[string]string{
	"session": "Logging in and out.", "sign-in": "Logging in through a provider.", "sessions": "Where I am logged in.", "password": "My password.",
	"overview": "What stands open.", "setup": "What the service is set up for.", "people": "Who may log in.", "keys": "Keys for programs.",
	"starters": "Templates to begin with.", "page-copies": "Pages of the web to begin a template with.", "templates": "Pages in HTML and CSS that records are merged into: versions and drafts.",
	"record-sets": "Structured data that documents are made of.", "record-previews": "Records of a file, read and not kept.", "renderings": "Pages set at once, and not kept.",
	"batches": "Documents of many records, made in the background.", "batch-trials": "The first documents of a batch, set and not kept.", "documents": "Every PDF that was made and kept.", "erasures": "Documents whose time has run out.",
	"deliveries": "Documents on their way to someone.", "hooks": "Webhooks that are told of what happens.", "share-links": "Links that open a document without a log-in.", "number-series": "Numbers without gaps.",
	"fonts": "Fonts that all templates can name.", "ledger": "What was issued and made void; its rows never change.", "events": "Who did what.",
}

var pathParam = regexp.MustCompile(`:([a-z]+)|\*`)

// pathOf turns a route's path into that of the description.
func pathOf(path string) (string, []string) {
	var params []string
	out := pathParam.ReplaceAllStringFunc(path, func(p string) string {
		name := strings.TrimPrefix(p, ":")
		if name == "*" {
			name = "path"
		}
		params = append(params, name)
		return "{" + name + "}"
	})
	return out, params
}

func (s schemas) operation(r route, path string, params []string) object {
	op := object{"summary": r.summary, "operationId": operationID(r), "tags": []string{tagOf(r)}}
	if r.scope == "" {
		op["security"] = []object{}
		op["description"] = "Needs no key."
	} else {
		op["description"] = "Needs the scope " + r.scope + "."
	}
	list := []object{}
	text := object{"type": "string"}
	for _, p := range params {
		list = append(list, pathParameter(p))
	}
	for _, q := range r.query {
		list = append(list, object{"name": q.name, "in": "query", "description": sentence(q.about), "schema": q.schema()})
	}
	if r.edits {
		list = append(list, object{"name": "If-Match", "in": "header", "description": "The ETag that the edit was made from.", "schema": text})
	}
	if r.method == http.MethodPost && !r.repeatable {
		list = append(list, object{"name": "Idempotency-Key", "in": "header", "description": "A text of your own making: requests with the same one are done once.", "schema": text})
	}
	if len(list) > 0 {
		op["parameters"] = list
	}
	body := s.content(r.in, r.accepts)
	if len(r.parts) > 0 {
		files := object{}
		for _, name := range r.parts {
			files[name] = object{"type": "string", "format": "binary"}
		}
		body["multipart/form-data"] = object{"schema": object{"type": "object", "properties": files, "required": r.parts[:1]}}
	}
	shown := examples[r.method+" "+path]
	shown.of(body, shown.Request)
	if len(body) > 0 {
		op["requestBody"] = object{"required": true, "content": body}
	}
	status := r.status
	if status == 0 {
		status = http.StatusOK
	}
	good := object{"description": http.StatusText(status)}
	if content := s.content(r.out, r.gives); len(content) > 0 {
		shown.of(content, shown.Response)
		good["content"] = content
	}
	op["responses"] = object{strconv.Itoa(status): good, "4XX": problem("What is asked for is refused."), "5XX": problem("The service cannot do it now.")}
	return op
}

// problem is the answer to what cannot be done.
func problem(what string) object {
	return object{"description": what, "content": object{"application/problem+json": object{"schema": object{"$ref": "#/components/schemas/Problem"}}}}
}

// example is what was sent in one way into the API, and answered.
type example struct{ Request, Response json.RawMessage }

//go:embed examples.json
var examplesFile []byte

// examples are by the way into the API. A test tells a story of requests, and writes the file.
var examples = func() (out map[string]example) {
	if err := json.Unmarshal(examplesFile, &out); err != nil {
		panic("examples.json: " + err.Error()) // it is built in
	}
	return out
}()

// of adds an example to the JSON of a body.
func (e example) of(body object, text json.RawMessage) {
	if at, ok := body["application/json"].(object); ok && text != nil {
		at["example"] = text
	}
}

// pathParameter is a part of the path that stands for something.
func pathParameter(name string) object {
	p := object{"name": name, "in": "path", "required": true, "description": pathWords[name], "schema": object{"type": "string"}}
	switch name {
	case "id", "number", "other":
		p["schema"] = object{"type": "integer", "minimum": 1}
	}
	return p
}

// pathWords tell what stands in paths.
var pathWords = map[string]string{
	"id": "Its number, as lists tell it.", "name": "Its name.", "number": "Its number: of a version, from 1; of a record, its place in the set.",
	"other": "The version that it is compared with.", "path": "The file's path in the template.",
}

// operationID is a name made of method and path.
func operationID(r route) string {
	id := strings.ToLower(r.method)
	for part := range strings.FieldsFuncSeq(r.path, func(r rune) bool { return r == '/' || r == ':' || r == '-' || r == '*' }) {
		id += strings.ToUpper(part[:1]) + part[1:]
	}
	if strings.HasSuffix(r.path, "*") {
		id += "File"
	}
	return id
}

func (s schemas) content(v any, other string) object {
	out := object{}
	if v != nil {
		out["application/json"] = object{"schema": s.of(reflect.TypeOf(v))}
	}
	if other != "" {
		out[other] = object{"schema": object{"type": "string", "format": "binary"}}
		switch other {
		case "text/event-stream":
			out[other] = object{}
		case "multipart/form-data", "application/x-www-form-urlencoded":
			out[other] = object{"schema": s.form(reflect.TypeOf(v))}
		}
	}
	return out
}

// form is what a form may hold: the text and numbers of a JSON body, a key, and files. Its
// other fields are the record's, with dots between levels.
func (s schemas) form(t reflect.Type) object {
	fields := object{"key": object{"type": "string", "description": "in the place of Authorization"}}
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch f.Type.Kind() {
		case reflect.String, reflect.Int:
			fields[name] = s.of(f.Type)
		}
	}
	file := object{"type": "string", "format": "binary"}
	fields["record"] = object{"description": "JSON, or a file of it"}
	fields["files"] = object{"type": "array", "items": file, "description": "files of the template, by their names"}
	return object{"type": "object", "properties": fields, "additionalProperties": object{"type": "string"}}
}
