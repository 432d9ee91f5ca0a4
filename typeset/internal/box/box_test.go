package box

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// plain stands in for the fonts.
type plain struct{}

// InkBelow is 0.2 em for Q and J.
func (plain) InkBelow(_ *style.Style, text string) float64 {
	if strings.ContainsAny(text, "QJ") {
		return 0.2
	}
	return 0
}

func (plain) Metrics(*style.Style) style.Metrics {
	return style.Metrics{Ex: 0.5, Cap: 0.7, Ascent: 0.8, Descent: 0.2, Mean: 0.5, Widest: 1.25}
}

// treeOf builds the boxes of a body.
func treeOf(t *testing.T, html string) *Box {
	t.Helper()
	doc, err := markup.ParseHTML([]byte("<body style='margin:0'>" + html))
	require.NoError(t, err)
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, plain{}, nil, nil)
	if s := doc.Find("style"); s != nil {
		r.AddSheet(style.ParseSheet("", "", s.Content()), style.Author, nil, nil)
	}
	r.Finish()
	b := &Builder{Styles: r}
	root := b.Build(doc.Find("html"))
	require.NotNil(t, root)
	return root.Children[len(root.Children)-1]
}

// outline writes a tree as one line: name(children), text in quotes.
func outline(b *Box) string {
	switch b.Kind {
	case Text:
		return fmt.Sprintf("%q", strings.Join(strings.Fields(b.Text), " "))
	case LineBreak:
		return "br"
	}
	name := "anon"
	switch {
	case b.Rare().Pseudo != "":
		name = b.Rare().Pseudo
	case b.Node != nil:
		name = b.Node.Name
	}
	var kids []string
	for _, c := range b.Children {
		if !blank(c) {
			kids = append(kids, outline(c))
		}
	}
	return name + "(" + strings.Join(kids, " ") + ")"
}

func TestAnonymousBoxes(t *testing.T) {
	assert.Equal(t, `body(anon("a" b("c")) div("d") anon("e"))`, outline(treeOf(t, "a <b>c</b><div>d</div>e")))
	assert.Equal(t, `body(anon(b("x")) p("y") anon(b("z")))`, outline(treeOf(t, "<b>x<p style='margin:0'>y</p>z</b>")), "an inline is split around a block")
	assert.Equal(t, `body(div(anon(anon(anon("x")))))`, outline(treeOf(t, "<div style='display:table'>x</div>")), "a table gets a row group, a row and a cell")
	assert.Equal(t, `body(div(anon("a") b("c") anon("d")))`, outline(treeOf(t, "<div style='display:flex'>a<b>c</b> d</div>")), "text between items is an item")
}

func TestRunIns(t *testing.T) {
	head := "<h4 style='display:run-in'>Pier</h4> "
	assert.Equal(t, `body(p(h4("Pier") "text"))`, outline(treeOf(t, head+"<p>text</p>")))
	assert.Equal(t, `body(h4("Pier") anon("text"))`, outline(treeOf(t, head+"text")), "no block follows: a block of its own")
}

func TestGeneratedContent(t *testing.T) {
	assert.Equal(t, `body(p(before("1.") "a") p(before("2.") "b"))`,
		outline(treeOf(t, "<style>body { counter-reset: n } p { counter-increment: n } p::before { content: counter(n) '. ' }</style><p>a<p>b")))
	assert.Equal(t, `body(p(first-letter("“Q") "uay"))`, outline(treeOf(t, "<style>p::first-letter { color: red }</style><p>“Quay")))
	assert.Equal(t, `body(p(q(before("«") "x" after("»"))))`, outline(treeOf(t, "<p lang=fr><q>x</q>")))
	assert.Equal(t, `body(p())`, outline(treeOf(t, "<style>p { content-visibility: hidden }</style><p>x")))
}

// numbers gives what the list items of a page are numbered.
func numbers(t *testing.T, html string) string {
	var out []string
	var walk func(b *Box)
	walk = func(b *Box) {
		if b.Rare().Marker != nil {
			out = append(out, strings.TrimSpace(b.Rare().Marker.Children[0].Text))
		}
		for _, c := range b.Children {
			walk(c)
		}
	}
	walk(treeOf(t, html))
	return strings.Join(out, " ")
}

