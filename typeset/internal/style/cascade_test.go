package style

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// widthBy is the width in px that sheets of each origin give an element.
func widthBy(t *testing.T, user, author, inline string) string {
	t.Helper()
	s := styledBy(t, fmt.Sprintf(`<div><p id=x class=a style="%s">x</p></div>`, inline), user, author)
	if s.Width.Kind != Length {
		return "auto"
	}
	return fmt.Sprint(s.Width.LP.Px)
}

// TestOriginsAndImportance holds the order of Cascade 5, §6.1: origins and layers, turned round for what is important.
func TestOriginsAndImportance(t *testing.T) {
	for _, c := range []struct{ name, user, author, inline, want string }{
		{"author over user", "p { width: 1px }", "p { width: 2px }", "", "2"},
		{"important user over author", "p { width: 1px !important }", "p { width: 2px }", "", "1"},
		{"important user over important author", "p { width: 1px !important }", "p { width: 2px !important }", "", "1"},
		{"important user over important inline", "p { width: 1px !important }", "", "width: 3px !important", "1"},
		{"inline over author", "", "#x { width: 2px }", "width: 3px", "3"},
		{"important author over inline", "", "p { width: 2px !important }", "width: 3px", "2"},
		{"important inline over important author", "", "#x { width: 2px !important }", "width: 3px !important", "3"},
		{"no layer over layers", "", "p { width: 1px } @layer l { #x { width: 2px } }", "", "1"},
		{"later layers over earlier", "", "@layer l { #x { width: 2px } } @layer m { p { width: 4px } }", "", "4"},
		{"important earlier layers over later", "", "@layer l { p { width: 2px !important } } @layer m { #x { width: 4px !important } }", "", "2"},
		{"important layers over important without", "", "@layer l { p { width: 2px !important } } #x { width: 5px !important }", "", "2"},
		{"important in a layer over no layer", "", "@layer l { p { width: 2px !important } } #x { width: 5px }", "", "2"},
		{"more specific", "", "p.a { width: 1px } p { width: 2px }", "", "1"},
		{"later", "", "p { width: 1px } p { width: 2px }", "", "2"},
		{"later in one block", "", "p { width: 1px; width: 2px }", "", "2"},
		{"important earlier in one block", "", "p { width: 1px !important; width: 2px }", "", "1"},
	} {
		assert.Equal(t, c.want, widthBy(t, c.user, c.author, c.inline), c.name)
	}
}

// TestRevert holds Cascade 5, §7.3: back to the origin or the layer before.
func TestRevert(t *testing.T) {
	for _, c := range []struct{ name, user, author, inline, want string }{
		{"to the user", "p { width: 1px }", "p { width: 2px } #x { width: revert }", "", "1"},
		{"to nothing", "", "p { width: 2px } #x { width: revert }", "", "auto"},
		{"of a user", "p { width: 1px } #x { width: revert }", "", "", "auto"},
		{"a layer back", "", "@layer l { p { width: 7px } } @layer m { p { width: revert-layer } }", "", "7"},
		{"past its own layer", "", "@layer l { p { width: 7px } } @layer m { p { width: 8px } #x { width: revert-layer } }", "", "7"},
		{"two layers back", "", "@layer k { p { width: 6px } } @layer l { p { width: revert-layer } } @layer m { p { width: revert-layer } }", "", "6"},
		{"from no layer", "", "@layer l { p { width: 7px } } p { width: revert-layer }", "", "7"},
		{"from the style attribute", "", "p { width: 5px }", "width: revert-layer", "5"},
		{"to the user past all layers", "p { width: 1px }", "@layer l { p { width: 7px } } @layer m { p { width: revert } }", "", "1"},
		{"a layer of a user", "p { width: 1px }", "p { width: 7px; width: revert-layer }", "", "1"},
		{"not to what is important", "p { width: 1px !important } p { width: 2px }", "p { width: revert !important }", "", "1"},
		{"important, to what is not", "p { width: 1px }", "p { width: revert !important }", "", "1"},
		{"another property stays", "p { width: 1px }", "p { width: 2px; height: revert }", "", "2"},
	} {
		assert.Equal(t, c.want, widthBy(t, c.user, c.author, c.inline), c.name)
	}
}

// TestFlowRelativeAgainstPhysical lets the later of two names for one side win (Logical 1, §4).
func TestFlowRelativeAgainstPhysical(t *testing.T) {
	for sheet, want := range map[string]string{
		"#x { margin-left: 1px; margin-inline-start: 2px }":                                   "2 0",
		"#x { margin-inline-start: 2px; margin-left: 1px }":                                   "1 0",
		"#x { margin-inline-start: 2px } p { margin-left: 1px }":                              "2 0",
		"p { margin-inline-start: 2px } #x { margin-left: 1px }":                              "1 0",
		"p { margin-inline-start: 2px !important } #x { margin-left: 1px }":                   "2 0",
		"#x { direction: rtl; margin-left: 1px; margin-inline-start: 2px }":                   "1 2",
		"#x { writing-mode: vertical-rl; margin-right: 1px; margin-block-start: 2px }":        "16 2", // the other block margin is that of p
		"#x { margin-inline-start: 2px; margin-left: 1px; direction: rtl; margin-right: 3px}": "1 3",
	} {
		s := styledBy(t, "<p id=x>x", "", sheet)
		assert.Equal(t, want, fmt.Sprint(s.Margin[3].LP.Px, " ", s.Margin[1].LP.Px), sheet)
	}
}

