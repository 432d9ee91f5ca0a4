package picture

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
)

func TestDecode(t *testing.T) {
	im := image.NewNRGBA(image.Rect(0, 0, 4, 2))
	im.Set(0, 0, color.NRGBA{255, 0, 0, 128})
	var p, j bytes.Buffer
	require.NoError(t, png.Encode(&p, im))
	require.NoError(t, jpeg.Encode(&j, im, nil))
	pic, err := Decode(p.Bytes())
	require.NoError(t, err)
	assert.Equal(t, 2.0, pic.Ratio)
	assert.Equal(t, byte(128), pic.Image.Alpha[0])
	pic, err = Decode(j.Bytes())
	require.NoError(t, err)
	assert.Equal(t, j.Bytes(), pic.Image.JPEG, "JPEG is passed through")
	for _, bad := range [][]byte{nil, []byte("text"), p.Bytes()[:40]} {
		_, err := Decode(bad)
		assert.Error(t, err)
	}
}

func TestPathData(t *testing.T) {
	for in, want := range map[string]display.Rect{"M1 2h3v4z": {X: 1, Y: 2, W: 3, H: 4}, "m1,2 3,0 0 4": {X: 1, Y: 2, W: 3, H: 4}, "M0 0L10-5": {X: 0, Y: -5, W: 10, H: 5}, "L5 5": {}, "M1 1 bad": {X: 1, Y: 1}} {
		assert.Equal(t, want, ParsePath(in).Bounds(), in)
	}
	arc := ParsePath("M0 0A5 5 0 0110 0").Bounds()
	assert.InDelta(t, 10, arc.W, 0.01)
}

func TestDataURI(t *testing.T) {
	data, mime, err := DataURI("data:text/css;base64,YQ==")
	require.NoError(t, err)
	assert.Equal(t, "a", string(data))
	assert.Equal(t, "text/css", mime)
	_, _, err = DataURI("data:nothing")
	assert.Error(t, err)
}

func FuzzPath(f *testing.F) {
	f.Add("M0 0A1 1 0 0 1 5 5zl.5.5")
	f.Fuzz(func(t *testing.T, s string) { ParsePath(s) })
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte("GIF89a"))
	f.Fuzz(func(t *testing.T, b []byte) { Decode(b) })
}
