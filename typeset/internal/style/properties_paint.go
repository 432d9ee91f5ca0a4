package style

import (
	"oliveledger/typeset/internal/css"
)

func definePaint() {
	define("background-color", false, func(s *Style) *Color { return &s.BackgroundColor }, (*values).color)
	define("background-image", false, func(s *Style) *[]*Image { return &s.Background.Images }, func(v *values) (spec[[]*Image], bool) {
		return list(v, (*values).imageOrNone)
	})
	keys := func(set string) func(*values) (spec[[]Keyword], bool) {
		return func(v *values) (spec[[]Keyword], bool) { return list(v, keywordSpec(set)) }
	}
	define("background-attachment", false, func(s *Style) *[]Keyword { return &s.Background.Attachment }, keys("scroll fixed local"))
	define("background-clip", false, func(s *Style) *[]Keyword { return &s.Background.Clip }, keys("border-box padding-box content-box text border-area"))
	define("background-origin", false, func(s *Style) *[]Keyword { return &s.Background.Origin }, keys("border-box padding-box content-box"))
	define("background-blend-mode", false, func(s *Style) *[]Keyword { return &s.Background.Blend }, keys(blendModes))
	define("background-repeat", false, func(s *Style) *[][2]Keyword { return &s.Background.Repeat }, func(v *values) (spec[[][2]Keyword], bool) {
		return list(v, parseRepeat)
	})
	define("background-size", false, func(s *Style) *[]BackgroundSize { return &s.Background.Size }, func(v *values) (spec[[]BackgroundSize], bool) {
		return list(v, parseBackgroundSize)
	})
	define("background-position", false, func(s *Style) *[]Place { return &s.Background.Position }, func(v *values) (spec[[]Place], bool) {
		return list(v, (*values).backgroundPlace)
	})
	for i, axis := range []string{"x", "y"} {
		p := define("background-position-"+axis, false, func(s *Style) *[]Place { return &s.Background.Position }, nil)
		p.parse = func(v *values) (any, bool) { return list(v, axisPlace(i == 0)) }
		p.apply = func(c *Computer, x any) {
			old := c.S.Background.Position
			got := x.(spec[[]LP])(c)
			out := make([]Place, max(len(old), len(got)))
			for k := range out {
				out[k] = old[k%len(old)]
				if i == 0 {
					out[k].X = got[k%len(got)]
				} else {
					out[k].Y = got[k%len(got)]
				}
			}
			c.S.Background.Position = out
		}
	}
	short("background", "background-color background-image background-attachment background-clip background-origin background-repeat background-size background-position", parseBackground)
	define("opacity", false, func(s *Style) *float64 { return &s.Opacity }, func(v *values) (spec[float64], bool) {
		r, ok := v.ratio()
		return func(c *Computer) float64 { return min(max(r(c), 0), 1) }, ok
	})
	define("box-shadow", false, func(s *Style) *[]Shadow { return &s.BoxShadow }, func(v *values) (spec[[]Shadow], bool) { return v.shadows(true) })
	define("outline-width", false, func(s *Style) *float64 { return &s.Outline.Width }, lineWidth)
	define("outline-style", false, func(s *Style) *Keyword { return &s.Outline.Style }, func(v *values) (spec[Keyword], bool) {
		k, ok := v.oneOf("auto none dotted dashed solid double groove ridge inset outset")
		if k == Auto {
			k = Solid
		}
		return fixed(k), ok
	})
	define("outline-color", false, func(s *Style) *Color { return &s.Outline.Color }, func(v *values) (spec[Color], bool) {
		if _, ok := v.oneOf("auto invert"); ok {
			return fixed(currentCol), true
		}
		return v.color()
	})
	define("outline-offset", false, func(s *Style) *float64 { return &s.OutlineOffset }, func(v *values) (spec[float64], bool) { return v.length(false) })
	anyOrder("outline", "outline-width outline-style outline-color")
	define("object-view-box", false, func(s *Style) **ClipPath { return &s.ObjectViewBox }, parseViewBox)
	words("object-fit", false, "fill contain cover none scale-down", func(s *Style) *Keyword { return &s.ObjectFit })
	define("object-position", false, func(s *Style) *Place { return &s.ObjectPosition }, (*values).place)
	words("image-rendering", true, "auto smooth high-quality crisp-edges pixelated", func(s *Style) *Keyword { return &s.ImageRendering })
	define("image-orientation", true, func(s *Style) *Keyword { return &s.ImageOrientation }, keywordSpec("none from-image"))
	define("print-color-adjust", true, func(s *Style) *Keyword { return &s.PrintAdjust }, keywordSpec("economy exact"))
	aliases["-webkit-print-color-adjust"], aliases["color-adjust"] = "print-color-adjust", "print-color-adjust"
	words("mix-blend-mode", false, blendModes, func(s *Style) *Keyword { return &s.BlendMode })
	words("isolation", false, "auto isolate", func(s *Style) *Keyword { return &s.Isolation })
	define("will-change", false, func(s *Style) *WillChange { return &s.WillChange }, func(v *values) (spec[WillChange], bool) {
		var will WillChange
		for !v.done() {
			switch t := v.next(); t.Lower() {
			case "transform", "translate", "rotate", "scale", "perspective", "filter", "contain":
				will.Stack, will.HoldFixed, will.Hold = true, true, true
			case "position":
				will.Stack, will.Hold = true, true
			case "opacity", "clip-path", "mix-blend-mode", "isolation", "z-index", "mask":
				will.Stack = true
			}
		}
		return fixed(will), true
	})
	defineTransform()
	define("clip-path", false, func(s *Style) **ClipPath { return &s.ClipPath }, parseClipPath)
	define("shape-outside", false, func(s *Style) **ClipPath { return &s.ShapeOutside }, func(v *values) (spec[*ClipPath], bool) {
		return shapeIn(v, "margin-box border-box padding-box content-box", MarginBox)
	})
	define("shape-margin", false, func(s *Style) *LP { return &s.ShapeMargin }, func(v *values) (spec[LP], bool) { return v.lp(true) })
	define("clip", false, func(s *Style) **[4]Size { return &s.Clip }, parseClip)
	for a, b := range map[string]string{
		"-webkit-box-shadow": "box-shadow", "-webkit-border-radius": "border-radius", "-webkit-box-sizing": "box-sizing", "-moz-box-sizing": "box-sizing",
		"-webkit-transform": "transform", "-ms-transform": "transform", "-webkit-transform-origin": "transform-origin", "-webkit-opacity": "opacity", "-webkit-background-size": "background-size", "-webkit-background-clip": "background-clip",
		"-webkit-flex": "flex", "-webkit-flex-direction": "flex-direction", "-webkit-flex-wrap": "flex-wrap", "-webkit-flex-flow": "flex-flow", "-webkit-justify-content": "justify-content", "-webkit-align-items": "align-items",
		"-webkit-align-self": "align-self", "-webkit-align-content": "align-content", "-webkit-order": "order", "-webkit-flex-grow": "flex-grow", "-webkit-flex-shrink": "flex-shrink", "-webkit-flex-basis": "flex-basis",
		"-webkit-clip-path": "clip-path", "-webkit-writing-mode": "writing-mode", "-webkit-column-count": "column-count", "-webkit-columns": "columns", "-webkit-column-width": "column-width", "-webkit-column-gap": "column-gap",
	} {
		aliases[a] = b
	}
}

