// Package watch ends a page that takes more than it may: the stages take a step
// with each piece of work, and from time to time the watch asks whether to go on.
package watch

// Stopped is what a step panics with when the page is to end. A page can take
// longer than it may within a single box or drawing, far below whoever asked
// for it.
type Stopped struct{ Err error }

// Watch counts the steps of one document. A nil one never stops.
type Watch struct {
	Check func() error // an error ends the page
	steps uint
}

// every is how many steps are taken between two checks.
const every = 1 << 12

// Step counts a piece of work that takes about a microsecond or more.
func (w *Watch) Step() {
	if w == nil {
		return
	}
	if w.steps++; w.steps%every == 0 {
		w.Ask()
	}
}

// Ask checks now, after something long.
func (w *Watch) Ask() {
	if w == nil {
		return
	}
	if err := w.Check(); err != nil {
		panic(Stopped{err})
	}
}
