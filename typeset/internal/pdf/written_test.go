package pdf_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// written is a document of one page, read back.
type written struct {
	*pdfread.File
	t    *testing.T
	page pdfread.Page
}

// write draws a page of 200 × 100 px.
func write(t *testing.T, draw func(display.Canvas), prepare ...func(*pdf.Writer)) written {
	t.Helper()
	var out bytes.Buffer
	w := pdf.New(&out)
	for _, do := range prepare {
		do(w)
	}
	w.AddPage(200, 100).Draw(draw)
	require.NoError(t, w.Close())
	return reopened(t, out.Bytes(), "")
}

func reopened(t *testing.T, data []byte, password string) written {
	t.Helper()
	f, err := pdfread.Open(data, password)
	require.NoError(t, err)
	assert.False(t, f.Rebuilt, "the cross-reference table is sound")
	pages, err := f.Pages()
	require.NoError(t, err)
	require.NotEmpty(t, pages)
	return written{f, t, pages[0]}
}

// contents are the operators of the page, but for those around all of it.
func (w written) contents() string {
	w.t.Helper()
	data, err := w.Contents(w.page)
	require.NoError(w.t, err)
	text := strings.TrimSpace(string(data))
	text, ok := strings.CutPrefix(text, "q 0.75 0 0 -0.75 0 75 cm\n")
	require.True(w.t, ok, text)
	text, ok = strings.CutSuffix(text, "Q")
	require.True(w.t, ok, text)
	return strings.TrimSpace(text)
}

// resource is one of the page's resources of a kind, of which it has only one.
func (w written) resource(kind pdfread.Name) pdfread.Object {
	w.t.Helper()
	list := w.Dict(w.Dict(w.page.Dict["Resources"])[kind])
	require.Len(w.t, list, 1, kind)
	for _, o := range list {
		return w.Resolve(o)
	}
	return nil
}

func (w written) stream(o pdfread.Object) (*pdfread.Stream, []byte) {
	w.t.Helper()
	s, ok := w.Resolve(o).(*pdfread.Stream)
	require.True(w.t, ok)
	data, err := w.Decode(s)
	require.NoError(w.t, err)
	return s, data
}

func (w written) numbers(o pdfread.Object) (list []float64) {
	array, _ := w.Resolve(o).(pdfread.Array)
	for _, v := range array {
		list = append(list, w.Number(v))
	}
	return list
}

func square(x, y, w, h float64) *display.Path {
	p := &display.Path{}
	p.Rect(display.Rect{X: x, Y: y, W: w, H: h})
	return p
}

var (
	red  = style.RGB8(255, 0, 0)
	gray = style.RGB8(128, 128, 128)
)

// Colours and widths are set when they change, and what Restore brings back counts.
func TestStateIsSetOnce(t *testing.T) {
	got := write(t, func(c display.Canvas) {
		c.Fill(square(0, 0, 10, 10), display.Solid(red), false)
		c.Fill(square(10, 0, 10, 10), display.Solid(red), false)
		c.Save()
		c.Fill(square(20, 0, 10, 10), display.Solid(gray), true)
		c.Restore()
		c.Fill(square(30, 0, 10, 10), display.Solid(red), false)
	}).contents()
	assert.Equal(t, 1, strings.Count(got, "1 0 0 rg"))
	assert.Equal(t, 1, strings.Count(got, " g\n"), "gray takes one number")
	assert.Equal(t, 4, strings.Count(got, " re"))
	assert.Equal(t, 1, strings.Count(got, "f*"), "the even-odd rule")
}

func TestStrokesAndClips(t *testing.T) {
	got := write(t, func(c display.Canvas) {
		c.Clip(square(1, 2, 3, 4), true)
		p := &display.Path{}
		p.MoveTo(0, 0)
		p.LineTo(10, 0)
		p.CurveTo(10, 5, 5, 10, 0, 10)
		p.Close()
		c.Stroke(p, display.Solid(red), display.Stroke{Width: 2, Cap: 1, Join: 2, Miter: 4, Dash: []float64{3, 1}, DashOffset: 0.5})
		c.Transform(display.Translate(5, 6))
	}).contents()
	for _, want := range []string{"1.01 2.01 2.98 3.98 re\nW* n", "2 w", "1 J", "2 j", "[3 1 ]0.5 d", "0 0 m", "10 0 l", "10 5 5 10 0 10 c", "1 0 0 RG", "1 0 0 1 5 6 cm"} {
		assert.Contains(t, got, want)
	}
}

// Translucent paint names a graphics state, and nothing is drawn that cannot be seen.
func TestAlpha(t *testing.T) {
	faint := red
	faint.A = 0.25
	w := write(t, func(c display.Canvas) {
		c.Fill(square(0, 0, 10, 10), display.Solid(faint), false)
		c.Fill(square(0, 0, 10, 10), display.Solid(style.Color{}), false)
	})
	assert.Equal(t, 1, strings.Count(w.contents(), " re"))
	assert.InDelta(t, 0.25, w.Number(w.Dict(w.resource("ExtGState"))["ca"]), 1e-9)
}

