package sign

import (
	"fmt"
	"slices"
	"strings"

	"oliveledger/typeset/internal/pdfread"
)

// form is the form of a file with its signature fields (§12.7.5.5).
type form struct {
	file   *pdfread.File
	fields []field
	names  map[string]bool // of all fields
}

// field is a signature field.
type field struct {
	name  string // in full
	ref   pdfread.Ref
	dict  pdfread.Dict
	value pdfread.Dict // of its signature; nil when it is not signed
}

// mostFields bounds the fields that are looked at.
const mostFields = 100_000

func formOf(f *pdfread.File) *form {
	out := &form{file: f, names: map[string]bool{}}
	root := f.Dict(f.Trailer["Root"])
	list, _ := f.Resolve(f.Dict(root["AcroForm"])["Fields"]).(pdfread.Array)
	seen := 0
	var walk func(o pdfread.Object, above string, kind pdfread.Object, depth int)
	walk = func(o pdfread.Object, above string, kind pdfread.Object, depth int) {
		d := f.Dict(o)
		if seen++; d == nil || depth > 50 || seen > mostFields {
			return
		}
		name := above
		if own, ok := f.Resolve(d["T"]).(pdfread.String); ok {
			name = strings.TrimPrefix(above+"."+own.Text(), ".")
		}
		if d["FT"] != nil {
			kind = f.Resolve(d["FT"])
		}
		out.names[name] = true
		if ref, ok := o.(pdfread.Ref); ok && kind == pdfread.Name("Sig") && (d["V"] != nil || d["Kids"] == nil) {
			out.fields = append(out.fields, field{name, ref, d, f.Dict(d["V"])})
		}
		kids, _ := f.Resolve(d["Kids"]).(pdfread.Array)
		for _, k := range kids {
			walk(k, name, kind, depth+1)
		}
	}
	for _, o := range list {
		walk(o, "", nil, 0)
	}
	return out
}

func (m *form) signed() bool {
	return slices.ContainsFunc(m.fields, func(f field) bool { return f.value != nil })
}

// fill has a field of the file hold the signature.
func (m *form) fill(u *pdfread.Update, name string, value pdfread.Ref) error {
	var free []string
	for _, f := range m.fields {
		if f.value == nil {
			free = append(free, f.name)
		}
		if f.name != name {
			continue
		}
		if f.value != nil {
			return fmt.Errorf("%w: %q is signed already", ErrField, name)
		}
		d := clone(f.dict)
		d["V"] = value
		u.SetObject(f.ref, d)
		return nil
	}
	if len(free) == 0 {
		return fmt.Errorf("%w: the file has none that is free; without one named, the signature gets its own", ErrField)
	}
	return fmt.Errorf("%w as %q; there are %s", ErrField, name, strings.Join(free, ", "))
}

// add makes a field that is not seen, on the first page. Its place is beside the page: it needs no appearance
// (ISO 19005-2 §6.3.3).
func (m *form) add(u *pdfread.Update, value pdfread.Ref) error {
	pages, err := m.file.Pages()
	if err != nil {
		return err
	}
	page := pages[0]
	name := ""
	for n := 1; name == "" || m.names[name]; n++ {
		name = fmt.Sprint("Signature ", n)
	}
	ref := u.Alloc()
	widget := pdfread.Dict{
		"Type": pdfread.Name("Annot"), "Subtype": pdfread.Name("Widget"), "FT": pdfread.Name("Sig"), "T": pdfread.TextOf(name), "V": value,
		"F": int64(printed | locked), "P": page.Ref, "Rect": pdfread.Array{int64(-1), int64(-1), int64(-1), int64(-1)}, "TU": pdfread.TextOf(hidden),
	}
	key, tagged := intoStructure(u, m.file, ref, page.Ref)
	if tagged {
		widget["StructParent"] = key
	}
	u.SetObject(ref, widget)
	d := clone(m.file.Dict(page.Ref))
	on, _ := m.file.Resolve(d["Annots"]).(pdfread.Array)
	d["Annots"] = append(slices.Clone(on), ref)
	if tagged {
		d["Tabs"] = pdfread.Name("S") // in the order of the structure (ISO 14289-1 §7.18.3)
	}
	u.SetObject(page.Ref, d)
	m.fields = append(m.fields, field{name: name, ref: ref})
	return nil
}

// Flags of annotations (table 167).
const (
	printed = 1 << 2
	locked  = 1 << 7
)

// Flags of forms with signatures (table 219).
const (
	signaturesExist = 1 << 0
	appendOnly      = 1 << 1
)

// catalog tells of the signature in the file's catalog.
func (m *form) catalog(u *pdfread.Update, value pdfread.Ref, p Permission) {
	ref, _ := m.file.Trailer["Root"].(pdfread.Ref)
	root := clone(m.file.Dict(ref))
	f := clone(m.file.Dict(root["AcroForm"]))
	list, _ := m.file.Resolve(f["Fields"]).(pdfread.Array)
	if last := m.fields[len(m.fields)-1]; last.dict == nil { // it was made
		list = append(slices.Clone(list), last.ref)
	}
	f["Fields"], f["SigFlags"] = list, int64(signaturesExist|appendOnly)
	root["AcroForm"] = f
	if p != Approve {
		root["Perms"] = pdfread.Dict{"DocMDP": value}
	}
	u.SetObject(ref, root)
}

func clone(d pdfread.Dict) pdfread.Dict {
	out := pdfread.Dict{}
	for k, v := range d {
		out[k] = v
	}
	return out
}
