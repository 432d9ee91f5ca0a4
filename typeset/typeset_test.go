package typeset

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pdfOf sets a page and returns the file's bytes.
func pdfOf(t testing.TB, html string, o Options) ([]byte, *Document) {
	t.Helper()
	var out bytes.Buffer
	doc, err := Set(context.Background(), []byte(html), o, &out)
	require.NoError(t, err)
	return out.Bytes(), doc
}

// tool runs an independent program on a PDF.
func tool(t testing.TB, pdf []byte, name string, args ...string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o644))
	for i, a := range args {
		if a == "FILE" {
			args[i] = file
		}
	}
	out, err := exec.Command(name, args...).CombinedOutput()
	require.NoError(t, err, "%s: %s", name, out)
	return string(out)
}

// textOf gives the text of each page.
func textOf(t testing.TB, pdf []byte) []string {
	pages := strings.Split(tool(t, pdf, "pdftotext", "-layout", "FILE", "-"), "\f")
	return pages[:len(pages)-1]
}

// place of a word on its page, in px.
type place struct {
	page         int
	x, y, x1, y1 float64
}

var wordLine = regexp.MustCompile(`<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">(.*)</word>`)

func places(t testing.TB, pdf []byte) map[string]place {
	out := map[string]place{}
	page := 0
	for line := range strings.SplitSeq(tool(t, pdf, "pdftotext", "-bbox", "FILE", "-"), "\n") {
		if strings.Contains(line, "<page ") {
			page++
		}
		if m := wordLine.FindStringSubmatch(line); m != nil {
			var v [4]float64
			for i := range v {
				v[i], _ = strconv.ParseFloat(m[i+1], 64)
				v[i] *= 96.0 / 72
			}
			out[m[5]] = place{page, v[0], v[1], v[2], v[3]}
		}
	}
	return out
}

const bare = "<!DOCTYPE html><style>@page { size: 400px 300px; margin: 0 } body { margin: 0; font: 16px/20px 'Liberation Sans' } p { margin: 0 }</style>"

func at(t *testing.T, html string) map[string]place {
	pdf, _ := pdfOf(t, bare+html, Options{})
	return places(t, pdf)
}

func TestFileIsSoundAndTheSameEachTime(t *testing.T) {
	html := bare + `<h1>Häfen</h1><p style="opacity: .5; background: linear-gradient(red, rgb(0 0 255 / 50%))">fi <b>b</b> <i>i</i> مرحبا <a href="#x">go</a><p id=x style="transform: rotate(10deg); border-radius: 5px; border: 3px dotted">x`
	a, _ := pdfOf(t, html, Options{})
	for range 3 {
		b, _ := pdfOf(t, html, Options{})
		require.True(t, bytes.Equal(a, b), "the same input gives the same bytes")
	}
	assert.Contains(t, tool(t, a, "qpdf", "--check", "FILE"), "No syntax or stream encoding errors")
	for line := range strings.SplitSeq(strings.TrimSpace(tool(t, a, "pdffonts", "FILE")), "\n") {
		if strings.Contains(line, "CID") {
			assert.Regexp(t, `yes yes yes`, line, "embedded, a subset, with a map to Unicode")
		}
	}
	assert.Contains(t, textOf(t, a)[0], "Häfen")
}

func TestMarginsCollapse(t *testing.T) {
	w := at(t, `<p style="margin: 20px 0 30px">one</p><p style="margin: 10px 0">two</p><div style="margin-top: 40px"><p style="margin-top: 15px">three</p></div><div style="padding-top: 1px"><p style="margin-top: 9px">four`)
	assert.InDelta(t, 50, w["two"].y-w["one"].y, 0.1, "the larger of 30 and 10")
	assert.InDelta(t, 60, w["three"].y-w["two"].y, 0.1, "parent and first child share a margin")
	assert.InDelta(t, 30, w["four"].y-w["three"].y, 0.1, "padding keeps them apart")
}

