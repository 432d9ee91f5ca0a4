package picture

import (
	"math"
	"strconv"

	"oliveledger/typeset/internal/display"
)

// ParsePath reads SVG path data (SVG 1.1, §8.3). What follows an error is left
// out, as the standard asks.
func ParsePath(d string) *display.Path {
	p := &pathParser{s: d, out: &display.Path{}}
	p.run()
	return p.out
}

type pathParser struct {
	s      string
	i      int
	out    *display.Path
	x, y   float64 // current point
	sx, sy float64 // start of the subpath
	cx, cy float64 // last control point
	last   byte
}

func (p *pathParser) space() {
	for p.i < len(p.s) && (p.s[p.i] == ' ' || p.s[p.i] == ',' || p.s[p.i] == '\n' || p.s[p.i] == '\t' || p.s[p.i] == '\r') {
		p.i++
	}
}

func (p *pathParser) num() (float64, bool) {
	p.space()
	start := p.i
	if p.i < len(p.s) && (p.s[p.i] == '+' || p.s[p.i] == '-') {
		p.i++
	}
	digits, dot := 0, false
	for p.i < len(p.s) {
		c := p.s[p.i]
		if c >= '0' && c <= '9' {
			digits++
		} else if c == '.' && !dot {
			dot = true
		} else {
			break
		}
		p.i++
	}
	if digits > 0 && p.i+1 < len(p.s) && (p.s[p.i] == 'e' || p.s[p.i] == 'E') {
		j := p.i + 1
		if p.s[j] == '+' || p.s[j] == '-' {
			j++
		}
		if j < len(p.s) && p.s[j] >= '0' && p.s[j] <= '9' {
			for p.i = j; p.i < len(p.s) && p.s[p.i] >= '0' && p.s[p.i] <= '9'; p.i++ {
			}
		}
	}
	v, err := strconv.ParseFloat(p.s[start:p.i], 64)
	return v, err == nil && digits > 0
}

func (p *pathParser) flag() (float64, bool) {
	p.space()
	if p.i < len(p.s) && (p.s[p.i] == '0' || p.s[p.i] == '1') {
		p.i++
		return float64(p.s[p.i-1] - '0'), true
	}
	return 0, false
}

var argCount = map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7, 'Z': 0}

func (p *pathParser) run() {
	cmd := byte(0)
	for {
		p.space()
		if p.i >= len(p.s) {
			return
		}
		if c := p.s[p.i]; c >= 'A' && c <= 'Z' || c >= 'a' && c <= 'z' {
			cmd = c
			p.i++
		} else if cmd == 0 || cmd == 'z' || cmd == 'Z' {
			return
		} else if cmd == 'M' {
			cmd = 'L'
		} else if cmd == 'm' {
			cmd = 'l'
		}
		up := cmd &^ 0x20
		n, ok := argCount[up]
		if !ok || len(p.out.Ops) == 0 && up != 'M' {
			return
		}
		var a [7]float64
		for k := range n {
			var ok bool
			if up == 'A' && (k == 3 || k == 4) {
				a[k], ok = p.flag()
			} else {
				a[k], ok = p.num()
			}
			if !ok {
				return
			}
		}
		p.draw(up, cmd != up, a)
		p.last = up
	}
}

func (p *pathParser) draw(c byte, rel bool, a [7]float64) {
	if rel {
		switch c {
		case 'H':
			a[0] += p.x
		case 'V':
			a[0] += p.y
		case 'A':
			a[5] += p.x
			a[6] += p.y
		default:
			for k := 0; k < argCount[c]; k += 2 {
				a[k] += p.x
				a[k+1] += p.y
			}
		}
	}
	mirror := func(kinds string) (float64, float64) {
		for i := range kinds {
			if kinds[i] == p.last {
				return 2*p.x - p.cx, 2*p.y - p.cy
			}
		}
		return p.x, p.y
	}
	switch c {
	case 'M':
		p.out.MoveTo(a[0], a[1])
		p.sx, p.sy = a[0], a[1]
		p.x, p.y = a[0], a[1]
	case 'L':
		p.line(a[0], a[1])
	case 'H':
		p.line(a[0], p.y)
	case 'V':
		p.line(p.x, a[0])
	case 'C':
		p.curve(a[0], a[1], a[2], a[3], a[4], a[5])
	case 'S':
		x, y := mirror("CS")
		p.curve(x, y, a[0], a[1], a[2], a[3])
	case 'Q', 'T':
		cx, cy, x, y := a[0], a[1], a[2], a[3]
		if c == 'T' {
			cx, cy = mirror("QT")
			x, y = a[0], a[1]
		}
		p.out.QuadTo(p.x, p.y, cx, cy, x, y)
		p.x, p.y, p.cx, p.cy = x, y, cx, cy
	case 'A':
		p.arc(a[0], a[1], a[2], a[3] != 0, a[4] != 0, a[5], a[6])
	case 'Z':
		p.out.Close()
		p.x, p.y = p.sx, p.sy
	}
}

func (p *pathParser) line(x, y float64) {
	p.out.LineTo(x, y)
	p.x, p.y = x, y
}

func (p *pathParser) curve(a, b, c, d, x, y float64) {
	p.out.CurveTo(a, b, c, d, x, y)
	p.cx, p.cy, p.x, p.y = c, d, x, y
}

// arc follows SVG 1.1, §F.6.
func (p *pathParser) arc(rx, ry, phi float64, large, sweep bool, x, y float64) {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || x == p.x && y == p.y {
		p.line(x, y)
		return
	}
	s, c := math.Sincos(phi * math.Pi / 180)
	dx, dy := (p.x-x)/2, (p.y-y)/2
	x1, y1 := c*dx+s*dy, -s*dx+c*dy
	if l := x1*x1/(rx*rx) + y1*y1/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	k := math.Max((rx*rx*ry*ry-rx*rx*y1*y1-ry*ry*x1*x1)/(rx*rx*y1*y1+ry*ry*x1*x1), 0)
	k = math.Sqrt(k)
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	cx, cy := c*cx1-s*cy1+(p.x+x)/2, s*cx1+c*cy1+(p.y+y)/2
	t0 := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx)
	t1 := math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx)
	d := t1 - t0
	if sweep && d < 0 {
		d += 2 * math.Pi
	} else if !sweep && d > 0 {
		d -= 2 * math.Pi
	}
	n := int(math.Ceil(math.Abs(d) / (math.Pi / 2)))
	step := d / float64(n)
	h := 4.0 / 3 * math.Tan(step/4)
	at := func(u, v float64) (float64, float64) { return cx + c*rx*u - s*ry*v, cy + s*rx*u + c*ry*v }
	for i := range n {
		a0, a1 := t0+float64(i)*step, t0+float64(i+1)*step
		s0, c0 := math.Sincos(a0)
		s1, c1 := math.Sincos(a1)
		ax, ay := at(c0-h*s0, s0+h*c0)
		bx, by := at(c1+h*s1, s1-h*c1)
		ex, ey := at(c1, s1)
		if i == n-1 {
			ex, ey = x, y
		}
		p.out.CurveTo(ax, ay, bx, by, ex, ey)
	}
	p.x, p.y = x, y
}
