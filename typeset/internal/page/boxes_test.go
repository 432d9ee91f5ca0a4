package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Where pages have their words, and what is said of pages that cannot be (Page 3).
func TestPageBoxes(t *testing.T) {
	for _, c := range []struct{ name, sheet, html, want string }{
		{
			"margins in percent are of width and height", "@page{size:400px 200px;margin:10% 20%}", "<p style='margin:0'>a",
			"sheet 400.0 × 200.0;   88.0,27.7..95.1  a",
		},
		{
			"edges of the page box", "@page{size:400px 300px;margin:20px;border:5px solid;padding:7px 9px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   42.0,39.7..49.1  a",
		},
		{
			"an edge of one side", "@page{size:400px 300px;margin:0;border-left:5px solid;padding-top:7px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   13.0,14.7..20.1  a",
		},
		{
			"a width leaves the margins at the end", "@page{size:400px 300px;margin:20px;width:200px}", "<p style='margin:0;text-align:right'>a",
			"sheet 240.0 × 300.0;   204.9,27.7..212.0  a",
		},
		{
			"auto margins stand in the middle", "@page{size:400px 300px;margin:20px auto;width:200px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   108.0,27.7..115.1  a",
		},
		{
			"one auto margin takes all", "@page{size:400px 300px;margin:20px 10px 20px auto;width:200px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   198.0,27.7..205.1  a",
		},
		{
			"a height", "@page{size:400px 300px;margin:auto 10px;height:100px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   18.0,107.7..25.1  a",
		},
		{
			"least and greatest widths", "@page{size:400px 300px;margin:auto;width:50px;min-width:100px;max-height:80px;height:200px}", "<p style='margin:0'>a",
			"sheet 400.0 × 300.0;   183.0,57.7..190.1  a",
		},
		{
			"a size by name", "@page{size:A6;margin:10px}", "<p style='margin:0'>a",
			"sheet 396.9 × 559.4;   18.0,17.7..25.1  a",
		},
		{
			"a size by name, turned", "@page{size:A6 landscape;margin:10px}", "<p style='margin:0'>a",
			"sheet 559.4 × 396.9;   18.0,17.7..25.1  a",
		},
		{
			"an orientation alone", "@page{size:landscape;margin:10px}", "<p style='margin:0'>a",
			"sheet 1122.5 × 793.7;   18.0,17.7..25.1  a",
		},
		{
			"one length is a square", "@page{size:150px;margin:10px}", "<p style='margin:0'>a",
			"sheet 150.0 × 150.0;   18.0,17.7..25.1  a",
		},
		{
			"no room across", "@page{size:400px 300px;margin:0 200px}", "<p>a",
			"error: the margins leave no room on the page: the sheet is 105.8 × 79.4 mm, the margins at top, right, bottom and left are 0, 52.9, 0 and 52.9 mm",
		},
		{
			"no room down", "@page{size:400px 300px;margin:150px 0}", "<p>a",
			"error: the margins leave no room on the page: the sheet is 105.8 × 79.4 mm, the margins at top, right, bottom and left are 39.7, 0, 39.7 and 0 mm",
		},
		{
			"edges leave no room", "@page{size:100px;margin:20px;border:20px solid;padding:10px}", "<p>a",
			"error: the margins leave no room on the page: the sheet is 26.5 × 26.5 mm, the margins with borders and padding at top, right, bottom and left are 13.2, 13.2, 13.2 and 13.2 mm",
		},
		{
			"just room", "@page{size:100px;margin:49px}", "<p style='margin:0'>a",
			"sheet 100.0 × 100.0; sheet 100.0 × 100.0;   57.0,48.7..64.1  a",
		},
		{
			"three margin boxes share by their contents", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a'}@top-center{content:'a longer text'}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..47.1  a;   40.0,40.7..48.0  x;   160.0,10.7..360.0  a longer text b",
		},
		{
			"without a middle", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a a a a'}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..80.4  a a a a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"only on the right", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   352.0,10.7..360.0  b;   40.0,40.7..48.0  x",
		},
		{
			"only in the middle", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-center{content:'m'}}", "x",
			"sheet 400.0 × 300.0;   193.8,10.7..206.2  m;   40.0,40.7..48.0  x",
		},
		{
			"a width of its own", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:50px}@top-center{content:'m'}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..47.1  a;   40.0,40.7..48.0  x;   193.8,10.7..360.0  m b",
		},
		{
			"widths of both sides", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:50px}@top-right{content:'b';width:150px}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..47.1  a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"a percentage", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:25%}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..47.1  a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"a least width", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';min-width:200px}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,10.7..47.1  a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"a greatest width", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a a a a a a';max-width:40px}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,1.7..69.3  a a a;   40.0,19.7..69.3  a a a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"boxes at the side share the height", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@left-top{content:'a'}@left-middle{content:'m'}@left-bottom{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   16.4,39.7..23.6  a;   13.8,140.7..26.2  m;   16.0,241.7..24.0  b;   40.0,40.7..48.0  x",
		},
		{
			"a height of its own", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@right-top{content:'a';height:50px}@right-bottom{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   376.4,39.7..383.6  a;   376.0,241.7..384.0  b",
		},
		{
			"corners", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left-corner{content:'1'}@top-right-corner{content:'2'}@bottom-left-corner{content:'3'}@bottom-right-corner{content:'4'}}", "x",
			"sheet 400.0 × 300.0;   32.0,10.7..368.0  1 2;   40.0,40.7..48.0  x;   32.0,270.7..368.0  3 4",
		},
		{
			"aligned at the top", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';vertical-align:top}@bottom-left{content:'b';vertical-align:bottom}}", "x",
			"sheet 400.0 × 300.0;   40.0,-0.3..47.1  a;   40.0,40.7..48.0  x;   40.0,281.7..48.0  b",
		},
		{
			"text at the end", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';text-align:right;width:100px}}", "x",
			"sheet 400.0 × 300.0;   132.9,10.7..140.0  a;   40.0,40.7..48.0  x",
		},
		{
			"margins and padding of a margin box", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';margin:5px;padding:3px;border:1px solid;vertical-align:top}}", "x",
			"sheet 400.0 × 300.0;   49.0,8.7..56.1  a;   40.0,40.7..48.0  x",
		},
		{
			"no contents, no box", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:none}@top-center{content:normal}@top-right{content:''}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x",
		},
		{
			"one that is not shown", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';display:none}@top-right{content:'b';visibility:hidden}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x",
		},
		{
			"the first page has its own", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'all'}}@page :first{@top-left{content:'first'}}", "x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,10.7..65.8  first;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..56.0  all;   40.0,56.7..48.0  y",
		},
		{
			"left and right pages", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page :left{@top-left{content:'left'}}@page :right{@top-right{content:'right'}}", "x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   329.8,10.7..360.0  right;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..61.3  left;   40.0,56.7..48.0  y",
		},
		{
			"blank pages", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page :blank{@top-left{content:'blank'}}", "x<p style='break-before:right'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..75.5  blank; sheet 400.0 × 300.0;   40.0,56.7..48.0  y",
		},
		{
			"the fifth page", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page :nth(2){@top-left{content:'second'}}", "x<p style='break-before:page'>y<p style='break-before:page'>z",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..84.4  second;   40.0,56.7..48.0  y; sheet 400.0 × 300.0;   40.0,56.7..47.1  z",
		},
		{
			"a name", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page wide{size:500px 200px;@top-left{content:'wide'}}", "x<p style='page:wide'>y<p>z",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x; sheet 500.0 × 200.0;   40.0,10.7..71.1  wide;   40.0,56.7..48.0  y; sheet 400.0 × 300.0;   40.0,56.7..47.1  z",
		},
		{
			"a name and first", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page wide:first{@top-left{content:'begins'}}", "<p style='page:wide'>y<p style='page:wide;break-before:page'>y<p>z",
			"sheet 400.0 × 300.0;   40.0,10.7..81.8  begins;   40.0,56.7..48.0  y; sheet 400.0 × 300.0;   40.0,56.7..48.0  y; sheet 400.0 × 300.0;   40.0,56.7..47.1  z",
		},
		{
			"page and pages", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@bottom-right{content:counter(page) '/' counter(pages)}}", "x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   339.6,270.7..360.0  1/2; sheet 400.0 × 300.0;   40.0,56.7..48.0  y;   339.6,270.7..360.0  2/2",
		},
		{
			"a counter of its own", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{counter-increment:sheet 2;@bottom-right{content:counter(sheet)}}", "x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   352.0,270.7..360.0  2; sheet 400.0 × 300.0;   40.0,56.7..48.0  y;   352.0,270.7..360.0  4",
		},
		{
			"pages begin at a number", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page:first{counter-reset:page 4}@page{@bottom-right{content:counter(page)}}", "x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   352.0,270.7..360.0  5; sheet 400.0 × 300.0;   40.0,56.7..48.0  y;   352.0,270.7..360.0  6",
		},
		{
			"a running head", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}h1{string-set:title content();font-size:16px;margin:0}@page{@top-left{content:string(title)}}", "<h1>One</h1>x<h1 style='break-before:page'>Two</h1>y<h1>Three</h1>",
			"sheet 400.0 × 300.0;   40.0,10.7..66.7  One;   40.0,40.7..68.4  One;   40.0,60.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..68.2  Two;   40.0,40.7..69.0  Two;   40.0,60.7..48.0  y;   40.0,80.7..80.6  Three",
		},
		{
			"the last of a page", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}h1{string-set:title content();font-size:16px;margin:0}@page{@top-left{content:string(title, last)}}", "<h1>One</h1>x<h1 style='break-before:page'>Two</h1>y<h1>Three</h1>",
			"sheet 400.0 × 300.0;   40.0,10.7..66.7  One;   40.0,40.7..68.4  One;   40.0,60.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..77.3  Three;   40.0,40.7..69.0  Two;   40.0,60.7..48.0  y;   40.0,80.7..80.6  Three",
		},
		{
			"what a page began with", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}h1{string-set:title content();font-size:16px;margin:0}@page{@top-left{content:string(title, start)}}", "<h1>One</h1>x<p style='break-before:page'>y<h1>Three</h1>",
			"sheet 400.0 × 300.0;   40.0,10.7..66.7  One;   40.0,40.7..68.4  One;   40.0,60.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..66.7  One;   40.0,56.7..48.0  y;   40.0,92.7..80.6  Three",
		},
		{
			"none where it is set", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}h1{string-set:title content();font-size:16px;margin:0}@page{@top-left{content:string(title, first-except)}}", "<h1>One</h1>x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..68.4  One;   40.0,60.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..66.7  One;   40.0,56.7..48.0  y",
		},
		{
			"an element that runs", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}#h{position:running(head)}@page{@top-left{content:element(head)}}", "<div id=h>the <b>head</b></div>x<p style='break-before:page'>y",
			"sheet 400.0 × 300.0;   40.0,10.7..96.4  the head;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..96.4  the head;   40.0,56.7..48.0  y",
		},
		{
			"an element set anew", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}.h{position:running(head)}@page{@top-left{content:element(head)}}", "<div class=h>one</div>x<p style='break-before:page'><span class=h>two</span>y",
			"sheet 400.0 × 300.0;   40.0,10.7..63.1  one;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   40.0,10.7..64.0  two;   40.0,56.7..48.0  y",
		},
		{
			"a left page first", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}", "<p style='break-before:left'>x",
			"sheet 400.0 × 300.0;   40.0,56.7..48.0  x",
		},
		{
			"to the right page", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}", "x<p style='break-before:right'>y<p style='break-before:right'>z",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x; sheet 400.0 × 300.0; sheet 400.0 × 300.0;   40.0,56.7..48.0  y; sheet 400.0 × 300.0; sheet 400.0 × 300.0;   40.0,56.7..47.1  z",
		},
		{
			"a forced break to recto", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}", "x<p style='break-after:recto'>y<p>z",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   40.0,76.7..48.0  y; sheet 400.0 × 300.0; sheet 400.0 × 300.0;   40.0,56.7..47.1  z",
		},
		{
			"turned pages", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page side{page-orientation:rotate-left}", "x<p style='page:side'>y",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x; sheet 400.0 × 300.0;   56.7,352.0..74.5  y",
		},
		{
			"bleed and marks", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{bleed:10px;marks:crop cross}", "x",
			"sheet 466.0 × 366.0;   73.0,73.7..81.0  x",
		},
		{
			"edges of a box with a width", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:50px;padding:0 30px 0 20px;margin:0 7px;text-align:right}@top-right{content:'b'}}", "x",
			"sheet 400.0 × 300.0;   109.9,10.7..117.0  a;   40.0,40.7..48.0  x;   352.0,10.7..360.0  b",
		},
		{
			"edges of boxes that share by contents", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a a';padding:0 30px 0 20px;text-align:right}@top-center{content:'m m';margin:0 12px 0 3px}@top-right{content:'b';border-left:9px solid;text-align:left}}", "x",
			"sheet 400.0 × 300.0;   112.8,10.7..131.1  a a;   40.0,40.7..48.0  x;   181.1,10.7..255.9  m m b",
		},
		{
			"edges of a box at the side with a height", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@left-top{content:'a';height:50px;padding:30px 0 10px;margin:7px 0;vertical-align:bottom}@left-bottom{content:'b';vertical-align:top}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   16.4,108.7..23.6  a;   16.0,143.7..24.0  b",
		},
		{
			"edges of boxes at the side that share by contents", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@right-top{content:'a';padding:30px 0 10px;margin:7px 0;vertical-align:bottom}@right-middle{content:'m';vertical-align:top}@right-bottom{content:'b';border-top:9px solid;vertical-align:top}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   376.4,102.5..383.6  a;   373.8,137.5..386.2  m;   376.0,171.0..384.0  b",
		},
		{
			"percentages of edges count from the side", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';padding-left:10%;width:20%}@left-top{content:'l';padding-top:10%;height:20%;vertical-align:top}}", "x",
			"sheet 400.0 × 300.0;   72.0,10.7..79.1  a;   17.8,43.7..22.2  l;   40.0,40.7..48.0  x",
		},
		{
			"more text than has room at the side", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@left-top{content:'a a a a a a a a a a a a a a a a';vertical-align:top}@left-bottom{content:'b b b b';vertical-align:bottom}}", "x",
			"sheet 400.0 × 300.0;   5.3,39.7..34.7  a a a;   40.0,40.7..48.0  x;   5.3,57.7..34.7  a a a;   5.3,75.7..34.7  a a a;   5.3,93.7..34.7  a a a;   5.3,111.7..34.7  a a a;   16.4,129.7..23.6  a;   4.0,223.7..36.0  b b b;   16.0,241.7..24.0  b",
		},
		{
			"a least width is seen", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';min-width:200px;text-align:right}@top-right{content:'b b b b b b b b b b b b b b'}}", "x",
			"sheet 400.0 × 300.0;   232.9,10.7..240.0  a;   40.0,40.7..48.0  x;   244.0,1.7..360.0  b b b b b b b b b b;   316.0,19.7..360.0  b b b b",
		},
		{
			"a least width in the middle", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';text-align:right}@top-center{content:'m';min-width:100px;text-align:left}@top-right{content:'b';text-align:left}}", "x",
			"sheet 400.0 × 300.0;   122.9,10.7..142.4  am;   40.0,40.7..48.0  x;   270.0,10.7..278.0  b",
		},
		{
			"a greatest width in the middle", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';text-align:right}@top-center{content:'m m m m m m';max-width:50px;text-align:left}@top-right{content:'b';text-align:left}}", "x",
			"sheet 400.0 × 300.0;   167.9,10.7..175.0  a;   40.0,40.7..48.0  x;   175.0,1.7..220.3  m m m;   225.0,10.7..233.0  b;   175.0,19.7..220.3  m m m",
		},
		{
			"the least width wins over the greatest", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:30px;max-width:20px;min-width:60px;text-align:right}@top-right{content:'b';text-align:left}}", "x",
			"sheet 400.0 × 300.0;   92.9,10.7..108.0  ab;   40.0,40.7..48.0  x",
		},
		{
			"a width with its edges", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';width:60px;padding:0 10px;box-sizing:border-box;text-align:right}@top-right{content:'b';text-align:left}}", "x",
			"sheet 400.0 × 300.0;   82.9,10.7..108.0  a b;   40.0,40.7..48.0  x",
		},
		{
			"a least height at the side", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@left-top{content:'a';min-height:150px;vertical-align:bottom}@left-bottom{content:'b';vertical-align:top}}", "x",
			"sheet 400.0 × 300.0;   40.0,40.7..48.0  x;   16.4,171.7..23.6  a;   16.0,189.7..24.0  b",
		},
		{
			"a greatest height across the side", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@top-left{content:'a';max-height:20px;margin-top:auto;vertical-align:top}@bottom-left{content:'b';max-height:20px;vertical-align:bottom}}", "x",
			"sheet 400.0 × 300.0;   40.0,19.7..47.1  a;   40.0,40.7..48.0  x;   40.0,261.7..48.0  b",
		},
		{
			"a greatest width across the side", "@page{size:400px 300px;margin:40px}body{margin:0;font:16px/20px serif}@page{@left-top{content:'a';max-width:20px;text-align:right}@right-top{content:'b';max-width:20px;margin-left:auto;text-align:left}}", "x",
			"sheet 400.0 × 300.0;   32.9,39.7..40.0  a;   40.0,40.7..48.0  x;   380.0,39.7..388.0  b",
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, pagesOf(t, "<!DOCTYPE html><title>x</title><style>"+c.sheet+"</style>"+c.html))
		})
	}
}