func TestFloatsAndClear(t *testing.T) {
	w := at(t, `<div style="float: left; width: 100px; height: 50px">side</div><div style="float: right; width: 80px">right</div><p>beside</p><p style="clear: both">below</p><div style="overflow: hidden">root`)
	assert.InDelta(t, 100, w["beside"].x, 0.2)
	assert.InDelta(t, 320, w["right"].x, 0.2)
	assert.InDelta(t, 50, w["below"].y-w["side"].y, 0.2)
}

func TestAutoTableGivesColumnsWhatTheyNeed(t *testing.T) {
	w := at(t, `<table style="border-spacing: 0"><tr><td style="padding: 0">a<td style="padding: 0 0 0 10px; width: 100px">b<td style="padding: 0">c<tr><td colspan=2 style="padding: 0">wide<td style="padding: 0">d</table>`)
	assert.InDelta(t, w["c"].x, w["d"].x, 0.2)
	assert.InDelta(t, 110, w["c"].x-w["b"].x+10, 0.5)
	w = at(t, `<table style="table-layout: fixed; width: 300px; border-collapse: collapse"><tr><td style="width: 50px; padding: 0">a<td style="padding: 0">b<td style="padding: 0">c</table>`)
	assert.InDelta(t, 50, w["b"].x-w["a"].x, 0.3)
	assert.InDelta(t, 125, w["c"].x-w["b"].x, 0.3)
}

func TestFlexAndGrid(t *testing.T) {
	w := at(t, `<div style="display: flex; gap: 10px; justify-content: space-between"><p style="flex: 1">a</p><p style="flex: 2">b</p><p style="width: 90px">c</p></div>
		<div style="display: flex; flex-direction: column; align-items: flex-end; height: 100px"><p style="margin-top: auto">end</p></div>
		<div style="display: grid; grid-template-columns: 50px 1fr 2fr; column-gap: 10px"><p>g1</p><p>g2</p><p>g3</p><p style="grid-column: 2 / 4">g4</p></div>`)
	assert.InDelta(t, (400-90-20)/3.0+10, w["b"].x-w["a"].x, 0.2)
	assert.InDelta(t, 310, w["c"].x, 0.2)
	assert.InDelta(t, 400, w["end"].x1, 1)
	assert.InDelta(t, 100, w["end"].y-w["a"].y, 0.2)
	assert.InDelta(t, 60, w["g2"].x, 0.2)
	assert.InDelta(t, 60+110+10, w["g3"].x, 0.2)
	assert.InDelta(t, w["g2"].x, w["g4"].x, 0.2)
}

func TestPositioned(t *testing.T) {
	w := at(t, `<div style="position: relative; height: 100px"><p style="position: absolute; right: 10px; bottom: 5px">abs</p><p style="position: relative; left: 7px; top: 3px">rel</p></div><p style="position: fixed; top: 200px; left: 50px">fix`)
	assert.InDelta(t, 390, w["abs"].x1, 1)
	assert.InDelta(t, 75-3, w["abs"].y-w["rel"].y, 0.2)
	assert.InDelta(t, 7, w["rel"].x, 0.2)
	assert.InDelta(t, 50, w["fix"].x, 0.2)
}

func TestTextAlign(t *testing.T) {
	w := at(t, `<p style="text-align: right">right</p><p style="text-align: center">mid</p><p style="text-align: justify; width: 200px">first words of a line that ends here: last</p><p style="letter-spacing: 10px">ab</p><p style="white-space: pre">x    y</p>`)
	assert.InDelta(t, 400, w["right"].x1, 0.5)
	assert.InDelta(t, 200, (w["mid"].x+w["mid"].x1)/2, 0.5)
	end := 0.0
	for _, p := range w {
		if p.y == w["first"].y {
			end = max(end, p.x1)
		}
	}
	assert.InDelta(t, 200, end, 0.8, "a justified line fills its box")
	assert.Less(t, w["last"].x1, 190.0, "the last line does not")
}

