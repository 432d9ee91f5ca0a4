package markup

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHTML(t *testing.T) {
	for name, in := range map[string]string{"utf-8": "<p id=a class='x y'>Häfen", "mark": "\xEF\xBB\xBF<p id=a class='x y'>Häfen", "declared": "<meta charset=windows-1252><p id=a class='x y'>H\xE4fen"} {
		doc, err := ParseHTML([]byte(in))
		require.NoError(t, err)
		p := doc.Find("p")
		require.NotNil(t, p, name)
		assert.Equal(t, "Häfen", p.Content(), name)
		assert.True(t, p.HasClass("y"))
		assert.Equal(t, "body", p.Parent.Name)
	}
}

func TestXML(t *testing.T) {
	doc, err := ParseXML([]byte(`<svg xmlns:xlink="http://www.w3.org/1999/xlink"><use xlink:href="#a"/><text>x</text></svg>`))
	require.NoError(t, err)
	assert.Equal(t, "#a", doc.Find("use").Attr("xlink:href"))
	_, err = ParseXML([]byte("<a>\n<b"))
	assert.ErrorContains(t, err, "line 2")
}

func TestDeclaredShadowTrees(t *testing.T) {
	doc, err := ParseHTML([]byte(`<div><template shadowrootmode=open><b>before</b><slot name=a>none</slot><slot></slot></template>rest<i slot=a>named</i></div><p><template shadowrootmode=x>y</template></p>`))
	require.NoError(t, err)
	host := doc.Find("div")
	require.NotNil(t, host.ShadowRoot())
	var shown []string
	var walk func(n *Node)
	walk = func(n *Node) {
		if n.Kind == Text {
			shown = append(shown, n.Text)
		}
		for c := range n.Flat() {
			walk(c)
		}
	}
	walk(host)
	assert.Equal(t, []string{"before", "named", "rest"}, shown)
	assert.Nil(t, doc.Find("b"), "the document's own tree does not hold it")
	assert.Nil(t, doc.Find("p").ShadowRoot(), "an unknown mode makes none")
}

func TestPlacesOfElements(t *testing.T) {
	src := []byte("<!DOCTYPE html>\n<title>a <b> b</title>\n<!-- <p> --><p id=x>one\n  <i>two</i>\n<table><tr><td id=c>three\n</table><script>\"<p>\"</script>\n<P id=y>four")
	doc, err := ParseHTML(src)
	require.NoError(t, err)
	at := Places(doc, src)
	got := map[string]Place{}
	doc.Walk(func(n *Node) bool {
		if n.ID != "" || n.Name == "i" {
			got[n.ID+n.Name] = at[n]
		}
		return true
	})
	assert.Equal(t, map[string]Place{"xp": {3, 13}, "i": {4, 3}, "ctd": {5, 12}, "yp": {7, 1}}, got)
	_, hasTag := at[doc.Find("tbody")]
	assert.False(t, hasTag, "it has no tag of its own")
}

func TestDeepPagesKeepTheirText(t *testing.T) {
	page := "<!DOCTYPE html><title>T</title>" + strings.Repeat("<div><p>", 700) + "Quay<br>and <b>Lantern</b><script>if (a < b) {}</script>" + strings.Repeat("</p></div>", 700) + "<h1>After</h1>"
	doc, err := ParseHTML([]byte(page))
	require.NoError(t, err)
	assert.True(t, doc.TooDeep())
	body := doc.Find("body")
	assert.Equal(t, "Quayand Lantern", strings.TrimSpace(strings.ReplaceAll(body.First.Content(), "if (a < b) {}", "")))
	assert.NotNil(t, doc.Find("br"))
	h := doc.Find("h1")
	require.NotNil(t, h)
	assert.Equal(t, "body", h.Parent.Name, "what follows stands where it belongs")

	list := "<!DOCTYPE html><ul>" + strings.Repeat("<li>one", 900)
	doc, err = ParseHTML([]byte(list))
	require.NoError(t, err)
	assert.False(t, doc.TooDeep(), "items end each other")

	for name, tables := range map[string]string{
		"no end tags": strings.Repeat("<table><tr><td>x", 400),
		"cells alone": strings.Repeat("<table><td>x", 400),
		"end tags":    strings.Repeat("<table><tr><td>x", 400) + strings.Repeat("</td></tr></table>", 400),
		"tables end":  strings.Repeat("<table><tr><td>x", 400) + strings.Repeat("</table>", 400),
	} {
		doc, err = ParseHTML([]byte("<!DOCTYPE html>" + tables + "<h1>After</h1>"))
		require.NoError(t, err, name)
		assert.True(t, doc.TooDeep(), name)
		assert.Equal(t, 400, strings.Count(doc.Content(), "x"), name)
		if name == "end tags" || name == "tables end" {
			require.NotNil(t, doc.Find("h1"), name)
			assert.Equal(t, "body", doc.Find("h1").Parent.Name, name)
		}
	}
}

func TestQuirks(t *testing.T) {
	for page, want := range map[string]bool{
		"<p>x": true, "<!DOCTYPE html><p>x": false, "<!doctype HTML><p>x": false,
		`<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN" "http://www.w3.org/TR/html4/strict.dtd"><p>x`:                    false,
		`<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN"><p>x`:                                               true,
		`<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN" "http://www.w3.org/TR/html4/loose.dtd"><p>x`:        false,
		`<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2 Final//EN"><p>x`:                                                       true,
		`<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Strict//EN" "http://www.w3.org/TR/xhtml1/DTD/xhtml1-strict.dtd"><p>x`: false,
	} {
		doc, err := ParseHTML([]byte(page))
		require.NoError(t, err)
		assert.Equal(t, want, doc.Find("p").Quirks(), page)
	}
}

// linked fails when the nodes of a tree do not lead to each other both ways.
func linked(t *testing.T, root *Node) {
	root.Walk(func(n *Node) bool {
		for c := range n.Flat() {
			if c.Parent == nil {
				t.Fatalf("a child of %q has no parent", n.Name)
			}
		}
		return true
	})
}

func FuzzParseHTML(f *testing.F) {
	f.Add("<table><td>1<p>2</table><svg><g/></svg><template shadowrootmode=open><slot></template>")
	f.Add("<!doctype html><math><mi>x</mi></math><select><option>a")
	f.Fuzz(func(t *testing.T, text string) {
		if root, err := ParseHTML([]byte(text)); err == nil {
			linked(t, root)
		}
	})
}

func FuzzParseXML(f *testing.F) {
	f.Add("<svg xmlns='http://www.w3.org/2000/svg'><g id='a'/><![CDATA[x]]></svg>")
	f.Add("<!DOCTYPE a [<!ENTITY b 'c'>]><a>&b;</a>")
	f.Fuzz(func(t *testing.T, text string) {
		if root, err := ParseXML([]byte(text)); err == nil {
			linked(t, root)
		}
	})
}
