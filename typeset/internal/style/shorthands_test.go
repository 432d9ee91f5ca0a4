package style

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// look tells computed values in a line, to be held against others.
func look(s *Style) map[string]string {
	size := func(v Size) string {
		switch v.Kind {
		case Length:
			return fmt.Sprintf("%gpx %g%%", v.Px, v.Pct)
		case Auto:
			return "auto"
		case None:
			return "none"
		}
		return fmt.Sprint(v.Kind)
	}
	four := func(f func(i int) string) string {
		return strings.Join([]string{f(0), f(1), f(2), f(3)}, " | ")
	}
	return map[string]string{
		"margin":  four(func(i int) string { return size(s.Margin[i]) }),
		"padding": four(func(i int) string { return fmt.Sprintf("%g", s.Padding[i].Of(100)) }),
		"inset":   four(func(i int) string { return size(s.Inset[i]) }),
		"border": four(func(i int) string {
			return fmt.Sprintf("%g %v %v", s.Border[i].Width, s.Border[i].Style, s.Border[i].Color.Or(s.Color).C)
		}),
		"radius":   four(func(i int) string { return fmt.Sprintf("%g/%g", s.Radius[i][0].Of(100), s.Radius[i][1].Of(100)) }),
		"flex":     fmt.Sprintf("%g %g %s", s.FlexGrow, s.FlexShrink, size(s.FlexBasis)),
		"overflow": fmt.Sprintf("%v %v", s.OverflowX, s.OverflowY),
		"columns":  fmt.Sprintf("%d %s", s.ColumnCount, size(s.ColumnWidth)),
		"font":     fmt.Sprintf("%v %g %gpx %v %s", s.FontStyle.Kind, s.FontWeight, s.FontSize, s.LineHeight, strings.Join(s.Families, ",")),
		"size":     fmt.Sprintf("%s × %s", size(s.Width), size(s.Height)),
		"breaks":   fmt.Sprintf("%v %v %v", s.BreakBefore, s.BreakAfter, s.BreakInside),
		"outline":  fmt.Sprintf("%g %v", s.Outline.Width, s.Outline.Style),
	}
}

const noMargin = "0px 0% | 0px 0% | 0px 0% | 0px 0%"