func TestPagesAndCounters(t *testing.T) {
	css := `<style>@page { margin: 40px; @bottom-right { content: "Page " counter(page) " of " counter(pages) } @top-left { content: "left or right" } }
		@page :first { @top-left { content: none } } @page :left { @top-left { content: "a left page" } } h2 { break-before: page }</style>`
	pdf, doc := pdfOf(t, bare+css+"<p>one<h2>two</h2><h2>three</h2>", Options{})
	pages := textOf(t, pdf)
	require.Equal(t, 3, doc.Pages)
	for i, p := range pages {
		assert.Contains(t, p, fmt.Sprintf("Page %d of 3", i+1))
	}
	assert.NotContains(t, pages[0], "left or right")
	assert.Contains(t, pages[1], "a left page")
	assert.Contains(t, pages[2], "left or right")
}

func TestNoRowIsLostOrDoubled(t *testing.T) {
	var b strings.Builder
	b.WriteString(bare + "<style>td { padding: 3px }</style><table><thead><tr><th>HEAD</th></tr></thead><tfoot><tr><td>FOOT</tfoot><tbody>")
	const rows = 157
	for i := range rows {
		fmt.Fprintf(&b, "<tr><td>row%03d", i)
		if i%7 == 0 {
			b.WriteString("<br>more<br>lines")
		}
		if i%11 == 0 {
			fmt.Fprintf(&b, "<td rowspan=2>span%03d", i)
		}
	}
	pdf, doc := pdfOf(t, b.String()+"</table>", Options{})
	pages := textOf(t, pdf)
	require.Greater(t, doc.Pages, 10)
	all := strings.Join(pages, "")
	for i := range rows {
		assert.Equal(t, 1, strings.Count(all, fmt.Sprintf("row%03d", i)), "row %d", i)
	}
	for i, p := range pages {
		assert.Equal(t, 1, strings.Count(p, "HEAD"), "page %d", i+1)
		assert.Equal(t, 1, strings.Count(p, "FOOT"), "page %d", i+1)
	}
}

func TestKeptTogether(t *testing.T) {
	fill := func(n int) string { return strings.Repeat("<p>fill</p>", n) }
	pdf, _ := pdfOf(t, bare+fill(13)+`<div style="break-inside: avoid"><p>k1</p><p>k2</p><p>k3</p></div>`, Options{})
	w := places(t, pdf)
	assert.Equal(t, 2, w["k1"].page, "the block moves as one")
	assert.Equal(t, 2, w["k3"].page)
	pdf, _ = pdfOf(t, bare+fill(14)+`<h3 style="margin: 0; font-size: 16px">head</h3><p>text</p>`, Options{})
	w = places(t, pdf)
	assert.Equal(t, w["text"].page, w["head"].page, "a heading stays with what follows")
	words := "<p style='width: 60px'>"
	for i := range 6 {
		words += fmt.Sprintf("word%d ", i)
	}
	pdf, _ = pdfOf(t, bare+fill(10)+words, Options{})
	w = places(t, pdf)
	assert.Equal(t, 1, w["word3"].page)
	assert.Equal(t, 2, w["word4"].page, "two lines go over: widows")
	pdf, _ = pdfOf(t, bare+fill(14)+words, Options{})
	assert.Equal(t, 2, places(t, pdf)["word0"].page, "one line alone does not stay: orphans")
}

func TestTooTallForAPageIsStillSet(t *testing.T) {
	pdf, doc := pdfOf(t, bare+`<div style="break-inside: avoid">`+strings.Repeat("<p>line</p>", 40)+`</div><div style="height: 700px; background: red">tall</div><p>end`, Options{})
	assert.GreaterOrEqual(t, doc.Pages, 5)
	assert.Equal(t, 40, strings.Count(strings.Join(textOf(t, pdf), ""), "line"))
}

