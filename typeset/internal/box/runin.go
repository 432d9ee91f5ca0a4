package box

import "oliveledger/typeset/internal/style"

// runIns joins run-in boxes with the block that follows them, or makes them
// plain inlines or blocks (CSS Display 3, §2.8).
func runIns(kids []*Box) []*Box {
	found := false
	for _, k := range kids {
		found = found || isRunIn(k)
	}
	if !found {
		return kids
	}
	var out, sequence []*Box
	flush := func() {
		for _, k := range sequence {
			if isRunIn(k) {
				k = withOuter(k, style.Block)
			}
			out = append(out, k)
		}
		sequence = nil
	}
	for _, k := range kids {
		switch {
		case isRunIn(k) && holdsPlainBlock(k):
			flush()
			out = append(out, withOuter(k, style.Block))
		case isRunIn(k):
			sequence = append(sequence, k)
		case len(sequence) > 0 && (blank(k) || k.OutOfFlow()):
			sequence = append(sequence, k)
		case len(sequence) > 0 && takesRunIns(k):
			k.Children = append(runInto(sequence), k.Children...)
			sequence = nil
			out = append(out, k)
		default:
			flush()
			out = append(out, k)
		}
	}
	flush()
	return out
}

// runInto makes a sequence of run-ins inline; the space between them goes.
func runInto(sequence []*Box) []*Box {
	var out []*Box
	for _, k := range sequence {
		switch {
		case isRunIn(k):
			out = append(out, withOuter(k, style.Inline))
		case k.OutOfFlow():
			out = append(out, k)
		}
	}
	return out
}

func isRunIn(b *Box) bool {
	return b.Kind != Text && b.Kind != LineBreak && b.Style.Display.Outer == style.RunIn && !b.OutOfFlow()
}

// holdsPlainBlock tells whether a block is among the inline contents of b;
// table parts get an inline table around them later.
func holdsPlainBlock(b *Box) bool {
	for _, c := range b.Children {
		if c.Kind != Element && c.Kind != Replaced || c.OutOfFlow() {
			continue
		}
		if c.Style.Display.Outer == style.Block || c.Style.Display.Outer == style.Inline && !c.IsAtomic() && holdsPlainBlock(c) {
			return true
		}
	}
	return false
}

// takesRunIns tells whether run-ins may go into b: a block container in flow.
func takesRunIns(b *Box) bool {
	return b.Kind == Element && !b.OutOfFlow() && b.Style.Display.Inner == style.Flow && b.Style.Display.Outer == style.Block
}

func withOuter(b *Box, outer style.Keyword) *Box {
	s := *b.Style
	s.Display.Outer = outer
	out := *b
	out.Style = &s
	return &out
}
