package pdf

import (
	"math"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// stripe is a stretch of a gradient that has one colour.
type stripe struct {
	from, to float64 // offsets
	color    style.Color
}

// mostStripes is how many a gradient is drawn with before a shading is the shorter way.
const mostStripes = 2000

// stripes are those that a linear gradient consists of, if no colour in it runs into another.
// Viewers read a shading's function at a few hundred places, which moves the edges between
// colours; the edges of shapes are exact.
func stripes(g *display.Gradient) []stripe {
	if g.Kind != display.Linear || g.X0 == g.X1 && g.Y0 == g.Y1 || len(g.Stops) == 0 || len(g.Stops) > mostStripes {
		return nil
	}
	list := []stripe{{from: math.Inf(-1), color: g.Stops[0].Color}}
	for i := 1; i < len(g.Stops); i++ {
		a, b := g.Stops[i-1], g.Stops[i]
		if a.Color == b.Color {
			continue
		}
		if b.Offset > a.Offset {
			return nil
		}
		list = append(list, stripe{from: b.Offset, color: b.Color})
	}
	for i := range list {
		list[i].to = math.Inf(1)
		if i+1 < len(list) {
			list[i].to = list[i+1].from
		}
	}
	return list
}

// paintStripes fills the current clip, which area surrounds, with stripes across the line of a
// gradient. Each goes on a little below the next, so that nothing shines through between them.
func (c *Content) paintStripes(g *display.Gradient, list []stripe, area display.Rect) {
	dx, dy := g.X1-g.X0, g.Y1-g.Y0
	length := math.Hypot(dx, dy)
	const under = 1.0 // px
	far := math.Hypot(area.W, area.H) + math.Hypot(area.X+area.W/2-g.X0, area.Y+area.H/2-g.Y0)
	along := display.Matrix{dx / length, dy / length, -dy / length, dx / length, g.X0, g.Y0}
	for i, s := range list {
		if s.to <= s.from {
			continue
		}
		to := s.to
		if i+1 < len(list) {
			to = math.Min(list[i+1].to, to+under/length)
		}
		lo, hi := math.Max(s.from*length, -far), math.Min(to*length, far)
		if hi <= lo {
			continue
		}
		p := &display.Path{}
		p.Rect(display.Rect{X: lo, Y: -far, W: hi - lo, H: 2 * far})
		c.Fill(p.Transform(along), display.Solid(s.color), false)
	}
}