func TestStyleSheetsFromEverywhere(t *testing.T) {
	files := Files{"css/a.css": []byte("@import 'b.css'; .a { position: absolute; left: 100px }"), "css/b.css": []byte(".b { position: absolute; left: 200px }"), "s.css": []byte(".a { left: 99px }")}
	pdf, doc := pdfOf(t, `<!DOCTYPE html><link rel=stylesheet href="css/a.css"><link rel=stylesheet media=screen href="s.css"><link rel=stylesheet href=gone.css><style>.d { left: 350px }</style><p class=a>a<p class=b>b<p class=c>c<p class=d>d`,
		Options{
			Loader: files, Name: "page.html", Paper: "400px 300px", Margins: "0",
			AuthorSheets: []Sheet{{Name: "add.css", Text: ".c { position: absolute; left: 300px }"}},
			UserSheets:   []Sheet{{Name: "base.css", Text: ".d { position: absolute; left: 1px }"}},
		})
	w := places(t, pdf)
	assert.InDelta(t, 100, w["a"].x, 0.2)
	assert.InDelta(t, 200, w["b"].x, 0.2)
	assert.InDelta(t, 300, w["c"].x, 0.2)
	assert.InDelta(t, 350, w["d"].x, 0.2, "the page's own rule wins over the base sheet")
	var codes []string
	for _, f := range doc.Findings {
		codes = append(codes, f.Code)
	}
	assert.Contains(t, codes, "sheet-missing")
	assert.Contains(t, codes, "sheet-skipped")
	assert.NotContains(t, codes, "option-wins", "the page says nothing of its size")
}

func TestMediumAndPaper(t *testing.T) {
	html := `<!DOCTYPE html><style>@page { size: A5 } .s { display: none } @media screen { .s { display: block } .p { display: none } }</style><p class=s>screen<p class=p>print`
	pdf, _ := pdfOf(t, html, Options{})
	assert.Contains(t, textOf(t, pdf)[0], "print")
	assert.Contains(t, tool(t, pdf, "pdfinfo", "FILE"), "419.528 x 595.276")
	pdf, _ = pdfOf(t, html, Options{Medium: "screen", Paper: "A4 landscape"})
	assert.Contains(t, textOf(t, pdf)[0], "screen")
	assert.Contains(t, tool(t, pdf, "pdfinfo", "FILE"), "841.89 x 595.276")
	for _, o := range []Options{{Paper: "A99"}, {Margins: "wide"}} {
		_, err := Set(context.Background(), []byte(html), o, &bytes.Buffer{})
		assert.Error(t, err)
	}
}

func TestGeneratedContentAndLists(t *testing.T) {
	pdf, _ := pdfOf(t, bare+`<style>.n { counter-reset: n } .n li { counter-increment: n } q { quotes: "<" ">" } .c::before { content: counters(n, ".") " " attr(data-x) } em::first-letter { color: red }</style>
		<ol start=3><li>three<li value=9>nine</ol><ul style="list-style: lower-roman"><li>i<li>ii</ul><q>quoted</q><ol class=n><li class=c data-x=attr> item</ol>`, Options{})
	text := textOf(t, pdf)[0]
	for _, want := range []string{"3. three", "9. nine", "ii. ii", "<quoted>", "1 attr item"} {
		assert.Contains(t, text, want)
	}
}

func TestRightToLeft(t *testing.T) {
	w := at(t, `<p dir=rtl>ALPHA <span>שלום</span> עולם</p>`)
	assert.Greater(t, w["ALPHA"].x, 300.0, "the first word stands at the right")
	pdf, _ := pdfOf(t, bare+`<p>price 12 € مرحبا 34 end`, Options{})
	assert.Contains(t, textOf(t, pdf)[0], "end")
}

