package paint

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
)

// TestLooks holds what a few boxes look like against what the standards say.
func TestLooks(t *testing.T) {
	const red = "linear-gradient(red,red)"
	for _, c := range []struct{ name, html, want string }{
		{
			"tiles are cut at the edge", "<div style='width:40px;height:10px;background:" + red + " 0 0/15px 10px'></div>",
			"clip 0,0 40×10\nfill 0,0 15×10 gradient\nfill 15,0 15×10 gradient\nfill 30,0 15×10 gradient",
		},
		{
			"tiles are never finer than half a px", "<div style='width:2px;height:0.5px;background:" + red + " 0 0/0.1px 0.1px'></div>",
			"clip 0,0 2×0.5\nfill 0,0 0.5×0.5 gradient\nfill 0.5,0 0.5×0.5 gradient\nfill 1,0 0.5×0.5 gradient\nfill 1.5,0 0.5×0.5 gradient",
		},
		{
			"but one that is not repeated can be", "<div style='width:2px;height:2px;background:" + red + " 0 0/0.1px 0.2px no-repeat'></div>",
			"clip 0,0 2×2\nfill 0,0 0.1×0.2 gradient",
		},
		{
			"space puts what is left between tiles", "<div style='width:40px;height:10px;background:" + red + " 0 0/15px 10px space'></div>",
			"clip 0,0 40×10\nfill 0,0 15×10 gradient\nfill 25,0 15×10 gradient",
		},
		{
			"round makes tiles fit", "<div style='width:45px;height:10px;background:" + red + " 0 0/20px 10px round'></div>",
			"clip 0,0 45×10\nfill 0,0 22.5×10 gradient\nfill 22.5,0 22.5×10 gradient",
		},
		{
			"a place from the right and the bottom", "<div style='width:40px;height:10px;background:" + red + " right 2px bottom/10px 4px no-repeat'></div>",
			"clip 0,0 40×10\nfill 28,6 10×4 gradient",
		},
		{
			"an outline stands off", "<div style='width:20px;height:10px;outline:2px solid red;outline-offset:3px'></div>",
			"fill -5,-5 30×2 #ff0000\nfill 23,-3 2×16 #ff0000\nfill -5,13 30×2 #ff0000\nfill -5,-3 2×16 #ff0000",
		},
		{
			"a shadow spreads, and is not seen through the box", "<div style='width:20px;height:10px;box-shadow:3px 4px 0 1px red'></div>",
			"clip path -18,-18 56×46\nfill 2,3 22×12 #ff0000",
		},
		{
			"an inner shadow", "<div style='width:20px;height:10px;box-shadow:inset 3px 4px red'></div>",
			"clip 0,0 20×10\nfill 0,0 20×4 #ff0000\nfill 0,4 3×6 #ff0000",
		},
		{"a shadow of a box without height", "<div style='width:20px;height:0;box-shadow:0 0 0 2px red'></div>", "clip path -12,-12 44×24\nfill -2,-2 24×4 #ff0000"},
		{"a shadow of a box without size", "<div style='width:0;height:0;box-shadow:0 0 0 2px red'></div>", "clip path -12,-12 24×24\nfill -2,-2 4×4 #ff0000"},
		{"nothing is drawn for what cannot be seen", "<div style='width:20px;height:10px;background:transparent none'></div>", ""},
		{"an inner shadow that fills the box", "<div style='width:20px;height:10px;box-shadow:inset 0 0 0 5px red'></div>", "clip 0,0 20×10\nfill -1000,-1000 2020×2010 #ff0000"},
		{"a decoration has the colour of its shadow", "<p style='margin:0;font:10px/10px serif;text-decoration:underline blue;text-shadow:2px 3px red'>a</p>", "fill 2,11.3125 4.4384765625×0.625 #ff0000\ntext a #ff0000\nfill 0,8.3125 4.4384765625×0.625 #0000ff\ntext a #000000"},
		{"a blur too small to be seen", "<div style='filter:blur(0.05px)'><div style='width:20px;height:10px;background:red'></div></div>", "fill 0,0 20×10 #ff0000"},
		{"a frame of a gradient: edges are stretched or repeated", "<div style='width:35px;height:10px;border:10px solid;border-image:linear-gradient(red,blue) 10 / 10px / 0 repeat stretch'></div>", "clip 0,0 10×10\nclip 0,0 10×10\nfill 0,0 55×30 gradient\nclip 10,0 35×10\nclip 10,0 35×10\nfill 0,0 55×30 gradient\nclip 45,0 10×10\nclip 45,0 10×10\nfill 0,0 55×30 gradient\nclip 0,10 10×10\nclip 0,10 10×10\nfill 0,0 55×30 gradient\nclip 45,10 10×10\nclip 45,10 10×10\nfill 0,0 55×30 gradient\nclip 0,20 10×10\nclip 0,20 10×10\nfill 0,0 55×30 gradient\nclip 10,20 35×10\nclip 10,20 35×10\nfill 0,0 55×30 gradient\nclip 45,20 10×10\nclip 45,20 10×10\nfill 0,0 55×30 gradient"},
		{"a colour as image", "<div style='width:20px;height:10px;background:image(red)'></div>", "clip 0,0 20×10\nfill 0,0 20×10 #ff0000"},
		{
			"a colour for a picture that is not there", "<div style='width:20px;height:10px;background:image(url(none.png), lime)'></div>",
			"clip 0,0 20×10\nfill 0,0 20×10 #00ff00",
		},
		{
			"items of a grid are painted whole", "<div style='display:grid;width:40px'><p style='grid-area:1/1;margin:0;color:red'>a</p><p style='grid-area:1/1;margin:0;height:10px;background:blue'></p></div>",
			"text a #ff0000\nfill 0,0 40×10 #0000ff",
		},
		{
			"a column rule stands in the gap", "<div style='columns:2;column-gap:10px;column-rule:2px solid red'><p style='margin:0;height:10px'></p><p style='margin:0;height:10px'></p></div>",
			"clip -4000,0 8200×4100\nfill 99,0 2×10 #ff0000",
		},
		{
			"joined borders lie on the grid", "<table style='border-collapse:collapse'><tr><td style='padding:0;width:10px;height:10px;border:2px solid blue'></table>",
			"fill 0,0 14×2 #0000ff\nfill 0,12 14×2 #0000ff\nfill 0,0 2×14 #0000ff\nfill 12,0 2×14 #0000ff",
		},
		{
			"joined borders lie over a positioned cell", "<table style='border-collapse:collapse'><tr><td style='position:relative;padding:0;width:10px;height:10px;border:2px solid blue;background:red'></table>",
			"fill 0,0 14×2 #0000ff\nfill 0,12 14×2 #0000ff\nfill 0,0 2×14 #0000ff\nfill 12,0 2×14 #0000ff\nfill 1,1 12×12 #ff0000\nfill 0,0 14×2 #0000ff\nfill 0,12 14×2 #0000ff\nfill 0,0 2×14 #0000ff\nfill 12,0 2×14 #0000ff",
		},
		{"blending", "<div style='width:20px;height:10px;mix-blend-mode:multiply;background:red'></div>", "group 1 Multiply\nfill 0,0 20×10 #ff0000\nend"},
		{
			"layers of a background blend with each other alone", "<div style='width:20px;height:10px;background:" + red + " 0 0/10px 10px no-repeat,blue;background-blend-mode:color-dodge'></div>",
			"group 1 \nfill 0,0 20×10 #0000ff\nclip 0,0 20×10\ngroup 1 ColorDodge\nfill 0,0 10×10 gradient\nend\nend",
		},
		{
			"what blends does so within its stacking context", "<div style='position:relative;z-index:1;width:20px;height:10px;background:blue'><div style='mix-blend-mode:multiply;height:10px;background:red'></div></div>",
			"group 1 \nfill 0,0 20×10 #0000ff\ngroup 1 Multiply\nfill 0,0 20×10 #ff0000\nend\nend",
		},
		{
			"a positioned box alone is none", "<div style='position:relative;width:20px;height:10px;background:blue'><div style='mix-blend-mode:multiply;height:10px;background:red'></div></div>",
			"fill 0,0 20×10 #0000ff\ngroup 1 Multiply\nfill 0,0 20×10 #ff0000\nend",
		},
		{
			"a z-index asks for a positioned box, or an item", "<div style='position:relative;z-index:1;width:20px;height:10px;background:red'></div><div style='opacity:.9;z-index:5;width:20px;height:5px;background:blue'></div>",
			"group 0.9 \nfill 0,10 20×5 #0000ff\nend\nfill 0,0 20×10 #ff0000",
		},
		{
			"transforms turn about the middle", "<div style='width:20px;height:10px;transform:translate(3px,4px) scale(2);background:red'></div>",
			"transform [2 0 0 2 -7 -1]\nfill 0,0 20×10 #ff0000",
		},
		{"a mask clips to its box", "<div style='width:20px;height:10px;padding:3px;border:2px solid;mask:" + red + " content-box'></div>", "mask alpha=true\nclip 5,5 20×10\nfill 5,5 20×10 gradient\nend\ngroup 1 \nfill 0,0 30×2 #000000\nfill 28,2 2×16 #000000\nfill 0,18 30×2 #000000\nfill 0,2 2×16 #000000\nend"},
		{"or does not clip", "<div style='width:20px;height:10px;mask:" + red + " no-clip;mask-repeat:no-repeat'></div>", "mask alpha=true\nclip -4000,-4000 8200×8100\nfill 0,0 20×10 gradient\nend\ngroup 1 \nend"},
		{
			"a clip to a shape", "<div style='width:20px;height:10px;clip-path:circle(5px)'><b style='display:block;height:4px;background:red'></b></div>",
			"clip path 5,0 10×10\nfill 0,0 20×4 #ff0000",
		},
		{"a link", "<a href='x.html' style='display:block;height:10px'></a>", "link x.html"},
		{"a place to link to", "<p id=q style='margin:0;height:3px'></p>", "anchor q"},
		{
			"a colour field shows its colour", "<input type=color value=#00ff00 style='margin:0;border:0;display:block'>",
			"fill 4,4 42×19 #00ff00\nclip path 0,0 50×27\nclip path 0,0 50×27\nclip path 0,0 50×27",
		},
		{
			"overflow: clip leaves a margin", "<div style='width:20px;height:10px;overflow:clip;overflow-clip-margin:3px'><b style='display:block;height:40px;background:red'></b></div>",
			"clip -3,-3 26×16\nfill 0,0 20×40 #ff0000\nclip -3,-3 26×16\nclip -3,-3 26×16",
		},
		{
			"overflow: clip in one direction", "<div style='width:20px;height:10px;overflow-x:visible;overflow-y:clip'><b style='display:block;height:40px;background:red'></b></div>",
			"clip -100000,0 200020×10\nfill 0,0 20×40 #ff0000\nclip -100000,0 200020×10\nclip -100000,0 200020×10",
		},
		{
			"a margin is for overflow: clip alone", "<div style='width:20px;height:10px;overflow:hidden;overflow-clip-margin:3px'><b style='display:block;height:40px;background:red'></b></div>",
			"clip 0,0 20×10\nfill 0,0 20×40 #ff0000\nclip 0,0 20×10\nclip 0,0 20×10",
		},
		{
			"svg is cut at its box", "<svg style='display:block;width:20px;height:10px'><rect width='50' height='50' fill='red'/></svg>",
			"clip 0,0 20×10\ntransform [1 0 0 1 0 0]\nfill 0,0 50×50 #ff0000",
		},
		{
			"svg may overflow", "<svg style='display:block;width:20px;height:10px;overflow:visible'><rect width='50' height='50' fill='red'/></svg>",
			"transform [1 0 0 1 0 0]\nfill 0,0 50×50 #ff0000",
		},
		{"text has a colour to be filled with", "<p style='margin:0;color:red;-webkit-text-fill-color:blue'>a</p>", "text a #0000ff"},
	} {
		assert.Equal(t, c.want, one(t, c.html), c.name)
	}
}

