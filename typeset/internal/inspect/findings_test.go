package inspect_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
)

// found sets a page of 300 by 200 px and lists what is told of it: its page, code, severity
// and words.
func found(t *testing.T, html string) string {
	t.Helper()
	html = "<!DOCTYPE html><html lang=en><title>x</title><style>@page { size: 340px 240px; margin: 20px } body { margin: 0; font: 15px/18px serif } p { margin: 0 }</style>" + html
	doc, err := typeset.Set(context.Background(), []byte(html), typeset.Options{}, &bytes.Buffer{})
	require.NoError(t, err)
	var list []string
	for _, f := range doc.Findings {
		list = append(list, fmt.Sprintf("%d %s %s: %s", f.Page, f.Code, f.Severity, f.Message))
	}
	return strings.Join(list, "; ")
}

// What is told of pages, and what is not.
func TestFindings(t *testing.T) {
	for _, c := range []struct{ name, html, want string }{
		{
			"nothing is off", "<p>Berth 12",
			"",
		},
		{
			"an empty page at the end", "<p>a<div style='break-before:page'><div style='height:5px'></div></div>",
			"2 page-empty warning: the last page is empty",
		},
		{
			"a background makes a page", "<p>a<div style='break-before:page;height:5px;background:red'></div>",
			"",
		},
		{
			"a picture makes a page", "<p>a<p style='break-before:page'><img alt=x src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVQImWNgYGDwAQAAUQBNt+pgmgAAAABJRU5ErkJggg==' width=5>",
			"",
		},
		{
			"a border makes a page", "<p>a<div style='break-before:page;height:5px;border:1px solid'></div>",
			"",
		},
		{
			"a border of no width does not", "<p>a<div style='break-before:page;height:5px;border:0 solid'></div>",
			"2 page-empty warning: the last page is empty",
		},
		{
			"a box that is seen leaves no gap", "<p>one<div style='height:120px;background:#ace'></div><p style='break-inside:avoid;height:100px'>kept",
			"",
		},
		{
			"nor does one with a border", "<p>one<div style='height:120px;border:solid #ace'></div><p style='break-inside:avoid;height:100px'>kept",
			"",
		},
		{
			"one that is not seen does", "<p>one<div style='height:120px;background:#fff'></div><p style='break-inside:avoid;height:100px'>kept",
			"1 gap note: the lower 91 % of the page are empty: <p>, which follows, is kept together by break-inside: avoid",
		},
		{
			"what stands on each page does not fill it", "<div style='position:fixed;bottom:0;height:30px;background:#ace'>foot</div><p>one<div style='height:120px;background:#fff'></div><p style='break-inside:avoid;height:100px'>kept",
			"1 gap note: the lower 91 % of the page are empty: <p>, which follows, is kept together by break-inside: avoid",
		},
		{
			"nor does a frame around all pages", "<section style='border:solid #ace'><p>one<div style='height:120px;'></div><p style='break-inside:avoid;height:100px'>kept</section>",
			"1 gap note: the lower 90 % of the page are empty: <p>, which follows, is kept together by break-inside: avoid",
		},
		{
			"a picture that is cut fills the page", "<p><svg width=50 height=500 role=img aria-label=tall></svg><p style='break-inside:avoid;height:100px'>kept",
			"",
		},
		{
			"a coarse picture", "<img alt=a src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVQImWNgYGDwAQAAUQBNt+pgmgAAAABJRU5ErkJggg==' width=60>",
			"1 picture-coarse warning: <img> has 2 dots an inch on paper; it looks blurred in print",
		},
		{
			"a coarse picture with a name", "<img alt=a id=hull src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVQImWNgYGDwAQAAUQBNt+pgmgAAAABJRU5ErkJggg==' width=100 height=50>",
			"1 picture-coarse warning: <img id=hull> has 1 dots an inch on paper; it looks blurred in print",
		},
		{
			"small pictures may be coarse", "<img alt=a src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVQImWNgYGDwAQAAUQBNt+pgmgAAAABJRU5ErkJggg==' width=47>",
			"",
		},
		{
			"a picture that is not seen", "<img alt=a src='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVQImWNgYGDwAQAAUQBNt+pgmgAAAABJRU5ErkJggg==' width=60 style='visibility:hidden'>",
			"",
		},
		{
			"a thin border", "<p style='border:.2px solid'>a",
			"1 line-thin note: a border of <p> is 0.15 pt thin; printers may drop it",
		},
		{
			"a border as thin as it may be", "<p style='border:.33px solid'>a",
			"",
		},
		{
			"thin borders are told once for each element", "<p class=a style='border:.2px solid'>a<p class=a style='border:.2px solid'>b<p class=b style='border-top:.1px solid'>c",
			"1 line-thin note: a border of <p class=a> is 0.15 pt thin; printers may drop it; 1 line-thin note: a border of <p class=b> is 0.08 pt thin; printers may drop it",
		},
		{
			"a joined border has two halves", "<table style='border-collapse:collapse'><td style='border:.4px solid'>a</table>",
			"",
		},
		{
			"and may be too thin", "<table style='border-collapse:collapse'><td style='border:.3px solid'>a</table>",
			"1 line-thin note: a border of <td> is 0.22 pt thin; printers may drop it",
		},
		{
			"faint text", "<p style='color:#eee'>a",
			"1 contrast-low warning: text in <p> can hardly be read: its contrast to what is behind it is 1.2 to 1",
		},
		{
			"text that can be read", "<p style='color:#999'>a",
			"",
		},
		{
			"text like what is behind it", "<p style='background:#333;color:#444'>a",
			"1 contrast-low warning: text in <p> can hardly be read: its contrast to what is behind it is 1.3 to 1",
		},
		{
			"what is behind the box around", "<div style='background:#000'><p style='color:#111'>a",
			"1 contrast-low warning: text in <p> can hardly be read: its contrast to what is behind it is 1.1 to 1",
		},
		{
			"pictures may be behind text", "<div style='background:linear-gradient(red,blue)'><p style='color:#eee'>a",
			"",
		},
		{
			"and half of a colour", "<div style='background:#fff8'><p style='color:#eee'>a",
			"",
		},
		{
			"positioned text may lie over anything", "<p style='position:absolute;color:#eee'>a",
			"",
		},
		{
			"unless it brings what is behind it", "<p style='position:absolute;color:#eee;background:#fff'>a",
			"1 contrast-low warning: text in <p> can hardly be read: its contrast to what is behind it is 1.2 to 1",
		},
		{
			"text that is not seen", "<p style='color:#eee;visibility:hidden'>a",
			"",
		},
		{
			"text that is no text any more", "<p style='opacity:0;color:#eee'>a",
			"",
		},
		{
			"letters filled another way", "<p style='-webkit-text-fill-color:#eee'>a",
			"1 contrast-low warning: text in <p> can hardly be read: its contrast to what is behind it is 1.2 to 1",
		},
		{
			"text cut at the bottom", "<div id=b style='height:20px;overflow:hidden'>a<br>b<br>c</div>",
			"1 content-cut warning: <div id=b> cuts 33 px of its text at the bottom",
		},
		{
			"text cut by less than is noticed", "<div style='height:33px;overflow:hidden;line-height:18px'>a<br>b</div>",
			"",
		},
		{
			"text cut at the side", "<div class=box style='width:60px;overflow:hidden;white-space:nowrap'>a long line of text</div>",
			"1 content-cut warning: <div class=box> cuts 46 px of its text at the side",
		},
		{
			"text that is to be shortened", "<div style='width:60px;overflow:hidden;white-space:nowrap;text-overflow:ellipsis'>a long line of text</div>",
			"",
		},
		{
			"lines that are to be limited", "<div style='height:20px;overflow:hidden;line-clamp:1'>a<br>b</div>",
			"",
		},
		{
			"boxes that hide what they hold", "<div style='height:1px;width:1px;overflow:hidden'>for reading aloud</div>",
			"",
		},
		{
			"text below the edge of its box", "<div style='height:20px;border:1px solid'>a<br>b<br>c</div>",
			"1 content-over warning: the text of <div> reaches 33 px below its edge",
		},
		{
			"without an edge it is not seen", "<div style='height:20px'>a<br>b<br>c</div>",
			"",
		},
		{
			"a percentage is no fixed height", "<div style='height:200px'><div style='height:5%;border:1px solid'>a<br>b<br>c</div></div>",
			"",
		},
		{
			"positioned contents may stand outside", "<div style='height:20px;border:1px solid;position:relative'><b style='position:absolute;top:30px'>a</b></div>",
			"",
		},
		{
			"text beside the sheet", "<p style='position:absolute;left:-300px;width:100px'>a b",
			"1 content-off warning: text of <p> stands 262 px beside the sheet and is not on paper",
		},
		{
			"text that is hidden there", "<p class=aloud style='position:absolute;left:-2000px;width:100px'>a b",
			"1 content-off note: text of <p class=aloud> stands 1962 px beside the sheet and is not on paper",
		},
		{
			"text above the sheet", "<p style='position:absolute;top:-100px'>a",
			"1 content-off warning: text of <p> stands 63 px beside the sheet and is not on paper",
		},
		{
			"text below the sheet is on none", "<p style='position:fixed;top:400px'>a",
			"1 content-off warning: text of <p> stands 181 px beside the sheet and is not on paper",
		},
		{
			"a box that is too wide", "<div style='width:500px;background:#eee;-olive-fit:none'>a</div>",
			"1 content-wide warning: <div> reaches 200 px beyond the page area",
		},
		{
			"a table whose columns are cut", "<table style='-olive-fit:none'><tr><td style='min-width:200px'>a<td style='min-width:200px'>b<td style='min-width:200px'>c</table>",
			"1 content-wide warning: <table> reaches 314 px beyond the page area; 2 of its columns cut or lost",
		},
		{
			"what scrolls is not", "<div style='width:500px;overflow:auto'>a</div>",
			"",
		},
		{
			"a gap", "<p>a<div style='height:60px'></div><div style='break-inside:avoid'><div style='height:200px'></div></div>",
			"1 gap note: the lower 91 % of the page are empty: <div>, which follows, is kept together by break-inside: avoid; 2 page-empty warning: the last page is empty",
		},
		{
			"a gap that is small", "<p>a<div style='height:120px'></div><p>x<div style='break-inside:avoid'><div style='height:200px'></div></div>",
			"2 page-empty warning: the last page is empty",
		},
		{
			"a gap before a picture", "<p>a<canvas style='height:220px;width:20px;display:block'></canvas>",
			"1 gap note: the lower 91 % of the page are empty: <canvas>, which follows, is taller than the room left; 0 alt-missing note: the picture “canvas” has no alternative text; a reader of the page aloud passes it over; 3 page-empty warning: the last page is empty",
		},
		{
			"a gap for what is kept with its neighbour", "<p>a<h2>b</h2><div style='break-before:avoid;break-inside:avoid'><div style='height:200px'></div></div>",
			"1 gap note: the lower 91 % of the page are empty: <h2>, which follows, is kept together by break-inside: avoid; 0 access-unclaimed note: the file does not say that it can be read aloud (PDF/UA-1): its first heading is <h2>",
		},
		{
			"a gap for what does not fit", "<p>a<table><tr><td><div style='break-inside:avoid'><div style='height:200px'></div></div></table>",
			"1 gap note: the lower 91 % of the page are empty: <table>, which follows, does not fit; 0 row-tall warning: a row of a table is taller than its page and goes on over the next; 3 page-empty warning: the last page is empty",
		},
		{
			"a forced break makes no gap", "<p>a<p style='break-before:page'>b",
			"",
		},
		{
			"a heading alone", "<p>a<div style='height:120px'></div><h2 style='break-after:auto;margin:0'>Heading</h2><div style='break-inside:avoid'><div style='height:100px'></div></div>",
			"1 heading-alone warning: the heading <h2> stands alone at the foot of the page; 2 page-empty warning: the last page is empty; 0 access-unclaimed note: the file does not say that it can be read aloud (PDF/UA-1): its first heading is <h2>",
		},
		{
			"a heading that stands alone on purpose", "<p>a<div style='height:120px'></div><h2 style='margin:0;break-after:page'>Heading</h2><p>b",
			"0 access-unclaimed note: the file does not say that it can be read aloud (PDF/UA-1): its first heading is <h2>",
		},
		{
			"a heading high up", "<h2 style='break-after:auto;margin:0'>Heading</h2><div style='break-inside:avoid'><div style='height:195px'></div></div>",
			"1 gap note: the lower 91 % of the page are empty: <div>, which follows, is kept together by break-inside: avoid; 2 page-empty warning: the last page is empty; 0 access-unclaimed note: the file does not say that it can be read aloud (PDF/UA-1): its first heading is <h2>",
		},
		{
			"most of a kind", "<p class=c0 style='margin:0;font-size:9px;color:#eee'>a<p class=c1 style='margin:0;font-size:9px;color:#eee'>a<p class=c2 style='margin:0;font-size:9px;color:#eee'>a<p class=c3 style='margin:0;font-size:9px;color:#eee'>a<p class=c4 style='margin:0;font-size:9px;color:#eee'>a<p class=c5 style='margin:0;font-size:9px;color:#eee'>a<p class=c6 style='margin:0;font-size:9px;color:#eee'>a<p class=c7 style='margin:0;font-size:9px;color:#eee'>a<p class=c8 style='margin:0;font-size:9px;color:#eee'>a<p class=c9 style='margin:0;font-size:9px;color:#eee'>a",
			"1 contrast-low warning: text in <p class=c0> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c1> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c2> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c3> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c4> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c5> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c6> can hardly be read: its contrast to what is behind it is 1.2 to 1; 1 contrast-low warning: text in <p class=c7> can hardly be read: its contrast to what is behind it is 1.2 to 1",
		},
		{
			"notes are not empty room", "<p>a<span style='float:footnote'>the note</span>",
			"",
		},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, found(t, c.html)) })
	}
}

