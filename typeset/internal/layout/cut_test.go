package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// columnsOf is a multi-column box of n columns of 50 px by 100 px around html.
func columnsOf(n string, html string) string {
	return "<div style='columns:" + n + ";column-fill:auto;column-gap:0;height:100px;width:calc(50px*" + n + ")'>" + html + "</div>"
}

// TestCutting sets boxes that a column's end cuts. What is wanted follows from
// the standard sections named.
func TestCutting(t *testing.T) {
	cases := []struct{ name, html, want string }{
		{
			"a box goes on (CSS Break 4, §2)", columnsOf("3", `<div id=a style="height:250px"></div>`),
			"a 0,0 50×100\na 50,0 50×100\na 100,0 50×50",
		},
		{
			"what overflows a box is a flow of its own (§2.1)", columnsOf("3", `<div style="height:50px"><div id=a style="height:150px"></div></div><div id=b style="height:100px"></div>`),
			"a 0,0 50×100\nb 0,50 50×50\na 50,0 50×50\nb 50,0 50×50",
		},
		{
			"clipped overflow ends with its box", columnsOf("2", `<div style="height:50px;overflow:clip"><div id=a style="height:150px"></div></div><div id=b style="height:60px"></div>`),
			"a 0,0 50×150\nb 0,50 50×50\nb 50,0 50×10",
		},
		{
			"columns are 1 px wide at least (Multi-column 2, §3.4)", `<div style="columns:0;column-gap:0;width:3px;height:10px;column-fill:auto"><div id=a style="height:25px"></div></div>`,
			"a 0,0 1×10\na 1,0 1×10\na 2,0 1×5",
		},
		{
			"a fixed box inside a positioned one stands in the transformed box around both", columnsOf("2", `<div style="height:200px"></div><div id=a style="transform:translateX(0);height:200px"><div style="height:200px"></div><div style="position:relative"><div style="height:200px"></div><div id=b style="position:absolute;width:50px;height:120px"><div id=c style="position:fixed;width:50px;height:150px;top:0"></div></div></div></div>`),
			"a 100,0 50×100\nc 100,0 50×100\na 150,0 50×100\nc 150,0 50×50\na 200,0 50×0\na 250,0 50×0\na 300,0 50×0\nb 300,0 50×100\na 350,0 50×0\nb 350,0 50×20",
		},
		{
			"and at its static place without an inset", columnsOf("2", `<div style="transform:translateX(0)"><div style="height:200px"></div><div style="position:relative"><div style="height:200px"></div><div id=b style="position:absolute;width:50px;height:200px;top:0"><div id=c style="position:fixed;width:40px;height:150px"></div></div></div></div>`),
			"b 100,0 50×100\nc 100,0 40×100\nb 150,0 50×100\nc 150,0 40×50",
		},
		{
			"will-change makes the containing block of a fixed box", columnsOf("2", `<div style="height:20px"></div><div style="will-change:transform;height:120px"><div id=a style="position:fixed;width:10px;height:100px;top:10px"></div></div>`),
			"a 0,30 10×70\na 50,0 10×30",
		},
		{
			"an inline box of several columns is a containing block", columnsOf("2", `<span style="position:relative"><div style="height:150px"></div><div id=a style="position:absolute;top:0;bottom:0;left:0;width:10px"></div></span>`),
			"a 0,0 10×100\na 50,0 10×50",
		},
		{
			"positioned boxes take part in balancing", `<div id=a style="columns:4;column-gap:0;width:100px"><div style="position:relative"><div id=b style="position:absolute;width:5px;height:200px"></div></div></div>`,
			"a 0,0 100×50\na 0,0 25×0\nb 0,0 5×50\nb 25,0 5×50\nb 50,0 5×50\nb 75,0 5×50",
		},
		{
			"and those that are not to be cut are not", `<div id=a style="columns:2;column-gap:0;width:100px"><div style="contain:size;height:100px"></div><div style="position:relative;height:100px"><div id=b style="position:absolute;width:5px;contain:size;height:100px"></div></div></div>`,
			"a 0,0 100×100\na 0,0 50×100\na 50,0 50×100\nb 50,0 5×100",
		},
		{
			"a positioned box may reach back from further columns", columnsOf("2", `<div style="position:relative"><div id=a style="position:absolute;top:400px;width:10px"><div id=b style="position:absolute;top:-400px;width:5px;height:400px"></div></div></div>`),
			"a 200,0 10×0\nb 0,0 5×100\nb 50,0 5×100\nb 100,0 5×100\nb 150,0 5×100",
		},
		{
			"a fixed box inside two positioned ones", columnsOf("2", `<div id=t style="transform:translateX(0);height:50px"><div id=a style="position:absolute;top:100px;width:10px;height:200px"><div id=b style="position:absolute;top:50px;width:8px;height:100px"><div id=c style="position:fixed;top:0;width:5px;height:150px"></div></div></div></div>`),
			"t 0,0 50×50\nc 0,0 5×100\nt 50,0 50×0\na 50,0 10×100\nb 50,50 8×50\nc 50,0 5×50\nt 100,0 50×0\na 100,0 10×100\nb 100,0 8×50",
		},
		{
			"a flex item as tall as its contents grows by what breaks add", columnsOf("2", `<div style="display:flex;flex-direction:column"><div id=a style="flex-basis:content;height:10px"><div id=b style="contain:size;height:50px"></div><div id=c style="contain:size;height:90px"></div></div></div>`),
			"a 0,0 50×100\nb 0,0 50×50\na 50,0 50×90\nc 50,0 50×90",
		},
		{
			"a margin stays below a forced break in a flex column", columnsOf("2", `<div style="display:flex;flex-direction:column"><div id=a style="height:30px"></div><div id=b style="break-before:column;margin-top:20px;height:30px"></div></div>`),
			"a 0,0 50×30\nb 50,20 50×30",
		},
		{
			"an absolute box keeps to the end of a flex column that breaks make longer", columnsOf("2", `<div style="height:40px"></div><div style="display:flex;flex-direction:column;justify-content:flex-end;position:relative"><div id=a style="position:absolute;width:10px;height:100px"></div><div style="flex:none"><div style="contain:size;height:40px"></div><div id=b style="contain:size;height:100px"></div></div></div>`),
			"b 50,0 50×100\na 50,0 10×100",
		},
		{
			"an absolute box in a row of a grid moves with it", columnsOf("2", `<div style="display:grid;position:relative;grid-template:auto 30px/auto"><div id=a><div style="height:70px;break-inside:avoid"></div><div style="height:70px;break-inside:avoid"></div></div><div id=b style="position:absolute;top:0;left:0;width:10px;height:30px;grid-row:2"></div></div>`),
			"a 0,0 50×100\na 50,0 50×70\nb 50,70 10×30",
		},
		{
			"its area grows with the row", columnsOf("2", `<div style="display:grid;position:relative;grid-template-rows:50px auto"><div style="grid-row-start:2"><div id=a style="break-inside:avoid;height:40px"></div><div id=b style="break-inside:avoid;height:40px"></div></div><div id=c style="grid-row-start:2;position:absolute;width:10px;height:40px;align-self:end"></div></div>`),
			"a 0,50 50×40\nb 50,0 50×40\nc 50,0 10×40",
		},
		{
			"a box across columns that is not to be cut goes on whole", columnsOf("2", `<div style="columns:2;column-gap:0"><div id=a style="height:160px"></div><div id=b style="column-span:all;height:30px;break-inside:avoid"></div></div>`),
			"a 0,0 25×80\na 25,0 25×80\nb 50,0 50×30",
		},
		{
			"what is positioned in a clipped box is not seen beyond it", columnsOf("3", `<div style="position:relative;overflow:clip;height:150px"><div id=a style="position:absolute;width:10px;height:290px"></div></div>`),
			"a 0,0 10×100\na 50,0 10×100\na 50,100 10×90",
		},
		{
			"a row that cannot be cut ends with its column", columnsOf("3", `<div style="display:grid"><div id=a style="contain:size;height:150px"></div><div id=b style="contain:size;height:150px"></div></div><div id=c style="height:20px"></div>`),
			"a 0,0 50×150\nb 50,0 50×150\nc 100,0 50×20",
		},
		{
			"an item that a break ends fills its column", columnsOf("2", `<div style="display:grid"><div id=a><div style="height:30px"></div><div style="height:50px;break-before:column"></div></div><div id=b style="height:20px"></div></div>`),
			"a 0,0 50×100\na 50,0 50×50\nb 50,50 50×20",
		},
		{
			"what is positioned in a repeated head stands once, if the head does not contain it", columnsOf("3", `<div style="display:table"><div style="display:table-header-group;break-inside:avoid"><div style="height:20px;width:50px"><div id=a style="position:absolute;width:10px;height:10px"></div><div style="position:relative"><div id=b style="position:absolute;width:10px;height:10px;left:20px"></div></div></div></div><div style="height:200px"></div></div>`),
			"b 20,0 10×10\nb 70,0 10×10\nb 120,0 10×10\na 0,0 10×10",
		},
		{
			"so does that of flex containers with a greatest height", columnsOf("3", `<div style="display:flex;flex-direction:column;max-height:50px;overflow:hidden"><div id=a style="height:40px;flex:none"></div><div id=b style="height:150px;flex:none"></div><div id=c style="break-before:column;height:10px;flex:none"></div></div><div id=d style="height:20px"></div>`),
			"a 0,0 50×40\nb 0,40 50×150\nc 0,190 50×10\nd 0,50 50×20",
		},
		{
			"also where what follows is drawn back over it", columnsOf("3", `<div style="display:flex;height:50px;overflow:hidden"><div id=a style="margin:350px 0 -350px;height:40px;width:50px"></div></div><div id=d style="height:20px"></div>`),
			"a 0,350 50×40\nd 0,50 50×20",
		},
		{
			"and of grids that are cut before they end", columnsOf("3", `<div style="display:grid;max-height:150px;overflow:clip"><div id=a style="height:120px"></div><div id=b style="height:150px"></div><div id=c style="break-before:column;height:10px"></div></div><div id=d style="height:20px"></div>`),
			"a 0,0 50×100\na 50,0 50×20\nb 50,20 50×150\nc 50,170 50×10\nd 50,50 50×20",
		},
		{
			"a positioned box is cut", columnsOf("3", `<div style="position:relative;height:50px"><div id=a style="position:absolute;top:20px;width:10px;height:150px"></div></div>`),
			"a 0,20 10×80\na 50,0 10×70",
		},
		{
			"its containing block is all parts together", columnsOf("4", `<div style="position:relative;height:250px"><div id=a style="position:absolute;top:120px;bottom:0;width:10px"></div></div>`),
			"a 50,20 10×80\na 100,0 10×50",
		},
		{
			"it may reach back", columnsOf("2", `<div style="height:110px"></div><div style="position:relative"><div id=a style="position:absolute;top:-30px;width:10px;height:30px"></div></div>`),
			"a 0,80 10×20\na 50,0 10×10",
		},
		{
			"it may stand after all columns", columnsOf("2", `<div style="position:relative;height:150px"><div id=a style="position:absolute;top:260px;width:10px;height:20px"></div></div>`),
			"a 100,60 10×20",
		},
		{
			"columns inside columns", columnsOf("2", `<div style="columns:2;column-gap:0;column-fill:auto"><div style="position:relative"><div id=a style="position:absolute;width:5px;height:350px"></div></div></div>`),
			"a 0,0 5×100\na 25,0 5×100\na 50,0 5×100\na 75,0 5×50",
		},
		{
			"columns are no containing block, the box around them is", `<div style="columns:2;column-gap:0;width:100px;contain:layout;position:relative"><div style="height:20px"></div><div id=a style="position:absolute;inset:0 0 auto 0;height:5px"></div></div>`,
			"a 0,0 100×5",
		},
		{
			"an item that grows with its row contains positioned boxes", columnsOf("2", `<div style="display:flex"><div style="position:relative;width:20px"><div style="height:130px;break-inside:avoid"></div><div id=a style="position:absolute;width:5px;height:5px"></div></div><div style="width:10px"><div style="height:60px;break-inside:avoid"></div><div id=b style="height:80px;break-inside:avoid"></div></div></div>`),
			"a 50,30 5×5\nb 70,0 10×80",
		},
		{
			"a float that moves on takes later ones with it (CSS 2.2, §9.5.1)", columnsOf("2", `<div style="height:80px"></div><div id=a style="float:left;break-inside:avoid;width:10px;height:40px"></div><div id=b style="float:right;width:10px;height:10px"></div><div id=c style="height:20px"></div>`),
			"c 0,80 50×20\na 50,0 10×40\nb 90,0 10×10",
		},
		{
			"nothing clears a float that goes on", columnsOf("2", `<div style="height:80px"></div><div id=a style="float:left;width:10px;height:50px"></div><div id=b style="clear:left;height:10px"></div>`),
			"a 0,80 10×20\na 50,0 10×30\nb 50,30 50×10",
		},
		{
			"a lower edge stays with the last line (CSS Break 4, §4.1)", columnsOf("2", `<div id=a style="padding-bottom:30px;orphans:1;widows:1;font:40px/40px serif"><span>x<br>x</span></div>`),
			"a 0,0 50×100\na 50,0 50×70",
		},
		{
			"so it does with the margin of the last child", columnsOf("2", `<div id=a style="border-bottom:10px solid"><div id=b style="height:50px;break-inside:avoid"></div><div id=c style="height:30px;margin-bottom:25px;break-inside:avoid"></div></div>`),
			"a 0,0 50×100\nb 0,0 50×50\na 50,0 50×65\nc 50,0 50×30",
		},
		{
			"a lower edge goes on where nothing else can", columnsOf("2", `<div id=a style="padding:15px 0"><div id=b style="margin:30px 0;height:20px;break-inside:avoid"></div></div><div id=c style="height:10px"></div>`),
			"a 0,0 50×100\nb 0,45 50×20\na 50,0 50×15\nc 50,15 50×10",
		},
		{
			"lower edges that fit stay", columnsOf("2", `<div id=a style="padding:2px 0;border:solid;border-width:4px 0"><div id=b style="padding:15px 0"><div style="height:60px"></div></div></div><div id=c style="height:10px"></div>`),
			"a 0,0 50×100\nb 0,6 50×90\na 50,0 50×6\nc 50,6 50×10",
		},
		{
			"what is to stay whole takes what overflows it along", columnsOf("2", `<div style="height:40px"></div><div><div id=a style="break-inside:avoid;max-height:30px"><div id=b style="height:80px"></div></div></div>`),
			"a 50,0 50×30\nb 50,0 50×80",
		},
		{
			"an empty box is there for its break", columnsOf("3", `<div style="break-after:column"></div><div id=a style="height:10px"></div><div style="break-after:column"></div><div id=b style="height:10px"></div>`),
			"a 50,0 50×10\nb 100,0 50×10",
		},
		{
			"a row begins where all its cells can", columnsOf("2", `<table style="border-spacing:0;width:50px"><tr><td style="padding:0;height:70px"><tr id=a><td style="padding:0" id=b><div style="height:60px"></div><td style="padding:0" id=c><div style="height:40px;break-inside:avoid"></div><div style="height:10px;break-inside:avoid"></div></table>`),
			"b 50,0 25×60\nc 75,0 25×60",
		},
		{
			"a table moves on whose first row is not to be cut", columnsOf("2", `<div style="height:70px"></div><table style="border-spacing:0;width:50px"><tr><td style="padding:0"><div id=a style="break-inside:avoid;min-height:40px"></div><div id=b style="height:50px"></div></table>`),
			"a 50,0 50×40\nb 50,40 50×50",
		},
		{
			"a break to be avoided is made inside the box before", columnsOf("2", `<div id=a><div id=b style="height:50px;break-inside:avoid"></div><div id=c style="height:40px;break-inside:avoid"></div></div><div id=d style="break-before:avoid;height:30px;break-inside:avoid"></div>`),
			"a 0,0 50×100\nb 0,0 50×50\na 50,0 50×40\nc 50,0 50×40\nd 50,40 50×30",
		},
		{
			"a greatest height ends a box", columnsOf("2", `<div id=a style="max-height:60px"><div style="height:150px"></div></div><div id=b style="height:20px"></div>`),
			"a 0,0 50×60\nb 0,60 50×20\na 50,0 50×0",
		},
		{
			"edges of every part (§5.4)", columnsOf("2", `<div id=a style="box-decoration-break:clone;border:solid;border-width:10px 0;height:100px"></div>`),
			"a 0,0 50×100\na 50,0 50×40",
		},
		{
			"rows of a flex container (Flexbox 1, §10)", columnsOf("2", `<div style="height:70px"></div><div id=a style="display:flex;flex-wrap:wrap"><div id=b style="width:100%;height:20px"></div><div id=c style="width:50%;height:40px;break-inside:avoid"></div><div id=d style="width:50%;height:5px"></div></div>`),
			"a 0,70 50×30\nb 0,70 50×20\na 50,0 50×40\nc 50,0 25×40\nd 75,0 25×5",
		},
		{
			"lines of a column container are flows side by side", columnsOf("2", `<div id=a style="display:flex;flex-flow:column wrap;height:150px"><div id=b style="width:20px;height:90px"></div><div id=c style="width:20px;height:60px;break-inside:avoid"></div><div id=d style="width:20px;height:150px"></div></div>`),
			"a 0,0 50×100\nb 0,0 20×90\nd 25,0 20×100\na 50,0 50×50\nc 50,0 20×60\nd 75,0 20×50",
		},
		{
			"a row that grew moves the rows below", columnsOf("2", `<div style="display:grid"><div id=a><div style="height:70px"></div><div style="height:40px;break-inside:avoid"></div></div><div id=b style="height:10px"></div></div>`),
			"a 0,0 50×100\na 50,0 50×40\nb 50,40 50×10",
		},
		{
			"a row stays with the lower edge of its container", columnsOf("2", `<div style="height:40px"></div><div id=a style="display:flex;flex-direction:column;border-bottom:20px solid"><div id=b style="height:25px"></div><div id=c style="height:25px;break-inside:avoid"></div></div>`),
			"a 0,40 50×60\nb 0,40 50×25\na 50,0 50×45\nc 50,0 50×25",
		},
		{
			"a break to avoid between rows", columnsOf("2", `<div style="display:grid"><div id=a style="height:60px"></div><div id=b style="height:30px"></div><div id=c style="height:20px;break-before:avoid;break-inside:avoid"></div></div>`),
			"a 0,0 50×60\nb 50,0 50×30\nc 50,30 50×20",
		},
		{
			"a table of a given height", columnsOf("2", `<table id=a style="height:150px;border-spacing:0;width:50px"><tr><td style="padding:0"></table>`),
			"a 0,0 50×100\na 50,0 50×50",
		},
		{
			"a group of rows of a given height", columnsOf("2", `<div style="height:30px"></div><table style="border-spacing:0;width:50px"><tbody style="height:170px"><tr id=a><td id=b style="padding:0">x</table>`),
			"b 0,30 50×70\nb 50,0 50×100",
		},
		{
			"a caption below a table that fills its column", columnsOf("3", `<table style="height:100px;border-spacing:0;width:50px"><caption id=a style="caption-side:bottom;height:20px"></caption></table><div id=b style="height:10px"></div>`),
			"a 50,0 50×20\nb 50,20 50×10",
		},
		{
			"a margin ends with its column (§5.2)", columnsOf("3", `<div id=a style="display:flow-root;margin-top:130px;height:20px"></div>`),
			"a 50,0 50×20",
		},
		{
			"but one of a box that stands further on is its own", columnsOf("2", `<div style="height:100px"></div><div id=a style="display:flow-root;height:60px"><div id=b style="margin-top:20px;height:20px"></div></div>`),
			"a 50,0 50×60\nb 50,20 50×20",
		},
		{
			"so does one inside a flex container", columnsOf("2", `<div id=a style="display:flex"><div id=b style="height:50px;width:10px;margin-bottom:150px"></div></div><div id=c style="height:10px"></div>`),
			"a 0,0 50×100\nb 0,0 10×50\nc 50,0 50×10",
		},
		{
			"a row grows by what its lowest child gains", columnsOf("2", `<div style="display:flex;flex-wrap:wrap"><div id=a style="contain:size;width:10px;margin-top:70px;height:60px"></div><div id=b style="width:10px;margin-top:130px;height:20px"></div><div id=c style="width:50px;height:10px"></div></div>`),
			"a 50,0 10×60\nb 60,30 10×20\nc 50,60 50×10",
		},
		{
			"an inline box contains a positioned one", columnsOf("2", `<div style="height:60px"></div><span style="position:relative"><p id=a style="height:20px;margin:0"></p><i id=b style="position:absolute;top:0;width:10px;height:60px"></i></span>`),
			"a 0,60 50×20\nb 0,60 10×40\nb 50,0 10×20",
		},
		{
			"a multi-column box of a given height", columnsOf("2", `<div style="columns:2;column-gap:0;column-fill:auto;height:150px"><div id=b style="height:260px"></div></div><div id=c style="height:5px"></div>`),
			"b 0,0 25×100\nb 25,0 25×100\nb 50,0 25×50\nb 75,0 25×10\nc 50,50 50×5",
		},
		{
			"a caption is cut, and the table goes on after it", columnsOf("2", `<table style="border-spacing:0;width:50px"><caption><div id=a style="height:130px"></div></caption><tr><td id=b style="padding:0;height:20px"></table>`),
			"a 0,0 50×100\na 50,0 50×30\nb 50,30 50×20",
		},
		{
			"a cut table keeps no lower spacing", columnsOf("2", `<table id=a style="border-spacing:0 10px;border:5px solid;width:50px"><tr><td id=b style="padding:0"><div style="height:100px"></div></table>`),
			"a 0,0 50×100\nb 5,15 40×85\na 50,0 50×30\nb 55,0 40×15",
		},
		{
			"each part of a cloned table has its edges (§5.4)", columnsOf("2", `<table id=a style="border-spacing:0;border:5px solid;box-decoration-break:clone;width:50px"><tr><td id=b style="padding:0"><div style="height:100px"></div></table>`),
			"a 0,0 50×100\nb 5,5 40×90\na 50,0 50×20\nb 55,5 40×10",
		},
		{
			"a forced break leaves a flex container open", columnsOf("2", `<div id=a style="display:flex;flex-direction:column;border:solid;border-width:5px 0"><div id=b style="height:20px;break-after:column"></div><div id=c style="height:10px"></div></div>`),
			"a 0,0 50×100\nb 0,5 50×20\na 50,0 50×15\nc 50,0 50×10",
		},
		{
			"a break in the first row of a wrapping container is one before it", columnsOf("2", `<div style="display:grid"><div id=a style="height:10px"></div><div id=b style="display:flex;flex-wrap:wrap"><div style="width:25px;height:5px"></div><div style="width:25px;height:5px;break-before:column"></div></div></div>`),
			"a 0,0 50×10\nb 50,0 50×5",
		},
		{
			"an item apart from its row's top goes alone", columnsOf("2", `<div style="height:30px"></div><div style="display:flex;align-items:flex-start"><div id=a style="width:25px;height:20px"></div><div id=b style="width:25px;margin-top:40px;height:50px;contain:size"></div></div>`),
			"a 0,30 25×20\nb 75,0 25×50",
		},
		{
			"balanced columns are as tall as a grid that is to stay whole", `<div style="columns:2;column-gap:0;width:100px"><div style="height:50px"><div style="height:100px"></div></div><div id=a style="display:grid;height:100px;break-inside:avoid"></div></div>`,
			"a 50,0 50×100",
		},
		{
			"rows of columns stand below each other (Multi-column 2, §3.3)", `<div style="columns:2;column-fill:auto;column-height:20px;gap:5px 0;width:100px"><div id=b style="height:50px"></div></div><div id=c style="height:1px"></div>`,
			"b 0,0 50×20\nb 50,0 50×20\nb 0,25 50×10\nc 0,35 400×1",
		},
		{
			"the last of them is balanced", `<div style="columns:2;column-height:20px;gap:5px 0;width:100px"><div id=b style="height:50px"></div></div><div id=c style="height:1px"></div>`,
			"b 0,0 50×20\nb 50,0 50×20\nb 0,25 50×5\nb 50,25 50×5\nc 0,30 400×1",
		},
		{
			"columns wrap at the height of their box, if they are to (§3.4)", `<div style="columns:2;column-wrap:wrap;gap:5px 0;height:20px;width:100px"><div id=b style="height:50px"></div></div>`,
			"b 0,0 50×20\nb 50,0 50×20\nb 0,25 50×5\nb 50,25 50×5",
		},
		{
			"and stay in one row, if not", `<div style="columns:2 / 20px;column-fill:auto;column-wrap:nowrap;gap:0;width:100px"><div id=b style="height:50px"></div></div>`,
			"b 0,0 50×20\nb 50,0 50×20\nb 100,0 50×10",
		},
		{
			"a box across the columns inside is none across those around", columnsOf("2", `<div style="columns:2;column-gap:0"><div style="height:40px"></div><div id=a style="column-span:all;height:90px"></div><div id=b style="column-span:all;height:10px"></div></div>`),
			"a 0,20 50×80\na 50,0 50×10\nb 50,10 50×10",
		},
		{
			"a form control stays whole", columnsOf("2", `<div style="height:60px"></div><input id=a style="display:block;width:30px;height:50px;margin:0;padding:0;border:0">`),
			"a 50,0 30×50",
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			l, root := tree(t, c.html, "")
			page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
			assert.Nil(t, rest)
			l.SettleAll(page, 400, 300)
			assert.Equal(t, c.want, strings.TrimSpace(dump(page)))
		})
	}
}