// TestDecorationLines looks at where lines of decorations stand.
func TestDecorationLines(t *testing.T) {
	lines := func(html string) (ys, widths []string) {
		for _, call := range painted(t, html)[0] {
			x, y, w, h, hue := 0.0, 0.0, 0.0, 0.0, ""
			if n, _ := fmt.Sscanf(call, "fill %g,%g %g×%g %s", &x, &y, &w, &h, &hue); n == 5 {
				ys, widths = append(ys, short(y)), append(widths, short(w))
			}
		}
		return ys, widths
	}
	ys, _ := lines("<p style='margin:0;text-decoration:underline;line-height:20px'>a<sup style='font-size:5px'>b</sup>c")
	assert.Len(t, ys, 3)
	assert.Equal(t, ys[0], ys[1], "a raised letter has the line of the paragraph")
	ys, _ = lines("<p style='margin:0;line-height:20px'>a<sup style='font-size:5px;text-decoration:underline'>b</sup><u>c</u>")
	assert.Len(t, ys, 2)
	assert.NotEqual(t, ys[0], ys[1], "unless the line is its own")
	_, spaced := lines("<p style='margin:0;text-decoration:underline;white-space:pre'>  a  ")
	_, plain := lines("<p style='margin:0;text-decoration:underline'>a")
	assert.Equal(t, plain, spaced, "spaces at both ends have no line")
	_, shadowed := lines("<p style='margin:0;text-shadow:1px 2px red;text-decoration:underline'>a")
	assert.Len(t, shadowed, 2, "the line casts a shadow, too")
}