func TestListNumbers(t *testing.T) {
	assert.Equal(t, "1. 2. 7. 8.", numbers(t, "<ol><li>a<li>b<li value=7>c<li>d</ol>"))
	assert.Equal(t, "5. 6.", numbers(t, "<ol start=5><li>a<li>b</ol>"))
	assert.Equal(t, "3. 2. 1.", numbers(t, "<ol reversed><li>a<li>b<li>c</ol>"))
	assert.Equal(t, "9. 8.", numbers(t, "<ol reversed start=9><li>a<li>b</ol>"))
	assert.Equal(t, "1. 1. 2. 2.", numbers(t, "<ol><li>a<ol><li>b<li>c</ol><li>d</ol>"), "an inner list counts for itself")
	assert.Equal(t, "6. 4. 2.", numbers(t, "<style>ol { counter-reset: reversed(list-item) } li { counter-increment: list-item -2 }</style><ol><li>a<li>b<li>c</ol>"), "the last item gets its own step")
}

func TestMarginTrim(t *testing.T) {
	body := treeOf(t, "<div style='margin-trim:block'><p><b>x</b></p><p>y</p><p></p></div>")
	p := body.Children[0].Children
	require.Len(t, p, 3)
	assert.Equal(t, [4]bool{style.Top: true}, p[0].Trim)
	assert.Equal(t, [4]bool{style.Bottom: true}, p[1].Trim, "past an empty paragraph")
	assert.Equal(t, [4]bool{style.Top: true, style.Bottom: true}, p[2].Trim)
}

func TestFramesOfWritingModes(t *testing.T) {
	body := treeOf(t, "<div style='writing-mode:vertical-rl;margin:1px 2px 3px 4px'><p style='margin:1px 2px 3px 4px;width:10px'>x</p></div>")
	div := body.Children[0]
	assert.True(t, div.Turned())
	assert.Equal(t, 1.0, div.Style.Margin[style.Top].Px, "outside, the page's sides count")
	p := div.Children[0]
	assert.False(t, p.Turned())
	assert.Equal(t, 2.0, p.Style.Margin[style.Top].Px, "the block begins at the right")
	assert.Equal(t, 1.0, p.Style.Margin[style.Left].Px, "and its lines at the top")
	assert.Equal(t, 10.0, p.Style.Height.Px)
	assert.Equal(t, 1.0, p.Look().Margin[style.Top].Px)
	assert.False(t, treeOf(t, "<p>x").Children[0].Turned())
}

func TestQuotesOfLanguages(t *testing.T) {
	assert.Equal(t, []string{"„", "“", "‚", "‘"}, marksOf("de-AT"))
	assert.Equal(t, []string{"«", "»", "‹", "›"}, marksOf("fr-CH"))
	assert.Equal(t, marksOf("en"), marksOf("xx"))
}

// TestFormControls looks at what the boxes of form controls hold on paper.
func TestFormControls(t *testing.T) {
	for html, want := range map[string]string{
		"<input value=Quay>":                      `input(anon("Quay") anon())`,
		"<input placeholder=Berth>":               `input(anon("Berth") anon())`,
		"<input type=password value=abc>":         `input(anon("•••") anon())`,
		"<input type=submit>":                     `input("Submit")`,
		"<input type=reset value=Clear>":          `input("Clear")`,
		"<input type=checkbox checked>":           `input()`,
		"<input type=range value=20>":             `input()`,
		"<input type=color value=#ff0000>":        `input()`,
		"<input type=file>":                       `input(file-selector-button("Choose file") "No file chosen")`,
		"<textarea>\nTwo lines</textarea>":        `textarea(anon("Two lines") anon())`,
		"<select><option>A<option selected>B":     `select(anon("A") anon("B"))`,
		"<select><option>A<option>B":              `select(anon("B") anon("A"))`,
		"<select multiple><option>A<option>B":     `select(anon("A") anon("B") anon("` + "\u200B" + `") anon("` + "\u200B" + `"))`,
		"<select></select>":                       `select(anon("` + "\u200B" + `"))`,
		"<input type=hidden value=x><i>shown</i>": `i("shown")`,
		"<progress value=.25></progress>":         `progress(anon())`,
		"<button><b>Go</b> on</button>":           `button(b("Go") "on")`,
	} {
		body := treeOf(t, html)
		kid := body.Children[len(body.Children)-1]
		for kid.Anon && len(kid.Children) > 0 {
			kid = kid.Children[len(kid.Children)-1]
		}
		if got := strings.ReplaceAll(outline(kid), `\u200b`, "\u200B"); got != want {
			assert.Equal(t, want, got, html)
		}
	}
}