// TestUnseenPaddingTakesNoPage: padding that alone would go on ends with the page,
// unless something of it is seen.
func TestUnseenPaddingTakesNoPage(t *testing.T) {
	for css, pages := range map[string]int{
		"":                                1,
		"body { background: #eee }":       1,
		"#a { background: #eee }":         2,
		"#a { border-bottom: 1px solid }": 2,
	} {
		l, root := tree(t, "<div id=a><div style='height:80px;break-inside:avoid'></div></div>", "body { margin: 0 } #a { padding: 15px }"+css)
		n := 1
		_, rest := l.LayPage(root, 400, 100, 0, 0, nil)
		for ; rest != nil && n < 9; n++ {
			_, rest = l.LayPage(root, 400, 100, 0, 0, rest)
		}
		assert.Equal(t, pages, n, css)
	}
}

func TestSpanningBoxes(t *testing.T) {
	l, root := tree(t, `<div style="columns:2;column-gap:0;width:100px"><div id=a><div id=b style="height:40px"></div><div id=c style="column-span:all;height:10px;margin:5px 0"></div><div id=d style="column-span:all;height:10px;margin:3px 0"></div><div id=e style="height:60px"></div></div></div>`, "")
	page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
	require.Nil(t, rest)
	assert.Equal(t, strings.TrimSpace(`
a 0,0 50×20
b 0,0 50×20
a 50,0 50×20
b 50,0 50×20
c 0,25 100×10
a 0,35 50×0
d 0,40 100×10
a 0,53 50×30
e 0,53 50×30
a 50,53 50×30
e 50,53 50×30`), strings.TrimSpace(dump(page)), "margins of spanning boxes collapse with each other (Multi-column 1, §6)")
}

