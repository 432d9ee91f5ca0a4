package style

import (
	"math"
	"reflect"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// styled computes the style of the element with id x.
func styled(t *testing.T, html, sheet string) *Style {
	t.Helper()
	s, _ := styledAndTold(t, html, sheet)
	return s
}

// styledAndTold is styled with what is told of the sheet.
func styledAndTold(t *testing.T, html, sheet string) (*Style, []Notice) {
	t.Helper()
	return styledWith(t, html, map[Origin]string{Author: sheet})
}

// styledBy is styled by the sheets of a user and an author.
func styledBy(t *testing.T, html, user, author string) *Style {
	t.Helper()
	s, _ := styledWith(t, html, map[Origin]string{User: user, Author: author})
	return s
}

func styledWith(t *testing.T, html string, sheets map[Origin]string) (*Style, []Notice) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	var told []Notice
	r := NewResolver(Env{Medium: "print", Width: 800, Height: 600}, plainFonts{}, nil, func(n Notice) { told = append(told, n) })
	for _, origin := range []Origin{User, Author} {
		r.AddSheet(ParseSheet("test.css", "", sheets[origin]), origin, nil, nil)
	}
	r.Finish()
	var found *Style
	var walk func(n *markup.Node, parent *Style)
	walk = func(n *markup.Node, parent *Style) {
		if n.Kind == markup.Element {
			s := r.Style(n, "", parent)
			if n.ID == "x" {
				found = s
			}
			parent = s
		}
		for c := n.First; c != nil; c = c.Next {
			walk(c, parent)
		}
	}
	walk(doc, Initial())
	require.NotNil(t, found, "no element has the id x")
	return found, told
}

func div(sheet string) string {
	return "<!DOCTYPE html><div><p id=x class='a b' lang=de data-n=7>x</p></div>"
}

func width(t *testing.T, value string) float64 {
	t.Helper()
	s := styled(t, div(""), "#x { font-size: 20px; width: "+value+" }")
	require.Equal(t, Length, s.Width.Kind, value)
	return s.Width.Of(200)
}

func TestLengths(t *testing.T) {
	for in, want := range map[string]float64{
		"1in": 96, "2.54cm": 96, "25.4mm": 96, "72pt": 96, "6pc": 96, "101.6q": 96, "2em": 40, "2rem": 32, "10vw": 80, "10vh": 60, "50%": 100,
		"calc(1in - 6px)": 90, "calc(50% + 10px)": 110, "calc((1 + 2) * 3px)": 9, "min(10px, 5px)": 5, "max(10%, 5px)": 20, "clamp(1px, 50%, 30px)": 30,
		"calc(10px / 4)": 2.5, "round(7px, 5px)": 5, "mod(7px, 5px)": 2, "abs(-3px)": 3, "hypot(3px, 4px)": 5, "calc(sin(90deg) * 10px)": 10, "calc(1px * pow(2, 3))": 8,
		"calc(infinity * 1px)": 1e6,
	} {
		assert.InDelta(t, want, width(t, in), 1e-6, in)
	}
}

func TestBadValuesAreLeftOut(t *testing.T) {
	for _, in := range []string{"10", "-5px", "calc(1px + 1)", "calc(1px+1px)", "red", "1px 2px", "min()", "calc(1px / 0px 2)"} {
		s := styled(t, div(""), "#x { width: 7px; width: "+in+" }")
		assert.Equal(t, 7.0, s.Width.Px, in)
	}
}

// A value that was left out is told, but for those with a browser's prefix: var() is easily forgotten around a name.
func TestForgottenVar(t *testing.T) {
	for value, want := range map[string]string{
		"--main":     "the value “--main” of color is not understood and was left out — write var(--main)",
		"--main red": "the value “--main red” of color is not understood and was left out — write var(--main)",
		"rde":        "the value “rde” of color is not understood and was left out",
		"--":         "",
		"-moz-red":   "",
	} {
		_, told := styledAndTold(t, div(""), "#x { --main: red; color: "+value+" }")
		if want == "" {
			assert.Empty(t, told, value)
			continue
		}
		require.Len(t, told, 1, value)
		assert.Equal(t, want, told[0].Message)
	}
}

func rgbOf(c Color) [3]int {
	c = c.ToRGB()
	return [3]int{int(math.Round(float64(c.C[0]) * 255)), int(math.Round(float64(c.C[1]) * 255)), int(math.Round(float64(c.C[2]) * 255))}
}

