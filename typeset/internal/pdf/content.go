package pdf

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
	"oliveledger/typeset/internal/watch"
)

// Content is a content stream in the making: of a page, a form or a pattern.
type Content struct {
	w     *Writer
	page  *Page
	res   *resources
	buf   []byte
	ctm   display.Matrix // leads to the page, in pt
	fine  int            // decimal places that lengths need under it
	stack []state
	now   state

	codes []uint32 // of the glyphs of a cluster

	marks     *marked      // numbers of marked content; nil where nothing is tagged
	tag       *tag.Element // what is drawn belongs to it
	order     int32
	opened    *tag.Element      // of the sequence that is open
	furniture display.Furniture // what is drawn for no element
	open      bool
}

// state is what has been set, so that it is not set again.
type state struct {
	ctm          display.Matrix
	fill, stroke style.Color // with A as 1; 0 for a pattern and at first
	gs           string
	font         *embedded
	size         float64
}

// rooms keeps the memory of streams that are written.
var rooms = sync.Pool{New: func() any { return new([]byte) }}

func takeRoom() []byte { return (*rooms.Get().(*[]byte))[:0] }

// largestRoom is how many bytes are kept of it.
const largestRoom = 4 << 20

func giveRoom(room []byte) {
	if cap(room) <= largestRoom {
		rooms.Put(&room)
	}
}

// mostContent is how many bytes one content stream may have.
const mostContent = 256 << 20

func (c *Content) op(parts ...string) {
	c.w.Watch.Step()
	if len(c.buf) > mostContent {
		panic(watch.Stopped{Err: fmt.Errorf("a page draws more than %d MB; look for drawings or filters inside each other", mostContent>>20)})
	}
	for i, p := range parts {
		if i > 0 {
			c.buf = append(c.buf, ' ')
		}
		c.buf = append(c.buf, p...)
	}
	c.buf = append(c.buf, '\n')
}

// fixed writes numbers with at most so many decimal places.
func (c *Content) fixed(places int, v []float64) {
	for _, x := range v {
		c.buf = append(appendFixed(c.buf, x, places), ' ')
	}
}

// nums writes numbers that are no lengths.
func (c *Content) nums(v ...float64) { c.fixed(ordinaryPlaces, v) }

// lengths writes coordinates and sizes as exactly as paper can show them.
func (c *Content) lengths(v ...float64) { c.fixed(c.fine, v) }

// repeated writes lengths that others are added to, so that their errors would be seen.
func (c *Content) repeated(v ...float64) { c.fixed(min(c.fine+2, mostPlaces), v) }

// under sets the matrix that leads to the page.
func (c *Content) under(m display.Matrix) {
	c.ctm, c.fine = m, placesFor(m)
}

// Save keeps the graphics state.
func (c *Content) Save() {
	c.now.ctm = c.ctm
	c.stack = append(c.stack, c.now)
	c.w.deepest = max(c.w.deepest, len(c.stack))
	c.op("q")
}

// Restore goes back to the state last saved.
func (c *Content) Restore() {
	n := len(c.stack) - 1
	c.now = c.stack[n]
	c.under(c.now.ctm)
	c.stack = c.stack[:n]
	c.op("Q")
}

// Transform changes the space of what follows.
func (c *Content) Transform(m display.Matrix) {
	c.under(c.ctm.Mul(m))
	c.buf = append(appendMatrix(c.buf, m), " cm\n"...)
}

func (c *Content) path(p *display.Path) {
	i := 0
	for k := 0; k < len(p.Ops); k++ {
		if r, ok := rectAt(p, k, i); ok {
			c.rect(r)
			k, i = k+4, i+8
			continue
		}
		switch p.Ops[k] {
		case 'M':
			c.lengths(p.Pts[i : i+2]...)
			c.buf = append(c.buf, "m\n"...)
			i += 2
		case 'L':
			c.lengths(p.Pts[i : i+2]...)
			c.buf = append(c.buf, "l\n"...)
			i += 2
		case 'C':
			c.lengths(p.Pts[i : i+6]...)
			c.buf = append(c.buf, "c\n"...)
			i += 6
		case 'Z':
			c.buf = append(c.buf, "h\n"...)
		}
	}
}

