package bind

import (
	"bytes"
	"fmt"
	"html"
	"strconv"
	"strings"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// layers are the forms that lie over and under each leaf.
type layers map[int][]layer

type layer struct {
	form  pdf.Ref
	under bool
}

func (l layers) of(leaf int, under bool) (list []pdf.Ref) {
	for _, x := range l[leaf] {
		if x.under == under {
			list = append(list, x.form)
		}
	}
	return list
}

// overlays sets what is laid over the pages. HTML that shows the page's number
// is set for each page, other HTML once for each size.
func (b *book) overlays(w *pdf.Writer) (layers, error) {
	out := layers{}
	if err := b.numbers(w, out); err != nil {
		return nil, err
	}
	for _, o := range b.o.Overlays {
		picked, err := Pick(o.Pages, len(b.leaves))
		if err != nil {
			return nil, fmt.Errorf("the overlay: %w", err)
		}
		made := map[string]pdf.Ref{}
		numbered := bytes.Contains(o.HTML, []byte("{page}"))
		for _, i := range picked {
			wide, high := size(b.leaves[i].page)
			key := paper(wide, high)
			text := bytes.ReplaceAll(o.HTML, []byte("{pages}"), []byte(strconv.Itoa(len(b.leaves))))
			if numbered {
				key += " " + strconv.Itoa(i)
				text = bytes.ReplaceAll(text, []byte("{page}"), []byte(strconv.Itoa(i+1)))
			}
			form, ok := made[key]
			if !ok {
				if form, err = b.form(w, text, o.Options, paper(wide, high)); err != nil {
					return nil, fmt.Errorf("the overlay: %w", err)
				}
				made[key] = form
			}
			out[i] = append(out[i], layer{form, o.Under})
		}
	}
	return out, nil
}

const numberStyle = `@page{margin:0} body{margin:0} section{position:relative;height:100vh;break-after:page} section:last-child{break-after:auto} p{position:absolute;margin:0;left:0;right:0;bottom:8mm;text-align:center;font:9pt sans-serif}`

// numbers sets the page numbers: those of pages of one size as one document,
// so that they share their fonts.
func (b *book) numbers(w *pdf.Writer, out layers) error {
	if b.o.Number == "" {
		return nil
	}
	bySize := map[string][]int{}
	var sizes []string
	for i, l := range b.leaves {
		key := paper(size(l.page))
		if bySize[key] == nil {
			sizes = append(sizes, key)
		}
		bySize[key] = append(bySize[key], i)
	}
	fill := func(i int) string {
		return strings.NewReplacer("{page}", strconv.Itoa(i+1), "{pages}", strconv.Itoa(len(b.leaves))).Replace(b.o.Number)
	}
	for _, key := range sizes {
		var text strings.Builder
		text.WriteString("<!DOCTYPE html><style>" + numberStyle + "</style>")
		for _, i := range bySize[key] {
			text.WriteString("<section><p>" + html.EscapeString(fill(i)) + "</p></section>")
		}
		forms, err := b.forms(w, []byte(text.String()), typeset.Options{}, key)
		if err != nil {
			return fmt.Errorf("the page numbers: %w", err)
		}
		for k, i := range bySize[key] {
			if k < len(forms) {
				out[i] = append(out[i], layer{form: forms[k]})
			}
		}
	}
	return nil
}

// form sets HTML on one sheet and takes it as a form.
func (b *book) form(w *pdf.Writer, text []byte, o typeset.Options, size string) (pdf.Ref, error) {
	forms, err := b.forms(w, text, o, size)
	if err != nil {
		return 0, err
	}
	return forms[0], nil
}

// forms sets HTML on sheets of a size and takes each as a form.
func (b *book) forms(w *pdf.Writer, text []byte, o typeset.Options, size string) (forms []pdf.Ref, err error) {
	o.Paper, o.Untagged = size, true
	var out bytes.Buffer
	if _, err := typeset.Set(b.ctx, text, o, &out); err != nil {
		return nil, err
	}
	f, err := pdfread.Open(out.Bytes(), "")
	if err != nil {
		return nil, err
	}
	pages, err := f.Pages()
	if err != nil {
		return nil, err
	}
	m := newImporter(f, w, shared{})
	for _, p := range pages {
		id, _, err := m.page(p)
		if err != nil {
			return nil, err
		}
		forms = append(forms, id)
	}
	return forms, nil
}
