package markup

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drawn writes a tree: an element with its attributes in square brackets, and what it holds.
func drawn(n *Node) string {
	var b strings.Builder
	for c := n.First; c != nil; c = c.Next {
		switch c.Kind {
		case Text:
			fmt.Fprintf(&b, "%q", c.Text)
		case Element:
			b.WriteString(c.Name)
			if c.Foreign {
				b.WriteString("*")
			}
			if attrs := slices.Clone(c.Attrs); len(attrs) > 0 {
				fmt.Fprintf(&b, "%v", attrs)
			}
			b.WriteString("(" + drawn(c) + ")")
		}
	}
	return b.String()
}

// TestTrees holds what becomes of markup in good order and in bad (HTML, §13.2.6).
func TestTrees(t *testing.T) {
	for _, c := range [][2]string{
		{"<p>a<p>b", "html(head()body(p(\"a\")p(\"b\")))"},
		{"<p>a</p></div>b", "html(head()body(p(\"a\")\"b\"))"},
		{"a&amp;b&lt;c&copy;&#8364;&#x20AC;", "html(head()body(\"a&b<c©€€\"))"},
		{"<b>a<i>b</b>c</i>", "html(head()body(b(\"a\"i(\"b\"))i(\"c\")))"},
		{"<table><tr><td>a<td>b<tr><td>c</table>", "html(head()body(table(tbody(tr(td(\"a\")td(\"b\"))tr(td(\"c\"))))))"},
		{"<table>x<tr><td>a</table>", "html(head()body(\"x\"table(tbody(tr(td(\"a\"))))))"},
		{"<ul><li>a<li>b</ul>", "html(head()body(ul(li(\"a\")li(\"b\"))))"},
		{"<select><option>a<option>b</select>", "html(head()body(select(option(\"a\")option(\"b\"))))"},
		{"<p><div>a</div></p>", "html(head()body(p()div(\"a\")p()))"},
		{"<!-- c --><p>a<!-- d -->b", "html(head()body(p(\"a\"\"b\")))"},
		{"<svg><circle r=1 /><linearGradient id=g></linearGradient></svg>", "html(head()body(svg*(circle*[{r 1}]()linearGradient*[{id g}]())))"},
		{"<math><mi>x</mi></math>", "html(head()body(math*(mi*(\"x\"))))"},
		{"<pre>\na\n b</pre>", "html(head()body(pre(\"a\\n b\")))"},
		{"<textarea>\na<b></textarea>", "html(head()body(textarea(\"a<b>\")))"},
		{"<title>a<b></title>", "html(head(title(\"a<b>\"))body())"},
		{"<script>a<b</script>c", "html(head(script(\"a<b\"))body(\"c\"))"},
		{"<style>p{}</style><p>a", "html(head(style(\"p{}\"))body(p(\"a\")))"},
		{"<img src=a alt='b c'><br/>x", "html(head()body(img[{src a} {alt b c}]()br()\"x\"))"},
		{"<P CLASS='A b'>x</P>", "html(head()body(p[{class A b}](\"x\")))"},
		{"<p a=1 a=2>x", "html(head()body(p[{a 1}](\"x\")))"},
		{"<a href='x?a=1&b=2&amp;c'>y</a>", "html(head()body(a[{href x?a=1&b=2&c}](\"y\")))"},
		{"<p>a\u0000b", "html(head()body(p(\"ab\")))"},
		{"<template><p>a</p></template>b", "html(head(template(p(\"a\")))body(\"b\"))"},
		{"<dl><dt>a<dd>b<dt>c</dl>", "html(head()body(dl(dt(\"a\")dd(\"b\")dt(\"c\"))))"},
		{"<h1>a<h2>b", "html(head()body(h1(\"a\")h2(\"b\")))"},
		{"<p>a<table><tr><td>b</table>c", "html(head()body(p(\"a\"table(tbody(tr(td(\"b\"))))\"c\")))"},
		{"<button>a<p>b</button>", "html(head()body(button(\"a\"p(\"b\"))))"},
		{"<noscript><p>a</noscript>", "html(head(noscript())body(p(\"a\")))"},
		{"<details open><summary>s</summary>t</details>", "html(head()body(details[{open }](summary(\"s\")\"t\")))"},
		{"\ufeff<p>a", "html(head()body(p(\"a\")))"},
		{"<frameset><frame></frameset>", "html(head()frameset(frame()))"},
		{"x<body class=k>y", "html(head()body[{class k}](\"xy\"))"},
		{"<html lang=en><body id=b>", "html[{lang en}](head()body[{id b}]())"},
		{"<ruby>a<rt>b</ruby>", "html(head()body(ruby(\"a\"rt(\"b\"))))"},
	} {
		doc, err := ParseHTML([]byte(c[0]))
		require.NoError(t, err)
		assert.Equal(t, c[1], drawn(doc), c[0])
	}
}
