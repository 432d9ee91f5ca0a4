package pdf_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// formOf lists the full names of the fields of a form, with their kinds.
func formOf(w written, fields pdfread.Object, above string, list map[string]pdfread.Dict) {
	for _, o := range w.Resolve(fields).(pdfread.Array) {
		d := w.Dict(o)
		name := above
		if t, ok := w.Resolve(d["T"]).(pdfread.String); ok {
			name = above + "/" + string(t)
		}
		if d["FT"] == nil && d["Kids"] != nil {
			formOf(w, d["Kids"], name, list)
			continue
		}
		list[name] = d
	}
}

func TestFieldsWithDots(t *testing.T) {
	w := write(t, func(c display.Canvas) {
		at := display.Rect{W: 40, H: 12}
		for _, name := range []string{"who.name.first", "who.name.last", "who.age", "plain", "plain.more", "odd..", ".x"} {
			c.Field(display.Field{Kind: display.TextField, Name: name, Box: at, Size: 10})
		}
		c.Field(display.Field{Kind: display.RadioField, Name: "who.kind", Value: "a", Box: at})
		c.Field(display.Field{Kind: display.RadioField, Name: "who.kind", Value: "b", Box: at})
	})
	form := w.Dict(w.Dict(w.Trailer["Root"])["AcroForm"])
	got := map[string]pdfread.Dict{}
	formOf(w, form["Fields"], "", got)
	for _, want := range []string{"/who/name/first", "/who/name/last", "/who/age", "/who/kind", "/plain", "/plain more", "/odd  ", "/ x"} {
		assert.Contains(t, got, want)
	}
	assert.Len(t, got, 8)
	assert.Len(t, w.Resolve(got["/who/kind"]["Kids"]), 2)
}

// The font of fields is embedded, with a width for each character.
func TestFormFont(t *testing.T) {
	sans := face(t)
	w := write(t, func(c display.Canvas) {
		c.Field(display.Field{Kind: display.TextField, Name: "a", Value: "Åsa", Box: display.Rect{W: 40, H: 12}, Size: 10})
	}, func(w *pdf.Writer) { w.FormFace = sans })
	form := w.Dict(w.Dict(w.Trailer["Root"])["AcroForm"])
	f := w.Dict(w.Dict(w.Dict(form["DR"])["Font"])["Form"])
	assert.Equal(t, pdfread.Name("WinAnsiEncoding"), f["Encoding"])
	widths := w.numbers(f["Widths"])
	assert.Len(t, widths, 256-32)
	assert.InDelta(t, sans.Advance('A')*1000, widths['A'-32], 0.01)
	assert.InDelta(t, sans.Advance('€')*1000, widths[0x80-32], 0.01)
	assert.NotNil(t, w.Dict(f["FontDescriptor"])["FontFile2"])
	field := w.Dict(w.Resolve(form["Fields"]).(pdfread.Array)[0])
	assert.Contains(t, string(w.Resolve(field["DA"]).(pdfread.String)), "/Form ")

	none := write(t, func(c display.Canvas) {
		c.Field(display.Field{Kind: display.CheckField, Name: "a", Box: display.Rect{W: 10, H: 10}, Checked: true})
	}, func(w *pdf.Writer) { w.FormFace = sans })
	form = none.Dict(none.Dict(none.Trailer["Root"])["AcroForm"])
	assert.Empty(t, none.Dict(none.Dict(form["DR"])["Font"]), "a form of buttons needs no font")
}