// TestShorthandsSpread holds what shorthands spread to (CSS Cascade 5, §3).
func TestShorthandsSpread(t *testing.T) {
	for _, c := range []struct{ css, group, want string }{
		{"margin: 1px", "margin", "1px 0% | 1px 0% | 1px 0% | 1px 0%"},
		{"margin: 1px 2px", "margin", "1px 0% | 2px 0% | 1px 0% | 2px 0%"},
		{"margin: 1px auto 3px", "margin", "1px 0% | auto | 3px 0% | auto"},
		{"margin: 1px 2% 3px 4px", "margin", "1px 0% | 0px 2% | 3px 0% | 4px 0%"},
		{"margin: 1px 2px 3px 4px 5px", "margin", noMargin},
		{"margin: 1px; margin-left: 9px", "margin", "1px 0% | 1px 0% | 1px 0% | 9px 0%"},
		{"margin-left: 9px; margin: 1px", "margin", "1px 0% | 1px 0% | 1px 0% | 1px 0%"},
		{"margin-inline: 5px 7px; margin-block: 2px", "margin", "2px 0% | 7px 0% | 2px 0% | 5px 0%"},
		{"direction: rtl; margin-inline: 5px 7px", "margin", "0px 0% | 5px 0% | 0px 0% | 7px 0%"},
		{"writing-mode: vertical-rl; margin-block-start: 5px; margin-inline-start: 6px", "margin", "6px 0% | 5px 0% | 0px 0% | 0px 0%"},
		{"margin-inline-start: 5px; margin-left: 3px", "margin", "0px 0% | 0px 0% | 0px 0% | 3px 0%"},
		{"margin-left: 3px; margin-inline-start: 5px", "margin", "0px 0% | 0px 0% | 0px 0% | 5px 0%"},
		{"margin: 1px !important; margin: 2px", "margin", "1px 0% | 1px 0% | 1px 0% | 1px 0%"},
		{"padding: 4px 10%", "padding", "4 | 10 | 4 | 10"},
		{"padding: -4px", "padding", "0 | 0 | 0 | 0"},
		{"padding-inline-end: 3px", "padding", "0 | 3 | 0 | 0"},
		{"inset: 0 auto 2px", "inset", "0px 0% | auto | 2px 0% | auto"},
		{"inset-inline: 1px; top: 3px", "inset", "3px 0% | 1px 0% | auto | 1px 0%"},
		{"border: 2px solid red", "border", "2 solid [1 0 0 0] | 2 solid [1 0 0 0] | 2 solid [1 0 0 0] | 2 solid [1 0 0 0]"},
		{"border: red 2px", "border", "0 none [1 0 0 0] | 0 none [1 0 0 0] | 0 none [1 0 0 0] | 0 none [1 0 0 0]"},
		{"color: lime; border: solid; border-top: none", "border", "0 none [0 1 0 0] | 3 solid [0 1 0 0] | 3 solid [0 1 0 0] | 3 solid [0 1 0 0]"},
		{"border-style: dotted dashed; border-width: 1px 2px 3px 4px; border-color: red", "border", "1 dotted [1 0 0 0] | 2 dashed [1 0 0 0] | 3 dotted [1 0 0 0] | 4 dashed [1 0 0 0]"},
		{"border-inline-start: 5px double blue", "border", "0 none [0 0 0 0] | 0 none [0 0 0 0] | 0 none [0 0 0 0] | 5 double [0 0 1 0]"},
		{"border-radius: 4px", "radius", "4/4 | 4/4 | 4/4 | 4/4"},
		{"border-radius: 1px 2px / 3px 4px 5px", "radius", "1/3 | 2/4 | 1/5 | 2/4"},
		{"border-radius: 50%; border-top-left-radius: 1px 2px", "radius", "1/2 | 50/50 | 50/50 | 50/50"},
		{"border-radius: -1px", "radius", "0/0 | 0/0 | 0/0 | 0/0"},
		{"flex: 2", "flex", "2 1 0px 0%"},
		{"flex: auto", "flex", "1 1 auto"},
		{"flex: none", "flex", "0 0 auto"},
		{"flex: 1 0 30px", "flex", "1 0 30px 0%"},
		{"flex: 10px 3", "flex", "3 1 10px 0%"},
		{"flex: initial", "flex", "0 1 auto"},
		{"overflow: hidden", "overflow", "hidden hidden"},
		{"overflow: hidden scroll", "overflow", "hidden scroll"},
		{"overflow-x: hidden", "overflow", "hidden auto"},
		{"overflow: clip visible", "overflow", "clip visible"},
		{"columns: 3", "columns", "3 auto"},
		{"columns: 12px 2", "columns", "2 12px 0%"},
		{"columns: auto 8px", "columns", "0 8px 0%"},
		{"columns: 0", "columns", "0 0px 0%"},
		{"font: 20px serif", "font", "normal 400 20px {0 0} serif"},
		{"font: italic bold 2em/1.5 'Harbour Sans', sans-serif", "font", "italic 700 32px {1 1.5} Harbour Sans,sans-serif"},
		{"font-weight: 900; font: 10px/20px x", "font", "normal 400 10px {2 20} x"},
		{"font: 10px", "font", "normal 400 16px {0 0} serif"},
		{"font: small-caps 10px a", "font", "normal 400 10px {0 0} a"},
		{"inline-size: 30px; block-size: 40%", "size", "30px 0% × 0px 40%"},
		{"writing-mode: vertical-lr; inline-size: 30px; block-size: 4px", "size", "4px 0% × 30px 0%"},
		{"width: -3px; height: none", "size", "auto × auto"},
		{"break-before: page; break-inside: avoid", "breaks", "page auto avoid"},
		{"page-break-before: always; page-break-after: avoid; page-break-inside: avoid", "breaks", "page avoid avoid"},
		{"page-break-after: recto", "breaks", "auto auto auto"},
		{"break-after: recto", "breaks", "auto recto auto"},
		{"outline: 2px dashed", "outline", "2 dashed"},
		{"outline: 2px", "outline", "0 none"},
		{"all: initial; margin: 2px", "margin", "2px 0% | 2px 0% | 2px 0% | 2px 0%"},
		{"margin: 2px; all: initial", "margin", noMargin},
	} {
		got := look(styled(t, "<!DOCTYPE html><div><span id=x>x</span></div>", "#x { "+c.css+" }"))
		assert.Equal(t, c.want, got[c.group], c.css)
	}
}

