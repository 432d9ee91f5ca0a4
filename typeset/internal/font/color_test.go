package font

import (
	"encoding/binary"
	"testing"

	"github.com/stretchr/testify/assert"
)

// be writes numbers of 16 bits.
func be(list ...int) (out []byte) {
	for _, v := range list {
		out = binary.BigEndian.AppendUint16(out, uint16(v))
	}
	return out
}

func colored() *Face {
	colr := be(0, 1, 0, 14, 0, 20, 2) // one base glyph at 14, two layers at 20
	colr = append(colr, be(7, 0, 2)...)
	colr = append(colr, be(8, 1, 9, Foreground)...)
	cpal := be(1, 2, 2, 4, 0, 28, 0, 2, 0, 0, 0, 0) // two palettes of two colours at 28
	cpal = append(cpal[:16], be(0, 44, 0, 0, 0, 0)...)
	cpal = append(cpal, 1, 2, 3, 255, 4, 5, 6, 255, 7, 8, 9, 128, 10, 11, 12, 255)
	cpal = append(cpal, 0, 0, 0, 1, 0, 0, 0, 2)
	return &Face{tables: map[string][]byte{"COLR": colr, "CPAL": cpal}}
}

func TestColorLayers(t *testing.T) {
	f := colored()
	assert.True(t, f.HasColors())
	assert.Equal(t, []Layer{{8, 1}, {9, Foreground}}, f.Layers(7))
	assert.Nil(t, f.Layers(8), "a plain glyph")
}

func TestPalettes(t *testing.T) {
	list := colored().Palettes()
	assert.Equal(t, []Palette{
		{Colors: [][4]uint8{{3, 2, 1, 255}, {6, 5, 4, 255}}, Light: true},
		{Colors: [][4]uint8{{9, 8, 7, 128}, {12, 11, 10, 255}}, Dark: true},
	}, list)
	plain := colored()
	copy(plain.tables["CPAL"], be(0))
	for _, p := range plain.Palettes() {
		assert.False(t, p.Light || p.Dark, "the first version does not tell what a palette is for")
	}
	assert.Len(t, plain.Palettes(), 2)
	assert.Empty(t, (&Face{}).Palettes())
}

func TestDamagedColorTables(t *testing.T) {
	whole := colored()
	for n := range len(whole.tables["COLR"]) {
		f := &Face{tables: map[string][]byte{"COLR": whole.tables["COLR"][:n], "CPAL": whole.tables["CPAL"]}}
		assert.NotPanics(t, func() { f.Layers(7) })
	}
	for n := range len(whole.tables["CPAL"]) {
		f := &Face{tables: map[string][]byte{"COLR": whole.tables["COLR"], "CPAL": whole.tables["CPAL"][:n]}}
		assert.NotPanics(t, func() { f.Palettes() })
	}
}
