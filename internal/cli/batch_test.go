package cli_test

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/collect"
)

// small is a template that is quick to set.
func small(t *testing.T) string {
	dir := t.TempDir()
	write(t, dir, map[string]string{"t/page.html": "<title>{{.name}}</title><p>{{.name}} {{money .price}}</p>", "t/template.yaml": "title: T\nfilename: '{{.name}}'\n"})
	return dir
}

func reportOf(t *testing.T, path string) (r struct {
	Documents, Failed, Resumed int
	Outcomes                   []struct {
		Record, Line, Pages int
		File, Error         string
	}
},
) {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &r))
	return r
}

func TestRunsGoOnPastBadRecordsAndReport(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"r.ndjson": "{\"name\":\"a\",\"price\":1}\n{\"name\":\"b\"\n{\"name\":\"c\",\"price\":\"x\"}\n{\"name\":\"d\",\"price\":4}\n"})
	_, errs, code := run(dir, "render", "t", "--records", "r.ndjson", "--to", "out", "--report", "report.json")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "r.ndjson line 2")
	assert.Contains(t, errs, "2 of 4 documents failed")
	r := reportOf(t, filepath.Join(dir, "report.json"))
	assert.Equal(t, []int{2, 2, 4}, []int{r.Documents, r.Failed, len(r.Outcomes)})
	_, errs, code = run(dir, "render", "t", "--records", "r.ndjson", "--to", "out2", "--stop-on-error", "--report", "report.html")
	assert.Equal(t, 1, code, errs)
	page, err := os.ReadFile(filepath.Join(dir, "report.html"))
	require.NoError(t, err)
	assert.Contains(t, string(page), `class="failed"`)
}

func TestResumeMakesNothingTwice(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"r.json": `[{"name":"a","price":1},{"name":"b"},{"name":"c","price":3}]`})
	_, _, code := run(dir, "render", "t", "--records", "r.json", "--to", "out")
	assert.Equal(t, 1, code)
	old, err := os.Stat(filepath.Join(dir, "out", "a.pdf"))
	require.NoError(t, err)
	require.NoError(t, os.Remove(filepath.Join(dir, "out", "c.pdf")))
	write(t, dir, map[string]string{"r.json": `[{"name":"a","price":1},{"name":"b","price":2},{"name":"c","price":3}]`})
	out, errs, code := run(dir, "render", "t", "--records", "r.json", "--to", "out", "--resume")
	assert.Equal(t, 0, code, errs)
	assert.Contains(t, out, "2 documents")
	assert.Contains(t, out, "already there: 1 document")
	now, err := os.Stat(filepath.Join(dir, "out", "a.pdf"))
	require.NoError(t, err)
	assert.Equal(t, old.ModTime(), now.ModTime())
	isPDF(t, filepath.Join(dir, "out", "c.pdf"))
	_, errs, code = run(dir, "render", "t", "--records", "r.json", "--to", "out", "--resume")
	assert.Equal(t, 2, code, "the run is complete")
	assert.Contains(t, errs, "no stopped run")
}

func TestStoppedRunsResume(t *testing.T) {
	dir := small(t)
	var b strings.Builder
	const n = 600
	for i := range n {
		fmt.Fprintf(&b, "{\"name\":\"doc %d\",\"price\":%d}\n", i, i)
	}
	write(t, dir, map[string]string{"r.ndjson": b.String()})
	c := exec.Command(olive, "render", "t", "--records", "r.ndjson", "--to", "out")
	c.Dir = dir
	require.NoError(t, c.Start())
	made := func() int {
		list, _ := filepath.Glob(filepath.Join(dir, "out", "*.pdf"))
		return len(list)
	}
	require.Eventually(t, func() bool { return made() > 20 }, 10*time.Second, 5*time.Millisecond)
	require.NoError(t, c.Process.Kill())
	c.Wait()
	before := made()
	require.Less(t, before, n)
	out, errs, code := run(dir, "render", "t", "--records", "r.ndjson", "--to", "out", "--resume")
	assert.Equal(t, 0, code, errs)
	assert.Equal(t, n, made())
	assert.Contains(t, out, "already there: ")
	write(t, dir, map[string]string{"t/page.html": "<p>{{.name}}</p>", "out/.olive-run.ndjson": "{\"template\":\"x\"}\n"})
	_, errs, code = run(dir, "render", "t", "--records", "r.ndjson", "--to", "out", "--resume")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "the template has changed")
}