// TestCascadeOrder gives a width by several rules; the one that wins tells the
// order (CSS Cascade 5, §6).
func TestCascadeOrder(t *testing.T) {
	for css, want := range map[string]float64{
		"#x { width: 1px } .a { width: 2px } p { width: 3px }":                                     1,
		"p { width: 3px !important } #x { width: 1px }":                                            3,
		".a { width: 1px } .b { width: 2px }":                                                      2,
		".a.b { width: 1px } .b { width: 2px }":                                                    1,
		":where(#x) { width: 1px } p { width: 2px }":                                               2,
		":is(#x, q) { width: 1px } .a.b.a { width: 2px }":                                          1,
		"@layer base, top; @layer top { p { width: 2px } } @layer base { #x { width: 1px } }":      2,
		"@layer base { #x { width: 1px } } p { width: 2px }":                                       2,
		"@layer base { p { width: 1px !important } } #x { width: 2px !important }":                 1,
		"@layer a { @layer b { p { width: 1px } } p { width: 2px } }":                              2,
		"@layer a.b { p { width: 1px } } @layer a { @layer c { p { width: 2px } } }":               2,
		"p { width: 1px; width: what }":                                                            1,
		"p { width: 1px; width: var(--none) }":                                                     0,
		"p { --w: 4px; width: var(--w, 9px) }":                                                     4,
		"p { width: var(--w, 9px) }":                                                               9,
		"p { --w: var(--v); --v: var(--w); width: var(--w, 6px) }":                                 6,
		"div { --w: 3px } p { width: calc(var(--w) * 2) }":                                         6,
		"div { width: 5px } p { width: inherit }":                                                  5,
		"p { width: 1px } #x { width: revert-layer }":                                              0,
		"@layer l { p { width: 7px } } @layer m { p { width: revert-layer } }":                     7,
		"@supports (display: grid) { p { width: 2px } }":                                           2,
		"@supports not (display: grid) { p { width: 2px } } p { height: 1px }":                     0,
		"@supports (nothing: at all) or (width: 1px) { p { width: 2px } }":                         2,
		"@supports selector(p:has(b)) { p { width: 2px } }":                                        2,
		"@media print { p { width: 2px } } @media screen { p { width: 3px } }":                     2,
		"@media print and (min-width: 700px) { p { width: 2px } }":                                 2,
		"@media (width < 700px) { p { width: 2px } } @media (700px <= width) { p { width: 4px } }": 4,
		"@media not print { p { width: 2px } } @media only print { p { width: 5px } }":             5,
		"@media (orientation: landscape) { p { width: 8px } }":                                     8,
		"div { p { width: 2px } & > p { width: 3px } }":                                            3,
		"p { &.a { width: 2px } .zz & { width: 3px } }":                                            2,
		"p { @media print { width: 6px } }":                                                        6,
		"p { width: attr(data-n px) }":                                                             7,
		"p { width: attr(data-none px, 3px) }":                                                     3,
		"p { width: env(safe-area-inset-top, 4px) }":                                               4,
	} {
		s := styled(t, div(""), css)
		got := 0.0
		if s.Width.Kind == Length {
			got = s.Width.Px
		}
		assert.Equal(t, want, got, css)
	}
}

// TestSelectors counts what selectors find in a list (Selectors 4).
func TestSelectors(t *testing.T) {
	const page = `<!DOCTYPE html><ul class="quay long" lang=en data-berths="A1 A2-b c"><li id=one class=odd>1<li class=even>2<b></b><li class="odd last">3<li lang=de-AT>4<i title=x></i>
		<ul><li>5<li hidden>6</ul></ul><form><input type=checkbox checked><input disabled><input required readonly value=v><select><option selected>a<option>b</select></form><p dir=rtl></p><p> </p>`
	for sel, want := range map[string]int{
		"li": 6, "ul > li": 6, "body > ul > li": 4, "ul ul li": 2, "li + li": 4, "li ~ li": 4, "li:first-child": 2, "li:last-child": 2, "li:only-child": 0,
		"li:nth-child(odd)": 3, "li:nth-child(2n)": 3, "li:nth-child(-n+2)": 4, "li:nth-child(n+3)": 2, "li:nth-last-child(1)": 2, "li:nth-child(1 of .odd)": 1, "li:nth-child(2 of .odd)": 1,
		"li:nth-of-type(3)": 1, "li:first-of-type": 2, "b:only-of-type": 1, "li:not(.odd)": 4, "li:not(.odd, .even)": 3, "li:is(.odd, .even)": 3, "li:where(#one)": 1,
		"li:has(b)": 1, "li:has(> ul)": 1, "li:has(+ .even)": 1, "ul:has(ul li[hidden])": 1, "li:has(~ .last)": 2, ":root": 1, "ul:lang(en)": 1, "li:lang(de)": 3, "li:lang('*-AT')": 3,
		"p:dir(rtl)": 1, "b:empty": 1, "p:empty": 1, "[lang]": 2, "[lang|=de]": 1, "[data-berths~=A1]": 1, "[data-berths~=A2]": 0, "[data-berths^=A1]": 1, "[data-berths$=c]": 1, "[data-berths*='2-b']": 1,
		"[class=QUAY]": 0, "[class='QUAY LONG' i]": 1, "[type=CHECKBOX]": 1, "[type=CHECKBOX s]": 0, "input:checked": 1, "option:checked": 1, "input:disabled": 1, "input:enabled": 2, "input:required": 1,
		"input:read-only": 3, "li.odd.last": 1, ".odd.even": 0, "*": 22, "ul li:not(ul ul li)": 4, "li:nth-child(x)": -1, "..": -1,
	} {
		doc := parsed(t, page)
		list, err := Select(doc, sel)
		if want < 0 {
			assert.Error(t, err, sel)
			continue
		}
		if assert.NoError(t, err, sel) {
			assert.Len(t, list, want, sel)
		}
	}
}

