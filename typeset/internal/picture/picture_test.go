package picture

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
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
	for address, want := range map[string]string{
		"data:,a%20b%C3%A4":                        "a bä",
		"data:image/svg+xml,<svg width='100%'/>":   "<svg width='100%'/>", // not an escape
		"data:,50%,%2,%zz%41%":                     "50%,%2,%zzA%",
		"data:text/plain;charset=utf-8;BASE64,Y Q": "a",
		"data:;base64,%59%51%3D%3D":                "a",
	} {
		data, _, err := DataURI(address)
		require.NoError(t, err, address)
		assert.Equal(t, want, string(data), address)
	}
	for _, bad := range []string{"data:nothing", "data:;base64,§"} {
		_, _, err = DataURI(bad)
		assert.Error(t, err, bad)
	}
}

func FuzzPath(f *testing.F) {
	f.Add("M0 0A1 1 0 0 1 5 5zl.5.5")
	f.Fuzz(func(t *testing.T, s string) { ParsePath(s) })
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte("GIF89a"))
	f.Fuzz(func(t *testing.T, b []byte) { Decode(b) })
}

// withOrientation puts an eXIf chunk into a PNG file.
func withOrientation(t *testing.T, file []byte, o byte) []byte {
	t.Helper()
	return withChunk(t, file, "eXIf", string([]byte{'M', 'M', 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, o, 0, 0, 0, 0, 0, 0}))
}

// withChunk puts a chunk into a PNG file, after its header.
func withChunk(t *testing.T, file []byte, kind, data string) []byte {
	t.Helper()
	var chunk bytes.Buffer
	require.NoError(t, binary.Write(&chunk, binary.BigEndian, uint32(len(data))))
	body := []byte(kind + data)
	chunk.Write(body)
	require.NoError(t, binary.Write(&chunk, binary.BigEndian, crc32.ChecksumIEEE(body)))
	const header = 8 + 25
	return append(append(append([]byte(nil), file[:header]...), chunk.Bytes()...), file[header:]...)
}

func TestOrientation(t *testing.T) {
	im := image.NewNRGBA(image.Rect(0, 0, 3, 1))
	im.Set(0, 0, color.NRGBA{255, 0, 0, 255})
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, im))
	p, err := Decode(withOrientation(t, file.Bytes(), 6))
	require.NoError(t, err)
	assert.Equal(t, [2]float64{1, 3}, [2]float64{p.W, p.H}, "a quarter turn")
	assert.Equal(t, 3.0, p.Turned(false).W, "as it is stored")
	assert.Same(t, p, p.Turned(true))
	plain, err := Decode(file.Bytes())
	require.NoError(t, err)
	assert.Same(t, plain, plain.Turned(false))
	cut := withOrientation(t, file.Bytes(), 6)[:40]
	_, err = Decode(cut)
	assert.Error(t, err)
}

// boxes notes where pictures are drawn.
type boxes struct {
	display.Canvas
	at []display.Rect
}

func (b *boxes) Save()                                   {}
func (b *boxes) Restore()                                {}
func (b *boxes) Clip(*display.Path, bool)                {}
func (b *boxes) Image(_ *display.Image, to display.Rect) { b.at = append(b.at, to) }

func TestPartOfAPicture(t *testing.T) {
	whole := &Picture{W: 100, H: 50, Image: &display.Image{}}
	part := whole.Part(display.Rect{X: 25, Y: 10, W: 50, H: 20})
	assert.Equal(t, 2.5, part.Ratio)
	c := &boxes{}
	part.Paint(c, display.Rect{X: 0, Y: 0, W: 100, H: 40})
	assert.Equal(t, []display.Rect{{X: -50, Y: -20, W: 200, H: 100}}, c.at, "twice as large, its part in the box")
	assert.Same(t, whole, whole.Part(display.Rect{}))
}
