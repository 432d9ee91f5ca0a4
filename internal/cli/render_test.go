package cli_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOutputGoesWhereItIsNamed(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"page.html": "<title>Berths</title><p>x"})
	out, errs, code := run(dir, "render", "page.html", "-o", "-")
	assert.Zero(t, code, errs)
	assert.True(t, strings.HasPrefix(out, "%PDF-"))
	assert.Contains(t, errs, "-: 1 page")
	out, _, code = run(dir, "render", "page.html", "-o", "new/folder/out.pdf")
	assert.Zero(t, code)
	assert.Contains(t, out, filepath.Join("new", "folder", "out.pdf")+": 1 page")
	out, _, _ = run(dir, "render", "page.html")
	assert.Equal(t, "page.pdf: 1 page\n", out)
	_, errs, code = run(dir, "render", "page.html", "-o", "-", "--proof", "p.pdf")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "--proof needs a file")
}

func TestRenderTellsPrograms(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"page.html": "<html lang=en><title>Berths</title><img src=gone.png alt=x>", "clean.html": "x",
		"t/template.yaml": "filename: '{{.n}}.pdf'\n", "t/page.html": "{{.n}}<img src=gone.png alt=x>", "r.json": `[{"n": 1}, {"n": 2}]`,
	})
	out, _, code := run(dir, "render", "page.html", "--json")
	assert.Zero(t, code)
	var told struct {
		File, Title string
		Pages       int
		Findings    []struct{ Code string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &told))
	assert.Equal(t, "page.pdf", told.File)
	assert.Equal(t, "Berths", told.Title)
	assert.Equal(t, 1, told.Pages)
	require.Len(t, told.Findings, 1)
	assert.Equal(t, "picture-missing", told.Findings[0].Code)
	_, _, code = run(dir, "render", "page.html", "--fail-at", "warning", "-q")
	assert.Equal(t, 1, code)
	_, _, code = run(dir, "render", "page.html", "--fail-at", "error", "-q")
	assert.Zero(t, code)
	out, _, code = run(dir, "render", "clean.html", "--fail-at", "note", "--json")
	assert.Zero(t, code)
	assert.Contains(t, out, `"findings": []`)
	_, errs, code := run(dir, "render", "page.html", "--fail-at", "worse")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "--fail-at is note, warning or error")

	out, errs, code = run(dir, "render", "t", "--records", "r.json", "--to", "out", "--json", "--fail-at", "warning")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "findings of severity warning or above in 2 documents")
	var list []struct{ File string }
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	assert.Len(t, list, 2)
}

// One document of a template: of its sample, of the only record, or of one that is chosen.
func TestOneDocumentOfATemplate(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"t/template.yaml": "sample: sample.json\n", "t/page.html": "<title>{{.n}}</title>{{today}}", "t/sample.json": `{"n": "sample"}`,
		"one.json": `{"n": "one"}`, "two.json": `[{"n": "a"}, {"n": "b"}]`, "none.json": `[]`,
	})
	for want, args := range map[string][]string{
		`"title": "sample"`: {},
		`"title": "one"`:    {"--records", "one.json"},
		`"title": "b"`:      {"--records", "two.json", "--only", "2", "--date", "2026-05-31"},
	} {
		out, errs, code := run(dir, append([]string{"render", "t", "-o", "x.pdf", "--json"}, args...)...)
		assert.Zero(t, code, errs)
		assert.Contains(t, out, want)
		isPDF(t, filepath.Join(dir, "x.pdf"))
	}
	for want, args := range map[string][]string{
		"two.json holds several records":                         {"--records", "two.json"},
		"--only asks for record 9, but two.json holds 2 records": {"--records", "two.json", "--only", "9"},
		"none.json holds no records":                             {"--records", "none.json"},
		"-o names one document; it does not go with --to":        {"--to", "out"},
		"--date is a day such as 2026-05-31":                     {"--date", "tomorrow"},
	} {
		_, errs, code := run(dir, append([]string{"render", "t", "-o", "x.pdf"}, args...)...)
		assert.NotZero(t, code, want)
		assert.Contains(t, errs, want)
	}
	_, errs, code := run(dir, "render", "t", "--records", "two.json", "--to", "out", "--only", "1,9")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "--only asks for record 9, but two.json holds 2 records")
}

