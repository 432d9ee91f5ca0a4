package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/box"
)

// laidOut sets all pages of a document on sheets of a size.
func laidOut(t *testing.T, l *Layout, root *box.Box, w, h float64) (pages []*Fragment) {
	t.Helper()
	l.Viewport = [2]float64{w, h}
	fixed, at, late := Fixed(root), FixedPlaces{}, Leftover{}
	for from := (*Break)(nil); ; {
		require.Less(t, len(pages), 200)
		page, rest := l.LayPage(root, w, h, 0, 0, from)
		require.NotNil(t, page)
		l.PutLate(page, &late, h)
		page.Fix(fixed, at)
		l.SettleAll(page, w, h)
		late.Take(page)
		pages = append(pages, page)
		switch from = rest; {
		case rest == nil && late.Empty():
			return pages
		case rest == nil:
			from = Nothing(root)
		}
	}
}

// dumpPages sets pages of 400 by 100 px and describes their boxes that have an id.
func dumpPages(t *testing.T, html string) (pages []string) {
	t.Helper()
	l, root := tree(t, html, "body { margin: 0 } .row::after { content: ''; display: table; clear: both }")
	for _, page := range laidOut(t, l, root, 400, 100) {
		pages = append(pages, strings.ReplaceAll(strings.TrimSpace(dump(page)), "\n", "; "))
	}
	return pages
}