// rect rounds the edges, not the sizes: boxes that touch still do so.
func (c *Content) rect(r display.Rect) {
	x, y := rounded(r.X, c.fine), rounded(r.Y, c.fine)
	c.lengths(x, y, rounded(r.X+r.W, c.fine)-x, rounded(r.Y+r.H, c.fine)-y)
	c.buf = append(c.buf, "re\n"...)
}

// rectAt gives the rectangle along the axes that the subpath from an operator and
// its points on is, if it is one in the order that “re” draws.
func rectAt(p *display.Path, op, pt int) (display.Rect, bool) {
	if p.Ops[op] != 'M' || op+5 > len(p.Ops) || string(p.Ops[op:op+5]) != "MLLLZ" {
		return display.Rect{}, false
	}
	q := p.Pts[pt : pt+8]
	if q[1] != q[3] || q[2] != q[4] || q[5] != q[7] || q[0] != q[6] {
		return display.Rect{}, false
	}
	return display.Rect{X: q[0], Y: q[1], W: q[4] - q[0], H: q[5] - q[1]}, true
}

// trim makes pictures and clips a trace smaller, so that viewers that round
// outwards stay inside the box; in px, and more than coordinates are rounded by.
const trim = 0.01

// Clip limits what follows to the path.
func (c *Content) Clip(p *display.Path, evenOdd bool) {
	if len(p.Ops) == 0 { // nothing is inside an empty path
		p = &display.Path{}
		p.Rect(display.Rect{})
	}
	if r, ok := p.AsRect(); ok && r.W > 1 && r.H > 1 {
		p = &display.Path{}
		p.Rect(r.Inset(trim, trim, trim, trim))
	}
	c.path(p)
	if evenOdd {
		c.op("W* n")
		return
	}
	c.op("W n")
}

// color writes the operator that sets a colour (§8.6.8).
func (c *Content) color(col style.Color, gray, rgb, cmyk string) {
	n, op := 3, rgb
	switch {
	case col.Space == style.CMYK:
		n, op = 4, cmyk
	case col.C[0] == col.C[1] && col.C[1] == col.C[2]:
		n, op = 1, gray
	}
	for _, v := range col.C[:n] {
		c.nums(float64(v))
	}
	c.op(op)
}

func (c *Content) fillColor(col style.Color) {
	c.w.cmyk = c.w.cmyk || col.Space == style.CMYK
	if col.A = 1; col != c.now.fill {
		c.now.fill = col
		c.color(col, "g", "rg", "k")
	}
}

func (c *Content) strokeColor(col style.Color) {
	c.w.cmyk = c.w.cmyk || col.Space == style.CMYK
	if col.A = 1; col != c.now.stroke {
		c.now.stroke = col
		c.color(col, "G", "RG", "K")
	}
}

// alpha sets the constant alpha through an ExtGState.
func (c *Content) alpha(a float64) {
	if a >= 0.9999 && c.now.gs == "" {
		return
	}
	c.state(fmt.Sprintf("/ca %s/CA %s", num(a), num(a)))
}

func (c *Content) state(dict string) {
	id, ok := c.w.states[dict]
	if !ok {
		id = c.w.alloc()
		c.w.states[dict] = id
		c.w.object(id, "<</Type/ExtGState"+dict+">>")
	}
	name := c.res.add(&c.res.states, fmt.Sprintf("G%d", id), id)
	if c.now.gs != name {
		c.now.gs = name
		c.op("/"+name, "gs")
	}
}

// Fill fills a path.
func (c *Content) Fill(p *display.Path, paint display.Paint, evenOdd bool) {
	c.w.Watch.Step()
	if len(p.Ops) == 0 {
		return
	}
	c.mark()
	op := "f"
	if evenOdd {
		op = "f*"
	}
	switch {
	case paint.Gradient != nil:
		c.Save()
		c.Clip(p, evenOdd)
		c.gradient(paint.Gradient, paint.Alpha, p.Bounds())
		c.Restore()
	case paint.Tile != nil:
		c.tile(p, paint, op)
	case paint.Color.A > 0:
		c.alpha(float64(paint.Color.A))
		c.fillColor(paint.Color)
		c.path(p)
		c.op(op)
	}
}

