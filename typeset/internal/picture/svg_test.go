package picture

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// drawn writes down what a drawing of 100 × 100 px shows, in px of the drawing. Clips
// stand before what they cut.
type drawn struct {
	lines []string
	m     []display.Matrix
}

func (d *drawn) Save()                            { d.m = append(d.m, d.now()) }
func (d *drawn) Restore()                         { d.m = d.m[:len(d.m)-1] }
func (d *drawn) Transform(m display.Matrix)       { d.m[len(d.m)-1] = d.now().Mul(m) }
func (d *drawn) Tag(*tag.Element, int32)          {}
func (d *drawn) Cover(*tag.Element, display.Rect) {}
func (d *drawn) Furniture(display.Furniture)      {}
func (d *drawn) Link(display.Rect, display.Link)  {}
func (d *drawn) Anchor(string, float64, float64)  {}
func (d *drawn) Field(display.Field)              {}

func (d *drawn) now() display.Matrix {
	if len(d.m) == 0 {
		return display.Identity
	}
	return d.m[len(d.m)-1]
}

func (d *drawn) add(format string, args ...any) {
	d.lines = append(d.lines, fmt.Sprintf(format, args...))
}

func (d *drawn) box(p *display.Path) string {
	b := p.Transform(d.now()).Bounds()
	return fmt.Sprintf("%s,%s %s×%s", short(b.X), short(b.Y), short(b.W), short(b.H))
}

func short(v float64) string {
	return strings.TrimSuffix(strings.TrimSuffix(fmt.Sprintf("%.1f", v+1e-9), "0"), ".")
}

func (d *drawn) paint(p display.Paint) string {
	switch {
	case p.Gradient != nil:
		g := p.Gradient
		return fmt.Sprintf("gradient of %d from %s,%s to %s,%s", len(g.Stops), short(g.X0), short(g.Y0), short(g.X1), short(g.Y1))
	case p.Tile != nil:
		in := &drawn{m: []display.Matrix{display.Identity}}
		p.Tile.Draw(in)
		return fmt.Sprintf("tiles of %s×%s [%s]", short(p.Tile.StepX), short(p.Tile.StepY), strings.Join(in.lines, "; "))
	}
	out := fmt.Sprintf("#%02x%02x%02x", int(p.Color.C[0]*255+0.5), int(p.Color.C[1]*255+0.5), int(p.Color.C[2]*255+0.5))
	if p.Color.A < 1 {
		out += fmt.Sprintf(" at %g", p.Color.A)
	}
	return out
}

func (d *drawn) Clip(p *display.Path, evenOdd bool) {
	d.add("clip %s%s", d.box(p), map[bool]string{true: " even-odd"}[evenOdd])
}

func (d *drawn) Image(_ *display.Image, r display.Rect) {
	p := &display.Path{}
	p.Rect(r)
	d.add("image %s", d.box(p))
}

func (d *drawn) Fill(p *display.Path, paint display.Paint, evenOdd bool) {
	d.add("fill %s %s", d.box(p), d.paint(paint))
}

func (d *drawn) Stroke(p *display.Path, paint display.Paint, s display.Stroke) {
	line := fmt.Sprintf("stroke %s %s wide %s", d.box(p), d.paint(paint), short(s.Width))
	if len(s.Dash) > 0 {
		line += fmt.Sprint(" dashed ", s.Dash)
	}
	d.add("%s", line)
}

func (d *drawn) Text(t *display.Text) {
	m := d.now()
	x, y := m.Apply(t.X, t.Y)
	line := fmt.Sprintf("text %q %s,%s %s", t.Runs[0].Text, short(x), short(y), d.paint(t.Paint))
	if m[1] != 0 {
		line += " turned"
	}
	if t.LetterSpacing != 0 {
		line += " spaced " + short(t.LetterSpacing)
	}
	d.add("%s", line)
}

func (d *drawn) Drawing(_ any, box display.Rect, draw func(display.Canvas)) {
	display.DrawInPlace(d, box, draw)
}

