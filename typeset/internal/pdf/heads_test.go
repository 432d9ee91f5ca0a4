package pdf_test

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
	"oliveledger/typeset/internal/style"
)

// headed writes pages that begin with a head and go on with their own line.
func headed(t *testing.T, heads ...string) *pdfread.File {
	t.Helper()
	var out bytes.Buffer
	w := pdf.New(&out)
	w.Unclaimed = true
	for i, h := range heads {
		w.AddPage(200, 100).Draw(func(c display.Canvas) {
			for k := range 60 {
				c.Fill(square(float64(len(h)), float64(k), 1, 1), display.Solid(style.RGB8(255, 0, 0)), false)
			}
			c.Fill(square(float64(i), 90, 5, 5), display.Solid(style.RGB8(0, 0, 255)), false)
		})
	}
	require.NoError(t, w.Close())
	f, err := pdfread.Open(out.Bytes(), "")
	require.NoError(t, err)
	return f
}

// How pages begin is written once for all that begin so, each in turn with others too; what
// they show stays the same.
func TestPagesShareTheirHead(t *testing.T) {
	f := headed(t, "a", "a", "bb", "bb", "a", "ccc")
	pages, err := f.Pages()
	require.NoError(t, err)
	var streams []string
	for i, p := range pages {
		list, _ := f.Resolve(p.Dict["Contents"]).(pdfread.Array)
		var names []string
		for _, o := range list {
			names = append(names, strconv.Itoa(o.(pdfread.Ref).Num))
		}
		streams = append(streams, strings.Join(names, " "))
		data, err := f.Contents(p)
		require.NoError(t, err)
		assert.Equal(t, 61, strings.Count(string(data), " re"), "page %d", i+1)
		assert.Contains(t, string(data), fmt.Sprintf("%d 90 5 5 re", i))
	}
	head := func(i int) string { return strings.Fields(streams[i])[0] }
	assert.NotContains(t, streams[0], " ", "nothing came before it")
	assert.Contains(t, streams[1], " ")
	assert.Equal(t, head(1), head(4), "found again after other pages")
	assert.NotEqual(t, head(1), head(3))
	assert.NotContains(t, streams[5], " ", "no page before began so")
}

// What is drawn under the rest stays there, also when it is several streams.
func TestDrawnAtAMark(t *testing.T) {
	var out bytes.Buffer
	w := pdf.New(&out)
	w.Unclaimed = true
	for range 3 {
		p := w.AddPage(200, 100)
		mark := p.Mark()
		p.Draw(func(c display.Canvas) { c.Fill(square(1, 1, 1, 1), display.Solid(style.RGB8(1, 1, 1)), false) })
		p.DrawAt(mark, func(c display.Canvas) {
			for k := range 60 {
				c.Fill(square(2, float64(k), 2, 2), display.Solid(style.RGB8(255, 0, 0)), false)
			}
		})
	}
	require.NoError(t, w.Close())
	f, err := pdfread.Open(out.Bytes(), "")
	require.NoError(t, err)
	pages, err := f.Pages()
	require.NoError(t, err)
	for _, p := range pages {
		data, err := f.Contents(p)
		require.NoError(t, err)
		assert.Less(t, strings.LastIndex(string(data), " 2 2 re"), strings.Index(string(data), "1 1 1 1 re"))
	}
}