func TestClashes(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"r.json": `[{"name":"a","price":1},{"name":"A","price":2},{"name":"a","price":3}]`})
	_, errs, code := run(dir, "render", "t", "--records", "r.json", "--to", "one", "--clash", "number")
	assert.Equal(t, 0, code, errs)
	list, _ := filepath.Glob(filepath.Join(dir, "one", "*.pdf"))
	assert.Len(t, list, 3)
	_, _, code = run(dir, "render", "t", "--records", "r.json", "--to", "two", "--clash", "overwrite")
	assert.Equal(t, 0, code)
	_, errs, code = run(dir, "render", "t", "--records", "r.json", "--to", "three", "--clash", "maybe")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "refuse, number or overwrite")
}

func TestBindingARun(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"r.json": `[{"name":"a","price":1},{"name":"b","price":2},{"name":"c","price":3}]`})
	out, errs, code := run(dir, "render", "t", "--records", "r.json", "--bind", "all.pdf", "--right-hand", "--only", "1,3")
	assert.Equal(t, 0, code, errs)
	assert.Contains(t, out, "all.pdf: 3 pages", "a blank page brings the second to the right")
	text, err := exec.Command("pdftotext", filepath.Join(dir, "all.pdf"), "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "€3.00")
	assert.NotContains(t, string(text), "€2.00")
	_, errs, code = run(dir, "render", "t", "--records", "r.json", "--bind", "all.pdf", "--only", "3-1")
	assert.Equal(t, 2, code, errs)
}

func TestPagesFromFoldersAndStandardInput(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"pages/a.html": "<p>a", "pages/b.htm": "<p>b", "pages/c.txt": "c", "one.html": "<p>one"})
	_, errs, code := run(dir, "render", "pages", "one.html", "--to", "out")
	assert.Equal(t, 0, code, errs)
	list, _ := filepath.Glob(filepath.Join(dir, "out", "*.pdf"))
	assert.Len(t, list, 3)
	c := exec.Command(olive, "render", "-", "-o", "stdin.pdf")
	c.Dir, c.Stdin = dir, strings.NewReader("<p>from a pipe")
	require.NoError(t, c.Run())
	isPDF(t, filepath.Join(dir, "stdin.pdf"))
	_, errs, code = run(dir, "render", "pages")
	assert.Equal(t, 2, code, errs)
}

func TestStartersPassTheirCheck(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"invoice", "certificate", "report", "letter", "labels"} {
		_, errs, code := run(dir, "new", name, "--from", name)
		require.Equal(t, 0, code, errs)
		out, errs, code := run(dir, "check", name, "--fail-at", "note")
		assert.Equal(t, 0, code, out+errs)
		out, errs, code = run(dir, "merge", name)
		assert.Equal(t, 0, code, errs)
		assert.Contains(t, out, "<!DOCTYPE html>")
	}
	_, errs, code := run(dir, "render", "labels", "--records", "labels/sample.json", "--path", "records", "--as-one", "labels.pdf")
	assert.Equal(t, 0, code, errs)
	isPDF(t, filepath.Join(dir, "labels.pdf"))
	_, errs, code = run(dir, "new", "invoice", "--from", "letter")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "not empty")
	_, errs, _ = run(dir, "new", "x", "--from", "poster")
	assert.Contains(t, errs, "invoice, certificate, report, letter, labels")
}

func TestCheckTellsWhatIsWrong(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{
		"t/template.yaml": "title: T\nfilename: '{{.name}}'\nsample: s.json\ngiven: { house: Quay }\n",
		"t/s.json":        `{"name": "a", "price": 1, "nmae": 2}`,
		"t/page.html":     "<style>p { colour: red }</style><p>{{.name}} {{money .price}}<img src=gone.png>",
		"r.csv":           "name,price\na,1\nb,x\n",
	})
	out, _, code := run(dir, "check", "t")
	assert.Equal(t, 0, code)
	for _, want := range []string{"field-unused (note, 2)", "“nmae” of the sample", "“house” that the template gives", "css-unsupported", "picture-missing"} {
		assert.Contains(t, out, want)
	}
	_, _, code = run(dir, "check", "t", "--fail-at", "warning")
	assert.Equal(t, 1, code)
	out, _, code = run(dir, "check", "t", "--records", "r.csv", "--json")
	assert.Equal(t, 1, code)
	var list []struct{ Code, Severity, Message string }
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	last := list[len(list)-1]
	assert.Equal(t, "record", last.Code)
	assert.Contains(t, last.Message, "record 2 (name b)")
	write(t, dir, map[string]string{"t/page.html": "{{.name"})
	out, _, code = run(dir, "check", "t")
	assert.Equal(t, 1, code)
	assert.Contains(t, out, "page.html line 1")
}