// Small pictures are packed as large ones are: their rows are predicted.
func TestPicturesAreReadBack(t *testing.T) {
	for _, size := range []int{1, 2, 16, 40} {
		pixels, alpha := make([]byte, size*size*3), make([]byte, size*size)
		for i := range pixels {
			pixels[i] = byte(i * 7)
		}
		for i := range alpha {
			alpha[i] = byte(i)
		}
		w := write(t, func(c display.Canvas) {
			c.Image(&display.Image{Key: "a", W: size, H: size, Comps: 3, RGB: pixels, Alpha: alpha}, display.Rect{X: 5, Y: 6, W: 20, H: 30})
		})
		s, data := w.stream(w.resource("XObject"))
		assert.Equal(t, pixels, data, size)
		assert.Equal(t, pdfread.Name("DeviceRGB"), w.Resolve(s.Dict["ColorSpace"]))
		mask, data := w.stream(s.Dict["SMask"])
		assert.Equal(t, alpha, data, size)
		assert.Equal(t, pdfread.Name("DeviceGray"), w.Resolve(mask.Dict["ColorSpace"]))
		assert.Contains(t, w.contents(), "19.98 0 0 -29.98 5.01 35.99 cm", "its own y runs upwards, and it touches no pixel beside")
	}
}

// Pictures of one colour profile share it.
func TestColourProfiles(t *testing.T) {
	icc := []byte("the profile of a camera")
	w := write(t, func(c display.Canvas) {
		for _, key := range []string{"a", "b"} {
			c.Image(&display.Image{Key: key, W: 1, H: 1, Comps: 3, RGB: []byte{1, 2, 3}, Profile: icc}, display.Rect{W: 1, H: 1})
		}
	})
	var spaces []any
	for _, o := range w.Dict(w.Dict(w.page.Dict["Resources"])["XObject"]) {
		s, _ := w.stream(o)
		spaces = append(spaces, w.Resolve(s.Dict["ColorSpace"]))
	}
	require.Len(t, spaces, 2)
	assert.Equal(t, spaces[0], spaces[1])
	space := spaces[0].(pdfread.Array)
	assert.Equal(t, pdfread.Name("ICCBased"), space[0])
	s, data := w.stream(space[1])
	assert.Equal(t, icc, data)
	assert.EqualValues(t, 3, w.Number(s.Dict["N"]))
}

func TestGrayPicturesAndJPEG(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		c.Image(&display.Image{Key: "g", W: 3, H: 2, Gray: true, Comps: 1, RGB: []byte{1, 2, 3, 4, 5, 6}, Crisp: true}, display.Rect{W: 3, H: 2})
	})
	s, data := w.stream(w.resource("XObject"))
	assert.Equal(t, []byte{1, 2, 3, 4, 5, 6}, data)
	assert.Equal(t, pdfread.Name("DeviceGray"), w.Resolve(s.Dict["ColorSpace"]))

	jpeg := []byte("\xFF\xD8 not looked into \xFF\xD9")
	w = write(t, func(c display.Canvas) {
		im := &display.Image{Key: "j", W: 3, H: 2, Comps: 4, Invert: true, JPEG: jpeg}
		c.Image(im, display.Rect{W: 3, H: 2})
		c.Image(im, display.Rect{W: 6, H: 4})
	})
	o, ok := w.resource("XObject").(*pdfread.Stream)
	require.True(t, ok)
	assert.Equal(t, pdfread.Name("DCTDecode"), w.Resolve(o.Dict["Filter"]))
	assert.Equal(t, pdfread.Name("DeviceCMYK"), w.Resolve(o.Dict["ColorSpace"]))
	assert.Equal(t, []float64{1, 0, 1, 0, 1, 0, 1, 0}, w.numbers(o.Dict["Decode"]))
	assert.Equal(t, 2, strings.Count(w.contents(), " Do"), "one picture stands in the file for both")
}

