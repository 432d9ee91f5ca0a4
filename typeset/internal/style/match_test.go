package style

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// harbour is a page whose elements have ids, for selectors to find.
const harbour = `<!DOCTYPE html><html id=html lang=en><body id=body>
<h1 id=h1 class="title big">Moorings</h1>
<p id=p1>one</p><p id=p2 class=big>two</p><p id=p3></p>
<ul id=ul><li id=l1 class=a>1<li id=l2 class="a b">2<li id=l3>3<li id=l4 class=b>4<li id=l5 class=a>5<li id=l6>6</ul>
<div id=d1 data-kind="sail boat" lang=de-CH><b id=b1 data-kind=sail>x</b><i id=i1 data-kind=SAIL-2>y</i></div>
<div id=d2 dir=rtl lang=fr><a id=a1 href=#>link</a><a id=a2>none</a><bdi id=bdi>אב</bdi></div>
<form id=f><input id=n1 required><input id=n2 value=x required placeholder=p><input id=n3 type=checkbox checked><input id=n4 readonly placeholder=p>
<fieldset id=fs disabled><legend id=lg><button id=bt1></button></legend><button id=bt2></button></fieldset>
<select id=s><optgroup id=og disabled><option id=o1 selected><option id=o2></optgroup></select><textarea id=t placeholder=p></textarea><progress id=pr></progress></form>
<details id=de open><summary id=su>s</summary></details><my-part id=mp></my-part>
<section id=se><div id=d3><span id=s1></span></div><div id=d4><span id=s2 contenteditable></span></div></section>`

