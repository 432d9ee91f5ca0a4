package bind

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdfread"
)

// roles reads a structure tree: each element with its role, language and text, and how
// many stretches of content it holds that are found again from its page.
type reading struct {
	t      *testing.T
	f      *pdfread.File
	lines  []string
	linked int // annotations
}

func (r *reading) walk(o pdfread.Object, indent string) {
	switch x := r.f.Resolve(o).(type) {
	case pdfread.Array:
		for _, k := range x {
			r.walk(k, indent)
		}
	case pdfread.Dict:
		switch {
		case x["Type"] == pdfread.Name("OBJR"):
			r.linked++
			annotation := r.f.Dict(x["Obj"])
			assert.Contains(r.t, []pdfread.Object{pdfread.Name("Link"), pdfread.Name("Widget")}, annotation["Subtype"])
			assert.NotNil(r.t, annotation["StructParent"])
		case x["Type"] == pdfread.Name("MCR"):
			form, ok := r.f.Resolve(x["Stm"]).(*pdfread.Stream)
			require.True(r.t, ok, "its content is in a form")
			assert.NotNil(r.t, form.Dict["StructParents"])
		case x["S"] != nil:
			line := indent + string(x["S"].(pdfread.Name))
			for _, k := range []pdfread.Name{"Lang", "Alt", "A"} {
				if v := x[k]; v != nil {
					line += " " + string(k)
				}
			}
			r.lines = append(r.lines, line)
			r.walk(x["K"], indent+" ")
		}
	}
}

func read(t *testing.T, data []byte) (*reading, pdfread.Dict) {
	f, err := pdfread.Open(data, "")
	require.NoError(t, err)
	root := f.Dict(f.Trailer["Root"])
	r := &reading{t: t, f: f}
	r.walk(f.Dict(root["StructTreeRoot"])["K"], "")
	return r, root
}

// What sources say of their structure is one tree over the whole.
func TestStructureIsKept(t *testing.T) {
	picture := `<img alt="A gull" src="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==">`
	a := set(t, `<!DOCTYPE html><html lang=en><title>A</title><h1>One</h1><p>text <a href="https://harbour.example/">link</a><table><tr><th>h<tr><td>d</table>`, typeset.Options{})
	b := set(t, `<html lang=de><title>B</title><p style="opacity:.5">faint `+picture+`<p style="break-before:page">next`, typeset.Options{})
	plain := set(t, `<title>C</title><p>without`, typeset.Options{Untagged: true})
	whole, _ := bound(t, Options{}, Source{Name: "a", Data: a}, Source{Name: "b", Data: b}, Source{Name: "c", Data: plain})
	r, root := read(t, whole)
	assert.Equal(t, []string{
		"Document", " Part Lang", "  Part", "   H1", "   P", "    Link", "   Table", "    TBody", "     TR", "      TH A", "     TR", "      TD",
		" Part Lang", "  Part", "   P", "    Figure Alt A", "   P", " Part",
	}, r.lines)
	assert.Equal(t, 1, r.linked)
	assert.Equal(t, pdfread.String("en"), r.f.Resolve(root["Lang"]))
	assert.Equal(t, true, r.f.Resolve(r.f.Dict(root["MarkInfo"])["Marked"]))
	report, err := Inspect(whole, "")
	require.NoError(t, err)
	assert.Empty(t, report.Standards, "not all of it can be read aloud as it should")

	both, _ := bound(t, Options{}, Source{Name: "a", Data: a}, Source{Name: "b", Data: b, Pages: "2"})
	r, _ = read(t, both)
	assert.Equal(t, []string{" Part Lang", "  Part", "   P"}, r.lines[len(r.lines)-3:], "only what is taken")
	report, err = Inspect(both, "")
	require.NoError(t, err)
	assert.Equal(t, []string{"PDF/UA-1"}, report.Standards)
	assert.Equal(t, "A", report.Title)

	stamped, _ := bound(t, Options{Overlays: []Overlay{{HTML: []byte("<p>PAID")}}}, Source{Name: "a", Data: a})
	r, _ = read(t, stamped)
	assert.Contains(t, r.lines, "   H1")
	report, err = Inspect(stamped, "")
	require.NoError(t, err)
	assert.Empty(t, report.Standards, "the stamp is not read aloud")
	assert.Equal(t, "en", report.Language)

	untagged, _ := bound(t, Options{}, Source{Name: "c", Data: plain})
	r, root = read(t, untagged)
	assert.Empty(t, r.lines)
	assert.Nil(t, root["MarkInfo"])
}

func TestAttachmentsAreCarriedOn(t *testing.T) {
	with := func(text string) []byte {
		return set(t, "x", typeset.Options{Attach: []typeset.Attachment{{Name: "record.json", Type: "application/json", Data: []byte(text)}}})
	}
	whole, _ := bound(t, Options{}, Source{Name: "a", Data: with("{1}")}, Source{Name: "b", Data: with("{2}")}, Source{Name: "c", Data: with("{1}")})
	report, err := Inspect(whole, "")
	require.NoError(t, err)
	assert.Equal(t, []Attachment{{"2-record.json", 3}, {"record.json", 3}}, report.Attachments)
	f, err := pdfread.Open(whole, "")
	require.NoError(t, err)
	list := newImporter(f, nil, nil).attached()
	assert.Equal(t, "{2}", string(list[0].Data))
	assert.Equal(t, "application/json", list[0].Type)
}

// A structure that leads back to itself, or is not what it says, ends.
func TestStructureOfDamagedFiles(t *testing.T) {
	file := "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R/StructTreeRoot 3 0 R>>endobj 2 0 obj<</Type/Pages/Count 1/Kids[9 0 R]>>endobj " +
		"3 0 obj<</K[4 0 R 4 0 R 17]/RoleMap<</Odd/Even/Even/Odd>>>>endobj 4 0 obj<</S/Odd/K[5 0 R 3 0 R]/Pg 9 0 R/A[<</O/Table>>]>>endobj 5 0 obj<</S/#20bad/K[4 0 R -1 99999999 <</Type/MCR/MCID 3>>]>>endobj " +
		"9 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 100]/Contents 10 0 R>>endobj 10 0 obj<</Length 2>>stream\nq Q\nendstream endobj trailer<</Root 1 0 R/Size 11>>"
	whole, _ := bound(t, Options{}, Source{Name: "a", Data: []byte(file)})
	r, _ := read(t, whole)
	assert.Equal(t, "Document", r.lines[0])
}
