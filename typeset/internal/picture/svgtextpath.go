package picture

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
)

// svgPath is a path that text runs along, as short straight stretches.
type svgPath struct {
	pts   [][2]float64
	to    []float64 // length up to each point
	start float64   // where the next letter begins
}

// curveSteps is how many stretches stand for a curve.
const curveSteps = 32

// along is the path that a textPath element names, or nil (SVG 2, §11.8).
func (t *svgText) along(n *markup.Node) *svgPath {
	to := t.d.byID(href(n))
	if to == nil {
		return nil
	}
	s := t.d.own(to)
	shape := t.d.shape(to, s)
	if shape == nil {
		return nil
	}
	p := flat(shape.Transform(t.d.matrix(to, s)))
	if len(p.pts) < 2 {
		return nil
	}
	p.start = length(n.Attr("startOffset"), p.to[len(p.to)-1])
	return p
}

// flat is a path as straight stretches.
func flat(path *display.Path) *svgPath {
	p := &svgPath{}
	add := func(x, y float64) {
		sum := 0.0
		if k := len(p.pts); k > 0 {
			sum = p.to[k-1] + math.Hypot(x-p.pts[k-1][0], y-p.pts[k-1][1])
		}
		p.pts, p.to = append(p.pts, [2]float64{x, y}), append(p.to, sum)
	}
	var first [2]float64
	i := 0
	for _, o := range path.Ops {
		switch o {
		case 'M', 'L':
			if o == 'M' {
				first = [2]float64{path.Pts[i], path.Pts[i+1]}
			}
			add(path.Pts[i], path.Pts[i+1])
			i += 2
		case 'C':
			a, q := p.pts[len(p.pts)-1], path.Pts[i:i+6]
			for k := 1; k <= curveSteps; k++ {
				u := float64(k) / curveSteps
				v := 1 - u
				at := func(j int) float64 {
					return v*v*v*a[j] + 3*v*v*u*q[j] + 3*v*u*u*q[2+j] + u*u*u*q[4+j]
				}
				add(at(0), at(1))
			}
			i += 6
		case 'Z':
			add(first[0], first[1])
		}
	}
	return p
}

// at is the point a way along the path, and its direction; ok is false beyond its ends.
func (p *svgPath) at(way float64) (x, y, angle float64, ok bool) {
	if way < 0 || way > p.to[len(p.to)-1] {
		return 0, 0, 0, false
	}
	for i := 1; i < len(p.pts); i++ {
		a, b := p.pts[i-1], p.pts[i]
		if d := p.to[i] - p.to[i-1]; way <= p.to[i] && d > 0 {
			u := (way - p.to[i-1]) / d
			return a[0] + u*(b[0]-a[0]), a[1] + u*(b[1]-a[1]), math.Atan2(b[1]-a[1], b[0]-a[0]), true
		}
	}
	return 0, 0, 0, false
}

// end is where the path ends.
func (p *svgPath) end() (x, y float64) {
	last := p.pts[len(p.pts)-1]
	return last[0], last[1]
}

// onPath draws the letters of a part along the path from a way on, and returns where
// they end. Letters whose middle lies beyond the path are not drawn.
func (t *svgText) onPath(p part, way, spacing float64) float64 {
	s := p.p.s
	k := s.FontSize / p.m.Face.Upem
	shift := baseline(p.m.Face, s)
	for i := 0; i < len(p.run.Glyphs); {
		end := i + 1 // letters that belong together stay so
		for end < len(p.run.Glyphs) && p.run.Glyphs[end].Chars == 0 {
			end++
		}
		one := cluster(p.run, i, end)
		w := one.Width * k
		if x, y, angle, ok := t.path.at(way + w/2); ok && strings.TrimSpace(one.Text) != "" {
			sin, cos := math.Sincos(angle)
			t.d.in(t.c, display.Matrix{cos, sin, -sin, cos, x, y}, func() {
				t.glyphs(part{p.m, one, w, p.p}, -w/2, shift, 0)
			})
		}
		way += w + s.LetterSpacing.Of(s.FontSize) + spacing
		if one.Text == " " {
			way += s.WordSpacing.Of(s.FontSize)
		}
		i = end
	}
	return way
}

// cluster is the stretch of glyphs from start to end as a run of its own.
func cluster(r *font.Run, start, end int) *font.Run {
	out := &font.Run{Glyphs: append([]font.Glyph(nil), r.Glyphs[start:end]...)}
	g := r.Glyphs[start]
	out.Text = r.Text[g.Cluster : g.Cluster+g.Chars]
	for i := range out.Glyphs {
		out.Glyphs[i].Cluster = 0
		out.Width += out.Glyphs[i].Advance
	}
	return out
}