func TestGradientsAreShadings(t *testing.T) {
	stops := []display.GradientStop{{Offset: 0, Color: red}, {Offset: 0.5, Color: gray}, {Offset: 1, Color: style.RGB8(0, 0, 255)}}
	shading := func(g *display.Gradient) (written, pdfread.Dict) {
		w := write(t, func(c display.Canvas) {
			c.Fill(square(0, 0, 50, 50), display.Paint{Gradient: g, Alpha: 1}, false)
		})
		list := w.Dict(w.Dict(w.page.Dict["Resources"])["Shading"])
		if len(list) == 0 { // in a pattern
			return w, w.Dict(w.Dict(w.resource("Pattern"))["Shading"])
		}
		for _, o := range list {
			return w, w.Dict(o)
		}
		return w, nil
	}
	w, d := shading(&display.Gradient{Kind: display.Linear, X0: 0, Y0: 10, X1: 50, Y1: 20, Stops: stops})
	assert.Equal(t, 2.0, w.Number(d["ShadingType"]), "axial")
	assert.Equal(t, []float64{0, 10, 50, 20}, w.numbers(d["Coords"]))
	f := w.Dict(d["Function"])
	assert.Equal(t, 3.0, w.Number(f["FunctionType"]), "stitched of one function for each stretch")
	assert.Equal(t, []float64{0.5}, w.numbers(f["Bounds"]))

	w, d = shading(&display.Gradient{Kind: display.Radial, X0: 25, Y0: 25, X1: 25, Y1: 25, R0: 0, R1: 30, Stops: stops})
	assert.Equal(t, 3.0, w.Number(d["ShadingType"]), "radial")
	assert.Equal(t, []float64{25, 25, 0, 25, 25, 30}, w.numbers(d["Coords"]))

	w, _ = shading(&display.Gradient{Kind: display.Conic, X0: 25, Y0: 25, R1: 40, Stops: stops})
	for _, o := range w.Dict(w.Dict(w.page.Dict["Resources"])["Shading"]) {
		s, data := w.stream(o)
		assert.Equal(t, 4.0, w.Number(s.Dict["ShadingType"]), "a mesh of triangles")
		assert.NotEmpty(t, data)
	}

	inks := []display.GradientStop{{Offset: 0, Color: style.Color{Space: style.CMYK, C: [4]float32{0, 1, 0, 0}, A: 1}}, {Offset: 1, Color: style.Color{Space: style.CMYK, C: [4]float32{1, 0, 0, 0.5}, A: 1}}}
	for _, kind := range []display.GradientKind{display.Linear, display.Radial, display.Conic} {
		w, d := shading(&display.Gradient{Kind: kind, X1: 50, R1: 30, Stops: inks})
		if kind == display.Conic {
			for _, o := range w.Dict(w.Dict(w.page.Dict["Resources"])["Shading"]) {
				s, _ := w.stream(o)
				assert.Len(t, w.numbers(s.Dict["Decode"]), 4+2*4)
				d = s.Dict
			}
		}
		assert.Equal(t, pdfread.Name("DeviceCMYK"), w.Resolve(d["ColorSpace"]), "inks stay inks")
		if kind != display.Conic {
			pieces, _ := w.Resolve(w.Dict(d["Function"])["Functions"]).(pdfread.Array)
			assert.Equal(t, []float64{1, 0, 0, 0.5}, w.numbers(w.Dict(pieces[0])["C1"]))
		}
		w, d = shading(&display.Gradient{Kind: kind, X1: 50, R1: 30, Stops: append(inks[:1:1], stops...)})
		if kind != display.Conic {
			assert.Equal(t, pdfread.Name("DeviceRGB"), w.Resolve(d["ColorSpace"]), "beside others they are shown as these are")
		}
	}

	tiles := write(t, func(c display.Canvas) {
		for i := range 3 {
			x := float64(20 * i)
			c.Fill(square(x, 0, 20, 20), display.Paint{Alpha: 1, Gradient: &display.Gradient{Kind: display.Conic, X0: x + 10, Y0: 10, R1: 15, Stops: stops}}, false)
		}
		c.Fill(square(60, 0, 20, 20), display.Paint{Alpha: 1, Gradient: &display.Gradient{Kind: display.Conic, X0: 70, Y0: 10, R1: 15, Angle: 90, Stops: stops}}, false)
	})
	assert.Len(t, tiles.Dict(tiles.Dict(tiles.page.Dict["Resources"])["Shading"]), 2, "tiles of one gradient share its mesh")
	for _, at := range []string{"1 0 0 1 10 10 cm", "1 0 0 1 30 10 cm", "1 0 0 1 50 10 cm", "1 0 0 1 70 10 cm"} {
		assert.Contains(t, tiles.contents(), at)
	}
}

func TestGroupsBecomeForms(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		c.Group(display.Group{Alpha: 0.5, Blend: "Multiply", Box: display.Rect{W: 50, H: 50}}, func(in display.Canvas) {
			in.Fill(square(1, 1, 5, 5), display.Solid(red), false)
		})
	})
	s, data := w.stream(w.resource("XObject"))
	assert.Equal(t, pdfread.Name("Form"), w.Resolve(s.Dict["Subtype"]))
	assert.Equal(t, pdfread.Name("Transparency"), w.Resolve(w.Dict(s.Dict["Group"])["S"]))
	assert.Contains(t, string(data), "1 1 5 5 re")
	states := w.Dict(w.Dict(w.page.Dict["Resources"])["ExtGState"])
	alpha, blend := false, false
	for _, o := range states {
		d := w.Dict(o)
		alpha = alpha || w.Number(d["ca"]) == 0.5
		blend = blend || w.Resolve(d["BM"]) == pdfread.Name("Multiply")
	}
	assert.True(t, alpha && blend, "%v", states)

	w = write(t, func(c display.Canvas) {
		c.Group(display.Group{Alpha: 1, Box: display.Rect{W: 50, H: 50}, Mask: func(m display.Canvas) {
			m.Fill(square(0, 0, 25, 50), display.Solid(style.RGB8(255, 255, 255)), false)
		}}, func(in display.Canvas) { in.Fill(square(1, 1, 5, 5), display.Solid(red), false) })
	})
	masked := false
	for _, o := range w.Dict(w.Dict(w.page.Dict["Resources"])["ExtGState"]) {
		if m := w.Dict(w.Dict(o)["SMask"]); m != nil {
			masked = true
			assert.Equal(t, pdfread.Name("Luminosity"), w.Resolve(m["S"]))
			_, data := w.stream(m["G"])
			assert.Contains(t, string(data), "0 0 25 50 re")
		}
	}
	assert.True(t, masked)
}

