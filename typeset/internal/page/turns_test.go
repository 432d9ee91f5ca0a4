package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Where words stand on page after page: counters, strings, running elements, selectors of
// pages, blank ones, footnotes and cross references (Page 3; Generated Content for Paged Media).
func TestPagesInTurn(t *testing.T) {
	const sheet = "@page{size:200px 100px;margin:20px}body{margin:0;font:10px/12px serif}p{margin:0}"
	for _, c := range []struct{ name, css, html, want string }{
		{
			"page and pages", `@page{@top-left{content:counter(page) ' of ' counter(pages)}}p+p{break-before:page}`, `<p>a<p>b<p>c`,
			"sheet 200.0 × 100.0;   20.0,0.7..57.3  1 of 3;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..57.3  2 of 3;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..57.3  3 of 3;   20.0,20.1..24.4  c",
		},
		{
			"counters in other figures", `@page{@top-left{content:counter(page,upper-roman) '/' counter(pages,lower-alpha)}}p+p{break-before:page}`, `<p>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,0.7..37.8  I/b;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..43.1  II/b;   20.0,20.1..25.0  b",
		},
		{
			"a counter of its own for pages", `@page{counter-increment:sheet 2;@top-left{content:counter(sheet)}}p+p{break-before:page}`, `<p>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  2;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..28.0  4;   20.0,20.1..25.0  b",
		},
		{
			"the page counter is set by an element", `@page{@top-left{content:counter(page)}}#b{counter-reset:page 7}p+p{break-before:page}`, `<p>a<p id=b>b<p>c`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  1;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..28.0  7;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..28.0  8;   20.0,20.1..24.4  c",
		},
		{
			"the page counter is set in the middle of a page", `@page{@top-left{content:counter(page)}}#b{counter-set:page 9}`, `<p>a<p id=b>b<p style='break-before:page'>c`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  9;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..36.0  10;   20.0,20.1..24.4  c",
		},
		{
			"a first page without a number", `@page{@top-left{content:counter(page)}}@page:first{@top-left{content:none}}p+p{break-before:page}`, `<p>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..28.0  2;   20.0,20.1..25.0  b",
		},
		{
			"the first page is counted as none", `@page:first{counter-increment:page 0}@page{@top-left{content:counter(page)}}p+p{break-before:page}`, `<p>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..28.0  1;   20.0,20.1..25.0  b",
		},
		{
			"a counter of the document in the margin", `h2{counter-increment:part;font:inherit;margin:0}@page{@top-left{content:counter(part)}}`, `<h2>a</h2><h2 style='break-before:page'>b</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  1;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..28.0  2;   20.0,20.1..25.0  b",
		},
		{
			"nested counters in the margin", `ol{margin:0;padding:0;list-style:none}li{counter-increment:item}ol{counter-reset:item}@page{@top-left{content:counters(item,'.')}}`, `<ol><li>a<ol><li>b<li>c</ol></ol>`,
			"sheet 200.0 × 100.0;   20.0,0.7..28.0  2;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c",
		},
		{
			"a string, first", `h2{string-set:s content();font:inherit;margin:0;break-after:auto}@page{@top-left{content:'['string(s,first)']'}}`, `<p>x<h2>A</h2><h2>B</h2><p style='break-before:page'>y<p style='break-before:page'>z<h2>C</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..42.2  [A];   20.0,20.1..25.0  x;   20.0,32.1..27.2  A;   20.0,44.1..26.7  B; sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..25.0  y; sheet 200.0 × 100.0;   20.0,0.7..41.3  [C];   20.0,20.1..24.4  z;   20.0,32.1..26.7  C",
		},
		{
			"a string, last", `h2{string-set:s content();font:inherit;margin:0;break-after:auto}@page{@top-left{content:'['string(s,last)']'}}`, `<p>x<h2>A</h2><h2>B</h2><p style='break-before:page'>y<p style='break-before:page'>z<h2>C</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..25.0  x;   20.0,32.1..27.2  A;   20.0,44.1..26.7  B; sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..25.0  y; sheet 200.0 × 100.0;   20.0,0.7..41.3  [C];   20.0,20.1..24.4  z;   20.0,32.1..26.7  C",
		},
		{
			"a string, start", `h2{string-set:s content();font:inherit;margin:0;break-after:auto}@page{@top-left{content:'['string(s,start)']'}}`, `<p>x<h2>A</h2><h2>B</h2><p style='break-before:page'>y<p style='break-before:page'>z<h2>C</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..30.7  [];   20.0,20.1..25.0  x;   20.0,32.1..27.2  A;   20.0,44.1..26.7  B; sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..25.0  y; sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..24.4  z;   20.0,32.1..26.7  C",
		},
		{
			"a string, first-except", `h2{string-set:s content();font:inherit;margin:0;break-after:auto}@page{@top-left{content:'['string(s,first-except)']'}}`, `<p>x<h2>A</h2><h2>B</h2><p style='break-before:page'>y<p style='break-before:page'>z<h2>C</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..30.7  [];   20.0,20.1..25.0  x;   20.0,32.1..27.2  A;   20.0,44.1..26.7  B; sheet 200.0 × 100.0;   20.0,0.7..41.3  [B];   20.0,20.1..25.0  y; sheet 200.0 × 100.0;   20.0,0.7..30.7  [];   20.0,20.1..24.4  z;   20.0,32.1..26.7  C",
		},
		{
			"a string that is set before anything", `h2{string-set:s content();font:inherit;margin:0;break-after:auto}@page{@top-left{content:'['string(s,start)']'}}`, `<h2>A</h2><p>x`,
			"sheet 200.0 × 100.0;   20.0,0.7..42.2  [A];   20.0,20.1..27.2  A;   20.0,32.1..25.0  x",
		},
		{
			"a string of several parts", `h2{string-set:s 'no. ' counter(n) ': ' attr(id) content();counter-increment:n;font:inherit;margin:0}@page{@top-left{content:string(s)}}`, `<h2 id=k>A</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..80.0  no. 1: kA;   20.0,20.1..27.2  A",
		},
		{
			"two strings", `h2{string-set:s content(),u attr(id);font:inherit;margin:0}@page{@top-left{content:string(u) string(s)}}`, `<h2 id=k>A</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..39.6  kA;   20.0,20.1..27.2  A",
		},
		{
			"a string of what stands before", `h2::before{content:'+'}h2{string-set:s content(before) content(text);font:inherit;margin:0}@page{@top-left{content:string(s)}}`, `<h2>A</h2>`,
			"sheet 200.0 × 100.0;   20.0,0.7..40.6  +A;   20.0,20.1..32.9  +A",
		},
		{
			"a running element, first", `h1{position:running(head);font:inherit;margin:0}@page{@top-left{content:element(head,first)}}`, `<p>x<h1>A</h1><p>y<h1>B</h1><p style='break-before:page'>z<p style='break-before:page'>w<h1>C</h1><p>v`,
			"sheet 200.0 × 100.0;   20.0,4.1..27.2  A;   20.0,20.1..25.0  x;   20.0,32.1..25.0  y; sheet 200.0 × 100.0;   20.0,4.1..26.7  B;   20.0,20.1..24.4  z; sheet 200.0 × 100.0;   20.0,4.1..26.7  C;   20.0,20.1..27.2  w;   20.0,32.1..25.0  v",
		},
		{
			"a running element, last", `h1{position:running(head);font:inherit;margin:0}@page{@top-left{content:element(head,last)}}`, `<p>x<h1>A</h1><p>y<h1>B</h1><p style='break-before:page'>z<p style='break-before:page'>w<h1>C</h1><p>v`,
			"sheet 200.0 × 100.0;   20.0,4.1..27.2  A;   20.0,20.1..25.0  x;   20.0,32.1..25.0  y; sheet 200.0 × 100.0;   20.0,4.1..26.7  B;   20.0,20.1..24.4  z; sheet 200.0 × 100.0;   20.0,4.1..26.7  C;   20.0,20.1..27.2  w;   20.0,32.1..25.0  v",
		},
		{
			"a running element, start", `h1{position:running(head);font:inherit;margin:0}@page{@top-left{content:element(head,start)}}`, `<p>x<h1>A</h1><p>y<h1>B</h1><p style='break-before:page'>z<p style='break-before:page'>w<h1>C</h1><p>v`,
			"sheet 200.0 × 100.0;   20.0,20.1..25.0  x;   20.0,32.1..25.0  y; sheet 200.0 × 100.0;   20.0,4.1..26.7  B;   20.0,20.1..24.4  z; sheet 200.0 × 100.0;   20.0,4.1..26.7  B;   20.0,20.1..27.2  w;   20.0,32.1..25.0  v",
		},
		{
			"a running element, first-except", `h1{position:running(head);font:inherit;margin:0}@page{@top-left{content:element(head,first-except)}}`, `<p>x<h1>A</h1><p>y<h1>B</h1><p style='break-before:page'>z<p style='break-before:page'>w<h1>C</h1><p>v`,
			"sheet 200.0 × 100.0;   20.0,20.1..25.0  x;   20.0,32.1..25.0  y; sheet 200.0 × 100.0;   20.0,20.1..24.4  z; sheet 200.0 × 100.0;   20.0,20.1..27.2  w;   20.0,32.1..25.0  v",
		},
		{
			"a running element that begins a page", `h1{position:running(head);font:inherit;margin:0}@page{@top-left{content:element(head)}}`, `<h1>A</h1><p>x<p style='break-before:page'>y<h1>B</h1><p style='break-before:page'>z`,
			"sheet 200.0 × 100.0;   20.0,4.1..27.2  A;   20.0,20.1..25.0  x; sheet 200.0 × 100.0;   20.0,4.1..27.2  A;   20.0,20.1..25.0  y; sheet 200.0 × 100.0;   20.0,4.1..26.7  B;   20.0,20.1..24.4  z",
		},
		{
			"a running element is seen nowhere else", `h1{position:running(head);font:inherit;margin:0}`, `<p>x<h1>A</h1><p>y`,
			"sheet 200.0 × 100.0;   20.0,20.1..25.0  x;   20.0,32.1..25.0  y",
		},
		{
			"counters in a running element", `h1{position:running(head);font:inherit;margin:0}h1::after{content:' ' counter(page)}@page{@top-left{content:element(head)}}p+p{break-before:page}`, `<h1>A</h1><p>x<p>y`,
			"sheet 200.0 × 100.0;   20.0,4.1..34.2  A 1;   20.0,20.1..25.0  x; sheet 200.0 × 100.0;   20.0,4.1..34.2  A 2;   20.0,20.1..25.0  y",
		},
		{
			"left and right pages", `@page:left{margin-left:60px}@page:right{margin-right:60px}p{text-align:right}p+p{break-before:page}`, `<p>a<p>b<p>c`,
			"sheet 200.0 × 100.0;   135.6,20.1..140.0  a; sheet 200.0 × 100.0;   175.0,20.1..180.0  b; sheet 200.0 × 100.0;   135.6,20.1..140.0  c",
		},
		{
			"right-to-left begins on a left page", `@page:left{margin-left:60px}html{direction:rtl}p{text-align:left}p+p{break-before:page}`, `<p>a<p>b`,
			"sheet 200.0 × 100.0;   60.0,20.1..64.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b",
		},
		{
			"every second page", `@page:nth(2n){margin-top:50px}p+p{break-before:page}`, `<p>a<p>b<p>c<p>d`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,50.1..25.0  b; sheet 200.0 × 100.0;   20.0,20.1..24.4  c; sheet 200.0 × 100.0;   20.0,50.1..25.0  d",
		},
		{
			"the third page", `@page:nth(3){margin-top:50px}p+p{break-before:page}`, `<p>a<p>b<p>c<p>d`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,50.1..24.4  c; sheet 200.0 × 100.0;   20.0,20.1..25.0  d",
		},
		{
			"a named page", `@page wide{size:300px 100px}#b{page:wide}`, `<p>a<p id=b>b<p>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 300.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"a named page and its first one", `@page n{margin-left:40px}@page n:first{margin-left:80px}.n{page:n}`, `<p>a<p class=n>b<p class=n style='break-before:page'>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   40.0,20.1..45.0  b; sheet 200.0 × 100.0;   40.0,20.1..44.4  c",
		},
		{
			"names of neighbours break once", `@page n{margin-left:40px}.n{page:n}`, `<div class=n><p>a</div><div class=n><p>b</div>`,
			"sheet 200.0 × 100.0;   40.0,20.1..44.4  a;   40.0,32.1..45.0  b",
		},
		{
			"the name of the first child breaks before its parent", `@page n{margin-left:40px}.n{page:n}`, `<p>a<div><p class=n>b</div>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   40.0,20.1..45.0  b",
		},
		{
			"page auto", `@page n{margin-left:40px}.n{page:n}.a{page:auto}`, `<div class=n><p>a<p class=a>b</div>`,
			"sheet 200.0 × 100.0;   40.0,20.1..44.4  a;   40.0,32.1..45.0  b",
		},
		{
			"an important margin", `@page{margin-left:50px!important}@page:first{margin-left:80px}`, `<p>a`,
			"sheet 200.0 × 100.0;   50.0,20.1..54.4  a",
		},
		{
			"a later rule", `@page{margin-left:50px}@page{margin-left:30px}`, `<p>a`,
			"sheet 200.0 × 100.0;   30.0,20.1..34.4  a",
		},
		{
			"first goes before right", `@page:first{margin-left:80px}@page:right{margin-left:30px}`, `<p>a`,
			"sheet 200.0 × 100.0;   80.0,20.1..84.4  a",
		},
		{
			"a break to left", `@page:blank{@top-left{content:'blank'}}`, `<p>a<p style='break-before:left'>b<p style='break-before:left'>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"a break to right", `@page:blank{@top-left{content:'blank'}}`, `<p>a<p style='break-before:right'>b<p style='break-before:right'>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"a break to recto", `@page:blank{@top-left{content:'blank'}}`, `<p>a<p style='break-before:recto'>b<p style='break-before:recto'>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"a break to verso", `@page:blank{@top-left{content:'blank'}}`, `<p>a<p style='break-before:verso'>b<p style='break-before:verso'>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"a break after to right", `@page:blank{@top-left{content:'blank'}}`, `<p style='break-after:right'>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,0.7..55.5  blank; sheet 200.0 × 100.0;   20.0,20.1..25.0  b",
		},
		{
			"a document that begins left", `@page:blank{@top-left{content:'blank'}}`, `<p style='break-before:left'>a`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a",
		},
		{
			"a blank page is not the first", `@page:first{margin-left:60px}@page:blank{@top-left{content:'blank'}}`, `<p style='break-before:left'>a<p style='break-before:page'>b`,
			"sheet 200.0 × 100.0;   60.0,20.1..64.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b",
		},
		{
			"a footnote", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}`, `<p>a<i>note</i> b`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   20.0,68.1..47.2  1. note",
		},
		{
			"footnotes in their order", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}`, `<p>a<i>one</i> b<i>two</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   20.0,56.1..44.4  1. one;   20.0,68.1..45.0  2. two",
		},
		{
			"a footnote on the page of its call", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}p+p{break-before:page}`, `<p>a<p>b<i>note</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 200.0 × 100.0;   20.0,20.1..25.0  b;   25.0,17.5..29.0  1;   20.0,68.1..47.2  1. note",
		},
		{
			"a footnote that no room is left for goes on", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}`, `<p>a<p>b<p>c<p>d<i>n1 n2 n3 n4 n5 n6 n7 n8 n9 n10 n11 n12 n13 n14 n15 n16 n17 n18 n19 n20 n21 n22 n23 n24 n25 n26 n27 n28 n29 n30</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c; sheet 200.0 × 100.0;   20.0,20.1..25.0  d;   25.0,17.5..29.0  1;   20.0,38.1..174.6  1. n1 n2 n3 n4 n5 n6 n7 n8 n9 n10 n11;   20.0,50.1..175.0  n12 n13 n14 n15 n16 n17 n18 n19 n20; sheet 200.0 × 100.0;   20.0,56.1..175.0  n21 n22 n23 n24 n25 n26 n27 n28 n29;   20.0,68.1..35.0  n30",
		},
		{
			"the line goes on with its footnote", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-policy:line}`, `<p>a<p>b<p>c<p>d<p>e<i>note</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c;   20.0,56.1..25.0  d; sheet 200.0 × 100.0;   20.0,20.1..24.4  e;   24.4,17.5..28.4  1;   20.0,68.1..47.2  1. note",
		},
		{
			"the paragraph goes on with its footnote", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-policy:block}p{orphans:1;widows:1}`, `<p>a<p>b<p>c<p>d<br>e<i>note</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c;   20.0,56.1..25.0  d; sheet 200.0 × 100.0;   20.0,20.1..24.4  e;   24.4,17.5..28.4  1;   20.0,68.1..47.2  1. note",
		},
		{
			"other marks", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{counter-increment:footnote}::footnote-call{content:counter(footnote,lower-alpha)}::footnote-marker{content:counter(footnote,lower-alpha) ') '}`, `<p>a<i>one</i> b<i>two</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.0  a;   30.5,20.1..35.5  b;   35.5,17.5..39.5  b;   20.0,56.1..44.7  a) one;   20.0,68.1..45.8  b) two",
		},
		{
			"footnotes in one line", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-display:inline}`, `<p>a<i>one</i> b<i>two</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   20.0,68.1..71.9  1. one 2. two",
		},
		{
			"short footnotes stand in one line", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-display:compact}`, `<p>a<i>one</i> b<i>two</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   20.0,68.1..71.9  1. one 2. two",
		},
		{
			"compact footnotes that do not fit stand below each other", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-display:compact}`, `<p>a<i>one one one one one one one one</i> b<i>two two two two two two two two</i> c<i>three</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   20.0,44.1..163.0  1. one one one one one one one one;   20.0,56.1..167.5  2. two two two two two two two two;   20.0,68.1..50.0  3. three",
		},
		{
			"inline and block footnotes", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}.l{footnote-display:inline}`, `<p>a<i>one</i> b<i class=l>two</i> c<i class=l>three</i> d<i>four</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   53.4,20.1..58.4  d;   58.4,17.5..62.4  4;   20.0,44.1..44.4  1. one;   20.0,56.1..77.5  2. two 3. three;   20.0,68.1..46.7  4. four",
		},
		{
			"inline footnotes are broken into lines", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}i{footnote-display:inline}`, `<p>a<i>one one one one one</i> b<i>two two two two two two</i> c<i>three three three</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   20.0,56.1..174.7  1. one one one one one 2. two two two;   20.0,68.1..147.5  two two two 3. three three three",
		},
		{
			"footnotes are numbered anew on each page", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}@page{counter-reset:footnote}p+p{break-before:page}`, `<p>a<i>one</i><p>b<i>two</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   20.0,68.1..44.4  1. one; sheet 200.0 × 100.0;   20.0,20.1..25.0  b;   25.0,17.5..29.0  1;   20.0,68.1..45.0  1. two",
		},
		{
			"a footnote area of a greatest height", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}@page{@footnote{max-height:12px}}`, `<p>a<i>one</i> b<i>two</i> c<i>three</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   20.0,68.1..44.4  1. one; sheet 200.0 × 100.0;   20.0,68.1..45.0  2. two; sheet 200.0 × 100.0;   20.0,68.1..50.0  3. three",
		},
		{
			"what goes beyond the greatest height goes on", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}@page{@footnote{max-height:24px}}`, `<p>a<i>one</i> b<i>two</i> c<i>three</i><p style='break-before:page'>d<i>four</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   20.0,56.1..44.4  1. one;   20.0,68.1..45.0  2. two; sheet 200.0 × 100.0;   20.0,20.1..25.0  d;   25.0,17.5..29.0  4;   20.0,56.1..50.0  3. three;   20.0,68.1..46.7  4. four",
		},
		{
			"a greatest height and edges", `i{float:footnote;font:inherit}::footnote-call{font-size:8px}@page{@footnote{border:0;margin:0;padding:0}}@page{@footnote{max-height:24px;padding:5px 0;margin-top:3px}}`, `<p>a<i>one</i> b<i>two</i> c<i>three</i>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   24.4,17.5..28.4  1;   30.9,20.1..35.9  b;   35.9,17.5..39.9  2;   42.4,20.1..46.9  c;   46.9,17.5..50.9  3;   20.0,51.1..44.4  1. one;   20.0,63.1..45.0  2. two; sheet 200.0 × 100.0;   20.0,63.1..50.0  3. three",
		},
		{
			"the page of a target", `a::after{content:' p' target-counter(attr(href),page)}p+p{break-before:page}`, `<p><a href=#k>a</a><p>b<p id=k>c`,
			"sheet 200.0 × 100.0;   20.0,20.1..36.9  a p3; sheet 200.0 × 100.0;   20.0,20.1..25.0  b; sheet 200.0 × 100.0;   20.0,20.1..24.4  c",
		},
		{
			"the text of a target", `a::after{content:' ' target-text(attr(href))}p+p{break-before:page}`, `<p><a href=#k>a</a><p id=k>see <b>c</b>`,
			"sheet 200.0 × 100.0;   20.0,20.1..46.6  a see c; sheet 200.0 × 100.0;   20.0,20.1..39.7  see c",
		},
		{
			"a target that is not there", `a::after{content:'[' target-counter(attr(href),page) ']'}`, `<p><a href=#no>a</a>`,
			"sheet 200.0 × 100.0;   20.0,20.1..31.1  a[]",
		},
		{
			"leaders", `a::after{content:leader('.') target-counter(attr(href),page)}p+p{break-before:page}`, `<p style='width:80px'><a href=#k>a</a><p id=k>b`,
			"sheet 200.0 × 100.0;   20.0,20.1..100.0  a............................2; sheet 200.0 × 100.0;   20.0,20.1..25.0  b",
		},
		{
			"a page that is turned", `@page{page-orientation:rotate-left}`, `<p>a`,
			"sheet 200.0 × 100.0;   20.1,175.6..31.2  a",
		},
		{
			"bleed and marks", `@page{bleed:6px;marks:crop}`, `<p>a`,
			"sheet 258.0 × 158.0;   49.0,49.1..53.4  a",
		},
		{
			"landscape pages among others", `@page land{size:100px 200px}#b{page:land}`, `<p>a<p id=b>b`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a; sheet 100.0 × 200.0;   20.0,20.1..25.0  b",
		},
		{
			"a fixed box is on every page", `#f{position:fixed;bottom:0;right:0}p+p{break-before:page}`, `<div id=f>F</div><p>a<p>b`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   174.4,68.1..180.0  F; sheet 200.0 × 100.0;   20.0,20.1..25.0  b;   174.4,68.1..180.0  F",
		},
		{
			"two lines go on together", `p{orphans:2;widows:2}`, `<p>a<br>b<br>c<p>d<br>e<br>f`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c; sheet 200.0 × 100.0;   20.0,20.1..25.0  d;   20.0,32.1..24.4  e;   20.0,44.1..23.3  f",
		},
		{
			"single lines are allowed", `p{orphans:1;widows:1}`, `<p>a<br>b<br>c<p>d<br>e<br>f`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c;   20.0,56.1..25.0  d;   20.0,68.1..24.4  e; sheet 200.0 × 100.0;   20.0,20.1..23.3  f",
		},
		{
			"a heading goes on with its text", `h2{font:inherit;margin:0;break-after:avoid}`, `<p>a<p>b<p>c<p>d<h2>H</h2><p>e`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c;   20.0,56.1..25.0  d; sheet 200.0 × 100.0;   20.0,20.1..27.2  H;   20.0,32.1..24.4  e",
		},
		{
			"what is to stay whole", `div{break-inside:avoid}`, `<p>a<p>b<p>c<div><p>d<p>e<p>f</div>`,
			"sheet 200.0 × 100.0;   20.0,20.1..24.4  a;   20.0,32.1..25.0  b;   20.0,44.1..24.4  c; sheet 200.0 × 100.0;   20.0,20.1..25.0  d;   20.0,32.1..24.4  e;   20.0,44.1..23.3  f",
		},
		{
			"fit to what is there", `html{-olive-fit:shrink}`, `<p style='width:320px;text-align:right'>a`,
			"sheet 200.0 × 100.0;   177.8,20.0..180.0  a",
		},
		{
			"running sums", `td{padding:0}tr{-olive-add:t attr(data-v)}@page{@bottom-left{content:-olive-sum(t '0.00')}}p+p{break-before:page}`, `<table style='border-spacing:0'><tr data-v=1.5><td>a<tr data-v=2><td>b</table><p>c<p>d`,
			"sheet 200.0 × 100.0;   20.0,19.7..27.1  a;   20.0,37.7..28.0  b;   20.0,56.1..24.4  c; sheet 200.0 × 100.0;   20.0,20.1..25.0  d",
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, pagesOf(t, "<style>"+sheet+c.css+"</style>"+c.html))
		})
	}
}
