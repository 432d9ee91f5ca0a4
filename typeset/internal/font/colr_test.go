package font

import (
	"encoding/binary"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// graph makes a COLR table of version 1 in which glyph 7 has the paint, glyph 9 the second
// one, and the layers are the others.
func graph(paint, second []byte, layers ...[]byte) []byte {
	long := func(n int) []byte { return binary.BigEndian.AppendUint32(nil, uint32(n)) }
	const header = 34
	base := append(long(2), be(7)...)
	base = append(append(base, long(16)...), be(9)...)
	base = append(base, long(16+len(paint))...)
	base = append(append(base, paint...), second...)
	list := long(len(layers))
	at := 4 + 4*len(layers)
	for _, l := range layers {
		list = append(list, long(at)...)
		at += len(l)
	}
	for _, l := range layers {
		list = append(list, l...)
	}
	out := be(1, 0, 0, 0, 0, 0, 0)
	out = append(append(out, long(header)...), long(header+len(base))...)
	out = append(out, make([]byte, header-len(out))...)
	return append(append(out, base...), list...)
}

// p is a paint table: a format, offsets of three bytes, and numbers of two.
func p(format byte, parts ...any) []byte {
	out := []byte{format}
	for _, x := range parts {
		switch x := x.(type) {
		case off:
			out = append(out, byte(x>>16), byte(x>>8), byte(x))
		case byte:
			out = append(out, x)
		case float64: // F2DOT14
			out = append(out, be(int(x*(1<<14)))...)
		case int:
			out = append(out, be(x)...)
		case []byte:
			out = append(out, x...)
		}
	}
	return out
}

type off int

// steps writes down a drawing.
type steps struct{ b strings.Builder }

func (s *steps) add(format string, args ...any) { fmt.Fprintf(&s.b, format+"; ", args...) }
func (s *steps) Save()                          { s.add("save") }
func (s *steps) Restore()                       { s.add("restore") }
func (s *steps) Transform(m [6]float64)         { s.add("transform %s", six(m)) }
func (s *steps) Clip(glyph uint32)              { s.add("clip %d", glyph) }
func (s *steps) FillGlyph(glyph uint32, f Fill, m [6]float64) {
	s.add("fill %d %s by %s", glyph, filled(f), six(m))
}

func (s *steps) Compose(mode int, source, backdrop func()) {
	s.add("compose %d", mode)
	source()
	s.add("on")
	backdrop()
}

func six(m [6]float64) string {
	if m == [6]float64{1, 0, 0, 1, 0, 0} {
		return "same"
	}
	words := make([]string, 6)
	for i, v := range m {
		words[i] = fmt.Sprintf("%.3g", v+0)
	}
	return strings.Join(words, ",")
}

func filled(f Fill) string {
	out := map[FillKind]string{
		SolidFill: "solid", LinearFill: fmt.Sprintf("linear %.4g,%.4g to %.4g,%.4g", f.X0, f.Y0, f.X1, f.Y1),
		RadialFill: fmt.Sprintf("radial %g,%g %g to %g,%g %g", f.X0, f.Y0, f.R0, f.X1, f.Y1, f.R1),
		SweepFill:  fmt.Sprintf("sweep %g,%g %g to %g", f.X0, f.Y0, f.From, f.To),
	}[f.Kind]
	for _, s := range f.Stops {
		out += fmt.Sprintf(" %d/%g@%.3g", s.Entry, s.Alpha, s.At)
	}
	return out
}

func drawn(t *testing.T, colr []byte) string {
	t.Helper()
	f := &Face{tables: map[string][]byte{"COLR": colr, "CPAL": make([]byte, 12)}}
	require.True(t, f.HasColors())
	var s steps
	require.True(t, f.Draw(7, &s))
	assert.False(t, f.Draw(8, &steps{}), "a plain glyph")
	return strings.TrimSuffix(s.b.String(), "; ")
}

// TestColorGraphs draws each format of paint (OpenType, COLR version 1).
func TestColorGraphs(t *testing.T) {
	solid := p(2, 3, 0.5)
	line := func(varies bool, stops ...float64) []byte { // palette entries 0, 1 and so on
		out := append([]byte{0}, be(len(stops))...)
		for i, at := range stops {
			out = append(out, p(0, at, i, 1.0)[1:]...)
			if varies {
				out = append(out, be(0, 0)...)
			}
		}
		return out
	}
	in := func(paint []byte) []byte { return append(p(10, off(6), 5), paint...) } // in the shape of glyph 5
	for _, c := range []struct {
		name  string
		paint []byte
		want  string
	}{
		{"solid", in(solid), "fill 5 solid 3/0.5@0 by same"},
		{"variable solid", in(p(3, 2, 1.0, 0, 0)), "fill 5 solid 2/1@0 by same"},
		{"linear", in(append(p(4, off(16), 0, 0, 100, 0, 0, 50), line(false, 0, 1)...)), "fill 5 linear 0,0 to 100,0 0/1@0 1/1@1 by same"},
		{"linear, across a slanted line", in(append(p(4, off(16), 0, 0, 100, 0, 50, 50), line(false, 0, 1)...)), "fill 5 linear 0,0 to 50,-50 0/1@0 1/1@1 by same"},
		{"linear, stops in any order and beyond", in(append(p(4, off(16), 0, 0, 100, 0, 0, 50), line(false, 1.5, -0.5)...)), "fill 5 linear -50,0 to 150,0 1/1@0 0/1@1 by same"},
		{"linear, upwards, stops beyond", in(append(p(4, off(16), 0, 0, 0, 100, 50, 0), line(false, 1.5, -0.5)...)), "fill 5 linear 0,-50 to 0,150 1/1@0 0/1@1 by same"},
		{"linear, one place", in(append(p(4, off(16), 0, 0, 100, 0, 0, 50), line(false, 0.5, 0.5)...)), "fill 5 solid 1/1@0.5 by same"},
		{"variable radial", in(append(p(7, off(20), 1, 2, 3, 4, 5, 6, 0, 0), line(true, 0, 1)...)), "fill 5 radial 1,2 3 to 4,5 6 0/1@0 1/1@1 by same"},
		{"sweep", in(append(p(8, off(12), 1, 2, -1.0, 1.0), line(false, 0, 0.25, 1)...)), "fill 5 sweep 1,2 0 to 360 0/1@0 1/1@0.25 2/1@1 by same"},
		{"moved", in(append(p(14, off(8), 10, -20), solid...)), "fill 5 solid 3/0.5@0 by 1,0,0,1,10,-20"},
		{"scaled", in(append(p(16, off(8), 0.5, 1.5), solid...)), "fill 5 solid 3/0.5@0 by 0.5,0,0,1.5,0,0"},
		{"scaled round a point", in(append(p(18, off(12), 0.5, 1.5, 100, 10), solid...)), "fill 5 solid 3/0.5@0 by 0.5,0,0,1.5,50,-5"},
		{"scaled alike", in(append(p(20, off(6), 0.5), solid...)), "fill 5 solid 3/0.5@0 by 0.5,0,0,0.5,0,0"},
		{"scaled alike round a point", in(append(p(22, off(10), 0.5, 100, 10), solid...)), "fill 5 solid 3/0.5@0 by 0.5,0,0,0.5,50,5"},
		{"turned", in(append(p(24, off(6), 0.5), solid...)), "fill 5 solid 3/0.5@0 by 6.12e-17,1,-1,6.12e-17,0,0"},
		{"turned round a point", in(append(p(26, off(10), 1.0, 10, 20), solid...)), "fill 5 solid 3/0.5@0 by -1,1.22e-16,-1.22e-16,-1,20,40"},
		{"skewed", in(append(p(28, off(8), 0.25, 0.0), solid...)), "fill 5 solid 3/0.5@0 by 1,0,-1,1,0,0"},
		{"skewed round a point", in(append(p(30, off(12), 0.0, 0.25, 10, 20), solid...)), "fill 5 solid 3/0.5@0 by 1,1,0,1,0,-10"},
		{"by a matrix", in(append(append(p(12, off(7), off(12)), solid...), be(2, 0, 0, 0, 0, 0, 3, 0, 5, 0, -6, 0)...)), "fill 5 solid 3/0.5@0 by 2,0,0,3,5,-6"},
		{"moved, then scaled", in(append(append(p(14, off(8), 10, 0), p(16, off(8), 0.5, 0.5)...), solid...)), "fill 5 solid 3/0.5@0 by 0.5,0,0,0.5,10,0"},
		{"a shape in a shape", append(p(10, off(6), 4), in(solid)...), "save; clip 4; fill 5 solid 3/0.5@0 by same; restore"},
		{"a shape that is moved", append(p(14, off(8), 1, 2), in(solid)...), "save; transform 1,0,0,1,1,2; fill 5 solid 3/0.5@0 by same; restore"},
		{"another glyph", p(11, 9), "fill 6 solid 1/1@0 by same"},
		{"layers", p(1, byte(2), 0, 0), "fill 1 solid 3/0.5@0 by same; fill 2 solid 3/0.5@0 by same"},
		{"the second layer", p(1, byte(1), 0, 1), "fill 2 solid 3/0.5@0 by same"},
		{"layers that are not there", p(1, byte(9), 0, 1), "fill 2 solid 3/0.5@0 by same"},
		{"one on the other", append(append(p(32, off(8), byte(5), off(8+11)), in(solid)...), in(p(2, 1, 1.0))...), "compose 5; fill 5 solid 3/0.5@0 by same; on; fill 5 solid 1/1@0 by same"},
		{"itself", p(11, 7), ""},
		{"an unknown format", p(99, 0), ""},
	} {
		layers := [][]byte{append(p(10, off(6), 1), solid...), append(p(10, off(6), 2), solid...)}
		second := append(p(10, off(6), 6), p(2, 1, 1.0)...)
		assert.Equal(t, c.want, drawn(t, graph(c.paint, second, layers...)), c.name)
	}
}

// TestDamagedColorGraphs cuts a table at every byte.
func TestDamagedColorGraphs(t *testing.T) {
	whole := graph(append(append(p(32, off(8), byte(5), off(8+11)), append(p(10, off(6), 5), p(2, 1, 1.0)...)...), p(1, byte(2), 0, 0)...), p(2, 1, 1.0), p(4, off(16), 0, 0, 1, 1, 0, 1))
	for n := range whole {
		assert.NotPanics(t, func() { (&Face{tables: map[string][]byte{"COLR": whole[:n]}}).Draw(7, &steps{}) })
	}
}

// nested is a table in which 100 composites have the next one as source and as backdrop: there
// are 2¹⁰⁰ ways through it.
func nested() []byte {
	var chain []byte
	for range 100 {
		chain = append(chain, p(32, off(8), byte(3), off(8))...)
	}
	return graph(append(chain, p(2, 1, 1.0)...), nil)
}

// TestGraphsWithManyWays: neither reading such a font nor drawing with it takes long.
func TestGraphsWithManyWays(t *testing.T) {
	data := withTable(plainFont(t), "COLR", nested())
	read := make(chan *Face, 1)
	go func() {
		f, err := Parse(data, nil)
		assert.NoError(t, err)
		f.Draw(7, &steps{})
		read <- f
	}()
	select {
	case f := <-read:
		assert.Equal(t, uint32(1), u32(f.tables["COLR"], 0)>>16, "the table is still at hand")
	case <-time.After(20 * time.Second):
		t.Fatal("the font is still being read")
	}
}
