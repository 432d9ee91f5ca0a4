package style

import (
	"sync"
	"sync/atomic"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/memory"
)

// Sheet is a style sheet with what has been understood of its rules. Many
// documents share one: a framework's sheet is read once.
type Sheet struct {
	*css.Sheet
	base string // what its addresses resolve against
	id   uint64 // no other sheet of this process has it

	mu        sync.Mutex
	selectors map[*css.Rule]selectorList
	blocks    map[*css.Declaration]block
}

type selectorList struct {
	list []css.Selector
	err  error
}

// block is a run of declarations, with those that were dropped.
type block struct {
	decls   []Decl
	dropped []dropped
}

type dropped struct {
	*Unknown
	pos int
}

// keptSheets is how many style sheets stay in memory for the next document.
const keptSheets = 64

var sheets = memory.Of[sheetSource, *Sheet](keptSheets)

// sheetSource is what a style sheet is made from.
type sheetSource struct{ name, base, text string }

// ParseSheet reads a style sheet; name stands in findings, base is what its
// addresses resolve against.
func ParseSheet(name, base, text string) *Sheet {
	from := sheetSource{name, base, text}
	if s, ok := sheets.Get(from); ok {
		return s
	}
	s := newSheet(name, base, text)
	sheets.Add(from, s)
	return s
}

func newSheet(name, base, text string) *Sheet {
	return &Sheet{Sheet: css.ParseSheet(name, text), base: base, id: parsedSheets.Add(1), selectors: map[*css.Rule]selectorList{}, blocks: map[*css.Declaration]block{}}
}

// parsedSheets counts the sheets that were parsed.
var parsedSheets atomic.Uint64

// selectorsOf gives the selectors of a rule of this sheet.
func (s *Sheet) selectorsOf(r *css.Rule, nested bool) ([]css.Selector, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	l, ok := s.selectors[r]
	if !ok {
		l.list, l.err = css.ParseSelectors(r.Prelude, false, nested)
		s.selectors[r] = l
	}
	return l.list, l.err
}

// blockOf gives the declarations of a run of this sheet, which is not empty.
func (s *Sheet) blockOf(decls []css.Declaration) block {
	s.mu.Lock()
	defer s.mu.Unlock()
	b, ok := s.blocks[&decls[0]]
	if !ok {
		b = s.parseBlock(decls)
		s.blocks[&decls[0]] = b
	}
	return b
}

func (s *Sheet) parseBlock(decls []css.Declaration) (b block) {
	for _, d := range decls {
		var bad *Unknown
		if b.decls, bad = s.longhands(d, b.decls); bad != nil {
			b.dropped = append(b.dropped, dropped{bad, d.Pos})
		}
	}
	return b
}