// TestPages: what ordinary documents ask of a page's end.
func TestPages(t *testing.T) {
	for _, c := range []struct {
		name, html string
		want       []string
	}{
		{"what clears a float waits on the page where it ends (CSS 2.2, §9.5)", `<div class=row><div id=a style="float:left;width:50px;height:250px"></div></div><div id=b style="height:10px"></div>`, []string{"a 0,0 50×100", "a 0,0 50×100", "a 0,0 50×50; b 0,50 400×10"}},
		{"so does what stands in another box", `<div><div id=a style="float:left;width:50px;height:150px"></div></div><div><div id=b style="clear:left;height:10px"></div></div>`, []string{"a 0,0 50×100", "a 0,0 50×50; b 0,50 400×10"}},
		{"two columns made by floats", `<div id=h style="height:60px"></div><div class=row><div id=a style="float:left;width:50px;height:150px"></div><div id=b style="float:right;width:50px;height:30px"></div></div><div id=c style="height:10px"></div>`, []string{"h 0,0 400×60; a 0,60 50×40; b 350,60 50×30", "a 0,0 50×100", "a 0,0 50×10; c 0,10 400×10"}},
		{"a float that is to stay whole takes no page for itself", `<div style="padding-top:10px"><div id=a style="float:left;width:50px"><div id=b style="break-inside:avoid"><div style="height:60px"></div><div style="height:60px"></div></div></div></div>`, []string{"a 0,10 50×90; b 0,10 50×90", "a 0,0 50×30; b 0,0 50×30"}},
		{"a forced break inside a flex item (Break 3, §3.1)", `<div style="display:flex"><div id=a style="width:50px"><div id=b style="height:10px;break-after:page"></div><div id=c style="height:10px"></div></div><div id=d style="width:50px"></div></div>`, []string{"a 0,0 50×100; b 0,0 50×10; d 50,0 50×100", "a 0,0 50×10; c 0,0 50×10; d 50,0 50×10"}},
		{"inside a grid item", `<div style="display:grid"><div><div id=a style="height:10px"></div><div id=b style="height:10px;break-before:page"></div></div></div>`, []string{"a 0,0 400×10", "b 0,0 400×10"}},
		{"inside a float", `<div style="float:left;width:50px"><div id=a style="height:10px;break-after:page"></div><div id=b style="height:10px"></div></div>`, []string{"a 0,0 50×10", "b 0,0 50×10"}},
		{"inside a box in a line", `<div style="line-height:0"><span style="display:inline-block;width:50px"><div id=a style="height:10px;break-after:page"></div><div id=b style="height:10px"></div></span></div>`, []string{"a 0,0 50×10", "b 0,0 50×10"}},
		{"in what is to stay whole", `<div style="break-inside:avoid"><div id=a style="height:10px;break-after:page"></div><div id=b style="height:10px"></div></div>`, []string{"a 0,0 400×10", "b 0,0 400×10"}},
		{"after any item of a grid's last row", `<div style="display:grid;grid-template-columns:50px 50px"><div id=a style="height:10px;break-after:page"></div><div id=b></div></div><div id=c style="height:10px"></div>`, []string{"a 0,0 50×10; b 50,0 50×10", "c 0,0 400×10"}},
		{"inside columns it ends the page", `<div style="columns:2;column-gap:0"><div id=a style="height:10px;break-after:page"></div><div id=b style="height:10px"></div></div>`, []string{"a 0,0 200×10", "b 0,0 200×5; b 200,0 200×5"}},
		{"a row of columns that has no room left begins the next page (Multi-column 2, §3.3)", `<div style="columns:2;column-fill:auto;column-height:60px;gap:10px 0"><div id=a style="height:200px"></div></div><div id=b style="height:10px"></div>`, []string{"a 0,0 200×60; a 200,0 200×60", "a 0,0 200×60; a 200,0 200×20; b 0,60 400×10"}},
		{"a box that is nothing makes no page", `<div id=a style="height:10px;break-after:page"></div><div style="clear:both"></div><div id=b style="height:10px;break-before:page"></div><div></div>`, []string{"a 0,0 400×10", "b 0,0 400×10"}},
		{"unless it is a place to lead to, which stands with what follows", `<div id=a style="height:10px;break-after:page"></div><div id=x></div><div id=b style="height:10px"></div>`, []string{"a 0,0 400×10", "x 0,0 400×0; b 0,0 400×10"}},
		{"an item below its row's top is not lost", `<div style="display:grid"><div id=a style="margin:40px 0"><div id=b style="height:10px;break-after:page"></div><div id=c style="height:10px"></div></div></div>`, []string{"a 0,40 400×60; b 0,40 400×10", "a 0,0 400×10; c 0,0 400×10"}},
		{"a stretched neighbour grows with its row", `<div style="display:flex"><div id=a style="width:50px"></div><div style="width:50px"><div id=b style="height:80px;break-inside:avoid"></div><div id=c style="height:60px;break-inside:avoid"></div></div></div>`, []string{"a 0,0 50×100; b 50,0 50×80", "a 0,0 50×60; c 50,0 50×60"}},
		{"one that has ended goes on, too", `<div style="display:grid;grid-template-columns:50px 50px"><div id=a></div><div id=b><div style="height:50px"></div><div id=c style="height:60px;break-inside:avoid"></div></div></div>`, []string{"a 0,0 50×100; b 50,0 50×100", "a 0,0 50×60; b 50,0 50×60; c 50,0 50×60"}},
		{"a margin at the end of an item takes no page", `<div style="display:grid"><div id=a><div id=b style="height:90px;margin-bottom:30px"></div></div></div>`, []string{"a 0,0 400×100; b 0,0 400×90"}},
		{"a heading in a flex column", `<div style="height:70px"></div><div style="display:flex;flex-direction:column;gap:10px"><div id=a style="height:5px"></div><div id=b style="height:10px;break-after:avoid"></div><div id=c style="height:20px"></div></div>`, []string{"a 0,70 400×5", "b 0,0 400×10; c 0,20 400×20"}},
		{"a cell over rows is cut beside them", `<table style="border-spacing:0;width:100px"><tr><td id=a rowspan=2 style="padding:0;width:50px"><div style="height:130px"></div></td><td id=b style="padding:0;height:20px"></td></tr><tr><td id=c style="padding:0;height:20px"></td></tr></table>`, []string{"a 0,0 50×100; b 50,0 50×20; c 50,20 50×80", "a 0,0 50×30; c 50,0 50×30"}},
		{"a table's head does not stand alone", `<div id=h style="height:60px"></div><table style="border-spacing:0"><thead><tr><th id=a style="padding:0;height:20px;width:50px"></th></tr></thead><tr style="break-inside:avoid"><td id=b style="padding:0"><div style="height:60px"></div></td></tr></table>`, []string{"h 0,0 400×60", "a 0,0 50×20; b 0,20 50×60"}},
		{"a scroll container taller than a page is cut", `<div id=a style="overflow:auto;height:130px"><div id=b style="height:60px"></div><div id=c style="height:60px;break-inside:avoid"></div></div>`, []string{"a 0,0 400×100; b 0,0 400×60", "a 0,0 400×60; c 0,0 400×60"}},
		{"one that has room on a page stays whole", `<div style="height:60px"></div><div id=a style="overflow:auto;height:90px"><div style="height:150px"></div></div>`, []string{"", "a 0,0 400×90"}},
		{"what floats after a box that ends its page goes on with what follows", `<div id=a style="height:10px;break-after:page"></div><div id=b style="float:left;width:50px;height:10px"></div><div id=c style="height:20px;margin-top:30px"></div>`, []string{"a 0,0 400×10", "b 0,0 50×10; c 0,30 400×20"}},
		{"also when nothing follows it", `<div id=a style="height:10px;break-after:page"></div><div id=b style="float:left;width:50px;height:10px"></div>`, []string{"a 0,0 400×10", "b 0,0 50×10"}},
		{"and inside a box, which does not end its page once more", `<div><div><div id=a style="height:10px;break-after:page"></div><div id=b style="float:left;width:50px;height:10px"></div></div></div><div id=c style="height:20px"></div>`, []string{"a 0,0 400×10", "b 0,0 50×10; c 0,0 400×20"}},
		{"and inside a box that is laid out whole first", `<div style="display:flex"><div style="width:100px"><div id=a style="height:10px;break-after:page"></div><div id=b style="float:left;width:50px;height:10px"></div></div></div>`, []string{"a 0,0 100×10", "b 0,0 50×10"}},
		{"what is positioned where the flow stands goes on, too", `<div id=a style="height:10px;break-after:page"></div><div id=b style="position:absolute;width:50px;height:10px"></div><div id=c style="height:20px"></div>`, []string{"a 0,0 400×10", "c 0,0 400×20; b 0,0 50×10"}},
		{"but no page is made for what stands elsewhere", `<div id=a style="height:10px;break-after:page"></div><div id=b style="position:absolute;top:5px;width:50px;height:10px"></div><div id=c style="position:fixed;bottom:0;width:50px;height:10px"></div>`, []string{"a 0,0 400×10; b 0,5 50×10; c 0,90 50×10"}},
		{"columns go on likewise", `<div style="columns:2;column-gap:0;width:200px;height:50px;column-fill:auto"><div id=a style="height:10px;break-after:column"></div><div id=b style="float:left;width:50px;height:10px"></div></div>`, []string{"a 0,0 100×10; b 100,0 50×10"}},
		{"a lower edge of which nothing is seen ends with the page", `<div id=a style="padding-bottom:30px"><div id=b style="height:50px"></div><div id=c style="height:40px"></div></div><div id=d style="height:10px"></div>`, []string{"a 0,0 400×100; b 0,0 400×50; c 0,50 400×40", "d 0,0 400×10"}},
		{"one that is seen takes what is before it along", `<div id=a style="padding-bottom:30px;background:#eee"><div id=b style="height:50px"></div><div id=c style="height:40px;break-inside:avoid"></div></div><div id=d style="height:10px"></div>`, []string{"a 0,0 400×100; b 0,0 400×50", "a 0,0 400×70; c 0,0 400×40; d 0,70 400×10"}},
		{"an unseen edge of a flex container", `<div id=a style="display:flex;flex-direction:column;padding-bottom:30px"><div id=b style="height:50px"></div><div id=c style="height:40px"></div></div><div id=d style="height:10px"></div>`, []string{"a 0,0 400×100; b 0,0 400×50; c 0,50 400×40", "d 0,0 400×10"}},
		{"of a table, with the space below its last row", `<table id=a style="border-spacing:0 8px;width:100px;padding-bottom:5px"><tr><td id=b style="padding:0;height:40px"></td></tr><tr><td id=c style="padding:0;height:40px"></td></tr></table><div id=d style="height:10px"></div>`, []string{"a 0,0 100×100; b 0,8 100×40; c 0,56 100×40", "d 0,0 400×10"}},
		{"a cell keeps its edge with its last line", `<table style="border-spacing:0;width:100px"><tr><td id=a style="padding:0 0 30px"><div id=b style="height:50px"></div><div id=c style="height:40px;break-inside:avoid"></div></td></tr></table>`, []string{"a 0,0 100×100; b 0,0 100×50", "a 0,0 100×70; c 0,0 100×40"}},
		{"where a table goes on, no space stands above its rows", `<table style="border-spacing:0 8px;width:100px"><tr><td id=a style="padding:0;height:60px"></td></tr><tr><td id=b style="padding:0;height:40px"></td></tr></table>`, []string{"a 0,8 100×60", "b 0,0 100×40"}},
		{"nor above a head that it repeats", `<table style="border-spacing:0 8px;width:100px"><thead><tr><th id=h style="padding:0;height:10px"></th></tr></thead><tr><td id=a style="padding:0;height:50px"></td></tr><tr><td id=b style="padding:0;height:40px"></td></tr></table>`, []string{"h 0,8 100×10; a 0,26 100×50", "h 0,0 100×10; b 0,18 100×40"}},
		{"but within edges that each part has", `<table style="border-spacing:0 8px;width:100px;box-decoration-break:clone"><tr><td id=a style="padding:0;height:60px"></td></tr><tr><td id=b style="padding:0;height:40px"></td></tr></table>`, []string{"a 0,8 100×60", "b 0,8 100×40"}},
		{"cells in the middle or at the end of a row stand at its top when it is cut", `<div style="height:60px"></div><table style="border-spacing:0;width:90px"><tr><td style="padding:0;vertical-align:middle"><div id=a style="height:10px"></div></td><td style="padding:0;vertical-align:bottom"><div id=b style="height:10px"></div></td><td style="padding:0"><div id=c style="height:70px"></div></td></tr></table>`, []string{"a 0,60 30×10; b 30,60 30×10; c 60,60 30×40", "c 60,0 30×30"}},
		{"a row grows beside what stands in the next one, too", `<div style="display:grid;grid-template-columns:50px 50px"><div id=a><div id=b style="height:60px;break-inside:avoid"></div><div id=c style="height:60px;break-inside:avoid"></div></div><div id=s style="grid-row:span 2"></div><div id=d style="height:10px"></div></div>`, []string{"a 0,0 50×100; b 0,0 50×60; s 50,0 50×100", "a 0,0 50×60; c 0,0 50×60; s 50,0 50×70; d 0,60 50×10"}},
		{"what follows waits for what stands in both", `<div style="display:grid;grid-template-columns:50px 50px"><div id=a style="height:60px"></div><div id=s style="grid-row:span 2"><div style="height:60px"></div><div id=c style="height:60px;break-inside:avoid"></div></div><div id=d style="height:60px"></div><div id=e style="height:10px"></div></div>`, []string{"a 0,0 50×60; s 50,0 50×100; d 0,60 50×40", "s 50,0 50×60; c 50,0 50×60; d 0,0 50×20; e 0,60 50×10"}},
		{"columns that are to stay together go to the next page (Break 3, §3.2)", `<div id=h style="height:60px"></div><div style="columns:2;column-gap:0;break-inside:avoid;width:100px"><div id=a style="height:140px"></div></div>`, []string{"h 0,0 400×60", "a 0,0 50×70; a 50,0 50×70"}},
		{"those that are taller than a page are cut", `<div id=h style="height:60px"></div><div style="columns:2;column-gap:0;break-inside:avoid;width:100px"><div id=a style="height:240px"></div></div>`, []string{"h 0,0 400×60", "a 0,0 50×100; a 50,0 50×100", "a 0,0 50×20; a 50,0 50×20"}},
		{"columns in a column stay together", `<div style="columns:2;column-gap:0;width:100px"><div style="columns:2;column-gap:0;break-inside:avoid"><div id=a style="height:60px"></div></div></div>`, []string{"a 0,0 25×30; a 25,0 25×30"}},
		{"and are cut where the page's end alone counts", `<div style="columns:2;column-gap:0;width:100px"><div style="columns:2;column-gap:0;break-inside:avoid-page"><div id=a style="height:60px"></div></div></div>`, []string{"a 0,0 25×15; a 25,0 25×15; a 50,0 25×15; a 75,0 25×15"}},
		{"a caption that is to stay whole", `<div id=h style="height:60px"></div><table style="border-spacing:0;width:50px"><caption id=a style="break-inside:avoid"><div style="height:30px"></div><div style="height:30px"></div></caption><tr><td id=b style="padding:0;height:10px"></td></tr></table>`, []string{"h 0,0 400×60", "a 0,0 50×60; b 0,60 50×10"}},
		{"a table that is to stay whole goes on with its captions", `<div id=h style="height:60px"></div><table style="border-spacing:0;width:50px;break-inside:avoid"><caption id=a style="caption-side:bottom"><div style="height:20px"></div></caption><tr><td id=b style="padding:0;height:40px"></td></tr></table>`, []string{"h 0,0 400×60", "b 0,0 50×40; a 0,40 50×20"}},
		{"a row goes to the next page rather than leaving fewer lines together than is asked for", `<div id=h style="height:70px"></div><table style="border-spacing:0;width:50px"><tr><td id=a style="padding:0;font:10px/20px sans-serif">x<br>y</td></tr></table>`, []string{"h 0,0 400×70", "a 0,0 50×40"}},
		{"unless that gains nothing", `<table style="border-spacing:0;width:50px"><tr><td id=a style="padding:0;font:10px/60px sans-serif">x<br>y</td></tr></table>`, []string{"a 0,0 50×100", "a 0,0 50×60"}},
		{"a forced break before what spans columns is taken", `<div style="columns:2;column-gap:0;width:100px"><div id=a style="height:20px"></div><div id=b style="column-span:all;break-before:page;height:10px"></div><div id=c style="height:20px"></div></div>`, []string{"a 0,0 50×20", "b 0,0 100×10; c 0,10 50×10; c 50,10 50×10"}},
		{"a gap goes on over the end of a page, as a margin of items does", `<div style="display:flex;flex-wrap:wrap;gap:10px"><div id=a style="width:100%;height:95px"></div><div id=b style="width:50px;height:20px"></div></div>`, []string{"a 0,0 400×95", "b 0,5 50×20"}},
		{"a negative margin leaves what stands above", `<div id=a style="height:10px"></div><div id=b style="margin-top:-150px;height:10px"></div>`, []string{"a 0,0 400×10; b 0,-140 400×10"}},
		{"fixed boxes repeat where they occur (CSS Position 3, §2.1)", `<div style="height:20px"></div><div id=a style="position:fixed;width:10px;height:5px"></div><div style="height:10px;break-after:page"></div><div id=b style="height:10px"></div>`, []string{"a 0,20 10×5", "b 0,0 400×10; a 0,20 10×5"}},
		{"the last item stays with its container's edge", `<div style="display:flex;flex-direction:column;border-bottom:10px solid"><div id=a style="height:50px"></div><div id=b style="height:30px;margin-bottom:15px;break-inside:avoid"></div></div>`, []string{"a 0,0 400×50", "b 0,0 400×30"}},
		{"a row's margin ends with its page, for its stretched neighbours, too", `<div style="display:flex"><div id=a style="border:1px solid;width:50px"></div><div id=b style="width:50px;height:90px;margin-bottom:20px"></div></div>`, []string{"a 0,0 52×100; b 52,0 50×90"}},
		{"avoid-page keeps whole what avoid does (Break 3, §3.2)", `<div style="height:60px"></div><div id=a style="min-height:50px;break-inside:avoid-page"><div id=b style="height:5px"></div></div>`, []string{"", "a 0,0 400×50; b 0,0 400×5"}},
		{"also in a flex row", `<div style="height:60px"></div><div style="display:flex;align-items:flex-start"><div id=a style="width:50px;min-height:50px;break-inside:avoid-page"><div style="height:5px"></div></div></div>`, []string{"", "a 0,0 50×50"}},
		{"avoid-column does not matter on a page", `<div style="height:60px"></div><div id=a style="min-height:50px;break-inside:avoid-column"><div id=b style="height:5px"></div></div>`, []string{"a 0,60 400×40; b 0,60 400×5", "a 0,0 400×10"}},
		{"the last child stays with the edge of its item", `<div style="display:grid"><div id=a style="border-bottom:10px solid"><div id=b style="height:50px"></div><div id=c style="height:45px;break-inside:avoid"></div></div></div>`, []string{"a 0,0 400×100; b 0,0 400×50", "a 0,0 400×55; c 0,0 400×45"}},
		{"below a float what finds no room goes on, margins around or not", `<div style="margin-top:8px"><div id=a style="float:left;width:50px;height:70px"></div><div style="clear:both"></div><div id=b style="height:30px;break-inside:avoid"></div></div>`, []string{"a 0,8 50×70", "b 0,0 400×30"}},
		{"so it does on the page where the float ends", `<div id=a style="float:left;width:50px;height:170px"></div><div style="clear:both"></div><div id=b style="height:40px;break-inside:avoid"></div>`, []string{"a 0,0 50×100", "a 0,0 50×70", "b 0,0 400×40"}},
		{"a float's margin ends with its page and moves nothing on (Break 4, §5.2)", `<div class=row><div id=a style="float:left;width:50px;height:90px;margin:5px 0 20px"></div></div>`, []string{"a 0,5 50×90"}},
		{"a row ends where its contents do, of which the page's end has taken a margin", `<div id=r style="display:flex"><div id=a style="width:50px"></div><div id=b style="width:50px"><div style="height:80px;margin-bottom:40px"></div><div id=c style="height:30px"></div></div></div><div id=d style="height:10px"></div>`, []string{"r 0,0 400×100; a 0,0 50×100; b 50,0 50×100", "r 0,0 400×30; a 0,0 50×30; b 50,0 50×30; c 50,0 50×30; d 0,30 400×10"}},
		{"unless a height is asked of it", `<div id=r style="display:flex;height:150px"><div id=a style="width:50px"><div style="height:80px;margin-bottom:40px"></div><div id=c style="height:10px"></div></div></div>`, []string{"r 0,0 400×100; a 0,0 50×100", "r 0,0 400×50; a 0,0 50×50; c 0,0 50×10"}},
		{"a row ends with the padding of its tallest item where nothing is seen of that", `<div style="display:grid;grid-template-columns:50px 50px"><div id=a style="padding-bottom:20px"><div style="height:90px"></div></div><div id=b style="border-bottom:1px solid"></div></div><div id=c style="height:10px"></div>`, []string{"a 0,0 50×100; b 50,0 50×100", "c 0,0 400×10"}},
		{"rows below come after it", `<div style="display:grid;grid-template-columns:50px"><div id=a><div style="height:80px;margin-bottom:40px"></div><div style="height:30px"></div></div><div id=b style="height:10px"></div></div>`, []string{"a 0,0 50×100", "a 0,0 50×30; b 0,30 50×10"}},
		{"beside a float a container keeps its width on the pages that it goes on over", `<div style="float:left;width:100px;height:20px"></div><div id=a style="display:flex"><div id=b style="flex:1;height:130px"></div></div>`, []string{"a 100,0 300×100; b 100,0 300×100", "a 0,0 300×30; b 0,0 300×30"}},
		{"room that a neighbour has made is not kept together for its margin's sake", `<div style="margin-top:5px;display:grid;grid-template-columns:50px 50px"><div id=a style="break-inside:avoid;margin-top:4px"><div style="height:5px"></div></div><div id=b style="height:100px"></div></div>`, []string{"a 0,9 50×91; b 50,5 50×95", "a 0,0 50×0; b 50,0 50×5"}},
		{"no page is made for an empty item after a forced break", `<div style="display:flex;flex-direction:column"><div id=a style="height:10px;break-after:page"></div><div></div></div>`, []string{"a 0,0 400×10"}},
		{"a positioned box stands on the page of its place, wherever it occurs (Break 4, §2)", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div id=a style="position:absolute;width:10px;height:5px;top:20px;right:0"></div></div>`, []string{"a 390,20 10×5", ""}},
		{"also when it stands further down than a page is long", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div style="height:90px"></div><div style="height:90px"></div><div id=a style="position:absolute;width:10px;height:5px;top:120px;left:0"></div></div>`, []string{"", "a 0,20 10×5", "", ""}},
		{"where it occurs when it does not say how far down it stands", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div id=a style="position:absolute;width:10px;height:5px;left:0"></div></div>`, []string{"", "a 0,80 10×5"}},
		{"above the bottom of the last part, although it occurs in the first", `<div style="position:relative"><div id=a style="position:absolute;width:10px;height:5px;bottom:0;left:0"></div><div style="height:90px"></div><div style="height:90px"></div></div>`, []string{"", "a 0,75 10×5"}},
		{"at the top of the last part when that is too short", `<div style="position:relative"><div id=a style="position:absolute;width:10px;height:5px;bottom:0;height:95px"></div><div style="height:90px"></div><div style="height:90px"></div></div>`, []string{"", "a 0,0 10×95"}},
		{"percentages are of all parts", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div id=a style="position:absolute;width:10px;top:10%;height:10%;left:0"></div></div>`, []string{"a 0,18 10×18", ""}},
		{"between top and bottom it goes on over the pages", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div id=a style="position:absolute;width:10px;inset:10px auto 10px 0"></div></div>`, []string{"a 0,10 10×90", "a 0,0 10×70"}},
		{"from left to right it stands where it would have", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div style="padding-left:30px"><div id=a style="position:absolute;width:10px;height:5px;top:0"></div></div></div>`, []string{"a 30,0 10×5", ""}},
		{"in what is transformed fixed boxes do as well", `<div style="transform:scale(1)"><div style="height:90px"></div><div style="height:90px"></div><p style="position:relative"><i id=a style="position:fixed;width:10px;height:5px;top:0;left:0"></i></p></div>`, []string{"a 0,0 10×5", ""}},
		{"a nearer containing block has its own", `<div style="position:relative"><div style="height:90px"></div><div style="height:90px"></div><div style="position:relative"><div id=a style="position:absolute;width:10px;height:5px;top:0;left:0"></div></div></div>`, []string{"", "a 0,80 10×5"}},
		{"in a grid", `<div style="display:grid;position:relative"><div style="height:90px"></div><div style="height:90px"></div><section style="position:static"><div id=a style="position:absolute;width:10px;height:5px;top:20px;left:0"></div><div id=b style="position:absolute;width:10px;height:5px;bottom:20px;left:0"></div></section></div>`, []string{"a 0,20 10×5", "b 0,55 10×5"}},
		{"in a table", `<table style="border-spacing:0;position:relative"><tr><td style="padding:0;width:50px"><div style="height:90px"></div><div style="height:90px"></div><tr><td style="padding:0"><div id=a style="position:absolute;width:10px;height:5px;top:20px;left:0"></div><div id=b style="position:absolute;width:10px;height:5px;bottom:20px;left:0"></div></table>`, []string{"a 0,20 10×5", "b 0,55 10×5"}},
		{"a line break that clears waits on the page where the float ends (CSS 2.2, §9.5.2)", `<div style="float:left;width:50px;height:150px"></div><p id=a style="margin:0;font:10px/20px serif">x<br clear=all><i id=b style="display:inline-block;width:5px;height:5px"></i></p>`, []string{"a 0,0 400×100", "a 0,0 400×70; b 0,58 5×5"}},
		{"so does the end of its block", `<div id=a><div style="float:left;width:50px;height:150px"></div>x<br clear=left></div><div id=b style="height:10px"></div>`, []string{"a 0,0 400×100", "a 0,0 400×50; b 0,50 400×10"}},
		{"an inline box around what is cut in its line is on both pages", `<span><i id=a style="display:inline-block;width:5px"><b id=b style="display:block;height:150px"></b></i></span>`, []string{"a 0,0 5×100; b 0,0 5×100", "a 0,0 5×50; b 0,0 5×50"}},
		{"an item with a negative margin goes on where it is", `<div style="display:flex;height:175px"><div style="width:10px"></div><div id=a style="margin-top:-4px"><div style="display:flex;flex-wrap:wrap;width:50px"><b style="width:50px;height:24px"></b><b id=b style="width:50px;break-inside:avoid"><i style="display:block;height:60px"></i><i style="display:block;height:60px"></i></b></div></div></div>`, []string{"a 10,-4 50×104", "a 10,0 50×100; b 10,0 50×100", "a 10,0 50×20; b 10,0 50×20"}},
		{"nor for one that stands below the page's end", `<div style="display:flex;flex-direction:column;gap:8px;padding-bottom:12px"><div id=a style="height:95px"></div><div style="clear:both"></div></div><div id=b style="break-before:page;height:10px"></div>`, []string{"a 0,0 400×95", "b 0,0 400×10"}},
		{"what is positioned in a box that clips goes on with it and no further", `<div style="position:relative;overflow:hidden;height:150px"><div id=a style="position:absolute;top:20px;width:10px;height:500px"></div></div><div id=b style="height:10px"></div>`, []string{"a 0,20 10×80", "a 0,0 10×420; b 0,50 400×10"}},
		{"also when the box around that clips", `<div style="overflow:hidden;height:150px"><div style="position:relative"><div id=a style="position:absolute;top:120px;width:10px;height:500px"></div></div></div>`, []string{"", "a 0,20 10×500"}},
		{"what is positioned in a box that does not goes on", `<div style="position:relative;height:50px"><div id=a style="position:absolute;width:10px;height:150px"></div></div>`, []string{"a 0,0 10×100", "a 0,0 10×50"}},
		{"the break stands before the item that follows", `<div style="display:flex;flex-direction:column"><div id=a style="height:10px;break-after:page"></div><div></div><div id=b style="height:10px"></div></div>`, []string{"a 0,0 400×10", "b 0,0 400×10"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, dumpPages(t, c.html))
		})
	}
}

