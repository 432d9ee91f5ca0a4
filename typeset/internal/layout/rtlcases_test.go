package layout

// right is for boxes whose lines run from the right.
const right = ".r{direction:rtl;width:300px}"

// rtlCases are pages that run from right to left, and what was found beside them, as boxCases.
var rtlCases = []boxCase{
	{
		"over-constrained from the right: margins leave no room",
		lineless + right + `#a{margin:0 160px;border-left:1px solid;height:5px}#b{margin:0 0 0 -20px;width:400px;height:5px}`,
		`<div class=r><div id=a></div><div id=b></div></div>`,
		"a 139,0 1×5; b -100,5 400×5",
	},
	{
		"auto margins without room from the right",
		lineless + right + `#a,#b,#c{width:350px;height:5px}#a{margin:auto}#b{margin-left:auto}#c{margin-right:auto}`,
		`<div class=r><div id=a></div><div id=b></div><div id=c></div></div>`,
		"a -50,0 350×5; b -50,5 350×5; c -50,10 350×5",
	},
	{
		"a context beside a float from the right",
		lineless + right + `#f{float:left;width:60px;height:20px}#a{display:flex;height:10px;max-width:100px;margin:auto}#b{overflow:hidden;height:10px}`,
		`<div class=r><div id=f></div><div id=a></div><div id=b></div></div>`,
		"f 0,0 60×20; a 130,0 100×10; b 60,10 240×10",
	},
	{
		"a context with a negative margin beside a float",
		lineless + `#f{float:left;width:60px;height:20px}#a{overflow:hidden;height:10px;margin-right:-30px}`,
		`<div style="width:300px"><div id=f></div><div id=a></div></div>`,
		"f 0,0 60×20; a 60,0 240×10",
	},
	{
		"a moved float from the right",
		lineless + right + `#f{float:left;position:relative;left:10px;right:20px;width:60px;height:20px}`,
		`<div class=r><div id=f></div></div>`,
		"f -20,0 60×20",
	},
	{
		"what is too long for its line begins at its start",
		lineless + `#w{direction:rtl;width:100px}#w i{width:130px;height:5px}`,
		`<div id=w><div style="text-align:left"><i id=a></i></div><div style="text-align:center"><i id=b></i></div><div style="text-align:right"><i id=c></i></div><div style="text-align:justify"><i id=d></i></div></div>`,
		"w 0,0 100×20; a -30,0 130×5; b -30,5 130×5; c -30,10 130×5; d -30,15 130×5",
	},
	{
		"collapsed borders from the right",
		small + right + `table{border-collapse:collapse}td{padding:0;width:20px;height:10px}#a{border-left:4px solid}#b{border-right:8px solid}`,
		`<div class=r><table id=t><tr><td id=a></td><td id=b></td></tr><tr style="border:2px solid"><td id=c></td><td id=d></td></tr></table></div>`,
		"t 250,0 50×24; a 275,0 24×11; b 251,0 24×11; c 275,11 24×12; d 251,11 24×12",
	},
	{
		"captions from the right",
		lineless + right + `table{width:200px}caption{width:50px;height:10px}#b{margin:auto}`,
		`<div class=r><table id=t><caption id=a></caption><caption id=b></caption></table></div>`,
		"t 100,0 200×20; a 250,0 50×10; b 175,10 50×10",
	},
	{
		"columns without room from the right",
		lineless + right + `#m{columns:2;column-gap:10px;padding-right:300px}#a,#b{height:10px;width:5px;break-inside:avoid}`,
		`<div class=r><div id=m><div id=a></div><div id=b></div></div></div>`,
		"m 0,0 300×10; a -5,0 5×10; b -15,0 5×10",
	},
	{
		"what spans columns from the right",
		lineless + right + `#m{columns:2}#a{column-span:all;width:100px;height:10px}`,
		`<div class=r><div id=m><div id=a></div></div></div>`,
		"m 0,0 300×10; a 200,0 100×10",
	},
	{
		"a legend stands at the start",
		lineless + right + `fieldset{margin:0;padding:0 10px;border:2px solid;height:20px}legend{padding:0;width:50px;height:10px}#b{margin-left:auto;margin-right:5px}`,
		`<div class=r><fieldset><legend id=a></legend></fieldset><fieldset><legend id=b></legend></fieldset><fieldset><legend id=c align=center></legend></fieldset><fieldset><legend id=d align=left></legend></fieldset></div>`,
		"a 238,0 50×10; b 233,24 50×10; c 125,48 50×10; d 12,72 50×10",
	},
	{
		"a block that is not in flow begins below what is on the line",
		lineless + right + `i{width:20px;height:10px}#a{position:absolute;width:5px;height:5px}`,
		`<div class=r><i></i><i></i><div id=a></div><i></i></div>`,
		"a 295,10 5×5",
	},
	{
		"an inline box that goes over lines contains what is positioned",
		lineless + right + `i{width:60px;height:10px}#a{position:absolute;left:0;right:0;top:0;bottom:0}`,
		`<div class=r style="width:100px"><i></i> <span style="position:relative"><i style="width:30px"></i> <i></i> <i></i><div id=a></div></span></div>`,
		"a 40,10 0×20",
	},
	{
		"positioned rows and cells",
		small + `table{border-spacing:2px}td{padding:0;width:20px;height:10px}.p{position:absolute}`,
		`<table id=t><tr><td id=a><td id=b class=p><td id=c><tr><td id=d><tr id=e class=p><td id=f></tr><tr><td id=g></table><table id=u><tbody id=h class=p><tr><td id=i></tbody></table>`,
		"t 0,0 48×40; a 2,2 20×10; b 24,2 20×10; c 26,2 20×10; d 2,14 20×10; e 2,26 24×14; f 4,28 20×10; g 2,28 20×10; u 0,40 4×4; h 2,42 24×14; i 4,44 20×10",
	},
	{
		"positioned rows and cells from the right",
		small + right + `table{border-spacing:2px}td{padding:0;width:20px;height:10px}.p{position:absolute}`,
		`<div class=r><table id=t><tr><td id=a><td id=b class=p><td id=c><tr><td id=d><tr id=e class=p><td id=f></tr><tr><td id=g></table></div>`,
		"t 252,0 48×40; a 278,2 20×10; b 256,2 20×10; c 254,2 20×10; d 278,14 20×10; e 274,26 24×14; f 276,28 20×10; g 278,28 20×10",
	},
	{
		"a flex item that is a table is no narrower than its columns",
		small + right + `#f{display:flex;flex-direction:column;width:100px}td{padding:0;width:120px;height:10px}`,
		`<div class=r><div id=f><table id=t><td id=a></table></div></div>`,
		"f 200,0 100×14; t 200,0 100×14; a 202,2 96×10",
	},
	{
		"items without room ignore their auto margins",
		lineless + right + `#g{display:grid;grid-template-columns:30px;justify-items:end}#f{display:flex;flex-direction:column;width:30px;align-items:end}#g div,#f div{width:50px;height:5px}`,
		`<div class=r><div id=g><div id=a style="margin:auto"></div><div id=b style="margin-left:auto"></div></div><div id=f><div id=c style="margin:auto"></div><div id=d style="margin-right:auto"></div></div></div>`,
		"g 0,0 300×10; a 250,0 50×5; b 250,5 50×5; f 270,10 30×10; c 250,10 50×5; d 250,15 50×5",
	},
	{
		"columns in percent leave room for those in px in fixed layout",
		small + `table{table-layout:fixed;border-spacing:0;width:100px}td{padding:0;height:10px}`,
		`<table><td id=a style="width:90%"><td id=b style="width:30px"></table><table><td id=c style="width:100%;padding:0 10px"><td id=d></table><table id=t style="width:20px"><td id=e style="width:90%"><td id=f style="width:30px"></table>`,
		"a 0,0 70×10; b 70,0 30×10; c 0,10 100×10; d 100,10 0×10; t 0,20 30×10; e 0,20 0×10; f 0,20 30×10",
	},
	{
		"cloned edges take room on each line",
		lineless + `i{width:30px;height:10px}span{box-decoration-break:clone;-webkit-box-decoration-break:clone;padding:0 20px}`,
		`<div style="width:100px"><span><i id=a></i> <i id=b></i> <i id=c></i></span></div><div style="width:100px;text-align:right"><span><i id=d></i> <i id=e></i> <i id=f></i></span></div>`,
		"a 20,0 30×10; b 50,0 30×10; c 20,10 30×10; d 20,20 30×10; e 50,20 30×10; f 50,30 30×10",
	},
}
