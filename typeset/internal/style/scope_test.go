package style

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
)

func TestScopedRules(t *testing.T) {
	page := `<!DOCTYPE html><div class=card><div class=note><p class=in><b id=x>x</b></p></div></div>`
	for sheet, want := range map[string]float64{
		"@scope (.card) { b { width: 1px } }":                                                                1,
		"@scope (.card) to (.note) { b { width: 1px } }":                                                     0,
		"@scope (.card) to (.other) { b { width: 1px } }":                                                    1,
		"@scope (.other) { b { width: 1px } }":                                                               0,
		"@scope (.note) { > p > b { width: 2px } }":                                                          2,
		"@scope (.card) { > p > b { width: 2px } }":                                                          0,
		"@scope (b) { width: 3px }":                                                                          3,
		"@scope (.note) { b { width: 4px } } @scope (.card) { b { width: 5px } }":                            4,  // the nearer root wins
		"@scope { b { width: 11px } }":                                                                       11, // the whole document
		"@scope { :scope > body > .card b { width: 12px } }":                                                 12,
		"@scope to (.note) { b { width: 13px } }":                                                            0,
		"@scope to (.other) { b { width: 14px } }":                                                           14,
		"b { width: 15px } @scope { b { width: 16px } } @scope (.in) { b { width: 17px } } b { color: red }": 17,
		"@scope (.card) { @scope (.note) { b { width: 6px } } }":                                             6,
		"@scope (.in) { @scope (.card) { b { width: 6px } } }":                                               0,
		".card { @scope (& > .note) { b { width: 7px } } }":                                                  7,
		"@scope (.card) { :scope b { width: 8px } } @scope (.card) { b { width: 9px }":                       8,
	} {
		s := styled(t, page, sheet)
		if want == 0 {
			assert.True(t, s.Width.IsAuto(), sheet)
			continue
		}
		assert.Equal(t, want, s.Width.Of(0), sheet)
	}
}

// shadowed gives the width of each class in a page with one shadow tree.
func shadowed(t *testing.T, outer, inner string) map[string]float64 {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(`<!DOCTYPE html><section><div class=host><template shadowrootmode=open><p class=own></p><slot></slot></template><i class=slotted></i></div></section>`))
	require.NoError(t, err)
	host := doc.Find("div")
	r := NewResolver(Env{Medium: "print"}, plainFonts{}, nil, nil)
	r.AddSheet(ParseSheet("outer.css", "", outer), Author, nil, nil)
	r.AddSheet(ParseSheet("inner.css", "", inner), Author, nil, host.ShadowRoot())
	r.Finish()
	out := map[string]float64{}
	var walk func(n *markup.Node)
	walk = func(n *markup.Node) {
		if n.Kind == markup.Element && len(n.Class) > 0 {
			if s := r.Style(n, "", Initial()); !s.Width.IsAuto() {
				out[n.Class[0]] = s.Width.Of(0)
			}
		}
		for c := range n.Flat() {
			walk(c)
		}
	}
	walk(doc)
	return out
}

func TestShadowTreesHaveTheirOwnRules(t *testing.T) {
	assert.Equal(t, map[string]float64{"host": 1, "slotted": 2}, shadowed(t, "div { width: 1px } i, p { width: 2px }", ""), "outer rules stay outside")
	assert.Equal(t, map[string]float64{"own": 3}, shadowed(t, "", "p { width: 3px } div, i { width: 4px }"), "inner rules stay inside")
	assert.Equal(t, map[string]float64{"host": 5, "own": 6}, shadowed(t, "", ":host { width: 5px } :host > p { width: 6px }"))
	assert.Equal(t, map[string]float64{"host": 7}, shadowed(t, "div { width: 7px }", ":host { width: 5px }"), "the outer rule wins")
	assert.Equal(t, map[string]float64{"host": 5}, shadowed(t, "div { width: 7px }", ":host { width: 5px !important }"), "but not when the inner one is important")
	assert.Equal(t, map[string]float64{"slotted": 8}, shadowed(t, "", "::slotted(i) { width: 8px } ::slotted(b) { width: 9px }"))
	assert.Equal(t, map[string]float64{"host": 9}, shadowed(t, "", ":host(.host) { width: 9px } :host(.other) { width: 1px } div:host { width: 2px }"))
	assert.Equal(t, map[string]float64{"own": 4}, shadowed(t, "", ":host-context(section) p { width: 4px } :host-context(nav) p { width: 5px }"))
}
