package picture

import (
	"math"
	"strings"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// matrix is the transform of an element: by its style, or its attribute.
func (d *Drawing) matrix(n *markup.Node, s *style.Style) display.Matrix {
	attribute := n.Attr("transform")
	if !s.Transformed() && attribute == "" {
		return display.Identity
	}
	ref := d.reference(n, s)
	m := display.Identity
	for _, list := range [][]style.TransformOp{s.Translate, s.Rotate, s.Scale, s.Transform} {
		for _, op := range list {
			m = m.Mul(display.Matrix{op.M[0], op.M[1], op.M[2], op.M[3], op.X.Of(ref.W), op.Y.Of(ref.H)})
		}
	}
	if len(s.Transform) == 0 {
		m = m.Mul(parseTransform(attribute))
	}
	ox, oy := ref.X+s.TransformOrigin[0].Of(ref.W), ref.Y+s.TransformOrigin[1].Of(ref.H)
	return display.Translate(ox, oy).Mul(m).Mul(display.Translate(-ox, -oy))
}

// reference is the box that a transform's percentages and origin are of
// (Transforms 1, §8).
func (d *Drawing) reference(n *markup.Node, s *style.Style) display.Rect {
	switch s.TransformBox {
	case style.FillBox, style.ContentBox:
		return d.bounds(n, s)
	case style.StrokeBox, style.BorderBox:
		box := d.bounds(n, s)
		if !s.Stroke.None {
			by := -s.StrokeWidth.Of(d.diagonal()) / 2
			box = box.Inset(by, by, by, by)
		}
		return box
	}
	return display.Rect{W: d.view[0], H: d.view[1]}
}

// arguments tells how many numbers each transform function takes.
var arguments = map[string][]int{"translate": {1, 2}, "scale": {1, 2}, "rotate": {1, 3}, "skewX": {1}, "skewY": {1}, "matrix": {6}}

// parseTransform reads a transform attribute; one that breaks a rule has no effect
// (Transforms 1, §9.1).
func parseTransform(t string) display.Matrix {
	m := display.Identity
	p := &pathParser{s: t}
	for first := true; ; first = false {
		p.blank()
		if !first && p.i < len(t) && t[p.i] == ',' {
			p.i++
			p.blank()
		} else if p.i == len(t) {
			return m
		}
		open := strings.IndexByte(t[p.i:], '(')
		if open < 0 {
			return display.Identity
		}
		name := strings.TrimRight(t[p.i:p.i+open], " \t\r\n")
		p.i += open + 1
		v, ok := p.arguments(arguments[name])
		if !ok {
			return display.Identity
		}
		m = m.Mul(transformation(name, v))
	}
}

// arguments reads numbers with at most one comma between two, up to the closing
// parenthesis; there must be as many as one of counts says.
func (p *pathParser) arguments(counts []int) (v []float64, ok bool) {
	for {
		p.blank()
		if len(v) > 0 && p.i < len(p.s) {
			switch p.s[p.i] {
			case ')':
				p.i++
				for _, n := range counts {
					ok = ok || n == len(v)
				}
				return v, ok
			case ',':
				p.i++
				p.blank()
			}
		}
		if p.i < len(p.s) && p.s[p.i] == ',' {
			return nil, false
		}
		x, is := p.num()
		if !is {
			return nil, false
		}
		v = append(v, x)
	}
}

// blank skips white space.
func (p *pathParser) blank() {
	for p.i < len(p.s) && strings.IndexByte(" \t\r\n", p.s[p.i]) >= 0 {
		p.i++
	}
}

// transformation is one function with as many numbers as it takes.
func transformation(name string, v []float64) display.Matrix {
	switch name {
	case "translate":
		return display.Translate(v[0], append(v, 0)[1])
	case "scale":
		return display.Matrix{v[0], 0, 0, v[len(v)-1], 0, 0}
	case "rotate":
		sin, cos := math.Sincos(v[0] * math.Pi / 180)
		turn := display.Matrix{cos, sin, -sin, cos, 0, 0}
		if len(v) == 1 {
			return turn
		}
		return display.Translate(v[1], v[2]).Mul(turn).Mul(display.Translate(-v[1], -v[2]))
	case "skewX":
		return display.Matrix{1, 0, math.Tan(v[0] * math.Pi / 180), 1, 0, 0}
	case "skewY":
		return display.Matrix{1, math.Tan(v[0] * math.Pi / 180), 0, 1, 0, 0}
	}
	return display.Matrix(v)
}
