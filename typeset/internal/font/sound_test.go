package font

import (
	"encoding/binary"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// plainFont is a small font with its tables as they are.
func plainFont(t testing.TB) []byte {
	t.Helper()
	packed, err := os.ReadFile("../../../demo/templates/mooring-invoice/fonts/source-sans-3-latin-400-normal.woff2")
	require.NoError(t, err)
	data, err := unpack(packed)
	require.NoError(t, err)
	return data
}

// withTable is a font whose first table is another one.
func withTable(data []byte, tag string, table []byte) []byte {
	out := append([]byte(nil), data...)
	copy(out[12:], tag)
	binary.BigEndian.PutUint32(out[20:], uint32(len(out)))
	binary.BigEndian.PutUint32(out[24:], uint32(len(table)))
	return append(out, table...)
}

// TestUnfoundedTables gives fonts whose tables claim more parts than they hold: memory for all of them
// would end the program.
func TestUnfoundedTables(t *testing.T) {
	data := plainFont(t)
	many := []byte{0, 1, 0, 0, 0xff, 0xff, 0xff, 0xff, 0, 0, 0, 0}
	for _, tag := range []string{"kern", "kerx", "morx", "mort", "sbix", "CBLC", "EBLC", "bloc"} {
		_, err := Parse(withTable(data, tag, many), nil)
		assert.ErrorContains(t, err, `its table "`+tag+`" claims 4294967295 parts`)
	}
	_, err := Parse(withTable(data, "kern", []byte{0, 0, 0, 0}), nil)
	assert.NotContains(t, errText(err), "claims", "a table of the other version has its count elsewhere")
	_, err = Parse(data, nil)
	assert.NoError(t, err)
}

func errText(err error) string {
	if err == nil {
		return ""
	}
	return err.Error()
}

// TestDamagedFonts changes bytes of a font in many ways: it is refused, or sets text.
func TestDamagedFonts(t *testing.T) {
	data := plainFont(t)
	rnd := rand.New(rand.NewPCG(3, 7))
	refused := 0
	for range 400 {
		damaged := append([]byte(nil), data...)
		for range 1 + rnd.IntN(6) {
			damaged[rnd.IntN(len(damaged))] = byte(rnd.IntN(256))
		}
		for range rnd.IntN(3) { // tables that begin or end elsewhere
			binary.BigEndian.PutUint32(damaged[12+16*rnd.IntN(12)+8+4*rnd.IntN(2):], rnd.Uint32N(uint32(2*len(data))))
		}
		f, err := Parse(damaged, nil)
		if err != nil {
			refused++
			continue
		}
		run := f.shape("Office fjord 123", Context{}, shaping{script: language.Latin, lang: "en"})
		assert.NotEmpty(t, run.Glyphs)
	}
	assert.Greater(t, refused, 20)
	assert.Less(t, refused, 400)
}

func TestUnshaped(t *testing.T) {
	f, err := Parse(plainFont(t), nil)
	require.NoError(t, err)
	run := f.unshaped("abc", shaping{})
	require.Len(t, run.Glyphs, 3)
	assert.Equal(t, f.Glyph('a'), run.Glyphs[0].ID)
	assert.Equal(t, run.Glyphs[0].Advance+run.Glyphs[1].Advance+run.Glyphs[2].Advance, run.Width)
	assert.Equal(t, int32(1), run.Glyphs[0].Chars)
	rtl := f.unshaped("abc", shaping{rtl: true})
	assert.Equal(t, f.Glyph('c'), rtl.Glyphs[0].ID)
	assert.Equal(t, int32(2), rtl.Glyphs[0].Cluster)
}
