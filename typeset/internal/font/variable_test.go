package font

import (
	"fmt"
	"testing"

	gtfont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// axesOf makes an “fvar” table of axes that each run from a least to a most.
func axesOf(axes map[string][2]int) []byte {
	out := be(1, 0, 16, 2, len(axes), 20, 0, 4)
	for tag, r := range axes {
		out = append(out, tag...)
		out = append(out, be(r[0], 0, r[0], 0, r[1], 0, 0, 256)...)
	}
	return out
}

// TestSourcesVary holds at which point of its axes a variable font is opened for a style.
func TestSourcesVary(t *testing.T) {
	wide := Source{WeightMin: 200, WeightMax: 800, StretchMin: 50, StretchMax: 150, SlantMin: 0, SlantMax: 10}
	plain := Source{WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100}
	for _, c := range []struct {
		src  *Source
		q    Query
		want string
	}{
		{&wide, Query{Weight: 300, Stretch: 75}, "[{wght 300} {wdth 75}]"},
		{&wide, Query{Weight: 900, Stretch: 200, Slant: 5}, "[{wght 800} {wdth 150} {slnt -5}]"},
		{&wide, Query{Weight: 100, Stretch: 10, Italic: true, Slant: 14}, "[{wght 200} {wdth 50} {slnt -10}]"},
		{&wide, Query{Weight: 400, Stretch: 100, Axes: "wdth=80 GRAD=-50.5"}, "[{wght 400} {wdth 100} {wdth 80} {GRAD -50.5}]"},
		{&plain, Query{Weight: 900, Stretch: 50, Slant: 14}, "[]"},
		{&plain, Query{Weight: 900, Axes: "opsz=12 bad=x y"}, "[{opsz 12}]"},
	} {
		src := &Source{WeightMin: c.src.WeightMin, WeightMax: c.src.WeightMax, StretchMin: c.src.StretchMin, StretchMax: c.src.StretchMax, SlantMin: c.src.SlantMin, SlantMax: c.src.SlantMax}
		opened := 0
		src.Open = func(axes []gtfont.Variation) (*Face, error) {
			opened++
			list := []string{}
			for _, a := range axes {
				list = append(list, fmt.Sprintf("{%s %g}", a.Tag, a.Value))
			}
			assert.Equal(t, c.want, fmt.Sprint(list), "%+v", c.q)
			return Parse(plainFont(t), nil)
		}
		assert.Same(t, src.face(c.q), src.face(c.q))
		assert.Equal(t, 1, opened)
	}
}

// Each instance of a variable font has a name of its own, of what names may hold.
func TestNamesOfInstances(t *testing.T) {
	plain := plainFont(t)
	tables := sfntTables(plain)
	tables["fvar"] = axesOf(map[string][2]int{"wght": {200, 900}})
	list := []table{}
	for tag, data := range tables {
		list = append(list, table{tag, data})
	}
	varies := assemble(0x00010000, list)
	axis := func(tag string, v float32) gtfont.Variation {
		return gtfont.Variation{Tag: ot.MustNewTag(tag), Value: v}
	}
	name := func(file []byte, axes ...gtfont.Variation) string {
		f, err := Parse(file, axes)
		require.NoError(t, err)
		return f.Name
	}
	base := name(plain)
	assert.Equal(t, base, name(varies))
	assert.Equal(t, base+"_700wght", name(varies, axis("wght", 700)))
	assert.Equal(t, base+"_412.5wght_-10slnt", name(varies, axis("wght", 412.5), axis("slnt", -10)))
	assert.Equal(t, base+"_1ab", name(varies, axis("a/b>", 1)), "nothing that would end a name")
	assert.Equal(t, base, name(plain, axis("wght", 700)), "what does not vary is one font")
}

// TestSourcesAskTheirFile holds what a rule without ranges takes from a file that varies
// (CSS Fonts 4, §4.4): letters are not thickened or slanted that can be so by themselves.
func TestSourcesAskTheirFile(t *testing.T) {
	file := withTable(plainFont(t), "fvar", axesOf(map[string][2]int{"wght": {100, 900}, "slnt": {-12, 0}, "wdth": {75, 125}}))
	f, err := Parse(plainFont(t), nil)
	require.NoError(t, err)
	f.tables["fvar"] = file[len(file)-16-60:]
	for _, auto := range []bool{true, false} {
		s := NewSet()
		s.Add(&Source{
			Family: "Quay", WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, AutoWeight: auto, AutoWidth: auto, AutoSlant: auto,
			Open: func([]gtfont.Variation) (*Face, error) { return f, nil },
		})
		m := s.Primary(Query{Families: []string{"Quay"}, Weight: 900, Stretch: 100, Italic: true, Slant: 10})
		assert.Equal(t, !auto, m.Bold)
		assert.Equal(t, map[bool]float64{true: 0, false: 10}[auto], m.Oblique)
		if auto {
			assert.Equal(t, []float64{100, 900, 75, 125, 0, 12}, []float64{m.src.WeightMin, m.src.WeightMax, m.src.StretchMin, m.src.StretchMax, m.src.SlantMin, m.src.SlantMax})
		}
	}
}

// TestFacesForSomeCharactersComeFirst: a face for digits alone stands before the one with
// the letters, though lines are measured by the latter.
func TestFacesForSomeCharactersComeFirst(t *testing.T) {
	s := NewSet()
	for family, ranges := range map[string][][2]rune{"Digits": {{'0', '9'}}, "Letters": nil} {
		s.Add(&Source{
			Family: family, WeightMin: 400, WeightMax: 400, StretchMin: 100, StretchMax: 100, Ranges: ranges,
			Open: func([]gtfont.Variation) (*Face, error) { return Parse(plainFont(t), nil) },
		})
	}
	q := Query{Families: []string{"Digits", "Letters"}, Weight: 400, Stretch: 100}
	first := s.Primary(q)
	assert.Equal(t, "Letters", first.Family())
	assert.True(t, first.Wants('7'))
	assert.False(t, first.Wants('x'))
	assert.False(t, first.ASCII)
	m, ok := s.For(q, '7')
	assert.True(t, ok)
	assert.Equal(t, "Digits", m.Family())
	plain := s.Primary(Query{Families: []string{"Letters", "Digits"}, Weight: 400, Stretch: 100})
	assert.Empty(t, plain.Before)
	assert.True(t, plain.ASCII)
	assert.Same(t, first, s.Primary(q))
	only := s.Primary(Query{Families: []string{"Digits"}, Weight: 400, Stretch: 100})
	assert.NotEqual(t, "Digits", only.Family(), "it has no space: what stands for any family counts")
	assert.Len(t, only.Before, 1)
}

// TestFeaturesOfFaces: those of the rule come first, so that a style may take them back.
func TestFeaturesOfFaces(t *testing.T) {
	assert.Equal(t, Features("smcp=1 -smcp"), Match{src: &Source{Features: "smcp=1"}}.Features("-smcp"))
	assert.Equal(t, Features("-smcp"), Match{src: &Source{}}.Features("-smcp"))
	assert.Equal(t, Features("liga"), Match{}.Features("liga"))
}
