package api_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/internal/service"
	"oliveledger/internal/service/api"
	"oliveledger/internal/servicetest"
)

// changing are parts of answers that differ from run to run, and what stands for them.
var changing = []struct {
	is *regexp.Regexp
	by string
}{
	{regexp.MustCompile(`"\d{4}-\d\d-\d\dT[^"]*"`), `"TIME"`},
	{regexp.MustCompile(`\b[0-9a-f]{64}\b`), "SUM"},
	{regexp.MustCompile(`"(bytes|milliseconds|free|memory|size|year|atOnce|signed|ms)":\d+`), `"$1":N`},
	{regexp.MustCompile(`"(code|secret|key|requestId|request|verify|url|address|pdf|worker|agent)":"[^"]*"`), `"$1":"…"`},
	{regexp.MustCompile(`"(day)":"\d{4}-\d\d-\d\d"`), `"$1":"2026-05-31"`},
	{regexp.MustCompile(`127\.0\.0\.1:\d+`), "HOST"},
}

// said is the status and the text of an answer.
func said(t *testing.T, s *servicetest.Running, request, body string) string {
	t.Helper()
	method, path, _ := strings.Cut(request, " ")
	status, text := asking(t, method, s.URL+"/api/v1"+path, s.Key, body)
	if strings.HasPrefix(string(text), "%PDF") {
		text = []byte("a PDF file")
	}
	out := http.StatusText(status) + " " + strings.TrimSpace(string(text))
	for _, c := range changing {
		out = c.is.ReplaceAllString(out, c.by)
	}
	return out
}