func TestTilesArePatterns(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		c.Fill(square(0, 0, 190, 90), display.Paint{Alpha: 1, Tile: &display.Tile{
			Box: display.Rect{W: 4, H: 4}, StepX: 4, StepY: 5, Matrix: display.Identity,
			Draw: func(in display.Canvas) { in.Fill(square(0, 0, 2, 2), display.Solid(red), false) },
		}}, false)
	})
	s, data := w.stream(w.resource("Pattern"))
	assert.Equal(t, 1.0, w.Number(s.Dict["PatternType"]))
	assert.Equal(t, 4.0, w.Number(s.Dict["XStep"]))
	assert.Equal(t, 5.0, w.Number(s.Dict["YStep"]))
	assert.Contains(t, string(data), "0 0 2 2 re")
	assert.Contains(t, w.contents(), "/Pattern cs")
}

// A handful of tiles are drawn one by one, in the space that their matrix makes and inside what is filled; translucent ones
// are a pattern, however few.
func TestFewTiles(t *testing.T) {
	tiled := func(m display.Matrix, alpha float64) string {
		return write(t, func(c display.Canvas) {
			c.Fill(square(0, 0, 40, 20), display.Paint{Alpha: alpha, Tile: &display.Tile{
				Box: display.Rect{W: 10, H: 10}, StepX: 10, StepY: 10, Matrix: m,
				Draw: func(in display.Canvas) { in.Fill(square(0, 0, 2, 2), display.Solid(red), false) },
			}}, false)
		}).contents()
	}
	got := tiled(display.Matrix{2, 0, 0, 2, 0, 0}, 1)
	assert.Contains(t, got, "2 0 0 2 0 0 cm")
	assert.Equal(t, 2, strings.Count(got, "0 0 2 2 re"), "20 by 20 px each")
	assert.Equal(t, 8, strings.Count(tiled(display.Identity, 1), "0 0 2 2 re"))
	assert.Equal(t, 8, strings.Count(tiled(display.Matrix{}, 1), "0 0 2 2 re"), "none is that which changes nothing")
	got = tiled(display.Matrix{1, 0, 0, 1, 5, 0}, 1)
	assert.Equal(t, 10, strings.Count(got, "0 0 2 2 re"), "they begin before what is filled, and end behind it")
	assert.Contains(t, got, "1 0 0 1 -10 0 cm")
	assert.Equal(t, 2, strings.Count(tiled(display.Matrix{1, 0, 0, 1, 1e30, 0}, 1), "0 0 2 2 re"), "so far away that one step more makes no difference")
	assert.Contains(t, tiled(display.Identity, 0.5), "/Pattern cs")
}

// face is shared: tests of text set the same words.
func face(t *testing.T) *font.Face {
	t.Helper()
	f, err := font.Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	return f
}

func TestTextOperators(t *testing.T) {
	f := face(t)
	line := func(s string) *display.Text {
		return &display.Text{Face: f, Size: 16, X: 10, Y: 20, Runs: []*font.Run{f.Shape(s, language.Latin, "", false, "")}, Paint: display.Solid(red)}
	}
	got := write(t, func(c display.Canvas) {
		c.Text(line("One"))
		c.Text(line("Two"))
	}).contents()
	assert.Equal(t, 1, strings.Count(got, " 16 Tf"), "face and size stay")
	assert.Equal(t, 2, strings.Count(got, "1 0 0 -1 10 20 Tm"))

	hidden, slanted, spaced, bold := line("x"), line("x"), line("ab"), line("x")
	hidden.Hidden, slanted.Oblique, spaced.LetterSpacing, bold.Bold = true, 14, 1.5, true
	got = write(t, func(c display.Canvas) { c.Text(hidden) }).contents()
	assert.Contains(t, got, "3 Tr", "it is found, but not seen")
	thick := *hidden
	thick.Bold = true
	got = write(t, func(c display.Canvas) { c.Text(&thick) }).contents()
	assert.NotContains(t, got, "2 Tr", "nor is it thickened")
	got = write(t, func(c display.Canvas) { c.Text(slanted) }).contents()
	assert.Contains(t, got, "1 0 0.2493 -1 10 20 Tm")
	got = write(t, func(c display.Canvas) { c.Text(spaced) }).contents()
	assert.Contains(t, got, ")-93.75(", "1.5 of 16 px, in thousandths")
	got = write(t, func(c display.Canvas) { c.Text(bold) }).contents()
	assert.Contains(t, got, "2 Tr", "outlined besides")
}