func TestPictures(t *testing.T) {
	svg := `data:image/svg+xml,<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="40" height="20" fill="red"/><text x="2" y="15">svg</text></svg>`
	png := "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
	pdf, doc := pdfOf(t, bare+`<img src='`+svg+`'>after<br><img src='`+png+`' width=50 height=30>behind <img src="none.png" alt="instead">`, Options{})
	w := places(t, pdf)
	assert.InDelta(t, 40, w["after"].x, 0.3)
	assert.InDelta(t, 50, w["behind"].x, 2)
	assert.Contains(t, w, "svg", "text in SVG stays text")
	assert.Contains(t, w, "instead", "a missing picture's alternative text is shown (HTML, §15.4.2)")
	require.NotEmpty(t, doc.Findings)
	assert.Equal(t, "picture-missing", doc.Findings[0].Code)
}

func TestHostileInputEnds(t *testing.T) {
	nest := func(n int, open string) string { return strings.Repeat(open, n) }
	for name, html := range map[string]string{
		"empty":            "",
		"not html":         "\x00\xff\xfe%PDF",
		"deep":             bare + nest(400, "<div>") + "x",
		"deep inline":      bare + nest(400, "<b>") + "x",
		"deep flex":        bare + nest(60, "<div style='display:flex'>") + "x",
		"deep tables":      bare + nest(40, "<table><td>") + "x",
		"huge span":        bare + "<table><td colspan=99999999 rowspan=99999999>x</table>",
		"huge numbers":     bare + "<p style='width: 1e300px; margin: -1e300px; font-size: 1e300px; line-height: 1e99'>x",
		"endless var":      bare + "<style>:root{--a:var(--b)var(--b);--b:var(--c)var(--c);--c:var(--d)var(--d);--d:var(--a)}p{width:var(--a)}</style><p>x",
		"growing var":      bare + "<style>p{--a:1 1 1 1 1 1 1 1 1 1;--b:var(--a)var(--a)var(--a)var(--a)var(--a);--c:var(--b)var(--b)var(--b)var(--b)var(--b);--d:var(--c)var(--c)var(--c)var(--c)var(--c);--e:var(--d)var(--d)var(--d)var(--d)var(--d);--f:var(--e)var(--e)var(--e)var(--e)var(--e);--g:var(--f)var(--f)var(--f)var(--f)var(--f);margin:var(--g)}</style><p>x",
		"tiny page":        "<style>@page { size: 1px 1px; margin: 0 }</style><p>word",
		"no page":          "<style>@page { size: 100px; margin: 200px }</style><p>word",
		"never fits":       bare + "<style>* { break-inside: avoid; break-before: avoid; break-after: avoid }</style>" + nest(50, "<p>x</p>"),
		"self import":      "<style>@import url(page.html);</style>x",
		"svg uses itself":  bare + "<svg><g id=a><use href='#a'/></g><use href='#a'/></svg>x",
		"grid":             bare + "<div style='display:grid;grid-template-columns:repeat(9999999,1px);grid-auto-rows:1px'><p style='grid-area: 99999/99999'>x</p></div>",
		"columns":          bare + "<div style='columns: 1000000 1px'>x y z</div>",
		"wide spans":       bare + "<div style='display:grid;grid-auto-flow:dense'>" + nest(40, "<p style='grid-column:span 3000;grid-row:span 3000'>x</p>") + "</div>",
		"tables in tables": bare + nest(200, "<table><tr><td>") + "x",
		"many blurs":       bare + "<p style='filter:" + nest(50, "blur(9px) ") + "'>x",
		"svg within uses": bare + "<svg><g id=a0><path d='M0 0H9'/></g>" + nested(12, func(i int) string {
			return fmt.Sprintf("<g id=a%d>%s</g>", i+1, nest(10, fmt.Sprintf("<use href='#a%d'/>", i)))
		}) + "</svg>x",
		"float that grows": bare + nest(100, "<div style='float:left;width:100%;height:1000px'>x</div>"),
	} {
		t.Run(name, func(t *testing.T) {
			start := time.Now()
			var out bytes.Buffer
			_, err := Set(context.Background(), []byte(html), Options{Name: "page.html", Loader: Files{"page.html": []byte(html)}, Limits: Limits{Pages: 3000, Time: 4 * time.Second}}, &out)
			if err != nil {
				assert.NotContains(t, err.Error(), "internal error")
			}
			assert.Less(t, time.Since(start), 20*time.Second)
		})
	}
}

