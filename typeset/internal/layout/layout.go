// Package layout sets boxes: it gives every box its size and place, and cuts
// what does not fit where a page or column ends.
//
// One contract holds for every formatting context: set a box in a Space,
// starting at a Break, and return what fits and where to go on.
package layout

import (
	"math"
	"slices"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/watch"
)

// Auto stands for a size that is not known.
var Indefinite = math.NaN()

func known(v float64) bool { return !math.IsNaN(v) }

// inf is the space left where nothing is cut.
var inf = math.Inf(1)

// Fragment is a box, or a part of one, with its size and its children's
// places. All lengths are px; W and H measure the border box.
type Fragment struct {
	Box             *box.Box
	W, H            float64
	Border, Padding [4]float64
	Kids            []Kid
	Text            *TextRun
	Baseline        float64 // from the top to the first baseline; NaN for none
	LastBaseline    float64
	Before, Whole   float64 // of a part: block size of the earlier parts and of the whole box; Whole is 0 when not known
	Drawn           *Drawn  // what few fragments show, or nil

	own     float64 // the height that the contents of a stretched box ask for, in this part; 0 when not known
	out     []outOfFlow
	carried *carried
	across  *baselines // along the inline axis, of what is set across the text around it
	floats  *floats    // of the formatting context that it belongs to, after it
	end     strut

	// small things together: a page has very many fragments
	Start            int8 // the side that the earlier parts lie at
	Line             bool
	Continued        bool // it is not the first part of its box
	Cut              bool // it is not the last part of its box
	Picture          bool
	Clipped          bool // a cell that reaches over collapsed columns
	Hide             bool // an empty cell that shows neither border nor background
	collapsesThrough bool // margins collapse through it
	apart            bool // lines, or boxes that margins do not collapse through, keep those above and below apart
	goesOn           bool // what overflows it goes on in the next page or column
	ended            bool // it is cut before a box across all columns: H is what it holds
	settled          bool // its lines face the right way already
}

// Drawn is what tables and multi-column boxes show beside their own border and
// background.
type Drawn struct {
	Edges []BorderEdge // of a table with collapsed borders
	Rules []Kid        // column rules: F.W and F.H give the line's box
	Backs []Back       // table backgrounds behind the cells
}

// draws gives room for what few fragments show.
func (f *Fragment) draws() *Drawn {
	if f.Drawn == nil {
		f.Drawn = &Drawn{}
	}
	return f.Drawn
}

// Kid is a child fragment and its place relative to the parent's border box.
type Kid struct {
	X, Y float64
	F    *Fragment
}

// BorderEdge is one stretch of a collapsed border.
type BorderEdge struct {
	X, Y, Len, Width float64
	Vertical         bool
	Border           style.Border
	Color            style.Color
}

// DecorLine is where the line that a box gives to a run of its text lies: how far below the baseline of the run, and
// how far before the run it begins.
type DecorLine struct{ Below, Before float64 }

// TextRun is text on a line in one face.
type TextRun struct {
	Match         font.Match
	Style         *style.Style
	Decor         *box.Decor
	Lines         []DecorLine // of the decorating boxes, as Decor leads to them; nil where all begin with the run, at its baseline
	Size          float64
	Runs          []*font.Run
	LetterSpacing float64
	WordSpacing   float64
	Ascent        float64 // from the top of the fragment to the baseline
	RTL           bool
	Gap           bool // what follows is another word, though no space is drawn between
	Turn          int  // quarter turns clockwise
	Upright       bool // each glyph stands upright in a turned line
}

// outOfFlow is a positioned box that waits for its containing block. The
// rectangle is its static position, relative to the fragment that keeps it.
type outOfFlow struct {
	b *box.Box
	rect
	sx, sy side
	rtl    bool     // the direction of its static containing block
	by     *box.Box // the inline box that contains it, if one does
	area   *rect    // of the grid it is placed in, from the fragment that settles it

	planned bool // its places are those in its container as if that were not cut
}