// TestTableEdges: a table's border is open where a page cuts it.
func TestTableEdges(t *testing.T) {
	l, root := tree(t, `<table id=a style="border:10px solid;border-spacing:0;width:100px"><tr><td id=b style="padding:0;height:60px"><tr><td id=c style="padding:0;height:60px"></table>`, "")
	page, rest := l.LayPage(root, 400, 100, 0, 0, nil)
	require.NotNil(t, rest)
	assert.Equal(t, "a 0,0 100×100\nb 10,10 80×60", strings.TrimSpace(dump(page)))
	page, rest = l.LayPage(root, 400, 100, 0, 0, rest)
	assert.Nil(t, rest)
	assert.Equal(t, "a 0,0 100×70\nc 10,0 80×60", strings.TrimSpace(dump(page)))
}

// TestPiecesAreTakenBack: a row that is set twice leaves one positioned box.
func TestPiecesAreTakenBack(t *testing.T) {
	l, root := tree(t, `<table><tr><td><div style="height:80px"></div><tr><td><div style="position:relative"><div id=a style="position:absolute;height:200px;width:5px"></div></div><div style="height:40px"></div></table>`, "")
	count, over := 0, Leftover{}
	var at *Break
	for range 10 {
		page, rest := l.LayPage(root, 400, 100, 0, 0, at)
		l.PutLate(page, &over, 100)
		count += strings.Count(dump(page), "a ")
		if at = rest; rest == nil && over.Empty() {
			break
		}
		if rest == nil {
			at = Nothing(root)
		}
	}
	assert.Equal(t, 3, count, "200 px on three pages of 100 px")
}

