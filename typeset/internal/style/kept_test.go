package style

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
)

// exOf gives fonts whose x has a height of so many em.
type exOf float64

func (exOf) InkBelow(*Style, string) float64 { return 0 }

func (x exOf) Metrics(*Style) Metrics { return Metrics{Ex: float64(x), Ch: 0.5} }

// paragraph computes the style of the first paragraph of a page, as a document
// does: it takes a resolver and gives it back.
func paragraph(t *testing.T, page string, env Env, fonts Fonts, load Loader, told *[]Notice, sheets ...string) (*Style, *Resolver) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html>" + page))
	require.NoError(t, err)
	var uses []Use
	for _, s := range sheets {
		uses = append(uses, Use{Sheet: ParseSheet("page.css", "page.css", s), Origin: Author})
	}
	r := Ready(env, "page.html", uses, fonts, load, func(n Notice) {
		if told != nil {
			*told = append(*told, n)
		}
	})
	s := Initial()
	for _, name := range []string{"html", "body", "p"} {
		s = r.Style(doc.Find(name), "", s)
	}
	return s, r
}

var paper = Env{Medium: "print", Width: 700, Height: 1000}

func TestNextDocumentFindsItsStyles(t *testing.T) {
	const css = "p { color: red; width: 10vw } p.b { color: lime }"
	a, r := paragraph(t, "<p>x", paper, plainFonts{}, nil, nil, css)
	r.Release()
	b, again := paragraph(t, "<p>y", paper, plainFonts{}, nil, nil, css)
	if again != r {
		t.Skip("the pool has let go of the first resolver")
	}
	assert.Same(t, a, b, "the same rules under the same parents give the same style")
	again.Release()
	c, _ := paragraph(t, "<p class=b>y", paper, plainFonts{}, nil, nil, css)
	assert.Equal(t, RGB8(0, 255, 0), c.Color)
}

func TestNextDocumentOfAnotherSize(t *testing.T) {
	const css = "p { width: 10vw }"
	a, r := paragraph(t, "<p>x", paper, plainFonts{}, nil, nil, css)
	assert.Equal(t, 70.0, a.Width.Px)
	wide := paper
	wide.Width = 900
	r.SetEnv(wide) // as when the first page turns out to be wider
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><p>x"))
	require.NoError(t, err)
	s := Initial()
	for _, name := range []string{"html", "body", "p"} {
		s = r.Style(doc.Find(name), "", s)
	}
	assert.Equal(t, 90.0, s.Width.Px)
	r.Release()
	b, _ := paragraph(t, "<p>x", paper, plainFonts{}, nil, nil, css)
	assert.Equal(t, 70.0, b.Width.Px)
}

// TestFontsOfTheNextDocument: lengths that depend on fonts are computed anew, as
// are those of what inherits them.
func TestFontsOfTheNextDocument(t *testing.T) {
	const css = "body { font-size: 20px; text-indent: 2ex } p { width: 1ex }"
	a, r := paragraph(t, "<p>x", paper, exOf(0.5), nil, nil, css)
	assert.Equal(t, []float64{10, 20}, []float64{a.Width.Px, a.TextIndent.Px})
	r.Release()
	b, _ := paragraph(t, "<p>x", paper, exOf(0.4), nil, nil, css)
	assert.Equal(t, []float64{8, 16}, []float64{b.Width.Px, b.TextIndent.Px})
}

func TestNextDocumentIsToldTheSame(t *testing.T) {
	const css = "p { colour: red } @media screen { p { color: red } } @unheard {}"
	var first, second []Notice
	_, r := paragraph(t, "<p style='widht: 1px'>x", paper, plainFonts{}, nil, &first, css)
	r.Release()
	_, _ = paragraph(t, "<p style='widht: 1px'>y", paper, plainFonts{}, nil, &second, css)
	require.Len(t, first, 3)
	require.Len(t, second, 3)
	for i := range first {
		assert.Equal(t, first[i].Message, second[i].Message)
		assert.Equal(t, first[i].Line, second[i].Line)
	}
	assert.NotNil(t, second[2].Node, "a notice of an attribute names its element")
	assert.NotSame(t, first[2].Node, second[2].Node)
}

// TestQueriesOfSizeAreTold: whoever takes a resolver again must know that its
// rules depend on the size of the page area.
func TestQueriesOfSizeAreTold(t *testing.T) {
	const css = "@media (min-width: 400px) { p { color: red } }"
	for range 2 {
		env, asked := paper, false
		env.SizeAsked = &asked
		_, r := paragraph(t, "<p>x", env, plainFonts{}, nil, nil, css)
		assert.True(t, asked)
		r.Release()
	}
}