// TestStory asks for one thing after another as a client would from the first template to an
// empty service, and holds each answer.
func TestStory(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	shown := examples{}
	for _, c := range [][3]string{
		{
			`GET /starters`, ``,
			`OK {"items":[{"name":"invoice","what":"an invoice with lines, taxes by rate and a code to pay with"},{"name":"certificate","what":"a certificate on landscape paper, with a signature"},{"name":"report","what":"a report with a cover, contents, charts and tables"},{"name":"letter","what":"a letter for a window envelope, with text in Markdown"},{"name":"labels","what":"a sheet of 24 labels, made of all records at once"}],"total":5}`,
		},
		{
			`GET /starters/boat`, ``,
			`Not Found {"type":"about:blank","title":"Not Found","status":404,"detail":"there is no such thing here"}`,
		},
		{
			`PUT /templates/card/draft`, "{\"files\":{\"page.html\":{\"text\":\"<title>{{.name}}</title><p>Berth {{.berth}} of {{.name}}\"},\"template.yaml\":{\"text\":\"title: Berth card\\nfilename: card-{{.number}}\\n\"}}}",
			`OK {"name":"card","title":"card","latest":0,"version":0,"revision":1,"note":"","author":"key first","created":"TIME","files":{"page.html":{"text":"\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003eBerth {{.berth}} of {{.name}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\n"}},"manifest":{"title":"Berth card","page":"page.html","pdf":{"paper":"","margins":"","header":"","footer":"","watermark":"","author":"","subject":"","keywords":"","archive":"","allowMissing":false,"untagged":false,"linearised":false},"schema":"","sample":"","filename":"card-{{.number}}","currency":"EUR","locale":"en","timezone":"","approval":false,"keep":"","signed":"","rounding":""},"fields":["berth","name","number"]}`,
		},
		{
			`GET /templates/card/draft`, ``,
			`OK {"name":"card","title":"card","latest":0,"version":0,"revision":1,"note":"","author":"key first","created":"TIME","files":{"page.html":{"text":"\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003eBerth {{.berth}} of {{.name}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\n"}},"manifest":{"title":"Berth card","page":"page.html","pdf":{"paper":"","margins":"","header":"","footer":"","watermark":"","author":"","subject":"","keywords":"","archive":"","allowMissing":false,"untagged":false,"linearised":false},"schema":"","sample":"","filename":"card-{{.number}}","currency":"EUR","locale":"en","timezone":"","approval":false,"keep":"","signed":"","rounding":""},"fields":["berth","name","number"]}`,
		},
		{
			`GET /templates`, ``,
			`OK {"items":[{"name":"card","title":"card","latest":0,"updated":"TIME"}],"total":1}`,
		},
		{
			`POST /templates/card/versions?note=first`, ``,
			`Created {"name":"card","title":"Berth card","version":1}`,
		},
		{
			`GET /templates/card/draft`, ``,
			`Not Found {"type":"about:blank","title":"Not Found","status":404,"detail":"there is no such thing here"}`,
		},
		{
			`GET /templates/card/draft?or-version=true`, ``,
			`OK {"name":"card","title":"Berth card","latest":1,"version":1,"revision":0,"note":"first","author":"key first","created":"TIME","files":{"page.html":{"text":"\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003eBerth {{.berth}} of {{.name}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\n"}},"manifest":{"title":"Berth card","page":"page.html","pdf":{"paper":"","margins":"","header":"","footer":"","watermark":"","author":"","subject":"","keywords":"","archive":"","allowMissing":false,"untagged":false,"linearised":false},"schema":"","sample":"","filename":"card-{{.number}}","currency":"EUR","locale":"en","timezone":"","approval":false,"keep":"","signed":"","rounding":""},"fields":["berth","name","number"]}`,
		},
		{
			`POST /templates/card/versions`, "{\"note\":\"bolder\",\"files\":{\"page.html\":{\"text\":\"<title>{{.name}}</title><p><b>Berth {{.berth}}</b> of {{.name}}\"},\"template.yaml\":{\"text\":\"title: Berth card\\nfilename: card-{{.number}}\\ngiven: {house: {name: Quay, since: 1962, open: true}}\\n\"}}}",
			`Created {"name":"card","title":"Berth card","version":2}`,
		},
		{
			`GET /templates/card/versions`, ``,
			`OK {"items":[{"number":2,"note":"bolder","author":"key first","created":"TIME"},{"number":1,"note":"first","author":"key first","created":"TIME"}],"total":2}`,
		},
		{
			`GET /templates/card/versions/1`, ``,
			`OK {"name":"card","title":"Berth card","latest":2,"version":1,"revision":0,"note":"first","author":"key first","created":"TIME","files":{"page.html":{"text":"\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003eBerth {{.berth}} of {{.name}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\n"}},"manifest":{"title":"Berth card","page":"page.html","pdf":{"paper":"","margins":"","header":"","footer":"","watermark":"","author":"","subject":"","keywords":"","archive":"","allowMissing":false,"untagged":false,"linearised":false},"schema":"","sample":"","filename":"card-{{.number}}","currency":"EUR","locale":"en","timezone":"","approval":false,"keep":"","signed":"","rounding":""},"fields":["berth","name","number"]}`,
		},
		{
			`GET /templates/card/versions/1/difference/2`, ``,
			`OK {"items":[{"path":"page.html","change":"changed","lines":"--- page.html (version 1)\n+++ page.html (version 2)\n@@ -1 +1 @@\n-\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003eBerth {{.berth}} of {{.name}}\n+\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003e\u003cb\u003eBerth {{.berth}}\u003c/b\u003e of {{.name}}\n"},{"path":"template.yaml","change":"changed","lines":"--- template.yaml (version 1)\n+++ template.yaml (version 2)\n@@ -1,3 +1,4 @@\n title: Berth card\n filename: card-{{.number}}\n+given: {house: {name: Quay, since: 1962, open: true}}\n \n"}],"total":2}`,
		},
		{
			`GET /templates/card/versions/2/assets/page.html`, ``,
			`OK <title>{{.name}}</title><p><b>Berth {{.berth}}</b> of {{.name}}`,
		},
		{
			`GET /templates/card`, ``,
			`OK {"name":"card","title":"Berth card","latest":2,"version":2,"revision":0,"note":"bolder","author":"key first","created":"TIME","files":{"page.html":{"text":"\u003ctitle\u003e{{.name}}\u003c/title\u003e\u003cp\u003e\u003cb\u003eBerth {{.berth}}\u003c/b\u003e of {{.name}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\ngiven: {house: {name: Quay, since: 1962, open: true}}\n"}},"manifest":{"title":"Berth card","page":"page.html","pdf":{"paper":"","margins":"","header":"","footer":"","watermark":"","author":"","subject":"","keywords":"","archive":"","allowMissing":false,"untagged":false,"linearised":false},"schema":"","sample":"","filename":"card-{{.number}}","currency":"EUR","locale":"en","timezone":"","given":{"house":{"name":"Quay","open":true,"since":1962}},"approval":false,"keep":"","signed":"","rounding":""},"fields":["berth","name","number"]}`,
		},
		{
			`POST /record-sets?name=berths.csv`, "number,name,berth\nB-1,Anna Reuter,C4\nB-2,Bo Lund,C5\n",
			`Created {"id":1,"name":"berths.csv","count":2,"author":"key first","created":"TIME","bad":[],"notes":[]}`,
		},
		{
			`GET /record-sets`, ``,
			`OK {"items":[{"id":1,"name":"berths.csv","count":2,"author":"key first","created":"TIME"}],"total":1}`,
		},
		{
			`GET /record-sets/1`, ``,
			`OK {"id":1,"name":"berths.csv","count":2,"author":"key first","created":"TIME"}`,
		},
		{
			`GET /record-sets/1/records`, ``,
			`OK {"items":[{"number":1,"label":"record 1 (number B-1)","revision":1,"data":{"berth":"C4","name":"Anna Reuter","number":"B-1"}},{"number":2,"label":"record 2 (number B-2)","revision":1,"data":{"berth":"C5","name":"Bo Lund","number":"B-2"}}],"total":2}`,
		},
		{
			`GET /record-sets/1/records?search=lund`, ``,
			`OK {"items":[{"number":2,"label":"record 2 (number B-2)","revision":1,"data":{"berth":"C5","name":"Bo Lund","number":"B-2"}}],"total":1}`,
		},
		{
			`GET /record-sets/1/records/2`, ``,
			`OK {"number":2,"label":"record 2 (number B-2)","revision":1,"data":{"berth":"C5","name":"Bo Lund","number":"B-2"}}`,
		},
		{
			`PUT /record-sets/1/records/2`, `{"number":"B-2","name":"Bo Lund","berth":"C9"}`,
			`OK {"number":2,"label":"record 2 (number B-2)","revision":2,"data":{"berth":"C9","name":"Bo Lund","number":"B-2"}}`,
		},
		{
			`POST /record-sets/1/records`, `{"number":"B-3","name":"Cleo Marsh","berth":"D1"}`,
			`Created {"number":3,"label":"record 3 (number B-3)","revision":1,"data":{"berth":"D1","name":"Cleo Marsh","number":"B-3"}}`,
		},
		{
			`GET /record-sets/1/records?limit=1&offset=2`, ``,
			`OK {"items":[{"number":3,"label":"record 3 (number B-3)","revision":1,"data":{"berth":"D1","name":"Cleo Marsh","number":"B-3"}}],"total":3}`,
		},
		{
			`POST /record-previews?name=x.csv&delimiter=;`, "a;b\n1;2\n",
			`OK {"id":0,"name":"x.csv","count":1,"author":"key first","created":"TIME","bad":[],"notes":[],"preview":[{"a":"1","b":"2"}]}`,
		},
		{
			`POST /renderings`, `{"template":"card","record":{"number":"B-9","name":"Eve","berth":"A1"}}`,
			`OK a PDF file`,
		},
		{
			`POST /number-series`, `{"name":"cards","pattern":"CARD-{number:3}"}`,
			`Created {"id":1,"name":"cards","pattern":"CARD-{number:3}","next":1,"year":N,"approval":false,"revision":1,"created":"TIME"}`,
		},
		{
			`GET /number-series`, ``,
			`OK {"items":[{"id":1,"name":"cards","pattern":"CARD-{number:3}","next":1,"year":N,"approval":false,"revision":1,"created":"TIME"}],"total":1}`,
		},
		{
			`POST /documents`, `{"template":"card","record":{"number":"B-1","name":"Anna Reuter","berth":"C4"},"series":"cards"}`,
			`Created {"items":[{"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"issued","template":"card","version":2,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","revision":1,"issued":"TIME","created":"TIME","record":1}],"failed":0}`,
		},
		{
			`GET /documents/1`, ``,
			`OK {"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"issued","template":"card","version":2,"record":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","revision":1,"issued":"TIME","created":"TIME","findings":[{"code":"…","severity":"note","message":"the file does not say that it can be read aloud (PDF/UA-1): it does not tell its language","file":"page.html","advice":"give html a lang attribute"}],"data":{"berth":"C4","name":"Anna Reuter","number":"B-1"}}`,
		},
		{
			`GET /documents`, ``,
			`OK {"items":[{"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"issued","template":"card","version":2,"record":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","revision":1,"issued":"TIME","created":"TIME"}],"total":1}`,
		},
		{
			`GET /documents?search=anna&state=draft`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`PATCH /documents/1`, `{"state":"approved"}`,
			`Conflict {"type":"about:blank","title":"Conflict","status":409,"detail":"document 1 is issued; only a draft can be approved"}`,
		},
		{
			`PATCH /documents/1`, `{"state":"issued"}`,
			`Conflict {"type":"about:blank","title":"Conflict","status":409,"detail":"document 1 is issued; only an approved one can be issued"}`,
		},
		{
			`PATCH /documents/1`, `{"state":"approved"}`,
			`Conflict {"type":"about:blank","title":"Conflict","status":409,"detail":"document 1 is issued; only a draft can be approved"}`,
		},
		{
			`GET /documents/1/history`, ``,
			`OK {"items":[{"id":7,"at":"TIME","who":"key first","action":"document.issued","kind":"document","ref":"1","detail":"card-B-1.pdf","request":"…"}],"total":1}`,
		},
		{
			`POST /documents/1/repetition`, ``,
			`OK {"same":true}`,
		},
		{
			`POST /documents`, `{"template":"card","recordSet":1,"records":[2]}`,
			`Created {"items":[{"id":2,"name":"card-B-2.pdf","title":"Bo Lund","state":"issued","template":"card","version":2,"recordSet":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","revision":1,"issued":"TIME","created":"TIME","record":2}],"failed":0}`,
		},
		{
			`PUT /documents/1/hold`, `{"reason":"a lawsuit"}`,
			`OK {"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"issued","template":"card","version":2,"record":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","hold":"a lawsuit","revision":2,"issued":"TIME","created":"TIME","findings":[{"code":"…","severity":"note","message":"the file does not say that it can be read aloud (PDF/UA-1): it does not tell its language","file":"page.html","advice":"give html a lang attribute"}],"data":{"berth":"C4","name":"Anna Reuter","number":"B-1"}}`,
		},
		{
			`DELETE /documents/1/hold`, ``,
			`OK {"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"issued","template":"card","version":2,"record":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","revision":3,"issued":"TIME","created":"TIME","findings":[{"code":"…","severity":"note","message":"the file does not say that it can be read aloud (PDF/UA-1): it does not tell its language","file":"page.html","advice":"give html a lang attribute"}],"data":{"berth":"C4","name":"Anna Reuter","number":"B-1"}}`,
		},
		{
			`PATCH /documents/1`, `{"state":"void","reason":"a slip"}`,
			`OK {"id":1,"number":"CARD-001","series":"cards","name":"card-B-1.pdf","title":"Anna Reuter","state":"void","template":"card","version":2,"record":1,"recordSha256":"SUM","pages":1,"bytes":N,"sha256":"SUM","verify":"…","code":"…","author":"key first","reason":"a slip","revision":4,"issued":"TIME","created":"TIME","findings":[{"code":"…","severity":"note","message":"the file does not say that it can be read aloud (PDF/UA-1): it does not tell its language","file":"page.html","advice":"give html a lang attribute"}],"data":{"berth":"C4","name":"Anna Reuter","number":"B-1"}}`,
		},
		{
			`GET /ledger`, ``,
			`OK {"items":[{"id":3,"kind":"void","document":1,"number":"CARD-001","name":"card-B-1.pdf","template":"card","version":2,"recordSha256":"SUM","sha256":"SUM","pages":1,"reason":"a slip","who":"key first","at":"TIME","previous":"SUM","checksum":"SUM"},{"id":2,"kind":"issued","document":2,"number":"","name":"card-B-2.pdf","template":"card","version":2,"recordSha256":"SUM","sha256":"SUM","pages":1,"reason":"","who":"key first","at":"TIME","previous":"SUM","checksum":"SUM"},{"id":1,"kind":"issued","document":1,"number":"CARD-001","name":"card-B-1.pdf","template":"card","version":2,"recordSha256":"SUM","sha256":"SUM","pages":1,"reason":"","who":"key first","at":"TIME","previous":"","checksum":"SUM"}],"total":3}`,
		},
		{
			`POST /ledger/verification`, ``,
			`OK {"rows":3,"last":3,"signed":N,"key":"…","sound":true,"faults":[]}`,
		},
		{
			`POST /share-links`, `{"document":1,"days":3}`,
			`Conflict {"type":"about:blank","title":"Conflict","status":409,"detail":"a document that is void does not go out; only issued ones do"}`,
		},
		{
			`GET /share-links?document=1`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`DELETE /share-links/1`, ``,
			`Not Found {"type":"about:blank","title":"Not Found","status":404,"detail":"there is no such thing here"}`,
		},
		{
			`GET /share-links?document=1`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`POST /people`, `{"email":"ida@quay.example","name":"Ida","role":"reader","password":"long-enough-word"}`,
			`Created {"id":2,"email":"ida@quay.example","name":"Ida","role":"reader","disabled":false,"revision":1,"created":"TIME"}`,
		},
		{
			`PATCH /people/2`, `{"name":"Ida Quist","role":"maker"}`,
			`OK {"id":2,"email":"ida@quay.example","name":"Ida Quist","role":"maker","disabled":false,"revision":2,"created":"TIME"}`,
		},
		{
			`GET /people`, ``,
			`OK {"items":[{"id":2,"email":"ida@quay.example","name":"Ida Quist","role":"maker","disabled":false,"revision":2,"created":"TIME"},{"id":1,"email":"keeper@olive.example","name":"Keeper","role":"keeper","disabled":false,"revision":1,"created":"TIME"}],"total":2}`,
		},
		{
			`POST /keys`, `{"name":"press","scopes":["read","render"],"days":9}`,
			`Created {"id":2,"name":"press","scopes":"read render","expires":"TIME","revoked":false,"author":"key first","created":"TIME","key":"…"}`,
		},
		{
			`GET /keys`, ``,
			`OK {"items":[{"id":2,"name":"press","scopes":"read render","expires":"TIME","revoked":false,"author":"key first","created":"TIME"},{"id":1,"name":"first","scopes":"read render design records issue approve send keep","revoked":false,"author":"keeper@olive.example","created":"TIME"}],"total":2}`,
		},
		{
			`DELETE /keys/2`, ``,
			`OK {"id":2,"name":"press","scopes":"read render","expires":"TIME","revoked":true,"author":"key first","created":"TIME"}`,
		},
		{
			`DELETE /record-sets/1`, ``,
			`No Content `,
		},
		{
			`GET /record-sets`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`PATCH /number-series/1`, `{"next":20}`,
			`OK {"id":1,"name":"cards","pattern":"CARD-{number:3}","next":20,"year":N,"approval":false,"revision":2,"created":"TIME"}`,
		},
		{
			`GET /session`, ``,
			`OK {"email":"key first","name":"first","scopes":["read","render","design","records","issue","approve","send","keep"]}`,
		},
		{
			`GET /setup`, ``,
			`OK {"public":"http://HOST","ways":[],"hosts":[],"maxPages":5000,"seconds":60,"maxBody":268435456,"atOnce":N}`,
		},
		{
			`GET /sign-in/way`, ``,
			`OK {"name":""}`,
		},
		{
			`GET /deliveries`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`GET /batches`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`GET /fonts`, ``,
			`OK {"items":[],"total":0}`,
		},
		{
			`POST /erasures`, `{}`,
			`OK {"documents":[],"total":0,"bytes":N}`,
		},
		{
			`GET /events?limit=5`, ``,
			`OK {"items":[{"id":18,"at":"TIME","who":"key first","action":"series.changed","kind":"series","ref":"cards","detail":"CARD-{number:3} next 20","request":"…"},{"id":17,"at":"TIME","who":"key first","action":"records.dropped","kind":"record-set","ref":"1","detail":"berths.csv: 3 records","request":"…"},{"id":16,"at":"TIME","who":"key first","action":"key.revoked","kind":"key","ref":"2","detail":"press","request":"…"},{"id":15,"at":"TIME","who":"key first","action":"key.added","kind":"key","ref":"2","detail":"press: read render","request":"…"},{"id":14,"at":"TIME","who":"key first","action":"person.changed","kind":"person","ref":"ida@quay.example","detail":"role maker, disabled false, password as it was","request":"…"}],"total":18}`,
		},
	} {
		answer := said(t, s, c[0], c[1])
		assert.Equal(t, c[2], answer, c[0])
		shown.add(t, c[0], c[1], answer)
	}
	shown.more(t)
	text, err := json.MarshalIndent(shown, "", "  ")
	require.NoError(t, err)
	golden.Compare(t, "examples.json", string(text)+"\n")
}

