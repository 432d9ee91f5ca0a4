package bind

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdfread"
)

const formPage = `<!DOCTYPE html><html lang=en><title>Berth</title><style>@page { size: A6 }</style>
<label>Name <input name=who.first value=Ida></label> <label>Last <input name=who.last></label>
<label>A <input type=radio name=berth value=A checked></label> <label>B <input type=radio name=berth value=B></label>`

// fieldsOf lists the full names of a file's fields with their values, and how many widgets
// its pages have.
func fieldsOf(t *testing.T, data []byte) (names map[string]string, widgets int) {
	f, err := pdfread.Open(data, "")
	require.NoError(t, err)
	names = map[string]string{}
	var walk func(o pdfread.Object, above string)
	walk = func(o pdfread.Object, above string) {
		list, _ := f.Resolve(o).(pdfread.Array)
		for _, k := range list {
			d := f.Dict(k)
			name := above + "/" + textOf(d["T"], f)
			if d["FT"] == nil && d["Kids"] != nil {
				walk(d["Kids"], name)
				continue
			}
			names[name] = textOf(d["V"], f)
			kids, _ := f.Resolve(d["Kids"]).(pdfread.Array)
			for _, k := range kids {
				assert.NotNil(t, f.Dict(k)["Parent"])
			}
		}
	}
	walk(f.Dict(f.Dict(f.Trailer["Root"])["AcroForm"])["Fields"], "")
	pages, err := f.Pages()
	require.NoError(t, err)
	for _, p := range pages {
		list, _ := f.Resolve(p.Dict["Annots"]).(pdfread.Array)
		for _, a := range list {
			d := f.Dict(a)
			if d["Subtype"] != pdfread.Name("Widget") {
				continue
			}
			assert.Equal(t, p.Ref, d["P"], "a widget names its page")
			assert.NotNil(t, d["StructParent"])
			widgets++
		}
	}
	return names, widgets
}

func TestFieldsAreKept(t *testing.T) {
	form := set(t, formPage, typeset.Options{Fields: true})
	data, r := bound(t, Options{}, Source{Name: "a.pdf", Data: form}, Source{Name: "b.pdf", Data: form}, Source{Name: "c.pdf", Data: pages(t, "C", 1)})
	assert.Equal(t, 3, r.Pages)
	names, widgets := fieldsOf(t, data)
	assert.Equal(t, map[string]string{
		"/who/first": "Ida", "/who/last": "", "/berth": "",
		"/who (2)/first": "Ida", "/who (2)/last": "", "/berth (2)": "",
	}, names, "those of other sources are told apart")
	assert.Equal(t, 8, widgets)
	text(t, data) // it is sound
	read, root := read(t, data)
	assert.Equal(t, 8, strings.Count(strings.Join(read.lines, "\n"), " Form Alt"))
	assert.NotNil(t, root["AcroForm"])

	again, _ := bound(t, Options{}, Source{Name: "whole.pdf", Data: data})
	names, widgets = fieldsOf(t, again)
	assert.Len(t, names, 6, "also of what was bound before")
	assert.Equal(t, 8, widgets)
}

// A page that stands in the whole twice, or is turned, shows its fields as they are.
func TestFieldsThatCannotBeKeptAreDrawn(t *testing.T) {
	form := set(t, formPage, typeset.Options{Fields: true})
	data, _ := bound(t, Options{}, Source{Name: "a.pdf", Data: form, Pages: "1,1"})
	names, widgets := fieldsOf(t, data)
	assert.Len(t, names, 3)
	assert.Equal(t, 4, widgets)
	list := text(t, data)
	assert.Contains(t, list[0], "Ida")
	assert.Contains(t, list[1], "Ida")

	data, _ = bound(t, Options{}, Source{Name: "a.pdf", Data: form, Turn: 90})
	names, widgets = fieldsOf(t, data)
	assert.Empty(t, names)
	assert.Zero(t, widgets)
	assert.Contains(t, text(t, data)[0], "Ida")
}