// TestValuesThatChangeEachOther holds what is settled once all declarations are known.
func TestValuesThatChangeEachOther(t *testing.T) {
	around := func(parent, own string) *Style {
		return styledBy(t, "<div id=o><p id=x>x</p></div>", "", "#o { "+parent+" } #x { "+own+" }")
	}
	for _, c := range []struct {
		parent, own, want string
		read              func(*Style) any
	}{
		{"", "border: 3px none", "0", func(s *Style) any { return s.Border[0].Width }},
		{"", "border: 3px hidden", "0", func(s *Style) any { return s.Border[2].Width }},
		{"", "border: 3px solid", "3", func(s *Style) any { return s.Border[1].Width }},
		{"", "border: 0.4px solid", "0.4", func(s *Style) any { return s.Border[1].Width }},
		{"", "outline: 3px none", "0", func(s *Style) any { return s.Outline.Width }},
		{"", "outline: 3px solid", "3", func(s *Style) any { return s.Outline.Width }},
		{"", "column-rule: 3px none", "0", func(s *Style) any { return s.ColumnRule.Width }},
		{"", "column-rule: 3px hidden", "0", func(s *Style) any { return s.ColumnRule.Width }},
		{"", "column-rule: 3px dotted", "3", func(s *Style) any { return s.ColumnRule.Width }},
		{"", "overflow-x: hidden", "true", func(s *Style) any { return s.OverflowY == Auto }},
		{"", "overflow-y: hidden", "true", func(s *Style) any { return s.OverflowX == Auto }},
		{"", "overflow-x: scroll; overflow-y: clip", "true", func(s *Style) any { return s.OverflowY == Hidden }},
		{"", "overflow-x: clip", "true", func(s *Style) any { return s.OverflowX == ClipText && s.OverflowY == Visible }},
		{"", "float: inline-start", "true", func(s *Style) any { return s.Float == LeftSide }},
		{"", "float: inline-end", "true", func(s *Style) any { return s.Float == RightSide }},
		{"direction: rtl", "float: inline-start", "true", func(s *Style) any { return s.Float == RightSide }},
		{"direction: rtl", "float: inline-end; direction: ltr", "true", func(s *Style) any { return s.Float == LeftSide }},
		{"", "clear: inline-start", "true", func(s *Style) any { return s.Clear == LeftSide }},
		{"direction: rtl", "clear: inline-start", "true", func(s *Style) any { return s.Clear == RightSide }},
		{"", "float: left; position: absolute", "true", func(s *Style) any { return s.Float == None }},
		{"", "float: left; position: fixed", "true", func(s *Style) any { return s.Float == None }},
		{"", "float: left; position: relative", "true", func(s *Style) any { return s.Float == LeftSide }},
		{"", "display: inline", "false", func(s *Style) any { return s.WasInline || s.Display.Outer == Block }},
		{"", "display: inline; float: left", "true", func(s *Style) any { return s.WasInline && s.Display.Outer == Block }},
		{"", "display: inline-flex; position: absolute", "true", func(s *Style) any { return s.Display == Display{Outer: Block, Inner: Flex} }},
		{"", "display: inline; position: running(head)", "true", func(s *Style) any { return s.Display.Outer == Block }},
		{"", "display: none; float: left", "true", func(s *Style) any { return s.Display.Outer == None }},
		{"display: flex", "display: inline", "true", func(s *Style) any { return s.Display.Outer == Block && !s.WasInline }},
		{"display: grid", "display: inline-block", "true", func(s *Style) any { return s.Display.Outer == Block }},
		{"display: grid", "display: contents", "true", func(s *Style) any { return s.Display.Outer == Contents }},
		{"", "writing-mode: vertical-rl", "true", func(s *Style) any { return s.Display.Inner == FlowRoot }},
		{"writing-mode: vertical-rl", "", "true", func(s *Style) any { return s.Display.Inner == Flow }},
		{"justify-items: legacy left", "justify-items: legacy", "true", func(s *Style) any { return s.JustifyItems.Kind != Normal }},
		{"", "justify-items: legacy", "true", func(s *Style) any { return s.JustifyItems == Align{Kind: Normal} }},
	} {
		assert.Equal(t, c.want, fmt.Sprint(c.read(around(c.parent, c.own))), "%s { %s }", c.parent, c.own)
	}
	root := styledBy(t, "<html id=x>", "", "#x { display: contents }")
	assert.Equal(t, Display{Outer: Block, Inner: FlowRoot}, root.Display)
	assert.Equal(t, Block, styledBy(t, "<html id=x>", "", "#x { display: inline }").Display.Outer)
}