func (d *drawn) Group(g display.Group, draw func(display.Canvas)) {
	what := fmt.Sprintf("group %g %s", g.Alpha, g.Blend)
	d.add("%s {", strings.TrimSpace(what))
	if g.Mask != nil {
		d.add("mask alpha=%t {", g.AlphaMask)
		g.Mask(d)
		d.add("}")
	}
	draw(d)
	d.add("}")
}

// noMetrics stands for the fonts of lengths.
type noMetrics struct{}

func (noMetrics) InkBelow(*style.Style, string) float64 { return 0 }

func (noMetrics) Metrics(*style.Style) style.Metrics { return style.Metrics{Ex: 0.5, Ch: 0.5} }

// draw draws what stands in an svg element.
func draw(t *testing.T, inside string) string {
	t.Helper()
	doc, err := markup.ParseXML([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" font-size="10">` + inside + "</svg>"))
	require.NoError(t, err, inside)
	return drawSVG(t, doc, inside)
}

func drawSVG(t *testing.T, doc *markup.Node, inside string) string {
	t.Helper()
	r := style.NewResolver(style.Env{Medium: "print", Width: 800, Height: 600}, noMetrics{}, nil, nil)
	root := doc.Find("svg")
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			r.AddSheet(style.ParseSheet("x.svg", "", n.Content()), style.Author, nil, nil)
		}
		return true
	})
	r.Finish()
	d := &Drawing{Root: root, Scaled: true, Styles: r, Fonts: font.NewSet(), Pictures: func(string) *Picture {
		return &Picture{W: 60, H: 30, Ratio: 2, Image: &display.Image{W: 60, H: 30}}
	}}
	c := &drawn{m: []display.Matrix{display.Identity}}
	d.Layers = func(on display.Canvas, s *style.Style, boxes func(style.Keyword) display.Rect, element func(string) (func(display.Canvas), bool)) {
		for i, im := range s.Mask.Images {
			box := &display.Path{}
			box.Rect(boxes(s.Mask.Layer(i).Clip[0]))
			on.Clip(box, false)
			if mask, _ := element(im.URL); mask != nil {
				mask(on)
			}
		}
	}
	d.Picture(r.Style(root, "", style.Initial())).Paint(c, display.Rect{W: 100, H: 100})
	assert.Len(t, c.m, 1, "what is saved is restored: %s", inside)
	require.Equal(t, "clip 0,0 100×100", c.lines[0])
	return strings.Join(c.lines[1:], "\n")
}

// What is drawn, by the standard. A page of such drawings was held against a browser's.
func TestDrawings(t *testing.T) {
	for _, c := range drawings {
		assert.Equal(t, c[1], draw(t, c[0]), c[0])
	}
}