func TestColors(t *testing.T) {
	for in, want := range map[string][3]int{
		"red": {255, 0, 0}, "#0f0": {0, 255, 0}, "#00f8": {0, 0, 255}, "rgb(10 20 30)": {10, 20, 30}, "rgba(10, 20, 30, .5)": {10, 20, 30}, "rgb(100% 0 0)": {255, 0, 0},
		"hsl(120 100% 25%)": {0, 128, 0}, "hsl(120deg, 100%, 25%)": {0, 128, 0}, "hwb(0 0% 0%)": {255, 0, 0}, "lab(100 0 0)": {255, 255, 255}, "oklch(0.62796 0.25768 29.2339)": {255, 0, 0},
		"oklab(1 0 0)": {255, 255, 255}, "color(srgb 1 0.5 0)": {255, 128, 0}, "color-mix(in srgb, red, blue)": {128, 0, 128}, "color-mix(in srgb, white 25%, black)": {64, 64, 64},
		"device-cmyk(0 1 1 0)": {255, 0, 0}, "rgb(from #112233 b g r)": {0x33, 0x22, 0x11}, "color(xyz 0 0 0)": {0, 0, 0}, "transparent": {0, 0, 0}, "RebeccaPurple": {102, 51, 153},
	} {
		s := styled(t, div(""), "#x { background-color: "+in+" }")
		assert.Equal(t, want, rgbOf(s.BackgroundColor), in)
	}
	for _, in := range []string{"rgb(1, 2 3)", "#12", "hsl(1, 2, 3)", "color(nope 1 1 1)", "color-mix(red)"} {
		s := styled(t, div(""), "#x { background-color: lime; background-color: "+in+" }")
		assert.Equal(t, [3]int{0, 255, 0}, rgbOf(s.BackgroundColor), in)
	}
}

// TestColorsOfCurrentcolor looks at colours that are made from currentcolor: each
// element that inherits one has its own colour in it.
func TestColorsOfCurrentcolor(t *testing.T) {
	for value, want := range map[string][3]int{
		"rgb(from currentcolor r g b)":                          {0, 0, 255},
		"rgb(from currentcolor g r b)":                          {0, 0, 255},
		"rgb(from currentcolor b g r)":                          {255, 0, 0},
		"color-mix(in srgb, currentcolor, red)":                 {128, 0, 128},
		"rgb(from color-mix(in srgb, currentcolor, red) r g 0)": {128, 0, 0},
		"currentcolor": {0, 0, 255},
	} {
		s := styled(t, "<section><div id=x>", "section { color: lime; background: "+value+" } div { color: blue; background: inherit }")
		assert.Equal(t, want, rgbOf(s.BackgroundColor.Or(s.Color)), value)
	}
	s := styled(t, "<section><div id=x>", "section { color: lime } div { color: rgb(from currentcolor g r b) }")
	assert.Equal(t, [3]int{255, 0, 0}, rgbOf(s.Color), "of the element around it in the property itself")
}

// TestSheetsServeManyAtOnce computes colours of one sheet in many goroutines.
func TestSheetsServeManyAtOnce(t *testing.T) {
	spec, ok := parseColor(css.Words(css.ParseValues("rgb(from currentcolor r r r)"))[0])
	require.True(t, ok)
	var all sync.WaitGroup
	for i := range 8 {
		all.Go(func() {
			for range 200 {
				c := &Computer{S: &Style{}}
				got := spec(c).Or(RGB8(uint8(i), 0, 0))
				assert.Equal(t, [3]int{i, i, i}, rgbOf(got))
			}
		})
	}
	all.Wait()
}

