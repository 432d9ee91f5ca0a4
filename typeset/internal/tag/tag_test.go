package tag

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
)

// tree tells each text of a page, as the painter does, and writes the elements
// that it belongs to as a path from the root.
func tree(t *testing.T, page string) []string {
	t.Helper()
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><body>" + page))
	require.NoError(t, err)
	var out []string
	x := New()
	order := int32(0)
	doc.Find("body").Walk(func(n *markup.Node) bool {
		order++
		if n.Kind == markup.Element && (n.Name == "img" || n.Name == "svg") {
			if e := x.Figure(n, order); e != nil {
				out = append(out, path(e)+" “"+e.Alt+"”")
			}
			return false
		}
		if n.Kind != markup.Text || strings.TrimSpace(n.Text) == "" {
			return true
		}
		if e := x.Text(n.Parent, "", order, false); e != nil {
			out = append(out, path(e)+": "+strings.TrimSpace(n.Text))
		}
		return true
	})
	return out
}

func path(e *Element) string {
	s := e.Role
	if e.Attributes != "" {
		s += fmt.Sprintf("<%s>", e.Attributes)
	}
	if e.Lang != "" {
		s += "(" + e.Lang + ")"
	}
	if e.Parent == nil {
		return s
	}
	return path(e.Parent) + " " + s
}

// A footnote is read after the reference to it, with its mark before its text, in whatever order they are drawn.
func TestFootnotes(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<p>text<span lang=de>note <b>b</b></span> after</p>"))
	require.NoError(t, err)
	p, n := doc.Find("p"), doc.Find("span")
	for _, first := range []string{"body", "notes"} {
		x := New()
		x.Notes = map[*markup.Node]bool{n: true}
		note := func() {
			lbl := x.Text(n, "footnote-marker", 9, false)
			assert.Equal(t, "Document P Note(de) Lbl", path(lbl), first)
			assert.Zero(t, lbl.Order, "%s: before the text of the note", first)
			assert.Equal(t, "Document P Note(de)", path(x.Text(n, "", 5, false)), first)
			assert.Equal(t, "Document P Note(de)", path(x.Text(doc.Find("b"), "", 6, false)), first)
		}
		if first == "notes" {
			note()
		}
		x.Text(p, "", 4, false)
		call := x.Text(n, "footnote-call", 7, false)
		assert.Equal(t, "Document P Reference", path(call), first)
		x.Text(p, "", 8, false)
		if first == "body" {
			note()
		}
		assert.Equal(t, int32(7), x.Text(n, "", 5, false).Order, "%s: the note stands where it is called", first)
		assert.Equal(t, int32(4), x.Text(p, "", 8, false).Order, first)
	}
}

func TestRolesOfElements(t *testing.T) {
	for page, want := range map[string][]string{
		"<h1>a</h1><p>b <b>c</b></p>":                                    {"Document H1: a", "Document P: b", "Document P: c"},
		"<p>a <i lang=nl>b</i></p>":                                      {"Document P: a", "Document P Span(nl): b"},
		"<ol type=i><li>a</ol>":                                          {"Document L</O/List/ListNumbering/LowerRoman> LI LBody: a"},
		"<dl><div lang=fr><dt>a<dd lang=nl>b</div></dl>":                 {"Document L</O/List/ListNumbering/Disc> LI Lbl: a", "Document L</O/List/ListNumbering/Disc> LI LBody(nl): b"},
		"<p>a <img src=x></p>":                                           {"Document P: a", "Document P Figure “”"},
		"<div>a</div>":                                                   {"Document Div P: a"},
		"<section><h2>a</h2></section>":                                  {"Document Sect H2: a"},
		"<ul><li>a<li>b</ul>":                                            {"Document L</O/List/ListNumbering/Disc> LI LBody: a", "Document L</O/List/ListNumbering/Disc> LI LBody: b"},
		"<ol><li><p>a</ol>":                                              {"Document L</O/List/ListNumbering/Decimal> LI LBody P: a"},
		"<dl><dt>a<dd>b</dl>":                                            {"Document L</O/List/ListNumbering/Disc> LI Lbl: a", "Document L</O/List/ListNumbering/Disc> LI LBody: b"},
		"<p><a href=x>a</a> <a>b</a></p>":                                {"Document P Link: a", "Document P: b"},
		"<p><a href=' '>a</a> <a href='JavaScript:x()'>b</a></p>":        {"Document P: a", "Document P: b"},
		"<p lang=de>a <q>b</q> <code>c</code></p>":                       {"Document P(de): a", "Document P(de) Quote: b", "Document P(de) Code: c"},
		"<blockquote>a</blockquote>":                                     {"Document BlockQuote P: a"},
		"<figure><img alt=Quay><figcaption>a</figcaption>":               {"Document Div Figure “Quay”", "Document Div Figure Caption: a"},
		"<figure><img alt=Quay><img alt=Boat><figcaption>a</figcaption>": {"Document Div Figure “Quay”", "Document Div Figure “Boat”", "Document Div P: a"},
		"<figure><figcaption>a</figcaption><img alt=Quay>":               {"Document Div Figure Caption: a", "Document Div Figure “Quay”"},
		"<figure><img alt><figcaption>a</figcaption>":                    {"Document Div P: a"},
		"<figure><pre>x</pre><figcaption>a</figcaption>":                 {"Document Div P: x", "Document Div P: a"},
		"<figcaption>a</figcaption>":                                     {"Document P: a"},
		"<p><img alt=''><svg aria-label=Lamp></svg></p>":                 {"Document P Figure “Lamp”"},
		"<p><svg><title>Two  boats</title></svg></p>":                    {"Document P Figure “Two boats”"},
		"<p><img src=quay.png role=none>a</p>":                           {"Document P: a"},
		"<pre>a</pre><address>b</address>":                               {"Document P: a", "Document P: b"},
		"<nav>a</nav><main>b</main><aside><p>c</p></aside>":              {"Document Sect P: a", "Document Sect P: b", "Document Sect P: c"},
		"<form><fieldset><legend>a</legend>b</fieldset></form>":          {"Document Div Div P: a", "Document Div Div P: b"},
	} {
		assert.Equal(t, want, tree(t, page), page)
	}
}