// TestSizesByKeyword: a keyword stands for another size in a lone monospace,
// wherever the keyword was given, and so do relative sizes, as browsers have them;
// lengths stay (CSS Fonts 4, §2.5).
func TestSizesByKeyword(t *testing.T) {
	for page, want := range map[string]float64{
		"<code id=x>": 13, "<pre><code id=x>": 13, "<div style='font-size: large'><code id=x>": 16, "<div style='font-size: 20px'><code id=x>": 20,
		"<h1><code id=x>": 26,
		"<pre style='font-size: 1em'><b style='font-family: serif'><code id=x>": 13,
		"<small><code id=x>":                                                            10.833,
		"<p style='font-size:120%'><code id=x>":                                         15.6,
		"<p style='font-size:1.2rem'><code id=x>":                                       19.2,
		"<p style='font-size:calc(1em + 2px)'><code id=x>":                              18,
		"<p style='font-size:120%'><code id=x style='font-size:1em'>":                   15.6,
		"<p style='font-size:120%'><code id=x style='font-size:20px'>":                  20,
		"<pre style='font-size:120%'><code id=x style='font-size:80%'>":                 12.48,
		"<pre style='font-size:120%'><b id=x style='font:80% serif'>":                   15.36,
		"<p style='font-size:20px'><b style='font-size:120%'><code id=x>":               24,
		"<div style='font-size:large'><b style='font-size:1em'><code id=x>":             14.625,
		"<pre><b style='font-family:serif'><code id=x style='font-size:1em'>":           13,
		"<code id=x style='font-size:smaller'>":                                         10.833,
		"<h1><code style='font-family:inherit'><tt id=x>":                               26,
		"<p style='font-size:120%'><code id=x style='font-family:monospace,monospace'>": 19.2,
		"<pre style='font-size:20px'><b id=x style='font-family:serif'>":                20,
		"<p style='font-size:20px'><code id=x style='font-size:inherit'>":               20,
		"<p style='font-size:120%'><code id=x style='font-size:inherit'>":               15.6,
		"<p style='font-size:120%'><code id=x style='font-size:120%'>":                  18.72,
		"<pre style='font-size:10pt'><b style='font-size:200%;font-family:serif' id=x>": 26.667,
		"<pre><b id=x style='font-family: serif'>":                                      16, "<pre><b id=x style='font-family: monospace, serif'>": 16, "<pre style='font-size: 1em'><b id=x style='font-family: serif'>": 16,
		"<p id=x style='font-size: xx-small'>": 9, "<code id=x style='font-size: xx-large'>": 26, "<div style='font-size: 30px'><p id=x style='font-size: initial'>": 16,
		"<div style='font-size: small'><p style='font-size: inherit'><code id=x>": 12, "<small id=x>": 16 / 1.2, "<div style='font: 10px serif'><code id=x>": 10,
	} {
		assert.InDelta(t, want, styled(t, "<!DOCTYPE html>"+page+"x", "").FontSize, 0.01, page)
	}
}

// TestMarginsOfOldBodies: the left margin counts for the right one, and the top
// one for the bottom, unless these are given.
func TestMarginsOfOldBodies(t *testing.T) {
	for attrs, want := range map[string]string{
		"": "8px 0% | 8px 0% | 8px 0% | 8px 0%", "leftmargin=3 topmargin=4": "4px 0% | 3px 0% | 4px 0% | 3px 0%",
		"leftmargin=3 rightmargin=5 bottommargin=0": "8px 0% | 5px 0% | 0px 0% | 3px 0%", "leftmargin=3 marginwidth=0 marginheight=1": "1px 0% | 0px 0% | 1px 0% | 0px 0%",
	} {
		assert.Equal(t, want, look(styled(t, "<!DOCTYPE html><body id=x "+attrs+">", ""))["margin"], attrs)
	}
}
