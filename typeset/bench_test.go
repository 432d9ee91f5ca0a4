package typeset

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"oliveledger/internal/collect"
	"oliveledger/merge"
	"oliveledger/record"
)

func benchSet(b *testing.B, html []byte, o Options) {
	b.Helper()
	collect.BySize(collect.Alone) // as the programs have it
	b.ReportAllocs()
	pages := 0
	var out bytes.Buffer // grown once, as a file takes what is written
	for b.Loop() {
		out.Reset()
		doc, err := Set(context.Background(), html, o, &out)
		if err != nil {
			b.Fatal(err)
		}
		pages = doc.Pages
	}
	b.ReportMetric(float64(pages), "pages")
}

// BenchmarkInvoice sets the demo's invoice from record to PDF.
func BenchmarkInvoice(b *testing.B) {
	t, r, folder := demoInvoice(b)
	collect.BySize(collect.Alone) // as the programs have it
	b.ReportAllocs()
	var out bytes.Buffer
	for b.Loop() {
		out.Reset()
		merged, err := t.Merge(r)
		if err != nil {
			b.Fatal(err)
		}
		if _, err := Set(context.Background(), merged.HTML, Options{Name: "page.html", Loader: folder}, &out); err != nil {
			b.Fatal(err)
		}
	}
}

// demoInvoice opens the demo's invoice with its sample, and what loads its files.
func demoInvoice(b testing.TB) (*merge.Template, record.Record, Loader) {
	b.Helper()
	const dir = "../demo/templates/mooring-invoice"
	t, err := merge.Open("mooring-invoice", os.DirFS(dir))
	if err != nil {
		b.Fatal(err)
	}
	r, err := t.SampleRecord()
	if err != nil {
		b.Fatal(err)
	}
	folder, err := OpenFolder(dir)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { folder.Close() })
	return t, r, folder
}

func rows(n int) []byte {
	var s strings.Builder
	s.WriteString("<!DOCTYPE html><style>@page { size: A4; @bottom-right { content: counter(page) '/' counter(pages) } } table { width: 100%; border-collapse: collapse } td, th { border: 1px solid #ccc; padding: 2px 4px } tr { break-inside: avoid }</style><table><thead><tr><th>No.<th>Date<th>Name<th>Berth<th>Amount</thead><tbody>")
	for i := range n {
		fmt.Fprintf(&s, "<tr><td>%d<td>2026-%02d-%02d<td>Vessel number %d<td>B%02d<td>%d.%02d", i, i%12+1, i%28+1, i%997, i%40, i*7%5000, i%100)
	}
	return []byte(s.String() + "</table>")
}

// BenchmarkTable sets tables of growing length.
func BenchmarkTable(b *testing.B) {
	for _, n := range []int{200, 2000, 50_000} {
		b.Run(fmt.Sprint(n, "rows"), func(b *testing.B) { benchSet(b, rows(n), Options{}) })
	}
}

// BenchmarkText sets running text.
func BenchmarkText(b *testing.B) {
	p := "<p style='text-align: justify'>" + strings.Repeat("The harbour office keeps the ledger of the season, and every vessel that was made fast is written into it. ", 12)
	benchSet(b, []byte("<!DOCTYPE html>"+strings.Repeat(p, 200)), Options{})
}

// report has a contents with page numbers, footnotes, headings and running heads: some 300 pages of it are set in several
// rounds.
func report(chapters int) []byte {
	var s strings.Builder
	s.WriteString(`<!DOCTYPE html><style>@page { size: A4; @top-left { content: string(chapter) } @bottom-right { content: counter(page) } }
h2 { string-set: chapter content(); break-before: page } .note { float: footnote } nav a::after { content: leader(".") target-counter(attr(href), page) } nav a { display: block }</style><nav>`)
	for i := range chapters {
		fmt.Fprintf(&s, "<a href=#c%d>Chapter %d</a>", i, i+1)
	}
	s.WriteString("</nav>")
	text := strings.Repeat("The harbour office keeps the ledger of the season, and every vessel that was made fast is written into it. ", 10)
	for i := range chapters {
		fmt.Fprintf(&s, "<h2 id=c%d>Chapter %d</h2>", i, i+1)
		for j := range 12 {
			fmt.Fprintf(&s, "<p>%s<span class=note>Note %d of the harbour master.</span>%s", text, j, text)
		}
	}
	return []byte(s.String())
}