const blendModes = "normal multiply screen overlay darken lighten color-dodge color-burn hard-light soft-light difference exclusion hue saturation color luminosity"

func (v *values) imageOrNone() (spec[*Image], bool) {
	if v.word("none") {
		return fixed[*Image](nil), true
	}
	return v.image()
}

func parseRepeat(v *values) (spec[[2]Keyword], bool) {
	if k, ok := v.oneOf("repeat-x repeat-y"); ok {
		if k.String() == "repeat-x" {
			return fixed([2]Keyword{Repeat, NoRepeat}), true
		}
		return fixed([2]Keyword{NoRepeat, Repeat}), true
	}
	const set = "repeat no-repeat space round"
	x, ok := v.oneOf(set)
	if !ok {
		return nil, false
	}
	y, ok := v.oneOf(set)
	if !ok {
		y = x
	}
	return fixed([2]Keyword{x, y}), true
}

func parseBackgroundSize(v *values) (spec[BackgroundSize], bool) {
	if k, ok := v.oneOf("cover contain"); ok {
		return fixed(BackgroundSize{Kind: k}), true
	}
	one := size("auto", true)
	w, ok := one(v)
	if !ok {
		return nil, false
	}
	h, ok := one(v)
	if !ok {
		h = fixed(Size{Kind: Auto})
	}
	return func(c *Computer) BackgroundSize { return BackgroundSize{Kind: Auto, W: w(c), H: h(c)} }, true
}

