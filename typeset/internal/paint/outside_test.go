package paint

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestOutside looks at positioned boxes whose containing block is around the group that
// they belong to: they are painted in the group, in its order, and cut as it is not.
func TestOutside(t *testing.T) {
	const inner = "<b style='position:absolute;top:5px;left:5px;width:10px;height:10px;background:red'></b>"
	const red = "fill 5,5 10×10 #ff0000"
	for _, c := range []struct{ name, html, want string }{
		{"faded with its group", "<div style='opacity:.5'>" + inner + "</div>", "group 0.5 \n" + red + "\nend"},
		{"blended with it", "<div style='mix-blend-mode:multiply'>" + inner + "</div>", "group 1 Multiply\n" + red + "\nend"},
		{"clipped with it", "<div style='height:20px;clip-path:inset(1px)'>" + inner + "</div>", "clip 1,1 198×18\n" + red},
		{
			"in its group's place in the order", "<div style='opacity:.5'>" + inner + "</div><i style='position:absolute;top:0;width:9px;height:9px;background:blue'></i>",
			"group 0.5 \n" + red + "\nend\nfill 0,0 9×9 #0000ff",
		},
		{
			"below what lies above its context", "<div style='display:flex'><p style='margin:0;z-index:1'><u style='opacity:.9'><b style='position:fixed;top:0;left:0;width:10px;height:10px;z-index:9;background:red'></b></u></p></div><i style='position:absolute;top:0;width:9px;height:9px;z-index:2;background:blue'></i>",
			"group 0.9 \nfill 0,0 10×10 #ff0000\nend\nfill 0,0 9×9 #0000ff",
		},
		{"not when the group contains it", "<div style='opacity:.5;position:relative;height:20px'>" + inner + "</div>", "group 0.5 \n" + red + "\nend"},
		{
			"what is in it goes along", "<div style='opacity:.5'><b style='position:absolute;top:0;left:0;width:10px;height:10px'><i style='position:absolute;top:2px;left:2px;width:4px;height:4px;background:red'></i></b></div>",
			"group 0.5 \nfill 2,2 4×4 #ff0000\nend",
		},
		{
			"what cuts the group off does not cut the box", "<div style='overflow:hidden;height:2px'><div style='opacity:.5'>" + inner + "</div></div>",
			"clip 0,0 200×2\ngroup 0.5 \nend\ngroup 0.5 \n" + red + "\nend",
		},
	} {
		assert.Contains(t, one(t, c.html), c.want, c.name)
	}
}
