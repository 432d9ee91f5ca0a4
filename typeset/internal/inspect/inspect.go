// Package inspect looks at laid-out pages for what a person should know before
// they are printed: what is cut, too wide, too coarse, too thin or too faint, and
// where breaks leave a page half empty.
package inspect

import (
	"fmt"
	"math"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// Page is one page as it was set. Sizes are px of the page area.
type Page struct {
	Frag   *layout.Fragment
	W, H   float64
	Foot   float64 // height of the footnotes
	Above  float64 // how far down pictures reach that go on from the page before
	Slices bool    // a picture goes on to the next page
	Number int
	Rest   *layout.Break // nil on the last page
	Root   *box.Box
	Paper  style.Color // what lies behind all
	Sheet  display.Rect
}

// Remark is what was found, and where on the page area.
type Remark struct {
	Code, Message, Advice string
	Severity              finding.Severity
	Rect                  display.Rect
	Node                  *markup.Node // nil when no element is to blame
}

// Limits of what is told.
const (
	coarse     = 120.0 // dpi
	thin       = 0.32  // px, a quarter of a point
	faint      = 2.2   // contrast (WCAG 2, §1.4.3)
	halfEmpty  = 0.35  // of a page's height
	smallest   = 48.0  // px: pictures below it may be as coarse as they are
	seen       = 2.0   // px: what is cut by less is not noticed
	hidden     = 2.0   // px: boxes below it hide what they hold on purpose
	farDown    = 0.6   // of a page's height: where a heading stands at the foot
	mostOfKind = 8     // remarks of one kind on a page
)

// inspector walks through one page.
type inspector struct {
	p     Page
	tell  func(Remark)
	count map[string]int
	told  map[string]bool       // elements with thin borders
	off   map[*markup.Node]bool // elements with text beside the sheet

	marked   bool     // something can be seen on the page
	apart    bool     // what is looked at stands on each page
	lastBox  *box.Box // the block that holds the lowest line
	lastAt   display.Rect
	bottom   float64        // how far down the contents reach
	scale    float64        // that what is looked at is painted at
	seen     [2]style.Color // the colours of a text and of what is behind it that were looked at last
	contrast float64        // of these
}

// Ending is where the contents of a page end, in px of the page area, and why
// they do.
type Ending struct {
	Why    string // "" on the last page
	Y      float64
	Advice string   // what to do for another break
	Next   *box.Box // that comes next; nil where that cannot be told
	Room   float64  // that is left, in px of the page area
	whole  bool     // Next was to go onto the page as a whole
}

// Look tells what is off on a page, and how it ends.
func Look(p Page, tell func(Remark)) Ending {
	in := &inspector{p: p, tell: tell, scale: 1, count: map[string]int{}, told: map[string]bool{}, off: map[*markup.Node]bool{}}
	in.walk(p.Frag, 0, 0, surface{color: p.Paper, known: true})
	if in.bottom = math.Max(in.bottom, p.Above); p.Slices {
		in.bottom = p.H // where it is cut
	}
	in.wide()
	in.breaks()
	if p.Number > 1 && p.Rest == nil && p.Foot == 0 && !in.marked {
		in.remark(finding.Warning, "page-empty", "the last page is empty", "look for a forced break, a margin or an empty element at the end", display.Rect{W: p.W, H: p.H}, nil)
	}
	return in.ending()
}

// surface is what lies behind an element.
type surface struct {
	color style.Color
	known bool // it is one colour
}

func (in *inspector) remark(s finding.Severity, code, message, advice string, at display.Rect, by *box.Box) {
	if in.count[code]++; in.count[code] <= mostOfKind {
		r := Remark{Code: code, Message: message, Advice: advice, Severity: s, Rect: at}
		if by != nil {
			r.Node = by.Node
		}
		in.tell(r)
	}
}

func (in *inspector) walk(f *layout.Fragment, x, y float64, behind surface) {
	at := display.Rect{X: x, Y: y, W: f.W * in.scale, H: f.H * in.scale}
	if f.Text != nil {
		in.text(f, at, behind)
		return
	}
	if b := f.Box; b != nil && b.Look() != nil {
		s := b.Look()
		if s.Visibility != style.Visible || s.Opacity == 0 {
			return
		}
		if b.Style.Position == style.FixedKey && !in.apart {
			in.apart = true
			defer func() { in.apart = false }()
		}
		if f.Picture {
			in.mark(f, at)
			in.picture(b, at)
		}
		in.borders(f, b, at)
		in.clipped(f, b, at)
		if b.Positioned() { // it may lie over anything
			behind = surface{}
		}
		on, seen := in.onto(s, behind)
		if seen {
			in.mark(f, at)
		}
		behind = on
	}
	if f.Line {
		in.marked = in.marked || f.H > 0 && len(f.Kids) > 0
	}
	for _, k := range f.Kids {
		to := display.Rect{X: x + k.X*in.scale, Y: y + k.Y*in.scale, W: k.F.W * in.scale, H: k.F.H * in.scale}
		if k.F.Line && !in.apart && to.Y+to.H > in.lastAt.Y+in.lastAt.H {
			in.lastBox, in.lastAt = f.Box, to
			in.bottom = math.Max(in.bottom, to.Y+to.H)
		}
		around := in.scale
		if f.Fits(k.F) {
			in.scale *= f.W / k.F.W
		}
		in.walk(k.F, to.X, to.Y, behind)
		in.scale = around
	}
}

// mark notes that a box can be seen. What goes on over the next page may do so only because
// the page ends: it does not tell how far down the contents reach.
func (in *inspector) mark(f *layout.Fragment, at display.Rect) {
	in.marked = true
	if !f.Cut && !in.apart {
		in.bottom = math.Max(in.bottom, at.Y+at.H)
	}
}

// onto is the surface that a box makes for what it holds. It tells whether that can be told
// from what is behind the box.
func (in *inspector) onto(s *style.Style, behind surface) (on surface, seen bool) {
	for _, im := range s.Background.Images {
		if im != nil {
			return surface{}, true
		}
	}
	c := s.BackgroundColor.Or(s.Color)
	switch {
	case c.A == 0:
		return behind, false
	case c.A < 1 || s.Opacity < 1 || s.BlendMode != style.Normal:
		return surface{}, true
	}
	on = surface{c, true}
	return on, on != behind
}

// picture tells of pictures that have too few pixels for their size on paper.
func (in *inspector) picture(b *box.Box, at display.Rect) {
	if b.Picture == nil || b.Picture.Image == nil || at.W < smallest || at.H < 1 {
		return
	}
	dpi := math.Min(float64(b.Picture.Image.W)/at.W, float64(b.Picture.Image.H)/at.H) * 96
	if dpi < coarse {
		in.remark(finding.Warning, "picture-coarse", fmt.Sprintf("%s has %.0f dots an inch on paper; it looks blurred in print", Name(b), dpi), fmt.Sprintf("give a picture of at least %.0f × %.0f px, or show it smaller", at.W/96*200, at.H/96*200), at, b)
	}
}

func (in *inspector) borders(f *layout.Fragment, b *box.Box, at display.Rect) {
	s := b.Look()
	for i, w := range f.Border {
		if w == 0 || s.Border[i].Style == style.None || s.Border[i].Style == style.Hidden {
			continue
		}
		in.mark(f, at)
		if f.Box.Style.BorderCollapse == style.CollapseSpace && s.Display.Outer == style.TableCell {
			w *= 2 // its neighbour has the other half
		}
		if w < thin && !in.told[Name(b)] {
			in.told[Name(b)] = true
			in.remark(finding.Note, "line-thin", fmt.Sprintf("a border of %s is %.2f pt thin; printers may drop it", Name(b), w*0.75), "make it at least 0.25pt", at, b)
			return
		}
	}
}

// clipped tells of lines that a box cuts, or that reach out of one that has an
// edge to be seen.
func (in *inspector) clipped(f *layout.Fragment, b *box.Box, at display.Rect) {
	if b.Kind == box.Replaced || f.Cut || at.W <= hidden || at.H <= hidden || b.Node == nil {
		return
	}
	s := b.Look()
	cuts := s.OverflowX != style.Visible || s.OverflowY != style.Visible
	if s.TextOverflow.Kind == style.Ellipsis || s.MaxLines > 0 {
		return
	}
	framed := s.BackgroundColor.A > 0 || f.Border[style.Bottom] > 0
	if !cuts && !(framed && s.Height.Kind == style.Length && !s.Height.HasPct()) {
		return
	}
	down, right := 0.0, 0.0
	var reach func(g *layout.Fragment, x, y float64)
	reach = func(g *layout.Fragment, x, y float64) {
		for _, k := range g.Kids {
			if k.F.Box != nil && k.F.Box.Positioned() && !cuts {
				continue
			}
			if k.F.Text != nil && len(k.F.Text.Runs) > 0 {
				down, right = math.Max(down, y+k.Y+k.F.H), math.Max(right, x+k.X+k.F.W)
				continue
			}
			reach(k.F, x+k.X, y+k.Y)
		}
	}
	reach(f, 0, 0)
	over, side := down-f.H+f.Border[style.Bottom], right-f.W+f.Border[style.Right]
	switch {
	case cuts && s.OverflowY != style.Visible && over > seen+0.15*lineHeight(s):
		in.remark(finding.Warning, "content-cut", fmt.Sprintf("%s cuts %.0f px of its text at the bottom", Name(b), over), "let it grow with min-height instead of height, or make it taller", at, b)
	case cuts && s.OverflowX != style.Visible && side > seen:
		in.remark(finding.Warning, "content-cut", fmt.Sprintf("%s cuts %.0f px of its text at the side", Name(b), side), "let the text wrap, or make the box wider", at, b)
	case !cuts && over > seen+0.3*lineHeight(s):
		in.remark(finding.Warning, "content-over", fmt.Sprintf("the text of %s reaches %.0f px below its edge", Name(b), over), "let it grow with min-height instead of height", at, b)
	}
}

func lineHeight(s *style.Style) float64 { return s.FontSize * 1.2 }

// text tells of text that can hardly be told from what is behind it.
func (in *inspector) text(f *layout.Fragment, at display.Rect, behind surface) {
	if len(f.Text.Runs) == 0 || f.W == 0 {
		return
	}
	if in.offSheet(f, at) {
		return
	}
	in.marked = true
	s := f.Text.Style
	fill := s.TextFill.Or(s.Color)
	if !behind.known || fill.A < 1 || s.Visibility != style.Visible || f.Box == nil {
		return
	}
	if now := [2]style.Color{fill, behind.color}; in.contrast == 0 || now != in.seen {
		in.seen, in.contrast = now, contrast(fill, behind.color)
	}
	if c := in.contrast; c < faint {
		in.remark(finding.Warning, "contrast-low", fmt.Sprintf("text in %s can hardly be read: its contrast to what is behind it is %.1f to 1", Name(f.Box), c), "choose a darker or lighter colour; 4.5 to 1 reads well", at, f.Box)
	}
}

// hiddenFar is how far beside the sheet text stands that was moved there to be hidden, in
// px: pages for screens do so with text that is only to be read aloud.
const hiddenFar = 900

// offSheet tells of text that stands wholly beside the sheet, once for each element; what
// is too wide is told otherwise.
func (in *inspector) offSheet(f *layout.Fragment, at display.Rect) bool {
	s := in.p.Sheet
	far := max(s.X-at.X-at.W, s.Y-at.Y-at.H, at.Y-s.Y-s.H)
	if far < 0 || s.W <= 0 || f.Box == nil || f.Text.Style.Visibility != style.Visible {
		return false
	}
	if in.off[f.Box.Node] {
		return true
	}
	in.off[f.Box.Node] = true
	severity := finding.Warning
	if far > hiddenFar {
		severity = finding.Note
	}
	in.remark(severity, "content-off", fmt.Sprintf("text of %s stands %.0f px beside the sheet and is not on paper", Name(f.Box), far), "move it back, or leave it out of print with display: none", at, f.Box)
	return true
}

// contrast of two colours (WCAG 2, relative luminance).
func contrast(a, b style.Color) float64 {
	x, y := luminance(a), luminance(b)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05)
}

func luminance(c style.Color) float64 {
	rgb := c.ToRGB()
	lin := func(v float32) float64 {
		f := math.Max(math.Min(float64(v), 1), 0)
		if f <= 0.04045 {
			return f / 12.92
		}
		return math.Pow((f+0.055)/1.055, 2.4)
	}
	return 0.2126*lin(rgb.C[0]) + 0.7152*lin(rgb.C[1]) + 0.0722*lin(rgb.C[2])
}

// Name is how remarks call an element.
func Name(b *box.Box) string { return NameOf(b.Node) }

// NameOf names an element, or a box that belongs to none.
func NameOf(n *markup.Node) string {
	switch {
	case n == nil:
		return "a box"
	case n.ID != "":
		return "<" + n.Name + " id=" + n.ID + ">"
	case len(n.Class) > 0:
		return "<" + n.Name + " class=" + n.Class[0] + ">"
	}
	return "<" + n.Name + ">"
}