func TestMergeShowsOneRecord(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{"r.csv": "name,price\na,1\nb,2\n"})
	out, errs, code := run(dir, "merge", "t", "--records", "r.csv", "--record", "2")
	assert.Equal(t, 0, code, errs)
	assert.Contains(t, out, "<p>b €2.00</p>")
	_, errs, code = run(dir, "merge", "t", "--records", "r.csv", "--record", "3")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "there is no record 3 in r.csv; it holds 2")
}

func TestWatchingRendersAgain(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"a.html": "<p>one"})
	c := exec.Command(olive, "render", "a.html", "--watch")
	c.Dir = dir
	require.NoError(t, c.Start())
	defer func() { c.Process.Kill(); c.Wait() }()
	text := func() string {
		out, _ := exec.Command("pdftotext", filepath.Join(dir, "a.pdf"), "-").Output()
		return string(out)
	}
	require.Eventually(t, func() bool { return strings.Contains(text(), "one") }, 10*time.Second, 50*time.Millisecond)
	write(t, dir, map[string]string{"a.html": "<p>another"})
	require.Eventually(t, func() bool { return strings.Contains(text(), "another") }, 10*time.Second, 50*time.Millisecond)
}

// BenchmarkRun makes one-page demo invoices from records to files, on all cores.
func BenchmarkRun(b *testing.B) {
	collect.BySize(collect.Alone) // as the command has it
	demo, err := filepath.Abs("../../demo")
	require.NoError(b, err)
	data, err := os.ReadFile(filepath.Join(demo, "records/invoices.json"))
	require.NoError(b, err)
	var all []map[string]any
	require.NoError(b, json.Unmarshal(data, &all))
	const n = 2000
	var records strings.Builder
	for i := 0; i < n; {
		for _, r := range all {
			if lines := r["lines"].([]any); len(lines) <= 8 && i < n { // one page each
				r["number"] = fmt.Sprintf("QL-%06d", i)
				line, err := json.Marshal(r)
				require.NoError(b, err)
				records.Write(append(line, '\n'))
				i++
			}
		}
	}
	file := filepath.Join(b.TempDir(), "r.ndjson")
	require.NoError(b, os.WriteFile(file, []byte(records.String()), 0o644))
	for b.Loop() {
		_, errs, code := run(demo, "render", "templates/mooring-invoice", "--records", file, "--to", b.TempDir(), "-q")
		require.Zero(b, code, errs)
	}
	b.ReportMetric(n*float64(b.N)/b.Elapsed().Seconds(), "documents/s")
}

func TestManifestsBringPaperAndSheets(t *testing.T) {
	dir := small(t)
	write(t, dir, map[string]string{
		"t/template.yaml": "filename: '{{.name}}'\nstyles: [s.css]\npdf: {paper: A5 landscape, author: Tove, footer: '{page} of {pages}'}\n",
		"t/s.css":         "p::after { content: ' styled' }", "r.json": `[{"name":"a","price":1}]`,
	})
	_, errs, code := run(dir, "render", "t", "--records", "r.json", "--to", "out", "--keep-merged", "--attach-record")
	assert.Equal(t, 0, code, errs)
	info, err := exec.Command("pdfinfo", filepath.Join(dir, "out/a.pdf")).Output()
	require.NoError(t, err)
	assert.Contains(t, string(info), "595.276 x 419.528")
	assert.Contains(t, string(info), "Tove")
	text, err := exec.Command("pdftotext", filepath.Join(dir, "out/a.pdf"), "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "styled")
	assert.Contains(t, string(text), "1 of 1")
	html, err := os.ReadFile(filepath.Join(dir, "out/a.html"))
	require.NoError(t, err)
	assert.Contains(t, string(html), "€1.00")
	_, errs, code = run(dir, "render", "t", "--records", "r.json", "--to", "out", "--paper", "A6")
	assert.Equal(t, 0, code, errs)
	info, _ = exec.Command("pdfinfo", filepath.Join(dir, "out/a.pdf")).Output()
	assert.Contains(t, string(info), "297.638 x 419.528", "the option wins")
}