func TestCascade(t *testing.T) {
	for sheet, want := range map[string]float64{
		"p { z-index: 1 } #x { z-index: 2 } p.a { z-index: 3 }":                                           2,
		"p { z-index: 1 !important } #x { z-index: 2 }":                                                   1,
		"@layer one, two; @layer two { #x { z-index: 2 } } @layer one { #x { z-index: 1 } }":              2,
		"@layer one { #x { z-index: 1 } } p { z-index: 5 }":                                               5,
		"@layer one { p { z-index: 1 !important } } #x { z-index: 2 !important }":                         1,
		"@supports (display: grid) { #x { z-index: 4 } } @supports (display: nope) { #x { z-index: 9 } }": 4,
		"@media print { #x { z-index: 1 } } @media screen { #x { z-index: 2 } }":                          1,
		"@media (min-width: 700px) and (width < 900px) { #x { z-index: 6 } }":                             6,
		"div { & > p { z-index: 7 } }":                                                                    7,
		"div { p& { z-index: 9 } z-index: 1; .a { z-index: 3 } }":                                         3,
		"#x { --n: 5; z-index: var(--n) }":                                                                5,
		"#x { --n: var(--m); --m: var(--n); z-index: 3; z-index: var(--n, 8) }":                           8,
		"div { --n: 4 } #x { z-index: var(--n, 8) }":                                                      4,
		"p:nth-child(1 of .a):has(+ *), p:is(.a, .c):not(.d) { z-index: 2 }":                              2,
		":root p[data-n='7' i]:lang(de) { z-index: 3 }":                                                   3,
	} {
		s := styled(t, div(""), sheet)
		assert.Equal(t, int(want), s.ZIndex.V, sheet)
	}
}

func TestWideKeywords(t *testing.T) {
	const page = "<!DOCTYPE html><div style='color: blue; border: 3px solid'><b id=x>x</b></div>"
	assert.Equal(t, 700.0, styled(t, page, "").FontWeight)
	assert.Equal(t, 400.0, styled(t, page, "#x { font-weight: initial }").FontWeight)
	assert.Equal(t, 400.0, styled(t, page, "#x { font-weight: inherit }").FontWeight)
	assert.Equal(t, 700.0, styled(t, page, "#x { font-weight: 100; font-weight: revert }").FontWeight)
	assert.Equal(t, 3.0, styled(t, page, "#x { border: inherit }").Border[Top].Width)
	assert.Equal(t, [3]int{0, 0, 255}, rgbOf(styled(t, page, "#x { all: unset }").Color))
	assert.Equal(t, [3]int{0, 0, 255}, rgbOf(styled(t, page, "#x { color: red; color: var(--none) }").Color))
}

func TestShorthands(t *testing.T) {
	s := styled(t, div(""), `#x { margin: 1px 2px 3px; border: 2px dashed red; border-left: none; font: italic bold 20px/1.5 "A B", serif;
		background: url(a.png) no-repeat center / 10px 20px, linear-gradient(red, blue) green; flex: 2; padding-inline: 4px 5px; inset-block-start: 6px; border-radius: 1px 2px / 3px }`)
	assert.Equal(t, []float64{1, 2, 3, 2}, []float64{s.Margin[0].Px, s.Margin[1].Px, s.Margin[2].Px, s.Margin[3].Px})
	assert.Equal(t, Dashed, s.Border[Top].Style)
	assert.Zero(t, s.Border[Left].Width)
	assert.Equal(t, []string{"A B", "serif"}, s.Families)
	assert.Equal(t, LineHeight{LineNumber, 1.5}, s.LineHeight)
	assert.Len(t, s.Background.Images, 2)
	assert.Equal(t, [3]int{0, 128, 0}, rgbOf(s.BackgroundColor))
	assert.Equal(t, []float64{2, 1, 0}, []float64{s.FlexGrow, s.FlexShrink, s.FlexBasis.Px})
	assert.Equal(t, 4.0, s.Padding[Left].Px)
	assert.Equal(t, 6.0, s.Inset[Top].Px)
	assert.Equal(t, 3.0, s.Radius[2][1].Px)
}

func TestLogicalSidesFollowDirection(t *testing.T) {
	s := styled(t, div(""), "#x { direction: rtl; margin-left: 1px; margin-inline-start: 9px }")
	assert.Equal(t, 9.0, s.Margin[Right].Px)
	assert.Equal(t, 1.0, s.Margin[Left].Px)
	s = styled(t, div(""), "#x { margin-inline-start: 9px; margin-left: 1px }")
	assert.Equal(t, 1.0, s.Margin[Left].Px, "the later declaration wins")
}

func TestStylesAreShared(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<ul><li>a<li>b</ul>"))
	require.NoError(t, err)
	r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, nil)
	r.Finish()
	ul := r.Style(doc.Find("ul"), "", Initial())
	li := doc.Find("li")
	assert.Same(t, r.Style(li, "", ul), r.Style(li.NextElement(), "", ul))
}