// TestForcedBreaksInPositionedBoxes: they are taken although all would fit.
func TestForcedBreaksInPositionedBoxes(t *testing.T) {
	l, root := tree(t, `<div style="position:absolute"><div id=a style="height:10px;width:10px">x</div><div id=b style="height:10px;break-before:page">y</div></div>`, "body { margin: 0 }")
	page, _ := l.LayPage(root, 400, 100, 0, 0, nil)
	l.SettleAll(page, 400, 100)
	assert.Contains(t, dump(page), "a 0,0 10×10")
	assert.NotContains(t, dump(page), "b ")
	var over Leftover
	over.Take(page)
	require.False(t, over.Empty())
	next, _ := l.LayPage(root, 400, 100, 0, 0, Nothing(root))
	l.PutLate(next, &over, 100)
	assert.Contains(t, dump(next), "b 0,0")
	assert.True(t, over.Empty())
}

// TestVerticalPages: pages follow each other in the root's block direction.
func TestVerticalPages(t *testing.T) {
	l, root := tree(t, `<div id=a style="block-size:250px;inline-size:20px"></div>`, "html { writing-mode: vertical-rl } body { margin: 0 }")
	var got []string
	var at *Break
	for range 3 {
		page, rest := l.LayPage(root, 100, 80, 0, 0, at)
		got = append(got, strings.TrimSpace(dump(page)))
		at = rest
	}
	assert.Nil(t, at)
	assert.Equal(t, []string{"a 0,0 100×20", "a 0,0 100×20", "a 50,0 50×20"}, got)
}