// Space is all that a box may know of its surroundings.
type Space struct {
	W, H           float64  // size of the containing block; H may be Auto
	FixedW, FixedH float64  // border-box sizes that a parent imposes, or Auto
	Shrink         bool     // an auto width shrinks to fit
	BlockLeft      float64  // block size left in the page or column, from the border box's top
	Page           float64  // the whole of it
	AtTop          bool     // nothing stands above in this page or column
	Bare           bool     // nor do more than margins and edges
	ForceProgress  bool     // nor does it help to move what does not fit to the next: margins and edges above count as nothing
	Column         bool     // the fragmentainer is a column
	Nameless       bool     // the names of pages have no say: the box stands in a line (CSS Page 3, §8)
	Spans          bool     // boxes in flow may span the columns around
	Joins          bool     // the box may belong to the formatting context around
	Floats         *floats  // of that, so far
	X, Y           float64  // of the border box in that context
	Indefinite     bool     // FixedH does not make percentages definite
	Grows          bool     // FixedH grows by what breaks add to the contents
	Cell           bool     // percentages of children's heights resolve to auto first
	Measured       bool     // H is not known yet: not even the page stands in for it
	MinH           float64  // a lower bound from outside
	clamp          *clamp   // limits the lines
	trim           textTrim // of the first and the last line, as boxes around ask
	sub            *subgrid // tracks that a grid around gives
}

func newSpace(w, h float64) Space {
	return Space{W: w, H: h, FixedW: Indefinite, FixedH: Indefinite, BlockLeft: inf, Page: inf}
}

// cutting tells whether anything may be cut here.
func (s Space) cutting() bool { return !math.IsInf(s.BlockLeft, 1) }

// Break says where to go on. It mirrors the boxes that were cut.
type Break struct {
	Child   int
	Inner   *Break
	Parts   []*Part // parallel flows: cells of a row, items of a line
	Used    float64 // block size of the box already set
	Line    cursor
	Lines   int
	floated map[int]bool // floats of the next line that are placed
	cut     []lineRest   // boxes of the line before that go on
	Penalty Penalty
	Forced  style.Keyword
	Float   []pendingFloat
	Over    []overflow // children that are whole but for what overflows them
	Ended   bool       // so is the box itself: its contents alone go on
	Row     int
	Height  float64
	table   *tableBreak
	bare    bool               // it cuts through empty space, where no break point is
	left    float64            // how tall what is left of the box is, where it is bare
	held    bool               // what is left is to go on together with the lower edge of the box
	unseen  bool               // nothing is left but padding of which nothing is seen
	tail    bool               // nothing is left but the box itself, beside others
	placed  map[*box.Box]*Part // items of a flex container or grid
	starts  []float64          // where the next page begins in each of their flows
	done    []int              // how many rows of each flow, from its start, are on earlier pages; their items are not among placed
	whole   *wholeLayout       // the container as it is when nothing is cut
	shifts  shifts             // from there to the parts so far
	late    Leftover           // positioned boxes in a box that clips them
	span    *box.Box           // the box across all columns that comes next
	columns bool               // it is in a multi-column box: what comes next spans the columns in there
	atEnd   []outOfFlow        // positioned boxes that stand above the lower edge of the box, which is on a later page
}

// anyBare tells whether some flow is cut through empty space.
func (b *Break) anyBare() bool {
	if b == nil {
		return false
	}
	part := func(p *Part) bool { return p != nil && !p.Done && p.At.anyBare() }
	for _, p := range b.placed {
		if part(p) {
			return true
		}
	}
	return b.bare || b.Inner.anyBare() || slices.ContainsFunc(b.Parts, part)
}

// contentArea is the content box, from the border box's corner.
func (f *Fragment) contentArea() rect {
	x, y := f.Border[style.Left]+f.Padding[style.Left], f.Border[style.Top]+f.Padding[style.Top]
	return rect{x, y, f.W - x - f.Border[style.Right] - f.Padding[style.Right], f.H - y - f.Border[style.Bottom] - f.Padding[style.Bottom]}
}

// ContentSize is the width and height of the content box, in px.
func (f *Fragment) ContentSize() (w, h float64) {
	area := f.contentArea()
	return area.w, area.h
}