// A glyph that stands for other text than before has a code of its own for it, so that copied text is right in every
// reader; it is as wide, and leads to the same outline.
func TestGlyphsOfOtherText(t *testing.T) {
	f := face(t)
	run := f.Shape("a", language.Latin, "", false, "")
	w := write(t, func(c display.Canvas) {
		c.Text(&display.Text{Face: f, Size: 16, Runs: []*font.Run{run}, Paint: display.Solid(red)})
		c.Text(&display.Text{Face: f, Size: 16, Runs: []*font.Run{run.As("b")}, Paint: display.Solid(red)})
	})
	got := w.contents()
	assert.NotContains(t, got, "ActualText")
	d := w.Dict(w.resource("Font"))
	assert.Equal(t, pdfread.Name("Type0"), w.Resolve(d["Subtype"]))
	_, cmap := w.stream(d["ToUnicode"])
	assert.Contains(t, string(cmap), "beginbfchar")
	plain, other := f.Glyph('a'), f.NumGlyphs
	assert.Contains(t, string(cmap), fmt.Sprintf("<%04X><0061>\n<%04X><0062>", plain, other))
	below, _ := w.Resolve(d["DescendantFonts"]).(pdfread.Array)
	cid := w.Dict(below[0])
	_, glyphs := w.stream(cid["CIDToGIDMap"])
	at := func(code int) []byte { return glyphs[2*code : 2*code+2] }
	assert.NotEqual(t, []byte{0, 0}, at(int(plain)))
	assert.Equal(t, at(int(plain)), at(other))
	widths, _ := w.Resolve(cid["W"]).(pdfread.Array)
	assert.Equal(t, w.numbers(widths[1]), w.numbers(widths[len(widths)-1]))
	assert.InDelta(t, float64(other), w.Number(widths[len(widths)-2]), 0)
}

// The glyphs of a copy are in the font as those of any text are.
func TestGlyphsOfCopies(t *testing.T) {
	f := face(t)
	w := write(t, func(c display.Canvas) {
		c.Text(&display.Text{Face: f, Size: 16, Copy: true, Runs: []*font.Run{f.Shape("a", language.Latin, "", false, "")}, Paint: display.Solid(red)})
	})
	_, cmap := w.stream(w.Dict(w.resource("Font"))["ToUnicode"])
	assert.Contains(t, string(cmap), "><0061>")
}

// Letters that stand wide apart are drawn with a font whose letters are that wide: readers would take gaps between them
// for spaces.
func TestWordsSetWide(t *testing.T) {
	f := face(t)
	runs := []*font.Run{f.Shape("Quay", language.Latin, "", false, ""), f.Shape(" ", language.Latin, "", false, ""), f.Shape("Sea", language.Latin, "", false, "")}
	spaced := func(spacing ...float64) written {
		return write(t, func(c display.Canvas) {
			for i, v := range spacing {
				c.Text(&display.Text{Face: f, Size: 20, Y: float64(20 * i), Runs: runs, LetterSpacing: v, Paint: display.Solid(red)})
			}
		})
	}
	widthOf := func(w written, g uint32) float64 {
		below, _ := w.Resolve(w.Dict(w.resource("Font"))["DescendantFonts"]).(pdfread.Array)
		list, _ := w.Resolve(w.Dict(below[0])["W"]).(pdfread.Array)
		for i := 0; i < len(list); i += 2 {
			if widths := w.numbers(list[i+1]); int(g)-int(w.Number(list[i])) < len(widths) && int(g) >= int(w.Number(list[i])) {
				return widths[int(g)-int(w.Number(list[i]))]
			}
		}
		return 0
	}
	near, far := spaced(1.99), spaced(2)
	assert.InDelta(t, 1000*f.Advance('Q'), widthOf(near, f.Glyph('Q')), 0.01, "a little spacing keeps words together")
	assert.InDelta(t, 1000*f.Advance('Q')+100, widthOf(far, f.Glyph('Q')), 0.3)
	assert.InDelta(t, 1000*f.Advance(' ')+100, widthOf(far, f.Glyph(' ')), 0.3)
	assert.NotContains(t, far.contents(), "ActualText")
	assert.Equal(t, 1, strings.Count(far.contents(), ")]TJ"), "in one string")

	many := make([]float64, 40)
	for i := range many {
		many[i] = 4 + float64(i)/4
	}
	w := spaced(many...)
	assert.Len(t, w.Dict(w.Dict(w.page.Dict["Resources"])["Font"]), 33, "no more fonts than are of use")
	got := w.contents()
	assert.Equal(t, 16, strings.Count(got, "/ActualText"), "beyond them each word is told")
	assert.Contains(t, got, "/Span<</ActualText<FEFF0051007500610079>>>BDC")
	assert.Contains(t, got, "/Span<</ActualText<FEFF005300650061>>>BDC")
	assert.Equal(t, 16, strings.Count(got, "EMC"), "each is ended")

	farthest := spaced(20 * 16)
	assert.InDelta(t, 1000*f.Advance('Q'), widthOf(farthest, f.Glyph('Q')), 0.01, "no font file could hold letters as wide")
	assert.Equal(t, 2, strings.Count(farthest.contents(), "/ActualText"))

	copied := write(t, func(c display.Canvas) {
		c.Text(&display.Text{Face: f, Size: 20, Runs: runs, LetterSpacing: 4, Copy: true, Paint: display.Solid(red)})
	})
	assert.InDelta(t, 1000*f.Advance('Q'), widthOf(copied, f.Glyph('Q')), 0.01, "a copy stands for nothing")
}

