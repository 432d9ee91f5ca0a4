package page_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset"
)

// options are those of documents that are not set as they are.
var options = map[string]typeset.Options{
	"layout-width":  {LayoutWidth: 440},
	"fit-pages":     {FitPages: 1},
	"continuous":    {Continuous: true},
	"header-footer": {Header: "{title}|{page}|{pages}", Footer: "|{title}", FirstHeader: "none", HeaderRule: true},
}

// TestPages sets small documents on pages, and compares where each word stands with what is
// written beside them. To see what a change does, run with -update and look at the
// difference.
func TestPages(t *testing.T) {
	golden.Each(t, "testdata/pages", func(t *testing.T, name string, html []byte) string { return describe(t, html, options[name]) })
}

var (
	sheet = regexp.MustCompile(`<page width="([\d.]+)" height="([\d.]+)">`)
	word  = regexp.MustCompile(`<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(.*)</word>`)
)

// describe sets a document and lists its findings, for each page its words, a line for
// those on one height: where the first begins, the last ends, and how high they stand, in
// px; and how each page ends.
func describe(t *testing.T, html []byte, o typeset.Options) string {
	var pdf bytes.Buffer
	o.Name, o.TraceBreaks = "page.html", true
	doc, err := typeset.Set(context.Background(), html, o, &pdf)
	require.NoError(t, err)
	var out strings.Builder
	for _, f := range doc.Findings {
		fmt.Fprintf(&out, "page %d: %s: %s", f.Page, f.Code, f.Message)
		if r := f.Rect; r != [4]float64{} {
			fmt.Fprintf(&out, " at %.1f,%.1f %.1f×%.1f", r[0], r[1], r[2], r[3])
		}
		out.WriteByte('\n')
	}
	out.WriteString(wordsOf(t, pdf.Bytes()))
	for i, f := range doc.Frames {
		fmt.Fprintf(&out, "page %d, %.1f × %.1f in %.1f × %.1f, ends at %.1f", i+1, f.Area[2], f.Area[3], f.W, f.H, f.End)
		if b := f.Break; b.Message != "" {
			fmt.Fprintf(&out, ": %s (%d:%d)", b.Message, b.Line, b.Column)
		}
		out.WriteByte('\n')
	}
	return out.String()
}

// wordsOf lists the sheets of a PDF and their words, as describe does.
func wordsOf(t *testing.T, pdf []byte) string {
	var out strings.Builder
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o600))
	text, err := exec.Command("pdftotext", "-bbox", file, "-").Output()
	require.NoError(t, err)
	at, end, line := "", "", []string(nil)
	flush := func() {
		if line != nil {
			fmt.Fprintf(&out, "  %s..%s  %s\n", at, end, strings.Join(line, " "))
		}
		line = nil
	}
	low := ""
	for l := range strings.Lines(string(text)) {
		if m := sheet.FindStringSubmatch(l); m != nil {
			flush()
			fmt.Fprintf(&out, "sheet %s × %s\n", px(m[1]), px(m[2]))
		} else if m := word.FindStringSubmatch(l); m != nil {
			if y := px(m[2]); line == nil || y != low {
				flush()
				at, low = px(m[1])+","+y, y
			}
			line, end = append(line, m[5]), px(m[3])
		}
	}
	flush()
	return out.String()
}

// pagesOf sets a page and gives its sheets and words in one line, or why it cannot be set.
func pagesOf(t *testing.T, html string) string {
	t.Helper()
	var pdf bytes.Buffer
	if _, err := typeset.Set(context.Background(), []byte(html), typeset.Options{}, &pdf); err != nil {
		return "error: " + err.Error()
	}
	return strings.ReplaceAll(strings.TrimSpace(wordsOf(t, pdf.Bytes())), "\n", "; ")
}

// px is a length in points as px, rounded to a tenth.
func px(points string) string {
	v, _ := strconv.ParseFloat(points, 64)
	return strconv.FormatFloat(v/0.75, 'f', 1, 64)
}

// TestLimits: a document with more pages than allowed is refused, one with as many is not.
func TestLimits(t *testing.T) {
	html := []byte("<p>a<p style='break-before:page'>b<p style='break-before:page'>c")
	for pages, refused := range map[int]bool{2: true, 3: false} {
		_, err := typeset.Set(context.Background(), html, typeset.Options{Limits: typeset.Limits{Pages: pages}}, &bytes.Buffer{})
		assert.Equal(t, refused, errors.Is(err, typeset.ErrTooLong), pages)
	}
}
