package font

import (
	"math"
	"slices"
	"strings"
	"sync"

	gtfont "github.com/go-text/typesetting/font"
)

// Source is one face that a family name may stand for; it is opened when it
// is first needed.
type Source struct {
	Family                 string
	WeightMin, WeightMax   float64
	StretchMin, StretchMax float64
	Italic                 bool
	SlantMin, SlantMax     float64 // degrees that it can be slanted by itself
	AutoWeight, AutoWidth  bool    // the file tells them, if it varies
	AutoSlant              bool
	Ranges                 [][2]rune // unicode-range; nil for all
	Features               Features  // that text in it has unless its style says otherwise
	Axes                   []gtfont.Variation
	Open                   func(axes []gtfont.Variation) (*Face, error)

	mu    sync.Mutex
	faces map[point]*Face
	err   error
	asked bool // what it can do by itself is known
}

// point is where a variable font stands: its weight, width and slant, 0 for those that do
// not vary, and the axes that a style sets by their names.
type point struct {
	weight, width, slant float64
	axes                 Features
}

// face opens the source as near to a query as it varies.
func (s *Source) face(q Query) *Face {
	s.mu.Lock()
	defer s.mu.Unlock()
	at := point{axes: q.Axes}
	if s.WeightMin != s.WeightMax {
		at.weight = math.Min(math.Max(q.Weight, s.WeightMin), s.WeightMax)
	}
	if s.StretchMin != s.StretchMax {
		at.width = math.Min(math.Max(q.Stretch, s.StretchMin), s.StretchMax)
	}
	if s.SlantMin != s.SlantMax {
		at.slant = math.Min(math.Max(q.Slant, s.SlantMin), s.SlantMax)
	}
	return s.at(at)
}

func (s *Source) at(p point) *Face {
	if f, ok := s.faces[p]; ok {
		return f
	}
	if s.faces == nil {
		s.faces = map[point]*Face{}
	}
	axes := slices.Clone(s.Axes)
	if p.weight > 0 {
		axes = append(axes, gtfont.Variation{Tag: axisWeight, Value: float32(p.weight)})
	}
	if p.width > 0 {
		axes = append(axes, gtfont.Variation{Tag: axisWidth, Value: float32(p.width)})
	}
	if p.slant != 0 {
		axes = append(axes, gtfont.Variation{Tag: axisSlant, Value: float32(-p.slant)}) // it counts against the clock
	}
	axes = append(axes, p.axes.variations()...) // the last of an axis counts
	f, err := s.Open(axes)
	if err != nil {
		f, s.err = nil, err
	}
	s.faces[p] = f
	return f
}

// settle finds out what the file of a source can do by itself where the rule for it leaves
// that open (CSS Fonts 4, §4.4).
func (s *Source) settle() {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.asked || !s.AutoWeight && !s.AutoWidth && !s.AutoSlant {
		return
	}
	s.asked = true
	f := s.at(point{})
	if f == nil {
		return
	}
	if lo, hi, ok := f.axis(axisWeight); ok && s.AutoWeight {
		s.WeightMin, s.WeightMax = lo, hi
	}
	if lo, hi, ok := f.axis(axisWidth); ok && s.AutoWidth {
		s.StretchMin, s.StretchMax = lo, hi
	}
	if lo, hi, ok := f.axis(axisSlant); ok && s.AutoSlant {
		s.SlantMin, s.SlantMax = -hi, -lo
	}
}

func (s *Source) covers(r rune) bool {
	if s.Ranges == nil {
		return true
	}
	for _, x := range s.Ranges {
		if r >= x[0] && r <= x[1] {
			return true
		}
	}
	return false
}

// aliases of the generic families, and of families that the built-in ones
// have the same widths as.
var aliases = map[string]string{
	"serif": "liberation serif", "sans-serif": "liberation sans", "monospace": "dejavu sans mono", "cursive": "liberation serif",
	"fantasy": "liberation serif", "system-ui": "dejavu sans", "ui-sans-serif": "dejavu sans", "ui-serif": "liberation serif", "ui-monospace": "dejavu sans mono", "ui-rounded": "dejavu sans",
	"math": "liberation serif", "emoji": "dejavu sans", "arial": "liberation sans", "helvetica": "liberation sans", "times new roman": "liberation serif", "times": "liberation serif",
	"courier new": "liberation mono", "courier": "liberation mono",
}

// lastResort are tried, in this order, for characters no family named has.
var lastResort = []string{"dejavu sans", "liberation sans", "dejavu serif", "dejavu sans mono"}

// Set is the fonts of one document: those of its style sheets and the
// built-in ones.
type Set struct {
	own     map[string][]*Source
	cache   map[string][]*candidates       // by the first family asked for
	Missing func(family string, err error) // told once for each font that does not open
	told    map[*Source]bool
}

// NewSet makes a set without fonts of its own.
func NewSet() *Set {
	return &Set{own: map[string][]*Source{}, cache: map[string][]*candidates{}, told: map[*Source]bool{}}
}

// Add adds a face of the document.
func (s *Set) Add(src *Source) {
	k := strings.ToLower(src.Family)
	s.own[k] = append(s.own[k], src)
}