// endUnseen ends a box on its page when nothing is left of it but padding of which
// nothing is seen: this ends with the page, as margins do.
func (f *Fragment) endUnseen(rest *Break, column bool) *Break {
	if rest == nil || !rest.unseen || column || len(rest.atEnd) > 0 {
		return rest
	}
	f.Cut = false
	return nil
}

// paintsCanvas tells whether the background of b may lie behind all of the page
// (CSS Backgrounds 3, §2.11), where an end of it is not seen.
func paintsCanvas(b *box.Box) bool {
	n := b.Node
	return n != nil && n.Parent != nil && (n.Parent.Kind == markup.Document || n.Name == "body" && n.Parent.Name == "html")
}

// Part is one of several flows side by side.
type Part struct {
	Done bool
	At   *Break
}

// overflow is a parallel flow: what overflows a child whose own end has been
// passed (CSS Break 4, §2.1).
type overflow struct {
	child int
	at    *Break
}

// pendingFloat is a float that is to be set, or goes on from a break.
type pendingFloat struct {
	b  *box.Box
	at *Break
	in *inlineBox // around it, in a line
}

// from is the float that goes on from a break.
func (p *pendingFloat) from(at *Break) *pendingFloat { return &pendingFloat{p.b, at, p.in} }

// Layout holds what all boxes share.
type Layout struct {
	Fonts    *font.Set
	Styles   *style.Resolver
	Viewport [2]float64
	Tell     func(code, message string, b *box.Box)
	Lacks    func(r rune, b *box.Box) // hears of characters that no font has, if it is set
	Watch    *watch.Watch
	depth    int
	inItem   int // how many items of flex boxes, grids and tables are around whose width is being found
	gather   collector
	lineMem  []*lineState // of lines that are made, to be used again
	holding  int          // how many boxes around have their contents set again for the sake of an edge: see hold
	looks    map[*style.Style]*textLook
	last     *textLook            // that was asked for
	fits     map[*box.Box]*fit    // boxes that are scaled down although their style does not ask for it
	refits   int                  // how often that has changed
	trimmed  map[*box.Box][4]bool // margins of items that their flex container or grid trims, at its present width
	slabs
}

// slabs give memory for what layout makes very much of.
type slabs struct {
	memos     memory.Slab[memo]
	fragments memory.Slab[Fragment]
	floatMem  memory.Slab[floats]
	plains    memory.Slab[plain]
	runs      memory.Slab[*font.Run]
	oneLiners memory.Slab[plainFragment]
	written   [][]cellRoom // of rows on pages that are written
}

// maxDepth bounds nested formatting; deeper boxes are left out and told.
const maxDepth = 2000

// Lay sets b in sp, going on from a break. A nil fragment says that nothing
// fits and the break belongs before the box.
func (l *Layout) Lay(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	if l.depth++; l.depth > maxDepth {
		l.depth--
		return &Fragment{Box: b, Baseline: Indefinite, LastBaseline: Indefinite}, nil
	}
	l.Watch.Step()
	f, rest := l.lay(b, sp, from)
	if f != nil && clips(b.Style) && !sp.Column {
		rest = l.keepLate(f, sp, from, rest)
	}
	if f != nil && b.Scrolls() && hasSticky(b) {
		f = stick(f)
	}
	if f != nil && b.Scrolls() { // its baselines are inside it (CSS Align 3, §9.1)
		f.Baseline, f.LastBaseline = math.Min(math.Max(f.Baseline, 0), f.H), math.Min(math.Max(f.LastBaseline, 0), f.H)
	}
	l.depth--
	return f, rest
}

// must sets at the top of a page or column what has found no room there: it breaks
// where it should not and, where nothing can break, stands there whole.
func (l *Layout) must(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	if !sp.ForceProgress {
		sp.ForceProgress = true
		if f, rest := l.Lay(b, sp, from); f != nil {
			return f, rest
		}
	}
	sp.BlockLeft = inf
	return l.Lay(b, sp, from)
}