func nested(n int, part func(i int) string) (s string) {
	for i := range n {
		s += part(i)
	}
	return s
}

// TestDrawingEndsInTime draws what would take hours within one page.
func TestDrawingEndsInTime(t *testing.T) {
	html := bare + strings.Repeat("<div style='filter: drop-shadow(1px 1px 4px red) blur(2px)'>", 12) + "x"
	start := time.Now()
	_, err := Set(context.Background(), []byte(html), Options{Limits: Limits{Time: time.Second}}, io.Discard)
	assert.ErrorContains(t, err, "took longer than 1s")
	assert.Less(t, time.Since(start), 20*time.Second)
}

// TestMemoryIsShort ends a page while the program holds more than it may.
func TestMemoryIsShort(t *testing.T) {
	html := bare + strings.Repeat("<div style='filter: blur(2px) sepia(1)'>", 12) + "x"
	_, err := Set(context.Background(), []byte(html), Options{Limits: Limits{Heap: 1 << 20}}, io.Discard)
	assert.ErrorContains(t, err, "the page needs more than 1 MB of memory")
}

func TestLimits(t *testing.T) {
	long := bare + strings.Repeat("<p>x</p>", 2000)
	_, err := Set(context.Background(), []byte(long), Options{Limits: Limits{Pages: 5}}, &bytes.Buffer{})
	assert.ErrorIs(t, err, ErrTooLong)
	_, err = Set(context.Background(), []byte(long), Options{Limits: Limits{Bytes: 100}}, &bytes.Buffer{})
	assert.ErrorContains(t, err, "at most 100")
	_, err = Set(context.Background(), []byte(long), Options{Limits: Limits{Elements: 100}}, &bytes.Buffer{})
	assert.ErrorContains(t, err, "the page has 2004 elements; at most 100")
	_, err = Set(context.Background(), []byte(long), Options{Limits: Limits{Time: time.Nanosecond}}, &bytes.Buffer{})
	assert.ErrorContains(t, err, "longer than")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = Set(ctx, []byte(long), Options{}, &bytes.Buffer{})
	assert.ErrorIs(t, err, context.Canceled)
}

type failing struct{ after int }

func (f *failing) Write(p []byte) (int, error) {
	if f.after -= len(p); f.after < 0 {
		return 0, errors.New("disk full")
	}
	return len(p), nil
}

func TestWriteErrorsAreTold(t *testing.T) {
	_, err := Set(context.Background(), []byte(bare+"x"), Options{}, &failing{after: 100})
	assert.ErrorContains(t, err, "disk full")
}

func TestFolderKeepsInside(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "in"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "secret.css"), []byte("p{}"), 0o644))
	require.NoError(t, os.Symlink(filepath.Join(dir, "secret.css"), filepath.Join(dir, "in", "link.css")))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in", "a b.css"), []byte("ok"), 0o644))
	f, err := OpenFolder(filepath.Join(dir, "in"))
	require.NoError(t, err)
	defer f.Close()
	data, err := f.Load(context.Background(), "a%20b.css")
	require.NoError(t, err)
	assert.Equal(t, "ok", string(data))
	for _, address := range []string{"../secret.css", "link.css", "/etc/passwd", "http://127.0.0.1/x", "file:///etc/passwd", "", "nothing.css"} {
		_, err := f.Load(context.Background(), address)
		assert.Error(t, err, address)
	}
}

func FuzzPage(f *testing.F) {
	for _, s := range []string{"<p>x", "<table><td rowspan=0>", "<div style='display:flex;columns:2'><p style='float:left'>x", "<svg><path d='M0 0A1 1 0 0 1 5 5'/>", "<ol reversed><li>"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		var out bytes.Buffer
		_, err := Set(context.Background(), []byte(s), Options{Limits: Limits{Pages: 500, Time: 10 * time.Second}}, &out)
		if err != nil && strings.Contains(err.Error(), "internal error") {
			t.Fatal(err)
		}
	})
}