// TestItemsBeginAnewOnAWiderPage: a wrapping container does not keep the places of items
// that narrower pages have set.
func TestItemsBeginAnewOnAWiderPage(t *testing.T) {
	l, root := tree(t, `<div style="display:flex;flex-wrap:wrap">`+strings.Repeat(`<i style="width:100px;height:90px"></i>`, 3)+`<i id=a style="width:100px;height:90px"></i><i id=b style="width:100px;height:90px"></i></div>`, "body { margin: 0 }")
	_, rest := l.LayPage(root, 200, 100, 0, 0, nil)
	require.NotNil(t, rest)
	page, rest := l.LayPage(root, 600, 100, 0, 0, rest)
	assert.Nil(t, rest)
	assert.Equal(t, "a 100,0 100×80\nb 200,0 100×90", strings.TrimSpace(dump(page)))
}

// TestAPartThatABreakEndsIsNoWholeBox: a forced break makes an item longer than planned, and its
// part does not show a lower edge.
func TestAPartThatABreakEndsIsNoWholeBox(t *testing.T) {
	l, root := tree(t, `<div style="display:grid"><div id=a style="border-bottom:5px solid"><div style="height:30px"></div><div style="height:50px;break-before:page"></div></div></div>`, "body { margin: 0 }")
	page, rest := l.LayPage(root, 400, 100, 0, 0, nil)
	require.NotNil(t, rest)
	var item *Fragment
	for f := page; len(f.Kids) > 0; f = f.Kids[0].F {
		if f.Box != nil && f.Box.Node != nil && f.Box.Node.ID == "a" {
			item = f
		}
	}
	require.NotNil(t, item)
	assert.Equal(t, 100.0, item.H)
	assert.Greater(t, item.Whole, item.H+5, "the box is longer than this part")
}

// TestTextBesideACutBoxStandsAtItsEnd: what stands on the baseline of a tall box in a line
// goes on with it.
func TestTextBesideACutBoxStandsAtItsEnd(t *testing.T) {
	l, root := tree(t, `<p style="margin:0"><span style="display:inline-block;width:60px">`+strings.Repeat("word<br>", 12)+`last</span> beside`, "body { margin: 0; font: 10px/20px sans-serif }")
	words := func(f *Fragment) (list []string) {
		pageWords(f, 0, func(w string, _, _ float64) { list = append(list, w) })
		return list
	}
	page, rest := l.LayPage(root, 400, 100, 0, 0, nil)
	require.NotNil(t, rest)
	assert.Len(t, words(page), 5)
	page, rest = l.LayPage(root, 400, 100, 0, 0, rest)
	assert.Len(t, words(page), 5)
	page, rest = l.LayPage(root, 400, 100, 0, 0, rest)
	assert.Nil(t, rest)
	assert.Equal(t, []string{"word", "word", "last", "beside"}, words(page))
}