// lay is Lay by the kind of box.
func (l *Layout) lay(b *box.Box, sp Space, from *Break) (*Fragment, *Break) {
	if b.Kind == box.Replaced {
		return l.replaced(b, sp)
	}
	if b.Turned() {
		return l.turned(b, sp), nil
	}
	if b.Style.Display.Inner == style.Ruby && len(b.Children) == 2 {
		return l.ruby(b, sp), nil
	}
	if b.Style.Fit > 0 || len(l.fits) > 0 && l.leastScale(b) > 0 {
		return l.fitted(b, sp, from)
	}
	if from == nil && sp.cutting() && !sp.AtTop && b.IsBlockLevel() && l.edgeOnly(b, sp) {
		return nil, nil
	}
	switch {
	case b.Style.Display.Inner == style.Table:
		return l.table(b, sp, from)
	case b.Style.Display.Inner == style.Flex:
		return l.flex(b, sp, from)
	case b.Style.Display.Inner == style.Grid:
		return l.grid(b, sp, from)
	case b.Style.Multicol():
		return l.columns(b, sp, from)
	}
	return l.block(b, sp, from)
}

// edgeOnly tells whether no more than the upper border and padding of a box
// would fit: no break is allowed between them and what they hold
// (CSS Break 4, §4.1).
func (l *Layout) edgeOnly(b *box.Box, sp Space) bool {
	e := l.edges(b, sp.W)
	return e.top() > 0 && atMost(sp.BlockLeft, e.top()) && b.Style.Display.Inner != style.Table
}

// edges are the used margins, borders and padding of a box.
type edges struct {
	margin, border, padding [4]float64
	auto                    [4]bool // margins
}

func (l *Layout) edges(b *box.Box, cbW float64) edges {
	var e edges
	s := b.Style
	base := cbW
	if !known(base) {
		base = 0
	}
	internal := s.Display.Outer == style.TableCell
	for i := range 4 {
		if s.Margin[i].IsAuto() {
			e.auto[i] = true
		} else if !internal {
			e.margin[i] = s.Margin[i].Of(base)
		}
		e.border[i] = s.Border[i].Width
		e.padding[i] = s.Padding[i].Of(base)
	}
	if internal {
		e.auto = [4]bool{}
	}
	late := l.trimmed[b]
	for i, gone := range b.Trim {
		if gone || late[i] {
			e.margin[i], e.auto[i] = 0, false
		}
	}
	if b.Split.NoStart {
		start, _ := inlineSides(b)
		e.margin[start], e.border[start], e.padding[start] = 0, 0, 0
	}
	if b.Split.NoEnd {
		_, end := inlineSides(b)
		e.margin[end], e.border[end], e.padding[end] = 0, 0, 0
	}
	return e
}

// inlineEdges is the width of borders and padding; blockEdges their height.
func (e *edges) inlineEdges() float64 {
	return e.border[style.Left] + e.border[style.Right] + e.padding[style.Left] + e.padding[style.Right]
}

func (e *edges) blockEdges() float64 {
	return e.border[style.Top] + e.border[style.Bottom] + e.padding[style.Top] + e.padding[style.Bottom]
}

// heightIn is the border-box height of a box that fills h with its margins.
func (e *edges) heightIn(h float64) float64 {
	return math.Max(h-e.margin[style.Top]-e.margin[style.Bottom], e.blockEdges())
}

func (e *edges) top() float64    { return e.border[style.Top] + e.padding[style.Top] }
func (e *edges) left() float64   { return e.border[style.Left] + e.padding[style.Left] }
func (e *edges) bottom() float64 { return e.border[style.Bottom] + e.padding[style.Bottom] }

// borderBox turns a size as box-sizing reads it into one of the border box.
func borderBox(s *style.Style, v, extra float64) float64 {
	if s.BoxSizing == style.ContentBox {
		return math.Max(v, 0) + extra
	}
	return math.Max(v, extra)
}

// fromBorderBox gives the size as box-sizing reads it.
func fromBorderBox(s *style.Style, v, extra float64) float64 {
	if s.BoxSizing == style.ContentBox {
		return math.Max(v-extra, 0)
	}
	return v
}

