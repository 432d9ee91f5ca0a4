package paint

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

func TestFiltersChangeColors(t *testing.T) {
	for filter, want := range map[string]string{
		"grayscale(1)":                 "#363636", // 0.2126 of red's light
		"grayscale(0)":                 "#ff0000",
		"invert(1)":                    "#00ffff",
		"invert(1) brightness(0.5)":    "#008080", // one after the other
		"contrast(0)":                  "#808080",
		"hue-rotate(0deg)":             "#ff0000",
		"saturate(0)":                  "#363636",
		"sepia(100%)":                  "#645945",
		"brightness(300%) invert(50%)": "#808080",
	} {
		assert.Equal(t, "fill 0,0 20×10 "+want, one(t, "<div style='width:20px;height:10px;background:red;filter:"+filter+"'></div>"), filter)
	}
	assert.Contains(t, one(t, "<div style='color:red;filter:invert(1)'>w</div>"), "text w #00ffff")
	assert.Equal(t, "group 0.25 \nfill 0,0 20×10 #ff0000\nend", one(t, "<div style='width:20px;height:10px;background:red;filter:opacity(25%)'></div>"))
}

func TestDropShadowsAreCopiesInOneColor(t *testing.T) {
	got := one(t, "<div style='filter:drop-shadow(3px 4px lime)'><a href='https://example.org/' style='background:red'>w</a></div>")
	assert.Contains(t, got, "transform [1 0 0 1 3 4]")
	assert.Contains(t, got, "text w #00ff00\nend")
	assert.Equal(t, 2, strings.Count(got, "text w"))
	assert.Equal(t, 1, strings.Count(got, "link"), "the copy leads nowhere")
	assert.Less(t, strings.Index(got, "#00ff00"), strings.Index(got, "#ff0000"), "the shadow lies below")

	soft := one(t, "<div style='width:9px;height:9px;background:red;filter:drop-shadow(0 0 2px #0008)'></div>")
	assert.Greater(t, strings.Count(soft, "#000000"), 8, "many faint copies make it soft")
	assert.Equal(t, 1, strings.Count(soft, "#ff0000"))
}

func TestMasksAreDrawnAsBackgroundsAre(t *testing.T) {
	got := one(t, "<div style='width:20px;height:10px;background:red;mask:linear-gradient(black,transparent) 2px 3px/8px 4px no-repeat'></div>")
	assert.True(t, strings.HasPrefix(got, "mask alpha=true\nclip 0,0 20×10\n"), got)
	assert.Contains(t, got, "fill 2,3 8×4 gradient")
	assert.True(t, strings.HasSuffix(got, "end\ngroup 1 \nfill 0,0 20×10 #ff0000\nend"), got)
	assert.Contains(t, one(t, "<div style='width:9px;height:9px;background:red;mask-image:linear-gradient(white,black);mask-mode:luminance'></div>"), "mask alpha=false")
}

// TestMaskLayersAreComposed: Masking 1, §6.6.
func TestMaskLayersAreComposed(t *testing.T) {
	mask := func(composite string) string {
		got := one(t, "<div style='width:20px;height:10px;background:red;mask:linear-gradient(black,transparent),linear-gradient(black,black);mask-composite:"+composite+"'></div>")
		inside, _, _ := strings.Cut(got, "group 1 \nfill 0,0 20×10 #ff0000")
		return inside
	}
	assert.NotContains(t, mask("add"), "group", "layers that add up are drawn one over the other")
	assert.Equal(t, 1, strings.Count(mask("intersect"), "mask alpha=true\nclip"), "the upper layer masks the lower one")
	assert.Contains(t, mask("subtract"), "mask alpha=false", "what is left out is black on white")
	assert.Contains(t, mask("subtract"), "#ffffff")
	assert.Equal(t, 2, strings.Count(mask("exclude"), "mask alpha=false"), "each layer leaves out the other")
}

// TestDrawingsAreFiltered: what is drawn in other colours is this place's alone.
func TestDrawingsAreFiltered(t *testing.T) {
	out := &recorder{}
	r := &recolored{Canvas: out, change: colorMatrix(style.Filter{Kind: "invert", Amount: 1}).of}
	r.Drawing("logo", display.Rect{X: 3, Y: 4, W: 10, H: 10}, func(c display.Canvas) {
		p := &display.Path{}
		p.Rect(display.Rect{W: 5, H: 5})
		c.Fill(p, display.Solid(style.Color{C: [4]float32{1, 0, 0}, A: 1}), false)
	})
	assert.Contains(t, strings.Join(out.calls, "\n"), "#00ffff")
}

func TestPicturesAreFiltered(t *testing.T) {
	r := &recolored{change: colorMatrix(style.Filter{Kind: "invert", Amount: 1}).of, name: "invert"}
	plain := &display.Image{Key: "k", W: 2, H: 1, RGB: []byte{255, 0, 0, 10, 20, 30}, Alpha: []byte{1, 2}}
	got := r.image(plain)
	assert.Equal(t, []byte{0, 255, 255, 245, 235, 225}, got.RGB)
	assert.Equal(t, plain.Alpha, got.Alpha)
	assert.NotEqual(t, plain.Key, got.Key, "it is another picture")
	grey := &display.Image{W: 1, H: 1, RGB: []byte{200}, Gray: true}
	assert.Equal(t, []byte{55, 55, 55}, r.image(grey).RGB)

	pic := image.NewGray(image.Rect(0, 0, 8, 8))
	for i := range pic.Pix {
		pic.Pix[i] = color.Gray{Y: 250}.Y
	}
	var file bytes.Buffer
	require.NoError(t, jpeg.Encode(&file, pic, nil))
	out := r.image(&display.Image{W: 8, H: 8, JPEG: file.Bytes(), Comps: 1})
	require.Len(t, out.RGB, 8*8*3)
	assert.InDelta(t, 5, out.RGB[0], 3)
	broken := &display.Image{W: 8, H: 8, JPEG: []byte("no picture"), Comps: 3}
	assert.Same(t, broken, r.image(broken), "what does not decode stays as it is")
}