func TestNoticesNameTheirPlace(t *testing.T) {
	var got []Notice
	r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, func(n Notice) { got = append(got, n) })
	r.AddSheet(ParseSheet("a.css", "", "p {\n  colour: red;\n  width: wide }\n@nope { }"), Author, nil, nil)
	r.AddSheet(ParseSheet("b.css", "", "p {}"), Author, css.ParseValues("screen"), nil)
	require.Len(t, got, 4)
	assert.Equal(t, Notice{Code: "css-unsupported", Message: "the property “colour” is not known and was left out", Sheet: "a.css", Line: 2, Col: 3}, got[0])
	assert.Equal(t, 3, got[1].Line)
	assert.Equal(t, "sheet-skipped", got[3].Code)
}

func TestCounterStyles(t *testing.T) {
	m := CounterStyles{}
	for _, r := range css.ParseSheet("", `@counter-style dots { system: cyclic; symbols: "x" "y"; suffix: ") " } @counter-style pad { system: extends decimal; pad: 3 "0" }
		@counter-style loop { system: extends loop }`).Rules {
		name := css.Words(r.Prelude)[0].Text
		m[name] = parseCounterStyle(name, r.Decls)
	}
	for _, c := range []struct {
		name  string
		value int
		want  string
	}{
		{"decimal", -7, "-7"},
		{"lower-roman", 1994, "mcmxciv"},
		{"upper-roman", 4000, "4000"},
		{"lower-alpha", 28, "ab"},
		{"hebrew", 15, "טו"},
		{"armenian", 1, "Ա"},
		{"georgian", 2, "ბ"},
		{"cjk-decimal", 10, "一〇"},
		{"simp-chinese-informal", 101, "一百零一"},
		{"ethiopic-numeric", 100, "፻"},
		{"dots", 3, "x"},
		{"pad", 7, "007"},
		{"loop", 3, "3"},
		{"none", 3, ""},
		{"unknown", 3, "3"},
		{"decimal-leading-zero", 5, "05"},
		{"japanese-informal", 21, "二十一"},
	} {
		assert.Equal(t, c.want, m.Text(ListType{Name: c.name}, c.value), c.name)
	}
	assert.Equal(t, "y) ", m.Marker(ListType{Name: "dots"}, 2))
}

func TestPageSizes(t *testing.T) {
	for in, want := range map[string][2]float64{"A4": {794, 1123}, "a5 landscape": {794, 559}, "letter": {816, 1056}, "10cm 5cm": {378, 189}, "3in": {288, 288}} {
		p, ok := ParsePageSize(in)
		require.True(t, ok, in)
		assert.InDelta(t, want[0], p.W, 0.6, in)
		assert.InDelta(t, want[1], p.H, 0.6, in)
	}
	for _, in := range []string{"A99", "10", "A4 A5", "10cm landscape", ""} {
		_, ok := ParsePageSize(in)
		assert.False(t, ok, in)
	}
}

func TestPageSelectors(t *testing.T) {
	r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, nil)
	r.AddSheet(ParseSheet("", "", "@page :first { margin: 1px } @page chapter:left { margin: 2px } @page :nth(3n) { margin: 3px } @page { margin: 4px }"), Author, nil, nil)
	r.Finish()
	used := func(c PageContext) float64 {
		var blocks [][]Decl
		for i := range r.Pages {
			if r.Pages[i].Matches(c) {
				blocks = append(blocks, r.Pages[i].Decls)
			}
		}
		return r.PageStyle(Initial(), blocks).Margin[0].Px
	}
	assert.Equal(t, 1.0, used(PageContext{Index: 1}))
	assert.Equal(t, 2.0, used(PageContext{Index: 2, Left: true, Name: "chapter"}))
	assert.Equal(t, 3.0, used(PageContext{Index: 6}))
	assert.Equal(t, 4.0, used(PageContext{Index: 4, Left: true}))
}

func FuzzDeclarations(f *testing.F) {
	for _, s := range []string{"width: calc(1px*2)", "color: rgb(from red r g b)", "grid: auto-flow / 1fr", "background: url(x) 1px/2px", "font: 1px a", "transform: rotate(1deg)", "--a: var(--a)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		doc, _ := markup.ParseHTML([]byte("<p>x"))
		r := NewResolver(Env{Medium: "print", Width: 100, Height: 100}, plainFonts{}, nil, nil)
		r.AddSheet(ParseSheet("", "", "p {"+s+"}"), Author, nil, nil)
		r.Finish()
		r.Style(doc.Find("p"), "", Initial())
	})
}

