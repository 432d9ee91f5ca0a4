package layout

// keywordCases are pages whose sizes come from contents, ratios and keywords, as
// boxCases.
var keywordCases = []boxCase{
	{
		"a table of fixed layout grows to its columns",
		small,
		`<table id=t style="table-layout:fixed;width:200px;border-spacing:0"><tr><td id=a style="width:120px">x</td><td id=b style="width:100px">x</td></tr></table>`,
		"t 0,0 224×14; a 0,0 122×14; b 122,0 102×14",
	},
	{
		"a merged span leaves its column without a width",
		small,
		`<table id=t style="width:60px;border-spacing:0"><tr><td id=a></td><td id=b colspan=2 style="width:5px">xx xxx</td></tr></table>`,
		"t 0,0 60×14; a 0,0 6.31×14; b 6.31,0 53.69×14",
	},
	{
		"a span over more columns than there are",
		small,
		`<table id=t style="border-spacing:4px"><tr><td id=a colspan=9>xx</td></tr><tr><td id=b>x</td><td id=c>xxx</td></tr></table>`,
		"t 0,0 36×40; a 4,4 28×14; b 4,22 7×14; c 15,22 17×14",
	},
	{
		"a cell of no width is as wide as its longest word",
		small,
		`<table id=t style="width:120px;border-spacing:0"><tr><td id=a style="width:0">xxxx xx</td><td id=b>xx</td></tr></table>`,
		"t 0,0 120×26; a 0,0 22×26; b 22,0 98×26",
	},
	{
		"and so is one of no percent",
		small,
		`<table id=t style="width:120px;border-spacing:0"><tr><td id=a style="width:0%">xxxx xx</td><td id=b>xx</td></tr></table>`,
		"t 0,0 120×26; a 0,0 22×26; b 22,0 98×26",
	},
	{
		"a fixed table in percent fills a flex item",
		small,
		`<div id=x style="display:flex;width:200px"><div id=a><table id=t style="width:100%;table-layout:fixed"><tr><td>x</td><td id=b>x</td></tr></table></div></div>`,
		"x 0,0 200×18; a 0,0 200×18; t 0,0 200×18; b 101,2 97×14",
	},
	{
		"columns in percent ask for nothing in a flex item",
		small,
		`<div id=x style="display:flex;width:200px"><div id=a><table id=t><tr><td style="width:100%">xx</td><td id=b>x</td></tr></table></div></div>`,
		"x 0,0 200×18; a 0,0 25×18; t 0,0 25×18; b 16,2 7×14",
	},
	{
		"joined borders count for a float",
		small,
		`<div id=x style="float:left"><table id=t style="border-collapse:collapse;width:auto"><tr><td style="width:50%;border:1px solid">xx</td><td id=b style="border:1px solid">xxx xxx</td></tr></table></div>`,
		"x 0,0 72.56×16; t 0,0 72.56×16; b 36.28,0.5 35.78×15",
	},
	{
		"a line break that clears",
		small,
		`<div style="float:left;height:30px;width:20px" id=f></div>x<br id=r style="clear:both"><div id=a style="height:5px"></div>`,
		"f 0,0 20×30; a 0,30 400×5",
	},
	{
		"and within a paragraph",
		small,
		`<p style="margin:0"><i id=f style="float:left;width:20px;height:30px"></i>xx<br style="clear:left"><i id=a style="display:inline-block;width:10px;height:9px"></i></p>`,
		"f 0,0 20×30; a 0,30 10×9",
	},
	{
		"a ratio through the height of a flex line",
		small,
		`<div id=x style="display:inline-flex;height:40px"><div id=a style="aspect-ratio:2/1"></div></div>`,
		"x 0,0 80×40; a 0,0 80×40",
	},
	{
		"a stretched table with captions",
		small,
		`<div id=x style="display:flex;width:100px;height:100px"><table id=t style="border-spacing:0;flex-grow:1"><caption id=k style="height:10px"></caption><caption id=m style="height:20px;caption-side:bottom"></caption><tr><td id=a></td></tr></table></div>`,
		"x 0,0 100×100; t 0,0 100×100; k 0,0 100×10; m 0,80 100×20; a 0,10 100×70",
	},
	{
		"safe alignment of reversed lines",
		small,
		`<div id=x style="display:flex;width:100px;height:50px;flex-wrap:wrap-reverse;align-content:safe center"><div id=a style="width:60px;height:80px"></div></div>`,
		"x 0,0 100×50; a 0,0 60×80",
	},
	{
		"a ratio through the main size of a column",
		small,
		`<div id=x style="display:flex;flex-direction:column;width:100px"><div id=a style="align-self:end;aspect-ratio:2/1;height:20px;flex:none"></div></div>`,
		"x 0,0 100×20; a 60,0 40×20",
	},
	{
		"baselines of reversed lines",
		small,
		`<div id=x style="display:flex;width:100px;flex-wrap:wrap-reverse;align-items:baseline"><div id=a style="font-size:30px;line-height:30px">x</div><div id=b>x</div></div>`,
		"x 0,0 100×30; a 0,0 15×30; b 15,16 5×12",
	},
	{
		"last baselines",
		small,
		`<div id=x style="display:flex;width:100px;align-items:last baseline"><div id=a>x<br>x</div><div id=b style="padding-bottom:9px">x</div></div>`,
		"x 0,0 100×33; a 0,0 5×24; b 5,12 5×21",
	},
	{
		"the baseline of a reversed row",
		small,
		`<div id=x style="display:inline-flex;flex-direction:row-reverse"><div id=a style="height:10px"></div><div id=b style="height:20px"></div></div>`,
		"x 0,0 0×20; a 0,0 0×10; b 0,0 0×20",
	},
	{
		"a ratio through rows of a given size",
		small,
		`<div id=x style="display:grid;grid-template-rows:50px 50px;width:max-content"><div id=a style="grid-row:1/3;height:100%;aspect-ratio:1"></div></div>`,
		"x 0,0 100×100; a 0,0 100×100",
	},
	{
		"a min-content column under max-content",
		small,
		`<div id=x style="display:grid;width:max-content;grid-template-columns:min-content"><div id=a>xx xxx</div></div>`,
		"x 0,0 15×24; a 0,0 15×24",
	},
	{
		"a greatest height through the ratio",
		small,
		`<div id=a style="aspect-ratio:2;max-height:30px"></div>`,
		"a 0,0 60×30",
	},
	{
		"a ratio with height fit-content",
		small,
		`<div id=a style="aspect-ratio:2;width:60px;height:fit-content"></div>`,
		"a 0,0 60×30",
	},
	{
		"contents do not grow a height in percent past its ratio",
		small,
		`<div id=a style="aspect-ratio:2;width:60px;height:20%">x<br>x<br>x<br>x</div>`,
		"a 0,0 60×30",
	},
	{
		"percent of a limited ratio",
		small,
		`<div id=a style="aspect-ratio:1;width:60px;max-height:20px"><div id=b style="height:50%"></div></div>`,
		"a 0,0 60×20; b 0,0 60×10",
	},
	{
		"a greatest width by the ratio",
		small,
		`<div id=a style="height:40px;aspect-ratio:1/2;max-width:max-content"></div>`,
		"a 0,0 20×40",
	},
	{
		"padding in percent and box-sizing",
		small,
		`<div id=a style="display:inline-block;padding:5%;box-sizing:border-box;min-width:30px"></div>`,
		"a 0,0 40×40",
	},
	{
		"the baseline of a stretched table",
		small,
		`<table id=t style="display:inline-table;border-spacing:0;height:20px"><tr><td id=a></td></tr></table>`,
		"t 0,0 2×20; a 0,0 2×20",
	},
	{
		"least width max-content of a table",
		small,
		`<table id=t style="border-spacing:0;width:30px;min-width:max-content"><tr><td id=a>xx xxx</td></tr></table>`,
		"t 0,0 30×14; a 0,0 30×14",
	},
	{
		"percent and padding in fixed layout",
		small,
		`<table id=t style="border-spacing:0;table-layout:fixed;width:100px"><tr><td id=a style="width:50%;padding:0 10px">x</td><td id=b>x</td></tr></table>`,
		"t 0,0 100×14; a 0,0 70×14; b 70,0 30×14",
	},
}
