package paint

import (
	"fmt"
	"math"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// scribe writes down all that is painted, a line a call: what belongs to a group, or stands
// between Save and Restore, is indented.
type scribe struct {
	b     strings.Builder
	depth int
}

func (s *scribe) line(format string, args ...any) {
	s.b.WriteString(strings.Repeat("  ", max(s.depth, 0)))
	fmt.Fprintf(&s.b, format, args...)
	s.b.WriteByte('\n')
}

// num writes a number with two digits at most.
func num(v float64) string {
	v = math.Round(v*100) / 100
	if v == 0 {
		v = 0 // not -0
	}
	return fmt.Sprintf("%g", v)
}

func nums(list ...float64) string {
	words := make([]string, len(list))
	for i, v := range list {
		words[i] = num(v)
	}
	return strings.Join(words, " ")
}

func outline(p *display.Path) string {
	if r, ok := p.AsRect(); ok {
		return fmt.Sprintf("rect %s", nums(r.X, r.Y, r.W, r.H))
	}
	var b strings.Builder
	at := 0
	for _, op := range p.Ops {
		n := map[byte]int{'M': 2, 'L': 2, 'C': 6}[op]
		fmt.Fprintf(&b, "%c%s ", op, nums(p.Pts[at:at+n]...))
		at += n
	}
	return strings.TrimSpace(b.String())
}

func ink(c style.Color) string {
	s := hue(c)
	if c.A < 1 {
		s += "/" + num(float64(c.A))
	}
	return s
}

func rule(evenOdd bool) string {
	if evenOdd {
		return " even-odd"
	}
	return ""
}

// paint describes what fills a shape; a tile is drawn below.
func (s *scribe) paint(p display.Paint) string {
	alpha := ""
	if p.Alpha < 1 {
		alpha = " alpha " + num(p.Alpha)
	}
	switch {
	case p.Gradient != nil:
		g := p.Gradient
		var stops []string
		for _, stop := range g.Stops {
			stops = append(stops, num(stop.Offset)+" "+ink(stop.Color))
		}
		return fmt.Sprintf("%s gradient %s r %s angle %s matrix %s: %s%s", []string{"linear", "radial", "conic"}[g.Kind], nums(g.X0, g.Y0, g.X1, g.Y1), nums(g.R0, g.R1), num(g.Angle), nums(g.Matrix[:]...), strings.Join(stops, ", "), alpha)
	case p.Tile != nil:
		return fmt.Sprintf("tiles of %s step %s matrix %s%s", nums(p.Tile.Box.X, p.Tile.Box.Y, p.Tile.Box.W, p.Tile.Box.H), nums(p.Tile.StepX, p.Tile.StepY), nums(p.Tile.Matrix[:]...), alpha)
	}
	return ink(p.Color) + alpha
}

func (s *scribe) tile(p display.Paint) {
	if p.Tile != nil {
		s.inside(func() { p.Tile.Draw(s) })
	}
}

func (s *scribe) inside(draw func()) {
	s.depth++
	draw()
	s.depth--
}

func (s *scribe) Save()                              { s.line("save"); s.depth++ }
func (s *scribe) Restore()                           { s.depth--; s.line("restore") }
func (s *scribe) Transform(m display.Matrix)         { s.line("transform %s", nums(m[:]...)) }
func (s *scribe) Clip(p *display.Path, evenOdd bool) { s.line("clip %s%s", outline(p), rule(evenOdd)) }

func (s *scribe) Link(b display.Rect, to display.Link) {
	s.line("link %s %s %q", nums(b.X, b.Y, b.W, b.H), to.Address, to.Text)
}
func (s *scribe) Tag(*tag.Element, int32)          {}
func (s *scribe) Furniture(display.Furniture)      {}
func (s *scribe) Cover(*tag.Element, display.Rect) {}
func (s *scribe) Anchor(name string, x, y float64) { s.line("anchor %s %s", nums(x, y), name) }
func (s *scribe) Image(i *display.Image, b display.Rect) {
	s.line("image %d×%d in %s", i.W, i.H, nums(b.X, b.Y, b.W, b.H))
}

func (s *scribe) Field(f display.Field) {
	s.line("field %d %q %q size %s checked=%t in %s", f.Kind, f.Name, f.Value, num(f.Size), f.Checked, nums(f.Box.X, f.Box.Y, f.Box.W, f.Box.H))
}

func (s *scribe) Fill(p *display.Path, paint display.Paint, evenOdd bool) {
	s.line("fill %s%s with %s", outline(p), rule(evenOdd), s.paint(paint))
	s.tile(paint)
}

func (s *scribe) Stroke(p *display.Path, paint display.Paint, k display.Stroke) {
	s.line("stroke %s with %s width %s cap %d join %d dash %s from %s", outline(p), s.paint(paint), num(k.Width), k.Cap, k.Join, nums(k.Dash...), num(k.DashOffset))
	s.tile(paint)
}

func (s *scribe) Text(t *display.Text) {
	var words []string
	for _, r := range t.Runs {
		words = append(words, r.Text)
	}
	s.line("text %q at %s size %s with %s letter %s word %s%s", strings.Join(words, ""), nums(t.X, t.Y), num(t.Size), s.paint(t.Paint), num(t.LetterSpacing), num(t.WordSpacing), flags(t))
	s.tile(t.Paint)
}

func flags(t *display.Text) (list string) {
	for _, f := range []struct {
		name string
		on   bool
	}{{" bold", t.Bold}, {" oblique", t.Oblique != 0}, {" upright", t.Upright}, {" hidden", t.Hidden}, {" gap", t.Gap}, {" copy", t.Copy}} {
		if f.on {
			list += f.name
		}
	}
	return list
}

func (s *scribe) Drawing(_ any, box display.Rect, draw func(display.Canvas)) {
	display.DrawInPlace(s, box, draw)
}

func (s *scribe) Group(g display.Group, draw func(display.Canvas)) {
	blend := g.Blend
	if blend == "" {
		blend = "Normal"
	}
	s.line("group alpha %s %s in %s", num(g.Alpha), blend, nums(g.Box.X, g.Box.Y, g.Box.W, g.Box.H))
	s.inside(func() { draw(s) })
	if g.Mask != nil {
		s.line("masked by alpha=%t", g.AlphaMask)
		s.inside(func() { g.Mask(s) })
	}
}