func axisPlace(horizontal bool) func(v *values) (spec[LP], bool) {
	edges := "left right"
	if !horizontal {
		edges = "top bottom"
	}
	return func(v *values) (spec[LP], bool) {
		if v.word("center") {
			return fixed(LP{Pct: 50}), true
		}
		k, ok := v.oneOf(edges)
		if !ok {
			return v.lp(false)
		}
		off, away := try(v, func(v *values) (spec[LP], bool) { return v.lp(false) })
		if !away {
			off = fixed(LP{})
		}
		if k == keyword("left") || k == keyword("top") {
			return off, true
		}
		return func(c *Computer) LP { return fromEnd(off(c)) }, true
	}
}

// parseBackground follows CSS Backgrounds 3, §2.10.
func parseBackground(v *values, set func(string, any)) bool {
	var images []spec[*Image]
	var attachments, clips, origins []Keyword
	var repeats []spec[[2]Keyword]
	var sizes []spec[BackgroundSize]
	var places []spec[Place]
	var color spec[Color]
	for {
		image, repeat, sz, place := fixed[*Image](nil), fixed([2]Keyword{Repeat, Repeat}), fixed(BackgroundSize{Kind: Auto, W: Size{Kind: Auto}, H: Size{Kind: Auto}}), fixed(Place{})
		attachment := Scroll
		var boxes []Keyword
		seen := map[string]bool{}
		n := 0
		for !v.done() && v.peek().Kind != css.Comma {
			n++
			if x, ok := try(v, (*values).imageOrNone); ok && !seen["image"] {
				image, seen["image"] = x, true
			} else if k, ok := v.oneOf("scroll fixed local"); ok && !seen["attachment"] {
				attachment, seen["attachment"] = k, true
			} else if k, ok := v.oneOf("border-box padding-box content-box text"); ok && len(boxes) < 2 {
				boxes = append(boxes, k)
			} else if x, ok := try(v, parseRepeat); ok && !seen["repeat"] {
				repeat, seen["repeat"] = x, true
			} else if x, ok := try(v, (*values).backgroundPlace); ok && !seen["place"] {
				place, seen["place"] = x, true
				if v.delim('/') {
					if sz, ok = parseBackgroundSize(v); !ok {
						return false
					}
				}
			} else if x, ok := v.color(); ok && color == nil {
				color = x
			} else {
				return false
			}
		}
		last := v.done()
		if n == 0 || color != nil && !last {
			return false
		}
		origin, clip := PaddingBox, BorderBox
		if len(boxes) > 0 {
			origin, clip = boxes[0], boxes[0]
			if origin == TextKey {
				origin = PaddingBox
			}
		}
		if len(boxes) > 1 {
			clip = boxes[1]
		}
		images, repeats, sizes, places = append(images, image), append(repeats, repeat), append(sizes, sz), append(places, place)
		attachments, clips, origins = append(attachments, attachment), append(clips, clip), append(origins, origin)
		if last {
			break
		}
		v.comma()
	}
	if color != nil {
		set("background-color", color)
	}
	set("background-image", all(images))
	set("background-repeat", all(repeats))
	set("background-size", all(sizes))
	set("background-position", all(places))
	set("background-attachment", fixed(attachments))
	set("background-clip", fixed(clips))
	set("background-origin", fixed(origins))
	return true
}