// Stroke draws along a path.
func (c *Content) Stroke(p *display.Path, paint display.Paint, s display.Stroke) {
	c.w.Watch.Step()
	if len(p.Ops) == 0 || s.Width <= 0 {
		return
	}
	if paint.Gradient == nil && paint.Color.A == 0 {
		return
	}
	c.mark()
	c.Save()
	if paint.Gradient != nil {
		// a stroke takes its gradient as a pattern
		name := c.shadingPattern(paint.Gradient)
		c.alpha(paint.Alpha)
		c.op("/Pattern CS /"+name, "SCN")
		c.now.stroke = style.Color{}
	} else {
		c.alpha(float64(paint.Color.A))
		c.strokeColor(paint.Color)
	}
	c.repeated(s.Width) // 0 would be a line of one dot of the device
	c.op("w", strconv.Itoa(s.Cap), "J", strconv.Itoa(s.Join), "j")
	if s.Miter > 0 {
		c.nums(s.Miter)
		c.op("M")
	}
	if len(s.Dash) > 0 {
		c.buf = append(c.buf, '[')
		c.repeated(s.Dash...)
		c.buf = append(c.buf, ']')
		c.lengths(s.DashOffset)
		c.op("d")
	}
	c.path(p)
	c.op("S")
	c.Restore()
}

// Text draws shaped text.
func (c *Content) Text(t *display.Text) {
	c.w.Watch.Step()
	if t.Paint.Gradient == nil && t.Paint.Tile == nil && t.Paint.Color.A == 0 || t.Size <= 0 {
		return
	}
	c.mark()
	e := c.w.font(fontOf(t))
	switch {
	case t.Paint.Gradient != nil:
		c.Save()
		defer c.Restore()
		pat := c.shadingPattern(t.Paint.Gradient)
		c.alpha(t.Paint.Alpha)
		c.op("/Pattern cs /"+pat, "scn")
		c.now.fill = style.Color{}
	default:
		c.alpha(float64(t.Paint.Color.A))
		c.fillColor(t.Paint.Color)
	}
	if t.Hidden {
		c.Save()
		defer c.Restore()
		c.op("3 Tr")
	}
	if t.Copy { // §14.9.4: nothing stands for it
		c.op("/Span<</ActualText()>>BDC")
		defer c.op("EMC")
	}
	if t.Bold && !t.Hidden {
		c.Save()
		defer c.Restore()
		c.strokeColor(t.Paint.Color)
		c.lengths(t.Size / 24)
		c.op("w 2 Tr 1 j")
	}
	c.op("BT")
	if c.now.font != e || c.now.size != t.Size {
		c.now.font, c.now.size = e, t.Size
		c.buf = append(c.buf, '/')
		c.buf = append(c.buf, c.res.add(&c.res.fonts, e.name, e.id)...)
		c.buf = append(c.buf, ' ')
		c.repeated(t.Size)
		c.op("Tf")
	}
	skew := math.Tan(t.Oblique * math.Pi / 180)
	c.place(skew, t.X, t.Y)
	(&glyphRuns{c: c, t: t, face: e, skew: skew}).write()
	c.op("ET")
}

// place moves to where text begins; y runs downwards on the page.
func (c *Content) place(skew, x, y float64) {
	if skew == 0 {
		c.buf = append(c.buf, "1 0 0 -1 "...)
	} else {
		c.nums(1, 0, skew, -1)
	}
	c.repeated(x) // words set in parts stand as those set in one
	c.lengths(y)
	c.op("Tm")
}

// Image draws a picture into a box.
func (c *Content) Image(im *display.Image, box display.Rect) {
	c.mark()
	id := c.w.image(im)
	name := c.res.add(&c.res.objects, fmt.Sprintf("X%d", id), id)
	c.alphaReset()
	c.op("q")
	if box.W > 1 && box.H > 1 {
		box = box.Inset(trim, trim, trim, trim)
	}
	c.buf = appendMatrix(c.buf, display.Matrix{box.W, 0, 0, -box.H, box.X, box.Y + box.H})
	c.op(" cm /"+name, "Do Q")
}

func (c *Content) alphaReset() {
	if c.now.gs != "" {
		c.alpha(1)
	}
}

