package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestBaselinesOfItems aligns items of flex containers and grids by their baselines, along
// both axes, in every writing mode (CSS Align 3, §9). Lines are as tall as the squares in
// them, which stand on the baseline.
func TestBaselinesOfItems(t *testing.T) {
	const css = `body { margin: 0; font: 0/0 serif; text-orientation: sideways }
		i { display: inline-block; width: 10px; height: 10px } .big i { width: 20px; height: 20px }
		.lr { writing-mode: vertical-lr } .rl { writing-mode: vertical-rl } .tb { writing-mode: horizontal-tb }
		.grid { display: grid; width: 100px; height: 100px; align-items: start; justify-items: start; justify-content: start; align-content: start }`
	cases := []struct{ name, html, want string }{
		{
			"rows share the first baseline", `<div class="grid" style="grid-template-columns:50px 50px;align-items:baseline"><div id=a><i></i></div><div id=b class=big><i></i></div></div>`,
			"a 0,10 10×10\nb 50,0 20×20",
		},
		{
			"and the last one, from below", `<div class="grid" style="grid:60px / 50px 50px;align-items:last baseline"><div id=a><i></i></div><div id=b class=big style="padding-bottom:4px"><i></i><br><i></i></div></div>`,
			"a 0,46 10×10\nb 50,16 20×44",
		},
		{
			"columns share baselines of vertical text", `<div class="grid" style="justify-items:baseline"><div id=a class=lr style="padding-left:3px"><i></i></div><div id=b class="lr big"><i></i></div></div>`,
			"a 0,0 13×10\nb 3,10 20×20",
		},
		{
			"those of the other direction stand at the other side", `<div class="grid" style="grid-template-columns:40px;justify-items:baseline"><div id=a class=rl><i></i></div><div id=b class="rl big"><i></i></div><div id=c class=lr><i></i></div></div>`,
			"a 20,0 10×10\nb 20,10 20×20\nc 0,30 10×10",
		},
		{
			"a column grows by what it takes", `<div class="grid" style="justify-items:baseline"><div id=a class=lr style="padding-left:20px"><i></i></div><div id=b class="lr big"><i></i></div><div id=c style="justify-self:end;width:5px"></div></div>`,
			"a 0,0 30×10\nb 20,10 20×20\nc 35,30 5×0",
		},
		{
			"items across the text have one at their border box", `<div class="grid" style="grid-template-columns:50px 50px;align-items:baseline"><div id=a class=lr style="padding-bottom:5px"><i></i></div><div id=b class=big><i></i></div></div>`,
			"a 0,5 10×15\nb 50,0 20×20",
		},
		{
			"in vertical lines from left to right that is the left edge", `<div class="grid lr" style="grid-auto-flow:column;align-items:baseline"><div id=a class=tb><i></i></div><div id=b class="big" style="padding-left:6px"><i></i></div></div>`,
			"a 6,0 10×10\nb 0,10 26×20",
		},
		{
			"with upright characters it is the middle", `<div class="grid lr" style="text-orientation:mixed;grid-auto-flow:column;align-items:baseline"><div id=a class=tb style="width:20px"><i></i></div><div id=b class="big" style="padding-left:6px"><i></i></div></div>`,
			"a 6,0 20×10\nb 0,10 26×20",
		},
		{
			"items of a flex column do as those of a grid", `<div style="display:flex;flex-direction:column;width:100px;align-items:baseline"><div id=a class=lr style="padding-left:3px"><i></i></div><div id=b class="lr big"><i></i></div><div id=c class="rl"><i></i></div></div>`,
			"a 0,0 13×10\nb 3,10 20×20\nc 90,30 10×10",
		},
		{
			"a vertical flex row measures them from its start", `<div class=lr style="display:flex;width:100px;height:100px;align-items:baseline"><div id=a style="padding-left:30px"><i></i></div><div id=b class="big"><i></i></div></div>`,
			"a 0,0 40×10\nb 30,10 20×20",
		},
		{
			"an inline box of another writing mode is a block in its line (Writing Modes 4, §3.2)", `<div><i></i><span id=a class=lr><i></i><i></i></span></div>`,
			"a 10,0 10×20",
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			l, root := tree(t, c.html, css)
			l.Viewport = [2]float64{400, 300}
			page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
			assert.Nil(t, rest)
			l.SettleAll(page, 400, 300)
			assert.Equal(t, c.want, strings.TrimSpace(dump(page)))
		})
	}
}