// examples are what was sent and answered first in each way into the API, as its description shows them.
type examples map[string]*example

type example struct {
	Request  json.RawMessage `json:"request,omitempty"`
	Response json.RawMessage `json:"response,omitempty"`
}

// more shows what takes its time, or is other each day: the answers are not held, but for their shape.
func (x examples) more(t *testing.T) {
	t.Helper()
	folder := t.TempDir()
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.DeliverFolder, c.DeliverHosts, c.WebhookSecret = folder, []string{"hooks.quay.example"}, "a secret"
	})
	font, err := os.ReadFile("../../../demo/templates/season-report/fonts/source-sans-3-latin-400-italic.woff2")
	require.NoError(t, err)
	log := fmt.Sprintf(`{"email":%q,"password":%q}`, s.Email, s.Password)
	for _, c := range [][3]string{
		{`GET /starters/labels`, ``, ``},
		{`POST /templates/card/versions`, `{"files":{"page.html":{"text":"<title>{{.name}}</title><p>Berth {{.berth}}"},"template.yaml":{"text":"title: Berth card\nfilename: card-{{.number}}\n"}}}`, ``},
		{`POST /record-sets?name=berths.csv`, "number,name,berth\nB-1,Anna Reuter,C4\n", ``},
		{`POST /batch-trials`, `{"template":"card","recordSet":1}`, ``},
		{`POST /batches`, `{"template":"card","recordSet":1}`, ``},
		{`GET /batches/1`, ``, `"state":"done"`},
		{`GET /batches/1/items`, ``, ``},
		{`PATCH /batches/1`, `{"priority":2}`, ``},
		{`POST /batches/1/retry`, ``, ``},
		{`POST /deliveries`, `{"document":1,"kind":"folder","to":"{{.name}}"}`, ``},
		{`GET /deliveries/1`, ``, `"state":"done"`},
		{`POST /hooks`, `{"address":"https://hooks.quay.example/in","events":["document.issued","batch.ended"]}`, ``},
		{`GET /hooks`, ``, ``},
		{`PATCH /hooks/1`, `{"paused":true}`, ``},
		{`POST /hooks/1/test`, ``, ``},
		{`POST /share-links`, `{"document":1,"days":3}`, ``},
		{`DELETE /share-links/1`, ``, ``},
		{`POST /fonts?name=source-sans-3-italic.woff2`, string(font), ``},
		{`POST /renderings`, `{"template":"card","record":{"number":"B-7","name":"Maren Oakley","berth":"C2"}}`, ``},
		{`POST /session`, log, ``},
		{`GET /overview`, ``, ``},
	} {
		var answer string
		require.Eventually(t, func() bool { answer = said(t, s, c[0], c[1]); return strings.Contains(answer, c[2]) }, time.Minute, 20*time.Millisecond, c[0])
		require.Regexp(t, `^(OK|Created) `, answer, c[0])
		if c[1] == log {
			c[1] = `{"email":"ida@quay.example","password":"long-enough-word"}`
		}
		x.add(t, c[0], c[1], answer)
	}
}