func TestTaggedContent(t *testing.T) {
	tree := tag.New()
	p := &tag.Element{Role: "P", Parent: tree.Root, Order: 1, Details: &tag.Details{Lang: "de"}}
	h := &tag.Element{Role: "H1", Parent: tree.Root, Order: 0, Details: &tag.Details{Alt: "a (head)"}}
	w := write(t, func(c display.Canvas) {
		c.Tag(p, 1)
		c.Fill(square(0, 0, 1, 1), display.Solid(red), false)
		c.Tag(nil, 0)
		c.Fill(square(1, 0, 1, 1), display.Solid(red), false)
		c.Tag(h, 0)
		c.Fill(square(2, 0, 1, 1), display.Solid(red), false)
	}, func(w *pdf.Writer) { w.Tagged(tree) })
	got := w.contents()
	for _, want := range []string{"/P<</MCID 0>>BDC", "/Artifact BMC", "/H1<</MCID 1>>BDC"} {
		assert.Contains(t, got, want)
	}
	assert.Equal(t, strings.Count(got, "BDC")+strings.Count(got, "BMC"), strings.Count(got, "EMC"))
	catalog := w.Dict(w.Trailer["Root"])
	root := w.Dict(w.Dict(catalog["StructTreeRoot"])["K"])
	assert.Equal(t, pdfread.Name("Document"), w.Resolve(root["S"]))
	kids, _ := w.Resolve(root["K"]).(pdfread.Array)
	require.Len(t, kids, 2)
	first, second := w.Dict(kids[0]), w.Dict(kids[1])
	assert.Equal(t, pdfread.Name("H1"), w.Resolve(first["S"]), "in the order of the document, not of painting")
	assert.Equal(t, pdfread.String("a (head)"), w.Resolve(first["Alt"]))
	assert.Equal(t, 1.0, w.Number(first["K"]))
	assert.Equal(t, pdfread.String("de"), w.Resolve(second["Lang"]))
	nums, _ := w.Resolve(w.Dict(w.Dict(catalog["StructTreeRoot"])["ParentTree"])["Nums"]).(pdfread.Array)
	require.Len(t, nums, 2)
	parents, _ := w.Resolve(nums[1]).(pdfread.Array)
	require.Len(t, parents, 2)
	assert.Equal(t, pdfread.Name("P"), w.Resolve(w.Dict(parents[0])["S"]), "by the numbers of the page")
}

func TestLinksAndOutline(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		for _, to := range []display.Link{{Address: "#there", Text: "over there"}, {Address: "https://example.org/a(b)"}, {Address: "#gone"}, {Address: "#caf%C3%A9"}, {Address: "#"}, {Address: "#Top"}, {Address: "#100%"}} {
			c.Link(display.Rect{X: 10, Y: 20, W: 30, H: 5}, to)
		}
		c.Anchor("there", 1, 40)
		c.Anchor("café", 1, 60)
		c.Anchor("not meant", 1, 70)
	}, func(w *pdf.Writer) {
		w.Outline = []pdf.OutlineItem{{Title: "One", Level: 1}, {Title: "In it", Level: 2, Y: 40}, {Title: "Two", Level: 1, Closed: true}, {Title: "Deep", Level: 3}}
	}, func(w *pdf.Writer) { w.Tagged(tag.New()) })
	annotations, _ := w.Resolve(w.page.Dict["Annots"]).(pdfread.Array)
	require.Len(t, annotations, 5, "what leads nowhere is no link")
	inside, outside, decoded, top1, top2 := w.Dict(annotations[0]), w.Dict(annotations[1]), w.Dict(annotations[2]), w.Dict(annotations[3]), w.Dict(annotations[4])
	assert.Equal(t, []float64{7.5, 56.25, 30, 60}, w.numbers(inside["Rect"]))
	assert.Equal(t, pdfread.String("there"), w.Resolve(inside["Dest"]))
	assert.Equal(t, pdfread.String("over there"), w.Resolve(inside["Contents"]))
	assert.Equal(t, pdfread.String("https://example.org/a(b)"), w.Resolve(w.Dict(outside["A"])["URI"]))
	assert.Equal(t, pdfread.String("https://example.org/a(b)"), w.Resolve(outside["Contents"]), "for want of words")
	assert.Equal(t, pdfread.TextOf("café"), w.Resolve(decoded["Dest"]))
	assert.Equal(t, []float64{0, 0, 0, 75, 0}, w.numbers(top1["Dest"]), "the top of the first page")
	assert.Equal(t, w.numbers(top1["Dest"]), w.numbers(top2["Dest"]))
	names, _ := w.Resolve(w.Dict(w.Dict(w.Dict(w.Trailer["Root"])["Names"])["Dests"])["Names"]).(pdfread.Array)
	require.Len(t, names, 4, "the places that links lead to")
	top := w.Dict(w.Dict(w.Trailer["Root"])["Outlines"])
	one := w.Dict(top["First"])
	assert.Equal(t, pdfread.String("One"), w.Resolve(one["Title"]))
	assert.Equal(t, pdfread.String("In it"), w.Resolve(w.Dict(one["First"])["Title"]))
	assert.Equal(t, []float64{0, 0, 0, 45, 0}, w.numbers(w.Dict(one["First"])["Dest"]), "page, way, x, y from below, zoom")
	two := w.Dict(one["Next"])
	assert.Equal(t, pdfread.String("Two"), w.Resolve(two["Title"]))
	assert.Negative(t, w.Number(two["Count"]), "folded away")
	assert.Equal(t, pdfread.String("Deep"), w.Resolve(w.Dict(two["First"])["Title"]), "a level left out is none")
}