var drawings = [][2]string{
	{
		`<rect x="10" y="20" width="30" height="40" rx="5" fill="red" stroke="blue" stroke-width="2"/>`,
		`fill 10,20 30×40 #ff0000
stroke 10,20 30×40 #0000ff wide 2`,
	},
	{
		`<circle cx="50" cy="50" r="10%" fill="none" stroke="lime" stroke-opacity=".5"/>`,
		`stroke 40,40 20×20 #00ff00 at 0.5 wide 1`,
	},
	{
		`<ellipse cx="50" cy="50" rx="20" ry="10"/><line x1="1" y1="2" x2="31" y2="2" stroke="red"/>`,
		`fill 30,40 40×20 #000000
stroke 1,2 30×0 #ff0000 wide 1`,
	},
	{
		`<polyline points="0,0 10,5 20,0" fill="none" stroke="red" stroke-dasharray="3"/><polygon points="0 0 10 0 10 10" fill="red"/>`,
		`stroke 0,0 20×5 #ff0000 wide 1 dashed [3 3]
fill 0,0 10×10 #ff0000`,
	},
	{
		`<path d="M10 10h20v20z" fill-rule="evenodd"/><rect width="0" height="5"/>`,
		`fill 10,10 20×20 #000000`,
	},
	{
		`<style>.a { fill: teal } rect { stroke: none }</style><rect class="a" width="5" height="5" fill="red"/>`,
		`fill 0,0 5×5 #008080`,
	},
	{
		`<g transform="translate(10 20) scale(2)" fill="red"><rect width="5" height="5"/><rect transform="rotate(90)" width="10" height="5"/></g>`,
		`fill 10,20 10×10 #ff0000
fill 0,20 10×20 #ff0000`,
	},
	{
		`<rect style="transform: translateX(10px)" transform="scale(3)" width="5" height="5"/>`,
		`fill 10,0 5×5 #000000`,
	},
	{
		`<g opacity=".5"><rect width="5" height="5"/></g><rect width="5" height="5" style="mix-blend-mode: multiply"/>`,
		`group 0.5 {
fill 0,0 5×5 #000000
}
group 1 Multiply {
fill 0,0 5×5 #000000
}`,
	},
	{
		`<g style="isolation: isolate"><rect width="5" height="5" style="mix-blend-mode: color-dodge"/></g>`,
		`group 1 {
group 1 ColorDodge {
fill 0,0 5×5 #000000
}
}`,
	},
	{
		`<rect visibility="hidden" width="5" height="5"/><rect display="none" width="5" height="5"/><defs><rect width="5" height="5"/></defs>`,
		``,
	},
	{
		`<svg x="10" y="10" width="50" height="20" viewBox="0 0 10 10"><rect width="10" height="10"/></svg>`,
		`clip 10,10 50×20
fill 25,10 20×20 #000000`,
	},
	{
		`<svg x="10" y="10" width="50" height="20" viewBox="0 0 10 10" preserveAspectRatio="none"><rect width="10" height="10"/></svg>`,
		`clip 10,10 50×20
fill 10,10 50×20 #000000`,
	},
	{
		`<svg width="50" height="20" viewBox="0 0 10 10" preserveAspectRatio="xMinYMax slice"><rect width="10" height="10"/></svg>`,
		`clip 0,0 50×20
fill 0,-30 50×50 #000000`,
	},
	{
		`<defs><rect id="r" width="5" height="5"/><symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol></defs><use href="#r" x="3" fill="red"/><use xlink:href="#s" x="10" y="20" width="30" height="40" fill="blue"/><use href="#none"/>`,
		`fill 3,0 5×5 #ff0000
clip 10,20 30×40
fill 10,25 30×30 #0000ff`,
	},
	{
		`<g id="loop"><use href="#loop"/><rect width="5" height="5"/></g>`,
		`fill 0,0 5×5 #000000`,
	},
	{
		`<image href="p.png" x="5" y="5" width="90" height="40"/><image href="p.png" width="90" height="40" preserveAspectRatio="xMinYMin"/><image href="p.png" y="50" width="40" height="40" preserveAspectRatio="xMaxYMid slice"/><image href="p.png" width="40"/><image href="p.png" width="10" height="10" preserveAspectRatio="none"/>`,
		`image 10,5 80×40
image 0,0 80×40
clip 0,50 40×40
image -40,50 80×40
image 0,0 40×20
image 0,0 10×10`,
	},
	{
		`<switch><rect systemLanguage="xx" width="1" height="1"/><rect width="2" height="2"/><rect width="3" height="3"/></switch><rect systemLanguage="de, en-GB" width="4" height="4"/><rect requiredExtensions="x" width="5" height="5"/>`,
		`fill 0,0 2×2 #000000
fill 0,0 4×4 #000000`,
	},
	{
		`<linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="50%" stop-color="lime" stop-opacity=".5"/><stop offset="1"/></linearGradient><rect width="50" height="20" fill="url(#g)"/>`,
		`fill 0,0 50×20 gradient of 3 from 0,0 to 1,0`,
	},
	{
		`<linearGradient id="g"><stop stop-color="red"/><stop offset="1"/></linearGradient><linearGradient id="h" href="#g" gradientUnits="userSpaceOnUse" x1="10" x2="60%"/><rect width="50" height="20" fill="url(#h)"/>`,
		`fill 0,0 50×20 gradient of 2 from 10,0 to 60,0`,
	},
	{
		`<radialGradient id="g" fx=".2"><stop stop-color="red"/><stop offset="1"/></radialGradient><rect width="50" height="20" fill="url(#g)"/>`,
		`fill 0,0 50×20 gradient of 2 from 0.2,0.5 to 0.5,0.5`,
	},
	{
		`<linearGradient id="g"><stop stop-color="red"/></linearGradient><rect width="5" height="5" fill="url(#g)"/><rect width="6" height="6" fill="url(#missing) blue"/><rect width="7" height="7" fill="url(#missing)"/>`,
		`fill 0,0 5×5 #ff0000
fill 0,0 6×6 #0000ff`,
	},
	{
		`<pattern id="p" width="10" height="20" patternUnits="userSpaceOnUse"><rect width="3" height="4" fill="red"/></pattern><rect width="50" height="50" fill="url(#p)"/>`,
		`fill 0,0 50×50 tiles of 10×20 [fill 0,0 3×4 #ff0000]`,
	},
	{
		`<pattern id="p" width=".5" height=".5" viewBox="0 0 10 10"><rect width="10" height="10"/></pattern><rect x="10" width="40" height="40" fill="url(#p)"/>`,
		`fill 10,0 40×40 tiles of 20×20 [fill 10,0 20×20 #000000]`,
	},
	{
		`<clipPath id="c"><circle cx="50" cy="50" r="20" clip-rule="evenodd"/><rect width="5" height="5" display="none"/></clipPath><rect width="90" height="90" clip-path="url(#c)"/>`,
		`clip 30,30 40×40 even-odd
fill 0,0 90×90 #000000`,
	},
	{
		`<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width=".5" height="1"/></clipPath><rect x="10" width="80" height="20" clip-path="url(#c)"/>`,
		`clip 10,0 40×20
fill 10,0 80×20 #000000`,
	},
	{
		`<clipPath id="a"><rect width="50" height="50"/></clipPath><clipPath id="b" clip-path="url(#a)" transform="translate(20)"><use href="#r"/></clipPath><defs><rect id="r" width="60" height="60"/></defs><rect width="90" height="90" clip-path="url(#b)"/>`,
		`clip 0,0 50×50
clip 20,0 60×60
fill 0,0 90×90 #000000`,
	},
	{
		`<rect x="20" y="20" width="60" height="40" style="clip-path: inset(5px 10px)"/><rect x="20" width="60" height="40" style="clip-path: circle(10px at 0 0) view-box"/>`,
		`clip 30,25 40×30
fill 20,20 60×40 #000000
clip -10,-10 20×20
fill 20,0 60×40 #000000`,
	},
	{
		`<rect x="10" width="40" height="20" style="clip-path: shape(evenodd from 5px 10%, hline to 50%, vline by 10px, line by -10px 2px, arc by 4px 0px of 2px cw, close)"/>`,
		`clip 15,2 15×12 even-odd
fill 10,0 40×20 #000000`,
	},
	{
		`<rect width="100" height="50" style="clip-path: ellipse(farthest-corner closest-side at 10px 20px)"/>`,
		`clip -117.3,0 254.6×40
fill 0,0 100×50 #000000`,
	},
	{
		`<mask id="m"><rect width="50" height="50" fill="white"/></mask><rect x="10" width="20" height="20" mask="url(#m)"/>`,
		`group 1 {
mask alpha=false {
clip 8,-2 24×24
fill 0,0 50×50 #ffffff
}
fill 10,0 20×20 #000000
}`,
	},
	{
		`<mask id="m" mask-type="alpha" maskUnits="userSpaceOnUse" x="5" y="5" width="30" height="40" maskContentUnits="objectBoundingBox"><rect width="1" height=".5"/></mask><rect x="10" width="20" height="20" mask="url(#m)"/>`,
		`group 1 {
mask alpha=true {
clip 5,5 30×40
fill 10,0 20×10 #000000
}
fill 10,0 20×20 #000000
}`,
	},
	{
		`<style>rect{mask:linear-gradient(red,blue) view-box, linear-gradient(red,blue) fill-box, linear-gradient(red,blue) stroke-box, linear-gradient(red,blue) no-clip}</style><rect x="10" width="20" height="20" stroke="red" stroke-width="4"/>`,
		`group 1 {
mask alpha=true {
clip 0,0 100×100
clip 10,0 20×20
clip 8,-2 24×24
clip -100000,-100000 200000×200000
}
fill 10,0 20×20 #000000
stroke 10,0 20×20 #ff0000 wide 4
}`,
	},
	{
		`<mask id="m"><rect width="50" height="50" fill="white"/></mask><image href="a.png" x="10" height="20" style="mask-image: url(#m), linear-gradient(red,blue); mask-clip: fill-box"/>`,
		`group 1 {
mask alpha=true {
clip 10,0 40×20
clip 6,-2 48×24
fill 0,0 50×50 #ffffff
clip 10,0 40×20
}
image 10,0 40×20
}`,
	},
	{
		`<defs><g id="g"><rect width="10" height="5"/><circle cx="20" cy="20" r="5"/></g></defs><use href="#g" x="7" style="mask: linear-gradient(red,blue) fill-box"/>`,
		`group 1 {
mask alpha=true {
clip 7,0 25×25
}
fill 7,0 10×5 #000000
fill 22,15 10×10 #000000
}`,
	},
	{
		`<foreignObject x="5" y="6" width="7" height="8" style="mask: linear-gradient(red,blue) fill-box"/>`,
		`group 1 {
mask alpha=true {
clip 5,6 7×8
}
}`,
	},
	{
		`<marker id="k" markerWidth="4" markerHeight="4" refX="2" refY="2"><rect width="4" height="4"/></marker><path d="M10 10H30V50" fill="none" stroke="red" stroke-width="2" marker-start="url(#k)" marker-mid="url(#k)" marker-end="url(#k)"/>`,
		`stroke 10,10 20×40 #ff0000 wide 2
clip 6,6 8×8
fill 6,6 8×8 #000000
clip 26,6 8×8
fill 26,6 8×8 #000000
clip 26,46 8×8
fill 26,46 8×8 #000000`,
	},
	{
		`<marker id="k" markerWidth="4" markerHeight="2" orient="auto-start-reverse" markerUnits="userSpaceOnUse" overflow="visible"><rect width="4" height="2"/></marker><path d="M10 10C10 50 30 60 50 60" fill="none" stroke="red" marker-start="url(#k)" marker-end="url(#k)"/>`,
		`stroke 10,10 40×50 #ff0000 wide 1
fill 10,6 2×4 #000000
fill 50,60 4×2 #000000`,
	},
	{
		`<rect width="10" height="10" fill="red" stroke="blue" paint-order="stroke"/><rect transform="scale(10)" width="1" height="1" fill="none" stroke="red" stroke-width="2" vector-effect="non-scaling-stroke"/>`,
		`stroke 0,0 10×10 #0000ff wide 1
fill 0,0 10×10 #ff0000
stroke 0,0 10×10 #ff0000 wide 2`,
	},
	{
		`<text x="10" y="20">Berth <tspan fill="red" dy="5">A 1</tspan></text>`,
		`text "Berth " 10,20 #000000
text "A 1" 34.7,25 #ff0000`,
	},
	{
		`<text x="50" y="20" text-anchor="middle">ll</text><text x="50" y="40" text-anchor="end">ll</text>`,
		`text "ll" 47.2,20 #000000
text "ll" 44.4,40 #000000`,
	},
	{
		`<text x="10 30" y="20 25" dx="1">abc</text><text x="0" y="50" rotate="90 0">ab</text>`,
		`text "a" 11,20 #000000
text "bc" 30,25 #000000
text "a" 0,50 #000000 turned
text "b" 4.4,50 #000000`,
	},
	{
		`<text y="20" textLength="50">ab</text><text y="40" textLength="50" lengthAdjust="spacingAndGlyphs">ab</text><text y="60" letter-spacing="3">ab</text>`,
		`text "ab" 0,20 #000000 spaced 40.6
text "ab" 0,40 #000000
text "ab" 0,60 #000000 spaced 3`,
	},
	{
		`<path id="t" d="M10 50H90" fill="none"/><text><textPath href="#t" startOffset="50%">ab</textPath></text><text><textPath href="#none">lost</textPath></text>`,
		`text "a" 50,50 #000000
text "b" 54.4,50 #000000`,
	},
	{
		`<path id="t" d="M10 50H90" fill="none"/><path id="u" d="M10 80H90" fill="none"/><text><textPath href="#t">a<textPath href="#u">b</textPath>c</textPath></text>`,
		`text "a" 10,50 #000000
text "b" 10,80 #000000
text "c" 14.4,50 #000000`,
	},
	{
		`<text y="20" text-decoration="underline">ab<tspan text-decoration="line-through">c</tspan></text>`,
		`fill 0,20.4 9.4×0.5 #000000
text "ab" 0,20 #000000
fill 9.4,20.4 4.4×0.5 #000000
text "c" 9.4,20 #000000
fill 9.4,17.9 4.4×0.5 #000000`,
	},
	{
		`<text y="50" dominant-baseline="hanging">a</text><text y="50" dominant-baseline="central">a</text>`,
		`text "a" 0,57.1 #000000
text "a" 0,53.4 #000000`,
	},
	{
		`<clipPath id="c"><text y="20" font-size="20">H</text></clipPath><rect width="90" height="90" clip-path="url(#c)"/>`,
		`clip 0.6,6.9 13.3×13.1
fill 0,0 90×90 #000000`,
	},
}