func (w *Writer) image(im *display.Image) Ref {
	if id, ok := w.images[im.Key]; ok {
		return id
	}
	id := w.alloc()
	w.images[im.Key] = id
	dict := fmt.Sprintf("/Type/XObject/Subtype/Image/Width %d/Height %d/BitsPerComponent 8", im.W, im.H)
	if im.Alpha != nil {
		mask := w.alloc()
		w.stream(mask, dict+"/ColorSpace/DeviceGray", im.Alpha, well)
		dict += "/SMask " + mask.String()
	}
	w.cmyk = w.cmyk || im.JPEG != nil && im.Comps == 4 && im.Profile == nil
	if im.JPEG != nil {
		dict += "/ColorSpace" + w.colorSpace(im.Comps, im.Profile)
		if im.Invert {
			dict += "/Decode[1 0 1 0 1 0 1 0]"
		}
		w.stream(id, dict+"/Filter/DCTDecode", im.JPEG, unpacked)
		return id
	}
	colors := 3
	if im.Gray {
		colors = 1
	}
	data := predict(im.RGB, im.W*colors)
	w.stream(id, dict+"/ColorSpace"+w.colorSpace(colors, im.Profile)+fmt.Sprintf("/DecodeParms<</Predictor 15/Colors %d/Columns %d>>", colors, im.W), data, well)
	return id
}

// predict applies PNG's “up” filter to each row, which deflates better.
func predict(data []byte, row int) []byte {
	if row == 0 {
		return nil
	}
	out := make([]byte, 0, len(data)+len(data)/row)
	for y := 0; y+row <= len(data); y += row {
		out = append(out, 2)
		for i := range row {
			up := byte(0)
			if y > 0 {
				up = data[y-row+i]
			}
			out = append(out, data[y+i]-up)
		}
	}
	return out
}

// form draws into a form XObject and returns its number (§8.10). What is in a
// tagged one can be read.
func (c *Content) form(box display.Rect, dict string, tagged bool, draw func(display.Canvas)) Ref {
	res := &resources{}
	in := &Content{w: c.w, page: c.page, res: res, buf: takeRoom()}
	in.under(c.ctm)
	defer func() { giveRoom(in.buf) }()
	id := c.w.alloc()
	if tagged && c.marks != nil {
		in.marks, in.tag, in.order, in.furniture = c.w.marks(c.page.id, id), c.tag, c.order, c.furniture
	}
	draw(in)
	in.unmark()
	if in.marks != nil {
		dict += fmt.Sprintf("/StructParents %d", in.marks.key)
	}
	c.w.stream(id, fmt.Sprintf("/Type/XObject/Subtype/Form/BBox[%s %s %s %s]/Resources%s%s", num(box.X), num(box.Y), num(box.X+box.W), num(box.Y+box.H), res, dict), in.buf, well)
	return id
}

// Group draws what is inside as one, then lays it over the page.
func (c *Content) Group(g display.Group, draw func(display.Canvas)) {
	c.unmark()
	id := c.form(g.Box, "/Group<</S/Transparency/I true>>", true, draw)
	name := c.res.add(&c.res.objects, fmt.Sprintf("X%d", id), id)
	c.Save()
	dict := fmt.Sprintf("/ca %s/CA %s", num(g.Alpha), num(g.Alpha))
	if g.Blend != "" {
		dict += "/BM/" + g.Blend
	}
	if g.Mask != nil {
		kind := "Luminosity"
		group := "/Group<</S/Transparency/CS/DeviceRGB/I true>>"
		if g.AlphaMask {
			kind = "Alpha"
		}
		mask := c.form(g.Box, group, false, g.Mask)
		dict += fmt.Sprintf("/SMask<</Type/Mask/S/%s/G %s>>", kind, mask)
	}
	c.state(dict)
	c.op("/"+name, "Do")
	c.Restore()
}

// toPage leads from what is drawn to the page: px from its upper left corner.
func (c *Content) toPage() display.Matrix {
	return display.Matrix{1 / 0.75, 0, 0, -1 / 0.75, 0, c.page.h}.Mul(c.ctm)
}

// Link marks an area as a link.
func (c *Content) Link(box display.Rect, to display.Link) {
	if c.w.structure != nil && c.tag == nil {
		c.w.structure.loose = true
	}
	c.page.links = append(c.page.links, link{c.toPage().Bounds(box), to, c.tag})
}