func TestProtectedFilesNeedTheirPassword(t *testing.T) {
	var out bytes.Buffer
	w := pdf.New(&out)
	w.Info.Title = "The secret ledger"
	require.NoError(t, w.Protect(pdf.Protection{Open: "quay", Owner: "lantern"}))
	w.AddPage(200, 100).Draw(func(c display.Canvas) { c.Fill(square(0, 0, 9, 8), display.Solid(red), false) })
	require.NoError(t, w.Close())
	assert.NotContains(t, out.String(), "9 8 re")
	assert.NotContains(t, out.String(), "secret")
	for _, password := range []string{"quay", "lantern"} {
		got := reopened(t, out.Bytes(), password)
		assert.Contains(t, got.contents(), "9 8 re")
		assert.Equal(t, pdfread.String("The secret ledger"), got.Resolve(got.Dict(got.Trailer["Info"])["Title"]))
	}
	for _, password := range []string{"", "Quay"} {
		_, err := pdfread.Open(out.Bytes(), password)
		assert.ErrorIs(t, err, pdfread.ErrPassword)
	}
	assert.Error(t, pdf.New(&out).Protect(pdf.Protection{Open: strings.Repeat("x", 128)}))
}

func TestFields(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		at := display.Rect{X: 10, Y: 10, W: 40, H: 12}
		for _, f := range []display.Field{
			{Kind: display.TextField, Name: "name", Value: "Åsa", Label: "Name", Box: at, Size: 10, Required: true, MaxLength: 20},
			{Kind: display.TextField, Name: "name", Value: "twice", Box: at, Size: 10, Multiline: true},
			{Kind: display.CheckField, Name: "agree", Value: "yes", Box: at, Checked: true},
			{Kind: display.RadioField, Name: "berth", Value: "A", Box: at},
			{Kind: display.RadioField, Name: "berth", Value: "B", Box: at, Checked: true},
			{Kind: display.ChoiceField, Name: "size", Box: at, Size: 10, Options: [][2]string{{"s", "Small"}, {"m", "Middle"}}, Chosen: []int{1}, ReadOnly: true},
			{Kind: display.ChoiceField, Name: "many", Box: at, Size: 10, Options: [][2]string{{"s", "Small"}, {"m", "Middle"}, {"l", "Large"}}, Chosen: []int{0, 2}, List: true, Several: true},
			{Kind: display.ChoiceField, Name: "none", Box: at, Size: 10, Options: [][2]string{{"s", "Small"}}, List: true},
			{Kind: display.RadioField, Name: "odd", Value: "Off", Box: at, Checked: true},
			{Kind: display.RadioField, Name: "odd", Value: "x", Box: at},
			{Kind: display.TextField, Box: at, Size: 10},
			{Kind: display.RadioField, Box: at},
		} {
			c.Field(f)
		}
	})
	fields, _ := w.Resolve(w.Dict(w.Dict(w.Trailer["Root"])["AcroForm"])["Fields"]).(pdfread.Array)
	byName := map[string]pdfread.Dict{}
	for _, f := range fields {
		d := w.Dict(f)
		name, _ := w.Resolve(d["T"]).(pdfread.String)
		assert.NotContains(t, byName, string(name), "names are told apart")
		byName[string(name)] = d
	}
	require.Len(t, byName, 10)
	name := byName["name"]
	assert.Equal(t, pdfread.Name("Tx"), w.Resolve(name["FT"]))
	assert.Equal(t, 2.0, w.Number(name["Ff"]), "required")
	assert.Equal(t, 20.0, w.Number(name["MaxLen"]))
	assert.Equal(t, pdfread.String("\xFE\xFF\x00\xC5\x00s\x00a"), w.Resolve(name["V"]))
	assert.Equal(t, []float64{7.5, 58.5, 37.5, 67.5}, w.numbers(name["Rect"]))
	berths, _ := w.Resolve(byName["berth"]["Kids"]).(pdfread.Array)
	assert.Len(t, berths, 2, "radio buttons of one name are one field")
	assert.Equal(t, pdfread.Name("B"), w.Resolve(byName["berth"]["V"]))
	assert.Equal(t, pdfread.Name("Off"), w.Resolve(w.Dict(berths[0])["AS"]))
	assert.NotEqual(t, pdfread.Name("Off"), w.Resolve(byName["agree"]["AS"]))
	size := byName["size"]
	assert.Equal(t, pdfread.Name("Ch"), w.Resolve(size["FT"]))
	options, _ := w.Resolve(size["Opt"]).(pdfread.Array)
	assert.Len(t, options, 2)
	const menu, several = 1 << 17, 1 << 21
	assert.Equal(t, float64(menu+1), w.Number(size["Ff"]), "a menu that is read only")
	assert.Equal(t, pdfread.String("m"), w.Resolve(size["V"]))
	look := func(d pdfread.Dict) string {
		_, data := w.stream(w.Dict(d["AP"])["N"])
		return string(data)
	}
	assert.Contains(t, look(size), fmt.Sprintf("<%X> Tj", "Middle"))
	assert.NotContains(t, look(size), fmt.Sprintf("<%X> Tj", "Small"))

	many := byName["many"]
	assert.Equal(t, float64(several), w.Number(many["Ff"]))
	assert.Equal(t, pdfread.Array{pdfread.String("s"), pdfread.String("l")}, w.Resolve(many["V"]))
	assert.Equal(t, []float64{0, 2}, w.numbers(many["I"]))
	assert.Equal(t, 3, strings.Count(look(many), " Tj"), "all of them are seen")
	assert.Equal(t, 2, strings.Count(look(many), "0.81 g"), "those that are chosen stand out")
	none := byName["none"]
	assert.Zero(t, w.Number(none["Ff"]))
	assert.Nil(t, w.Resolve(none["V"]))
	assert.Empty(t, w.numbers(none["I"]))

	odd, _ := w.Resolve(byName["odd"]["Kids"]).(pdfread.Array)
	states := w.Dict(w.Dict(w.Dict(odd[0])["AP"])["N"])
	assert.Len(t, states, 2, "a value that is called as the state without one has another state")
	assert.Equal(t, w.Resolve(w.Dict(odd[0])["AS"]), w.Resolve(byName["odd"]["V"]))
	assert.Equal(t, pdfread.Array{pdfread.String("Off"), pdfread.String("x")}, w.Resolve(byName["odd"]["Opt"]))
	assert.Nil(t, byName["berth"]["Opt"])
	assert.Equal(t, pdfread.String("field 11"), w.Resolve(byName["field 11"]["TU"]))
	alone, _ := w.Resolve(byName["field 12"]["Kids"]).(pdfread.Array)
	assert.Len(t, alone, 1)
	widgets, _ := w.Resolve(w.page.Dict["Annots"]).(pdfread.Array)
	assert.Len(t, widgets, 12)
}