// longestExample bounds, in bytes, what is shown.
const longestExample = 6000

// add keeps a request with its answer, if that is a good one, and the first or the first that says something.
func (x examples) add(t *testing.T, request, body, answer string) {
	t.Helper()
	method, path, _ := strings.Cut(request, " ")
	path, _, _ = strings.Cut(path, "?")
	op := api.Operation(method, path)
	require.NotEmpty(t, op, request)
	text := strings.TrimPrefix(strings.TrimPrefix(answer, "OK "), "Created ")
	if strings.HasPrefix(text, "a PDF") && json.Valid([]byte(body)) {
		x[op] = &example{Request: json.RawMessage(body)}
	}
	if text == answer || len(text) > longestExample || strings.Contains(text, `"items":[]`) && x[op] != nil {
		return
	}
	if old := x[op]; old != nil && !strings.Contains(string(old.Response), `"items":[]`) {
		return
	}
	for _, c := range shownAs {
		text = strings.ReplaceAll(text, c[0], c[1])
	}
	if !json.Valid([]byte(text)) {
		return // a file
	}
	e := &example{Response: json.RawMessage(text)}
	if json.Valid([]byte(body)) {
		e.Request = json.RawMessage(body)
	}
	x[op] = e
}

// shownAs is what examples have in place of what differs from run to run.
var shownAs = [][2]string{
	{`"TIME"`, `"2026-05-31T09:30:00Z"`},
	{"SUM", strings.Repeat("5e0f", 16)},
	{":N", ":1"},
	{"HOST", "ledger.quay.example"},
	{`"pdf":"…"`, `"pdf":"JVBERi0xLjcK"`},
}