// TestSticky: boxes stand in their scrollport as before any scrolling.
func TestSticky(t *testing.T) {
	for css, want := range map[string]string{
		"bottom:0":                "0,30", // into view
		"bottom:-10px":            "0,40",
		"top:0":                   "0,60", // it needs not move
		"top:75px;margin:0":       "0,75",
		"bottom:0;margin-top:9px": "0,30",
	} {
		l, root := tree(t, `<div style="overflow:hidden;height:50px"><div style="height:60px"></div><div id=a style="position:sticky;height:20px;`+css+`"></div><div style="height:60px"></div></div>`, "body { margin: 0 }")
		page, _ := l.LayPage(root, 400, 300, 0, 0, nil)
		assert.Contains(t, dump(page), "a "+want+" 400×20", css)
	}
}

// TestBalancedColumnsEndWithTheirContents: no paragraph that goes on into the next column
// makes the box seem to overflow, so that an item of a container that goes on over pages
// takes all pages for it, and no columns beside them.
func TestBalancedColumnsEndWithTheirContents(t *testing.T) {
	columns := func(words int) string {
		text := strings.Repeat("a word of five letters, ", words)
		return "<div id=a style='columns:2'>" + strings.Repeat("<p>"+text, 5) + "<p style='break-inside:avoid'>" + text + "</div>"
	}
	for words := 5; words < 40; words++ {
		l, root := tree(t, columns(words), "body { margin: 0 }")
		page, rest := l.LayPage(root, 400, inf, 0, 0, nil)
		require.Nil(t, rest)
		a := fragmentOf(page, "a")
		assert.InDelta(t, a.H, a.reach(), 0.01, words)
	}
	l, root := tree(t, "<div style='display:flex;flex-direction:column'>"+columns(40)+"</div>", "body { margin: 0 }")
	var at *Break
	for range 20 {
		var page *Fragment
		page, at = l.LayPage(root, 400, 230, 0, 0, at)
		l.SettleAll(page, 400, 230)
		assert.LessOrEqual(t, reachRight(page), 400.5)
		if at == nil {
			break
		}
	}
	assert.Nil(t, at)
}