func TestAttachments(t *testing.T) {
	data := []byte("berth;amount\nA1;12.50\n")
	w := write(t, func(display.Canvas) {}, func(w *pdf.Writer) {
		w.Attach = []pdf.Attachment{{Name: "lines.csv", Type: "text/csv", Description: "the lines", Data: data}}
	})
	names, _ := w.Resolve(w.Dict(w.Dict(w.Dict(w.Trailer["Root"])["Names"])["EmbeddedFiles"])["Names"]).(pdfread.Array)
	require.Len(t, names, 2)
	spec := w.Dict(names[1])
	assert.Equal(t, pdfread.String("the lines"), w.Resolve(spec["Desc"]))
	s, got := w.stream(w.Dict(spec["EF"])["F"])
	assert.Equal(t, data, got)
	assert.Equal(t, float64(len(data)), w.Number(w.Dict(s.Dict["Params"])["Size"]))
}

// The same calls give the same bytes; other contents have another identifier.
func TestIdentifiers(t *testing.T) {
	id := func(x float64) pdfread.Object {
		w := write(t, func(c display.Canvas) { c.Fill(square(x, 0, 1, 1), display.Solid(red), false) })
		list, _ := w.Resolve(w.Trailer["ID"]).(pdfread.Array)
		require.Len(t, list, 2)
		return list[0]
	}
	assert.Equal(t, id(1), id(1))
	assert.NotEqual(t, id(1), id(2))
}
