package layout

// shapeCases are pages of floats with shapes, as boxCases.
var shapeCases = []boxCase{
	{
		"shape: a circle, and what stands beside it",
		lineless + `#s{float:left;width:100px;height:100px;shape-outside:circle()}i{width:150px;height:20px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i><i id=e></i><i id=f></i><i id=g></i>`,
		"s 0,0 100×100; a 90,0 150×20; b 240,0 150×20; c 98.98,20 150×20; d 248.98,20 150×20; e 100,40 150×20; f 250,40 150×20; g 98.98,60 150×20",
	},
	{
		"shape: a triangle on the right",
		lineless + `#s{float:right;width:100px;height:100px;shape-outside:polygon(100% 0,100% 100%,0 100%)}i{width:300px;height:20px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i><i id=e></i><i id=f></i>`,
		"s 300,0 100×100; a 0,0 300×20; b 0,20 300×20; c 0,40 300×20; d 0,60 300×20; e 0,80 300×20; f 0,100 300×20",
	},
	{
		"shape: of the content box, with a margin around it",
		lineless + `#s{float:left;width:60px;height:60px;margin:10px;border:5px solid;padding:5px;shape-outside:inset(10px) content-box;shape-margin:8px}i{width:200px;height:15px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i><i id=e></i><i id=f></i><i id=g></i>`,
		"s 10,10 80×80; a 0,0 200×15; b 200,0 200×15; c 78,15 200×15; d 78,30 200×15; e 78,45 200×15; f 78,60 200×15; g 76.23,75 200×15",
	},
	{
		"shape: the rounded corners of the border box",
		lineless + `#s{float:left;width:100px;height:100px;border-radius:0 0 100px 0;shape-outside:border-box}i{width:150px;height:25px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i><i id=e></i><i id=f></i>`,
		"s 0,0 100×100; a 100,0 150×25; b 250,0 150×25; c 96.81,25 150×25; d 246.81,25 150×25; e 86.59,50 150×25; f 236.59,50 150×25",
	},
	{
		"shape: no wider than the margin box",
		lineless + `#s{float:left;width:50px;height:50px;shape-outside:circle(200px)}i{width:250px;height:20px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i>`,
		"s 0,0 50×50; a 50,0 250×20; b 50,20 250×20; c 50,40 250×20; d 0,60 250×20",
	},
	{
		"shape: other floats stand beside the whole box",
		lineless + `#s{float:left;width:100px;height:100px;shape-outside:circle(10px at 0 0)}#g{float:left;width:50px;height:30px}i{width:200px;height:20px}`,
		`<div id=s></div><div id=g></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i>`,
		"s 0,0 100×100; g 100,0 50×30; a 150,0 200×20; b 150,20 200×20; c 0,40 200×20; d 200,40 200×20",
	},
	{
		"shape: a line that is too wide goes down until there is room",
		lineless + `#s{float:left;width:200px;height:100px;shape-outside:polygon(0 0,100% 0,0 100%)}i{width:300px;height:20px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i>`,
		"s 0,0 200×100; a 100,50 300×20; b 60,70 300×20; c 20,90 300×20",
	},
	{
		"shape: beside nothing, above and below the shape",
		lineless + `#s{float:left;width:100px;height:100px;shape-outside:inset(40px 0)}i{width:210px;height:20px}`,
		`<div id=s></div><i id=a></i><i id=b></i><i id=c></i><i id=d></i><i id=e></i><i id=f></i><i id=g></i>`,
		"s 0,0 100×100; a 0,0 210×20; b 0,20 210×20; c 100,40 210×20; d 0,60 210×20; e 0,80 210×20; f 0,100 210×20; g 0,120 210×20",
	},
}
