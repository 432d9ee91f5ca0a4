// Package finding is what a person should know about a document before it
// goes out.
package finding

import (
	"fmt"
	"sync"
)

// Severity orders findings.
type Severity int

const (
	Note Severity = iota
	Warning
	Error
)

// String is the severity in words.
func (s Severity) String() string { return [...]string{"note", "warning", "error"}[s] }

// MarshalText writes the severity in JSON as a word.
func (s Severity) MarshalText() ([]byte, error) { return []byte(s.String()), nil }

// UnmarshalText reads what MarshalText writes.
func (s *Severity) UnmarshalText(text []byte) error {
	for _, known := range []Severity{Note, Warning, Error} {
		if known.String() == string(text) {
			*s = known
			return nil
		}
	}
	return fmt.Errorf("%q is not a severity", text)
}

// Finding is one thing that is off, where, and what to do.
type Finding struct {
	Code     string     `json:"code"`             // short name of the kind, such as image-missing
	Severity Severity   `json:"severity"`         // how bad it is: note, warning or error
	Message  string     `json:"message"`          // what a person should know
	File     string     `json:"file,omitempty"`   // that it is about
	Line     int        `json:"line,omitempty"`   // in the file, from 1; 0 when it has no place
	Column   int        `json:"column,omitempty"` // in the file, from 1; 0 when it has no place
	Page     int        `json:"page,omitempty"`   // from 1; 0 when it is about none
	Rect     [4]float64 `json:"rect,omitzero"`    // x, y, width and height on the page, in px
	Advice   string     `json:"advice,omitempty"` // what to do about it
}

// String is the finding on one line.
func (f Finding) String() string {
	s := f.Severity.String() + ": "
	if f.File != "" {
		s += f.File
		if f.Line > 0 {
			s += fmt.Sprintf(":%d:%d", f.Line, f.Column)
		}
		s += ": "
	}
	s += f.Message
	if f.Page > 0 {
		s += fmt.Sprintf(" (page %d)", f.Page)
	}
	if f.Advice != "" {
		s += " — " + f.Advice
	}
	return s
}

// most bounds the list, so that a broken page cannot fill the memory.
const most = 500

// List collects findings, each once.
type List struct {
	mu   sync.Mutex
	list []Finding
	seen map[Finding]bool
}

// Add adds a finding unless it is there already.
func (l *List) Add(f Finding) {
	l.mu.Lock()
	defer l.mu.Unlock()
	key := f
	key.Line, key.Column = 0, 0
	if l.seen == nil {
		l.seen = map[Finding]bool{}
	}
	if l.seen[key] || len(l.list) >= most {
		return
	}
	l.seen[key] = true
	l.list = append(l.list, f)
}

// All returns what was found, in order.
func (l *List) All() []Finding {
	l.mu.Lock()
	defer l.mu.Unlock()
	return append([]Finding(nil), l.list...)
}
