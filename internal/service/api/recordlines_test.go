package api_test

import (
	"bytes"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"oliveledger/internal/servicetest"
)

// part is a file of a body in parts.
type part struct{ name, file, text string }

// sendParts posts files and gives the answer.
func sendParts(t *testing.T, s *servicetest.Running, path string, query url.Values, parts ...part) (int, map[string]any) {
	t.Helper()
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	for _, p := range parts {
		f, err := w.CreateFormFile(p.name, p.file)
		require.NoError(t, err)
		_, err = io.WriteString(f, p.text)
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return send(t, s, path, query, w.FormDataContentType(), &body)
}

func send(t *testing.T, s *servicetest.Running, path string, query url.Values, kind string, body io.Reader) (int, map[string]any) {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+"/api/v1"+path+"?"+query.Encode(), body)
	require.NoError(t, err)
	req.Header.Set("Content-Type", kind)
	req.Header.Set("Authorization", "Bearer "+s.Key)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	var out map[string]any
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	return res.StatusCode, out
}

// TestRecordsWithLines imports records together with the rows that belong to them: from two
// files, and from two sheets of a workbook.
func TestRecordsWithLines(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	const invoices = "number;customer\n7;Anna Reuter\n8;Bo Lund\n"
	const lines = `[{"invoice": 8, "text": "Berth", "price": 12.50}, {"invoice": 7, "text": "Slip"}, {"invoice": 8, "text": "Power"}, {"invoice": 99, "text": "Lost"}]`
	in := url.Values{"name": {"invoices.csv"}, "line-key": {"invoice"}}

	status, out := sendParts(t, s, "/record-previews", in, part{"lines", "lines.json", lines}, part{"records", "invoices.csv", invoices})
	require.Equal(t, http.StatusOK, status, out)
	first, second := out["preview"].([]any)[0].(map[string]any), out["preview"].([]any)[1].(map[string]any)
	assert.Equal(t, []any{map[string]any{"invoice": 7.0, "text": "Slip"}}, first["lines"])
	assert.Equal(t, []any{map[string]any{"invoice": 8.0, "text": "Berth", "price": 12.5}, map[string]any{"invoice": 8.0, "text": "Power"}}, second["lines"])
	assert.Contains(t, out["notes"], "lines that belong to no record: 1; the first has number 99")

	status, out = sendParts(t, s, "/record-sets", in, part{"records", "invoices.csv", invoices}, part{"lines", "lines.json", lines})
	require.Equal(t, http.StatusCreated, status, out)
	assert.Equal(t, 2.0, out["count"])

	book := excelize.NewFile()
	require.NoError(t, book.SetSheetRow("Sheet1", "A1", &[]any{"number", "customer"}))
	require.NoError(t, book.SetSheetRow("Sheet1", "A2", &[]any{"A-1", "Anna Reuter"}))
	_, err := book.NewSheet("Rows")
	require.NoError(t, err)
	require.NoError(t, book.SetSheetRow("Rows", "A1", &[]any{"number", "text"}))
	require.NoError(t, book.SetSheetRow("Rows", "A2", &[]any{"A-1", "Berth"}))
	name := filepath.Join(t.TempDir(), "orders.xlsx")
	require.NoError(t, book.SaveAs(name))
	data, err := os.ReadFile(name)
	require.NoError(t, err)
	status, out = send(t, s, "/record-previews", url.Values{"name": {"orders.xlsx"}, "lines-sheet": {"Rows"}, "into": {"rows"}}, "application/octet-stream", bytes.NewReader(data))
	require.Equal(t, http.StatusOK, status, out)
	assert.Equal(t, []any{map[string]any{"number": "A-1", "text": "Berth"}}, out["preview"].([]any)[0].(map[string]any)["rows"])
}

// TestRecordsOfSeveralRows imports a spreadsheet that has a row for each line.
func TestRecordsOfSeveralRows(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	const rows = "number;customer;text;price\n7;Anna Reuter;Berth;12,50\n;;Power;3,00\n8;Bo Lund;Slip;9,00\n"
	in := url.Values{"name": {"rows.csv"}, "lines-in-rows": {"true"}, "fields": {`{"text": "lines.text", "price": "lines.price"}`}}
	status, out := send(t, s, "/record-previews", in, "application/octet-stream", strings.NewReader(rows))
	require.Equal(t, http.StatusOK, status, out)
	assert.Equal(t, 2.0, out["count"])
	assert.Equal(t, map[string]any{"number": "7", "customer": "Anna Reuter", "lines": []any{map[string]any{"text": "Berth", "price": "12.50"}, map[string]any{"text": "Power", "price": "3.00"}}}, out["preview"].([]any)[0])

	in.Del("fields")
	status, out = send(t, s, "/record-sets", in, "application/octet-stream", strings.NewReader(rows))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, `rows.csv: row 1: no field begins with "lines.": name those of the lines so, such as lines.text`, out["detail"])
	in.Set("lines-sheet", "Rows")
	status, out = send(t, s, "/record-sets", in, "application/octet-stream", strings.NewReader(rows))
	assert.Equal(t, http.StatusBadRequest, status)
	assert.Contains(t, out["detail"], "“lines-in-rows” says that the records' own rows hold the lines")
}

// TestRecordsWithLinesThatDoNotFit: what is wrong with one of the files is told, and nothing is kept.
func TestRecordsWithLinesThatDoNotFit(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	records := part{"records", "a.csv", "number,name\n7,Anna\n"}
	for _, c := range []struct {
		query  string
		parts  []part
		status int
		want   string
	}{
		{"name=a.csv", []part{records, {"lines", "l.csv", "Number,text\n7,x\n"}}, 422, `the field "number", which names the record that it belongs to, is missing; did you mean "Number"?`},
		{"name=a.csv&key=id", []part{records, {"lines", "l.csv", "id,text\n7,x\n"}}, 422, `the field "id", which its lines are found by, is missing`},
		{"name=a.csv", []part{records, {"lines", "l.json", "{"}}, 422, "l.json: "},
		{"name=a.csv", []part{records, {"lines", "l.doc", ""}}, 400, "the lines: l.doc: records are read from"},
		{"name=a.csv", []part{{"lines", "l.csv", "number\n"}}, 400, "the body has no part named “records”"},
		{"name=a.csv", []part{records, {"more", "l.csv", ""}}, 400, "the body has a part named “more”; there are records and lines"},
	} {
		query, err := url.ParseQuery(c.query)
		require.NoError(t, err)
		status, out := sendParts(t, s, "/record-sets", query, c.parts...)
		assert.Equal(t, c.status, status, c.want)
		assert.Contains(t, out["detail"], c.want)
	}
	status, out := send(t, s, "/record-sets", url.Values{"name": {"a.csv"}, "key": {"id"}}, "application/octet-stream", strings.NewReader("number\n7\n"))
	assert.Equal(t, 400, status)
	assert.Contains(t, out["detail"], "“key” means nothing without lines")
	status, out = send(t, s, "/record-sets", url.Values{"name": {"a.csv"}}, "multipart/form-data", strings.NewReader(""))
	assert.Equal(t, 400, status)
	assert.Contains(t, out["detail"], "the body is not in parts as it says")
	status, text := asking(t, http.MethodGet, s.URL+"/api/v1/record-sets", s.Key, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, string(text), `"total":0`)
}
