// Package linear orders PDF files so that a viewer shows the first page before it has the rest (ISO 32000-1, Annex F:
// linearised PDF): what the first page needs comes first, then each other page with its own things, and hints tell
// where those are.
package linear

import (
	"bytes"
	"errors"
	"fmt"
	"io"

	"oliveledger/typeset/internal/pdfread"
)

// ErrProtected tells that a file is protected by a password: its texts are enciphered by the numbers of their objects,
// which another order changes.
var ErrProtected = errors.New("a file that is protected by a password cannot be linearised")

// Rewrite gives a PDF file, whose pages inherit nothing, in that order and without what nothing leads to. The same
// input gives the same bytes.
func Rewrite(data []byte) ([]byte, error) {
	in, err := pdfread.Open(data, "")
	if err != nil {
		return nil, err
	}
	if in.Trailer["Encrypt"] != nil {
		return nil, ErrProtected
	}
	pages, err := in.Pages()
	if err != nil {
		return nil, err
	}
	if len(pages) == 0 {
		return nil, errors.New("the file has no pages")
	}
	root, _ := in.Trailer["Root"].(pdfread.Ref)
	own := map[int]bool{0: true, root.Num: true}
	for _, p := range pages {
		if own[p.Ref.Num] {
			return nil, errors.New("its pages are not objects of their own")
		}
		own[p.Ref.Num] = true
	}
	s := sorted(in, pages, root)
	w := &writer{in: in, parts: s, version: version(in.Bytes())}
	w.number()
	return w.write()
}

// Through has write give a whole PDF file, which is passed on to out in that order.
func Through(out io.Writer, write func(io.Writer) error) error {
	var whole bytes.Buffer
	if err := write(&whole); err != nil {
		return err
	}
	data, err := Rewrite(whole.Bytes())
	if err != nil {
		return fmt.Errorf("the PDF could not be linearised: %w", err)
	}
	if _, err := out.Write(data); err != nil {
		return fmt.Errorf("the PDF could not be written: %w", err)
	}
	return nil
}

// version is what the header of a file says.
func version(data []byte) string {
	if len(data) >= 8 && data[7] >= '0' && data[7] <= '9' {
		return string(data[5:8])
	}
	return "1.7"
}

// parts are the objects of a file, by where Annex F has them stand.
type parts struct {
	document []int        // the catalog, and what it needs to open the file (part 4)
	first    []int        // the first page, and all that it shows, with the outline when that is open (part 6)
	pages    [][]int      // each other page, and what it alone shows (part 7)
	shared   []int        // what several of those show (part 8)
	rest     []int        // all else, with the outline when that is closed (part 9)
	outline  []int        // of first or of rest
	plain    map[int]bool // of rest: what a viewer looks for by itself, as pages and the outline lead to it
	uses     [][]int      // of each page but the first: what it shows of first and shared
}

// sorted finds out what belongs to which page.
func sorted(in *pdfread.File, pages []pdfread.Page, root pdfread.Ref) *parts {
	t := tracer{in: in, pages: map[int]bool{}}
	for _, p := range pages {
		t.pages[p.Ref.Num] = true
	}
	s, taken := &parts{plain: map[int]bool{}}, map[int]bool{}
	take := func(list *[]int, num int) {
		if !taken[num] {
			taken[num] = true
			*list = append(*list, num)
		}
	}
	take(&s.document, root.Num)
	if form, ok := in.Dict(root)["AcroForm"].(pdfread.Ref); ok && !t.pages[form.Num] {
		take(&s.document, form.Num)
	}
	shows, users := make([][]int, len(pages)), map[int]int{}
	for i, p := range pages {
		shows[i] = t.from(p.Ref.Num)
		for _, num := range shows[i] {
			users[num]++
		}
	}
	for _, num := range shows[0] {
		take(&s.first, num)
	}
	s.outline = t.outline(in.Dict(root)["Outlines"])
	if in.Dict(root)["PageMode"] == pdfread.Name("UseOutlines") {
		for _, num := range s.outline {
			take(&s.first, num)
		}
	}
	elsewhere := map[int]bool{}
	for _, num := range t.besides(in.Trailer["Root"], in.Trailer["Info"]) {
		elsewhere[num] = true
	}
	for _, list := range shows[1:] {
		var own, uses []int
		for _, num := range list {
			switch {
			case users[num] > 1:
				take(&s.shared, num)
				uses = append(uses, num)
			case !elsewhere[num]:
				take(&own, num)
			default:
				s.plain[num] = true
			}
		}
		s.pages, s.uses = append(s.pages, own), append(s.uses, uses)
	}
	for _, num := range s.outline {
		take(&s.rest, num)
		s.plain[num] = true
	}
	for _, num := range t.all(in.Trailer["Root"], in.Trailer["Info"]) {
		take(&s.rest, num)
	}
	return s
}

// tracer follows the references of a file.
type tracer struct {
	in    *pdfread.File
	pages map[int]bool
}

// from lists what a page shows, itself first: not the pages that it leads to, nor what is above it.
func (t *tracer) from(page int) []int {
	return t.follow([]int{page}, func(from int, key pdfread.Name, num int) bool {
		return !t.pages[num] && !(from == page && key == "Parent")
	})
}

// besides lists what objects lead to without passing through pages.
func (t *tracer) besides(from ...pdfread.Object) []int {
	return t.follow(numbers(from), func(_ int, _ pdfread.Name, num int) bool { return !t.pages[num] })
}

// outline lists what an outline is made of.
func (t *tracer) outline(o pdfread.Object) []int {
	r, ok := o.(pdfread.Ref)
	if !ok {
		return nil
	}
	return t.follow([]int{r.Num}, func(_ int, key pdfread.Name, _ int) bool { return key == "First" || key == "Next" || key == "Last" })
}

// all lists everything that objects lead to.
func (t *tracer) all(from ...pdfread.Object) []int {
	return t.follow(numbers(from), func(int, pdfread.Name, int) bool { return true })
}

// numbers are those of objects that are references.
func numbers(from []pdfread.Object) (list []int) {
	for _, o := range from {
		if r, ok := o.(pdfread.Ref); ok {
			list = append(list, r.Num)
		}
	}
	return list
}

// follow lists objects and those that they lead to, as far as into says so of the object that leads there and the key
// in whose value it does.
func (t *tracer) follow(list []int, into func(from int, key pdfread.Name, num int) bool) []int {
	seen := map[int]bool{}
	for _, num := range list {
		seen[num] = true
	}
	for i := 0; i < len(list); i++ {
		references(t.in.Object(list[i]), "", func(key pdfread.Name, num int) {
			if !seen[num] && into(list[i], key, num) && t.in.Object(num) != nil {
				seen[num] = true
				list = append(list, num)
			}
		})
	}
	return list
}

// references visits the references in an object, in the order in which they are written.
func references(o pdfread.Object, key pdfread.Name, visit func(key pdfread.Name, num int)) {
	switch v := o.(type) {
	case pdfread.Ref:
		visit(key, v.Num)
	case pdfread.Array:
		for _, x := range v {
			references(x, key, visit)
		}
	case *pdfread.Stream:
		references(v.Dict, key, visit)
	case pdfread.Dict:
		for _, k := range keys(v) {
			references(v[k], k, visit)
		}
	}
}
