package picture

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestElements holds how elements of SVG are drawn, with all that is said of them in good
// order and in bad (SVG 2, §5 to §14).
func TestElements(t *testing.T) {
	for _, c := range [][2]string{
		{
			`<rect width="10" height="5" />`,
			"fill 0,0 10×5 #000000",
		},
		{
			`<rect x="1" y="2" width="10" height="5" rx="2" />`,
			"fill 1,2 10×5 #000000",
		},
		{
			`<rect width="10" height="6" rx="9" ry="1" />`,
			"fill 0,0 10×6 #000000",
		},
		{
			`<rect width="10" height="6" rx="10%" />`,
			"fill 0,0 10×6 #000000",
		},
		{
			`<rect width="50%" height="25%" />`,
			"fill 0,0 50×25 #000000",
		},
		{
			`<rect width="-1" height="5" />`,
			"",
		},
		{
			`<rect width="0" height="5" />`,
			"",
		},
		{
			`<rect style="width:10px;height:4px;x:3px" />`,
			"fill 3,0 10×4 #000000",
		},
		{
			`<circle r="5" />`,
			"fill -5,-5 10×10 #000000",
		},
		{
			`<circle cx="10" cy="20" r="10%" />`,
			"fill 0,10 20×20 #000000",
		},
		{
			`<circle r="-1" />`,
			"",
		},
		{
			`<ellipse rx="5" ry="3" cx="1" />`,
			"fill -4,-3 10×6 #000000",
		},
		{
			`<ellipse rx="5" />`,
			"fill -5,-5 10×10 #000000",
		},
		{
			`<line x1="1" y1="2" x2="30" y2="40" stroke="red" />`,
			"stroke 1,2 29×38 #ff0000 wide 1",
		},
		{
			`<line x2="30" />`,
			"",
		},
		{
			`<polyline points="0,0 10,0 10,10" fill="none" stroke="blue" />`,
			"stroke 0,0 10×10 #0000ff wide 1",
		},
		{
			`<polygon points="0 0 10 0 10 10" />`,
			"fill 0,0 10×10 #000000",
		},
		{
			`<polygon points="0 0 10" />`,
			"",
		},
		{
			`<path d="M0 0h10v10z" />`,
			"fill 0,0 10×10 #000000",
		},
		{
			`<path d="M0,0 L10,0 l0,10 H5 V5 Z" />`,
			"fill 0,0 10×10 #000000",
		},
		{
			`<path d="M0 0c1 2 3 4 5 6s7 8 9 10" />`,
			"fill 0,0 14×16 #000000",
		},
		{
			`<path d="M0 0q5 5 10 0t10 0" />`,
			"fill 0,-3.3 20×6.7 #000000",
		},
		{
			`<path d="M0 0a5 5 0 0 1 10 0" />`,
			"fill 0,-5 10×5 #000000",
		},
		{
			`<path d="M0 0 bad 5" />`,
			"",
		},
		{
			`<path d="" />`,
			"",
		},
		{
			`<g transform="translate(5 6)"><rect width="1" height="1" /></g>`,
			"fill 5,6 1×1 #000000",
		},
		{
			`<g transform="scale(2) rotate(90)"><rect width="1" height="1" /></g>`,
			"fill -2,0 2×2 #000000",
		},
		{
			`<g transform="rotate(90 5 5)"><rect width="1" height="1" /></g>`,
			"fill 9,0 1×1 #000000",
		},
		{
			`<g transform="skewX(45)"><rect width="1" height="1" /></g>`,
			"fill 0,0 2×1 #000000",
		},
		{
			`<g transform="matrix(1 0 0 2 3 4)"><rect width="1" height="1" /></g>`,
			"fill 3,4 1×2 #000000",
		},
		{
			`<g transform="nonsense"><rect width="1" height="1" /></g>`,
			"fill 0,0 1×1 #000000",
		},
		{
			`<rect width="9" height="9" fill="none" stroke="red" stroke-width="3" />`,
			"stroke 0,0 9×9 #ff0000 wide 3",
		},
		{
			`<rect width="9" height="9" stroke="red" stroke-linecap="round" stroke-linejoin="bevel" stroke-dasharray="2 1" stroke-dashoffset="1" />`,
			"fill 0,0 9×9 #000000\nstroke 0,0 9×9 #ff0000 wide 1 dashed [2 1]",
		},
		{
			`<rect width="9" height="9" stroke="red" stroke-width="10%" />`,
			"fill 0,0 9×9 #000000\nstroke 0,0 9×9 #ff0000 wide 10",
		},
		{
			`<rect width="9" height="9" stroke="red" paint-order="stroke" />`,
			"stroke 0,0 9×9 #ff0000 wide 1\nfill 0,0 9×9 #000000",
		},
		{
			`<rect width="9" height="9" fill="red" fill-opacity=".5" />`,
			"fill 0,0 9×9 #ff0000 at 0.5",
		},
		{
			`<g opacity=".5"><rect width="9" height="9" /></g>`,
			"group 0.5 {\nfill 0,0 9×9 #000000\n}",
		},
		{
			`<rect width="9" height="9" visibility="hidden" />`,
			"",
		},
		{
			`<rect width="9" height="9" display="none" />`,
			"",
		},
		{
			`<g fill="red"><rect width="9" height="9" /></g>`,
			"fill 0,0 9×9 #ff0000",
		},
		{
			`<g color="red"><rect width="9" height="9" fill="currentColor" /></g>`,
			"fill 0,0 9×9 #ff0000",
		},
		{
			`<path d="M0 0h9v9h-9zM3 3h3v3h-3z" fill-rule="evenodd" />`,
			"fill 0,0 9×9 #000000",
		},
		{
			`<defs><rect id="a" width="3" height="3" /></defs><use href="#a" x="5" y="6" />`,
			"fill 5,6 3×3 #000000",
		},
		{
			`<use href="#none" />`,
			"",
		},
		{
			`<g id="a"><use href="#a" /></g>`,
			"",
		},
		{
			`<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10" /></symbol><use href="#s" width="20" height="20" />`,
			"clip 0,0 20×20\nfill 0,0 20×20 #000000",
		},
		{
			`<svg x="5" y="5" width="20" height="10" viewBox="0 0 10 10"><rect width="10" height="10" /></svg>`,
			"clip 5,5 20×10\nfill 10,5 10×10 #000000",
		},
		{
			`<svg width="20" height="10" viewBox="0 0 10 10" preserveAspectRatio="none"><rect width="10" height="10" /></svg>`,
			"clip 0,0 20×10\nfill 0,0 20×10 #000000",
		},
		{
			`<svg width="20" height="10" viewBox="0 0 10 10" preserveAspectRatio="xMaxYMid slice"><rect width="10" height="10" /></svg>`,
			"clip 0,0 20×10\nfill 0,-5 20×20 #000000",
		},
		{
			`<svg width="20" height="10" viewBox="0 0 0 10"><rect width="10" height="10" /></svg>`,
			"clip 0,0 20×10",
		},
		{
			`<linearGradient id="g"><stop stop-color="red" /><stop offset="1" stop-color="blue" /></linearGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 2 from 0,0 to 1,0",
		},
		{
			`<linearGradient id="g" x1="0" y1="0" x2="0" y2="10" gradientUnits="userSpaceOnUse"><stop stop-color="red" /><stop offset="50%" stop-color="blue" stop-opacity=".5" /></linearGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 2 from 0,0 to 0,10",
		},
		{
			`<linearGradient id="h"><stop stop-color="red" /><stop offset="1" stop-color="lime" /></linearGradient><linearGradient id="g" href="#h" gradientTransform="rotate(90)" /><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 2 from 0,0 to 1,0",
		},
		{
			`<linearGradient id="g" x2=".25" spreadMethod="repeat"><stop stop-color="red" /><stop offset="1" stop-color="blue" /></linearGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 48 from -3,0 to 3,0",
		},
		{
			`<linearGradient id="g" x2=".5" spreadMethod="reflect"><stop stop-color="red" /><stop offset="1" stop-color="blue" /></linearGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 48 from -6,0 to 6,0",
		},
		{
			`<radialGradient id="g"><stop stop-color="red" /><stop offset="1" stop-color="blue" /></radialGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 2 from 0.5,0.5 to 0.5,0.5",
		},
		{
			`<radialGradient id="g" cx=".3" fx=".2" fr=".1" r=".4"><stop stop-color="red" /><stop offset="1" stop-color="blue" /></radialGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 gradient of 2 from 0.2,0.5 to 0.3,0.5",
		},
		{
			`<linearGradient id="g"><stop stop-color="red" /></linearGradient><rect width="10" height="10" fill="url(#g)" />`,
			"fill 0,0 10×10 #ff0000",
		},
		{
			`<linearGradient id="g"></linearGradient><rect width="10" height="10" fill="url(#g) lime" />`,
			"fill 0,0 10×10 #00ff00",
		},
		{
			`<rect width="10" height="10" fill="url(#none) lime" />`,
			"fill 0,0 10×10 #00ff00",
		},
		{
			`<rect width="10" height="10" fill="url(#none)" />`,
			"",
		},
		{
			`<pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse"><rect width="2" height="2" fill="red" /></pattern><rect width="10" height="10" fill="url(#p)" />`,
			"fill 0,0 10×10 tiles of 4×4 [fill 0,0 2×2 #ff0000]",
		},
		{
			`<pattern id="p" width=".5" height=".5"><rect width="2" height="2" fill="red" /></pattern><rect width="10" height="10" fill="url(#p)" />`,
			"fill 0,0 10×10 tiles of 5×5 [fill 0,0 2×2 #ff0000]",
		},
		{
			`<clipPath id="c"><rect width="5" height="5" /></clipPath><rect width="10" height="10" clip-path="url(#c)" />`,
			"clip 0,0 5×5\nfill 0,0 10×10 #000000",
		},
		{
			`<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".5" /></clipPath><rect width="10" height="10" clip-path="url(#c)" />`,
			"clip 0,0 10×10\nfill 0,0 10×10 #000000",
		},
		{
			`<clipPath id="c"></clipPath><rect width="10" height="10" clip-path="url(#c)" />`,
			"clip 0,0 0×0\nfill 0,0 10×10 #000000",
		},
		{
			`<mask id="m"><rect width="5" height="5" fill="white" /></mask><rect width="10" height="10" mask="url(#m)" />`,
			"group 1 {\nmask alpha=false {\nclip -1,-1 12×12\nfill 0,0 5×5 #ffffff\n}\nfill 0,0 10×10 #000000\n}",
		},
		{
			`<mask id="m" mask-type="alpha"><rect width="5" height="5" /></mask><rect width="10" height="10" mask="url(#m)" />`,
			"group 1 {\nmask alpha=true {\nclip -1,-1 12×12\nfill 0,0 5×5 #000000\n}\nfill 0,0 10×10 #000000\n}",
		},
		{
			`<marker id="a" markerWidth="3" markerHeight="3" refX="1" refY="1"><rect width="2" height="2" /></marker><line x2="20" stroke="red" marker-end="url(#a)" />`,
			"stroke 0,0 20×0 #ff0000 wide 1\nclip 19,-1 3×3\nfill 19,-1 2×2 #000000",
		},
		{
			`<marker id="a" orient="auto" markerUnits="userSpaceOnUse" markerWidth="3" markerHeight="3"><rect width="2" height="2" /></marker><path d="M0 0h10v10" fill="none" stroke="red" marker-start="url(#a)" marker-mid="url(#a)" />`,
			"stroke 0,0 10×10 #ff0000 wide 1\nclip 0,0 3×3\nfill 0,0 2×2 #000000\nclip 7.9,0 4.2×4.2\nfill 8.6,0 2.8×2.8 #000000",
		},
		{
			`<text x="5" y="10" font-size="8">ab</text>`,
			"text \"ab\" 5,10 #000000",
		},
		{
			`<text x="50" y="10" font-size="8" text-anchor="middle">ab</text>`,
			"text \"ab\" 46.2,10 #000000",
		},
		{
			`<text x="50" y="10" font-size="8" text-anchor="end">ab</text>`,
			"text \"ab\" 42.4,10 #000000",
		},
		{
			`<text x="5 20" y="10" font-size="8">ab</text>`,
			"text \"a\" 5,10 #000000\ntext \"b\" 20,10 #000000",
		},
		{
			`<text x="5" y="10" dx="3" dy="2" font-size="8">a<tspan dx="4" fill="red">b</tspan></text>`,
			"text \"a\" 8,12 #000000\ntext \"b\" 15.6,12 #ff0000",
		},
		{
			`<text x="5" y="10" font-size="8">a<tspan x="30" y="20">b</tspan></text>`,
			"text \"a\" 5,10 #000000\ntext \"b\" 30,20 #000000",
		},
		{
			`<text x="5" y="10" font-size="8" dominant-baseline="middle">a</text>`,
			"text \"a\" 5,11.8 #000000",
		},
		{
			`<text x="5" y="10" font-size="8" baseline-shift="super">a</text>`,
			"text \"a\" 5,10 #000000",
		},
		{
			`<text y="30" font-size="9">m<tspan baseline-shift="super" font-size="6">3<tspan baseline-shift="1px">4</tspan></tspan><tspan style="baseline-shift:sub">i</tspan><tspan baseline-shift="-50%">j</tspan></text>`,
			"text \"m\" 0,30 #000000\ntext \"3\" 7,28 #000000\ntext \"4\" 10,27 #000000\ntext \"i\" 13,31.8 #000000\ntext \"j\" 15.5,34.5 #000000",
		},
		{
			`<text x="5" y="10" font-size="8" textLength="40">ab</text>`,
			"text \"ab\" 5,10 #000000 spaced 32.4",
		},
		{
			`<text y="10" font-size="8"> a  b </text>`,
			"text \"a b\" 0,10 #000000",
		},
		{
			`<text y="10" font-size="8" xml:space="preserve"> a  b</text>`,
			"text \"a b\" 0,10 #000000",
		},
		{
			`<text y="10" font-size="8" transform="rotate(90)">a</text>`,
			"text \"a\" -10,0 #000000 turned",
		},
		{
			`<switch><g requiredExtensions="x"><rect width="1" height="1" /></g><rect width="2" height="2" /></switch>`,
			"fill 0,0 2×2 #000000",
		},
		{
			`<a href="#x"><rect width="2" height="2" /></a>`,
			"fill 0,0 2×2 #000000",
		},
		{
			`<image width="20" height="10" href="none.png" />`,
			"image 0,0 20×10",
		},
		{
			`<rect width="9" height="9" style="fill:red;transform:translate(2px,3px)" />`,
			"fill 2,3 9×9 #ff0000",
		},
		{
			`<rect width="10" height="10" style="transform-origin:center;transform-box:fill-box;transform:rotate(90deg)" />`,
			"fill 0,0 10×10 #000000",
		},
		{
			`<foreignObject width="20" height="10"><p>x</p></foreignObject>`,
			"",
		},
		{
			`<title>t</title><desc>d</desc><metadata>m</metadata>`,
			"",
		},
		{
			`<unknown><rect width="2" height="2" /></unknown>`,
			"",
		},
	} {
		assert.Equal(t, c[1], draw(t, c[0]), c[0])
	}
}