// TestDecorationThickness: the font's own is asked for by its name, else lines are not thinner than a
// sixteenth of the font's size (CSS Text Decoration 4, §2.4).
func TestDecorationThickness(t *testing.T) {
	thickness := func(face *font.Face, value style.Size, through bool) float64 {
		return thickness(style.Decoration{Thickness: value}, face, 160, through)
	}
	auto, own := style.Size{Kind: style.Auto}, style.Size{Kind: style.FromFont}
	thin, thick := &font.Face{UnderlineSize: 0.05, StrikeSize: 0.02}, &font.Face{UnderlineSize: 0.1}
	assert.Equal(t, 10.0, thickness(thin, auto, false))
	assert.Equal(t, 16.0, thickness(thick, auto, false))
	assert.Equal(t, 10.0, thickness(&font.Face{}, auto, false))
	assert.Equal(t, 8.0, thickness(thin, own, false))
	assert.InDelta(t, 3.2, thickness(thin, own, true), 1e-9)
	assert.Equal(t, 16.0, thickness(thick, own, true), "a font without a line through text of its own")
	assert.Equal(t, 10.0, thickness(&font.Face{}, own, false), "a font that says nothing")
	length := style.Size{Kind: style.Length}
	length.Px = 3
	assert.Equal(t, 3.0, thickness(thin, length, true))
	length.Px = 0
	assert.Equal(t, 0.25, thickness(thin, length, false))
}