// TestSelectorsFind looks for the elements that selectors stand for (Selectors 4).
func TestSelectorsFind(t *testing.T) {
	doc, err := markup.ParseHTML([]byte(harbour))
	require.NoError(t, err)
	for selector, want := range map[string]string{
		"*":                            "html  body h1 p1 p2 p3 ul l1 l2 l3 l4 l5 l6 d1 b1 i1 d2 a1 a2 bdi f n1 n2 n3 n4 fs lg bt1 bt2 s og o1 o2 t pr de su mp se d3 s1 d4 s2",
		"p":                            "p1 p2 p3",
		"P":                            "p1 p2 p3",
		"ul > li":                      "l1 l2 l3 l4 l5 l6",
		"ul li":                        "l1 l2 l3 l4 l5 l6",
		"h1 + p":                       "p1",
		"h1 ~ p":                       "p1 p2 p3",
		"p + p":                        "p2 p3",
		"p ~ p":                        "p2 p3",
		"p~ul>li.a":                    "l1 l2 l5",
		"ul>*":                         "l1 l2 l3 l4 l5 l6",
		"#p2":                          "p2",
		"#P2":                          "",
		"p#p2":                         "p2",
		"#p2.big":                      "p2",
		".big":                         "h1 p2",
		".BIG":                         "",
		".title.big":                   "h1",
		"p.big":                        "p2",
		".a.b":                         "l2",
		".a:not(.b)":                   "l1 l5",
		"li:not(.a)":                   "l3 l4 l6",
		"li:not(.a, .b)":               "l3 l6",
		":not(:not(#p1)):is(p)":        "p1",
		"[data-kind]":                  "d1 b1 i1",
		"[data-kind=sail]":             "b1",
		`[data-kind="sail boat"]`:      "d1",
		"[data-kind~=sail]":            "d1 b1",
		"[data-kind~=boat]":            "d1",
		"[data-kind|=SAIL]":            "i1",
		"[data-kind|=sail i]":          "b1 i1",
		"[data-kind^=sa]":              "d1 b1",
		"[data-kind$=boat]":            "d1",
		`[data-kind*="l b"]`:           "d1",
		"[data-kind=SAIL-2]":           "i1",
		"[data-kind=sail-2]":           "",
		"[data-kind=sail-2 i]":         "i1",
		"[data-kind=sail-2 s]":         "",
		`[data-kind^=""]`:              "",
		`[data-kind*=""]`:              "",
		`[data-kind~=""]`:              "",
		`[data-kind~="sail boat"]`:     "",
		"[DATA-KIND=sail]":             "b1",
		"[type=CHECKBOX]":              "n3",
		"[type=CHECKBOX s]":            "",
		"b[data-kind][id=b1]":          "b1",
		":root":                        "html",
		":scope":                       "html",
		"html:root > body":             "body",
		":empty":                       " p3 n1 n2 n3 n4 bt1 bt2 o1 o2 t pr mp s1 s2",
		"p:empty":                      "p3",
		":first-child":                 "html  h1 l1 b1 a1 n1 lg bt1 og o1 su d3 s1 s2",
		"li:first-child":               "l1",
		"li:last-child":                "l6",
		":only-child":                  "html bt1 og su s1 s2",
		"span:only-child":              "s1 s2",
		"p:first-of-type":              "p1",
		"p:last-of-type":               "p3",
		"div:first-of-type":            "d1 d3",
		":only-of-type:is(h1,p,ul)":    "h1 ul",
		"li:nth-child(2)":              "l2",
		"li:nth-child(odd)":            "l1 l3 l5",
		"li:nth-child(even)":           "l2 l4 l6",
		"li:nth-child(3n)":             "l3 l6",
		"li:nth-child(3n+1)":           "l1 l4",
		"li:nth-child(3n-1)":           "l2 l5",
		"li:nth-child(-n+2)":           "l1 l2",
		"li:nth-child(n+5)":            "l5 l6",
		"li:nth-child(0n+4)":           "l4",
		"li:nth-child(0)":              "",
		"li:nth-child(-2n+5)":          "l1 l3 l5",
		"li:nth-last-child(1)":         "l6",
		"li:nth-last-child(2n)":        "l1 l3 l5",
		"li:nth-last-child(-n+2)":      "l5 l6",
		"p:nth-of-type(2)":             "p2",
		"p:nth-last-of-type(1)":        "p3",
		"div:nth-of-type(even)":        "d2 d4",
		":nth-child(2 of .a)":          "l2",
		"li:nth-child(even of .a)":     "l2",
		":nth-child(1 of .b)":          "l2",
		":nth-last-child(1 of .a)":     "l5",
		":nth-last-child(2 of .a, .b)": "l4",
		"li:nth-child( 2n + 1 )":       "l1 l3 l5",
		"li:nth-child(+3)":             "l3",
		":is(h1, ul)":                  "h1 ul",
		":where(h1, ul)":               "h1 ul",
		":is(ul, div) > :is(li, b)":    "l1 l2 l3 l4 l5 l6 b1",
		":is()":                        "",
		":is(:nonsense, h1)":           "h1",
		"ul:has(.b)":                   "ul",
		":has(> b)":                    "d1",
		"p:has(+ p)":                   "p1 p2",
		"p:has(~ ul)":                  "p1 p2 p3",
		"h1:has(+ #p2)":                "",
		"section:has(#s2)":             "se",
		":has(> :first-child:last-child):is(div)": "d3 d4",
		"div:not(:has(*))":                        "",
		"body:has(> ul > .b)":                     "body",
		"div:has(b, a)":                           "d1 d2",
		":has(:has(b))":                           "html body",
		":link":                                   "a1",
		":any-link":                               "a1",
		":visited":                                "",
		":hover":                                  "",
		":lang(en):is(h1,div,b)":                  "h1 d3 d4",
		":lang(de):is(div,b,i)":                   "d1 b1 i1",
		":lang(de-CH):is(div,b)":                  "d1 b1",
		`:lang("*-CH"):is(div,b)`:                 "d1 b1",
		":lang(de-DE)":                            "",
		":lang(fr, de):is(div)":                   "d1 d2",
		`:lang(""):is(div)`:                       "",
		":dir(rtl)":                               "d2 a1 a2 bdi",
		"div:dir(ltr)":                            "d1 d3 d4",
		"bdi:dir(rtl)":                            "bdi",
		":defined:is(section,my-part)":            "se",
		"my-part:not(:defined)":                   "mp",
		":open":                                   "de",
		"details[open] > summary":                 "su",
		":enabled":                                "n1 n2 n3 n4 bt1 s t",
		":disabled":                               "fs bt2 og o1 o2",
		":checked":                                "n3 o1",
		":required":                               "n1 n2",
		":optional":                               "n3 n4 s t",
		":read-write":                             "n1 n2 t s2",
		":read-only:is(input,textarea,select)":    "n3 n4 s",
		":placeholder-shown":                      "n4 t",
		":default":                                "n3 o1",
		":indeterminate":                          "pr",
		":valid":                                  "n2 n3 n4 s t",
		":invalid":                                "n1",
		"input:not([type])":                       "n1 n2 n4",
		":disabled:is(option)":                    "o1 o2",
		"section > div > span":                    "s1 s2",
		"section span":                            "s1 s2",
		"section div:first-child span":            "s1",
		"div > span ~ span":                       "",
		"body > * > li":                           "l1 l2 l3 l4 l5 l6",
		"html body ul li#l3":                      "l3",
		"ul > li + li + li":                       "l3 l4 l5 l6",
		"ul > li ~ .b":                            "l2 l4",
		"#ul > .a ~ .a":                           "l2 l5",
		".title + p + p":                          "p2",
		"* > * > span":                            "s1 s2",
		"section *":                               "d3 s1 d4 s2",
		"p::before":                               "p1 p2 p3",
		"p::first-line":                           "p1 p2 p3",
		"ul >":                                    "refused",
		"> ul":                                    "refused",
		"a,,b":                                    "refused",
		":nth-child":                              "refused",
		":nth-child(2n of)":                       "refused",
		":not()":                                  "refused",
		":has()":                                  "refused",
		"[a=]":                                    "refused",
		"[=a]":                                    "refused",
		"p..a":                                    "refused",
		"p#":                                      "refused",
		"::nope":                                  "refused",
		":nope":                                   "refused",
		"p:is(::before)":                          "",
		"a::before:hover":                         "",
		"ul *:nth-child(2)":                       "l2",
		"p, #ul, .b":                              "p1 p2 p3 ul l2 l4",
		"li.a, li.b":                              "l1 l2 l4 l5",
	} {
		assert.Equal(t, want, found(t, doc, selector), selector)
	}
}

// found lists the ids of the elements that a selector finds.
func found(t *testing.T, doc *markup.Node, selector string) string {
	t.Helper()
	list, err := css.ParseSelectors(css.ParseValues(selector), false, false)
	if err != nil {
		return "refused"
	}
	var ids []string
	var m matcher
	doc.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Element && m.anyMatch(list, n, nil) {
			ids = append(ids, n.ID)
		}
		return true
	})
	return strings.Join(ids, " ")
}
