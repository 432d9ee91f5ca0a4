package style

import (
	"math"

	"oliveledger/typeset/internal/css"
)

// InitialLetter is initial-letter: how many lines a first letter is tall, and
// how many it sinks; zero for none.
type InitialLetter struct {
	Size float64
	Sink int
}

func defineInitialLetter() {
	define("initial-letter", false, func(s *Style) *InitialLetter { return &s.InitialLetter }, func(v *values) (spec[InitialLetter], bool) {
		if v.word("normal") {
			return fixed(InitialLetter{}), true
		}
		how, named := v.oneOf("drop raise")
		size, ok := v.letterSize()
		if !ok {
			return nil, false
		}
		if !named {
			how, named = v.oneOf("drop raise")
		}
		t := v.peek()
		sink, hasSink := v.integer()
		if hasSink && (named || t.Kind == css.Number && t.Num < 1) {
			return nil, false
		}
		return func(c *Computer) InitialLetter {
			out := InitialLetter{Size: size(c)}
			out.Sink = int(math.Floor(out.Size))
			if hasSink {
				out.Sink = sink(c)
			}
			if how == Raise {
				out.Sink = 1
			}
			if out.Size < 1 || out.Sink < 1 {
				return InitialLetter{}
			}
			return out
		}, true
	})
}

// letterSize reads how many lines an initial letter is tall, one at least.
func (v *values) letterSize() (spec[float64], bool) {
	t := v.peek()
	size, ok := v.number(true)
	return size, ok && (t.Kind != css.Number || t.Num >= 1)
}

// InitialLetter gives the first letter of a block the size that spans the
// lines asked for: its capitals reach from the top of the capitals in the first
// line to the baseline of the last one (CSS Inline 3, §7). It stands beside the
// lines as a float, without a line box of its own. Where the letter reaches down
// into the next line, as a Q does, that line stands beside it, too.
func (r *Resolver) InitialLetter(letter, block *Style, text string) *Style {
	n := letter.InitialLetter
	cap := r.fonts.Metrics(letter).Cap
	if n.Size == 0 || cap <= 0 || letter.Float != None {
		return letter
	}
	line := LineHeightPx(block, r.fonts)
	around, own := r.fonts.Metrics(block), r.fonts.Metrics(letter)
	s := *letter
	s.FontSize = ((n.Size-1)*line + around.Cap*block.FontSize) / cap
	height := float64(n.Sink) * line
	s.LineHeight = LineHeight{Kind: LineLength, V: height}
	s.Display = Display{Outer: Block, Inner: FlowRoot}
	s.Float = LeftSide
	if block.Direction == Rtl {
		s.Float = RightSide
	}
	baseline := func(m Metrics, size, height float64) float64 {
		return (height-(m.Ascent+m.Descent)*size)/2 + m.Ascent*size
	}
	want := height - line + baseline(around, block.FontSize, line)
	s.Position = Relative
	s.Inset[Top] = Size{Kind: Length, LP: LP{Px: want - baseline(own, s.FontSize, height)}}
	if over := want + r.fonts.InkBelow(&s, text)*s.FontSize - height; over > 0.5 && s.Margin[Bottom].Kind == Length {
		s.Margin[Bottom].Px += over
	}
	return &s
}
