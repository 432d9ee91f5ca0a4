package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
)

// ImageKind tells what an Image is.
type ImageKind uint8

const (
	ImageURL ImageKind = iota
	ImageLinear
	ImageRadial
	ImageConic
	ImageColor // image(color)
	ImageFade  // cross-fade
)

// Image is a CSS image (CSS Images 3 and 4).
type Image struct {
	Kind     ImageKind
	URL      string
	Gradient *Gradient
	Color    Color
	Density  float64 // of image-set(): image px for each CSS px
	Else     *Image  // of image(): what stands for a picture that does not load, or nil
}

// In gives the image as it looks where currentcolor is cur.
func (im *Image) In(cur Color) *Image {
	out := *im
	out.Color = im.Color.Or(cur)
	if im.Gradient != nil {
		g := *im.Gradient
		g.Stops = slices.Clone(g.Stops)
		for i := range g.Stops {
			g.Stops[i].Color = g.Stops[i].Color.Or(cur)
		}
		out.Gradient = &g
	}
	return &out
}

// Gradient is a linear, radial or conic gradient.
type Gradient struct {
	Repeating bool
	Angle     float64 // linear and conic; degrees
	ToX, ToY  int     // linear "to" corner or side: -1, 0, 1
	HasTo     bool
	Circle    bool
	Extent    Keyword // farthest-corner and so on; Length when RX, RY are given
	RX, RY    LP
	Center    Place
	Stops     []Stop
	Space     string
	Hue       string
}

// MixesIn is the colour space of the gradient, or what its colours ask for
// (CSS Images 4, §3.4.2).
func (g *Gradient) MixesIn() string {
	if g.Space != "" {
		return g.Space
	}
	for _, s := range g.Stops {
		if s.Color.Modern {
			return "oklab"
		}
	}
	return "srgb"
}

// Stop is a colour stop; without Color it is a hint.
type Stop struct {
	Color  Color
	Hint   bool
	HasPos bool
	Pos    LP // conic: Px in degrees, Pct of 360
}

// Background holds the layers of a background; lists repeat to the number of
// images.
type Background struct {
	Images     []*Image
	Attachment []Keyword
	Clip       []Keyword
	Origin     []Keyword
	Repeat     [][2]Keyword
	Size       []BackgroundSize
	Position   []Place
	Blend      []Keyword
	Composite  []Keyword // of a mask: how each layer is joined with those below
}

// Layer is the background with one of its layers alone.
func (b *Background) Layer(i int) Background {
	return Background{
		Images: b.Images[i : i+1], Attachment: ofLayer(b.Attachment, i), Clip: ofLayer(b.Clip, i), Origin: ofLayer(b.Origin, i),
		Repeat: ofLayer(b.Repeat, i), Size: ofLayer(b.Size, i), Position: ofLayer(b.Position, i), Blend: ofLayer(b.Blend, i), Composite: ofLayer(b.Composite, i),
	}
}

// ofLayer is the value of a list for one layer: lists repeat.
func ofLayer[T any](list []T, i int) []T {
	if len(list) == 0 {
		return list
	}
	i %= len(list)
	return list[i : i+1]
}

// MaskElement is the address of the one mask, which may be a mask element; "" for none.
func (s *Style) MaskElement() string {
	if list := s.Mask.Images; len(list) == 1 && list[0] != nil && list[0].Kind == ImageURL {
		return list[0].URL
	}
	return ""
}

// Masked tells whether an image masks the box (Masking 1, §6).
func (s *Style) Masked() bool {
	for _, im := range s.Mask.Images {
		if im != nil {
			return true
		}
	}
	return false
}

// BackgroundSize is cover, contain, or a width and a height (Kind Auto).
type BackgroundSize struct {
	Kind Keyword
	W, H Size
}

// BorderImage is border-image.
type BorderImage struct {
	Image  *Image
	Slice  [4]LP
	Fill   bool
	Width  [4]Size // Px of a plain number is a multiple of the border width: Limited
	Outset [4]LP   // Pct/100 is a multiple of the border width
	Repeat [2]Keyword
}

// ClipPath is a basic shape or the address of an SVG clipPath.
type ClipPath struct {
	Kind   Keyword // Inset, Circle, Ellipse, Polygon, PathShape, URLShape, BoxShape
	Box    Keyword
	Inset  [4]LP
	Radius [4][2]LP
	RX, RY Size
	Center Place
	Rule   Keyword
	Points []Place
	Path   string // of path()
	URL    string

	Segments []ShapeSegment // of shape()
}