// What refers to itself, or to what refers to it, ends: it is left out there.
// TestBackgroundOfPictures: a picture file has a background, which its viewBox does not scale.
func TestBackgroundOfPictures(t *testing.T) {
	for background, want := range map[string]string{
		"teal":         "fill 0,0 100×100 #008080\nfill 0,0 20×20 #ff0000",
		"currentcolor": "fill 0,0 100×100 #0000ff\nfill 0,0 20×20 #ff0000",
		"transparent":  "fill 0,0 20×20 #ff0000",
	} {
		doc, err := markup.ParseXML([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 50 50" style="color: blue; background: ` + background + `"><rect width="10" height="10" fill="red"/></svg>`))
		require.NoError(t, err)
		assert.Equal(t, want, drawSVG(t, doc, background))
	}
}

func TestReferencesInCircles(t *testing.T) {
	for _, in := range []string{
		`<mask id="m"><rect width="10" height="10" mask="url(#m)"/><rect width="10" height="10" mask="url(#m)"/></mask><rect width="50" height="50" mask="url(#m)"/>`,
		`<marker id="k"><path d="M0 0L1 1L2 2L3 3" marker-mid="url(#k)" marker-end="url(#k)"/></marker><path d="M0 0L1 1L2 2" marker-mid="url(#k)"/>`,
		`<clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath><rect width="50" height="50" clip-path="url(#c)"/>`,
		`<pattern id="p" width="9" height="9" patternUnits="userSpaceOnUse"><rect width="5" height="5" fill="url(#q)"/></pattern><pattern id="q" width="9" height="9" patternUnits="userSpaceOnUse"><rect width="5" height="5" fill="url(#p)"/></pattern><rect width="50" height="50" fill="url(#p)"/>`,
		`<g id="x"><use href="#y"/><use href="#y"/></g><g id="y"><use href="#x"/><use href="#x"/><rect width="3" height="3"/></g>`,
		`<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect width="5" height="5" fill="url(#a)"/>`,
	} {
		assert.Less(t, strings.Count(draw(t, in), "\n"), 100, in)
	}
}

// Whatever stands in a drawing, it is drawn to its end.
func FuzzDrawing(f *testing.F) {
	for _, c := range drawings {
		f.Add(c[0])
	}
	f.Fuzz(func(t *testing.T, inside string) {
		if len(inside) > 2000 {
			return
		}
		doc, err := markup.ParseXML([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" font-size="10">` + inside + "</svg>"))
		if err != nil || doc.Find("svg") == nil {
			return
		}
		drawSVG(t, doc, inside)
	})
}
