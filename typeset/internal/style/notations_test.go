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
		{"background-image", []string{
			"linear-gradient(red, blue)", "linear-gradient(red)", "linear-gradient()", "linear-gradient(45deg, red, blue)", "linear-gradient(45, red, blue)", "linear-gradient(0, red, blue)", "linear-gradient(to top, red, blue)", "linear-gradient(top, red, blue)", "linear-gradient(to top left, red, blue)", "linear-gradient(to left top, red, blue)", "linear-gradient(to top bottom, red, blue)", "linear-gradient(to, red, blue)", "linear-gradient(to top red, blue)", "linear-gradient(45deg red, blue)",
			"linear-gradient(red 10%, blue)", "linear-gradient(red 10% 20%, blue)", "linear-gradient(red 10% 20% 30%, blue)", "linear-gradient(10% red, blue)", "linear-gradient(red, 30%, blue)", "linear-gradient(30%, red, blue)", "linear-gradient(red, blue, 30%)", "linear-gradient(red, 30%, 40%, blue)", "linear-gradient(red, blue,)", "linear-gradient(red,, blue)", "linear-gradient(red -10px, blue 120%)", "linear-gradient(red 5deg, blue)", "linear-gradient(in oklch, red, blue)", "linear-gradient(in oklch longer hue, red, blue)", "linear-gradient(in srgb longer hue, red, blue)", "linear-gradient(45deg in lab, red, blue)", "linear-gradient(in lab 45deg, red, blue)", "linear-gradient(in nope, red, blue)", "repeating-linear-gradient(red, blue 5px)",
			"radial-gradient(red, blue)", "radial-gradient(circle, red, blue)", "radial-gradient(circle 5px, red, blue)", "radial-gradient(5px circle, red, blue)", "radial-gradient(circle 5px 6px, red, blue)", "radial-gradient(circle 5%, red, blue)", "radial-gradient(5%, red, blue)", "radial-gradient(5px, red, blue)", "radial-gradient(5px 6%, red, blue)", "radial-gradient(ellipse 5px, red, blue)", "radial-gradient(ellipse 5px 6px, red, blue)", "radial-gradient(-5px, red, blue)", "radial-gradient(closest-side, red, blue)", "radial-gradient(circle closest-side at left, red, blue)", "radial-gradient(at left top, red, blue)", "radial-gradient(at top 5px left 2px, red, blue)", "radial-gradient(at, red, blue)", "radial-gradient(circle at center red, blue)", "radial-gradient(in hsl, red, blue)", "repeating-radial-gradient(5px at 1px 2px in hsl shorter hue, red, blue)",
			"conic-gradient(red, blue)", "conic-gradient(from 45deg, red, blue)", "conic-gradient(from 45deg at left, red, blue)", "conic-gradient(at left from 45deg, red, blue)", "conic-gradient(at left, red, blue)", "conic-gradient(from 45deg red, blue)", "conic-gradient(at left red, blue)", "conic-gradient(from 0, red, blue)", "conic-gradient(from, red, blue)", "conic-gradient(red 10deg, blue 50%)", "conic-gradient(red 10px, blue)", "conic-gradient(red 10deg 20deg, blue)", "conic-gradient(red, 10deg, blue)", "conic-gradient(from 45deg in oklch longer hue, red, blue)", "repeating-conic-gradient(red, blue 10deg)",
			"url(a.png)", "url('a.png')", "url(a.png), none", "none, none", "none none", "url(a.png) url(b.png)", "image-set('a.png' 1x, 'b.png' 2x)", "image-set('a.png', 'b.png' 2x)", "image-set('a.png' 1x 2x)", "image-set(url(a.png) 96dpi)", "image-set('a.png' type('image/png'))", "image-set('a.png' type('image/png') 2x)", "image-set(linear-gradient(red, blue) 1x)", "image-set(none 1x)", "image-set()", "image-set('a.png' -1x)", "image-set('a.png' 0x)", "cross-fade(url(a.png), url(b.png))", "image(red)", "element(#a)", "red",
		}},
		{"background-position", []string{
			"left", "left top", "top left", "left left", "top top", "center", "center center", "center left", "5px", "5px 6px", "5px top", "top 5px", "left 5px", "5px left", "left 5px top", "left 5px top 6px", "top 6px left 5px", "left 5px 6px", "left 5px center", "center left 5px", "left center 5px", "center 5px top", "left 5px right 6px", "5px 6px 7px", "left 5px top 6px 7px", "x-start", "calc(50% - 5px) 10%", "left, right", "left,", "auto",
		}},
		{"background-size", []string{"auto", "auto auto", "5px", "5px auto", "auto 5px", "5px 6%", "-5px", "cover", "contain", "cover cover", "cover 5px", "5px 6px 7px", "5px, cover", "0"}},
		{"background-repeat", []string{"repeat", "repeat-x", "repeat-y", "repeat-x repeat-y", "space round", "round", "no-repeat repeat", "repeat repeat repeat", "repeat-x repeat", "space, round"}},
		{"background", []string{
			"red", "none", "red none", "none red", "red red", "url(a.png) red", "url(a.png), red", "red, url(a.png)", "left / 5px", "5px / cover red", "/ 5px", "left/", "left top / 5px 6px no-repeat fixed padding-box content-box red", "padding-box", "padding-box border-box", "padding-box border-box content-box", "border-box text", "text", "no-repeat no-repeat", "repeat-x url(a.png) left", "left red top", "scroll scroll", "cover", "red,", ", red", "0 0", "0 0 / 0 0", "url(a.png) center / contain no-repeat, linear-gradient(red, blue)", "none none", "fixed local",
		}},
		{"transform", []string{
			"none", "translate(5px)", "translate(5px, 6%)", "translate(5px 6px)", "translate()", "translate(5)", "translate(0)", "translateX(5px)", "translateX(5px, 6px)", "translate3d(1px, 2px, 3px)", "translate3d(1px, 2px, 3%)", "translateZ(3px)", "scale(2)", "scale(2, 3)", "scale(200%)", "scale(2px)", "scale(-1)", "scaleX(2)", "scale3d(1, 2, 3)", "rotate(45deg)", "rotate(0)", "rotate(45)", "rotate(0.5turn)", "rotateX(45deg)", "rotate3d(1, 1, 1, 45deg)", "rotate3d(1, 1, 1, 0)", "rotate3d(1, 1, 1)", "skew(10deg)", "skew(10deg, 20deg)", "skewX(10deg)", "skewX(10deg, 20deg)", "matrix(1, 0, 0, 1, 0, 0)", "matrix(1 0 0 1 0 0)", "matrix(1, 0, 0, 1, 0)", "matrix(1, 0, 0, 1, 5px, 0)", "matrix3d(1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1)", "perspective(5px)", "perspective(none)", "perspective(-5px)", "rotate(45deg) scale(2)", "rotate(45deg), scale(2)", "none rotate(45deg)", "nope(1)", "rotate", "rotate(calc(10deg * 2))",
		}},
		{"rotate", []string{"none", "45deg", "45", "0", "x 45deg", "45deg z", "1 0 0 45deg", "45deg 1 1 1", "1 0 45deg", "x", "none 45deg"}},
		{"scale", []string{"none", "2", "2 3", "2 3 4", "200%", "200% 3", "2 3 4 5", "2px", "none 2"}},
		{"translate", []string{"none", "5px", "5px 6%", "5px 6px 7px", "5px 6px 7%", "5", "0", "5px, 6px", "none 5px"}},
		{"transform-origin", []string{"left", "left top", "top left", "5px", "5px 6px", "5px 6px 7px", "left top 7px", "5px 6px 7%", "left left", "top 5px", "left 5px", "center", "left 5px top 6px", "auto"}},
		{"filter", []string{
			"none", "blur(2px)", "blur()", "blur(2)", "blur(0)", "blur(-2px)", "blur(10%)", "brightness(2)", "brightness(200%)", "brightness()", "brightness(-1)", "contrast(0.5)", "grayscale(1)", "grayscale(3)", "grayscale(-1)", "hue-rotate(90deg)", "hue-rotate(90)", "hue-rotate(0)", "hue-rotate()", "invert(50%)", "opacity(0.5)", "saturate(2)", "sepia(1)", "drop-shadow(1px 2px)", "drop-shadow(1px 2px 3px)", "drop-shadow(1px 2px 3px red)", "drop-shadow(red 1px 2px)", "drop-shadow(1px 2px -3px)", "drop-shadow(1px 2px 3px 4px)", "drop-shadow(1px)", "drop-shadow(inset 1px 2px)", "blur(2px) sepia(1)", "blur(2px), sepia(1)", "none blur(2px)", "url(#f)", "url(#f) blur(1px)", "nope(1)", "opacity(1 2)",
		}},
		{"font", []string{
			"12px serif", "serif", "12px", "12px/1.5 serif", "12px / 1.5 serif", "12px/ serif", "bold 12px serif", "12px bold serif", "italic bold 12px serif", "bold italic small-caps condensed 12px/14px a, b", "italic italic 12px serif", "bold 700 12px serif", "normal normal normal normal 12px serif", "normal normal normal normal normal 12px serif", "oblique 10deg 12px serif", "oblique 12px serif", "450 12px serif", "1001 12px serif", "0 12px serif", "75% 12px serif", "small serif", "larger serif", "120% serif", "-12px serif", "0 serif", "12 serif", "12px a b", "12px 'a' b", "12px a, , b", "12px 1a", "12px/-1 serif", "12px/normal serif", "caption", "menu 12px", "small-caps small-caps 12px serif", "all-small-caps 12px serif", "12px/1.5 'Quay Sans', sans-serif", "12px inherit", "12px a, initial",
		}},
		{"font-family", []string{"serif", "a", "a b", "a, b", "'a b'", "'a' b", "a 'b'", "", "a,", "1a", "-a", "--a", "a 1", "inherit, a", "a inherit", "initial b", "default", "a default", "system-ui", "'serif'", "math, emoji"}},
		{"font-style", []string{"normal", "italic", "oblique", "oblique 10deg", "oblique 90deg", "oblique 91deg", "oblique -90deg", "oblique -91deg", "oblique 10", "oblique 0", "italic 10deg", "10deg oblique", "oblique calc(100deg)"}},
		{"font-weight", []string{"1", "0", "1000", "1001", "450.5", "-1", "bold", "bolder", "lighter", "normal bold", "calc(2000)", "calc(-5)", "400px"}},
		{"font-feature-settings", []string{"normal", "'liga'", "'liga' 1", "'liga' on", "'liga' off", "'liga' 0, 'kern' 2", "'liga' -1", "'liga' 1.5", "'lig'", "'ligat'", "liga", "'liga' 'kern'", "'liga', normal"}},
		{"font-variation-settings", []string{"normal", "'wght' 400", "'wght'", "'wght' 400, 'wdth' 75.5", "'wght' -5", "'wgh' 5", "wght 400", "'wght' 400px", "'wght' calc(2 * 3)"}},
		{"font-variant", []string{"normal", "none", "small-caps", "small-caps small-caps", "small-caps tabular-nums", "lining-nums oldstyle-nums", "none small-caps", "common-ligatures no-common-ligatures", "super sub", "jis78 ruby", "historical-forms slashed-zero ordinal", "text", "emoji text", "nope"}},
		{"list-style", []string{"none", "none none", "none none none", "disc", "disc inside", "inside disc url(a.png)", "url(a.png) url(b.png)", "inside outside", "none disc", "none url(a.png)", "none inside disc", "'x'", "'x' inside", "circle square", "symbols('a' 'b')", "quay inside", "linear-gradient(red, blue)"}},
		{"list-style-type", []string{"symbols('a' 'b')", "symbols(cyclic 'a')", "symbols(numeric 'a')", "symbols(numeric 'a' 'b')", "symbols(alphabetic 'a')", "symbols(fixed 'a')", "symbols(symbolic 'a')", "symbols(additive 'a' 'b')", "symbols()", "symbols(cyclic)", "symbols('a', 'b')", "symbols(cyclic numeric 'a')", "'*'", "none", "None", "decimal", "quay", "2", "disc disc"}},
		{"content", []string{
			"normal", "none", "'a'", "'a' 'b'", "'a' attr(b)", "attr(b)", "attr()", "attr(b, 'c')", "attr(b raw-string)", "attr(b px, 2px)", "counter(a)", "counter(a, decimal)", "counter(a decimal)", "counter()", "counter(none)", "counters(a, '.')", "counters(a)", "counters(a, b)", "counters(a, '.', upper-roman)", "open-quote", "no-close-quote 'a'", "url(a.png)", "url(a.png) / 'alt'", "'a' / 'alt'", "'a' / attr(b)", "'a' / 'b' 'c'", "'a' /", "/ 'a'", "'a' / url(a.png)", "none 'a'", "'a' none", "normal / 'a'", "contents", "leader('.')", "leader(dotted)", "leader(.)", "string(a)", "string(a, last)", "string(a, nope)", "string()", "target-counter('#a', page)", "target-counter(attr(href), page, upper-roman)", "target-counter(#a, page)", "target-text('#a')", "target-text('#a', before)", "target-text('#a', nope)", "element(a)", "linear-gradient(red, blue)", "a", "1",
		}},
		{"counter-reset", []string{"none", "a", "a 2", "a -2", "a b", "a 2 b 3", "2", "2 a", "a 1.5", "none a", "a none", "a, b", "reversed(a)", "reversed(a) 5", "reversed()", "reversed(a b)", "inherit a", "page", "footnote 0"}},
		{"counter-increment", []string{"none", "a", "a 2", "a b 0", "reversed(a)", "a calc(1 + 1)", "a calc(1.5)", "-1 a"}},
		{"quotes", []string{"none", "auto", "'a' 'b'", "'a'", "'a' 'b' 'c'", "'a' 'b' 'c' 'd'", "a b", "none 'a' 'b'", "match-parent"}},
		{"string-set", []string{"none", "a 'b'", "a content()", "a content(text)", "a content(before)", "a content(first-letter)", "a content(nope)", "a attr(b)", "a counter(c) 'd'", "a", "a 'b', c 'd'", "a 'b' c 'd'", "none, a 'b'", "'b'"}},
		{"border", []string{"none", "1px", "solid", "red", "1px solid red", "red solid 1px", "1px 2px", "solid dashed", "1px solid red blue", "-1px solid", "thin solid", "1% solid", "0", "1 solid", "none none", "hidden"}},
		{"border-radius", []string{"1px", "1px 2px", "1px 2px 3px 4px", "1px 2px 3px 4px 5px", "1px / 2px", "1px 2px / 3px 4px 5px 6px", "/ 1px", "1px /", "1px / 2px / 3px", "-1px", "10%", "1", "0", "auto"}},
		{"border-image", []string{"none", "url(a.png)", "url(a.png) 10", "url(a.png) 10 20% 30 40", "url(a.png) 10 20 30 40 50", "url(a.png) 10 fill", "fill 10 url(a.png)", "fill url(a.png)", "url(a.png) 10 / 5px", "url(a.png) 10 / 5px / 2", "url(a.png) 10 / / 2", "url(a.png) / 5px", "url(a.png) 10 / auto", "url(a.png) 10 / -5px", "url(a.png) 10 stretch", "url(a.png) 10 round space", "url(a.png) 10 round space repeat", "round url(a.png) 10", "-10 url(a.png)", "10px url(a.png)", "linear-gradient(red, blue) 1"}},
		{"box-shadow", []string{"none", "1px 2px", "1px", "1px 2px 3px", "1px 2px 3px 4px", "1px 2px 3px 4px 5px", "1px 2px -3px", "1px 2px 3px -4px", "red 1px 2px", "1px 2px red", "1px red 2px", "inset 1px 2px", "1px 2px inset", "1px inset 2px", "inset red 1px 2px", "red inset 1px 2px", "inset 1px 2px red", "inset inset 1px 2px", "1px 2px red red", "1px 2px, inset 3px 4px", "none, 1px 2px", "1% 2px", "0 0", "1 2"}},
		{"text-shadow", []string{"none", "1px 2px", "1px 2px 3px", "1px 2px 3px 4px", "1px 2px -3px", "red 1px 2px", "1px 2px red", "inset 1px 2px", "1px 2px, 3px 4px red", "1px"}},
		{"flex", []string{"none", "auto", "initial", "1", "1 2", "1 2 3px", "1 3px", "3px", "3px 1", "3px 1 2", "1 3px 2", "1 2 3", "1 2 0", "0", "0 0", "-1", "1 -1", "auto 1", "1 auto", "content", "1 content", "none 1", "1 2 3px 4", "1 2 -3px", "calc(1 + 1)"}},
		{"flex-flow", []string{"row", "wrap", "row wrap", "wrap row", "row column", "wrap nowrap", "column-reverse wrap-reverse", "row wrap row", "nope"}},
		{"grid-template-columns", []string{
			"none", "10px", "1fr", "-1fr", "-10px", "auto", "min-content max-content", "minmax(10px, 1fr)", "minmax(1fr, 10px)", "minmax(10px)", "minmax(10px 1fr)", "minmax(auto, auto)", "fit-content(10px)", "fit-content()", "fit-content(1fr)", "fit-content(-1px)", "repeat(2, 10px)", "repeat(2, 10px 1fr)", "repeat(0, 10px)", "repeat(-1, 10px)", "repeat(1.5, 10px)", "repeat(2)", "repeat(auto-fill, 10px)", "repeat(auto-fit, minmax(10px, 1fr))", "repeat(auto-fill, 1fr)", "repeat(auto-fill, auto)", "repeat(auto-fill, minmax(auto, 10px))", "repeat(auto-fill, 10px) repeat(auto-fit, 10px)", "repeat(auto-fill, 10px) 1fr", "repeat(auto-fill, 10px) auto", "repeat(2, repeat(2, 10px))", "repeat(2, none)", "[a] 10px", "[a] 10px [b c]", "[a]", "[a] [b] 10px", "[] 10px", "[span] 10px", "[auto] 10px", "[a b] repeat(2, [c] 10px [d])", "subgrid", "subgrid [a] [b]", "subgrid 10px", "subgrid repeat(2, [a])", "subgrid repeat(auto-fill, [a])", "10px, 20px", "10%", "calc(10px + 5%) 1fr", "0.5fr", "masonry",
		}},
		{"grid-template-areas", []string{"none", "'a'", "'a b' 'c d'", "'a b' 'c'", "'a a' 'a b'", "'a . b'", "'a ... b'", "''", "'  '", "'a b' 'b a'", "a", "'a' none", "'1a'", "'a/b'", "'a' 'a'"}},
		{"grid-area", []string{"a", "1", "1 / 2", "1 / 2 / 3 / 4", "1 / 2 / 3 / 4 / 5", "a / b", "1 2", "span 2 / 3", "auto", "/ 1", "1 /", "span a / 2 b"}},
		{"grid-auto-flow", []string{"row", "column", "dense", "row dense", "dense column", "row column", "dense dense"}},
		{"columns", []string{"auto", "auto auto", "2", "100px", "2 100px", "100px 2", "2 3", "100px 200px", "auto 2", "0", "-2", "2.5", "auto auto auto", "2 auto 100px"}},
		{"gap", []string{"1px", "1px 2px", "normal", "normal 1px", "10%", "-1px", "1px 2px 3px", "1", "0"}},
		{"place-items", []string{"center", "center start", "auto", "start auto", "baseline", "first baseline end", "last baseline", "stretch", "left", "start left", "legacy", "center legacy left", "safe center", "unsafe end start", "safe", "safe baseline", "normal", "space-between", "center center center"}},
		{"align-content", []string{"normal", "center", "space-between", "safe center", "center safe", "baseline", "last baseline", "left", "stretch", "start end", "auto", "unsafe space-around"}},
		{"text-overflow", []string{"clip", "ellipsis", "'…'", "clip ellipsis", "'a' 'b'", "clip clip clip", "", "fade", "ellipsis 5px"}},
		{"grid-template-rows", []string{"subgrid", "subgrid []", "subgrid [a]", "subgrid [a] repeat(0, [b])", "subgrid repeat(1, [a] [b])", "subgrid repeat(2, [a] 10px)", "subgrid repeat(auto-fill, [a]) [b]", "subgrid repeat(-1, [a])", "subgrid repeat(2)", "subgrid repeat(2, )", "subgrid none"}},
		{"aspect-ratio", []string{"auto", "1", "1 / 2", "1/2", "auto 1 / 2", "1 / 2 auto", "1 auto", "0", "0 / 1", "1 / 0", "-1", "1 / -1", "1 2", "1 /", "auto auto", "calc(1 + 1) / 3", "1px / 2"}},
		{"object-position", []string{"left", "left top", "left 5px top 6px", "left 5px top", "5px", "top 5px", "left left", "5px 6px 7px"}},
		{"page", []string{"auto", "a", "a b", "'a'", "1a", "inherit", "Auto"}},
		{"text-indent", []string{"1em", "10%", "1em hanging", "hanging 1em", "1em each-line hanging", "each-line", "1em hanging hanging", "1", "-1em", "1em 2em"}},
		{"text-transform", []string{"none", "uppercase", "uppercase full-width", "uppercase lowercase", "full-width full-size-kana", "full-width full-width", "none uppercase", "math-auto", "nope"}},
		{"text-align", []string{"left", "start", "justify", "match-parent", "justify-all", "'.'", "'.' right", "left right", "-webkit-center"}},
		{"vertical-align", []string{"baseline", "super", "5px", "-5px", "10%", "middle", "top bottom", "first baseline", "5", "0", "text-top"}},
		{"line-height", []string{"normal", "1.5", "-1", "0", "20px", "120%", "-10%", "1.5 2", "calc(1.5)", "calc(1px + 10%)", "calc(-1)"}},
		{"tab-size", []string{"4", "4.5", "-1", "20px", "10%", "0", "4 5"}},
		{"initial-letter", []string{"normal", "3", "3 2", "3 drop", "drop 3", "3 raise", "3 2.5", "0.5", "-1", "3 0", "3 2 drop", "drop"}},
		{"hyphenate-limit-chars", []string{"auto", "5", "5 2", "5 2 2", "auto 3", "5 auto auto", "-1", "5.5", "5 2 2 2"}},
		{"hanging-punctuation", []string{"none", "first", "first last", "first force-end last", "allow-end force-end", "first first", "none first"}},
		{"line-clamp", []string{"none", "3", "0", "-1", "1.5", "3 '…'", "auto"}},
		{"shape-outside", []string{"none", "circle()", "circle() border-box", "margin-box", "margin-box circle(5px)", "url(a.png)", "url(a.png) border-box", "inset(1px)", "path('M0 0h5')", "linear-gradient(red, blue)", "polygon(0 0, 1px 1px, 1px 0)", "border-box border-box"}},
		{"inset", []string{"0", "1px", "1px 2px 3px 4px", "auto", "10% auto", "-1px", "1px 2px 3px 4px 5px", "1", "anchor(top)"}},
		{"z-index", []string{"auto", "0", "-1", "1.5", "calc(1.5)", "1 2", "1px", "9999999999"}},
		{"opacity", []string{"0", "1", "0.5", "50%", "-1", "2", "150%", "0.5 1", "1px", "calc(0.5 + 0.2)"}},
		{"width", []string{
			"calc(1px + 2%)", "calc(1px+2%)", "calc(1px +2%)", "calc(1px + )", "calc()", "calc(1px * 2)", "calc(2 * 1px)", "calc(1px * 2px)", "calc(1px / 2)", "calc(1px / 0)", "calc(2 / 1px)", "calc(1px / 1px * 1px)", "calc(1 + 1px)", "calc((1px))", "calc(((1px + 2px)) * 2)", "calc(1px + calc(2px))", "min(1px, 2%)", "min()", "min(1px)", "min(1px,)", "max(1px, 2)", "clamp(1px, 2%, 3px)", "clamp(1px, 2px)", "clamp(none, 2px, 3px)", "round(5px, 2px)", "round(up, 5px, 2px)", "round(5px)", "round(5px, 2)", "mod(5px, 2px)", "rem(-5px, 2px)", "abs(-5px)", "sign(5px)", "calc(1px * sign(-5))", "sqrt(4)", "calc(1px * sqrt(4))", "calc(1px * sin(90deg))", "calc(1px * pi)", "calc(1px * e)", "calc(1px * infinity)", "calc(1px * NaN)", "calc(1px * nope)", "hypot(3px, 4px)", "calc(1px * pow(2, 3))", "pow(2px, 3)", "calc(1px * log(8, 2))", "calc(1px * exp(0))", "calc(1px * atan2(1px, 2px))", "calc(1px * (atan2(1px, 2px) / 1rad))", "env(a)", "env(a, 5px)",
			"min-content", "fit-content", "fit-content(10px)", "stretch", "-1px", "1", "0", "1e2px", "1.px", ".5px", "+5px", "--5px", "5 px", "5PX", "1q", "1vmin", "1dvh", "1svw", "1cqw", "1rlh", "1lh", "1cap", "1ic", "1rex", "1rch", "1fr", "1deg", "1x", "auto auto", "calc-size(auto, size)", "var(--a)", "var(--a, 5px)", "var(a)", "var()", "attr(data-w px)", "attr(data-w type(<length>), 5px)",
		}},
	} {
		for _, v := range group.values {
			fmt.Fprintf(&out, "%s: %s → %s\n", group.property, v, effect(t, group.property+": "+v))
		}
	}
	golden.Compare(t, "testdata/notations.txt", out.String())
}