func all[T any](specs []spec[T]) spec[[]T] {
	return func(c *Computer) []T {
		out := make([]T, len(specs))
		for i, s := range specs {
			out[i] = s(c)
		}
		return out
	}
}

// borderImagePart sets one part of border-image.
type borderImagePart = func(*Computer, *BorderImage)

func defineBorderImage() {
	part := func(name string, parse func(v *values) (borderImagePart, bool), take func(to, from *BorderImage)) {
		p := define(name, false, func(s *Style) **BorderImage { return &s.BorderImage }, nil)
		p.parse = func(v *values) (any, bool) { return parse(v) }
		p.apply = func(c *Computer, x any) {
			b := borderImageOf(c.S)
			x.(borderImagePart)(c, b)
			c.S.BorderImage = b
		}
		p.copy = func(dst, src *Style) {
			if dst.BorderImage == nil && src.BorderImage == nil {
				return
			}
			b := borderImageOf(dst)
			take(b, borderImageOf(src))
			dst.BorderImage = b
		}
	}
	part("border-image-source", parseImageSource, func(to, from *BorderImage) { to.Image = from.Image })
	part("border-image-slice", parseSlice, func(to, from *BorderImage) { to.Slice, to.Fill = from.Slice, from.Fill })
	part("border-image-width", parseImageWidth, func(to, from *BorderImage) { to.Width = from.Width })
	part("border-image-outset", parseOutset, func(to, from *BorderImage) { to.Outset = from.Outset })
	part("border-image-repeat", parseImageRepeat, func(to, from *BorderImage) { to.Repeat = from.Repeat })
	short("border-image", borderImageParts, parseBorderImage)
}

const borderImageParts = "border-image-source border-image-slice border-image-width border-image-outset border-image-repeat"

// borderImageOf is a copy of a style's border-image that may be changed.
func borderImageOf(s *Style) *BorderImage {
	b := defaultBorderImage()
	if s.BorderImage != nil {
		*b = *s.BorderImage
	}
	return b
}

func parseImageSource(v *values) (borderImagePart, bool) {
	im, ok := v.imageOrNone()
	return func(c *Computer, b *BorderImage) { b.Image = im(c) }, ok
}

func defaultBorderImage() *BorderImage {
	b := &BorderImage{Repeat: [2]Keyword{Stretch, Stretch}}
	for i := range 4 {
		b.Slice[i] = LP{Pct: 100}
		b.Width[i] = Size{Kind: Length, Limited: true, LP: LP{Px: 1}}
	}
	return b
}

func four[T any](v *values, one func(*values) (spec[T], bool)) (spec[[4]T], bool) {
	var got []spec[T]
	for len(got) < 4 {
		x, ok := one(v)
		if !ok {
			break
		}
		got = append(got, x)
	}
	return func(c *Computer) (out [4]T) {
		for i := range out {
			at := i
			for at >= len(got) {
				at = max(at-2, 0)
			}
			out[i] = got[at](c)
		}
		return out
	}, len(got) > 0
}

func parseSlice(v *values) (borderImagePart, bool) {
	fill := v.word("fill")
	s, ok := four(v, func(v *values) (spec[LP], bool) {
		if v.negative() {
			return nil, false
		}
		n, ok := v.num(dimNumber, dimPercent)
		return func(c *Computer) LP { return n.eval(c).lp() }, ok
	})
	fill = fill || v.word("fill")
	return func(c *Computer, b *BorderImage) { b.Slice, b.Fill = s(c), fill }, ok
}