func TestWhatIsNoPageIsTold(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"empty.html": " \n", "photo.html": "\x89PNG\r\n\x1a\n", "paper.html": "%PDF-1.7", "raw.html": "<p>{{.number}} {{.total}}", "page.html": "x"})
	for page, want := range map[string]string{"empty.html": "empty.html is empty", "photo.html": "photo.html is a picture (image/png), not a page", "paper.html": "is no HTML page, but application/pdf"} {
		_, errs, code := run(dir, "render", page)
		assert.Equal(t, 2, code, page)
		assert.Contains(t, errs, want)
	}
	_, errs, code := run(dir, "render", "raw.html")
	assert.Zero(t, code)
	assert.Contains(t, errs, "raw.html holds 2 unfilled actions such as {{.number}}")
	for _, option := range [][]string{{"--bind", "all.pdf"}, {"--report", "r.json"}, {"--soft"}, {"--only", "1"}, {"--key", "id"}} {
		_, errs, code := run(dir, append([]string{"render", "page.html"}, option...)...)
		assert.Equal(t, 2, code, option)
		assert.Contains(t, errs, option[0]+" means nothing for plain pages")
	}
	_, errs, code = run(dir, "render", "page.html", "--header", "a|b|c|d")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "at most three")
}

func TestPagesOfSubfolders(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"in/a.html": "x", "in/deep/a.html": "x", "in/deep/er/b.htm": "x", "in/c.txt": "x"})
	_, errs, code := run(dir, "render", "in", "--to", "flat")
	assert.Zero(t, code, errs)
	_, errs, code = run(dir, "render", "in", "--to", "out", "--subfolders")
	assert.Zero(t, code, errs)
	for name, there := range map[string]bool{"flat/a.pdf": true, "flat/b.pdf": false, "out/a.pdf": true, "out/deep/a.pdf": true, "out/deep/er/b.pdf": true} {
		_, err := os.Stat(filepath.Join(dir, name))
		assert.Equal(t, there, err == nil, name)
	}
}

// What is said of five hundred places is said once.
func TestFindingsOfManyPlacesAreOneLine(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"page.html": strings.Repeat("<div style='width:3000px;break-after:page'>x</div>\n", 60)})
	_, errs, code := run(dir, "render", "page.html")
	assert.Zero(t, code)
	assert.Equal(t, 1, strings.Count(errs, "reaches"), errs)
	assert.Contains(t, errs, "(and 59 more places: line 2, line 3, line 4 …)")
}

func TestCheckTellsClashesOfFileNames(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{"t/template.yaml": "filename: '{{.n}}.pdf'\n", "t/page.html": "{{.n}}", "r.json": `[{"n": "A"}, {"n": "b"}, {"n": "a"}]`})
	out, _, code := run(dir, "check", "t", "--records", "r.json")
	assert.Equal(t, 1, code)
	assert.Contains(t, out, "record 3: its file name a.pdf is that of record 1")
}

// A spreadsheet as offices have it: commas, points in dates, names of their own.
func TestRecordsOfAnOffice(t *testing.T) {
	dir := t.TempDir()
	write(t, dir, map[string]string{
		"t/template.yaml": "locale: de\n", "t/page.html": `<title>{{.number}} {{money .total}} {{date .due}}{{if gt .total 100}} high{{end}}</title>x`,
		"r.csv": "Nummer;Betrag;fällig\nQ1;1.234,50;31.05.2026\nQ2;12,00;01.06.2026\n",
	})
	out, errs, code := run(dir, "render", "t", "--records", "r.csv", "-o", "x.pdf", "--only", "1", "--rename", "Nummer=number", "--rename", "Betrag=total", "--rename", "fällig=due", "--json")
	assert.Zero(t, code, errs)
	assert.Contains(t, out, `"title": "Q1 1.234,50 € 31. Mai 2026 high"`)
	assert.Contains(t, errs, `the column "Betrag" holds numbers such as "1.234,50", which are read as 1234.50`)
	assert.Contains(t, errs, `the column "fällig" holds dates such as "31.05.2026", which are read as 2026-05-31`)
	_, errs, code = run(dir, "render", "t", "--records", "r.csv", "-o", "x.pdf", "--decimal", ";")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "a comma or a point")
}

func TestShellsCompleteValues(t *testing.T) {
	for want, args := range map[string][]string{
		"A4 landscape\n": {"render", "x.html", "--paper", ""},
		"invoice\n":      {"new", "x", "--from", ""},
		"PDF/A-2u\n":     {"render", "x.html", "--archive", ""},
		"warning\n":      {"check", "t", "--fail-at", ""},
	} {
		out, _, code := run(t.TempDir(), append([]string{"__complete"}, args...)...)
		assert.Zero(t, code)
		assert.Contains(t, out, want, args)
	}
}
