package picture

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// profile makes the head of an ICC profile for a colour space, with something in it.
func profile(space string, size int) []byte {
	icc := make([]byte, size)
	binary.BigEndian.PutUint32(icc, uint32(size))
	copy(icc[16:], space)
	copy(icc[36:], "acsp")
	copy(icc[132:], strings.Repeat("table", size)[:size-132])
	return icc
}

// withSegment puts a segment behind the mark that a JPEG file begins with.
func withSegment(file []byte, marker byte, data string) []byte {
	out := append([]byte{}, file[:2]...)
	out = append(out, 0xFF, marker)
	out = binary.BigEndian.AppendUint16(out, uint16(len(data)+2))
	return append(append(out, data...), file[2:]...)
}

func pictureOf(c color.Color) image.Image {
	im := image.NewRGBA(image.Rect(0, 0, 2, 2))
	for i := range 4 {
		im.Set(i%2, i/2, c)
	}
	return im
}

func packed(data []byte) string {
	var b bytes.Buffer
	z := zlib.NewWriter(&b)
	_, _ = z.Write(data)
	_ = z.Close()
	return "name\x00\x00" + b.String()
}

func TestProfileOfPNG(t *testing.T) {
	icc := profile("RGB ", 400)
	for name, c := range map[string]struct {
		color  color.Color
		chunk  string
		want   []byte
		inGray bool
	}{
		"colours":                 {color.RGBA{200, 0, 0, 255}, packed(icc), icc, false},
		"greys of an RGB profile": {color.Gray{80}, packed(icc), icc, false},
		"greys of their own":      {color.Gray{80}, packed(profile("GRAY", 300)), profile("GRAY", 300), true},
		"a profile for paper":     {color.RGBA{200, 0, 0, 255}, packed(profile("CMYK", 300)), nil, false},
		"cut short":               {color.RGBA{200, 0, 0, 255}, packed(icc[:200]), nil, false},
		"not packed":              {color.RGBA{200, 0, 0, 255}, "name\x00\x00" + string(icc), nil, false},
		"without data":            {color.RGBA{200, 0, 0, 255}, "name", nil, false},
	} {
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, pictureOf(c.color)))
		pic, err := Decode(withChunk(t, b.Bytes(), "iCCP", c.chunk))
		require.NoError(t, err, name)
		assert.Equal(t, c.want, pic.Image.Profile, name)
		assert.Equal(t, c.inGray, pic.Image.Gray, name)
	}
}

// The pieces of a profile may stand in any order.
func TestProfileOfJPEG(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, pictureOf(color.RGBA{200, 0, 0, 255}), nil))
	icc := string(profile("RGB ", 900))
	file := withSegment(b.Bytes(), 0xE2, "ICC_PROFILE\x00\x01\x02"+icc[:500])
	whole := withSegment(withSegment(file, 0xE2, "ICC_PROFILE\x00\x02\x02"+icc[500:]), 0xE2, "another")
	for _, c := range []struct {
		file []byte
		want []byte
	}{{b.Bytes(), nil}, {file, nil}, {whole, []byte(icc)}} {
		pic, err := Decode(c.file)
		require.NoError(t, err)
		assert.Equal(t, c.want, pic.Image.Profile)
		assert.Equal(t, c.file, pic.Image.JPEG)
	}
}
