package font

import (
	"slices"
	"sync"
	"sync/atomic"
	"unicode"
	"unicode/utf8"

	"github.com/go-text/typesetting/font/opentype/tables"
	"github.com/go-text/typesetting/language"
)

// spaces are the spaces of a face, kerned with the letters beside them. Words are shaped
// without what stands around them, so that a space takes all of it.
type spaces struct {
	before, after [utf8.RuneSelf]atomic.Int32 // what a character before or after a space changes, and 1<<20; 0 is not known
	mu            sync.RWMutex
	runs          map[int32]*Run // by what is changed
}

const knownKern = 1 << 20

// Space is a space between two characters; 0 for none that it is to be kerned with. The
// result is shared and must not be changed.
func (w *Words) Space(before, after rune) *Run {
	kern := w.spaceKern(before, &w.spaces.before, func(r rune) string { return string(r) + " " }) +
		w.spaceKern(after, &w.spaces.after, func(r rune) string { return " " + string(r) })
	if kern == 0 {
		return w.Shape(" ")
	}
	s := &w.spaces
	s.mu.RLock()
	run := s.runs[kern]
	s.mu.RUnlock()
	if run != nil {
		return run
	}
	plain := w.Shape(" ")
	kerned := *plain
	kerned.Glyphs = append([]Glyph(nil), plain.Glyphs...)
	kerned.Width += float64(kern)
	if n := len(kerned.Glyphs); n > 0 {
		kerned.Glyphs[n-1].Advance += float64(kern)
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.runs == nil {
		s.runs = map[int32]*Run{}
	}
	s.runs[kern] = &kerned
	return &kerned
}

// spaceKern is what a character changes in a space beside it, in font units. Few but
// those of ASCII do anything.
func (w *Words) spaceKern(r rune, known *[utf8.RuneSelf]atomic.Int32, pair func(rune) string) int32 {
	if r == 0 || !kernsSpaces(r) {
		return 0
	}
	if r >= utf8.RuneSelf {
		return w.pairKern(r, pair(r))
	}
	if v := known[r].Load(); v != 0 {
		return v - knownKern
	}
	v := w.pairKern(r, pair(r))
	known[r].Store(v + knownKern)
	return v
}

// pairKern is how much wider two characters are together than alone.
func (w *Words) pairKern(r rune, both string) int32 {
	run := w.Shape(both)
	if len(run.Glyphs) != 2 {
		return 0
	}
	return int32(run.Width - w.Shape(" ").Width - w.Shape(string(r)).Width)
}

// LigatesSpaces tells whether the face has glyphs that stand for words with a space between
// them (OpenType, GSUB: ligatures with the space as a part).
func (f *Face) LigatesSpaces() bool {
	return f.ligates()
}

func (f *Face) findSpaceLigatures() bool {
	space := tables.GlyphID(f.Glyph(' '))
	for _, lookup := range f.font.GSUB.Lookups {
		for _, sub := range lookup.Subtables {
			ligatures, ok := sub.(tables.LigatureSubs)
			if !ok {
				continue
			}
			for _, set := range ligatures.LigatureSets {
				if slices.ContainsFunc(set.Ligatures, func(l tables.Ligature) bool { return space != 0 && slices.Contains(l.ComponentGlyphIDs, space) }) {
					return true
				}
			}
		}
	}
	return false
}

// kernsSpaces tells whether a character is of a script with spaces of its own kind.
func kernsSpaces(r rune) bool {
	switch Script(r) {
	case language.Latin, language.Greek, language.Cyrillic:
		return true
	case 0:
		return !unicode.Is(unicode.M, r) && !Ignorable(r) && !unicode.IsSpace(r)
	}
	return false
}