// width is the used border-box width of a block-level box (CSS 2.2, §10.3).
func (l *Layout) width(b *box.Box, sp Space, e *edges) float64 {
	if known(sp.FixedW) {
		return sp.FixedW
	}
	s := b.Style
	if b.Turned() && orthogonal(b) && s.Width.IsAuto() {
		return l.turned(b, sp).W
	}
	extra := e.inlineEdges()
	avail := sp.W - e.margin[style.Left] - e.margin[style.Right]
	w := Indefinite
	switch s.Width.Kind {
	case style.Length:
		if v := s.Width.Resolve(sp.W); known(v) {
			w = borderBox(s, v, extra)
		}
	case style.MinContent, style.MaxContent, style.FitContent:
		if w = l.ratioWidth(b, sp, e); !known(w) {
			w = l.transferred(b, l.contentWidth(b, s.Width, avail, extra), sp.H, e)
		}
	case style.Stretch:
		w = l.contentWidth(b, s.Width, avail, extra)
	}
	if !known(w) {
		w = l.ratioWidth(b, sp, e)
	}
	if !known(w) {
		if sp.Shrink || s.Display.Inner == style.Table || b.IsControl() || justifies(b.Style.JustifySelf) && b.IsBlockLevel() && !b.OutOfFlow() {
			lo, hi := l.sizesIn(b, e)
			w = math.Min(math.Max(lo, avail), hi)
		} else {
			w = l.transferred(b, math.Max(avail, extra), sp.H, e)
		}
	}
	if s.Width.Through != nil && s.Width.Kind != style.Length {
		w = borderBox(s, s.Width.Passed(fromBorderBox(s, w, extra), sp.W), extra)
	}
	return l.clampWidth(b, w, sp, e)
}

// contentWidth resolves min-content and the like to a border-box width.
func (l *Layout) contentWidth(b *box.Box, size style.Size, avail, extra float64) float64 {
	lo, hi := l.contentSizes(b)
	lo, hi = lo+extra, hi+extra
	switch size.Kind {
	case style.MinContent:
		return lo
	case style.MaxContent:
		return hi
	case style.Stretch:
		return math.Max(avail, extra)
	}
	if size.Limited {
		return math.Min(math.Max(lo, size.Of(avail)+extra), hi)
	}
	return math.Min(math.Max(lo, avail), hi)
}

func (l *Layout) clampWidth(b *box.Box, w float64, sp Space, e *edges) float64 {
	s, extra := b.Style, e.inlineEdges()
	avail := sp.W - e.margin[style.Left] - e.margin[style.Right]
	limit := func(size style.Size) float64 {
		switch size.Kind {
		case style.Length:
			if v := size.Resolve(sp.W); known(v) {
				return borderBox(s, v, extra)
			}
		case style.MinContent, style.MaxContent, style.FitContent, style.Stretch:
			if v := l.ratioWidth(b, sp, e); known(v) && size.Kind != style.Stretch {
				return v
			}
			return borderBox(s, size.Passed(fromBorderBox(s, l.contentWidth(b, size, avail, extra), extra), sp.W), extra)
		}
		return Indefinite
	}
	if hi := limit(s.MaxWidth); known(hi) {
		w = math.Min(w, hi)
	}
	if lo := limit(s.MinWidth); known(lo) {
		w = math.Max(w, lo)
	} else if s.AspectRatio.Ratio > 0 && s.Width.Kind != style.Length && s.MinWidth.IsAuto() && b.Kind != box.Replaced && !b.Scrolls() && known(l.ratioWidth(b, sp, e)) {
		lo, _ := l.contentSizes(b)
		w = math.Max(w, borderBox(s, s.MinWidth.Passed(fromBorderBox(s, lo+extra, extra), sp.W), extra))
	}
	return math.Max(w, extra)
}

