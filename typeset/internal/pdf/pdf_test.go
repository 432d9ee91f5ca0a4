package pdf

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

func TestText(t *testing.T) {
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
		c.Link(display.Rect{W: 5, H: 5}, display.Link{Address: "#there"})
		c.Anchor("there", 1, 2)
	})
	require.NoError(t, w.Close())
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-1.7")))
	assert.True(t, bytes.HasSuffix(out.Bytes(), []byte("%%EOF\n")))
}
