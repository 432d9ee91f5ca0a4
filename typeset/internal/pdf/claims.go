package pdf

import (
	"fmt"
	"slices"

	"oliveledger/typeset/internal/tag"
)

// AccessFaults lists what in the file stands against its being read aloud (PDF/UA-1), once it
// is closed. It is what ISO 14289-1 asks of structure and of the file's own data, not what
// only a reader can judge.
func (w *Writer) AccessFaults() []Fault { return w.faults }

// claimsAccess tells whether the file may say that it can be read aloud.
func (w *Writer) claimsAccess() bool {
	return w.structure != nil && !w.Unclaimed && len(w.faults) == 0
}

// accessFaults looks for what stands against that claim; all pages are drawn.
func (w *Writer) accessFaults() (list []Fault) {
	if w.structure == nil {
		return nil
	}
	add := func(what, cure string) {
		if f := (Fault{what, cure}); !slices.Contains(list, f) {
			list = append(list, f)
		}
	}
	if w.Info.Title == "" {
		add("it has no title", "give the page a <title>")
	}
	if w.Lang == "" {
		add("it does not tell its language", "give html a lang attribute")
	}
	if w.structure.loose {
		add("a link stands outside of what is read, in a margin box, a repeated head or under aria-hidden", "leave the link out there")
	}
	for i := range w.fields {
		if w.fields[i].Label == "" {
			add("a form field has no label", "give it a <label>, or aria-label=\"…\"")
		}
	}
	var headings []*tag.Element
	for i := range w.structure.known.Len() {
		e := *w.structure.known.At(i)
		if headingLevel(e.Role) > 0 {
			headings = append(headings, e)
		}
		if e.Role == "Figure" && e.Alt == "" && e.Actual == "" {
			add("a picture has no alternative text", "give it alt=\"…\", or alt=\"\" when it is decoration")
		}
		if up := e.Parent; up != nil && !fitsInto(e.Role, up.Role) {
			add("a "+e.Role+" stands in a "+up.Role, "keep to lists of items and tables of rows and cells")
		}
	}
	slices.SortStableFunc(headings, func(a, b *tag.Element) int { return int(a.Order - b.Order) })
	level := 0
	for _, e := range headings {
		n := headingLevel(e.Role)
		switch {
		case level == 0 && n > 1:
			add(fmt.Sprintf("its first heading is <h%d>", n), "begin with <h1>")
		case n > level+1:
			add(fmt.Sprintf("a heading <h%d> follows <h%d>", n, level), "leave no level of headings out")
		}
		level = n
	}
	return list
}

// beyondProfile tells what in the file its archive profile does not allow
// (ISO 19005-2, §6.1.13 and §6.2.4).
func (w *Writer) beyondProfile() error {
	if w.Profile == Plain {
		return nil
	}
	if w.cmyk {
		return fmt.Errorf("%s allows no device-cmyk() colours beside sRGB; leave out the archive profile or the CMYK colours", w.Profile)
	}
	if w.deepest > mostSaved {
		return fmt.Errorf("%s allows %d graphics states in each other, and the page needs %d; nest fewer boxes that are transformed, clipped or see-through", w.Profile, mostSaved, w.deepest)
	}
	for i, p := range w.pages {
		across, h := p.width*0.75, p.h*0.75 // px to pt
		if least, most := min(across, h), max(across, h); least < leastPage || most > mostPage {
			return fmt.Errorf("%s allows pages from 3 to 14,400 pt, and page %d is %s by %s pt; change the page size", w.Profile, i+1, num(across), num(h))
		}
	}
	if w.structure == nil {
		return nil
	}
	for i := range w.structure.known.Len() {
		e := *w.structure.known.At(i)
		if n := max(len(e.Alt), len(e.Actual)); n > mostString {
			return fmt.Errorf("%s allows texts of %d bytes, and an alternative text has %d; shorten it", w.Profile, mostString, n)
		}
	}
	return nil
}

// The limits of ISO 19005-2, §6.1.13: graphics states, points, and bytes of a string, which
// may take two for a character.
const (
	mostSaved  = 28
	leastPage  = 3
	mostPage   = 14400
	mostString = 32767 / 2
)

// Fault is one thing that stands against a claim.
type Fault struct {
	What string
	Cure string
}

func headingLevel(role string) int {
	if len(role) == 2 && role[0] == 'H' && role[1] >= '1' && role[1] <= '6' {
		return int(role[1] - '0')
	}
	return 0
}

// parents are the elements that one may stand in only, and contents what one may hold only
// (ISO 32000-1, §14.8.4.3).
var (
	parents  = map[string][]string{"LI": {"L"}, "LBody": {"LI"}, "TR": {"Table", "THead", "TBody", "TFoot"}, "TH": {"TR"}, "TD": {"TR"}, "THead": {"Table"}, "TBody": {"Table"}, "TFoot": {"Table"}}
	contents = map[string][]string{"L": {"L", "LI", "Caption"}, "LI": {"Lbl", "LBody"}, "TR": {"TH", "TD"}, "THead": {"TR"}, "TBody": {"TR"}, "TFoot": {"TR"}, "Table": {"TR", "THead", "TBody", "TFoot", "Caption"}}
)

func fitsInto(role, parent string) bool {
	if only, ok := parents[role]; ok && !slices.Contains(only, parent) {
		return false
	}
	only, ok := contents[parent]
	return !ok || slices.Contains(only, role)
}