func TestOverflowProperties(t *testing.T) {
	s := styled(t, div(""), "#x { line-clamp: 3 '…more'; text-overflow: clip '+' }")
	assert.Equal(t, 3, s.MaxLines)
	assert.Equal(t, "…more", s.BlockEllipsis)
	assert.Equal(t, "+", s.TextOverflow.Text)
	s = styled(t, div(""), "#x { display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2 }")
	assert.Equal(t, FlowRoot, s.Display.Inner)
	assert.Equal(t, 2, s.MaxLines)
	assert.Zero(t, styled(t, div(""), "#x { -webkit-line-clamp: 2 }").MaxLines, "only in the old box layout")
}

func TestContainmentAndMarginTrim(t *testing.T) {
	s := styled(t, div(""), "#x { contain: strict; contain-intrinsic-size: 10px auto 20px; margin-trim: block-start block-end inline-start }")
	inline, block := s.SizeContained()
	assert.True(t, inline && block && s.Contain.Paint && s.Contain.Layout)
	assert.Equal(t, [2]float64{10, 20}, s.IntrinsicSize)
	assert.Equal(t, [4]bool{Top: true, Bottom: true, Left: true}, s.MarginTrim)
	assert.False(t, Supports("contain", css.ParseValues("size foo")))
}

func TestFlowRelativeShorthandsTakeVar(t *testing.T) {
	s := styled(t, div(""), ":root { --m: 7px; --c: #00f } #x { margin-inline: var(--m) 1px; border-block: 2px solid var(--c) }")
	assert.Equal(t, 7.0, s.Margin[Left].Px)
	assert.Equal(t, 1.0, s.Margin[Right].Px)
	assert.Equal(t, RGB8(0, 0, 255), s.Border[Top].Color)
}

func TestVarIsCheckedWhenItIsRead(t *testing.T) {
	for value, ok := range map[string]bool{"var(--a)": true, "var(--a,)": true, "var(--a, 1px)": true, "var(--)": false, "var(a)": false, "var(--a,;)": false, "var(--a !)": false} {
		assert.Equal(t, ok, Supports("width", css.ParseValues(value)), value)
	}
}

func TestFirstLineTakesWhatIsInherited(t *testing.T) {
	block := &Style{Inherited: Inherited{Color: Black, FontSize: 16, FontWeight: 400}}
	line := &Style{Inherited: Inherited{Color: RGB8(255, 0, 0), FontSize: 20, FontWeight: 400}}
	inner := &Style{Inherited: Inherited{Color: RGB8(0, 0, 255), FontSize: 16, FontWeight: 700}}
	got := OnFirstLine(inner, block, line)
	assert.Equal(t, RGB8(0, 0, 255), got.Color, "its own colour stays")
	assert.Equal(t, 20.0, got.FontSize)
	assert.Equal(t, 700.0, got.FontWeight)
}

// Which properties of ::first-line reach what is inherited within it (CSS Pseudo 4, §2.1.2).
func TestPropertiesOfFirstLines(t *testing.T) {
	var taken []string
	for i := range reflect.TypeFor[Inherited]().NumField() {
		field := reflect.TypeFor[Inherited]().Field(i)
		block, line, inner := &Style{}, &Style{}, &Style{}
		if !field.IsExported() || !other(reflect.ValueOf(&line.Inherited).Elem().Field(i)) {
			continue
		}
		got := reflect.ValueOf(OnFirstLine(inner, block, line).Inherited).Field(i)
		if reflect.DeepEqual(got.Interface(), reflect.ValueOf(line.Inherited).Field(i).Interface()) {
			taken = append(taken, field.Name)
		}
		own := reflect.ValueOf(OnFirstLine(line, block, inner).Inherited).Field(i)
		assert.Equal(t, reflect.ValueOf(line.Inherited).Field(i).Interface(), own.Interface(), "its own %s stays", field.Name)
	}
	slices.Sort(taken)
	assert.Equal(t, "Color Families FontCaps FontFeatures FontKerning FontSize FontStretch FontStyle FontVariants FontVariations FontWeight LetterSpacing LineHeight SizeAdjust TextShadow TextTransform WordSpacing", strings.Join(taken, " "))
}

