// Package display is what paint asks of a page: shapes, text and pictures, in
// painting order. Lengths are CSS px, the y axis points down.
package display

import (
	"fmt"
	"math"
	"strings"

	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// Rect is a rectangle.
type Rect struct{ X, Y, W, H float64 }

// Snapped puts the edges on the nearest 64th of a px, so that sums of lengths
// that ought to meet do meet.
func (r Rect) Snapped() Rect {
	x, y := Snap(r.X), Snap(r.Y)
	return Rect{x, y, Snap(r.X+r.W) - x, Snap(r.Y+r.H) - y}
}

// Snap rounds to a 64th of a px.
func Snap(v float64) float64 { return math.Round(v*64) / 64 }

// Inset moves the sides inwards.
func (r Rect) Inset(top, right, bottom, left float64) Rect {
	return Rect{r.X + left, r.Y + top, math.Max(r.W-left-right, 0), math.Max(r.H-top-bottom, 0)}
}

// Within is the rectangle inside edges of these widths, from the top clockwise.
func (r Rect) Within(e [4]float64) Rect { return r.Inset(e[0], e[1], e[2], e[3]) }

// Matrix maps (x, y) to (a·x + c·y + e, b·x + d·y + f).
type Matrix [6]float64

// Identity changes nothing.
var Identity = Matrix{1, 0, 0, 1, 0, 0}

// Translate moves.
func Translate(x, y float64) Matrix { return Matrix{1, 0, 0, 1, x, y} }

// Mul applies n first, then m.
func (m Matrix) Mul(n Matrix) Matrix {
	return Matrix{
		m[0]*n[0] + m[2]*n[1], m[1]*n[0] + m[3]*n[1],
		m[0]*n[2] + m[2]*n[3], m[1]*n[2] + m[3]*n[3],
		m[0]*n[4] + m[2]*n[5] + m[4], m[1]*n[4] + m[3]*n[5] + m[5],
	}
}

// Apply maps a point.
func (m Matrix) Apply(x, y float64) (float64, float64) {
	return m[0]*x + m[2]*y + m[4], m[1]*x + m[3]*y + m[5]
}

// Bounds is the smallest box around another one that is transformed.
func (m Matrix) Bounds(r Rect) Rect {
	p := &Path{}
	p.Rect(r)
	return p.Transform(m).Bounds()
}

// Inverse undoes m; ok is false when nothing can.
func (m Matrix) Inverse() (inv Matrix, ok bool) {
	d := m.Det()
	if math.Abs(d) < 1e-12 {
		return Identity, false
	}
	inv = Matrix{m[3] / d, -m[1] / d, -m[2] / d, m[0] / d}
	inv[4] = -(inv[0]*m[4] + inv[2]*m[5])
	inv[5] = -(inv[1]*m[4] + inv[3]*m[5])
	return inv, true
}

// Det is the determinant.
func (m Matrix) Det() float64 { return m[0]*m[3] - m[1]*m[2] }

// Path is a list of segments.
type Path struct {
	Ops []byte // M L C Z
	Pts []float64
}

// MoveTo starts a subpath.
func (p *Path) MoveTo(x, y float64) { p.Ops, p.Pts = append(p.Ops, 'M'), append(p.Pts, x, y) }

// LineTo adds a line.
func (p *Path) LineTo(x, y float64) { p.Ops, p.Pts = append(p.Ops, 'L'), append(p.Pts, x, y) }

// CurveTo adds a cubic curve.
func (p *Path) CurveTo(a, b, c, d, x, y float64) {
	p.Ops, p.Pts = append(p.Ops, 'C'), append(p.Pts, a, b, c, d, x, y)
}

// QuadTo adds a quadratic curve from the point (x0, y0).
func (p *Path) QuadTo(x0, y0, cx, cy, x, y float64) {
	p.CurveTo(x0+2*(cx-x0)/3, y0+2*(cy-y0)/3, x+2*(cx-x)/3, y+2*(cy-y)/3, x, y)
}

// Close closes the subpath.
func (p *Path) Close() { p.Ops = append(p.Ops, 'Z') }

// Rect adds a rectangle.
func (p *Path) Rect(r Rect) {
	p.Ops = append(p.Ops, 'M', 'L', 'L', 'L', 'Z')
	p.Pts = append(p.Pts, r.X, r.Y, r.X+r.W, r.Y, r.X+r.W, r.Y+r.H, r.X, r.Y+r.H)
}

// kappa makes a quarter circle of a cubic curve.
const kappa = 0.5522847498

// AsRect gives the rectangle that a path is, if it is one along the axes.
func (p *Path) AsRect() (Rect, bool) {
	if string(p.Ops) != "MLLLZ" {
		return Rect{}, false
	}
	q := p.Pts
	if q[1] != q[3] || q[2] != q[4] || q[5] != q[7] || q[0] != q[6] || q[4] < q[0] || q[5] < q[1] {
		return Rect{}, false
	}
	return Rect{q[0], q[1], q[4] - q[0], q[5] - q[1]}, true
}

// Ellipse adds an ellipse.
func (p *Path) Ellipse(cx, cy, rx, ry float64) {
	kx, ky := rx*kappa, ry*kappa
	p.MoveTo(cx+rx, cy)
	p.CurveTo(cx+rx, cy+ky, cx+kx, cy+ry, cx, cy+ry)
	p.CurveTo(cx-kx, cy+ry, cx-rx, cy+ky, cx-rx, cy)
	p.CurveTo(cx-rx, cy-ky, cx-kx, cy-ry, cx, cy-ry)
	p.CurveTo(cx+kx, cy-ry, cx+rx, cy-ky, cx+rx, cy)
	p.Close()
}

// Radii are the corner radii of a box: x and y, from the top left, clockwise.
type Radii [4][2]float64

// Fit makes the radii smaller, all alike, where two along one side of a box of size b
// take more than there is (CSS Backgrounds 3, §4.5).
func (r *Radii) Fit(b Rect) {
	f := 1.0
	for _, c := range [4][3]float64{{b.W, r[0][0], r[1][0]}, {b.H, r[1][1], r[2][1]}, {b.W, r[2][0], r[3][0]}, {b.H, r[3][1], r[0][1]}} {
		if sum := c[1] + c[2]; sum > c[0] && sum > 0 {
			f = math.Min(f, c[0]/sum)
		}
	}
	for i := range r {
		r[i][0] *= f
		r[i][1] *= f
	}
}

// Zero tells whether all corners are square.
func (r Radii) Zero() bool {
	for _, c := range r {
		if c[0] > 0 && c[1] > 0 {
			return false
		}
	}
	return true
}

// RoundRect adds a box with rounded corners.
func (p *Path) RoundRect(b Rect, r Radii) {
	if r.Zero() {
		p.Rect(b)
		return
	}
	const k = 1 - kappa
	x0, y0, x1, y1 := b.X, b.Y, b.X+b.W, b.Y+b.H
	p.MoveTo(x0+r[0][0], y0)
	p.LineTo(x1-r[1][0], y0)
	p.CurveTo(x1-r[1][0]*k, y0, x1, y0+r[1][1]*k, x1, y0+r[1][1])
	p.LineTo(x1, y1-r[2][1])
	p.CurveTo(x1, y1-r[2][1]*k, x1-r[2][0]*k, y1, x1-r[2][0], y1)
	p.LineTo(x0+r[3][0], y1)
	p.CurveTo(x0+r[3][0]*k, y1, x0, y1-r[3][1]*k, x0, y1-r[3][1])
	p.LineTo(x0, y0+r[0][1])
	p.CurveTo(x0, y0+r[0][1]*k, x0+r[0][0]*k, y0, x0+r[0][0], y0)
	p.Close()
}

// Transform maps every point.
func (p *Path) Transform(m Matrix) *Path {
	q := &Path{Ops: p.Ops, Pts: make([]float64, len(p.Pts))}
	for i := 0; i+1 < len(p.Pts); i += 2 {
		q.Pts[i], q.Pts[i+1] = m.Apply(p.Pts[i], p.Pts[i+1])
	}
	return q
}

// Append adds another path.
func (p *Path) Append(q *Path) { p.Ops, p.Pts = append(p.Ops, q.Ops...), append(p.Pts, q.Pts...) }

// Bounds is the box of all points, control points included.
func (p *Path) Bounds() Rect {
	if len(p.Pts) < 2 {
		return Rect{}
	}
	x0, y0, x1, y1 := p.Pts[0], p.Pts[1], p.Pts[0], p.Pts[1]
	for i := 2; i+1 < len(p.Pts); i += 2 {
		x0, x1 = math.Min(x0, p.Pts[i]), math.Max(x1, p.Pts[i])
		y0, y1 = math.Min(y0, p.Pts[i+1]), math.Max(y1, p.Pts[i+1])
	}
	return Rect{x0, y0, x1 - x0, y1 - y0}
}

// GradientKind tells the geometry of a gradient.
type GradientKind uint8

const (
	Linear GradientKind = iota
	Radial
	Conic
)

// GradientStop is a colour at an offset along the gradient.
type GradientStop struct {
	Offset float64
	Color  style.Color
}

// Gradient has its stops in order, the offsets between 0 and 1 along the line
// or the radius. Outside of them the end colours go on.
type Gradient struct {
	Kind           GradientKind
	X0, Y0, X1, Y1 float64 // Linear: ends; Radial: centre of the inner and outer circle; Conic: centre
	R0, R1         float64 // Radial; Conic: R1 reaches beyond the area
	Angle          float64 // Conic: start, degrees clockwise from up
	Stops          []GradientStop
	Matrix         Matrix // to the space of the path; zero for none
}

// Paint fills shapes with a colour or a gradient, or with a drawing that is
// repeated.
type Paint struct {
	Color    style.Color
	Gradient *Gradient
	Tile     *Tile
	Alpha    float64 // times the colour's own; for gradients and tiles
}

// Solid is a plain colour.
func Solid(c style.Color) Paint { return Paint{Color: c, Alpha: 1} }

// Tile is a drawing that repeats at steps.
type Tile struct {
	Box          Rect
	StepX, StepY float64
	Matrix       Matrix
	Draw         func(Canvas)
}

// Stroke says how lines are drawn.
type Stroke struct {
	Width      float64
	Cap, Join  int // PDF's numbers: 0 butt/miter, 1 round, 2 square/bevel
	Miter      float64
	Dash       []float64
	DashOffset float64
}

// Text is shaped text on one baseline. X grows along the runs.
type Text struct {
	Face          *font.Face
	Size          float64
	Bold          bool
	Oblique       float64 // degrees that upright letters are slanted by
	X, Y          float64
	Runs          []*font.Run
	LetterSpacing float64 // after each cluster
	WordSpacing   float64 // after each space
	Paint         Paint
	Upright       bool // glyphs stand in a vertical line
	Hidden        bool // it can be found and copied but is not seen
	Gap           bool // another word follows: a space ends it that is not seen
	Copy          bool // of other text: it is seen, but not found and copied
	Source        string
}

// Image is a raster picture.
type Image struct {
	Key     string // the same picture has the same key
	W, H    int
	JPEG    []byte // passed through; Comps tells its components
	Comps   int
	Invert  bool // CMYK stored inverted
	RGB     []byte
	Gray    bool   // RGB holds one byte a pixel
	Profile []byte // ICC profile of the colours; nil for sRGB
	Alpha   []byte // nil when opaque
	Crisp   bool
}

// Crop is the part of an image from x0, y0 to x1, y1; nil when its px are not
// at hand (JPEG files are passed through) or the part is empty.
func (im *Image) Crop(x0, y0, x1, y1 int) *Image {
	x0, y0, x1, y1 = max(x0, 0), max(y0, 0), min(x1, im.W), min(y1, im.H)
	if im.RGB == nil || x1 <= x0 || y1 <= y0 {
		return nil
	}
	size := 3
	if im.Gray {
		size = 1
	}
	out := &Image{Key: fmt.Sprintf("%s %d %d %d %d", im.Key, x0, y0, x1, y1), W: x1 - x0, H: y1 - y0, Comps: im.Comps, Gray: im.Gray, Profile: im.Profile, Crisp: im.Crisp}
	for y := y0; y < y1; y++ {
		out.RGB = append(out.RGB, im.RGB[(y*im.W+x0)*size:(y*im.W+x1)*size]...)
		if im.Alpha != nil {
			out.Alpha = append(out.Alpha, im.Alpha[y*im.W+x0:y*im.W+x1]...)
		}
	}
	return out
}

// Blend modes are PDF's names.
type Group struct {
	Alpha     float64
	Blend     string
	Box       Rect
	Mask      func(Canvas) // luminance mask, drawn in the same space
	AlphaMask bool
}

// BlendMode is PDF's name of a mode of blending (ISO 32000-1, §11.3.5); none for a normal one.
func BlendMode(k style.Keyword) string {
	if k == style.Normal {
		return ""
	}
	parts := strings.Split(k.String(), "-")
	for i := range parts {
		parts[i] = strings.ToUpper(parts[i][:1]) + parts[i][1:]
	}
	return strings.Join(parts, "")
}

// Furniture is what is repeated on pages and belongs to them rather than to what they say (ISO 32000-1, §14.8.2.2.2).
type Furniture string

const (
	NoFurniture Furniture = ""
	Header      Furniture = "Header"
	Footer      Furniture = "Footer"
	Aside       Furniture = "Aside" // at the left or right
)

// Link is where a link leads, and what it says to those who cannot see it.
type Link struct {
	Address string // beginning with # for a place of the document itself
	Text    string // the address, if empty
}

// Canvas takes a page's contents.
type Canvas interface {
	Save()
	Restore()
	Transform(m Matrix)
	Clip(p *Path, evenOdd bool)
	Fill(p *Path, paint Paint, evenOdd bool)
	Stroke(p *Path, paint Paint, s Stroke)
	Text(t *Text)
	Image(im *Image, box Rect)
	Group(g Group, draw func(Canvas))
	Drawing(key any, box Rect, draw func(Canvas)) // the same wherever its key and its size are; drawn from the corner of its box
	Tag(e *tag.Element, order int32)              // what follows belongs to e; nil is decoration
	Furniture(kind Furniture)                     // what decoration is from here on
	Cover(e *tag.Element, box Rect)               // e is seen there
	Link(box Rect, to Link)
	Anchor(name string, x, y float64)
	Field(f Field)
}

// DrawInPlace draws a Drawing on a canvas that shares it with no other place.
func DrawInPlace(c Canvas, box Rect, draw func(Canvas)) {
	c.Save()
	c.Transform(Translate(box.X, box.Y))
	draw(c)
	c.Restore()
}

// FieldKind is a kind of form field.
type FieldKind uint8

// The kinds of fields.
const (
	TextField FieldKind = iota
	CheckField
	RadioField
	ChoiceField
	SignatureField
)

// Field is a form field that a reader of the document can fill in.
type Field struct {
	Kind                         FieldKind
	Name, Value                  string // the value of a choice is that of its options
	Label                        string // what the field is for, in words
	Box                          Rect
	Size                         float64     // of its text, in px
	Options                      [][2]string // value and label
	Chosen                       []int       // options, ascending
	List, Several                bool        // all options are seen; more than one may be chosen
	Checked, Multiline, Password bool
	ReadOnly, Required           bool
	MaxLength                    int
}
