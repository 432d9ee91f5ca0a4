package box

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// TestTrees makes the boxes of small documents, and compares them with what is written
// beside these. To see what a change does, run with -update and look at the difference.
func TestTrees(t *testing.T) {
	golden.Each(t, "testdata/trees", func(t *testing.T, _ string, html []byte) string { return describeTree(t, string(html)) })
}

// describeTree makes the boxes of a document, and writes them down.
func describeTree(t *testing.T, html string) string {
	var out strings.Builder
	b, root := built(t, html, &out)
	require.NotNil(t, root)
	describe(&out, root, style.Initial(), "", "")
	fmt.Fprintf(&out, "noted=%t footnotes=%t\n", b.Noted, b.Footnotes)
	return out.String()
}

// built makes the boxes of a document, in which x.png is a picture, and writes down what is told.
func built(t *testing.T, html string, told *strings.Builder) (*Builder, *Box) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, plain{}, nil, nil)
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			r.AddSheet(style.ParseSheet("", "", n.Content()), style.Author, nil, nil)
		}
		return true
	})
	r.Finish()
	b := &Builder{
		Styles: r,
		Pictures: func(address string, _ *markup.Node) *picture.Picture {
			if strings.TrimPrefix(address, "/") == "x.png" {
				return &picture.Picture{W: 40, H: 20, Ratio: 2, Draw: func(display.Canvas, display.Rect) {}}
			}
			return nil
		},
		Inline: func(svg *markup.Node, _ *style.Style) *picture.Picture {
			return &picture.Picture{W: svg.Number("width", 300), H: svg.Number("height", 150)}
		},
		Tell: func(code, message string) { fmt.Fprintf(told, "tells %s: %s\n", code, message) },
	}
	return b, b.Build(doc.Find("html"))
}

func TestPageThatIsNotDisplayed(t *testing.T) {
	var told strings.Builder
	_, root := built(t, "<style>html { display: none }</style><p>x", &told)
	assert.Nil(t, root)
	assert.Empty(t, told.String())
}

// What the nodes of interest say is kept, with what is generated in them, for the next round.
func TestWatchedNodes(t *testing.T) {
	doc, err := markup.ParseHTML([]byte(`<style>h1 { counter-increment: part } h1::before { content: "§" counter(part) " " } h1::after { content: "." } a::after { content: target-text(attr(href), before) "|" target-text(attr(href)) "|" target-counter(attr(href), part) }</style>` +
		`<h1 id=one>Moorings</h1><h1 id=two>Sails</h1><h1 id=two>the second of a name is not meant</h1><a href="#one"></a><a href="#two"></a><a href="#gone"></a>`))
	require.NoError(t, err)
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, plain{}, nil, nil)
	r.AddSheet(style.ParseSheet("", "", doc.Find("style").Content()), style.Author, nil, nil)
	r.Finish()
	var told []string
	b := &Builder{Styles: r, Watched: map[*markup.Node]bool{}, Tell: func(code, message string) { told = append(told, code) }}
	text := func() (list []string) {
		var walk func(*Box)
		walk = func(x *Box) {
			if x.Kind == Text && x.Node != nil && x.Node.Name == "a" {
				list = append(list, x.Text)
			}
			for _, c := range x.Children {
				walk(c)
			}
		}
		walk(b.Build(doc.Find("html")))
		return list
	}
	first := text()
	require.Len(t, b.Watched, 2, "both are asked for by the first round: %q", first)
	assert.Equal(t, []string{"§1|Moorings|1", "§2|Sails|2", "||"}, text())
	assert.NotEmpty(t, told)
}

// describe writes a box with parent's style around it and what it holds, a line a box.
func describe(out *strings.Builder, b *Box, parent *style.Style, indent, role string) {
	s := b.Style
	fmt.Fprintf(out, "%s%s", indent, role)
	switch b.Kind {
	case Text:
		fmt.Fprintf(out, "text %q", b.Text)
		for _, d := range inheritedDifferences(s, parent) {
			out.WriteString(", " + d)
		}
	case LineBreak:
		out.WriteString("br")
	case Replaced:
		out.WriteString("replaced " + nameOf(b))
		if b.Picture != nil {
			fmt.Fprintf(out, " %g×%g", b.Picture.W, b.Picture.H)
		}
	default:
		out.WriteString(nameOf(b))
	}
	if b.Kind == Element || b.Kind == Replaced {
		fmt.Fprintf(out, " %v %v", s.Display.Outer, s.Display.Inner)
	}
	for _, f := range []struct {
		name string
		on   bool
	}{
		{"inline", b.Inline},
		{"anonymous", b.Anon},
		{"leader", b.Leader},
		{"without start", b.Split.NoStart},
		{"without end", b.Split.NoEnd},
		{"list item", s.Display.ListItem && b.Kind == Element},
		{"was inline", s.WasInline && b.Kind == Element},
		{"floats", b.Floats()},
		{"positioned", b.Positioned()},
		{"context", b.Kind == Element && b.IsBFC()},
		{"atomic", b.IsAtomic()},
		{"control", b.IsControl()},
	} {
		if f.on {
			out.WriteString(", " + f.name)
		}
	}
	if b.RowSpan != 0 || b.ColSpan != 0 {
		fmt.Fprintf(out, ", spans %d×%d", b.RowSpan, b.ColSpan)
	}
	if b.Trim != [4]bool{} {
		fmt.Fprintf(out, ", trims %v", b.Trim)
	}
	if b.Mode.Vertical() || b.Frame.Vertical() {
		fmt.Fprintf(out, ", %v in %v", b.Mode, b.Frame)
	}
	for d := b.Decor; d != nil; d = d.Up {
		fmt.Fprintf(out, ", decorated %v %v", d.Style.Decoration, d.Style.Color.C)
	}
	if b.Kind == Element && !s.Width.IsAuto() {
		fmt.Fprintf(out, ", width %.4g", s.Width.Px)
	}
	if b.Kind == Element && !s.Height.IsAuto() {
		fmt.Fprintf(out, ", height %.4g", s.Height.Px)
	}
	if b.Kind == Element && (s.OverflowX != style.Visible || s.OverflowY != style.Visible) && !b.IsControl() {
		fmt.Fprintf(out, ", overflow %v %v", s.OverflowX, s.OverflowY)
	}
	if b.IsControl() {
		out.WriteString(", padding " + brief(reflect.ValueOf(s.Padding)))
	}
	if s.Clear != style.None && b.Kind == Element {
		fmt.Fprintf(out, ", clear %v", s.Clear)
	}
	if s.Page != "" && b.Kind == Element {
		fmt.Fprintf(out, ", page %s", s.Page)
	}
	if b.Kind == Element && givenStyle(b) {
		for _, d := range differences(s, style.Anonymous(parent, s.Display)) {
			out.WriteString(", " + d)
		}
	}
	describeRare(out, b, indent)
	for _, c := range b.Children {
		describe(out, c, s, indent+"  ", "")
	}
}

