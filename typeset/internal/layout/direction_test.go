package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestDirectionOfLines sets squares between letters and spaces without width, in lines of
// both directions.
func TestDirectionOfLines(t *testing.T) {
	const css = "body { margin: 0 } div { font: 0/0 serif; white-space: pre-wrap } i { display: inline-block; width: 10px; height: 10px; vertical-align: bottom }"
	cases := []struct{ name, html, want string }{
		{
			"each paragraph of plain text has its own (Writing Modes 4, §2.4.2)", "<div style='unicode-bidi:plaintext;width:50px'>a<i id=a></i>\nא<i id=b></i>\nc<i id=c></i></div>",
			"a 0,0 10×10\nb 40,10 10×10\nc 0,20 10×10",
		},
		{
			"so it is aligned", "<div style='unicode-bidi:plaintext;text-align:end;width:50px'>a<i id=a></i>\nא<i id=b></i></div>",
			"a 40,0 10×10\nb 0,10 10×10",
		},
		{
			"an override goes on in the next paragraph", "<div dir=rtl style='unicode-bidi:bidi-override;width:50px'>x<i id=a></i><i id=b></i>x\nx<i id=c></i><i id=d></i>x</div>",
			"b 30,0 10×10\na 40,0 10×10\nd 30,10 10×10\nc 40,10 10×10",
		},
		{
			"so does that of a box in the lines", "<div style='width:50px'>x<bdo dir=rtl>x<i id=a></i><i id=b></i>x\nx<i id=c></i><i id=d></i>x</bdo></div>",
			"b 0,0 10×10\na 10,0 10×10\nd 0,10 10×10\nc 10,10 10×10",
		},
		{
			"what hangs at the end of a line is not spread (Text 3, §6.4)", "<div style='direction:rtl;text-align:justify;width:25px'><i id=a></i> <i id=b></i> <i id=c></i></div>",
			"b 0,0 10×10\na 15,0 10×10\nc 15,10 10×10",
		},
		{
			"nor are spaces of boxes that are not to be", "<div style='text-align:justify;width:50px'><i id=a></i> <span style='text-justify:none'><i id=b></i> <i id=c></i></span> <i id=d></i> <i id=e style='width:50px'></i></div>",
			"a 0,0 10×10\nb 15,0 10×10\nc 25,0 10×10\nd 40,0 10×10\ne 0,10 50×10",
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			l, root := tree(t, c.html, css)
			page, rest := l.LayPage(root, 400, 300, 0, 0, nil)
			assert.Nil(t, rest)
			assert.Equal(t, c.want, strings.TrimSpace(dump(page)))
		})
	}
}
