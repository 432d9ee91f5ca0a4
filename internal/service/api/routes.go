package api

import (
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// route is one way into the API. The table of routes makes both the server and
// its OpenAPI description.
type route struct {
	method, path string
	scope        string // that a caller needs; empty for everyone
	summary      string
	query        []query
	in           any      // what the body holds, as JSON; nil for none
	accepts      string   // another type of body
	parts        []string // the files of a body in parts
	out          any      // what the answer holds, as JSON; nil for none
	gives        string   // another type of answer
	status       int      // of the answer; 200 when 0
	edits        bool     // If-Match is heard
	limited      bool     // keys that are limited to templates may ask: it looks whether theirs are meant
	repeatable   bool     // of POST: it makes nothing, and needs no Idempotency-Key
	streams      bool     // the body is read as it comes in, and not held in memory
	secret       bool     // the answer tells what is told only once: it is not kept to be given again
	do           handler
}

// handler answers a request with what an API has.
type handler func(*API, *echo.Context) error

// query is a parameter after the question mark.
type query struct{ name, about string }

// values are those that a parameter of that name is one of, as its description lists
// them: running, paused, cancelled or done.
func (q query) values() []string {
	switch {
	case flags[q.name]:
		return []string{"true", "false", "1", "0"}
	case q.name != "state":
		return nil
	}
	return strings.FieldsFunc(strings.ReplaceAll(q.about, " or ", ", "), func(r rune) bool { return r == ',' || r == ' ' })
}

// flags are the parameters that are true or false.
var flags = map[string]bool{"no-header": true, "lines-in-rows": true, "typed": true, "skip-bad": true, "or-version": true, "right-hand": true, "download": true}

// schema is what a parameter may be.
func (q query) schema() object {
	switch values := q.values(); {
	case flags[q.name]:
		return object{"type": "boolean", "default": false}
	case values != nil:
		return object{"type": "string", "enum": values}
	}
	switch q.name {
	case "offset":
		return object{"type": "integer", "minimum": 0, "default": 0}
	case "limit":
		return object{"type": "integer", "minimum": 1, "maximum": mostListed, "default": 50}
	case "after", "batch", "document", "hook":
		return object{"type": "integer", "minimum": 0}
	case "decimal":
		return object{"type": "string", "enum": []string{",", "."}}
	case "format":
		return object{"type": "string", "enum": []string{"json", "ndjson", "csv", "tsv", "yaml", "xml", "xlsx"}}
	}
	return object{"type": "string"}
}

// asked refuses parameters that the route does not know, and states that there are not:
// a misspelt filter would show everything.
func (r route) asked(next handler) handler {
	names := make([]string, len(r.query))
	states := map[string][]string{}
	for i, q := range r.query {
		names[i], states[q.name] = q.name, q.values()
	}
	return func(a *API, c *echo.Context) error {
		for name, given := range c.QueryParams() {
			if !slices.Contains(names, name) {
				return bad("there is no parameter %q; there are %s", name, strings.Join(names, ", "))
			}
			if list := states[name]; list != nil && given[0] != "" && !slices.Contains(list, given[0]) {
				return bad("there is no %s %q; there are %s", name, given[0], strings.Join(list, ", "))
			}
		}
		return next(a, c)
	}
}

var (
	paging    = []query{{"offset", "how many to pass over"}, {"limit", "how many to give, 1 to 100; 50 when left out"}, {"sort", "the field to sort by, with - before it for the other way round"}, {"after", "the number of the last row of the page before, in lists that are sorted by it: deep pages cost no more than the first, and nothing is counted"}}
	searching = append([]query{{"search", "text that is looked for"}}, paging...)
	importing = []query{
		{"name", "of the set"},
		{"format", "json, ndjson, csv, tsv, yaml, xml or xlsx; by the name when left out"},
		{"path", "where the records are in the file"},
		{"sheet", "of a workbook"},
		{"delimiter", "of CSV"},
		{"encoding", "utf-8, utf-16 or windows-1252"},
		{"no-header", "the first row is a record"},
		{"typed", "numbers in CSV are numbers"},
		{"decimal", "decimal sign in CSV, a comma or a point"},
		{"dates", "notation of dates in CSV: DD.MM.YYYY"},
		{"list", "XML elements that are lists, with commas between them"},
		{"fields", "JSON object: other names for fields; an empty one leaves the field out"},
		{"skip-bad", "go on past rows that cannot be read"},
		{"lines-sheet", "sheet of a workbook that holds the lines"},
		{"lines-in-rows", "rows with the same key are one record, and their fields lines.text, lines.price and so on its lines"},
		{"key", "field that records and their lines are joined by; number when left out"},
		{"line-key", "that field in the lines"},
		{"into", "field that gets the list of a record's lines; lines when left out"},
	}
	ofSome = []query{{"ids", "numbers of documents with commas between them, at most 100"}}
	ofOne  = append([]query{{"document", "those of one document"}}, paging...)
)

// routes is the whole API.
func routes() []route {
	const get, post, put, patch, del = http.MethodGet, http.MethodPost, http.MethodPut, http.MethodPatch, http.MethodDelete
	return []route{
		{method: post, path: "/session", summary: "Log in", in: LogIn{}, out: Caller{}, repeatable: true, do: (*API).logIn},
		{method: get, path: "/sign-in/way", summary: "The provider that people may sign in through, if there is one", out: Way{}, do: (*API).signInWay},
		{method: get, path: "/session", limited: true, scope: store.Read, summary: "Who I am and what I may do", out: Caller{}, do: (*API).whoAmI},
		{method: del, path: "/session", scope: store.Read, summary: "Log out", status: http.StatusNoContent, do: (*API).logOut},
		{method: get, path: "/sessions", scope: store.Read, summary: "My log-ins", out: List[LoggedIn]{}, do: (*API).listSessions},
		{method: del, path: "/sessions/:name", scope: store.Read, summary: "End one of my log-ins", status: http.StatusNoContent, do: (*API).endSession},
		{method: put, path: "/password", scope: store.Read, summary: "Change my password; my other log-ins end", in: PasswordInput{}, status: http.StatusNoContent, do: (*API).changePassword},

		{method: get, path: "/overview", scope: store.Read, summary: "What stands open, and what was issued in the last 31 days", out: store.Overview{}, do: (*API).overview},
		{method: get, path: "/setup", scope: store.Read, summary: "What the service is set up for: ways of delivery and limits", out: Setup{}, do: (*API).setup},

		{method: get, path: "/people", scope: store.Keep, summary: "List people", query: paging, out: List[store.Person]{}, do: (*API).listPeople},
		{method: post, path: "/people", scope: store.Keep, summary: "Add a person", in: PersonInput{}, out: store.Person{}, status: http.StatusCreated, do: (*API).addPerson},
		{method: patch, path: "/people/:id", scope: store.Keep, summary: "Change a person", in: PersonInput{}, out: store.Person{}, edits: true, do: (*API).changePerson},
		{method: get, path: "/keys", scope: store.Keep, summary: "List keys", query: paging, out: List[store.Key]{}, do: (*API).listKeys},
		{method: post, path: "/keys", scope: store.Keep, summary: "Make a key for a program", secret: true, in: KeyInput{}, out: NewKey{}, status: http.StatusCreated, do: (*API).addKey},
		{method: del, path: "/keys/:id", scope: store.Keep, summary: "Revoke a key", out: store.Key{}, do: (*API).revokeKey},

		{method: get, path: "/starters", scope: store.Read, summary: "List templates to begin with", out: List[Starter]{}, do: (*API).listStarters},
		{method: get, path: "/starters/:name", scope: store.Read, summary: "A template to begin with", out: Starter{}, do: (*API).getStarter},
		{method: post, path: "/page-copies", scope: store.Design, summary: "Fetch a page of the web, for a template to begin with", in: PageAddress{}, out: PageCopy{}, do: heavy((*API).copyPage)},
		{method: get, path: "/templates", scope: store.Read, summary: "List templates", query: searching, out: List[store.Template]{}, do: (*API).listTemplates},
		{method: get, path: "/templates/:name", limited: true, scope: store.Read, summary: "The newest version of a template with its files", out: TemplateFiles{}, do: (*API).getTemplate},
		{method: get, path: "/templates/:name/draft", scope: store.Read, summary: "What is being edited", query: []query{{"or-version", "the newest version where there is no draft"}}, out: TemplateFiles{}, do: (*API).getDraft},
		{method: put, path: "/templates/:name/draft", scope: store.Design, summary: "Keep what is being edited", in: TemplateInput{}, accepts: "application/zip", out: TemplateFiles{}, edits: true, do: (*API).saveDraft},
		{method: del, path: "/templates/:name/draft", scope: store.Design, summary: "Drop what is being edited", status: http.StatusNoContent, do: (*API).dropDraft},
		{method: get, path: "/templates/:name/versions", limited: true, scope: store.Read, summary: "List the versions of a template", query: paging, out: List[store.Version]{}, do: (*API).listVersions},
		{method: post, path: "/templates/:name/versions", scope: store.Design, summary: "Publish a version: the files that are sent, or the draft when there are none", query: []query{{"note", "what has changed"}}, in: TemplateInput{}, accepts: "application/zip", out: Published{}, status: http.StatusCreated, do: (*API).publish},
		{method: get, path: "/templates/:name/versions/:number", limited: true, scope: store.Read, summary: "A version with its files", out: TemplateFiles{}, do: (*API).getTemplate},
		{method: get, path: "/templates/:name/versions/:number/difference/:other", limited: true, scope: store.Read, summary: "How two versions differ, file by file", out: List[FileDifference]{}, do: (*API).difference},
		{method: get, path: "/templates/:name/versions/:number/assets/*", limited: true, scope: store.Read, summary: "One file of a version", gives: "*/*", do: (*API).getAsset},

		{method: get, path: "/record-sets", scope: store.Read, summary: "List record sets", query: searching, out: List[store.RecordSet]{}, do: (*API).listRecordSets},
		{
			method: post, path: "/record-sets", streams: true, scope: store.Records, summary: "Import a file of records, or two: the records and the rows that belong to them", accepts: "application/octet-stream", parts: recordParts, out: Imported{}, status: http.StatusCreated, do: (*API).importRecords,
			query: importing,
		},
		{method: post, path: "/record-previews", streams: true, scope: store.Render, summary: "Read a file of records and keep nothing; the first 20 come back", accepts: "application/octet-stream", parts: recordParts, out: Imported{}, query: importing, repeatable: true, do: (*API).previewRecords},
		{method: get, path: "/record-sets/:id", scope: store.Read, summary: "A record set", out: store.RecordSet{}, do: (*API).getRecordSet},
		{method: del, path: "/record-sets/:id", scope: store.Records, summary: "Drop a record set", status: http.StatusNoContent, do: (*API).dropRecordSet},
		{method: get, path: "/record-sets/:id/records", scope: store.Read, summary: "List records", query: append([]query{{"template", "check each by this template's schema"}}, searching...), out: List[RecordRow]{}, do: (*API).listRecords},
		{method: post, path: "/record-sets/:id/records", scope: store.Records, summary: "Add a record", in: raw{}, out: RecordRow{}, status: http.StatusCreated, do: (*API).addRecord},
		{method: get, path: "/record-sets/:id/records/:number", scope: store.Read, summary: "A record", out: RecordRow{}, do: (*API).getRecord},
		{method: put, path: "/record-sets/:id/records/:number", scope: store.Records, summary: "Change a record", in: raw{}, out: RecordRow{}, edits: true, do: (*API).saveRecord},

		{method: post, path: "/renderings", limited: true, scope: store.Render, summary: "Set a page at once; nothing is kept. A plain HTML form can post here", in: Rendering{}, accepts: "multipart/form-data", out: Rendered{}, gives: "application/pdf", repeatable: true, do: (*API).render},

		{method: get, path: "/batches", scope: store.Read, summary: "List batches", query: append([]query{{"state", "running, paused, cancelled or done"}}, paging...), out: List[store.Batch]{}, do: (*API).listBatches},
		{method: post, path: "/batches", limited: true, scope: store.Issue, summary: "Make documents of many records", in: BatchOrder{}, out: store.Batch{}, status: http.StatusCreated, do: (*API).startBatch},
		{method: post, path: "/batch-trials", limited: true, scope: store.Issue, summary: "Set the first ten documents of a batch and keep nothing: their numbers, names and findings", in: BatchOrder{}, out: List[Trial]{}, repeatable: true, do: (*API).tryBatch},
		{method: get, path: "/batches/:id", limited: true, scope: store.Read, summary: "How far a batch is", out: store.Batch{}, do: (*API).getBatch},
		{method: patch, path: "/batches/:id", scope: store.Issue, summary: "Pause, resume or cancel a batch, or change its priority", in: BatchChange{}, out: store.Batch{}, edits: true, do: (*API).changeBatch},
		{method: post, path: "/batches/:id/retry", scope: store.Issue, summary: "Give what failed another turn", out: store.Batch{}, repeatable: true, do: (*API).retryBatch},
		{method: get, path: "/batches/:id/items", limited: true, scope: store.Read, summary: "List the items of a batch", query: append([]query{{"state", "waiting, claimed, done or failed"}}, paging...), out: List[store.BatchItem]{}, do: (*API).listItems},
		{method: get, path: "/batches/:id/events", limited: true, scope: store.Read, summary: "Follow a batch as server-sent events", gives: "text/event-stream", do: (*API).follow},
		{method: get, path: "/batches/:id/zip", limited: true, scope: store.Read, summary: "All documents of a batch as a ZIP file", gives: "application/zip", do: heavy((*API).batchZIP)},
		{method: get, path: "/batches/:id/pdf", limited: true, scope: store.Read, summary: "All documents of a batch bound into one PDF", query: []query{{"right-hand", "each begins on a right-hand page"}}, gives: "application/pdf", do: heavy((*API).batchPDF)},

		{
			method: get, path: "/documents", limited: true, scope: store.Read, summary: "List documents", out: List[store.Document]{}, do: (*API).listDocuments,
			query: append([]query{{"template", "made of this template"}, {"state", "draft, approved, issued, sent or void"}, {"batch", "of this batch"}, {"from", "made on this day or later"}, {"to", "made on this day or earlier"}}, searching...),
		},
		{method: post, path: "/documents", limited: true, scope: store.Issue, summary: "Make documents and keep them", in: DocumentOrder{}, out: MadeList{}, status: http.StatusCreated, do: (*API).order},
		{method: get, path: "/documents/zip", limited: true, scope: store.Read, summary: "Some documents as a ZIP file", query: ofSome, gives: "application/zip", do: heavy((*API).chosenZIP)},
		{method: get, path: "/documents/bound", limited: true, scope: store.Read, summary: "Some documents bound into one PDF", query: append([]query{{"right-hand", "each begins on a right-hand page"}}, ofSome...), gives: "application/pdf", do: heavy((*API).chosenPDF)},
		{method: get, path: "/documents/:id", limited: true, scope: store.Read, summary: "What is known of a document", out: DocumentDetail{}, do: (*API).getDocument},
		{method: patch, path: "/documents/:id", scope: store.Approve, summary: "Approve a draft, issue what is approved, or make a document void", in: Change{}, out: DocumentDetail{}, edits: true, do: (*API).changeDocument},
		{method: put, path: "/documents/:id/hold", scope: store.Keep, summary: "Keep a document from being erased, for a reason", in: HoldInput{}, out: DocumentDetail{}, edits: true, do: (*API).holdDocument},
		{method: del, path: "/documents/:id/hold", scope: store.Keep, summary: "Let a document be erased when its time comes", out: DocumentDetail{}, edits: true, do: (*API).releaseDocument},
		{method: post, path: "/erasures", scope: store.Keep, summary: "Erase the record and pages of documents that were kept as long as they must be; the ledger keeps its rows", in: ErasureOrder{}, out: Erasure{}, repeatable: true, do: heavy((*API).erase)},
		{method: get, path: "/documents/:id/pdf", limited: true, scope: store.Read, summary: "The PDF", query: []query{{"download", "it is to be saved, not shown"}}, gives: "application/pdf", do: (*API).getPDF},
		{method: get, path: "/documents/:id/history", limited: true, scope: store.Read, summary: "What happened to a document", query: paging, out: List[store.Event]{}, do: (*API).history},
		{method: post, path: "/documents/:id/repetition", scope: store.Render, summary: "Set a document again and compare the bytes", out: Repetition{}, repeatable: true, do: (*API).repeat},

		{method: get, path: "/deliveries", scope: store.Read, summary: "List deliveries", query: append([]query{{"state", "waiting, claimed, done or failed"}, {"hook", "number of a webhook: what it was told, instead of what was delivered"}}, ofOne...), out: List[store.Delivery]{}, do: (*API).listDeliveries},
		{method: post, path: "/deliveries", scope: store.Send, summary: "Bring a document somewhere", in: DeliveryInput{}, out: store.Delivery{}, status: http.StatusCreated, do: (*API).addDelivery},
		{method: get, path: "/deliveries/:id", scope: store.Read, summary: "A delivery with each try", out: store.Delivery{}, do: (*API).getDelivery},
		{method: post, path: "/deliveries/:id/retry", scope: store.Send, summary: "Try a failed delivery again; what a webhook was told can be told again in any case", out: store.Delivery{}, repeatable: true, do: (*API).retryDelivery},
		{method: get, path: "/hooks", scope: store.Keep, summary: "List the webhooks that are told of what happens", query: paging, out: List[store.Hook]{}, do: (*API).listHooks},
		{method: post, path: "/hooks", scope: store.Keep, summary: "Add a webhook", in: HookInput{}, out: store.Hook{}, status: http.StatusCreated, do: (*API).addHook},
		{method: patch, path: "/hooks/:id", scope: store.Keep, summary: "Change or pause a webhook", in: HookInput{}, out: store.Hook{}, edits: true, do: (*API).changeHook},
		{method: del, path: "/hooks/:id", scope: store.Keep, summary: "Remove a webhook; what waits to be told fails", status: http.StatusNoContent, do: (*API).removeHook},
		{method: post, path: "/hooks/:id/test", scope: store.Keep, summary: "Send a webhook a message that means nothing, to see whether it arrives", out: store.Delivery{}, status: http.StatusCreated, repeatable: true, do: (*API).testHook},
		{method: get, path: "/share-links", scope: store.Read, summary: "List share links", query: ofOne, out: List[store.Share]{}, do: (*API).listShares},
		{method: post, path: "/share-links", scope: store.Send, summary: "Make a link that lets anyone who has it read a document", secret: true, in: ShareInput{}, out: NewShare{}, status: http.StatusCreated, do: (*API).addShare},
		{method: del, path: "/share-links/:id", scope: store.Send, summary: "Revoke a link", out: store.Share{}, do: (*API).revokeShare},

		{method: get, path: "/number-series", scope: store.Read, summary: "List number series", query: paging, out: List[store.Series]{}, do: (*API).listSeries},
		{method: post, path: "/number-series", scope: store.Keep, summary: "Add a number series", in: SeriesInput{}, out: store.Series{}, status: http.StatusCreated, do: (*API).addSeries},
		{method: patch, path: "/number-series/:id", scope: store.Keep, summary: "Change the pattern or the next number of a series", in: SeriesInput{}, out: store.Series{}, edits: true, do: (*API).changeSeries},
		{method: get, path: "/fonts", scope: store.Read, summary: "List the fonts that all templates can name by their family", query: paging, out: List[store.ShelfFont]{}, do: (*API).listFonts},
		{method: post, path: "/fonts", scope: store.Keep, summary: "Add a font file: TTF, OTF, WOFF or WOFF2", query: []query{{"name", "of the file"}}, accepts: "application/octet-stream", out: store.ShelfFont{}, status: http.StatusCreated, do: (*API).addFont},
		{method: del, path: "/fonts/:id", scope: store.Keep, summary: "Withdraw a font; documents that were set with it keep it", status: http.StatusNoContent, do: (*API).withdrawFont},
		{method: get, path: "/ledger", scope: store.Read, summary: "The ledger: every document that was issued or made void", query: ofOne, out: List[store.Entry]{}, do: (*API).listEntries},
		{method: get, path: "/ledger/export", scope: store.Read, summary: "The ledger with its signed heads, to be checked without this service", gives: "application/x-ndjson", do: heavy((*API).exportLedger)},
		{method: get, path: "/ledger/head", scope: store.Read, summary: "A page with the newest signed head, to be printed and kept away from the service", gives: "application/pdf", do: heavy((*API).printHead)},
		{method: post, path: "/ledger/verification", scope: store.Read, summary: "Check the ledger's chain and the stored bytes", query: []query{{"from", "the row to begin at: those before it were checked"}}, out: store.Verification{}, repeatable: true, do: heavy((*API).verifyLedger)},
		{method: get, path: "/events", scope: store.Keep, summary: "Who did what", query: append([]query{{"kind", "of thing, such as document"}, {"ref", "which one"}, {"who", "did it"}}, paging...), out: List[store.Event]{}, do: (*API).listEvents},
	}
}
