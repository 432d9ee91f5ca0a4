package font

import (
	"encoding/binary"
	"maps"
	"math/bits"
	"slices"
	"testing"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// programTables asks a font file for what its directory promises (OpenType, “Organization of an OpenType Font”), and
// gives its tables by their tags.
func programTables(t *testing.T, data []byte) map[string][]byte {
	t.Helper()
	be := binary.BigEndian
	n := int(be.Uint16(data[4:]))
	log := bits.Len(uint(n)) - 1
	for i, want := range []int{n, 16 << log, log, 16*n - 16<<log} {
		require.Equal(t, want, int(be.Uint16(data[4+2*i:])), "number %d of the header", i)
	}
	tables := map[string][]byte{}
	var tags []string
	end := 12 + 16*n
	for i := range n {
		entry := data[12+16*i:]
		tag, at, size := string(entry[:4]), int(be.Uint32(entry[8:])), int(be.Uint32(entry[12:]))
		require.Equal(t, end, at, "%s follows what is before it", tag)
		tags, tables[tag] = append(tags, tag), data[at:at+size]
		sum := checksum(data[at : at+size])
		if tag == "head" {
			sum -= be.Uint32(data[at+8:]) // what makes the whole file right is not part of it
		}
		require.Equal(t, be.Uint32(entry[4:]), sum, "checksum of %s", tag)
		end = (at + size + 3) &^ 3
	}
	require.Len(t, data, end)
	require.True(t, slices.IsSorted(tags), "%v", tags)
	require.Equal(t, uint32(0xB1B0AFBA), checksum(data))
	return tables
}

// Subsets and programs for single bytes are files that their headers describe.
func TestProgramsAreSound(t *testing.T) {
	for name, file := range map[string][]byte{"liberation": liberationsansregular.TTF, "dejavu": dejavusans.TTF} {
		f, err := Parse(file, nil)
		require.NoError(t, err)
		used := map[uint32]bool{}
		for _, r := range "Ávila – £12.50 ½ fi" {
			used[f.Glyph(r)] = true
		}
		sub := f.Subset(used, 0)
		tables := programTables(t, sub.Data)
		assert.Equal(t, []string{"glyf", "head", "hhea", "hmtx", "loca", "maxp"}, slices.Sorted(maps.Keys(tables)), name)
		simple := programTables(t, f.Simple([]rune("ABCxyz€£½")))
		search := simple["cmap"][12:]
		be := binary.BigEndian
		segments := int(be.Uint16(search[6:])) / 2
		log := bits.Len(uint(segments)) - 1
		assert.Equal(t, 4, int(be.Uint16(search)), "format")
		assert.Equal(t, 2<<log, int(be.Uint16(search[8:])), "searchRange")
		assert.Equal(t, log, int(be.Uint16(search[10:])), "entrySelector")
		assert.Equal(t, 2*segments-2<<log, int(be.Uint16(search[12:])), "rangeShift")
	}
}

// A composite glyph keeps its parts, under the numbers that they have in the subset.
func TestSubsetsKeepParts(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	aacute := f.Glyph('Á')
	parts := f.components(aacute)
	require.Len(t, parts, 2)
	sub := f.Subset(map[uint32]bool{aacute: true}, 0)
	again := &Face{tables: programTables(t, sub.Data)}
	glyphs := u16(again.tables["maxp"], 4)
	require.Equal(t, 4, glyphs, "no glyph, the letter and its two parts")
	for i, part := range again.components(uint32(sub.NewID[aacute])) {
		assert.Equal(t, f.glyph(parts[i]), again.glyph(part), "part %d", i)
	}
	assert.Nil(t, again.components(uint32(sub.NewID[parts[0]])), "a simple glyph has none")
}