// ratioWidth is the width that a definite height and aspect-ratio give.
func (l *Layout) ratioWidth(b *box.Box, sp Space, e *edges) float64 {
	r := b.Style.AspectRatio.Ratio
	if r <= 0 {
		return Indefinite
	}
	h := l.definiteHeight(b, sp, e)
	if !known(h) {
		return Indefinite
	}
	return throughRatio(b.Style, h, e.blockEdges(), e.inlineEdges(), r)
}

// heightIsAuto tells whether a height is auto or behaves so: it is one of the
// keywords for contents, or counts from a height that is not known.
func heightIsAuto(s *style.Style, sp Space) bool {
	switch s.Height.Kind {
	case style.Length:
		return !known(s.Height.Resolve(sp.H))
	case style.Stretch:
		return !known(sp.H)
	}
	return true
}

// ratioHeight is the border-box height that the aspect ratio gives to a flex
// container or grid of width w, but no less than its contents need (CSS Sizing 4,
// §5.1); Auto where the ratio has no say.
func (l *Layout) ratioHeight(b *box.Box, w float64, sp Space, e *edges) float64 {
	s := b.Style
	r := s.AspectRatio.Ratio
	if r <= 0 || !heightIsAuto(s, sp) {
		return Indefinite
	}
	h := l.clampHeight(b, throughRatio(s, w, e.inlineEdges(), e.blockEdges(), 1/r), sp, e)
	if !growsPastRatio(b) {
		return h
	}
	plain := inStyle(b, func(s *style.Style) {
		s.Height, s.AspectRatio = autoSize, style.AspectRatio{}
	})
	in := newSpace(sp.W, sp.H)
	in.FixedW = w
	if f, _ := l.Lay(plain, in, nil); f != nil {
		h = math.Max(h, f.H)
	}
	return h
}

// growsPastRatio tells whether contents may make a box taller than its ratio does
// (CSS Sizing 4, §5.1.1). As browsers have it, they do not where the height counts from
// one that is not known.
func growsPastRatio(b *box.Box) bool {
	s := b.Style
	return s.MinHeight.IsAuto() && !b.Scrolls() && s.Height.Kind != style.Length && s.Height.Kind != style.Stretch
}

// transferred limits a width that the style leaves open by the least and greatest
// height through the aspect ratio (CSS Sizing 4, §4.1). h is the height of the
// containing block, or Auto.
func (l *Layout) transferred(b *box.Box, w, h float64, e *edges) float64 {
	s := b.Style
	r := s.AspectRatio.Ratio
	if r <= 0 {
		return w
	}
	through := func(v float64) float64 {
		return throughRatio(s, borderBox(s, v, e.blockEdges()), e.blockEdges(), e.inlineEdges(), r)
	}
	if v := s.MaxHeight.Resolve(h); known(v) {
		w = math.Min(w, through(v))
	}
	if v := s.MinHeight.Resolve(h); known(v) {
		w = math.Max(w, through(v))
	}
	return w
}

// throughRatio turns a border-box size of one axis into that of the other.
func throughRatio(s *style.Style, size, extra, otherExtra, factor float64) float64 {
	if s.BoxSizing == style.ContentBox || s.AspectRatio.Auto {
		return math.Max(size-extra, 0)*factor + otherExtra
	}
	return math.Max(size*factor, otherExtra)
}

// definiteHeight is the border-box height when it is known before layout.
func (l *Layout) definiteHeight(b *box.Box, sp Space, e *edges) float64 {
	if known(sp.FixedH) {
		if sp.Indefinite {
			return Indefinite
		}
		return sp.FixedH
	}
	s := b.Style
	if s.Height.Kind == style.Stretch && known(sp.H) {
		return l.clampHeight(b, e.heightIn(sp.H), sp, e)
	}
	v := s.Height.Resolve(sp.H)
	if !known(v) {
		return Indefinite
	}
	return l.clampHeight(b, borderBox(s, v, e.blockEdges()), sp, e)
}

func (l *Layout) clampHeight(b *box.Box, h float64, sp Space, e *edges) float64 {
	s, extra := b.Style, e.blockEdges()
	if v := s.MaxHeight.Resolve(sp.H); known(v) {
		h = math.Min(h, borderBox(s, v, extra))
	}
	if v := s.MinHeight.Resolve(sp.H); known(v) {
		h = math.Max(h, borderBox(s, v, extra))
	}
	return math.Max(h, extra)
}