func (v *values) image() (spec[*Image], bool) {
	if u, ok := v.url(); ok {
		return fixed(&Image{Kind: ImageURL, URL: u}), true
	}
	t := v.peek()
	if t.Kind != css.Function {
		return nil, false
	}
	in := &values{list: css.Words(t.Args), base: v.base}
	var s spec[*Image]
	var ok bool
	name := t.Text
	repeating := false
	if len(name) > 10 && name[:10] == "repeating-" {
		name, repeating = name[10:], true
	}
	switch name {
	case "linear-gradient":
		s, ok = in.linear(repeating)
	case "radial-gradient":
		s, ok = in.radial(repeating)
	case "conic-gradient":
		s, ok = in.conic(repeating)
	case "image-set", "-webkit-image-set":
		s, ok = in.imageSet()
	case "image":
		s, ok = in.pictureOrColor()
	}
	if ok {
		v.pos++
	}
	return s, ok
}

// pictureOrColor parses the arguments of image(): pictures, of which the first one
// that loads is used, and a colour for when none does (CSS Images 4, §2.4).
func (v *values) pictureOrColor() (spec[*Image], bool) {
	var urls []string
	for {
		u, ok := v.url()
		if !ok {
			if u, ok = v.str(); ok {
				u = Resolve(v.base, u)
			}
		}
		if !ok {
			break
		}
		if urls = append(urls, u); !v.comma() {
			break
		}
	}
	var col spec[Color]
	if !v.done() {
		var ok bool
		if col, ok = v.color(); !ok || !v.done() {
			return nil, false
		}
	}
	return func(c *Computer) *Image {
		var im *Image
		if col != nil {
			im = &Image{Kind: ImageColor, Color: col(c)}
		}
		for _, u := range slices.Backward(urls) {
			im = &Image{Kind: ImageURL, URL: u, Else: im}
		}
		return im
	}, col != nil || len(urls) > 0
}

// dotsPerPx is what image-set() chooses for: the page looks as it does on
// screen, where its author saw it.
const dotsPerPx = 1

// imageSet picks the candidate that fits best (CSS Images 4, §5).
func (v *values) imageSet() (spec[*Image], bool) {
	var best spec[*Image]
	density := 0.0
	for {
		s, d, known, ok := v.imageOption()
		if !ok {
			return nil, false
		}
		if known && d > 0 && (best == nil || nearer(d, density)) {
			best, density = s, d
		}
		if !v.comma() {
			break
		}
	}
	if !v.done() {
		return nil, false
	}
	if best == nil {
		return fixed[*Image](nil), true
	}
	return func(c *Computer) *Image {
		im := *best(c)
		im.Density = density
		return &im
	}, true
}

// nearer tells whether density a serves the output better than b: enough dots,
// but no more than needed.
func nearer(a, b float64) bool {
	if a >= dotsPerPx && b >= dotsPerPx {
		return a < b
	}
	return a > b
}

// imageOption reads one candidate; known is false for types that are not read.
func (v *values) imageOption() (s spec[*Image], density float64, known, ok bool) {
	density, known = 1, true
	resolved, typed := false, false
	if u, isText := v.str(); isText {
		s = fixed(&Image{Kind: ImageURL, URL: Resolve(v.base, u)})
	} else if s, ok = v.image(); !ok {
		return nil, 0, false, false
	}
	for !v.done() && v.peek().Kind != css.Comma {
		t := v.peek()
		if r, isNum := v.num(dimResolution); isNum && !resolved {
			resolved = true
			density = r.eval(nil).v
			if density < 0 && t.Kind != css.Function {
				return nil, 0, false, false
			}
		} else if t.Kind == css.Function && t.Text == "type" && !typed {
			typed = true
			w := css.Words(t.Args)
			known = known && len(w) == 1 && readableTypes[strings.ToLower(w[0].Text)]
			v.pos++
		} else {
			return nil, 0, false, false
		}
	}
	return s, density, known, true
}

// readableTypes are the media types of pictures that can be set.
var readableTypes = map[string]bool{"image/png": true, "image/jpeg": true, "image/jpg": true, "image/gif": true, "image/webp": true, "image/svg+xml": true}

type stopSpec struct {
	color spec[Color]
	pos   spec[LP]
}

// interpolation parses "in oklch longer hue".
func (v *values) interpolation() (space, hue string, ok bool) {
	if !v.word("in") {
		return "", "", true
	}
	t := v.next()
	sp := spaces[t.Lower()]
	if t.Kind != css.Ident || sp == nil {
		return "", "", false
	}
	hue = "shorter"
	if k := v.peek(); k.Is("shorter") || k.Is("longer") || k.Is("increasing") || k.Is("decreasing") {
		v.pos++
		hue = k.Lower()
		if sp.hue < 0 || !v.word("hue") {
			return "", "", false
		}
	}
	return t.Lower(), hue, true
}