// endings sets pages as found does and tells why each ends, and what would end it elsewhere.
func endings(t *testing.T, html string) (list []string) {
	t.Helper()
	html = "<!DOCTYPE html><html lang=en><title>x</title><style>@page { size: 340px 240px; margin: 20px } body { margin: 0; font: 15px/18px serif } p { margin: 0 }</style>" + html
	doc, err := typeset.Set(context.Background(), []byte(html), typeset.Options{TraceBreaks: true}, &bytes.Buffer{})
	require.NoError(t, err)
	for _, f := range doc.Frames {
		list = append(list, fmt.Sprintf("at %.0f: %s (%s)", f.End, f.Break.Message, f.Break.Advice))
	}
	return list
}

// Why pages end where they do.
func TestEndings(t *testing.T) {
	for _, c := range []struct {
		name, html string
		want       []string
	}{
		{"a page that is full", "<p>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>a<br>", []string{"at 218: the page is full; <p> goes on after its line 11 (orphans and widows say how many lines stay together)", "at 218: the page is full; <p> goes on after its line 22 (orphans and widows say how many lines stay together)", "at 56:  ()"}},
		{"a forced break", "<p>a<p class=b style='break-before:page'>b", []string{"at 38: a forced break before <p class=b> (its break-before or page, or the break-after of what stands before, asks for it)", "at 38:  ()"}},
		{"a box that is kept whole", "<p>a<div style='height:100px'></div><div id=k style='break-inside:avoid'><div style='height:150px'></div></div>", []string{"at 38: <div id=k>, which follows, is kept together by break-inside: avoid; it is 150 px tall, 68 px more than was left (allow a break inside it when the gap is too large)", "at 20:  ()"}},
		{"one that can be cut", "<p>a<div style='height:100px'></div><div id=k><div style='height:190px'></div></div>", []string{"at 38:  ()"}},
		{"a picture", "<p>a<canvas id=c style='display:block;height:190px;width:10px'></canvas>", []string{"at 38: <canvas id=c>, which follows, is taller than the room left; it is 190 px tall, 8 px more than was left (show it smaller, or let text stand before it)", "at 210:  ()"}},
		{"a heading goes on with its text", "<p>a<div style='height:140px'></div><h2 style='margin:0'>b</h2><p id=t>c<br>d<br>e<br>f", []string{"at 38: <h2>, which follows, is kept together by break-inside: avoid (allow a break inside it when the gap is too large)", "at 110:  ()"}},
		{"the last page", "<p>a", []string{"at 38:  ()"}},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, endings(t, c.html)) })
	}
}
