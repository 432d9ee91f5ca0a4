package api_test

import (
	"encoding/json"
	"io"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

// scopes are what keys may be for, in the order of the table below.
var scopes = []string{"read", "render", "design", "records", "issue", "approve", "send", "keep"}

// asking sends a request and gives its answer.
func asking(t *testing.T, method, address, key, body string) (int, []byte) {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), method, address, strings.NewReader(body))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	if key != "" {
		req.Header.Set("Authorization", "Bearer "+key)
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return res.StatusCode, text
}

// routesOf lists the routes that a service describes.
func routesOf(t *testing.T, s *servicetest.Running) (list []string) {
	t.Helper()
	status, text := asking(t, http.MethodGet, s.URL+"/api/v1/openapi.json", "", "")
	require.Equal(t, http.StatusOK, status)
	var described struct {
		Paths map[string]map[string]json.RawMessage
	}
	require.NoError(t, json.Unmarshal(text, &described))
	for path, methods := range described.Paths {
		for method := range methods {
			list = append(list, strings.ToUpper(method)+" "+path)
		}
	}
	slices.Sort(list)
	return list
}

var (
	numberParameter = regexp.MustCompile(`\{(id|number|other)\}`)
	nameParameter   = regexp.MustCompile(`\{[^}]+\}`)
)

// answers asks a route for what there is not, with a body that is wrong: without a key, and
// with one for each scope.
func answers(t *testing.T, s *servicetest.Running, keys []string, route string) string {
	t.Helper()
	method, path, _ := strings.Cut(route, " ")
	path = nameParameter.ReplaceAllString(numberParameter.ReplaceAllString(path, "999"), "gone")
	body := ""
	if method != http.MethodGet && method != http.MethodDelete {
		body = `{"nonsense": 1}`
	}
	var list []string
	for _, key := range append([]string{""}, keys...) {
		status, _ := asking(t, method, s.URL+"/api/v1"+path, key, body)
		list = append(list, strconv.Itoa(status))
	}
	return strings.Join(list, " ")
}

// started is a service with a template, and keys for one scope each.
func started(t *testing.T) (s *servicetest.Running, keys []string) {
	t.Helper()
	s = servicetest.Start(t, t.TempDir())
	_, err := s.Client.Push(t.Context(), "card", "", fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}")}})
	require.NoError(t, err)
	for _, scope := range scopes {
		k, err := s.Client.NewKey(t.Context(), client.KeyOrder{Name: scope, Scopes: []string{scope}})
		require.NoError(t, err)
		keys = append(keys, k.Secret)
	}
	return s, keys
}

