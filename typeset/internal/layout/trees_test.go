package layout

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset/internal/box"
)

// TestTrees lays out pages that use one part of CSS in many ways, on paper of 300 by 180 px, on one endless page of
// 400 px, and there from right to left, and compares where everything stands, down to each word. Run with -update to hold what is laid out now: then
// look at the difference.
func TestTrees(t *testing.T) {
	golden.Each(t, "testdata/trees", func(t *testing.T, _ string, html []byte) string {
		var b strings.Builder
		l, root := page(t, string(html))
		for i, page := range laidOut(t, l, root, 300, 180) {
			fmt.Fprintf(&b, "page %d\n", i+1)
			describe(&b, page, 0, 0, 1)
		}
		for _, dir := range []string{"ltr", "rtl"} {
			l, root := page(t, "<html dir="+dir+">"+string(html))
			l.Viewport = [2]float64{400, 3000}
			whole, _ := l.LayPage(root, 400, 3000, 0, 0, nil)
			require.NotNil(t, whole)
			whole.Fix(Fixed(root), FixedPlaces{})
			l.SettleAll(whole, 400, 3000)
			fmt.Fprintf(&b, "endless, %s\n", dir)
			describe(&b, whole, 0, 0, 1)
		}
		return b.String()
	})
}

// page makes the boxes of a document in small text.
func page(t *testing.T, html string) (*Layout, *box.Box) {
	t.Helper()
	return tree(t, "<!DOCTYPE html>"+html, "body { font: 12px/15px sans-serif }")
}

// describe writes a fragment and what is in it: boxes with their place and size, the edges and marks that they have,
// and lines with the place of each word.
func describe(b *strings.Builder, f *Fragment, x, y float64, depth int) {
	indent := strings.Repeat(" ", depth)
	if f.Line {
		fmt.Fprintf(b, "%s| %s %s:", indent, n(y), n(f.H))
		words(b, f, x, y, y)
		b.WriteString("\n")
		return
	}
	fmt.Fprintf(b, "%s%s %s,%s %s×%s%s\n", indent, nameOf(f.Box), n(x), n(y), n(f.W), n(f.H), marks(f))
	if f.Drawn != nil {
		drawings(b, f.Drawn, x, y, indent)
	}
	for _, k := range f.Kids {
		describe(b, k.F, x+k.X, y+k.Y, depth+1)
	}
}

// drawings writes what a table or a box in columns shows beside its own border and background.
func drawings(b *strings.Builder, d *Drawn, x, y float64, indent string) {
	for _, e := range d.Edges {
		name := "across"
		if e.Vertical {
			name = "down"
		}
		fmt.Fprintf(b, "%s - %s %s,%s %s×%s\n", indent, name, n(x+e.X), n(y+e.Y), n(e.Len), n(e.Width))
	}
	for _, r := range d.Rules {
		fmt.Fprintf(b, "%s - rule %s,%s %s×%s\n", indent, n(x+r.X), n(y+r.Y), n(r.F.W), n(r.F.H))
	}
	for _, k := range d.Backs {
		fmt.Fprintf(b, "%s - back %s,%s %s×%s of %s,%s %s×%s\n", indent, n(x+k.Shown[0]), n(y+k.Shown[1]), n(k.Shown[2]), n(k.Shown[3]), n(x+k.X), n(y+k.Y), n(k.W), n(k.H))
	}
}

// words writes what stands in a line, with how far each part is from the line's top where it is not at it.
func words(b *strings.Builder, f *Fragment, x, y, top float64) {
	for _, k := range f.Kids {
		x, y := x+k.X, y+k.Y
		switch {
		case k.F.Text != nil:
			var text strings.Builder
			for _, r := range k.F.Text.Runs {
				text.WriteString(r.Text)
			}
			fmt.Fprintf(b, " %q %s,%s %s", text.String(), n(x), n(y-top), n(k.F.W))
		case k.F.Box != nil && k.F.Box.Inline || len(k.F.Kids) > 0 || k.F.Picture:
			fmt.Fprintf(b, " <%s %s,%s %s×%s%s", nameOf(k.F.Box), n(x), n(y-top), n(k.F.W), n(k.F.H), marks(k.F))
			words(b, k.F, x, y, top)
			b.WriteString(">")
		default:
			fmt.Fprintf(b, " %s %s,%s %s×%s", nameOf(k.F.Box), n(x), n(y-top), n(k.F.W), n(k.F.H))
		}
	}
}

// marks are what is special of a fragment.
func marks(f *Fragment) string {
	var b strings.Builder
	for _, m := range []struct {
		name string
		is   bool
	}{{"continued", f.Continued}, {"cut", f.Cut}, {"hidden", f.Hide}, {"clipped", f.Clipped}} {
		if m.is {
			b.WriteString(" " + m.name)
		}
	}
	for _, e := range []struct {
		name  string
		sides [4]float64
	}{{"border", f.Border}, {"padding", f.Padding}} {
		if e.sides != [4]float64{} {
			fmt.Fprintf(&b, " %s %s %s %s %s", e.name, n(e.sides[0]), n(e.sides[1]), n(e.sides[2]), n(e.sides[3]))
		}
	}
	if f.Cut || f.Continued {
		fmt.Fprintf(&b, " after %s of %s", n(f.Before), n(f.Whole))
	}
	if !math.IsNaN(f.Baseline) {
		fmt.Fprintf(&b, " on %s", n(f.Baseline))
		if f.LastBaseline != f.Baseline {
			fmt.Fprintf(&b, " and %s", n(f.LastBaseline))
		}
	}
	return b.String()
}

func nameOf(b *box.Box) string {
	switch {
	case b == nil || b.Node == nil:
		return "anonymous"
	case b.Rare().Pseudo != "":
		return b.Node.Name + "::" + b.Rare().Pseudo
	}
	return b.Node.Name
}

// n writes a length with one place.
func n(v float64) string {
	if math.IsNaN(v) {
		return "none"
	}
	return fmt.Sprintf("%g", math.Round(v*10)/10+0)
}