// givenStyle tells whether a box has a style that is made here rather than by style sheets.
func givenStyle(b *Box) bool {
	if b.Anon || b.Node == nil {
		return true
	}
	switch b.Node.Name {
	case "fieldset", "legend", "rt":
		return true
	}
	return false
}

// differences are the properties of a style, and their values, that another one has not.
func differences(s, other *style.Style) (list []string) {
	return append(fieldsThatDiffer(s.Own, other.Own), inheritedDifferences(s, other)...)
}

// inheritedDifferences are those of differences that a text has, too.
func inheritedDifferences(s, other *style.Style) []string {
	return fieldsThatDiffer(s.Inherited, other.Inherited)
}

func fieldsThatDiffer(of, from any) (list []string) {
	a, b := reflect.ValueOf(of), reflect.ValueOf(from)
	for i := range a.NumField() {
		if v := a.Field(i); v.CanInterface() && !reflect.DeepEqual(v.Interface(), b.Field(i).Interface()) {
			list = append(list, a.Type().Field(i).Name+" "+brief(v))
		}
	}
	return list
}

// describeRare ends the line of a box and writes what few boxes have.
func describeRare(out *strings.Builder, b *Box, indent string) {
	r := b.Rare()
	if r.FirstLine != nil {
		fmt.Fprintf(out, ", first line %v %v", r.FirstLine.Color.C, r.FirstLine.TextTransform)
	}
	if r.Physical != nil {
		fmt.Fprintf(out, ", physical margin %g padding %g", r.Physical.Margin[0].Px, r.Physical.Padding[0].Px)
	}
	if n := r.Notes; n != nil {
		for _, s := range n.Strings {
			fmt.Fprintf(out, ", string %s=%q", s.Name, s.Text)
		}
		for _, run := range n.Running {
			fmt.Fprintf(out, ", running %s", run.Name)
		}
		if m := n.Bookmark; m != nil {
			fmt.Fprintf(out, ", bookmark %d %q closed=%t", m.Level, m.Label, m.Closed)
		}
		for _, a := range n.Adds {
			fmt.Fprintf(out, ", adds %v to %s", a.Value, a.Name)
		}
		if n.Page != nil {
			fmt.Fprintf(out, ", page counter %d", *n.Page)
		}
		if len(n.Counters) > 0 {
			fmt.Fprintf(out, ", leaves %v", n.Counters)
		}
	}
	if r.Sum != nil {
		fmt.Fprintf(out, ", shows %s of %s as %q", r.Sum.Which, r.Sum.Name, r.Sum.Pattern)
	}
	out.WriteByte('\n')
	if r.Marker != nil {
		describe(out, r.Marker, b.Style, indent+"  ", "marker: ")
	}
	if r.Footnote != nil {
		describe(out, r.Footnote, b.Style, indent+"  ", "note: ")
	}
}

// brief writes a value without the parts of it that are zero; of an array with one value
// throughout it writes that.
func brief(v reflect.Value) string {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() {
			return "nil"
		}
		return brief(v.Elem())
	case reflect.Func:
		return "func"
	case reflect.Struct:
		var parts []string
		for i := range v.NumField() {
			if f := v.Field(i); !f.IsZero() {
				parts = append(parts, strings.TrimPrefix(v.Type().Field(i).Name+":", "LP:")+brief(f))
			}
		}
		return "{" + strings.Join(parts, " ") + "}"
	case reflect.Slice, reflect.Array:
		var parts []string
		for i := range v.Len() {
			parts = append(parts, brief(v.Index(i)))
		}
		if same := slices.Compact(slices.Clone(parts)); len(same) == 1 {
			return same[0]
		}
		return "[" + strings.Join(parts, " ") + "]"
	case reflect.Float64, reflect.Float32:
		return fmt.Sprintf("%.4g", v.Float())
	}
	return fmt.Sprint(v)
}

func nameOf(b *Box) string {
	switch {
	case b.Rare().Pseudo != "" && b.Node != nil:
		return b.Node.Name + "::" + b.Rare().Pseudo
	case b.Rare().Pseudo != "":
		return "::" + b.Rare().Pseudo
	case b.Node != nil:
		return b.Node.Name
	}
	return "box"
}