// Anchor names a place that links lead to.
func (c *Content) Anchor(name string, x, y float64) {
	x, y = c.toPage().Apply(x, y)
	c.page.anchorAt(name, x, y)
}

// tile fills a path with a tiling pattern (§8.7.3).
func (c *Content) tile(p *display.Path, paint display.Paint, op string) {
	t := paint.Tile
	if t.StepX <= 0 || t.StepY <= 0 {
		return
	}
	m := c.ctm
	if t.Matrix != (display.Matrix{}) {
		m = m.Mul(t.Matrix)
	}
	if c.fewTiles(p, paint, op == "f*") {
		return
	}
	res := &resources{}
	in := &Content{w: c.w, page: c.page, res: res, buf: takeRoom()}
	in.under(m)
	defer func() { giveRoom(in.buf) }()
	t.Draw(in)
	id := c.w.alloc()
	c.w.stream(id, fmt.Sprintf("/Type/Pattern/PatternType 1/PaintType 1/TilingType 1/BBox[%s %s %s %s]/XStep %s/YStep %s/Matrix[%s]/Resources%s",
		num(t.Box.X), num(t.Box.Y), num(t.Box.X+t.Box.W), num(t.Box.Y+t.Box.H), num(t.StepX), num(t.StepY), appendMatrix(nil, m), res), in.buf, well)
	name := c.res.add(&c.res.patterns, fmt.Sprintf("P%d", id), id)
	c.Save()
	c.alpha(paint.Alpha)
	c.op("/Pattern cs /"+name, "scn")
	c.path(p)
	c.op(op)
	c.Restore()
}

// fewTiles draws a handful of tiles one by one: viewers show seams between the
// tiles of a pattern.
func (c *Content) fewTiles(p *display.Path, paint display.Paint, evenOdd bool) bool {
	t := paint.Tile
	local := display.Identity
	if t.Matrix != (display.Matrix{}) {
		local = t.Matrix
	}
	back, ok := local.Inverse()
	if !ok || paint.Alpha < 1 {
		return false
	}
	area := p.Transform(back).Bounds()
	first := func(at, origin, step float64) float64 { return math.Floor((at - origin) / step) }
	x0, x1 := first(area.X, t.Box.X+t.Box.W, t.StepX)+1, first(area.X+area.W-1e-9, t.Box.X, t.StepX)
	y0, y1 := first(area.Y, t.Box.Y+t.Box.H, t.StepY)+1, first(area.Y+area.H-1e-9, t.Box.Y, t.StepY)
	if n := (x1 - x0 + 1) * (y1 - y0 + 1); !(n <= 64) {
		return false
	}
	c.Save()
	defer c.Restore()
	c.Clip(p, evenOdd)
	c.Transform(local)
	box := &display.Path{}
	box.Rect(t.Box)
	for down := range int(y1 - y0 + 1) { // counted, as a place far away does not change by one
		for across := range int(x1 - x0 + 1) {
			c.Save()
			c.Transform(display.Translate((x0+float64(across))*t.StepX, (y0+float64(down))*t.StepY))
			c.Clip(box, false)
			t.Draw(c)
			c.Restore()
		}
	}
	return true
}

// gradient paints a gradient over the current clip.
func (c *Content) gradient(g *display.Gradient, alpha float64, area display.Rect) {
	translucent := false
	for _, s := range g.Stops {
		translucent = translucent || s.Color.A < 1
	}
	if translucent {
		// colours in one form, their alpha as a luminosity mask in another
		opaque, mask := *g, *g
		opaque.Stops, mask.Stops = nil, nil
		for _, s := range g.Stops {
			o, m := s, s
			o.Color.A = 1
			m.Color = style.Color{C: [4]float32{s.Color.A, s.Color.A, s.Color.A}, A: 1}
			opaque.Stops, mask.Stops = append(opaque.Stops, o), append(mask.Stops, m)
		}
		full := &display.Path{}
		full.Rect(area)
		c.Group(display.Group{Alpha: alpha, Box: area, Mask: func(in display.Canvas) { in.Fill(full, display.Paint{Gradient: &mask, Alpha: 1}, false) }},
			func(in display.Canvas) { in.Fill(full, display.Paint{Gradient: &opaque, Alpha: 1}, false) })
		return
	}
	c.alpha(alpha)
	if m := placed(g); m != (display.Matrix{}) {
		c.Save()
		defer c.Restore()
		c.Transform(m)
	} else if list := stripes(g); alpha == 1 && len(list) > 0 {
		c.paintStripes(g, list, area)
		return
	}
	id := c.w.shading(g)
	name := c.res.add(&c.res.shadings, fmt.Sprintf("S%d", id), id)
	c.op("/"+name, "sh")
}