// stops parses the colour stop list; angles tells that positions are angles.
func (v *values) stops(angular bool) ([]stopSpec, bool) {
	pos := func() (spec[LP], bool) {
		if !angular {
			return v.lp(false)
		}
		if t := v.peek(); t.Kind == css.Number && t.Num == 0 {
			v.pos++
			return fixed(LP{}), true
		}
		s, ok := v.num(dimAngle, dimPercent)
		if !ok {
			return nil, false
		}
		return func(c *Computer) LP { return s.eval(c).lp() }, true
	}
	var list []stopSpec
	lastHint := true
	for {
		if p, ok := pos(); ok && v.peek().Kind == css.Comma { // a hint
			if lastHint {
				return nil, false
			}
			list = append(list, stopSpec{pos: p})
			lastHint = true
		} else {
			var col spec[Color]
			var p2 spec[LP]
			if ok {
				p2 = p
			}
			if col, ok = v.color(); !ok {
				return nil, false
			}
			if p2 == nil {
				p2, _ = pos()
			}
			list = append(list, stopSpec{col, p2})
			if p3, ok := pos(); ok && p2 != nil {
				list = append(list, stopSpec{col, p3})
			}
			lastHint = false
		}
		if !v.comma() {
			break
		}
	}
	return list, v.done() && !lastHint && len(list) > 0
}

func computeStops(c *Computer, list []stopSpec) []Stop {
	out := make([]Stop, len(list))
	for i, s := range list {
		if s.color != nil {
			out[i].Color = s.color(c)
		} else {
			out[i].Hint = true
		}
		if s.pos != nil {
			out[i].HasPos, out[i].Pos = true, s.pos(c)
		}
	}
	return out
}

func (v *values) linear(repeating bool) (spec[*Image], bool) {
	g := Gradient{Repeating: repeating, Angle: 180}
	var angle spec[float64]
	head := false
	space, hue, ok := v.interpolation()
	if !ok {
		return nil, false
	}
	head = space != ""
	if a, ok := v.angle(); ok {
		angle, head = a, true
	} else if v.word("to") {
		head, g.HasTo = true, true
		if !v.sides(&g) {
			return nil, false
		}
	}
	if space == "" {
		if space, hue, ok = v.interpolation(); !ok {
			return nil, false
		}
		head = head || space != ""
	}
	if head && !v.comma() {
		return nil, false
	}
	g.Space, g.Hue = space, hue
	stops, ok := v.stops(false)
	return func(c *Computer) *Image {
		out := g
		if angle != nil {
			out.Angle = angle(c)
		}
		out.Stops = computeStops(c, stops)
		return &Image{Kind: ImageLinear, Gradient: &out}
	}, ok
}

// sides reads the side or corner that a gradient leads to: one word for each axis, in any order.
func (v *values) sides(g *Gradient) bool {
	for range 2 {
		k, ok := v.oneOf("left right top bottom")
		if !ok {
			break
		}
		to, toward := &g.ToX, 1
		if k == TopSide || k == BottomSide {
			to = &g.ToY
		}
		if k == LeftSide || k == TopSide {
			toward = -1
		}
		if *to != 0 {
			return false
		}
		*to = toward
	}
	return g.ToX != 0 || g.ToY != 0
}

// gradientRadii reads the radius of a circle, or both of an ellipse, which may be percentages (CSS Images 3, §3.2.1).
func (v *values) gradientRadii() (rx, ry spec[LP], ok bool) {
	start := v.pos
	if rx, ok = v.lp(true); !ok {
		return nil, nil, false
	}
	if ry, ok = v.lp(true); ok {
		return rx, ry, true
	}
	v.pos = start
	r, ok := v.length(true)
	if !ok {
		return nil, nil, false
	}
	return func(c *Computer) LP { return LP{Px: r(c)} }, nil, true
}

func (v *values) radial(repeating bool) (spec[*Image], bool) {
	g := Gradient{Repeating: repeating, Extent: FarthestCorner, Center: Place{LP{Pct: 50}, LP{Pct: 50}}}
	var rx, ry spec[LP]
	var center spec[Place]
	head, sized, shape := false, false, Keyword(0)
	for {
		if k, ok := v.oneOf("circle ellipse"); ok && shape == 0 {
			shape = k
		} else if k, ok := v.oneOf("closest-side closest-corner farthest-side farthest-corner"); ok && !sized {
			g.Extent, sized = k, true
		} else if x, y, ok := v.gradientRadii(); ok && !sized {
			rx, ry, sized = x, y, true
		} else {
			break
		}
		head = true
	}
	if rx != nil && (shape == Circle && ry != nil || shape == Ellipse && ry == nil) {
		return nil, false
	}
	if v.word("at") {
		var ok bool
		if center, ok = v.place(); !ok {
			return nil, false
		}
		head = true
	}
	space, hue, ok := v.interpolation()
	if !ok {
		return nil, false
	}
	if (head || space != "") && !v.comma() {
		return nil, false
	}
	g.Space, g.Hue = space, hue
	g.Circle = shape == Circle || rx != nil && ry == nil
	stops, ok := v.stops(false)
	return func(c *Computer) *Image {
		out := g
		if rx != nil {
			out.Extent, out.RX = Length, rx(c)
			out.RY = out.RX
			if ry != nil {
				out.RY = ry(c)
			}
		}
		if center != nil {
			out.Center = center(c)
		}
		out.Stops = computeStops(c, stops)
		return &Image{Kind: ImageRadial, Gradient: &out}
	}, ok
}