func TestImportedSheetsMayChange(t *testing.T) {
	const css = "@import 'more.css'; p { width: 1px }"
	text, fails := "p { color: red }", error(nil)
	load := func(address string) (string, error) {
		assert.Equal(t, "/more.css", address)
		return text, fails
	}
	color := func() Color {
		s, r := paragraph(t, "<p>x", paper, plainFonts{}, load, nil, css)
		r.Release()
		return s.Color
	}
	red, lime := RGB8(255, 0, 0), RGB8(0, 255, 0)
	assert.Equal(t, red, color())
	assert.Equal(t, red, color())
	text = "p { color: lime }"
	assert.Equal(t, lime, color())
	fails = errors.New("gone")
	var told []Notice
	_, r := paragraph(t, "<p>x", paper, plainFonts{}, load, &told, css)
	r.Release()
	require.Len(t, told, 1)
	assert.Equal(t, "sheet-missing", told[0].Code)
	fails = nil
	assert.Equal(t, lime, color())
}

func parsed(t *testing.T, page string) *markup.Node {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(page))
	require.NoError(t, err)
	return doc
}

// A style made from another is the same for each document, and so is what is computed
// under it. One that depends on the fonts of its document goes with it.
func TestNextDocumentFindsVariants(t *testing.T) {
	centred := func(r *Resolver, s *Style) *Style {
		return r.Variant(s, "centred", func() *Style {
			c := *s
			c.TextAlign = Center
			return &c
		})
	}
	for css, same := range map[string]bool{"p { color: red }": true, "p { width: 3ex }": false} {
		a, r := paragraph(t, "<p>x", paper, exOf(0.5), nil, nil, css)
		first := centred(r, a)
		assert.Equal(t, Center, first.TextAlign)
		assert.NotEqual(t, Center, a.TextAlign, "the style itself stays as it is")
		assert.Same(t, first, centred(r, a))
		under := r.PageStyle(first, nil)
		count := r.count
		r.Release()
		b, again := paragraph(t, "<p>y", paper, exOf(0.5), nil, nil, css)
		if again != r {
			t.Skip("the pool has let go of the first resolver")
		}
		second := centred(again, b)
		assert.Equal(t, same, first == second, css)
		assert.Equal(t, same, under == again.PageStyle(second, nil), css)
		if same {
			assert.Equal(t, count, again.count, "nothing more is kept")
		}
		again.Release()
	}
}

func TestFontFace(t *testing.T) {
	r := NewResolver(paper, plainFonts{}, nil, nil)
	r.AddSheet(ParseSheet("a.css", "css/a.css", `@font-face { font-family: "Quay"; src: local(Quay Regular), url(q.eot) format("embedded-opentype"), url(../q.woff2) format("woff2");
		font-weight: 700 200; font-stretch: condensed 100%; font-style: oblique 10deg; unicode-range: U+41-5A, u+1F??, U+20AC }
		@font-face { src: url(nameless.ttf) }
		@font-face { font-family: Lantern; src: url(l.ttf) }
		@font-face { font-family: ""; src: url(e.ttf); font-style: oblique 20deg -5deg; font-weight: auto; font-stretch: auto; font-feature-settings: "smcp", "liga" off }`), Author, nil, nil)
	assert.Equal(t, []FontFace{
		{
			Family: "Quay", Named: true, Files: []FontFile{{Local: "Quay Regular"}, {URL: "/q.woff2"}}, Weight: [2]float64{200, 700}, Stretch: [2]float64{75, 100}, Italic: true,
			Ranges: [][2]rune{{0x41, 0x5A}, {0x1F00, 0x1FFF}, {0x20AC, 0x20AC}},
		},
		{Family: "Lantern", Named: true, Files: []FontFile{{URL: "/css/l.ttf"}}, Weight: [2]float64{400, 400}, Stretch: [2]float64{100, 100}, AutoWeight: true, AutoWidth: true, AutoSlant: true},
		{
			Named: true, Files: []FontFile{{URL: "/css/e.ttf"}}, Weight: [2]float64{400, 400}, Stretch: [2]float64{100, 100}, AutoWeight: true, AutoWidth: true,
			Slant: [2]float64{-5, 20}, Features: []Feature{{"smcp", 1}, {"liga", 0}},
		},
	}, r.Faces)
}