// reachRight is how far to the right a fragment and what it holds reach.
func reachRight(f *Fragment) float64 {
	w := f.W
	for _, k := range f.Kids {
		w = max(w, k.X+reachRight(k.F))
	}
	return w
}

// fragmentOf is the first fragment of the element with an id.
func fragmentOf(f *Fragment, id string) *Fragment {
	if f.Box != nil && f.Box.Node != nil && f.Box.Node.ID == id {
		return f
	}
	for _, k := range f.Kids {
		if found := fragmentOf(k.F, id); found != nil {
			return found
		}
	}
	return nil
}

func TestTableBesideFloatsKeepsItsColumns(t *testing.T) {
	l, root := tree(t, `<i style="float:right;width:150px;height:30px"></i><table id=t style="border-spacing:0"><tr><td id=a><u></u> <u></u> <u></u><tr><td id=b><tr><td id=c></table>`,
		"td{padding:0;height:60px}u{display:inline-block;width:100px;height:10px}")
	var at *Break
	for i, want := range []string{"t 0,0 250×100\na 0,0 250×60", "t 0,0 250×100\nb 0,0 250×60", "t 0,0 250×60\nc 0,0 250×60"} {
		page, rest := l.LayPage(root, 400, 100, 0, 0, at)
		assert.Equal(t, want, strings.TrimSpace(dump(page)), "page %d", i+1)
		at = rest
	}
	assert.Nil(t, at)
}