func parseImageWidth(v *values) (borderImagePart, bool) {
	w, ok := four(v, func(v *values) (spec[Size], bool) {
		if v.word("auto") {
			return fixed(Size{Kind: Auto}), true
		}
		if n, ok := v.number(true); ok {
			return func(c *Computer) Size { return Size{Kind: Length, Limited: true, LP: LP{Px: n(c)}} }, true
		}
		l, ok := v.lp(true)
		return func(c *Computer) Size { return Size{Kind: Length, LP: l(c)} }, ok
	})
	return func(c *Computer, b *BorderImage) { b.Width = w(c) }, ok
}

func parseOutset(v *values) (borderImagePart, bool) {
	o, ok := four(v, func(v *values) (spec[LP], bool) {
		if n, ok := v.number(true); ok {
			return func(c *Computer) LP { return LP{Pct: 100 * n(c)} }, true
		}
		l, ok := v.length(true)
		return func(c *Computer) LP { return LP{Px: l(c)} }, ok
	})
	return func(c *Computer, b *BorderImage) { b.Outset = o(c) }, ok
}

func parseImageRepeat(v *values) (borderImagePart, bool) {
	const set = "stretch repeat round space"
	x, ok := v.oneOf(set)
	y := x
	if k, ok := v.oneOf(set); ok {
		y = k
	}
	return func(c *Computer, b *BorderImage) { b.Repeat = [2]Keyword{x, y} }, ok
}

func parseBorderImage(v *values, set func(string, any)) bool {
	seen := map[string]bool{}
	put := func(name string, x borderImagePart) {
		seen[name] = true
		set(name, x)
	}
	for !v.done() {
		if x, ok := try(v, parseImageSource); ok && !seen["border-image-source"] {
			put("border-image-source", x)
		} else if x, ok := try(v, parseSlice); ok && !seen["border-image-slice"] {
			put("border-image-slice", x)
			if !v.delim('/') {
				continue
			}
			w, hasWidth := try(v, parseImageWidth)
			if hasWidth {
				put("border-image-width", w)
			}
			if v.delim('/') {
				x, ok := parseOutset(v)
				if !ok {
					return false
				}
				put("border-image-outset", x)
			} else if !hasWidth {
				return false
			}
		} else if x, ok := try(v, parseImageRepeat); ok && !seen["border-image-repeat"] {
			put("border-image-repeat", x)
		} else {
			return false
		}
	}
	return len(seen) > 0
}

// TransformOp is one function of a transform: a matrix and a translation that
// may hold percentages of the reference box.
type TransformOp struct {
	M    [4]float64 // a b c d
	X, Y LP
}

func defineTransform() {
	define("transform", false, func(s *Style) *[]TransformOp { return &s.Transform }, func(v *values) (spec[[]TransformOp], bool) {
		if v.word("none") {
			return fixed([]TransformOp(nil)), true
		}
		var ops []spec[TransformOp]
		for !v.done() {
			op, ok := v.transformFunction()
			if !ok {
				return nil, false
			}
			ops = append(ops, op)
		}
		return all(ops), len(ops) > 0
	})
	define("transform-origin", false, func(s *Style) *[3]LP { return &s.TransformOrigin }, func(v *values) (spec[[3]LP], bool) {
		var z spec[float64]
		n := len(v.list)
		if n == 3 {
			in := &values{list: v.list[2:]}
			l, ok := in.length(false)
			if !ok {
				return nil, false
			}
			z = l
			n = 2
		}
		in := &values{list: v.list[:n]}
		p, ok := in.place()
		if !ok || !in.done() || n > 2 {
			return nil, false
		}
		v.pos = len(v.list)
		return func(c *Computer) [3]LP {
			at := p(c)
			out := [3]LP{at.X, at.Y}
			if z != nil {
				out[2] = LP{Px: z(c)}
			}
			return out
		}, true
	})
	words("transform-box", false, "content-box border-box fill-box stroke-box view-box", func(s *Style) *Keyword { return &s.TransformBox })
	define("translate", false, func(s *Style) *[]TransformOp { return &s.Translate }, func(v *values) (spec[[]TransformOp], bool) {
		if v.word("none") {
			return fixed([]TransformOp(nil)), true
		}
		x, ok := v.lp(false)
		if !ok {
			return nil, false
		}
		y := fixed(LP{})
		if l, ok := v.lp(false); ok {
			y = l
			v.length(false)
		}
		return func(c *Computer) []TransformOp { return []TransformOp{{M: identity4, X: x(c), Y: y(c)}} }, true
	})
	define("rotate", false, func(s *Style) *[]TransformOp { return &s.Rotate }, func(v *values) (spec[[]TransformOp], bool) {
		if v.word("none") {
			return fixed([]TransformOp(nil)), true
		}
		op, ok := v.rotation()
		return func(c *Computer) []TransformOp { return []TransformOp{op(c)} }, ok
	})
	define("scale", false, func(s *Style) *[]TransformOp { return &s.Scale }, func(v *values) (spec[[]TransformOp], bool) {
		if v.word("none") {
			return fixed([]TransformOp(nil)), true
		}
		x, ok := v.ratio()
		if !ok {
			return nil, false
		}
		y := x
		if r, ok := v.ratio(); ok {
			y = r
			v.ratio()
		}
		return func(c *Computer) []TransformOp { return []TransformOp{{M: [4]float64{x(c), 0, 0, y(c)}}} }, true
	})
}

