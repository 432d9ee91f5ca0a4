package style

import (
	"fmt"
	"strings"
	"testing"

	"oliveledger/internal/golden"
)

// TestNotations holds what short notations come to, right ones beside those that differ in one thing and are refused:
// colours (Color 4 and 5), shapes (Shapes 1, Masking 1) and lines of grids (Grid 2, §8.3).
func TestNotations(t *testing.T) {
	var out strings.Builder
	for _, group := range []struct {
		property string
		values   []string
	}{
		{"color", []string{
			"#f00", "#f008", "#ff0000", "#ff000080", "#f", "#ff", "#ff000", "#ff00008", "#ff000080f", "#ggg", "#F0A", "transparent", "RED", "rouge", "currentcolor",
			"rgb(1 2 3)", "rgb(1, 2, 3)", "rgb(1,2 3)", "rgb(1 2,3)", "rgb(1,2,3,)", "rgb(,1,2,3)", "rgb(1,,2,3)", "rgb(1 2)", "rgb(1 2 3 4)", "rgb(1,2)", "rgb()", "rgb(1% 2% 3%)", "rgb(1% 2 3)", "rgb(1%, 2, 3)", "rgb(300 -5 1.6)", "rgb(none 2 3)", "rgb(none, 2, 3)", "rgb(a b c)", "rgb(1px 2 3)",
			"rgb(1 2 3 / 0.5)", "rgb(1 2 3 / 50%)", "rgb(1 2 3 / 2)", "rgb(1 2 3 / -1)", "rgb(1 2 3 / none)", "rgb(1 2 3 /)", "rgb(1 2 3 / 4 5)", "rgb(1 2 / 3 4)", "rgb(1,2,3 / 0.5)", "rgb(1, 2, 3, 0.5)", "rgb(1, 2, 3, 50%)", "rgba(1 2 3)", "rgb(/ 1 2 3)",
			"hsl(120 50% 50%)", "hsl(120, 50%, 50%)", "hsl(120deg 50 50)", "hsl(120, 50, 50)", "hsl(480 50% 50%)", "hsl(-240 50% 50%)", "hsl(2rad 50% 50%)", "hsl(50% 50% 50%)", "hsl(120 150% 50%)", "hsl(120 -10% 50%)", "hsl(120 50% 150%)",
			"hwb(120 0% 0%)", "hwb(120 -20% 0%)", "hwb(120 0% -20%)", "hwb(120 60% 60%)", "hwb(120, 0%, 0%)", "lab(50 20 30)", "lab(50, 20, 30)", "lab(50% 20% 30%)", "lab(150 0 0)", "lab(-5 0 0)", "lch(50 20 30)", "lch(50 -20 30)", "lch(100 20 30)", "oklab(0.5 0.1 0.1)", "oklab(50% 10% 10%)", "oklch(1 0.3 30)", "oklch(0 0.3 30)", "oklch(0.99 0.3 30)", "oklch(0.5 0.1 30deg / 0.5)",
			"color(srgb 1 0 0)", "color(srgb 1 0)", "color(srgb 1 0 0 0)", "color(srgb 100% 0% 50%)", "color(srgb, 1, 0, 0)", "color(srgb 1.2 -0.1 0)", "color(xyz 0.2 0.2 0.2)", "color(hsl 1 0 0)", "color(lab 1 0 0)", "color(oklab 1 0 0)", "color(oklch 1 0 0)", "color(nope 1 0 0)", "color(1 0 0)", "color()",
			"device-cmyk(0 1 1 0)", "device-cmyk(0% 100% 100% 0%)", "device-cmyk(0 1 1)", "device-cmyk(0, 1, 1, 0)", "device-cmyk(2 -1 0 0)",
			"color-mix(in srgb, red, blue)", "color-mix(in srgb, red 0%, blue 0%)", "color-mix(in srgb, red 120%, blue)", "color-mix(in srgb, red -5%, blue)", "color-mix(in srgb, red)", "color-mix(red, blue)", "color-mix(in nope, red, blue)", "color-mix(in srgb hue, red, blue)", "color-mix(in hsl longer, red, blue)", "color-mix(in srgb red, blue)",
			"rgb(from red r g b)", "rgb(from red r g)", "rgb(from nope r g b)", "rgb(from red h s l)", "rgb(from, red, r, g, b)", "light-dark(red, blue)", "light-dark(red)",
		}},
		{"clip-path", []string{
			"inset(1px)", "inset(1px 2px)", "inset(1px 2px 3px)", "inset(1px 2px 3px 4px)", "inset(1px 2px 3px 4px 5px)", "inset()", "inset(1px round 2px)", "inset(1px round)", "inset(round 2px)", "inset(1px round 2px / 3px)", "inset(1px, 2px)", "inset(10%)", "inset(-1px)",
			"rect(1px 2px 30px 4px)", "rect(1px 20% 30% 4px)", "rect(auto auto auto auto)", "rect(1px 2px 3px)", "rect(1px calc(10% + 2px) 3px 4px)", "rect(1px min(10%, 20px) 3px 4px)", "xywh(1px 2px 3px 4px)", "xywh(1px 2px 10% 4px)", "xywh(1px 2px -3px 4px)", "xywh(1px 2px 3px)",
			"circle()", "circle(1px)", "circle(-1px)", "circle(1px 2px)", "circle(1px at 2px)", "circle(at)", "circle(at 1px 2px)", "circle(closest-side)", "circle(farthest-corner)", "circle(nope)", "ellipse()", "ellipse(1px)", "ellipse(1px 2px)", "ellipse(1px 2px 3px)", "ellipse(1px -2px)",
			"polygon(0 0)", "polygon(0 0, 1px 1px)", "polygon(0)", "polygon()", "polygon(nonzero, 0 0)", "polygon(nonzero 0 0)", "polygon(evenodd)", "path('M0 0h5v5z')", "path('')", "path(M0)", "path(evenodd, 'M0 0h5')", "path(evenodd 'M0 0h5')", "url(#a)", "none", "border-box", "padding-box inset(1px)", "inset(1px) padding-box", "inset(1px) nope", "margin-box border-box",
		}},
		{"text-decoration", []string{
			"underline", "red dotted underline", "dotted red underline", "3px red dotted underline", "2px dashed underline red", "underline overline", "underline red overline", "overline line-through underline 2px", "underline underline", "blink", "underline blink", "none", "red none 3px", "none none", "none underline", "red", "auto red", "red blue", "from-font underline",
		}},
		{"text-emphasis-style", []string{"dot", "open", "filled", "open dot", "dot open", "filled sesame", "dot circle", "open filled", "dot open circle", "none", "none dot", "'x'", "'x' dot"}},
		{"contain", []string{"none", "strict", "content", "size", "layout paint", "paint layout style size", "inline-size", "layout layout", "content paint", "none size", "nope"}},
		{"margin-trim", []string{"none", "block", "inline block", "block inline", "block block", "block-start", "inline-end block-start", "block block-start", "block-start inline", "none block"}},
		{"grid-template", []string{
			"none", "none / none", "none / 1fr", "1fr / none", "10px / 1fr 2fr", "10px", "'a b'", "'a b' 10px 'c d' / 1fr 2fr", "none 1fr", "none /",
		}},
		{"grid", []string{
			"none", "none / 1fr", "none / auto-flow", "auto-flow / 1fr", "auto-flow dense 10px / none", "10px / auto-flow dense", "auto-flow / auto-flow", "auto-flow",
		}},
		{"grid-row-start", []string{
			"1", "-1", "0", "1.5", "span 2", "span 0", "span -2", "span", "span a", "span a 2", "2 span", "a", "a 2", "2 a", "a b", "span 2 a", "span span", "2 3", "auto", "auto 2", "99999", "-99999", "span 99999", "a span",
		}},
	} {
		for _, v := range group.values {
			fmt.Fprintf(&out, "%s: %s → %s\n", group.property, v, effect(t, group.property+": "+v))
		}
	}
	golden.Compare(t, "testdata/notations.txt", out.String())
}
