package style

// ShapeSegment is a command of shape() as one of SVG's path data (CSS Shapes 2, §3.4): its
// letter, and what its numbers count from.
type ShapeSegment struct {
	Letter byte
	Args   []ShapeArg
}

// ShapeArg is a number of path data: a length, of which percentages count from the width,
// the height or the mean of both of the shape's box, or one that is as it is.
type ShapeArg struct {
	LP   LP
	Axis ShapeAxis
}

// ShapeAxis is what percentages count from.
type ShapeAxis byte

// What the percentages of a number in a shape count from.
const (
	AlongX ShapeAxis = iota
	AlongY
	AlongBoth
)

// shapeArg is a number that is still to be computed.
type shapeArg struct {
	lp   spec[LP]
	axis ShapeAxis
}

// shapeCommand reads the numbers of a command, whose letter is a small one where they are
// relative.
type shapeCommand struct {
	v      *values
	letter byte
	args   []shapeArg
}

// shapePath reads the arguments of shape().
func (v *values) shapePath() (spec[ClipPath], bool) {
	rule := Nonzero
	if k, ok := v.oneOf("nonzero evenodd"); ok {
		rule = k
	}
	if !v.word("from") {
		return nil, false
	}
	first := &shapeCommand{v: v, letter: 'M'}
	if !first.position() {
		return nil, false
	}
	list := []*shapeCommand{first}
	for v.comma() {
		c := &shapeCommand{v: v}
		if !c.read() {
			return nil, false
		}
		list = append(list, c)
	}
	return func(c *Computer) ClipPath {
		s := ClipPath{Kind: PathShape, Rule: rule}
		for _, command := range list {
			segment := ShapeSegment{Letter: command.letter}
			for _, a := range command.args {
				segment.Args = append(segment.Args, ShapeArg{a.lp(c), a.axis})
			}
			s.Segments = append(s.Segments, segment)
		}
		return s
	}, len(list) > 1
}

// read reads one command.
func (c *shapeCommand) read() bool {
	v := c.v
	if v.word("close") {
		c.letter = 'Z'
		return true
	}
	for name, letter := range map[string]byte{"move": 'M', "line": 'L', "hline": 'H', "vline": 'V', "curve": 'Q', "smooth": 'T', "arc": 'A'} {
		if v.word(name) {
			c.letter = letter
			break
		}
	}
	if c.letter == 0 {
		return false
	}
	relative := v.word("by")
	if !relative && !v.word("to") {
		return false
	}
	if !c.numbers(relative) {
		return false
	}
	if relative {
		c.letter += 'a' - 'A'
	}
	return true
}

// numbers reads where a command leads, and how.
func (c *shapeCommand) numbers(relative bool) bool {
	point := c.position
	if relative {
		point = c.pair
	}
	switch c.letter {
	case 'H':
		return c.along(AlongX, relative, "left", "center", "right")
	case 'V':
		return c.along(AlongY, relative, "top", "center", "bottom")
	case 'Q', 'T':
		return point() && c.controls(point)
	case 'A':
		return point() && c.arc()
	}
	return point()
}

// position reads a place in the box.
func (c *shapeCommand) position() bool {
	p, ok := c.v.place()
	c.args = append(c.args, shapeArg{func(c *Computer) LP { return p(c).X }, AlongX}, shapeArg{func(c *Computer) LP { return p(c).Y }, AlongY})
	return ok
}

// pair reads a way from the place that the path has reached.
func (c *shapeCommand) pair() bool {
	x, okX := c.v.lp(false)
	y, okY := c.v.lp(false)
	c.args = append(c.args, shapeArg{x, AlongX}, shapeArg{y, AlongY})
	return okX && okY
}

// along reads a way along one axis; to a side of the box by its name.
func (c *shapeCommand) along(axis ShapeAxis, relative bool, names ...string) bool {
	for i, name := range names {
		if !relative && c.v.word(name) {
			c.args = append(c.args, shapeArg{fixed(LP{Pct: 50 * float64(i)}), axis})
			return true
		}
	}
	l, ok := c.v.lp(false)
	c.args = append(c.args, shapeArg{l, axis})
	return ok
}

// controls reads the control points of a curve, which path data has before its end. One
// makes the curve quadratic, or gives a smooth one its second control point.
func (c *shapeCommand) controls(point func() bool) bool {
	if !c.v.word("with") {
		return c.letter == 'T'
	}
	end := c.args
	c.args = nil
	if !point() {
		return false
	}
	switch {
	case c.letter == 'T':
		c.letter = 'S'
	case c.v.delim('/'):
		c.letter = 'C'
		if !point() {
			return false
		}
	}
	c.args = append(c.args, end...)
	return true
}

// arc reads the radii of an arc and which of the four arcs it is.
func (c *shapeCommand) arc() bool {
	if !c.v.word("of") {
		return false
	}
	end := c.args
	rx, ok := c.v.lp(false)
	if !ok {
		return false
	}
	radii := []shapeArg{{rx, AlongBoth}, {rx, AlongBoth}}
	if ry, ok := c.v.lp(false); ok {
		radii = []shapeArg{{rx, AlongX}, {ry, AlongY}}
	}
	turn, large, sweep := fixed(0.0), 0.0, 0.0
	for !c.v.done() {
		switch {
		case c.v.word("cw"):
			sweep = 1
		case c.v.word("large"):
			large = 1
		case c.v.word("ccw"), c.v.word("small"):
		case c.v.word("rotate"):
			if turn, ok = c.v.angle(); !ok {
				return false
			}
		default:
			return c.endArc(radii, turn, large, sweep, end)
		}
	}
	return c.endArc(radii, turn, large, sweep, end)
}

// endArc puts the numbers of an arc into the order of path data.
func (c *shapeCommand) endArc(radii []shapeArg, turn spec[float64], large, sweep float64, end []shapeArg) bool {
	number := func(x float64) shapeArg { return shapeArg{lp: fixed(LP{Px: x})} }
	c.args = append(radii, shapeArg{lp: func(c *Computer) LP { return LP{Px: turn(c)} }}, number(large), number(sweep))
	c.args = append(c.args, end...)
	return true
}
