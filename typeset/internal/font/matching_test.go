package font

import (
	"testing"

	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// closest names the faces of a family that a query is answered with.
func closest(t *testing.T, faces []*Source, q Query) (names string) {
	t.Helper()
	s := NewSet()
	for _, f := range faces {
		f.Family = "Quay"
		s.Add(f)
	}
	for _, m := range s.family("quay", q) {
		for i, f := range faces {
			if m.src == f {
				names += string(rune('a' + i))
			}
		}
		if m.Bold {
			names += "+"
		}
		if m.Oblique != 0 {
			names += "/"
		}
	}
	return names
}

// Among the faces of a family, stretch decides before style, and style before weight (CSS Fonts 4, §5.2).
func TestClosestFaces(t *testing.T) {
	face := func(stretch, weight float64, italic bool) *Source {
		return &Source{StretchMin: stretch, StretchMax: stretch, WeightMin: weight, WeightMax: weight, Italic: italic}
	}
	slanted := func(lo, hi float64) *Source {
		return &Source{StretchMin: 100, StretchMax: 100, WeightMin: 400, WeightMax: 400, SlantMin: lo, SlantMax: hi}
	}
	for _, c := range []struct {
		name  string
		faces []*Source
		q     Query
		want  string
	}{
		{"narrower first up to normal", []*Source{face(75, 400, false), face(125, 400, false)}, Query{Stretch: 100, Weight: 400}, "a"},
		{"though it is farther", []*Source{face(50, 400, false), face(101, 400, false)}, Query{Stretch: 100, Weight: 400}, "a"},
		{"wider first beyond normal", []*Source{face(100, 400, false), face(150, 400, false)}, Query{Stretch: 110, Weight: 400}, "b"},
		{"the nearest of the narrower", []*Source{face(50, 400, false), face(75, 400, false)}, Query{Stretch: 87.5, Weight: 400}, "b"},
		{"the nearest of the wider", []*Source{face(150, 400, false), face(125, 400, false)}, Query{Stretch: 112.5, Weight: 400}, "b"},
		{"wider where none is narrower", []*Source{face(150, 400, false), face(125, 400, false)}, Query{Stretch: 50, Weight: 400}, "b"},
		{"narrower where none is wider", []*Source{face(50, 400, false), face(75, 400, false)}, Query{Stretch: 150, Weight: 400}, "b"},
		{"stretch before style", []*Source{face(100, 400, false), face(75, 400, true)}, Query{Stretch: 100, Weight: 400, Italic: true}, "a"},
		{"style before weight", []*Source{face(100, 400, false), face(100, 900, true)}, Query{Stretch: 100, Weight: 400, Italic: true}, "b"},
		{"upright is asked for", []*Source{face(100, 400, true), face(100, 900, false)}, Query{Stretch: 100, Weight: 400}, "b"},
		{"a slant of its own", []*Source{face(100, 400, false)}, Query{Stretch: 100, Weight: 400, Italic: true, Slant: 14}, "a/"},
		{"no slant is added to what slants", []*Source{slanted(0, 20)}, Query{Stretch: 100, Weight: 400, Italic: true, Slant: 14}, "a"},
		{"no slant is added to italics", []*Source{face(100, 400, true)}, Query{Stretch: 100, Weight: 400, Italic: true, Slant: 14}, "a"},
		{"bold is added from 600 on", []*Source{face(100, 400, false)}, Query{Stretch: 100, Weight: 600}, "a+"},
		{"not below", []*Source{face(100, 400, false)}, Query{Stretch: 100, Weight: 599}, "a"},
		{"nor to what is bold enough", []*Source{face(100, 600, false)}, Query{Stretch: 100, Weight: 900}, "a"},
		{"400 looks up to 500", []*Source{face(100, 300, false), face(100, 500, false)}, Query{Stretch: 100, Weight: 400}, "b"},
		{"and no farther", []*Source{face(100, 300, false), face(100, 501, false)}, Query{Stretch: 100, Weight: 400}, "a"},
		{"500 looks down to 400", []*Source{face(100, 400, false), face(100, 600, false)}, Query{Stretch: 100, Weight: 500}, "a"},
		{"399 looks down", []*Source{face(100, 100, false), face(100, 400, false)}, Query{Stretch: 100, Weight: 399}, "a"},
		{"501 looks up", []*Source{face(100, 500, false), face(100, 900, false)}, Query{Stretch: 100, Weight: 501}, "b"},
		{"450 looks up before it looks down", []*Source{face(100, 449, false), face(100, 500, false)}, Query{Stretch: 100, Weight: 450}, "b"},
		{"below the lightest", []*Source{face(100, 500, false), face(100, 300, false)}, Query{Stretch: 100, Weight: 200}, "b"},
		{"above the boldest", []*Source{face(100, 700, false), face(100, 800, false)}, Query{Stretch: 100, Weight: 900}, "b"},
		{"the later of equal ones first", []*Source{face(100, 400, false), face(100, 400, false)}, Query{Stretch: 100, Weight: 400}, "ba"},
	} {
		assert.Equal(t, c.want, closest(t, c.faces, c.q), c.name)
	}
}

// A query is told from one that differs in anything.
func TestQueriesAreToldApart(t *testing.T) {
	s := NewSet()
	base := Query{Families: []string{"sans-serif", "serif"}, Weight: 400, Stretch: 100}
	first := s.candidates(base)
	assert.Same(t, first, s.candidates(Query{Families: []string{"sans-serif", "serif"}, Weight: 400, Stretch: 100}))
	for name, q := range map[string]Query{
		"a later family":   {Families: []string{"sans-serif", "monospace"}, Weight: 400, Stretch: 100},
		"another family":   {Families: []string{"monospace", "serif"}, Weight: 400, Stretch: 100},
		"fewer":            {Families: []string{"sans-serif"}, Weight: 400, Stretch: 100},
		"weight":           {Families: base.Families, Weight: 401, Stretch: 100},
		"stretch":          {Families: base.Families, Weight: 400, Stretch: 99},
		"italic":           {Families: base.Families, Weight: 400, Stretch: 100, Italic: true},
		"slant":            {Families: base.Families, Weight: 400, Stretch: 100, Slant: 3},
		"axes":             {Families: base.Families, Weight: 400, Stretch: 100, Axes: "wght=1"},
		"no family at all": {Weight: 400, Stretch: 100},
	} {
		assert.NotSame(t, first, s.candidates(q), name)
	}
}

// What a character is, at the edges of its ranges.
func TestCharacters(t *testing.T) {
	for r, want := range map[rune]bool{
		'\u00AC': false, '\u00AD': true, '\u00AE': false, 0x200A: false, 0x200B: true, 0x200F: true, 0x2010: false, 0x2029: false, 0x202A: true, 0x202E: true, 0x202F: false,
		0x205F: false, 0x2060: true, 0x206F: true, 0x2070: false, 0xFDFF: false, 0xFE00: true, 0xFE0F: true, 0xFE10: false, 0xFEFE: false, 0xFEFF: true, 0xFF00: false,
		0xDFFFF: false, 0xE0000: true, 0xE0FFF: true, 0xE1000: false, 0x34F: true, 0x350: false, 0x61B: false, 0x61C: true, 0x180A: false, 0x180B: true, 0x180F: true, 0x1810: false,
		0x1160: true, 0x1161: false, 0x3164: true, 0xFFF8: true, 0xFFF9: false, 0x1D172: false, 0x1D173: true, 0x1D17A: true, 0x1D17B: false, 0x9E: true, 0x1F: true, 0x20: false, 0x7F: true, 0x9F: true, 0xA0: false, 'a': false,
	} {
		assert.Equal(t, want, Ignorable(r), "%U", r)
	}
	for r, want := range map[rune]language.Script{
		'a': language.Latin, 'z': language.Latin, 'A': language.Latin, 'Z': language.Latin, '`': 0, '{': 0, '@': 0, '[': 0, '5': 0, ' ': 0, 'é': language.Latin, '×': 0,
		'ж': language.Cyrillic, 'א': language.Hebrew, 0x0301: 0, 0x10FFFF: 0, '漢': language.Han,
	} {
		assert.Equal(t, want, Script(r), "%U", r)
	}
	for s, want := range map[language.Script]bool{language.Arabic: true, language.Adlam: true, language.Hebrew: false, language.Latin: false} {
		assert.Equal(t, want, Joins(s), s)
	}
}

// Letters that join what stands around them are shaped with it, and their clusters count bytes of the word alone.
func TestShapeWithin(t *testing.T) {
	f := NewSet().Primary(Query{Families: []string{"dejavu sans"}, Weight: 400, Stretch: 100}).Face
	alone := f.Shape("بب", language.Arabic, "ar", true, "")
	within := f.ShapeIn(Context{Before: "ب", After: "ب"}, "بب", language.Arabic, "ar", true, "")
	require.Len(t, alone.Glyphs, 2)
	require.Len(t, within.Glyphs, 2)
	assert.NotEqual(t, alone.Glyphs[0].ID, within.Glyphs[0].ID, "the last letter goes on")
	assert.Equal(t, within.Glyphs[0].ID, within.Glyphs[1].ID, "both are in the middle")
	assert.Equal(t, "2+2 0+2", clustersOf(within))
	assert.Same(t, within, f.ShapeIn(Context{Before: "ب", After: "ب"}, "بب", language.Arabic, "ar", true, ""), "it is shaped once")
	assert.Equal(t, alone, f.ShapeIn(Context{}, "بب", language.Arabic, "ar", true, ""))
}
