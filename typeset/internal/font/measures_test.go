package font

import (
	"encoding/binary"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// patched is a font with other bytes at a place of one of its tables.
func patched(t *testing.T, data []byte, tag string, at int, bytes ...byte) []byte {
	t.Helper()
	out := append([]byte(nil), data...)
	table := sfntTables(out)[tag]
	require.Greater(t, len(table), at+len(bytes)-1, tag)
	copy(table[at:], bytes)
	return out
}

// shortened is a font one of whose tables ends early.
func shortened(t *testing.T, data []byte, tag string, size int) []byte {
	t.Helper()
	out := append([]byte(nil), data...)
	for r := 12; r < 12+16*u16(out, 4); r += 16 {
		if string(out[r:r+4]) == tag {
			binary.BigEndian.PutUint32(out[r+12:], uint32(size))
			return out
		}
	}
	require.Fail(t, "no table "+tag)
	return nil
}

// TestTablesOfAFile cuts a font off: tables that are not whole are not there.
func TestTablesOfAFile(t *testing.T) {
	data := plainFont(t)
	all := sfntTables(data)
	require.Greater(t, len(all), 8)
	for _, size := range []int{0, 1, 4, 11} {
		assert.Empty(t, sfntTables(data[:size]), "%d", size)
	}
	ends := map[string]int{}
	for r := 12; r < 12+16*u16(data, 4); r += 16 {
		ends[string(data[r:r+4])] = int(u32(data, r+8) + u32(data, r+12))
	}
	for tag, end := range ends {
		assert.Contains(t, sfntTables(data[:end]), tag)
		assert.NotContains(t, sfntTables(data[:end-1]), tag)
	}
	one := make([]byte, 40) // a directory that names two tables, and has room for one, which is empty
	binary.BigEndian.PutUint16(one[4:], 2)
	copy(one[12:], "aaaa")
	copy(one[28:], "bbbb")
	assert.Equal(t, map[string][]byte{"aaaa": {}}, sfntTables(one))
	assert.Equal(t, map[string][]byte{"aaaa": {}}, sfntTables(one[:28]))
	assert.Empty(t, sfntTables(one[:27]))
	set := append(append([]byte("ttcf"), make([]byte, 8)...), 0, 0, 0, 20)
	set = append(append(set, 0, 0, 0, 0), one...)
	assert.Equal(t, map[string][]byte{"aaaa": {}}, sfntTables(set), "the first font of a collection")
}

// TestMeasuresOfAFace: where ascent, descent and the like come from (CSS Inline 3, Appendix A).
func TestMeasuresOfAFace(t *testing.T) {
	data := patched(t, plainFont(t), "OS/2", 62, 0, 0x40) // nothing said of them, upright
	face := func(data []byte) *Face {
		f, err := Parse(data, nil)
		require.NoError(t, err)
		return f
	}
	at := func(tag string, at int) float64 { return i16(sfntTables(data)[tag], at) }
	plain := face(data)
	u := plain.Upem
	assert.Equal(t, []float64{at("hhea", 4) / u, -at("hhea", 6) / u, max(at("hhea", 8), 0) / u}, []float64{plain.Ascent, plain.Descent, plain.LineGap})
	assert.Equal(t, []float64{at("OS/2", 86) / u, at("OS/2", 88) / u}, []float64{plain.XHeight, plain.CapHeight})

	typo := patched(t, data, "OS/2", 68, 0x03, 0x20, 0xff, 0x38, 0x00, 0x64) // 800, -200, 100
	assert.Equal(t, plain.Ascent, face(typo).Ascent, "unless the font says so, they are not asked")
	typo = patched(t, typo, "OS/2", 62, 0x00, 0x80)
	f := face(typo)
	assert.Equal(t, []float64{800 / u, 200 / u, 100 / u}, []float64{f.Ascent, f.Descent, f.LineGap})
	none := patched(t, typo, "OS/2", 68, 0, 0, 0, 0, 0, 0)
	assert.Equal(t, plain.Ascent, face(none).Ascent, "typographic ones that say nothing")
	half := patched(t, typo, "OS/2", 68, 0x03, 0x20, 0, 0, 0, 0)
	assert.Equal(t, []float64{800 / u, 0}, []float64{face(half).Ascent, face(half).Descent})

	bare := patched(t, data, "hhea", 4, 0, 0, 0, 0, 0, 0)
	bare = patched(t, bare, "OS/2", 68, 0x03, 0x20, 0xff, 0x38, 0xff, 0x9c) // a gap below 0
	f = face(bare)
	assert.Equal(t, []float64{800 / u, 200 / u, 0}, []float64{f.Ascent, f.Descent, f.LineGap}, "without others they count")
	bare = patched(t, bare, "OS/2", 68, 0, 0, 0, 0, 0, 0, 0x03, 0x84, 0x01, 0x2c) // 900, 300
	f = face(bare)
	assert.Equal(t, []float64{900 / u, 300 / u}, []float64{f.Ascent, f.Descent}, "and at last those of the clipped box")

	low := patched(t, data, "OS/2", 86, 0, 100, 0, 200)
	assert.Equal(t, []float64{100 / u, 200 / u}, []float64{face(low).XHeight, face(low).CapHeight})
	assert.Equal(t, 100/u, face(patched(t, low, "OS/2", 0, 0, 2)).XHeight, "from the second version on")
	old := face(patched(t, low, "OS/2", 0, 0, 1)) // whose table has no such fields
	assert.InDelta(t, plain.XHeight, old.XHeight, 0.02, "of the letter x itself")
	assert.InDelta(t, plain.CapHeight, old.CapHeight, 0.02)

	assert.Equal(t, "Font", face(shortened(t, data, "name", 0)).Name, "of a file that does not tell its name")

	slanted := patched(t, data, "post", 4, 0xff, 0xf4, 0x80, 0x00) // -11.5
	assert.Equal(t, -11.5, face(slanted).ItalicAngle)
	assert.False(t, face(slanted).Fixed)
	assert.True(t, face(patched(t, data, "post", 12, 0, 0, 0, 1)).Fixed)
	assert.Equal(t, -11.5, face(shortened(t, slanted, "post", 16)).ItalicAngle)
	assert.Equal(t, 0.0, face(shortened(t, slanted, "post", 15)).ItalicAngle)
	assert.False(t, plain.Italic)
	assert.True(t, face(patched(t, data, "OS/2", 62, 0, 1)).Italic)
	assert.True(t, face(patched(t, data, "head", 44, 0, 2)).Italic)
}

// TestDistancesOfFaces: how far a face is from what is asked for (CSS Fonts 4, §5.2): first on the one side, then on the other.
func TestDistancesOfFaces(t *testing.T) {
	for _, c := range []struct {
		lo, hi, want float64
		narrow       bool
		distance     float64
	}{
		{75, 100, 75, true, 0},
		{75, 100, 100, true, 0},
		{75, 100, 80, false, 0},
		{100, 125, 75, true, 1025},
		{100, 125, 75, false, 25},
		{75, 100, 125, true, 25},
		{75, 100, 125, false, 1025},
	} {
		assert.Equal(t, c.distance, distance(c.lo, c.hi, c.want, c.narrow), "%+v", c)
	}
	for _, c := range []struct{ lo, hi, want, distance float64 }{
		{400, 400, 400, 0},
		{300, 700, 300, 0},
		{300, 700, 700, 0},
		{450, 450, 400, 50},
		{500, 500, 400, 100},
		{501, 600, 400, 2101},
		{300, 300, 400, 1100},
		{700, 700, 500, 2200},
		{400, 400, 500, 1100},
		{300, 300, 399, 99},
		{400, 400, 399, 1001},
		{100, 200, 399, 199},
		{700, 700, 600, 100},
		{500, 500, 600, 1100},
		{501, 501, 600, 1099},
		{501, 501, 501, 0},
		{900, 900, 501, 399},
	} {
		assert.Equal(t, c.distance, weightDistance(&Source{WeightMin: c.lo, WeightMax: c.hi}, c.want), "%+v", c)
	}
	face := func(stretch, weight float64, italic bool) *Source {
		return &Source{StretchMin: stretch, StretchMax: stretch, WeightMin: weight, WeightMax: weight, Italic: italic}
	}
	q := Query{Stretch: 100, Weight: 400, Italic: true}
	assert.True(t, closer(face(100, 900, false), face(75, 400, true), q), "width before posture")
	assert.True(t, closer(face(100, 900, true), face(100, 400, false), q), "posture before weight")
	assert.True(t, closer(face(100, 400, true), face(100, 500, true), q))
	assert.False(t, closer(face(100, 400, true), face(100, 400, true), q), "none is closer than its like")
	wide := Query{Stretch: 125, Weight: 400}
	assert.True(t, closer(face(150, 400, false), face(100, 400, false), wide), "wide ones look for wider first")
}

// TestSeen: characters that need no glyph join a cluster beside them, and take no room.
func TestSeen(t *testing.T) {
	glyph := func(cluster, chars int32, advance float64) Glyph {
		return Glyph{ID: 7, Cluster: cluster, Chars: chars, Advance: advance}
	}
	const unseen = "\u200b" // 3 bytes
	run := &Run{Text: "a" + unseen + "b", Width: 25, Glyphs: []Glyph{glyph(0, 1, 10), glyph(1, 3, 5), glyph(4, 1, 10)}}
	got := run.Seen()
	assert.Equal(t, 20.0, got.Width)
	assert.Equal(t, []Glyph{glyph(0, 4, 10), glyph(4, 1, 10)}, got.Glyphs)
	assert.Equal(t, 25.0, run.Width, "the run itself stays")

	run = &Run{Text: unseen + "a", Width: 15, Glyphs: []Glyph{glyph(0, 3, 5), glyph(3, 1, 10)}}
	got = run.Seen()
	assert.Equal(t, 10.0, got.Width)
	assert.Equal(t, []Glyph{glyph(0, 4, 10)}, got.Glyphs)

	run = &Run{Text: unseen, Width: 5, Glyphs: []Glyph{glyph(0, 3, 5)}}
	assert.Same(t, run, run.Seen(), "there is nothing to join")
}