// TestExamplesFit holds the examples against the shapes that the description gives.
func TestExamplesFit(t *testing.T) {
	doc := (&api.API{}).Describe()
	compiler := jsonschema.NewCompiler()
	raw, err := json.Marshal(doc)
	require.NoError(t, err)
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	require.NoError(t, err)
	require.NoError(t, compiler.AddResource("openapi.json", parsed))
	bare := []string{}
	for path, item := range parsed.(map[string]any)["paths"].(map[string]any) {
		for method, op := range item.(map[string]any) {
			at := "openapi.json#/paths/" + strings.ReplaceAll(path, "/", "~1") + "/" + method
			for code, response := range op.(map[string]any)["responses"].(map[string]any) {
				content, _ := response.(map[string]any)["content"].(map[string]any)
				body, ok := content["application/json"].(map[string]any)
				if !ok {
					continue
				}
				if body["example"] == nil {
					bare = append(bare, method+" "+path)
					continue
				}
				schema, err := compiler.Compile(at + "/responses/" + code + "/content/application~1json/schema")
				require.NoError(t, err)
				assert.NoError(t, schema.Validate(body["example"]), "%s %s", method, path)
			}
		}
	}
	slices.Sort(bare)
	assert.Equal(t, []string{"get /sessions", "post /deliveries/{id}/retry", "post /page-copies", "post /renderings"}, bare, "answers without an example: for browsers alone, of what has failed, of another host, and a PDF in the story")
}
