package typeset

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/go-fonts/liberation/liberationserifregular"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/harfbuzz"
	"github.com/go-text/typesetting/language"
	"golang.org/x/net/html"

	"oliveledger/internal/collect"
)

// naive is a program that does the least, as one writes it at first: it parses a page, shapes each word in one font and deflates the
// glyphs. There is no style, no layout and no page.
type naive struct {
	font   *harfbuzz.Font
	glyphs []byte
}

func newNaive(b *testing.B) *naive {
	b.Helper()
	face, err := font.ParseTTF(bytes.NewReader(liberationserifregular.TTF))
	if err != nil {
		b.Fatal(err)
	}
	return &naive{font: harfbuzz.NewFont(face)}
}

func (n *naive) set(page []byte, out io.Writer) error {
	doc, err := html.Parse(bytes.NewReader(page))
	if err != nil {
		return err
	}
	n.glyphs = n.glyphs[:0]
	for node := range doc.Descendants() {
		if node.Type != html.TextNode {
			continue
		}
		for word := range strings.FieldsSeq(node.Data) {
			n.shape(word)
		}
	}
	z := zlib.NewWriter(out)
	if _, err := z.Write(n.glyphs); err != nil {
		return err
	}
	return z.Close()
}

func (n *naive) shape(word string) {
	buffer, text := harfbuzz.NewBuffer(), []rune(word)
	buffer.AddRunes(text, 0, len(text))
	buffer.Props = harfbuzz.SegmentProperties{Direction: harfbuzz.LeftToRight, Script: language.Latin, Language: "en"}
	buffer.Shape(n.font, nil)
	for _, g := range buffer.Info {
		n.glyphs = binary.BigEndian.AppendUint16(n.glyphs, uint16(g.Glyph))
	}
	n.glyphs = append(n.glyphs, '\n')
}

// BenchmarkFloor times documents and the naive program in turns, on the same pages: “of-floor” is how many times as long a
// document takes.
func BenchmarkFloor(b *testing.B) {
	invoice, folder := mergedInvoice(b)
	for _, c := range []struct {
		name string
		page []byte
		o    Options
	}{
		{"invoice", invoice, Options{Name: "page.html", Loader: folder}},
		{"200rows", rows(200), Options{}},
		{"2000rows", rows(2000), Options{}},
		{"50000rows", rows(50_000), Options{}},
	} {
		b.Run(c.name, func(b *testing.B) { benchFloor(b, c.page, c.o) })
	}
}

func benchFloor(b *testing.B, page []byte, o Options) {
	b.Helper()
	collect.BySize(collect.Alone) // as the programs have it
	floor := newNaive(b)
	var out bytes.Buffer
	var ours, naives time.Duration
	for b.Loop() {
		out.Reset()
		start := time.Now()
		if _, err := Set(b.Context(), page, o, &out); err != nil {
			b.Fatal(err)
		}
		ours += time.Since(start)
		out.Reset()
		start = time.Now()
		if err := floor.set(page, &out); err != nil {
			b.Fatal(err)
		}
		naives += time.Since(start)
	}
	b.ReportMetric(float64(ours.Microseconds())/float64(b.N)/1000, "ms/document")
	b.ReportMetric(float64(naives.Microseconds())/float64(b.N)/1000, "ms/floor")
	b.ReportMetric(float64(ours)/float64(naives), "of-floor")
}

// mergedInvoice is the demo's invoice with its sample, and what loads its files.
func mergedInvoice(b testing.TB) ([]byte, Loader) {
	b.Helper()
	t, r, folder := demoInvoice(b)
	merged, err := t.Merge(r)
	if err != nil {
		b.Fatal(err)
	}
	return merged.HTML, folder
}
