// Package box makes the box tree: nodes with their style become boxes whose
// display types are worked out, with generated content, markers and the
// anonymous boxes that CSS asks for.
package box

import (
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// Kind tells what a Box is.
type Kind uint8

const (
	Element   Kind = iota // a box with children
	Text                  // text in an inline formatting context
	LineBreak             // br
	Replaced              // a picture, drawn as one
)

// Box is a node with its display type worked out. It does not change once the
// tree is made, except for Memo.
type Box struct {
	Node     *markup.Node // nil in anonymous boxes and generated text
	Style    *style.Style
	Children []*Box
	Text     string
	Picture  *picture.Picture
	Decor    *Decor // decorations that come down to this text
	Memo     any    // what layout keeps about this box
	rare     *Rare  // nil for none of it

	// small things together: long tables have very many boxes
	Order       int32 // place in the document, for painting
	RowSpan     int32 // 0 stands for 1; -1 reaches to the end of the row group
	ColSpan     int16
	Mode, Frame style.Keyword // writing modes of what is inside and of what is around
	Kind        Kind
	Inline      bool // Element: its children are inline-level
	Anon        bool
	Leader      bool    // Text: it is repeated over the width that is left
	Split       Split   // parts of an inline box around a block
	Trim        [4]bool // margins that the container trims, whatever its width
}

// Rare is what few boxes have.
type Rare struct {
	Pseudo    string
	Marker    *Box            // an outside list marker
	FirstLine *style.Style    // of ::first-line, where this box holds that line
	lineOf    *[]*markup.Node // elements whose ::first-line may stand in this box
	Physical  *style.Style    // the style by physical sides, where Style is not
	Notes     *Notes          // what pages should know of it
	Footnote  *Box            // the note that this box calls
	Sum       *Sum            // Text: it shows a running sum
	Lowered   bool            // Text: its capitals stand for small letters
}

var nothingRare Rare

// Rare is what few boxes have, to be read only.
func (b *Box) Rare() *Rare {
	if b.rare == nil {
		return &nothingRare
	}
	return b.rare
}

// SetRare changes what few boxes have, in this box alone: its copies share it.
func (b *Box) SetRare(change func(*Rare)) {
	r := *b.Rare()
	change(&r)
	b.rare = &r
}

// Split tells which edges an inline box lacks, being a part of one.
type Split struct{ NoStart, NoEnd bool }

// Decor is a text decoration that an ancestor draws over its descendants.
type Decor struct {
	Up    *Decor
	Style *style.Style
}

// With is the box with more children.
func (b *Box) With(more []*Box) *Box {
	c := *b
	c.Children, c.Memo = append(append([]*Box(nil), b.Children...), more...), nil
	return &c
}

// Display is the box's display type.
func (b *Box) Display() style.Display { return b.Style.Display }

// IsBlockLevel tells whether the box stacks in its container.
func (b *Box) IsBlockLevel() bool {
	if b.Kind == Text || b.Kind == LineBreak {
		return false
	}
	return b.Style.Display.Outer != style.Inline
}

// IsAtomic tells whether the box stands in a line as one.
func (b *Box) IsAtomic() bool {
	if b.Kind == Replaced {
		return true
	}
	d := b.Style.Display
	return b.Kind == Element && d.Outer == style.Inline && d.Inner != style.Flow
}

// Floats tells whether the box floats.
func (b *Box) Floats() bool {
	return b.Kind != Text && b.Kind != LineBreak && (b.Style.Float == style.LeftSide || b.Style.Float == style.RightSide)
}

// Positioned tells whether the box is out of flow by position.
func (b *Box) Positioned() bool {
	return b.Kind != Text && b.Kind != LineBreak && (b.Style.Position == style.Absolute || b.Style.Position == style.FixedKey)
}

// OutOfFlow tells whether the box floats or is positioned.
func (b *Box) OutOfFlow() bool { return b.Floats() || b.Positioned() }

// IsBFC tells whether the box establishes a block formatting context.
func (b *Box) IsBFC() bool {
	s := b.Style
	if b.Kind == Replaced || b.Turned() {
		return true
	}
	switch s.Display.Inner {
	case style.FlowRoot, style.Table, style.Flex, style.Grid:
		return true
	}
	return b.OutOfFlow() || s.Display.Outer == style.TableCell || s.Display.Outer == style.TableCaption || s.Display.Outer == style.Inline ||
		scrolls(s.OverflowX) || scrolls(s.OverflowY) || s.Multicol() || s.ColumnSpan == style.All || s.Contain.Any() || s.Container != style.Normal ||
		s.AlignContent.Kind != style.Normal && s.Display.Outer == style.Block
}

func scrolls(k style.Keyword) bool { return k != style.Visible && k != style.ClipText }

// Scrolls tells whether overflow is clipped in a way that makes a formatting
// context.
func (b *Box) Scrolls() bool { return scrolls(b.Style.OverflowX) || scrolls(b.Style.OverflowY) }