// find gives the first box of a pseudo-element.
func find(b *Box, pseudo string) *Box {
	if b.Rare().Pseudo == pseudo && b.Kind == Element {
		return b
	}
	for _, c := range b.Children {
		if x := find(c, pseudo); x != nil {
			return x
		}
	}
	return nil
}

func TestFirstLetters(t *testing.T) {
	letter := "<style>p::first-letter { color: red }</style>"
	for html, want := range map[string]string{
		"<p>Quay":                                  `body(p(first-letter("Q") "uay"))`,
		"<p><b>Quay</b>":                           `body(p(b(first-letter("Q") "uay")))`,
		"<p><b>“</b>Quay":                          `body(p(b(first-letter("“")) "Quay"))`,
		"<p style='display:inline-block'>Quay":     `body(p(first-letter("Q") "uay"))`,
		"<p style='display:inline'>Quay":           `body(p("Quay"))`,
		"<p style='display:list-item'>Quay":        `body(p(first-letter("Q") "uay"))`,
		"<p style='float:left'>(a) berth":          `body(p(first-letter("(a)") "berth"))`,
		"<p><i style='float:left'>x</i>Quay":       `body(p(i("x") first-letter("Q") "uay"))`,
		"<p><b style='display:inline-block'>Q</b>": `body(p(b("Q")))`,
	} {
		assert.Equal(t, want, outline(treeOf(t, letter+html)), html)
	}
	x := find(treeOf(t, letter+"<p style='font-size:10px'><b style='font-size:30px'>Quay</b>"), "first-letter")
	assert.Equal(t, 30.0, x.Style.FontSize, "it inherits from what is around it")
}

func TestMarkers(t *testing.T) {
	marker := func(css string) *Box {
		root := treeOf(t, "<style>li { "+css+" }</style><ol><li>x</ol>")
		var outside *Box
		var walk func(b *Box)
		walk = func(b *Box) {
			if b.Rare().Marker != nil {
				outside = b.Rare().Marker
			}
			for _, c := range b.Children {
				walk(c)
			}
		}
		if walk(root); outside != nil {
			return outside
		}
		return find(root, "marker")
	}
	assert.Equal(t, style.Nowrap, marker("").Style.Wrap, "beside the item it does not wrap")
	assert.Equal(t, style.WrapText, marker("list-style-position: inside").Style.Wrap)
	assert.Equal(t, style.Preserve, marker("list-style-position: inside").Style.Collapse)
	assert.Equal(t, style.Nowrap, marker("display: inline-block list-item; display: inline flow-root list-item").Style.Wrap, "an inline block has it beside itself")
	assert.Equal(t, style.WrapText, marker("display: inline list-item").Style.Wrap)
	assert.True(t, marker("list-style: disc; letter-spacing: 9px; word-spacing: 9px").Style.LetterSpacing.IsZero(), "a symbol is not spaced")
	assert.False(t, marker("letter-spacing: 9px").Style.LetterSpacing.IsZero(), "a number is")
	assert.True(t, marker("list-style: disc inside").Style.Width.Kind == style.Length, "a symbol in the item has room of its own")
}

func TestSharpest(t *testing.T) {
	for set, want := range map[string]string{
		"":                                       "src.png",
		"a.png":                                  "a.png",
		"a.png, b.png 2x, c.png 1.5x":            "b.png",
		"a.png 480w,b.png 800w":                  "b.png",
		"a.png 480w 300h, b.png 90w":             "a.png",
		"data:image/png;base64,AA= 3x, b.png 2x": "data:image/png;base64,AA=",
		"b.png 2x, data:,x,":                     "b.png",
		" ,, a,b.png 1x,":                        "a,b.png",
		"a.png nonsense":                         "a.png",
	} {
		assert.Equal(t, want, sharpest(set, "src.png"), set)
	}
}

// TestCountersNest: an element in one that has made a counter makes one inside of it; one
// beside it takes its place (CSS Lists 3, §4.4.1).
func TestCountersNest(t *testing.T) {
	const css = "<style>section { counter-reset: n } p { counter-increment: n } p::before { content: counters(n, '.') }</style>"
	assert.Contains(t, outline(treeOf(t, css+"<section><p><section><p></section><p></section><section><p></section>")),
		`section(p(before("1")) section(p(before("1.1"))) p(before("2"))) section(p(before("1")))`)
}