// TestAccess asks every route as anyone may who has no key, or one for a single scope. A
// route that is allowed answers that it knows nothing of what is asked for, or that the body
// is wrong.
func TestAccess(t *testing.T) {
	s, keys := started(t)
	var known []string
	for _, c := range [][2]string{
		// the statuses without a key, and with one for each of the scopes
		{"DELETE /documents/{id}/hold", "401 403 403 403 403 403 403 403 404"},
		{"DELETE /fonts/{id}", "401 403 403 403 403 403 403 403 404"},
		{"DELETE /hooks/{id}", "401 403 403 403 403 403 403 403 404"},
		{"DELETE /keys/{id}", "401 403 403 403 403 403 403 403 404"},
		{"DELETE /record-sets/{id}", "401 403 403 403 404 403 403 403 403"},
		{"DELETE /session", "401 204 403 403 403 403 403 403 403"},
		{"DELETE /sessions/{name}", "401 403 403 403 403 403 403 403 403"},
		{"DELETE /share-links/{id}", "401 403 403 403 403 403 403 404 403"},
		{"DELETE /templates/{name}/draft", "401 403 403 404 403 403 403 403 403"},
		{"GET /batches", "401 200 403 403 403 403 403 403 403"},
		{"GET /batches/{id}", "401 404 403 403 403 403 403 403 403"},
		{"GET /batches/{id}/events", "401 404 403 403 403 403 403 403 403"},
		{"GET /batches/{id}/items", "401 404 403 403 403 403 403 403 403"},
		{"GET /batches/{id}/pdf", "401 404 403 403 403 403 403 403 403"},
		{"GET /batches/{id}/zip", "401 404 403 403 403 403 403 403 403"},
		{"GET /deliveries", "401 200 403 403 403 403 403 403 403"},
		{"GET /deliveries/{id}", "401 404 403 403 403 403 403 403 403"},
		{"GET /documents", "401 200 403 403 403 403 403 403 403"},
		{"GET /documents/bound", "401 400 403 403 403 403 403 403 403"},
		{"GET /documents/zip", "401 400 403 403 403 403 403 403 403"},
		{"GET /documents/{id}", "401 404 403 403 403 403 403 403 403"},
		{"GET /documents/{id}/history", "401 404 403 403 403 403 403 403 403"},
		{"GET /documents/{id}/pdf", "401 404 403 403 403 403 403 403 403"},
		{"GET /events", "401 403 403 403 403 403 403 403 200"},
		{"GET /fonts", "401 200 403 403 403 403 403 403 403"},
		{"GET /hooks", "401 403 403 403 403 403 403 403 200"},
		{"GET /keys", "401 403 403 403 403 403 403 403 200"},
		{"GET /ledger", "401 200 403 403 403 403 403 403 403"},
		{"GET /ledger/export", "401 200 403 403 403 403 403 403 403"},
		{"GET /ledger/head", "401 409 403 403 403 403 403 403 403"},
		{"GET /number-series", "401 200 403 403 403 403 403 403 403"},
		{"GET /overview", "401 200 403 403 403 403 403 403 403"},
		{"GET /people", "401 403 403 403 403 403 403 403 200"},
		{"GET /record-sets", "401 200 403 403 403 403 403 403 403"},
		{"GET /record-sets/{id}", "401 404 403 403 403 403 403 403 403"},
		{"GET /record-sets/{id}/records", "401 404 403 403 403 403 403 403 403"},
		{"GET /record-sets/{id}/records/{number}", "401 404 403 403 403 403 403 403 403"},
		{"GET /session", "401 200 403 403 403 403 403 403 403"},
		{"GET /sessions", "401 403 403 403 403 403 403 403 403"},
		{"GET /setup", "401 200 403 403 403 403 403 403 403"},
		{"GET /share-links", "401 200 403 403 403 403 403 403 403"},
		{"GET /sign-in/way", "200 200 200 200 200 200 200 200 200"},
		{"GET /starters", "401 200 403 403 403 403 403 403 403"},
		{"GET /starters/{name}", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates", "401 200 403 403 403 403 403 403 403"},
		{"GET /templates/{name}", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates/{name}/draft", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates/{name}/versions", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates/{name}/versions/{number}", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates/{name}/versions/{number}/assets/{path}", "401 404 403 403 403 403 403 403 403"},
		{"GET /templates/{name}/versions/{number}/difference/{other}", "401 404 403 403 403 403 403 403 403"},
		{"PATCH /batches/{id}", "401 403 403 403 403 400 403 403 403"},
		{"PATCH /documents/{id}", "401 403 403 403 403 403 400 403 403"},
		{"PATCH /hooks/{id}", "401 403 403 403 403 403 403 403 400"},
		{"PATCH /number-series/{id}", "401 403 403 403 403 403 403 403 400"},
		{"PATCH /people/{id}", "401 403 403 403 403 403 403 403 400"},
		{"POST /batch-trials", "401 403 403 403 403 400 403 403 403"},
		{"POST /batches", "401 403 403 403 403 400 403 403 403"},
		{"POST /batches/{id}/retry", "401 403 403 403 403 404 403 403 403"},
		{"POST /deliveries", "401 403 403 403 403 403 403 400 403"},
		{"POST /deliveries/{id}/retry", "401 403 403 403 403 403 403 404 403"},
		{"POST /documents", "401 403 403 403 403 400 403 403 403"},
		{"POST /documents/{id}/repetition", "401 403 404 404 403 404 403 403 403"},
		{"POST /erasures", "401 403 403 403 403 403 403 403 400"},
		{"POST /fonts", "401 403 403 403 403 403 403 403 400"},
		{"POST /hooks", "401 403 403 403 403 403 403 403 400"},
		{"POST /hooks/{id}/test", "401 403 403 403 403 403 403 403 404"},
		{"POST /keys", "401 403 403 403 403 403 403 403 400"},
		{"POST /ledger/verification", "401 200 403 403 403 403 403 403 403"},
		{"POST /number-series", "401 403 403 403 403 403 403 403 400"},
		{"POST /page-copies", "401 403 403 400 403 403 403 403 403"},
		{"POST /people", "401 403 403 403 403 403 403 403 400"},
		{"POST /record-previews", "401 403 400 400 403 400 403 403 403"},
		{"POST /record-sets", "401 403 403 403 400 403 403 403 403"},
		{"POST /record-sets/{id}/records", "401 403 403 403 404 403 403 403 403"},
		{"POST /renderings", "401 403 400 400 403 400 403 403 403"},
		{"POST /session", "400 400 400 400 400 400 400 400 400"},
		{"POST /share-links", "401 403 403 403 403 403 403 400 403"},
		{"POST /templates/{name}/versions", "401 403 403 400 403 403 403 403 403"},
		{"PUT /documents/{id}/hold", "401 403 403 403 403 403 403 403 400"},
		{"PUT /password", "401 400 403 403 403 403 403 403 403"},
		{"PUT /record-sets/{id}/records/{number}", "401 403 403 403 404 403 403 403 403"},
		{"PUT /templates/{name}/draft", "401 403 403 400 403 403 403 403 403"},
	} {
		known = append(known, c[0])
		assert.Equal(t, c[1], answers(t, s, keys, c[0]), c[0])
	}
	assert.Equal(t, routesOf(t, s), known, "every route is in the table")
}

// refusal sends a body that is wrong with a key that may do all, and gives the status and
// what the service says.
func refusal(t *testing.T, s *servicetest.Running, route, body string) string {
	t.Helper()
	method, path, _ := strings.Cut(route, " ")
	status, text := asking(t, method, s.URL+"/api/v1"+path, s.Key, body)
	var said struct{ Error, Title, Detail, Message string }
	_ = json.Unmarshal(text, &said)
	return strconv.Itoa(status) + " " + said.Error + said.Title + said.Detail + said.Message
}

// TestWrongBodies: what is wrong with a body is said, and nothing is done.
func TestWrongBodies(t *testing.T) {
	s, _ := started(t)
	for _, c := range [][3]string{
		{"POST /people", "{", "400 Bad Requestthe body is not the JSON that is wanted: it ends in the middle"},
		{"POST /people", "[]", "400 Bad Requestthe body is not the JSON that is wanted: it is a list, where an object is wanted"},
		{"POST /people", `"x"`, "400 Bad Requestthe body is not the JSON that is wanted: it is text, where an object is wanted"},
		{"POST /people", "", "400 Bad Requestthe request has no body; JSON is wanted"},
		{"POST /people", `{"nonsense":1}`, `400 Bad Requestthe body is not the JSON that is wanted: unknown field "nonsense"`},
		{"POST /people", `{"email":"x","name":"Ida","role":"viewer","password":"long-enough-word"}`, `400 Bad Request"x" is not an email address`},
		{"POST /people", `{"email":"ida@quay.example","name":"","role":"reader","password":"long-enough-word"}`, "400 Bad Requesta person needs email, name, role and password"},
		{"POST /people", `{"email":"ida@quay.example","name":"Ida","role":"captain","password":"long-enough-word"}`, `400 Bad Request"captain" is not a role; there are keeper, maker, sender and reader`},
		{"POST /people", `{"email":"ida@quay.example","name":"Ida","role":"reader","password":"short"}`, "400 Bad Requesta password has at least 10 characters"},
		{"POST /people", `{"email":"ida@quay.example","name":"Ida","role":"reader"}`, "400 Bad Requesta person needs email, name, role and password"},
		{"PATCH /people/1", `{"role":"viewer"}`, `400 Bad Request"viewer" is not a role; there are keeper, maker, sender and reader`},
		{"PATCH /people/1", `{"role":"captain"}`, `400 Bad Request"captain" is not a role; there are keeper, maker, sender and reader`},
		{"PATCH /people/1", `{"password":"x"}`, "400 Bad Requesta password has at least 10 characters"},
		{"PATCH /people/999", `{"name":"x"}`, "404 Not Foundthere is no such thing here"},
		{"PATCH /people/x", `{"name":"x"}`, `400 Bad Request"x" is not a number`},
		{"POST /keys", `{"name":"","scopes":["read"]}`, "400 Bad Requesta key needs a name, of at most 100 characters"},
		{"POST /keys", `{"name":"k","scopes":[]}`, "400 Bad Requesta key with no scopes may do nothing; there are read, render, design, records, issue, approve, send, keep"},
		{"POST /keys", `{"name":"k","scopes":["fly"]}`, `400 Bad Request"fly" is not a scope; there are read, render, design, records, issue, approve, send, keep`},
		{"POST /keys", `{"name":"k","scopes":"read"}`, "400 Bad Requestthe body is not the JSON that is wanted: “scopes” is text, where a list is wanted"},
		{"POST /keys", `{"name":"k","scopes":["read"],"days":-5}`, "400 Bad Requesta key ends after 1 to 3660 days, or never when “days” is left out"},
		{"POST /keys", `{"name":"k","scopes":["read"],"days":1.5}`, "400 Bad Requestthe body is not the JSON that is wanted: “days” is the number 1.5, where a whole number is wanted"},
		{"POST /keys", `{"name":"k","scopes":["read"],"templates":["gone"]}`, `422 Unprocessable Entitythere is no template "gone"`},
		{"DELETE /keys/0", "", "404 Not Foundthere is no such thing here"},
		{"DELETE /keys/x", "", `400 Bad Request"x" is not a number`},
		{"PUT /templates/card/draft", `{"files":{}}`, "400 Bad Requesta draft needs “files”"},
		{"PUT /templates/card/draft", `{"files":{"../x":{"text":"y"}}}`, `400 Bad Request"../x" is not a path inside a template`},
		{"PUT /templates/card/draft", `{"files":{"page.html":5}}`, "400 Bad Requestthe body is not the JSON that is wanted: “files” is the number, where an object is wanted"},
		{"PUT /templates/no name/draft", `{"files":{"page.html":{"text":"x"}}}`, `400 Bad Requesta template's name has small letters, digits and hyphens, at most 100: "no name" does not do`},
		{"POST /templates/card/versions", `{"files":{"style.css":{"text":"p{}"}}}`, "422 Unprocessable Entitycard/page.html: the template's page cannot be read: open page.html: file does not exist"},
		{"POST /templates/card/versions", `{"files":{"page.html":{"text":"{{if}}"}}}`, "422 Unprocessable Entitycard: page.html line 1: missing value for if"},
		{"POST /templates/card/versions", `{"files":{"page.html":{"text":"x"},"template.yaml":{"text":"nonsense: 1"}}}`, `422 Unprocessable Entitycard/template.yaml: [1:1] unknown field "nonsense"
>  1 | nonsense: 1
       ^
`},
		{"GET /templates/card/versions/x", "", `400 Bad Request"x" is not a version number`},
		{"GET /templates/card/versions/9", "", "404 Not Foundthere is no such thing here"},
		{"GET /templates/card/versions/1/difference/9", "", "404 Not Foundthere is no such thing here"},
		{"GET /templates/card/versions/1/assets/gone.css", "", "404 Not Foundthe file gone.css: there is none"},
		{"GET /templates?limit=0", "", `400 Bad Requestlimit "0" is not a number from 1 to 100`},
		{"GET /templates?limit=101", "", `400 Bad Requestlimit "101" is not a number from 1 to 100`},
		{"GET /templates?sort=shoe", "", `400 Bad Requestthe list cannot be sorted by "shoe"; it can by name, title, updated_at`},
		{"GET /templates?nonsense=1", "", `400 Bad Requestthere is no parameter "nonsense"; there are search, offset, limit, sort, after`},
		{"GET /documents/1/pdf?download=perhaps", "", `400 Bad Requestthere is no download "perhaps"; there are true, false, 1, 0`},
		{"GET /documents?state=lost", "", `400 Bad Requestthere is no state "lost"; there are draft, approved, issued, sent, void`},
		{"GET /documents?from=yesterday", "", `400 Bad Requestfrom "yesterday" is not a date such as 2026-11-23`},
		{"GET /documents?after=x", "", `400 Bad Requestafter "x" is not the number of a row`},
		{"GET /documents/x", "", `400 Bad Request"x" is not a number`},
		{"POST /record-sets?format=doc&name=x", "a", `400 Bad Requestthe record format "doc" is not json, ndjson, csv, tsv, yaml, xml or xlsx`},
		{"POST /record-sets?format=json&name=x", "{", "422 Unprocessable Entityx: x line 1: the file ends in the middle of a value"},
		{"POST /record-sets?format=csv", "a,b", "400 Bad Requestthe record set needs a name: ?name=…"},
		{"POST /record-sets?format=csv&name=x&decimal=x", "a", `400 Bad Requestthe decimal sign is a comma or a point, not "x"`},
		{"POST /record-sets?format=csv&name=x&dates=DD", "a", `400 Bad Request"DD" is no notation of dates; write one such as DD.MM.YYYY or MM/DD/YYYY HH:mm`},
		{"POST /record-sets?format=csv&name=x&fields=x", "a", "400 Bad Request“fields” is not a JSON object of names: invalid character 'x' looking for beginning of value"},
		{"POST /record-previews?format=json", "[1]", "400 Bad Requestthe record set needs a name: ?name=…"},
		{"POST /renderings", "{}", "400 Bad Requesta rendering needs “html”, “template” or “files”"},
		{"POST /renderings", `{"html":""}`, "400 Bad Requesta rendering needs “html”, “template” or “files”"},
		{"POST /renderings", `{"html":"<p>x","template":"card"}`, "400 Bad Requesta rendering has “html”, or “template” and “files”, not both"},
		{"POST /renderings", `{"template":"gone","record":{}}`, `404 Not Foundtemplate "gone": there is none`},
		{"POST /renderings", `{"template":"card"}`, `422 Unprocessable Entityrecord 1: the field "name" is missing; add it to the record, or test for it with {{with}} or has (card: page.html line 1)`},
		{"POST /renderings", `{"template":"card","record":{}}`, `422 Unprocessable Entityrecord 1: the field "name" is missing; add it to the record, or test for it with {{with}} or has (card: page.html line 1)`},
		{"POST /renderings", `{"template":"card","record":[]}`, "422 Unprocessable Entitythe record is not a JSON object: it is a list"},
		{"POST /renderings", `{"html":"<p>x","paper":"A99"}`, `422 Unprocessable Entitypaper: "A99" is not a page size; write it as CSS does: A4, A5 landscape, letter, 210mm 99mm`},
		{"POST /renderings", `{"html":"<p>x","margins":"x"}`, `422 Unprocessable Entitymargins: "x" are not CSS margins; write one to four lengths: 20mm, 18mm 16mm`},
		{"POST /renderings", `{"html":"<p>x","date":"today"}`, `400 Bad Request“date” is a day such as 2026-05-31, not "today"`},
		{"POST /renderings", `{"html":"<p>x","header":"a|b|c|d"}`, `422 Unprocessable Entityheader: "a|b|c|d" has 4 parts; at most three, left | middle | right, have room`},
		{"POST /renderings", `{"html":"<p>x","files":{"page.html":{"text":"x"}}}`, "400 Bad Requesta rendering has “html”, or “template” and “files”, not both"},
		{"POST /documents", "{}", "400 Bad Requesta document needs “template” with “record”, or with “recordSet” and “records”, or “html”"},
		{"POST /documents", `{"template":"gone","record":{}}`, `404 Not Foundtemplate "gone": there is none`},
		{"POST /documents", `{"template":"card","records":[]}`, "400 Bad Requestsay which records: “recordSet” with “records”, or one “record”"},
		{"POST /documents", `{"template":"card","record":{}}`, `422 Unprocessable Entityrecord 1: the field "name" is missing; add it to the record, or test for it with {{with}} or has (card: page.html line 1)`},
		{"POST /documents", `{"template":"card","record":{"name":"x"},"series":"gone"}`, `422 Unprocessable Entitythere is no number series "gone"`},
		{"POST /documents", `{"template":"card","record":{"name":"x"},"version":9}`, `404 Not Foundtemplate "card", version 9: there is none`},
		{"PATCH /documents/999", `{"state":"void"}`, "400 Bad Requestsay why the document is void: “reason”"},
		{"PATCH /documents/999", `{"state":"lost"}`, `400 Bad Requesta document can be made approved, issued or void, not "lost"`},
		{"PATCH /documents/999", "{}", `400 Bad Requesta document can be made approved, issued or void, not ""`},
		{"PUT /documents/999/hold", `{"reason":""}`, "400 Bad Requestsay why the document must stay: “reason”"},
		{"POST /erasures", "{}", "200 "},
		{"POST /batches", "{}", "400 Bad Requesta batch needs “template” and “recordSet”"},
		{"POST /batches", `{"template":"card"}`, "400 Bad Requesta batch needs “template” and “recordSet”"},
		{"POST /batches", `{"template":"card","recordSet":999}`, "422 Unprocessable Entitythere is no record set 999"},
		{"POST /batches", `{"template":"gone","recordSet":1}`, `404 Not Foundtemplate "gone": there is none`},
		{"PATCH /batches/999", `{"state":"paused"}`, "404 Not Foundthere is no such thing here"},
		{"PATCH /batches/999", `{"state":"flying"}`, `400 Bad Requesta batch can be made running, paused or cancelled, not "flying"`},
		{"PATCH /batches/999", `{"priority":99}`, "404 Not Foundthere is no such thing here"},
		{"POST /deliveries", "{}", "400 Bad Requesta delivery needs “document”, its number"},
		{"POST /deliveries", `{"document":999,"kind":"mail","to":"a@quay.example"}`, "404 Not Foundthere is no such thing here"},
		{"POST /deliveries", `{"document":999,"kind":"pigeon","to":"x"}`, "404 Not Foundthere is no such thing here"},
		{"POST /share-links", `{"document":999}`, "404 Not Foundthere is no such thing here"},
		{"POST /share-links", `{"document":999,"days":-1}`, "404 Not Foundthere is no such thing here"},
		{"POST /number-series", `{"name":"","pattern":"A-{number}"}`, "400 Bad Requesta number series needs a name"},
		{"POST /number-series", `{"name":"bills","pattern":"A"}`, `400 Bad Requestthe pattern "A" needs {number} once, such as QL-{year}-{number:4}`},
		{"POST /number-series", `{"name":"bills","pattern":"{nonsense}"}`, `400 Bad Requestthe pattern "{nonsense}" has the field {nonsense}; there are {number}, {number:4} and {year}`},
		{"POST /number-series", `{"name":"bills","pattern":"A-{number}","next":0}`, "201 "},
		{"PATCH /number-series/999", `{"pattern":"B-{number}"}`, "404 Not Foundthere is no such thing here"},
		{"POST /hooks", `{"address":"https://a.example/"}`, "400 Bad Requesta webhook needs “address”, and “events” that it is told of: document.issued, document.void, delivery.done, delivery.failed, batch.ended"},
		{"POST /hooks", `{"address":"https://a.example/","events":["boat.sunk"]}`, `422 Unprocessable Entitynothing called "boat.sunk" happens; there are document.issued, document.void, delivery.done, delivery.failed, batch.ended`},
		{"POST /hooks", `{"address":"https://a.example/","events":["document.void"]}`, "422 Unprocessable Entitynothing may be sent to the host a.example; start the service with --deliver-host a.example to allow it"},
		{"PATCH /hooks/999", `{"paused":true}`, "404 Not Foundthere is no such thing here"},
		{"GET /deliveries?hook=x", "", `400 Bad Requesthook "x" is not a number`},
		{"POST /fonts", "x", "400 Bad Requestthe font needs the name of its file: ?name=…"},
		{"PUT /password", `{"old":"x","new":"y"}`, "403 Forbiddenthis is for people who have logged in; a key has no account"},
		{"POST /session", `{"email":"x"}`, "400 Bad Requestemail and password are needed"},
		{"POST /renderings", `{"html":"<p>x"} and more`, "400 Bad Requestthe body goes on after its JSON"},
		{"POST /renderings", `{"html":true}`, "400 Bad Requestthe body is not the JSON that is wanted: “html” is true or false, where text is wanted"},
		{"GET /nonsense", "", "404 Not Foundthere is no such resource"},
		{"POST /documents/1/pdf", "{}", "404 Not Foundthere is no such resource"},
	} {
		assert.Equal(t, c[2], refusal(t, s, c[0], c[1]), c[0]+" "+c[1])
	}
}