func parseClip(v *values) (spec[*[4]Size], bool) {
	if v.word("auto") {
		return fixed[*[4]Size](nil), true
	}
	t := v.next()
	if t.Kind != css.Function || t.Text != "rect" {
		return nil, false
	}
	in := &values{list: css.Words(t.Args)}
	var sides [4]spec[Size]
	commas := 0
	for i := range sides {
		s, ok := size("auto", false)(in)
		if !ok {
			return nil, false
		}
		sides[i] = s
		if in.comma() {
			commas++
		}
	}
	return func(c *Computer) *[4]Size {
		var out [4]Size
		for i := range out {
			out[i] = sides[i](c)
		}
		return &out
	}, in.done() && (commas == 0 || commas == 3)
}

// parseClipPath parses a basic shape (CSS Shapes 1, §3) and its box, or the address of a clipPath element.
func parseClipPath(v *values) (spec[*ClipPath], bool) {
	if u, ok := v.url(); ok {
		return fixed(&ClipPath{Kind: URLShape, URL: u}), true
	}
	return shapeIn(v, "border-box padding-box content-box margin-box fill-box stroke-box view-box", BorderBox)
}

// shapeIn parses a basic shape with a box, one of boxes: either may stand alone.
func shapeIn(v *values, boxes string, otherwise Keyword) (spec[*ClipPath], bool) {
	if v.word("none") {
		return fixed[*ClipPath](nil), true
	}
	box, hasBox := v.oneOf(boxes)
	if v.done() {
		return fixed(&ClipPath{Kind: BoxShape, Box: box}), hasBox
	}
	t := v.next()
	if t.Kind != css.Function {
		return nil, false
	}
	if k, ok := v.oneOf(boxes); ok && !hasBox {
		box, hasBox = k, true
	}
	if !hasBox {
		box = otherwise
	}
	in := &values{list: css.Words(t.Args)}
	shape, ok := in.shape(t.Text)
	if !ok || !in.done() {
		return nil, false
	}
	return func(c *Computer) *ClipPath {
		s := shape(c)
		s.Box = box
		return &s
	}, true
}

// fromEnd is the place that lies so far before the end.
func fromEnd(l LP) LP {
	if l.Fn != nil {
		return LP{Fn: func(whole float64) float64 { return whole - l.Of(whole) }}
	}
	return LP{Px: 0 - l.Px, Pct: 100 - l.Pct}
}

// parseViewBox reads the part of a picture to show (CSS Images 5, §3.2).
func parseViewBox(v *values) (spec[*ClipPath], bool) {
	if t := v.peek(); !t.Is("none") && t.Text != "inset" && t.Text != "rect" && t.Text != "xywh" {
		return nil, false
	}
	return shapeIn(v, "", BorderBox)
}
