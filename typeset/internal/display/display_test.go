package display

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSnapPutsEdgesOnTheGrid(t *testing.T) {
	a := Rect{X: 0, Y: 19.99968, W: 10, H: 5}.Snapped()
	b := Rect{X: 0, Y: 20, W: 10, H: 5}.Snapped()
	assert.Equal(t, b, a, "sums that ought to meet do meet")
	assert.InDelta(t, 10.328125, Snap(10.33), 1e-9)
}

func TestAsRect(t *testing.T) {
	p := &Path{}
	p.Rect(Rect{X: 1, Y: 2, W: 3, H: 4})
	r, ok := p.AsRect()
	assert.True(t, ok)
	assert.Equal(t, Rect{X: 1, Y: 2, W: 3, H: 4}, r)
	p.Rect(Rect{X: 9, Y: 9, W: 1, H: 1})
	_, ok = p.AsRect()
	assert.False(t, ok, "two rectangles are none")
	slanted := &Path{}
	slanted.MoveTo(0, 0)
	slanted.LineTo(5, 1)
	slanted.LineTo(5, 5)
	slanted.LineTo(0, 5)
	slanted.Close()
	_, ok = slanted.AsRect()
	assert.False(t, ok)
}

func TestCrop(t *testing.T) {
	im := &Image{Key: "k", W: 3, H: 2, Gray: true, RGB: []byte{1, 2, 3, 4, 5, 6}, Alpha: []byte{9, 8, 7, 6, 5, 4}}
	part := im.Crop(1, 0, 3, 2)
	assert.Equal(t, []byte{2, 3, 5, 6}, part.RGB)
	assert.Equal(t, []byte{8, 7, 5, 4}, part.Alpha)
	assert.NotEqual(t, im.Key, part.Key)
	assert.Equal(t, 2, im.Crop(1, 0, 99, 99).W, "no further than the image")
	assert.Nil(t, im.Crop(2, 0, 2, 2))
	assert.Nil(t, (&Image{W: 1, H: 1, JPEG: []byte{1}}).Crop(0, 0, 1, 1), "files that are passed through have no px at hand")
}

func TestRoundRectOfNoRadiusIsARectangle(t *testing.T) {
	p := &Path{}
	p.RoundRect(Rect{X: 1, Y: 1, W: 8, H: 6}, Radii{})
	_, ok := p.AsRect()
	assert.True(t, ok)
	q := &Path{}
	q.RoundRect(Rect{X: 1, Y: 1, W: 8, H: 6}, Radii{{2, 2}, {2, 2}, {2, 2}, {2, 2}})
	_, ok = q.AsRect()
	assert.False(t, ok)
	assert.Equal(t, Rect{X: 1, Y: 1, W: 8, H: 6}, q.Bounds())
}

func TestMatrix(t *testing.T) {
	m := Translate(10, 20)
	p := &Path{}
	p.Rect(Rect{W: 2, H: 3})
	assert.Equal(t, Rect{X: 10, Y: 20, W: 2, H: 3}, p.Transform(m).Bounds())
	assert.InDelta(t, 1, m.Det(), 1e-9)
}
