package paint

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// recorder writes down what is painted.
type recorder struct{ calls []string }

func (r *recorder) add(format string, args ...any) {
	r.calls = append(r.calls, fmt.Sprintf(format, args...))
}

func shape(p *display.Path) string {
	if b, ok := p.AsRect(); ok {
		return fmt.Sprintf("%g,%g %g×%g", b.X, b.Y, b.W, b.H)
	}
	b := p.Bounds()
	return fmt.Sprintf("path %g,%g %g×%g", b.X, b.Y, b.W, b.H)
}

func hue(c style.Color) string {
	return fmt.Sprintf("#%02x%02x%02x", int(c.C[0]*255+0.5), int(c.C[1]*255+0.5), int(c.C[2]*255+0.5))
}

func (r *recorder) Save()                                   {}
func (r *recorder) Restore()                                {}
func (r *recorder) Transform(m display.Matrix)              { r.add("transform %g", m) }
func (r *recorder) Clip(p *display.Path, evenOdd bool)      { r.add("clip %s", shape(p)) }
func (r *recorder) Image(im *display.Image, b display.Rect) { r.add("image %g×%g", b.W, b.H) }
func (r *recorder) Furniture(kind display.Furniture)        {}
func (r *recorder) Link(b display.Rect, to display.Link)    { r.add("link %s", to.Address) }
func (r *recorder) Tag(*tag.Element, int32)                 {}
func (r *recorder) Cover(*tag.Element, display.Rect)        {}
func (r *recorder) Field(f display.Field)                   { r.add("field %s", f.Name) }
func (r *recorder) Anchor(name string, x, y float64)        { r.add("anchor %s", name) }
func (r *recorder) Text(t *display.Text)                    { r.add("text %s %s", t.Runs[0].Text, hue(t.Paint.Color)) }

func (r *recorder) Stroke(p *display.Path, paint display.Paint, s display.Stroke) {
	r.add("stroke %s", shape(p))
}

func (r *recorder) Fill(p *display.Path, paint display.Paint, evenOdd bool) {
	what := hue(paint.Color)
	if paint.Gradient != nil {
		what = "gradient"
	}
	r.add("fill %s %s", shape(p), what)
}

func (r *recorder) Drawing(_ any, box display.Rect, draw func(display.Canvas)) {
	display.DrawInPlace(r, box, draw)
}

func (r *recorder) Group(g display.Group, draw func(display.Canvas)) {
	if g.Mask != nil {
		r.add("mask alpha=%t", g.AlphaMask)
		g.Mask(r)
		r.add("end")
	}
	r.add("group %g %s", g.Alpha, g.Blend)
	draw(r)
	r.add("end")
}

// painting is a canvas that a test looks at.
type painting = display.Canvas

// chequers is a picture of 4 by 2 px.
func chequers(t *testing.T) *picture.Picture {
	t.Helper()
	im := image.NewGray(image.Rect(0, 0, 4, 2))
	for i := range im.Pix {
		im.Pix[i] = uint8(255 * ((i + i/4) % 2))
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, im))
	pic, err := picture.Decode(b.Bytes())
	require.NoError(t, err)
	return pic
}

// eachPage sets the pages of a body, each 200 px wide, and lets a test paint them.
func eachPage(t *testing.T, html string, height float64, visit func(n int, paint func(painting))) {
	t.Helper()
	pictures := func(address string) *picture.Picture {
		sketch := func(c display.Canvas, to display.Rect) {
			path := &display.Path{}
			path.Rect(to)
			c.Fill(path, display.Solid(style.RGB8(0, 128, 0)), false)
		}
		switch strings.TrimPrefix(address, "/") {
		case "chequers.png":
			return chequers(t)
		case "sizeless.svg":
			return &picture.Picture{Draw: sketch}
		case "broad.svg": // three times as broad as high
			return &picture.Picture{Ratio: 3, Draw: sketch}
		}
		return nil
	}
	doc, err := markup.ParseHTML([]byte("<body style='margin:0;font:10px/10px sans-serif'>" + html))
	require.NoError(t, err)
	fonts := font.NewSet()
	r := style.NewResolver(style.Env{Medium: "print", Width: 200, Height: height}, layout.NewMetrics(fonts), nil, nil)
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			r.AddSheet(style.ParseSheet("", "", n.Content()), style.Author, nil, nil)
		}
		return true
	})
	r.Finish()
	b := &box.Builder{Styles: r, Tell: func(string, string) {}, Pictures: func(address string, _ *markup.Node) *picture.Picture { return pictures(address) }, Inline: func(svg *markup.Node, s *style.Style) *picture.Picture {
		return (&picture.Drawing{Root: svg, Styles: r, Fonts: fonts}).Picture(s)
	}}
	root := b.Build(doc.Find("html"))
	l := &layout.Layout{Fonts: fonts, Styles: r, Viewport: [2]float64{200, height}, Tell: func(string, string, *box.Box) {}}
	var at *layout.Break
	for n := 1; ; n++ {
		page, rest := l.LayPage(root, 200, height, 0, 0, at)
		l.SettleAll(page, 200, height)
		visit(n, func(c painting) {
			p := NewPainter(c, pictures, display.Rect{W: 200, H: height}, nil)
			p.Outside = FindOutside(root)
			p.Root(page, 0, 0)
		})
		if at = rest; rest == nil {
			return
		}
	}
}

