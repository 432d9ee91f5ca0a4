package layout

// controlCases are pages of form controls, as boxCases.
var controlCases = []boxCase{
	{
		"input id=a value=Ann x",
		small,
		`<input id=a value=Ann> x`,
		"a 0,0 177×21",
	},
	{
		"input id=a type=checkbox checked input id=b type=radio x",
		small,
		`<input id=a type=checkbox checked> <input id=b type=radio> x`,
		"a 4,3 13×13; b 27.78,3 13×13",
	},
	{
		"button id=a Print /button x",
		small,
		`<button id=a>Print</button> x`,
		"a 0,0 43.41×21",
	},
	{
		"input id=a type=submit value=Send x",
		small,
		`<input id=a type=submit value=Send> x`,
		"a 0,0 47.14×21",
	},
	{
		"input id=a type=button x",
		small,
		`<input id=a type=button> x`,
		"a 0,0 16×21",
	},
	{
		"fieldset id=a legend id=b Head /legend input id=c /fieldset",
		small,
		`<fieldset id=a><legend id=b>Head</legend><input id=c></fieldset>`,
		"a 2,0 396×44.75; b 11.5,0 27.91×12; c 11.5,15.5 177×21",
	},
	{
		"select id=a style= font:inherit;padding:6px 12px;border:1px ",
		small,
		`<select id=a style="font:inherit;padding:6px 12px;border:1px solid;width:100%"><option>B12</select> x`,
		"a 0,0 400×27",
	},
	{
		"input id=a style= font:inherit;line-height:1.5;padding:6px 1",
		small,
		`<input id=a style="font:inherit;line-height:1.5;padding:6px 12px;border:1px solid;width:100%" value=x> x`,
		"a 0,0 426×29",
	},
	{
		"button id=a style= font:inherit;line-height:1.5;padding:6px ",
		small,
		`<button id=a style="font:inherit;line-height:1.5;padding:6px 12px;border:1px solid">Print</button> x`,
		"a 0,0 46.56×29",
	},
	{
		"label id=l input id=a type=checkbox style= margin-right:4px ",
		small,
		`<label id=l><input id=a type=checkbox style="margin-right:4px"> Paid</label>`,
		"a 4,3 13×13",
	},
	{
		"input id=a type=checkbox style= width:20px;height:20px x",
		small,
		`<input id=a type=checkbox style="width:20px;height:20px"> x`,
		"a 4,3 20×20",
	},
	{
		"input id=a type=search value=x input id=b type=email input i",
		small,
		`<input id=a type=search value=x> <input id=b type=email> <input id=c type=password value=xx> x`,
		"a 0,0 177×21; b 179.78,0 177×21; c 0,21 177×21",
	},
	{
		"input id=a type=text size=5 x",
		small,
		`<input id=a type=text size=5> x`,
		"a 0,0 57×21",
	},
	{
		"select id=a style= display:block;width:100% optgroup label= ",
		small,
		`<select id=a style="display:block;width:100%"><optgroup label="Group"><option>One</optgroup><option>Two two</select>`,
		"a 0,0 400×19",
	},
	{
		"input id=a style= line-height:30px x",
		small,
		`<input id=a style="line-height:30px"> x`,
		"a 0,0 177×36",
	},
	{
		"button id=a style= width:80px;height:50px x /button button i",
		small,
		`<button id=a style="width:80px;height:50px">x</button> <button id=b style="display:flex;width:80px;height:40px;align-items:center"><i id=c style="display:block;width:5px;height:5px"></i></button>`,
		"a 0,0 80×50; b 0,50 80×40; c 8,67.5 5×5",
	},
	{
		"button id=b style= display:block A br B /button",
		small,
		`<button id=b style="display:block">A<br>B</button>`,
		"b 0,0 24.89×36",
	},
	{
		"div style= display:flex;flex-direction:column;width:200px in",
		small,
		`<div style="display:flex;flex-direction:column;width:200px"><input id=a><select id=b><option>x</select><button id=c>x</button></div>`,
		"a 0,0 200×21; b 0,21 200×19; c 0,40 200×21",
	},
	{
		"button id=a style= width:80px;height:50px i id=c style= disp",
		small,
		`<button id=a style="width:80px;height:50px"><i id=c style="display:inline-block;width:5px;height:5px"></i></button>`,
		"a 0,0 80×50; c 37.5,24.5 5×5",
	},
	{
		"div style= height:60px;position:relative dialog id=a open st",
		small,
		`<div style="height:60px;position:relative"><dialog id=a open style="width:100px;height:20px;padding:0">x</dialog></div>`,
		"a 147,0 106×26",
	},
}