// BenchmarkKinds sets documents of other kinds than tables.
func BenchmarkKinds(b *testing.B) {
	repeated := func(head, part string, n int) []byte {
		return []byte("<!DOCTYPE html>" + head + strings.Repeat(part, n))
	}
	cell := strings.Repeat("<td>12.50", 100)
	folder, err := OpenFolder("../demo/templates/course-certificate")
	if err != nil {
		b.Fatal(err)
	}
	defer folder.Close()
	for _, c := range []struct {
		name string
		page []byte
	}{
		{"report, 300 pages", report(100)},
		{"10,000 labels", repeated("<style>@page { margin: 10mm } div { float: left; width: 60mm; height: 35mm; border: 1px solid }</style>", "<div>Quay &amp; Lantern Harbour<br>Berth B12<br>20457 Tidewell</div>", 10_000)},
		{"pictures", repeated("<style>img { width: 80mm }</style>", "<p><img src=logo.svg alt=x>Certificate", 40)},
		{"Arabic", repeated("<html lang=ar dir=rtl>", "<p>يحتفظ مكتب الميناء بسجل الموسم، ويُدوَّن فيه كل مركب رسا في المرفأ.", 1000)},
		{"100 columns", repeated("<style>@page { size: 3000px 800px } table { border-collapse: collapse } td { border: 1px solid }</style><table>", "<tr>"+cell, 200)},
	} {
		b.Run(c.name, func(b *testing.B) { benchSet(b, c.page, Options{Name: "page.html", Loader: folder}) })
	}
}

// BenchmarkFramework sets pages styled by a framework, with their style sheet
// as it is. “make bench” fetches the sheets.
func BenchmarkFramework(b *testing.B) {
	const dir = "testdata/frameworks"
	folder, err := OpenFolder(dir)
	if err != nil {
		b.Fatal(err)
	}
	defer folder.Close()
	for _, name := range []string{"bootstrap-report", "bulma-report", "pico-report", "tailwind-report"} {
		html, err := os.ReadFile(dir + "/" + name + ".html")
		if err != nil {
			b.Fatal(err)
		}
		b.Run(name, func(b *testing.B) {
			if _, err := os.Stat(dir + "/node_modules/bootstrap"); err != nil {
				b.Skip("make frameworks fetches the style sheets")
			}
			benchSet(b, html, Options{Name: name + ".html", Loader: folder})
			b.ReportMetric(float64(strings.Count(string(html), "</")), "elements")
		})
	}
}

// BenchmarkNesting sets elements inside each other, deeper than they are kept.
func BenchmarkNesting(b *testing.B) {
	const deep = 1000
	for _, display := range []string{"block", "flex", "grid", "inline-block"} {
		html := "<!DOCTYPE html><style>div { display: " + display + " }</style>" + strings.Repeat("<div>", deep) + "Quay" + strings.Repeat("</div>", deep)
		b.Run(display, func(b *testing.B) { benchSet(b, []byte(html), Options{}) })
	}
}

// BenchmarkItems sets one container with 10,000 items.
func BenchmarkItems(b *testing.B) {
	items := func(style string) []byte {
		var s strings.Builder
		s.WriteString("<!DOCTYPE html><div style='" + style + "'>")
		for i := range 10_000 {
			fmt.Fprintf(&s, "<div>Berth %d</div>", i)
		}
		return []byte(s.String() + "</div>")
	}
	b.Run("flex", func(b *testing.B) { benchSet(b, items("display:flex;flex-wrap:wrap;gap:4px"), Options{}) })
	b.Run("grid", func(b *testing.B) {
		benchSet(b, items("display:grid;grid-template-columns:repeat(8,1fr);gap:4px"), Options{})
	})
}