func (v *values) conic(repeating bool) (spec[*Image], bool) {
	g := Gradient{Repeating: repeating, Center: Place{LP{Pct: 50}, LP{Pct: 50}}}
	var from spec[float64]
	var center spec[Place]
	head := false
	if v.word("from") {
		var ok bool
		if from, ok = v.angle(); !ok {
			return nil, false
		}
		head = true
	}
	if v.word("at") {
		var ok bool
		if center, ok = v.place(); !ok {
			return nil, false
		}
		head = true
	}
	space, hue, ok := v.interpolation()
	if !ok || (head || space != "") && !v.comma() {
		return nil, false
	}
	g.Space, g.Hue = space, hue
	stops, ok := v.stops(true)
	return func(c *Computer) *Image {
		out := g
		if from != nil {
			out.Angle = finite(from(c))
		}
		if center != nil {
			out.Center = center(c)
		}
		out.Stops = computeStops(c, stops)
		return &Image{Kind: ImageConic, Gradient: &out}
	}, ok
}

// place parses a position of one, two or four parts (CSS Values 4, §9.3).
func (v *values) place() (spec[Place], bool) {
	parts := v.placeParts()
	if len(parts) == 3 {
		return nil, false
	}
	return placeOf(parts)
}

// backgroundPlace parses a position that may have three parts, too (CSS Backgrounds 3, §2.6).
func (v *values) backgroundPlace() (spec[Place], bool) { return placeOf(v.placeParts()) }

func placeOf(parts []placePart) (spec[Place], bool) {
	parts, ok := joinParts(parts)
	if !ok {
		return nil, false
	}
	x, y, ok := placeAxes(parts)
	if !ok {
		return nil, false
	}
	ax, ay := x.along(), y.along()
	return func(c *Computer) Place { return Place{ax(c), ay(c)} }, true
}

// placePart is a side, an offset, or an offset from a side.
type placePart struct {
	key Keyword // 0 for none
	off spec[LP]
}

func (p placePart) horizontal() bool { return p.key == LeftSide || p.key == RightSide }
func (p placePart) vertical() bool   { return p.key == TopSide || p.key == BottomSide }

// placeParts reads the one to four words of a position.
func (v *values) placeParts() (parts []placePart) {
	for len(parts) < 4 {
		if k, ok := v.oneOf("left right top bottom center"); ok {
			parts = append(parts, placePart{key: k})
		} else if l, ok := v.lp(false); ok {
			parts = append(parts, placePart{off: l})
		} else {
			break
		}
	}
	return parts
}

// joinParts joins the offsets among three or four parts to the sides before them.
func joinParts(parts []placePart) (joined []placePart, ok bool) {
	if len(parts) <= 2 {
		return parts, len(parts) > 0
	}
	for _, p := range parts {
		if p.off == nil {
			joined = append(joined, p)
			continue
		}
		if n := len(joined); n == 0 || joined[n-1].off != nil || joined[n-1].key == Center {
			return nil, false
		}
		joined[len(joined)-1].off = p.off
	}
	return joined, len(joined) == 2
}

// placeAxes tells which part is across and which is down.
func placeAxes(parts []placePart) (x, y placePart, ok bool) {
	if len(parts) == 1 {
		if parts[0].vertical() {
			return placePart{key: Center}, parts[0], true
		}
		return parts[0], placePart{key: Center}, true
	}
	x, y = parts[0], parts[1]
	if x.vertical() && y.off != nil && y.key == 0 || x.off != nil && x.key == 0 && y.horizontal() {
		return x, y, false
	}
	if x.vertical() || y.horizontal() {
		x, y = y, x
	}
	return x, y, !x.vertical() && !y.horizontal()
}

// along is where a part stands between the near side and the far one.
func (p placePart) along() spec[LP] {
	switch {
	case p.key == 0:
		return p.off
	case p.key == Center:
		return fixed(LP{Pct: 50})
	case p.key == LeftSide || p.key == TopSide:
		if p.off != nil {
			return p.off
		}
		return fixed(LP{})
	case p.off == nil:
		return fixed(LP{Pct: 100})
	}
	return func(c *Computer) LP {
		l := p.off(c)
		if l.Fn != nil {
			return LP{Fn: func(b float64) float64 { return b - l.Fn(b) }}
		}
		return LP{Px: -l.Px, Pct: 100 - l.Pct}
	}
}
