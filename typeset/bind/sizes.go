package bind

import (
	"cmp"
	"slices"

	"oliveledger/typeset/internal/pdfread"
)

// Part is a kind of thing in a PDF file and the bytes that all of it takes.
type Part struct {
	What    string `json:"what"`
	Objects int    `json:"objects"`
	Bytes   int    `json:"bytes"`
}

// Kinds of parts.
const (
	partPages     = "pages"
	partContents  = "what pages show"
	partFonts     = "fonts"
	partPictures  = "pictures"
	partForms     = "drawings used again"
	partColors    = "colours and gradients"
	partLinks     = "links, notes and fields"
	partStructure = "tags"
	partOutline   = "outline"
	partAttached  = "attachments"
	partMetadata  = "metadata"
	partOther     = "other objects"
	partTable     = "table of objects"
)

// Sizes tells what takes the bytes of a PDF file, the largest first. Their sum is the file's length.
func Sizes(data []byte, password string) ([]Part, error) {
	f, err := pdfread.Open(data, password)
	if err != nil {
		return nil, err
	}
	pages, err := f.Pages()
	if err != nil {
		return nil, err
	}
	s := sorter{f, map[int]string{}}
	s.sort(pages)
	sums, exact := map[string]*Part{}, map[string]float64{}
	for num, bytes := range f.Room() {
		what := cmp.Or(s.kinds[num], partOther)
		if f.Dict(pdfread.Ref{Num: num})["Type"] == pdfread.Name("XRef") {
			continue
		}
		if sums[what] == nil {
			sums[what] = &Part{What: what}
		}
		sums[what].Objects++
		exact[what] += bytes
	}
	list := []Part{{What: partTable, Bytes: len(data)}}
	for what, p := range sums {
		p.Bytes = int(exact[what] + 0.5)
		list[0].Bytes -= p.Bytes
		list = append(list, *p)
	}
	slices.SortFunc(list, func(a, b Part) int { return cmp.Or(b.Bytes-a.Bytes, cmp.Compare(a.What, b.What)) })
	return list, nil
}

// sorter gives objects their kinds, by what leads to them.
type sorter struct {
	file  *pdfread.File
	kinds map[int]string
}

func (s sorter) sort(pages []pdfread.Page) {
	root := s.file.Dict(s.file.Trailer["Root"])
	tree := root["Pages"]
	for _, p := range pages {
		s.kinds[p.Ref.Num] = partPages
	}
	s.pageTree(tree)
	for _, p := range pages {
		s.mark(p.Dict["Contents"], partContents)
		s.mark(p.Dict["Annots"], partLinks)
		s.resources(p.Dict["Resources"], map[int]bool{})
	}
	names := s.file.Dict(root["Names"])
	for _, of := range []struct {
		from pdfread.Object
		kind string
	}{
		{root["Metadata"], partMetadata},
		{s.file.Trailer["Info"], partMetadata},
		{root["OutputIntents"], partColors},
		{root["AF"], partAttached},
		{names["EmbeddedFiles"], partAttached},
		{root["Outlines"], partOutline},
		{root["Dests"], partOutline},
		{names["Dests"], partOutline},
		{root["AcroForm"], partLinks},
		{root["StructTreeRoot"], partStructure},
	} {
		s.mark(of.from, of.kind)
	}
}

// pageTree marks the nodes above the pages.
func (s sorter) pageTree(node pdfread.Object) {
	r, ok := node.(pdfread.Ref)
	if !ok || s.kinds[r.Num] != "" {
		return
	}
	s.kinds[r.Num] = partPages
	kids, _ := s.file.Resolve(s.file.Dict(r)["Kids"]).(pdfread.Array)
	for _, k := range kids {
		s.pageTree(k)
	}
}

// resources marks what pages and forms draw with. seen are the forms whose own are marked.
func (s sorter) resources(o pdfread.Object, seen map[int]bool) {
	if r, ok := o.(pdfread.Ref); ok && s.kinds[r.Num] == "" {
		s.kinds[r.Num] = partPages
	}
	d := s.file.Dict(o)
	s.mark(d["Font"], partFonts)
	for _, x := range s.file.Dict(d["XObject"]) {
		r, ok := x.(pdfread.Ref)
		if !ok || seen[r.Num] {
			continue
		}
		seen[r.Num] = true
		form := s.file.Dict(r)
		if form["Subtype"] != pdfread.Name("Form") {
			s.mark(r, partPictures)
			continue
		}
		s.resources(form["Resources"], seen)
		s.mark(r, partForms)
	}
	for _, name := range []pdfread.Name{"ColorSpace", "Pattern", "Shading", "ExtGState", "Properties"} {
		s.mark(d[name], partColors)
	}
}

// mark gives all that an object leads to a kind, but for what has one. Lists of objects may be long chains, so what
// is to be looked at waits in a list of its own.
func (s sorter) mark(from pdfread.Object, kind string) {
	waiting := []pdfread.Object{from}
	for len(waiting) > 0 {
		o := waiting[len(waiting)-1]
		waiting = waiting[:len(waiting)-1]
		switch v := o.(type) {
		case pdfread.Ref:
			if s.kinds[v.Num] == "" {
				s.kinds[v.Num] = kind
				waiting = append(waiting, s.file.Resolve(v))
			}
		case pdfread.Array:
			waiting = append(waiting, v...)
		case pdfread.Dict:
			for _, x := range v {
				waiting = append(waiting, x)
			}
		case *pdfread.Stream:
			waiting = append(waiting, v.Dict)
		}
	}
}
