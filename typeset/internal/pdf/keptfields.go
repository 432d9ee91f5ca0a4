package pdf

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"oliveledger/typeset/internal/tag"
)

// KeptFields are fields copied from other files, which join the document's form.
type KeptFields struct {
	Tops        []Ref          // the fields that are in no other
	Fonts       map[string]Ref // that they ask for by these names
	Appearances bool           // viewers are to draw what they show
}

// KeptWidget has a page show a field that is copied from another file. It gives the entries
// that lead from its widget to the page and to its element, if it has one. The contents of
// all pages are drawn before.
func (w *Writer) KeptWidget(p *Page, id Ref, e *tag.Element) string {
	p.widgets = append(p.widgets, id)
	entries := fmt.Sprintf("/P %s", p.id)
	if w.structure != nil && e != nil {
		entries += fmt.Sprintf("/StructParent %d", w.structure.parentKey(e, id, p.id))
	}
	return entries
}

// Text writes a text string (§7.9.2.2).
func Text(s string) string { return text(s) }

// formEntry is the entry of the catalog for the fields at the top of the document's form, and
// those that were kept (§12.7.3).
func (w *Writer) formEntry(tops []Ref) string {
	var fields, fonts strings.Builder
	for _, id := range append(tops, w.Kept.Tops...) {
		fields.WriteString(id.String() + " ")
	}
	if w.formFont != nil {
		fmt.Fprintf(&fonts, "/%s %s", formFontName, w.formFont.id)
	}
	for _, name := range slices.Sorted(maps.Keys(w.Kept.Fonts)) {
		if w.formFont == nil || name != formFontName {
			fmt.Fprintf(&fonts, "/%s %s", name, w.Kept.Fonts[name])
		}
	}
	entry := fmt.Sprintf("/AcroForm<</Fields[%s]/DA(/%s 0 Tf 0 g)/DR<</Font<<%s>>>>", fields.String(), formFontName, fonts.String())
	if w.Kept.Appearances {
		entry += "/NeedAppearances true"
	}
	return entry + ">>"
}