// painted gives the calls for the pages of a body, each 100 px tall.
func painted(t *testing.T, html string) (pages [][]string) {
	t.Helper()
	eachPage(t, html, 100, func(_ int, paint func(painting)) {
		rec := &recorder{}
		paint(rec)
		pages = append(pages, rec.calls)
	})
	return pages
}

func one(t *testing.T, html string) string { return strings.Join(painted(t, html)[0], "\n") }

func TestSquareBordersAreRectangles(t *testing.T) {
	assert.Equal(t, "fill 0,0 24×2 #0000ff\nfill 22,2 2×10 #0000ff\nfill 0,12 24×2 #0000ff\nfill 0,2 2×10 #0000ff",
		one(t, "<div style='width:20px;height:10px;border:2px solid blue'></div>"))
	assert.Equal(t, "fill 0,10 20×3 #ff0000", one(t, "<div style='width:20px;height:10px;border-bottom:3px solid red'></div>"))
}

func TestPaintingOrder(t *testing.T) {
	got := one(t, `<div style="position:relative;z-index:1;width:1px;height:1px;background:red"></div><div style="float:left;width:2px;height:1px;background:lime"></div>
		<div style="width:3px;height:1px;background:blue"></div><div style="position:relative;z-index:-1;width:4px;height:1px;background:yellow"></div><div style="height:10px">w</div>`)
	order := []string{"4×1 #ffff00", "3×1 #0000ff", "2×1 #00ff00", "text w", "1×1 #ff0000"}
	last := -1
	for _, w := range order {
		i := strings.Index(got, w)
		require.GreaterOrEqual(t, i, 0, "%s in %s", w, got)
		assert.Greater(t, i, last, "negative layers, blocks, floats, lines, positive layers: %s", got)
		last = i
	}
}

func TestGroupsAndClips(t *testing.T) {
	got := one(t, "<div style='opacity:.5;overflow:hidden;width:20px;height:10px'><p style='margin:0;width:50px;height:5px;background:red'></p></div>")
	assert.Equal(t, "group 0.5 \nclip 0,0 20×10\nfill 0,0 50×5 #ff0000\nend", got)
	assert.Contains(t, one(t, "<div style='mix-blend-mode:multiply;width:1px;height:1px;background:red'></div>"), "group 1 Multiply")
	assert.Contains(t, one(t, "<div style='clip-path:inset(1px 2px);width:20px;height:10px;background:red'></div>"), "clip 2,1 16×8")
	assert.Empty(t, one(t, "<div style='visibility:hidden;width:9px;height:9px;background:red'></div>"))
}

func TestCutBoxesArePaintedAsOne(t *testing.T) {
	pages := painted(t, "<div style='height:150px;width:20px;background:linear-gradient(red, blue)'></div>")
	require.Len(t, pages, 2)
	first, second := strings.Join(pages[0], "\n"), strings.Join(pages[1], "\n")
	assert.Contains(t, first, "clip 0,0 20×150", "the whole box, clipped to its part")
	assert.Contains(t, second, "clip 0,-100 20×150", "it began a page earlier")
	assert.Contains(t, second, "gradient")
}

func TestVerticalTextIsTurned(t *testing.T) {
	got := one(t, "<div style='writing-mode:vertical-rl;width:20px;height:50px'>w</div>")
	assert.Regexp(t, `transform \[0 1 -1 0 20\.\d+ 0\]\ntext w`, got)
	assert.Contains(t, one(t, "<div style='writing-mode:sideways-lr;width:20px;height:50px'>w</div>"), "transform [0 -1 1 0")
}

// TestFaintShadows: a shadow has no more rings than its colour has shades, as screens round each.
func TestFaintShadows(t *testing.T) {
	rings := func(alpha string) int {
		return strings.Count(one(t, "<div style='width:200px;height:200px;box-shadow:0 0 40px rgb(0 0 0/"+alpha+")'></div>"), "fill")
	}
	assert.Equal(t, 24, rings("0.5"))
	assert.Equal(t, 5, rings("0.02"))
	assert.Equal(t, 1, rings("0.001"))
}

func TestInnerShadowsLeaveNoLines(t *testing.T) {
	assert.Equal(t, "clip 0,0 20×10\nfill 0,0 5×10 #0000ff", one(t, "<div style='width:20px;height:10px;box-shadow:inset 5px 0 blue'></div>"))
}

func TestBackgroundsOfNoSizePaintNothing(t *testing.T) {
	assert.Empty(t, one(t, "<div style='width:20px;height:0;background:red'></div>"))
}

// A positioned box belongs to the nearest stacking context, which paints it once.
func TestPositionedBoxesInOneAnotherArePaintedOnce(t *testing.T) {
	got := one(t, `<div style="position:relative"><div style="position:absolute">outer<div style="position:relative">inner</div></div></div>`)
	assert.Equal(t, 1, strings.Count(got, "text outer"), got)
	assert.Equal(t, 1, strings.Count(got, "text inner"), got)
}

// The gaps between cells belong to the table (CSS 2.2, §17.6.1).
func TestRowBackgroundsShowBehindCellsAlone(t *testing.T) {
	got := one(t, `<table style="border-spacing:4px"><tr style="background:lime"><td style="padding:0;width:10px;height:6px"><td style="padding:0;width:10px"></table>`)
	assert.Equal(t, 2, strings.Count(got, "#00ff00"), got)
	got = one(t, `<table style="border-spacing:0"><tr style="background:lime"><td style="padding:0;width:10px;height:6px"><td style="padding:0;width:10px"></table>`)
	assert.Contains(t, got, "20×6 #00ff00", "without gaps it is one area")
}
