package font

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"errors"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	gtfont "github.com/go-text/typesetting/font"
)

// woffOf packs a font file as WOFF 1.0, with tables deflated where that helps.
func woffOf(t *testing.T, ttf []byte) []byte {
	t.Helper()
	be := binary.BigEndian
	n := int(be.Uint16(ttf[4:]))
	head := make([]byte, 44+20*n)
	copy(head, "wOFF")
	copy(head[4:], ttf[:4])
	be.PutUint16(head[12:], uint16(n))
	var body bytes.Buffer
	for i := range n {
		entry := ttf[12+16*i:]
		data := ttf[be.Uint32(entry[8:]):][:be.Uint32(entry[12:])]
		var z bytes.Buffer
		w := zlib.NewWriter(&z)
		_, err := w.Write(data)
		require.NoError(t, err)
		require.NoError(t, w.Close())
		packed := data
		if z.Len() < len(data) {
			packed = z.Bytes()
		}
		to := head[44+20*i:]
		copy(to, entry[:4])
		be.PutUint32(to[4:], uint32(len(head)+body.Len()))
		be.PutUint32(to[8:], uint32(len(packed)))
		be.PutUint32(to[12:], uint32(len(data)))
		body.Write(packed)
		body.Write(make([]byte, -len(packed)&3))
	}
	return append(head, body.Bytes()...)
}

func TestWOFF(t *testing.T) {
	plain, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	packed := woffOf(t, liberationsansregular.TTF)
	assert.Less(t, len(packed), len(liberationsansregular.TTF)*3/4)
	f, err := Parse(packed, nil)
	require.NoError(t, err)
	assert.Equal(t, plain.Name, f.Name)
	assert.Equal(t, plain.NumGlyphs, f.NumGlyphs)
	for _, r := range "Aé€" {
		assert.Equal(t, plain.Advance(r), f.Advance(r), string(r))
	}
	for cut, want := range map[int]string{20: "too short", 60: "cut off", len(packed) / 2: "outside the file"} {
		_, err := Parse(packed[:cut], nil)
		assert.ErrorContains(t, err, want, "%d bytes", cut)
	}
	broken := bytes.Clone(packed)
	for i := len(broken) / 2; i < len(broken)/2+4000; i++ {
		broken[i] = 0
	}
	_, err = Parse(broken, nil)
	assert.Error(t, err)
}

func TestMeasures(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	assert.InDelta(t, 0.5806, f.MeanWidth, 0.001)
	assert.InDelta(t, 0.556, f.Advance('0'), 0.001)
	assert.InDelta(t, 0.905, f.Ascent, 0.001)
	assert.InDelta(t, 0.212, f.Descent, 0.001)
}

// A face is opened when a character needs it and not before; one that does not open is
// told once, and the next one serves.
func TestFacesOpenWhenNeeded(t *testing.T) {
	s := NewSet()
	opened := map[string]int{}
	var missing []string
	s.Missing = func(family string, err error) { missing = append(missing, family+": "+err.Error()) }
	add := func(name string, ranges [][2]rune, err error) {
		s.Add(&Source{Family: "Quay", WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Ranges: ranges, Open: func([]gtfont.Variation) (*Face, error) {
			opened[name]++
			if err != nil {
				return nil, err
			}
			return Parse(liberationsansregular.TTF, nil)
		}})
	}
	add("latin", [][2]rune{{0, 0xFF}}, nil)
	add("more", [][2]rune{{0x100, 0x24F}}, nil)
	add("broken", [][2]rune{{0x20AC, 0x20AC}}, errors.New("no such file"))
	q := Query{Families: []string{"quay"}, Weight: 400, Stretch: 100}
	assert.Equal(t, "LiberationSans", s.Primary(q).Face.Name)
	m, ok := s.For(q, 'x')
	assert.True(t, ok && m.Family() == "Quay" && m.src.covers('x') && !m.src.covers('ł'))
	assert.Equal(t, map[string]int{"latin": 1}, opened)
	m, ok = s.For(q, 'ł')
	assert.True(t, ok)
	assert.True(t, m.src.covers('ł'))
	for range 2 {
		m, ok = s.For(q, '€')
		assert.True(t, ok)
		assert.NotEqual(t, "Quay", m.Family(), "the built-in faces have it")
	}
	assert.Equal(t, map[string]int{"latin": 1, "more": 1, "broken": 1}, opened)
	assert.Equal(t, []string{"Quay: no such file"}, missing)
}

func TestLocal(t *testing.T) {
	s := NewSet()
	for name, want := range map[string]string{"Liberation Serif Bold Italic": "LiberationSerif-BoldItalic", "arial": "LiberationSans", "DejaVu Sans Mono Regular": "DejaVuSansMono", "Times New Roman Bold": "LiberationSerif-Bold"} {
		f := s.Local(name)
		if assert.NotNil(t, f, name) {
			assert.Equal(t, want, f.Name, name)
		}
	}
	assert.Nil(t, s.Local("No Such Face"))
}

// The nearest weight is found in the direction that the standard looks first
// (CSS Fonts 4, §5.2).
func TestNearestWeight(t *testing.T) {
	s := NewSet()
	for _, w := range []float64{200, 300, 500, 700, 900} {
		s.Add(&Source{Family: "Quay", WeightMin: w, WeightMax: w, StretchMin: 100, StretchMax: 100})
	}
	for want, nearest := range map[float64]float64{100: 200, 250: 200, 350: 300, 400: 500, 450: 500, 500: 500, 600: 700, 800: 900, 950: 900} {
		list := s.family("Quay", Query{Weight: want, Stretch: 100})
		require.Len(t, list, 1)
		assert.Equal(t, nearest, list[0].src.WeightMin, "%g", want)
		assert.Equal(t, want >= 600 && nearest < 600, list[0].Bold)
	}
}