func short(v float64) string { return fmt.Sprintf("%.2f", v) }

// TestBorderImages looks at the nine parts of border images: corners keep their size,
// edges and the middle are stretched, repeated or fitted (CSS Backgrounds 3, §6).
func TestBorderImages(t *testing.T) {
	const box = "<div style='width:40px;height:20px;border:10px solid;border-image:"
	corners := []string{"0,0 10×10", "50,0 10×10", "50,30 10×10", "0,30 10×10"}
	edges := []string{"10,0 40×10", "50,10 10×20", "10,30 40×10", "0,10 10×20"}
	got := one(t, box+"linear-gradient(red,blue) 10'></div>")
	for _, part := range append(corners, edges...) {
		assert.Contains(t, got, part)
	}
	assert.NotContains(t, got, "10,10 40×20", "the middle is left out")
	assert.Contains(t, one(t, box+"linear-gradient(red,blue) 10 fill'></div>"), "10,10 40×20")
	assert.Contains(t, one(t, box+"linear-gradient(red,blue) 10 / 5px'></div>"), "0,0 5×5", "its own widths")
	assert.Contains(t, one(t, box+"linear-gradient(red,blue) 10 / 1 / 3px'></div>"), "-3,-3 10×10", "it reaches out")
	assert.Contains(t, one(t, box+"none'></div>"), "fill", "without an image the border is drawn as it is")
	assert.NotContains(t, one(t, box+"linear-gradient(red,blue) 10'></div>"), "#000000", "and with one it is not")
}