func TestTablesTellTheirCells(t *testing.T) {
	got := tree(t, "<table><caption>c</caption><thead><tr><th>h<th colspan=2>w</thead><tbody><tr><th scope=row>r<td rowspan=3>d</table>")
	require.Len(t, got, 5)
	assert.Equal(t, "Document Table Caption: c", got[0])
	assert.Contains(t, got[1], "Document Table THead TR TH")
	assert.Contains(t, got[1], "/Scope/Column")
	assert.Contains(t, got[2], "/ColSpan 2")
	assert.Contains(t, got[3], "/Scope/Row")
	assert.Contains(t, got[4], "TBody TR TD")
	assert.Contains(t, got[4], "/RowSpan 3")
}

func TestPicturesWithoutTextAreTold(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><img id=a><img id=b alt=x><img id=c alt=''>"))
	require.NoError(t, err)
	x := New()
	var missing []string
	x.Missing = func(n *markup.Node) { missing = append(missing, n.ID) }
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "img" {
			x.Figure(n, 1)
			x.Figure(n, 1) // painted in two parts
		}
		return true
	})
	assert.Equal(t, []string{"a"}, missing)
}

// TestOrderIsThatOfTheFirstContents: an element that is painted in parts stands
// where its first part belongs, and so does what is around it.
func TestOrderIsThatOfTheFirstContents(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><section><p>x</p></section>"))
	require.NoError(t, err)
	x := New()
	p := doc.Find("p")
	e := x.Text(p, "", 9, false)
	assert.Same(t, e, x.Text(p, "", 4, false))
	assert.Equal(t, []int32{4, 4}, []int32{e.Order, e.Parent.Order})
	x.Text(p, "", 12, false)
	assert.Equal(t, int32(4), e.Order)
}

// TestHeadsAreReadOnce: a table's head is content where it first stands and
// decoration on the pages after.
func TestHeadsAreReadOnce(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><table><thead><tr><th>h</thead><tbody><tr><td>d</table><p aria-hidden=true>x"))
	require.NoError(t, err)
	x := New()
	th, td := doc.Find("th"), doc.Find("td")
	assert.Equal(t, []bool{false, false, true, false}, []bool{x.Unread(th, 2), x.Unread(th, 2), x.Unread(th, 3), x.Unread(td, 3)})
	assert.True(t, x.Unread(doc.Find("p"), 1), "what says that it is not to be read")
}

func TestNumbered(t *testing.T) {
	doc, err := markup.ParseHTML([]byte("<!DOCTYPE html><body><ul><li>a<li>b</ul><p>c"))
	require.NoError(t, err)
	x := New()
	item := doc.Find("li")
	x.Numbered(item, "UpperRoman") // nothing of it is drawn yet
	e := x.Text(item, "marker", 1, false)
	list := e.Parent.Parent
	assert.Equal(t, "/O/List/ListNumbering/Disc", list.Attributes, "as the element has it")
	x.Numbered(item, "UpperRoman")
	assert.Equal(t, "/O/List/ListNumbering/UpperRoman", list.Attributes, "as its style has it")
	x.Numbered(doc.Find("p"), "Disc")
	assert.Empty(t, x.Text(doc.Find("p"), "", 2, false).Attributes)
}

func TestCover(t *testing.T) {
	e := &Element{Details: noDetails}
	e.Cover(Extent{2, 10, 10, 20, 20})
	e.Cover(Extent{2, 5, 15, 15, 30})
	e.Cover(Extent{3, 0, 0, 90, 90}) // the rest, on the next page
	assert.Equal(t, Extent{2, 5, 10, 20, 30}, e.Extent)
	assert.Zero(t, noDetails.Extent)
}