// Query is what a style asks of a font.
type Query struct {
	Families []string
	Weight   float64
	Stretch  float64
	Italic   bool
	Slant    float64  // degrees, of an oblique style
	Axes     Features // of a variable font, by their names
}

// candidates are the faces for a query in the order of its families. A family is
// looked up, and a face opened, when none before it will do.
type candidates struct {
	q        Query
	families []string // not looked up yet
	list     []Match
	primary  *Primary // once it has been asked for
}

// Primary is the face of a query whose measures count for lines (CSS Fonts 4, §5.3: the first
// that has a space), and what stands in its way.
type Primary struct {
	Match
	Before []*Source // asked for before it, though their range of characters has no space
	ASCII  bool      // it serves all of ASCII that is seen
}

// Match is a face with what must be imitated.
type Match struct {
	Face    *Face
	Bold    bool    // the face is not bold enough: strokes are thickened
	Oblique float64 // the face is upright: it is slanted by so many degrees
	src     *Source
}

// Family is the name that styles know the font by.
func (m Match) Family() string {
	if m.src == nil {
		return ""
	}
	return m.src.Family
}

func sameQuery(a, b Query) bool {
	if a.Weight != b.Weight || a.Stretch != b.Stretch || a.Italic != b.Italic || a.Slant != b.Slant || a.Axes != b.Axes || len(a.Families) != len(b.Families) {
		return false
	}
	for i := range a.Families {
		if a.Families[i] != b.Families[i] {
			return false
		}
	}
	return true
}

// candidates finds those of a query.
func (s *Set) candidates(q Query) *candidates {
	key := ""
	if len(q.Families) > 0 {
		key = q.Families[0]
	}
	for _, c := range s.cache[key] {
		if sameQuery(c.q, q) {
			return c
		}
	}
	c := &candidates{q: q, families: slices.Concat(q.Families, []string{"serif"}, lastResort)}
	s.cache[key] = append(s.cache[key], c)
	return c
}

// generic are the families that stand for whatever is at hand.
var generic = map[string]bool{
	"serif": true, "sans-serif": true, "monospace": true, "cursive": true, "fantasy": true, "system-ui": true, "ui-sans-serif": true, "ui-serif": true,
	"ui-monospace": true, "ui-rounded": true, "math": true, "emoji": true,
}

// Replacement is a family that is not at hand, and the one that is taken.
type Replacement struct{ Wanted, Taken string }

// Replaced lists the families that were asked for first where none that is named before a
// generic one is at hand.
func (s *Set) Replaced() (list []Replacement) {
	told := map[string]bool{}
	for _, asked := range s.cache {
		for _, c := range asked {
			if wanted := s.lacks(c.q); wanted != "" && !told[wanted] {
				told[wanted] = true
				list = append(list, Replacement{wanted, s.Primary(c.q).Family()})
			}
		}
	}
	slices.SortFunc(list, func(a, b Replacement) int { return strings.Compare(a.Wanted, b.Wanted) })
	return list
}

// lacks is the first family of a query none of whose named ones is at hand, or "".
func (s *Set) lacks(q Query) string {
	for _, name := range q.Families {
		k := strings.ToLower(name)
		if generic[k] {
			break
		}
		if s.own[k] != nil || aliases[k] != "" || builtins()[k] != nil {
			return ""
		}
	}
	if len(q.Families) == 0 || generic[strings.ToLower(q.Families[0])] {
		return ""
	}
	return q.Families[0]
}

// pick is the first open face that will do. usable is asked before a face is opened.
func (s *Set) pick(q Query, usable func(*Source) bool, willDo func(*Face) bool) (Match, bool) {
	c := s.candidates(q)
	for i := 0; ; i++ {
		for i == len(c.list) {
			if len(c.families) == 0 {
				return Match{}, false
			}
			c.list = append(c.list, s.family(c.families[0], q)...)
			c.families = c.families[1:]
		}
		if m := &c.list[i]; usable(m.src) && s.open(m, q) && willDo(m.Face) {
			return *m, true
		}
	}
}

// open opens the face of a match.
func (s *Set) open(m *Match, q Query) bool {
	if m.Face == nil {
		if m.Face = m.src.face(q); m.Face == nil && !s.told[m.src] && s.Missing != nil {
			s.told[m.src] = true
			s.Missing(m.src.Family, m.src.err)
		}
	}
	return m.Face != nil
}

// family lists the faces of a family that are as close to a query as any: those of
// several ranges of characters. Later rules come first (CSS Fonts 4, §5.2).
func (s *Set) family(name string, q Query) []Match {
	k := strings.ToLower(name)
	sources := s.own[k]
	if sources == nil {
		if a, ok := aliases[k]; ok {
			k = a
		}
		sources = builtins()[k]
	}
	if len(sources) == 0 {
		return nil
	}
	for _, src := range sources {
		if src.covers(' ') { // parts of a family for other characters are opened when they are needed
			src.settle()
		}
	}
	best := sources[0]
	for _, src := range sources {
		if closer(src, best, q) {
			best = src
		}
	}
	var out []Match
	for _, src := range slices.Backward(sources) {
		if !closer(best, src, q) {
			m := Match{src: src, Bold: q.Weight >= 600 && src.WeightMax < 600}
			if q.Italic && !src.Italic && src.SlantMin == src.SlantMax {
				m.Oblique = q.Slant
			}
			out = append(out, m)
		}
	}
	return out
}