// fillHeight is clampHeight for a box of width sp.FixedW that is to fill a height: its
// least and greatest heights may be those of its contents.
func (l *Layout) fillHeight(b *box.Box, h float64, sp Space, e *edges) float64 {
	if !clampedByContent(b.Style) || b.Kind == box.Replaced {
		return l.clampHeight(b, h, sp, e)
	}
	return l.clampByContent(b, h, l.freeHeight(b, sp, e), sp, e)
}

// clampedByContent tells whether the least or the greatest height is that of the contents.
func clampedByContent(s *style.Style) bool { return byContent(s.MinHeight) || byContent(s.MaxHeight) }

// clampByContent is clampHeight where a box with what it holds has the height content.
func (l *Layout) clampByContent(b *box.Box, h, content float64, sp Space, e *edges) float64 {
	if byContent(b.Style.MaxHeight) {
		h = math.Min(h, content)
	}
	h = l.clampHeight(b, h, sp, e)
	if byContent(b.Style.MinHeight) {
		h = math.Max(h, content)
	}
	return h
}

var (
	autoSize = style.Size{Kind: style.Auto}
	noSize   = style.Size{Kind: style.None}
)

// inStyle is a box with another style, to see how it would be set.
func inStyle(b *box.Box, change func(*style.Style)) *box.Box {
	x, s := *b, *b.Style
	change(&s)
	x.Style, x.Memo = &s, nil
	return &x
}

// freeHeight is the height of a box of width sp.FixedW by its contents, whatever height
// or ratio its style asks for.
func (l *Layout) freeHeight(b *box.Box, sp Space, e *edges) float64 {
	if s := b.Style; s.Height.Kind != style.Auto || s.MinHeight.Kind != style.Auto || s.MaxHeight.Kind != style.None || s.AspectRatio.Ratio > 0 {
		b = inStyle(b, func(s *style.Style) {
			s.Height, s.MinHeight, s.MaxHeight, s.AspectRatio = autoSize, autoSize, noSize, style.AspectRatio{}
		})
	}
	in := newSpace(sp.W, Indefinite)
	in.FixedW = sp.FixedW
	f, _ := l.Lay(b, in, nil)
	if f == nil {
		return e.blockEdges()
	}
	return f.H
}

// relative is the offset of a relatively positioned box (CSS 2.2, §9.4.3).
func relative(b *box.Box, cbW, cbH float64, rtl bool) (dx, dy float64) {
	if b.Kind == box.Text || b.Style.Position != style.Relative {
		return 0, 0
	}
	in := b.Style.Inset
	left, right := in[style.Left].Resolve(cbW), in[style.Right].Resolve(cbW)
	top, bottom := in[style.Top].Resolve(cbH), in[style.Bottom].Resolve(cbH)
	switch {
	case known(left) && (!rtl || !known(right)):
		dx = left
	case known(right):
		dx = -right
	}
	switch {
	case known(top):
		dy = top
	case known(bottom):
		dy = -bottom
	}
	return dx, dy
}

// add puts a child into f; its waiting boxes move up with it.
func (f *Fragment) add(c *Fragment, x, y, dx, dy float64) {
	f.Kids = append(f.Kids, Kid{x + dx, y + dy, c})
	if c.carried != nil {
		c.move(f, x+dx, y+dy, dy)
	}
	for _, w := range c.out {
		w.x += x + dx
		w.y += y + dy
		f.out = append(f.out, w)
	}
}

// strut is a set of adjoining margins (CSS 2.2, §8.3.1).
type strut struct{ pos, neg float64 }

func (s *strut) add(m float64) {
	s.pos, s.neg = math.Max(s.pos, m), math.Min(s.neg, m)
}

func (s *strut) join(o strut) {
	s.pos, s.neg = math.Max(s.pos, o.pos), math.Min(s.neg, o.neg)
}

func (s strut) sum() float64 { return s.pos + s.neg }