func (c *Content) shadingPattern(g *display.Gradient) string {
	id := c.w.alloc()
	m := c.ctm
	if at := placed(g); at != (display.Matrix{}) {
		m = m.Mul(at)
	}
	c.w.object(id, fmt.Sprintf("<</Type/Pattern/PatternType 2/Shading %s/Matrix[%s]>>", c.w.shading(g), appendMatrix(nil, m)))
	return c.res.add(&c.res.patterns, fmt.Sprintf("P%d", id), id)
}

// placed leads from where the shading of a gradient is written to where it is painted; zero if that is one place. The
// meshes of conic gradients are written around the origin, so that tiles of one share it.
func placed(g *display.Gradient) display.Matrix {
	if g.Kind != display.Conic {
		return g.Matrix
	}
	at := display.Translate(g.X0, g.Y0)
	if g.Matrix == (display.Matrix{}) {
		return at
	}
	return g.Matrix.Mul(at)
}

// shading writes an axial, radial or mesh shading (§8.7.4.5).
func (w *Writer) shading(g *display.Gradient) Ref {
	if g.Kind == display.Conic {
		return w.conic(g)
	}
	id, in := w.alloc(), w.inks(g.Stops)
	switch g.Kind {
	case display.Radial:
		w.object(id, fmt.Sprintf("<</ShadingType 3/ColorSpace/%s/Extend[true true]/Coords[%s %s %s %s %s %s]/Function %s>>",
			in.name, num(g.X0), num(g.Y0), num(g.R0), num(g.X1), num(g.Y1), num(g.R1), stitch(g.Stops, in)))
	default:
		w.object(id, fmt.Sprintf("<</ShadingType 2/ColorSpace/%s/Extend[true true]/Coords[%s %s %s %s]/Function %s>>",
			in.name, num(g.X0), num(g.Y0), num(g.X1), num(g.Y1), stitch(g.Stops, in)))
	}
	return id
}

// inks is the colour space that the stops of a gradient are written in.
type inks struct {
	name  string
	parts int // of a colour
}

// inks are those of printing where all stops are of them: these stay what they are.
func (w *Writer) inks(stops []display.GradientStop) inks {
	for _, s := range stops {
		if s.Color.Space != style.CMYK {
			return inks{"DeviceRGB", 3}
		}
	}
	w.cmyk = true
	return inks{"DeviceCMYK", 4}
}

// of gives the parts of a colour.
func (in inks) of(c style.Color) []float32 {
	if in.parts == 3 {
		c = c.ToRGB()
	}
	return c.C[:in.parts]
}

// text writes the parts of a colour.
func (in inks) text(c style.Color) string {
	list := make([]string, in.parts)
	for i, v := range in.of(c) {
		list[i] = num(float64(v))
	}
	return strings.Join(list, " ")
}

// stitch writes the function from offset to colour (§7.10.4).
func stitch(stops []display.GradientStop, in inks) string {
	if len(stops) == 1 {
		stops = append(stops, stops[0])
	}
	type piece struct {
		a, b   style.Color
		lo, hi float64
	}
	var list []piece
	if stops[0].Offset > 0 {
		list = append(list, piece{stops[0].Color, stops[0].Color, 0, stops[0].Offset})
	}
	for i := 1; i < len(stops); i++ {
		if stops[i].Offset > stops[i-1].Offset {
			list = append(list, piece{stops[i-1].Color, stops[i].Color, stops[i-1].Offset, stops[i].Offset})
		}
	}
	last := stops[len(stops)-1]
	if last.Offset < 1 || len(list) == 0 {
		list = append(list, piece{last.Color, last.Color, last.Offset, 1})
	}
	var funcs, bounds, encode strings.Builder
	for i, p := range list {
		fmt.Fprintf(&funcs, "<</FunctionType 2/Domain[0 1]/N 1/C0[%s]/C1[%s]>>", in.text(p.a), in.text(p.b))
		if i > 0 {
			fmt.Fprintf(&bounds, "%.6f ", p.lo)
		}
		encode.WriteString("0 1 ")
	}
	return fmt.Sprintf("<</FunctionType 3/Domain[0 1]/Functions[%s]/Bounds[%s]/Encode[%s]>>", funcs.String(), bounds.String(), encode.String())
}