// closer orders two faces of a family by CSS Fonts 4, §5.2: stretch, style,
// then weight.
func closer(a, b *Source, q Query) bool {
	if x, y := distance(a.StretchMin, a.StretchMax, q.Stretch, q.Stretch <= 100), distance(b.StretchMin, b.StretchMax, q.Stretch, q.Stretch <= 100); x != y {
		return x < y
	}
	if a.Italic != b.Italic {
		return a.Italic == q.Italic
	}
	return weightDistance(a, q.Weight) < weightDistance(b, q.Weight)
}

func distance(lo, hi, want float64, narrowFirst bool) float64 {
	switch {
	case want < lo:
		if narrowFirst {
			return lo - want + 1000
		}
		return lo - want
	case want > hi:
		if narrowFirst {
			return want - hi
		}
		return want - hi + 1000
	}
	return 0
}

func weightDistance(s *Source, w float64) float64 {
	lo, hi := s.WeightMin, s.WeightMax
	switch {
	case w >= lo && w <= hi:
		return 0
	case w >= 400 && w <= 500:
		if lo > w && lo <= 500 {
			return lo - w
		}
		if hi < w {
			return w - hi + 1000
		}
		return lo - w + 2000
	case w < 400:
		if hi < w {
			return w - hi
		}
		return lo - w + 1000
	}
	if lo > w {
		return lo - w
	}
	return w - hi + 1000
}

// Primary is kept for the next time that it is asked for: nobody may change it.
func (s *Set) Primary(q Query) *Primary {
	c := s.candidates(q)
	if c.primary == nil {
		p := &Primary{Match: s.first(q)}
		p.Before, p.ASCII = before(c.list, p.src), true
		for r := '!'; r <= '~'; r++ {
			p.ASCII = p.ASCII && !p.Wants(r)
		}
		c.primary = p
	}
	return c.primary
}

// Wants tells whether a character needs another face.
func (p *Primary) Wants(r rune) bool {
	return p.Face.Glyph(r) == 0 || !p.src.covers(r) || slices.ContainsFunc(p.Before, func(s *Source) bool { return s.covers(r) })
}

func (s *Set) first(q Query) Match {
	any := func(*Face) bool { return true }
	m, ok := s.pick(q, func(src *Source) bool { return src.covers(' ') }, any)
	if !ok {
		m, _ = s.pick(q, func(*Source) bool { return true }, any)
	}
	return m
}

// before lists the sources with a range of characters that stand before one.
func before(list []Match, src *Source) (out []*Source) {
	for _, c := range list {
		if c.src == src {
			break
		}
		if c.src.err == nil && c.src.Ranges != nil {
			out = append(out, c.src)
		}
	}
	return out
}

// ForEmoji is For for a character that is to have colours of its own, or none, where a
// face for that is at hand (CSS Fonts 4, §6.12).
func (s *Set) ForEmoji(q Query, r rune, colors bool) (m Match, ok bool) {
	m, ok = s.pick(q, func(src *Source) bool { return src.covers(r) }, func(f *Face) bool { return f.Glyph(r) != 0 && f.HasColors() == colors })
	if !ok {
		return s.For(q, r)
	}
	return m, ok
}

// For picks the face for a character; ok is false when no face has it: the one that is
// given then has a box to show in its place.
func (s *Set) For(q Query, r rune) (m Match, ok bool) {
	m, ok = s.pick(q, func(src *Source) bool { return src.covers(r) }, func(f *Face) bool { return f.Glyph(r) != 0 })
	if !ok {
		m = s.first(Query{Families: lastResort, Weight: q.Weight, Stretch: q.Stretch, Italic: q.Italic})
	}
	return m, ok
}

// Features are those of a style for text in this face, after those of the face itself,
// which they may take back (CSS Fonts 4, §7.2).
func (m Match) Features(of Features) Features {
	if m.src == nil || m.src.Features == "" {
		return of
	}
	return m.src.Features + " " + of
}

// Local finds a built-in face by its full name (CSS Fonts 4, §4.3: local()).
func (s *Set) Local(name string) *Face {
	k := strings.ToLower(name)
	q := Query{Weight: 400, Stretch: 100}
	for _, suffix := range []string{" bold italic", " bold", " italic", " regular"} {
		if base, ok := strings.CutSuffix(k, suffix); ok {
			k = base
			q.Italic = strings.Contains(suffix, "italic")
			if strings.Contains(suffix, "bold") {
				q.Weight = 700
			}
			break
		}
	}
	if a, ok := aliases[k]; ok {
		k = a
	}
	if list := builtins()[k]; list != nil {
		if m := s.family(k, q); len(m) > 0 && s.open(&m[0], q) {
			return m[0].Face
		}
	}
	return nil
}