// other makes a value another than it is, as far as that is known how.
func other(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Float64, reflect.Float32:
		v.SetFloat(7)
	case reflect.Int, reflect.Int32, reflect.Int64:
		v.SetInt(7)
	case reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint:
		v.SetUint(7)
	case reflect.Bool:
		v.SetBool(true)
	case reflect.String:
		v.SetString("other")
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 1, 1))
		other(v.Index(0))
	case reflect.Array:
		return other(v.Index(0))
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Field(i).CanSet() && other(v.Field(i)) {
				return true
			}
		}
		return false
	default:
		return false
	}
	return true
}

func TestImageSetPicksForTheLayout(t *testing.T) {
	url := func(value string) string {
		s := styled(t, div(""), "#x { background-image: "+value+" }")
		if len(s.Background.Images) == 0 || s.Background.Images[0] == nil {
			return ""
		}
		return s.Background.Images[0].URL
	}
	assert.Equal(t, "/a.png", url("image-set(url(a.png) 1x, url(b.png) 2x)"))
	assert.Equal(t, "/b.png", url("image-set(url(a.png) 0.5x, url(b.png) 2x)"))
	assert.Equal(t, "/b.png", url("image-set('a.avif' type('image/avif'), 'b.png' type('image/png'))"))
	assert.Empty(t, url("image-set(url(a.png) 0x)"))
}

func TestSheetsAreReadOnce(t *testing.T) {
	a := ParseSheet("x.css", "", "p { color: red }")
	assert.Same(t, a, ParseSheet("x.css", "", "p { color: red }"))
	assert.NotSame(t, a, ParseSheet("y.css", "", "p { color: red }"), "findings name the file")
}

// FuzzMedia holds that a list of queries matches when one of them does, whatever the others are.
func FuzzMedia(f *testing.F) {
	f.Add("screen and (width >= 10em) or (not (color))")
	f.Add("(min-width: calc(1px + 2cm)) and (")
	f.Fuzz(func(t *testing.T, text string) {
		env := Env{Medium: "print", Width: 700, Height: 1000}
		if !MatchMediaText("print, "+text, env) {
			t.Errorf("print, %q does not match on paper", text)
		}
		MatchMediaText(text, env)
	})
}

func TestTextBox(t *testing.T) {
	both, capAlphabetic := TextBoxTrim{true, true}, TextBoxEdge{TextEdgeCap, TextEdgeAlphabetic}
	for css, want := range map[string]struct {
		trim TextBoxTrim
		edge TextBoxEdge
	}{
		"text-box: normal":                                  {},
		"text-box: cap alphabetic":                          {both, capAlphabetic},
		"text-box: trim-start cap alphabetic":               {TextBoxTrim{Start: true}, capAlphabetic},
		"text-box: ideographic trim-end":                    {TextBoxTrim{End: true}, TextBoxEdge{TextEdgeIdeographic, TextEdgeIdeographic}},
		"text-box: trim-both":                               {both, TextBoxEdge{}},
		"text-box-trim: trim-both; text-box-edge: ex text":  {both, TextBoxEdge{Over: TextEdgeEx}},
		"text-box: trim-both; text-box: cap cap":            {both, TextBoxEdge{}},
		"text-box: trim-both; text-box: trim-end trim-both": {both, TextBoxEdge{}},
		"text-box: trim-both; text-box-edge: alphabetic":    {both, TextBoxEdge{}},
	} {
		s := styled(t, div(""), "#x { "+css+" }")
		assert.Equal(t, want.trim, s.TextBoxTrim, css)
		assert.Equal(t, want.edge, s.TextBoxEdge, css)
	}
}

// TestUnknownIsTold: of what is left out that is told which has a meaning on paper, and what is meant for one browser is not.
func TestUnknownIsTold(t *testing.T) {
	for decl, told := range map[string]bool{
		"zoom: 2": true, "zoom: 150%": true, "zoom: 1": false, "zoom: 100%": false, "zoom: normal": false,
		"accent-color: red": true, "field-sizing: content": true, "colour: red": true, "width: wide": true,
		"cursor: pointer": false, "transition: all 1s": false, "transition-delay: 1s": false, "scroll-margin: 1px": false, "will-change: top": false,
		"-moz-osx-font-smoothing: grayscale": false, "-webkit-unheard-of: 1": false, "display: -ms-flexbox": false,
		"color: red": false,
	} {
		var got []Notice
		r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, func(n Notice) { got = append(got, n) })
		r.AddSheet(ParseSheet("a.css", "", "p {"+decl+"}"), Author, nil, nil)
		assert.Equal(t, told, len(got) > 0, "%s: %v", decl, got)
	}
}
