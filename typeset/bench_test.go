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
	const dir = "../demo/templates/mooring-invoice"
	files := os.DirFS(dir)
	t, err := merge.Open("mooring-invoice", files)
	if err != nil {
		b.Fatal(err)
	}
	var r record.Record
	if r, err = t.SampleRecord(); err != nil {
		b.Fatal(err)
	}
	folder, err := OpenFolder(dir)
	if err != nil {
		b.Fatal(err)
	}
	defer folder.Close()
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
