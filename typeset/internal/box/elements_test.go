package box

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestElementsAndTheirBoxes holds the boxes of form controls, lists, generated content, embedded
// content and other elements (HTML, §15; CSS Lists 3; CSS Generated Content 3; CSS Pseudo 4).
func TestElementsAndTheirBoxes(t *testing.T) {
	for _, c := range [][2]string{
		{
			`<input type=text value=a>`,
			`body(input(anon("a") anon()))`,
		},
		{
			`<input type=text placeholder=p>`,
			`body(input(anon("p") anon()))`,
		},
		{
			`<input type=password value=abc>`,
			`body(input(anon("•••") anon()))`,
		},
		{
			`<input type=email value=a@b>`,
			`body(input(anon("a@b") anon()))`,
		},
		{
			`<input type=number value=5>`,
			`body(input(anon("5") anon()))`,
		},
		{
			`<input type=checkbox checked>`,
			`body(input())`,
		},
		{
			`<input type=checkbox>`,
			`body(input())`,
		},
		{
			`<input type=radio checked>`,
			`body(input())`,
		},
		{
			`<input type=submit value=Go>`,
			`body(input("Go"))`,
		},
		{
			`<input type=submit>`,
			`body(input("Submit"))`,
		},
		{
			`<input type=reset>`,
			`body(input("Reset"))`,
		},
		{
			`<input type=button value=B>`,
			`body(input("B"))`,
		},
		{
			`<input type=file>`,
			`body(input(file-selector-button("Choose file") "No file chosen"))`,
		},
		{
			`<input type=hidden value=x>`,
			`body()`,
		},
		{
			`<input type=color value=#ff0000>`,
			`body(input())`,
		},
		{
			`<input type=range value=50>`,
			`body(input())`,
		},
		{
			`<input type=date value=2026-05-01>`,
			`body(input(anon("2026-05-01") anon()))`,
		},
		{
			`<input type=image alt=pic>`,
			`body(input("pic"))`,
		},
		{
			`<input type=search value=q>`,
			`body(input(anon("q") anon()))`,
		},
		{
			`<input type=nonsense value=z>`,
			`body(input(anon("z") anon()))`,
		},
		{
			`<textarea>a
b</textarea>`,
			`body(textarea(anon("a b") anon()))`,
		},
		{
			`<textarea placeholder=p></textarea>`,
			`body(textarea(anon("p") anon()))`,
		},
		{
			`<select><option>a<option selected>b</select>`,
			`body(select(anon("a") anon("b")))`,
		},
		{
			`<select multiple><option>a<option selected>b</select>`,
			`body(select(anon("a") anon("b") anon("\u200b") anon("\u200b")))`,
		},
		{
			`<select size=2><optgroup label=g><option>a</optgroup><option>b</select>`,
			`body(select(anon("a") anon("b")))`,
		},
		{
			`<select></select>`,
			`body(select(anon("\u200b")))`,
		},
		{
			`<button>a<b>b</b></button>`,
			`body(button("a" b("b")))`,
		},
		{
			`<button></button>`,
			`body(button())`,
		},
		{
			`<progress value=.5></progress>`,
			`body(progress(anon()))`,
		},
		{
			`<meter value=.5></meter>`,
			`body(meter(anon()))`,
		},
		{
			`<output>5</output>`,
			`body(output("5"))`,
		},
		{
			`<label>a<input value=b></label>`,
			`body(label("a" input(anon("b") anon())))`,
		},
		{
			`<datalist><option>a</datalist>x`,
			`body("x")`,
		},
		{
			`<details><summary>s</summary>t</details>`,
			`body(details(summary(marker("▸") "s")))`,
		},
		{
			`<details open><summary>s</summary>t</details>`,
			`body(details(summary(marker("▾") "s") anon("t")))`,
		},
		{
			`<details open>t</details>`,
			`body(details("t"))`,
		},
		{
			`<dialog>a</dialog>`,
			`body()`,
		},
		{
			`<dialog open>a</dialog>`,
			`body(dialog("a"))`,
		},
		{
			`<ul><li>a<li>b</ul>`,
			`body(ul(li("a") li("b")))`,
		},
		{
			`<ol start=3><li>a<li value=9>b<li>c</ol>`,
			`body(ol(li("a") li("b") li("c")))`,
		},
		{
			`<ol reversed><li>a<li>b</ol>`,
			`body(ol(li("a") li("b")))`,
		},
		{
			`<ul style='list-style:none'><li>a</ul>`,
			`body(ul(li("a")))`,
		},
		{
			`<ol style='list-style-type:upper-roman'><li>a</ol>`,
			`body(ol(li("a")))`,
		},
		{
			`<ul style='list-style:inside'><li>a</ul>`,
			`body(ul(li(marker("•") "a")))`,
		},
		{
			`<ul style='list-style-type:"+ "'><li>a</ul>`,
			`body(ul(li("a")))`,
		},
		{
			`<p style='display:list-item'>a</p>`,
			`body(p("a"))`,
		},
		{
			`<style>li::marker{content:'m'}</style><ul><li>a</ul>`,
			`body(ul(li("a")))`,
		},
		{
			`<style>li::marker{content:none}</style><ul><li>a</ul>`,
			`body(ul(li("a")))`,
		},
		{
			`<style>p{counter-increment:c}p::before{content:counter(c)}</style><p>a<p>b`,
			`body(p(before("1") "a") p(before("2") "b"))`,
		},
		{
			`<style>p{counter-increment:c 5}p::before{content:counter(c,lower-roman)}</style><p>a<p>b`,
			`body(p(before("v") "a") p(before("x") "b"))`,
		},
		{
			`<style>div{counter-reset:c}p{counter-increment:c}p::before{content:counters(c,'.')}</style><div><p>a<div><p>b</div><p>c</div>`,
			`body(div(p(before("1") "a") div(p(before("1.1") "b")) p(before("2") "c")))`,
		},
		{
			`<style>body{counter-reset:c 9}p{counter-set:c 3}p::before{content:counter(c)}</style><p>a`,
			`body(p(before("3") "a"))`,
		},
		{
			`<style>p::before{content:counter(none)}</style><p>a`,
			`body(p("a"))`,
		},
		{
			`<style>p::before{content:attr(title)}</style><p title=t>a<p>b`,
			`body(p(before("t") "a") p(before() "b"))`,
		},
		{
			`<style>p::before{content:open-quote}p::after{content:close-quote}</style><p>a<p>b`,
			`body(p(before("“") "a" after("”")) p(before("“") "b" after("”")))`,
		},
		{
			`<style>p{quotes:'<' '>' '(' ')'}p::before{content:open-quote}p::after{content:close-quote}</style><p>a`,
			`body(p(before("<") "a" after(">")))`,
		},
		{
			`<q lang=de>a<q>b</q></q>`,
			`body(q(before("„") "a" q(before("‚") "b" after("‘")) after("“")))`,
		},
		{
			`<q style='quotes:none'>a</q>`,
			`body(q(before() "a" after()))`,
		},
		{
			`<style>p::before{content:no-open-quote}p::after{content:close-quote}</style><p>a`,
			`body(p(before() "a" after("”")))`,
		},
		{
			`<style>p::before{content:'a' 'b' attr(x)}</style><p x=c>d`,
			`body(p(before("abc") "d"))`,
		},
		{
			`<style>p{content:'x'}</style><p>a`,
			`body(p("a"))`,
		},
		{
			`<style>p::after{content:'a';display:table}</style><p>b`,
			`body(p(anon("b") after(anon(anon(anon("a"))))))`,
		},
		{
			`<style>p::before{content:'a';position:absolute}</style><p>b`,
			`body(p(before("a") "b"))`,
		},
		{
			`<style>p::before{content:'a';float:left}</style><p>b`,
			`body(p(before("a") "b"))`,
		},
		{
			`<style>p::first-letter{color:red}</style><p>abc`,
			`body(p(first-letter("a") "bc"))`,
		},
		{
			`<style>p::first-letter{color:red}</style><p>“a” b`,
			`body(p(first-letter("“a”") "b"))`,
		},
		{
			`<style>p::first-letter{color:red}</style><p><b>a</b>b`,
			`body(p(b(first-letter("a")) "b"))`,
		},
		{
			`<style>p::first-letter{color:red}p::before{content:'x'}</style><p>ab`,
			`body(p(before(first-letter("x")) "ab"))`,
		},
		{
			`<style>p::first-letter{float:left}</style><p>ab`,
			`body(p(first-letter("a") "b"))`,
		},
		{
			`<img alt=''>`,
			`body(img())`,
		},
		{
			`<object>a</object>`,
			`body(object("a"))`,
		},
		{
			`<video>a</video>`,
			`body(video())`,
		},
		{
			`<audio controls>a</audio>`,
			`body(audio("a"))`,
		},
		{
			`<iframe></iframe>`,
			`body(iframe())`,
		},
		{
			`<canvas>a</canvas>`,
			`body(canvas())`,
		},
		{
			`<map><area></map>a`,
			`body(map() "a")`,
		},
		{
			`<ruby>a<rt>b</rt></ruby>`,
			`body(ruby(ruby(anon("a") rt("b"))))`,
		},
		{
			`<ruby>a<rp>(</rp><rt>b</rt><rp>)</rp></ruby>`,
			`body(ruby(ruby(anon("a") rt("b"))))`,
		},
		{
			`<ruby><rb>a<rt>b</ruby>`,
			`body(ruby(ruby(anon(rb("a")) rt("b"))))`,
		},
		{
			`<p>a<sub>b</sub><sup>c</sup>`,
			`body(p("a" sub("b") sup("c")))`,
		},
		{
			`<a name=x></a>b`,
			`body(a() "b")`,
		},
		{
			`<u>a</u><s>b</s>`,
			`body(u("a") s("b"))`,
		},
		{
			`<bdo dir=rtl>a</bdo>`,
			`body(bdo("a"))`,
		},
		{
			`<nobr>a b</nobr>`,
			`body(nobr("a b"))`,
		},
		{
			`<marquee>a</marquee>`,
			`body(marquee("a"))`,
		},
		{
			`<blink>a</blink>`,
			`body(blink("a"))`,
		},
		{
			`<x-y>a</x-y>`,
			`body(x-y("a"))`,
		},
		{
			`<address>a</address>`,
			`body(address("a"))`,
		},
		{
			`<dl><dt>a<dd>b</dl>`,
			`body(dl(dt("a") dd("b")))`,
		},
		{
			`<figure>a<figcaption>b</figure>`,
			`body(figure(anon("a") figcaption("b")))`,
		},
		{
			`<main><article>a</article></main>`,
			`body(main(article("a")))`,
		},
		{
			`<fieldset>a</fieldset>`,
			`body(fieldset("a"))`,
		},
		{
			`<form>a</form>`,
			`body(form("a"))`,
		},
		{
			`<noscript>a</noscript>`,
			`body(noscript("a"))`,
		},
	} {
		assert.Equal(t, c[1], outline(treeOf(t, c[0])), c[0])
	}
}