// TestDocumentsAtOnce sets one page many times side by side: documents share
// parsed sheets and fonts, and still come out the same.
func TestDocumentsAtOnce(t *testing.T) {
	html := "<style>:root { --c: green } p { color: var(--c); margin-inline: var(--m, 10px) } @media (min-width: 1px) { p:is(.a, .b)::before { content: 'x' } }</style><p class=a>Quay<p class=b style='--c: blue'>Pier"
	want, _ := pdfOf(t, html, Options{})
	got := make([][]byte, 16)
	var all sync.WaitGroup
	for i := range got {
		all.Go(func() {
			var out bytes.Buffer
			if _, err := Set(context.Background(), []byte(html), Options{}, &out); err == nil {
				got[i] = out.Bytes()
			}
		})
	}
	all.Wait()
	for _, g := range got {
		assert.Equal(t, want, g)
	}
}

func TestBareFieldsHaveAWidth(t *testing.T) {
	for _, field := range []string{"input", "textarea"} {
		bare := at(t, "<"+field+"></"+field+"><span>end</span>")
		given := at(t, "<"+field+" required></"+field+"><span>end</span>")
		assert.InDelta(t, given["end"].x, bare["end"].x, 0.01, field)
		assert.Greater(t, bare["end"].x, 100.0, field)
	}
}

// TestGrowthIsBounded sets pages of a few bytes that stand for a great deal: they end soon, and tell why where something
// is left out.
func TestGrowthIsBounded(t *testing.T) {
	var doubling strings.Builder
	doubling.WriteString("<style>:root{--v0:1px")
	for i := 1; i < 60; i++ {
		fmt.Fprintf(&doubling, ";--v%d:calc(var(--v%d) + var(--v%d))", i, i-1, i-1)
	}
	doubling.WriteString("}p{width:var(--v59);height:var(--v3)}</style><p>x")
	_, err := Set(context.Background(), []byte(bare+doubling.String()), Options{}, io.Discard)
	require.NoError(t, err, "the width is invalid when it is computed")

	huge := bare + "<style>p::before{content:" + strings.Repeat("attr(title) ", 200) + "}</style><p title='" + strings.Repeat("x", 60_000) + "'>"
	_, err = Set(context.Background(), []byte(huge), Options{}, io.Discard)
	assert.ErrorContains(t, err, "gives a single element more than 8 MB of text")

	long := bare + "<svg width=100 height=100><path id=p d='M0 0 L1e7 0'/><text><textPath href='#p'>" + strings.Repeat("x", 300_000) + "</textPath></text></svg>"
	_, err = Set(context.Background(), []byte(long), Options{}, io.Discard)
	require.NoError(t, err)

	levels := bare + "<p>" + strings.Repeat("\u202e\u2067a\u05d0", 20_000)
	_, err = Set(context.Background(), []byte(levels), Options{}, io.Discard)
	require.NoError(t, err)
}

// FuzzFontOfAPage sets a page in a font that was changed at random: the page is set, in that font or another.
func FuzzFontOfAPage(f *testing.F) {
	data, err := os.ReadFile("../demo/templates/mooring-invoice/fonts/source-sans-3-latin-700-normal.woff2")
	require.NoError(f, err)
	f.Add(data)
	f.Add(liberationsansregular.TTF)
	f.Fuzz(func(t *testing.T, data []byte) {
		page := bare + "<style>@font-face{font-family:k;src:url(k.ttf)}p{font-family:k}</style><p>Office fjord \u0627\u0644"
		if _, err := Set(context.Background(), []byte(page), Options{Loader: Files{"k.ttf": data}}, io.Discard); err != nil && strings.Contains(err.Error(), "internal error") {
			t.Error(err)
		}
	})
}
