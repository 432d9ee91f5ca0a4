package font

import (
	"strings"
	"sync"

	"github.com/go-text/typesetting/language"
)

// Context is text around a run that its letters join, in another element or
// face (CSS Text 3, §7.3).
type Context struct{ Before, After string }

// shaping is how text is shaped, but for the text itself and what it joins.
type shaping struct {
	script   language.Script
	lang     string
	rtl      bool
	features Features
}

// joined is text with what it joins.
type joined struct {
	text   string
	around Context
}

// maxCached bounds the words kept for a face.
const maxCached = 50_000

// Words remembers what a face has shaped in one way: most words of a document
// come again. It may be used from many goroutines at once.
type Words struct {
	face *Face
	how  shaping

	mu     sync.RWMutex
	alone  map[string]*Run
	joined map[joined]*Run

	numbers func() *numbers // of the face, in this way
	spaces  spaces
}

// Words is the memory of words in one script, language and direction with the
// same features.
func (f *Face) Words(script language.Script, lang string, rtl bool, features Features) *Words {
	how := shaping{script, lang, rtl, features}
	f.mu.RLock()
	w := f.words[how]
	f.mu.RUnlock()
	if w != nil {
		return w
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	if w = f.words[how]; w == nil {
		how.lang, how.features = strings.Clone(lang), Features(strings.Clone(string(features)))
		w = &Words{face: f, how: how, alone: map[string]*Run{}}
		w.numbers = sync.OnceValue(func() *numbers { return newNumbers(f, how) })
		f.words[how] = w
	}
	return w
}

// Shape shapes text. The result is shared and must not be changed.
func (w *Words) Shape(text string) *Run { return w.ShapeInto(text, nil) }

// ShapeInto is Shape for a word that may come once only: if it is not remembered it takes
// the memory of another run that is no longer of use, where there is one.
func (w *Words) ShapeInto(text string, memory *Run) *Run {
	if hasDigit(text) {
		if n := w.numbers(); n != nil {
			if memory == nil {
				memory = new(Run)
			}
			if n.shape(text, memory) {
				return memory
			}
		}
	}
	w.mu.RLock()
	run := w.alone[text]
	w.mu.RUnlock()
	if run != nil {
		return run
	}
	text = strings.Clone(text)
	run = w.face.shape(text, Context{}, w.how)
	w.mu.Lock()
	w.alone[text] = run
	w.mu.Unlock()
	w.face.countWord()
	return run
}

// Width is the width of text as Shape shapes it, in font units.
func (w *Words) Width(text string) float64 {
	if hasDigit(text) {
		var run Run // without room for glyphs
		if n := w.numbers(); n != nil && n.set(text, &run) {
			return run.Width
		}
	}
	return w.Shape(text).Width
}

// shapeIn is Shape for text that joins what stands around it.
func (w *Words) shapeIn(around Context, text string) *Run {
	key := joined{text, around}
	w.mu.RLock()
	run := w.joined[key]
	w.mu.RUnlock()
	if run != nil {
		return run
	}
	key = joined{strings.Clone(text), Context{strings.Clone(around.Before), strings.Clone(around.After)}}
	run = w.face.shape(key.text, key.around, w.how)
	w.mu.Lock()
	if w.joined == nil {
		w.joined = map[joined]*Run{}
	}
	w.joined[key] = run
	w.mu.Unlock()
	w.face.countWord()
	return run
}

func (w *Words) forget() {
	w.mu.Lock()
	clear(w.alone)
	clear(w.joined)
	w.mu.Unlock()
}

// countWord notes that one more word is kept. Beyond their bound all are forgotten.
func (f *Face) countWord() {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.kept++; f.kept <= maxCached {
		return
	}
	for _, w := range f.words {
		w.forget()
	}
	clear(f.words) // who still holds one may fill it again; it goes with them
	f.kept = 0
}

// Shape shapes text in one script and direction. The result is shared and
// must not be changed.
func (f *Face) Shape(text string, script language.Script, lang string, rtl bool, features Features) *Run {
	return f.Words(script, lang, rtl, features).Shape(text)
}

// ShapeIn is Shape for text that joins what stands around it.
func (f *Face) ShapeIn(around Context, text string, script language.Script, lang string, rtl bool, features Features) *Run {
	words := f.Words(script, lang, rtl, features)
	if around == (Context{}) {
		return words.Shape(text)
	}
	return words.shapeIn(around, text)
}
