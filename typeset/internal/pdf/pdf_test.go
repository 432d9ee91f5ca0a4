package pdf

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

func TestNumbersAndText(t *testing.T) {
	for in, want := range map[float64]string{0: "0", 1.5: "1.5", -0.25: "-0.25", 12.34567: "12.3457", 1e-9: "0", -3: "-3"} {
		assert.Equal(t, want, num(in))
	}
	assert.Equal(t, `(a\(b\)\\)`, text(`a(b)\`))
	assert.Equal(t, "<FEFF00E4D83DDE00>", text("ä😀"))
}

func TestFile(t *testing.T) {
	var out bytes.Buffer
	w := New(&out)
	w.Outline = []OutlineItem{{Title: "One", Level: 1}, {Title: "Two", Level: 2}}
	p := w.AddPage(100, 50)
	p.Draw(func(c display.Canvas) {
		path := &display.Path{}
		path.Rect(display.Rect{W: 10, H: 10})
		c.Fill(path, display.Solid(style.RGB8(255, 0, 0)), false)
		c.Link(display.Rect{W: 5, H: 5}, "#there")
		c.Anchor("there", 1, 2)
	})
	require.NoError(t, w.Close())
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-1.7")))
	assert.True(t, bytes.HasSuffix(out.Bytes(), []byte("%%EOF\n")))
}