// conic writes thin triangles around the origin as a free-form mesh
// (§8.7.4.5.5), once for all gradients that look alike.
func (w *Writer) conic(g *display.Gradient) Ref {
	key := fmt.Sprintf("%s %s %v", num(g.R1), num(g.Angle), g.Stops)
	if id, ok := w.meshes[key]; ok {
		return id
	}
	const steps = 720
	in := w.inks(g.Stops)
	var b bytes.Buffer
	r := g.R1
	lo, hi := -2*r, 2*r
	put := func(x, y float64, c style.Color) {
		b.WriteByte(0)
		for _, v := range [2]float64{x, y} {
			binary.Write(&b, binary.BigEndian, uint32(math.Min(math.Max((v-lo)/(hi-lo), 0), 1)*math.MaxUint32))
		}
		for _, v := range in.of(c) {
			b.WriteByte(byte(math.Round(float64(v) * 255)))
		}
	}
	for i := range steps {
		t := (float64(i) + 0.5) / steps
		col := colorAt(g.Stops, t)
		a0, a1 := (g.Angle-90+360*float64(i)/steps)*math.Pi/180, (g.Angle-90+360*(float64(i)+1.3)/steps)*math.Pi/180
		put(0, 0, col)
		put(r*math.Cos(a0), r*math.Sin(a0), col)
		put(r*math.Cos(a1), r*math.Sin(a1), col)
	}
	id := w.alloc()
	w.stream(id, fmt.Sprintf("/ShadingType 4/ColorSpace/%s/BitsPerCoordinate 32/BitsPerComponent 8/BitsPerFlag 8/Decode[%s %s %[2]s %[3]s%s]",
		in.name, num(lo), num(hi), strings.Repeat(" 0 1", in.parts)), b.Bytes(), well)
	w.meshes[key] = id
	return id
}

func colorAt(stops []display.GradientStop, t float64) style.Color {
	if t <= stops[0].Offset {
		return stops[0].Color
	}
	for i := 1; i < len(stops); i++ {
		a, b := stops[i-1], stops[i]
		if t < b.Offset {
			q := float32((t - a.Offset) / (b.Offset - a.Offset))
			out := style.Color{Space: a.Color.Space, A: a.Color.A + (b.Color.A-a.Color.A)*q}
			if a.Color.Space != b.Color.Space {
				a.Color, b.Color, out.Space = a.Color.ToRGB(), b.Color.ToRGB(), style.SRGB
			}
			for k := range out.C {
				out.C[k] = a.Color.C[k] + (b.Color.C[k]-a.Color.C[k])*q
			}
			return out
		}
	}
	return stops[len(stops)-1].Color
}

// drawingKey tells drawings apart.
type drawingKey struct {
	key  any
	w, h float64
}

// Drawing draws into a form XObject that all pages share.
func (c *Content) Drawing(key any, box display.Rect, draw func(display.Canvas)) {
	k := drawingKey{key, box.W, box.H}
	id, known := c.w.drawings[k]
	if !known {
		apart := &Content{w: c.w, page: c.page}
		apart.under(display.Identity)
		id = apart.form(display.Rect{W: box.W, H: box.H}, "", false, draw)
		c.w.drawings[k] = id
	}
	c.Form(id, display.Translate(box.X, box.Y))
}

// Form draws a form XObject; m leads from its space to the present one.
func (c *Content) Form(id Ref, m display.Matrix) {
	c.mark()
	c.put(id, m)
}

func (c *Content) put(id Ref, m display.Matrix) {
	name := c.res.add(&c.res.objects, fmt.Sprintf("X%d", id), id)
	c.alphaReset()
	c.Save()
	c.Transform(m)
	c.op("/"+name, "Do")
	c.Restore()
}
