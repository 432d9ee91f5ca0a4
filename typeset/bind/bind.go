// Package bind makes one PDF of several: documents set here or brought as
// files, whole or in part, with page numbers, a table of contents and overlays
// over all of them.
package bind

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"html"
	"io"
	"strconv"
	"strings"
	"time"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/linear"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
	"oliveledger/typeset/internal/tag"
)

// Source is one PDF file that goes into the whole.
type Source struct {
	Name     string // for messages
	Data     []byte
	Password string
	Pages    string // such as "1-3,7,last"; empty for all
	Turn     int    // clockwise, in degrees: 90, 180 or 270
	Title    string // its entry in the outline and the table of contents; empty for the file's own
}

// Overlay is HTML that is laid over, or under, pages.
type Overlay struct {
	HTML    []byte
	Options typeset.Options // its loader and style sheets; the paper is that of each page
	Pages   string          // such as "1,3-last"; empty for all
	Under   bool
}

// Options say how the sources become one.
type Options struct {
	Title, Author, Subject, Keywords string
	Date                             time.Time
	Contents                         string // heading of a table of contents before all; empty for none
	Number                           string // text at the foot of every page, with {page} and {pages}
	RightHand                        bool   // every source begins on a right-hand page
	Overlays                         []Overlay
	Protect                          *typeset.Protection
	Unprotected                      bool // the whole may be without the passwords and limits that a source has
	Linearised                       bool // a viewer shows the first page before it has the rest (ISO 32000-1, Annex F); not with Protect
}

// ErrProtected tells that a source has passwords or limits that the whole would not have.
var ErrProtected = errors.New("the file is protected, and the new one would not be")

// Result tells what was bound.
type Result struct {
	Pages   int      `json:"pages"`
	Repairs []string `json:"repairs"` // sources that were damaged and could be read all the same
	Signed  []string `json:"signed"`  // sources with signatures, which hold no more in the whole and are left out
}

// leaf is one page of the whole.
type leaf struct {
	src   int // noSource for a blank one
	index int // in its source
	page  pdfread.Page
}

// noSource is the source of a page that only brings the next to its side.
const noSource = -1

// book is a binding on its way.
type book struct {
	ctx     context.Context
	o       *Options
	files   []*pdfread.File
	sources []Source
	titles  []string
	leaves  []leaf
	starts  []int // index of each source's first leaf
	result  Result
}

// Bind writes one PDF made of the sources.
func Bind(ctx context.Context, sources []Source, o Options, out io.Writer) (*Result, error) {
	if len(sources) == 0 {
		return nil, errors.New("there is nothing to bind")
	}
	if o.Linearised && o.Protect != nil {
		return nil, &typeset.OptionError{Option: "linearised", Reason: linear.ErrProtected.Error()}
	}
	b := &book{ctx: ctx, o: &o}
	for _, s := range sources {
		if err := b.add(s); err != nil {
			return nil, fmt.Errorf("%s: %w", s.Name, err)
		}
	}
	if o.Contents != "" {
		if err := b.contents(); err != nil {
			return nil, err
		}
	}
	if !o.Linearised {
		return b.write(out)
	}
	var result *Result
	err := linear.Through(out, func(w io.Writer) (err error) {
		result, err = b.write(w)
		return err
	})
	return result, err
}

// signaturesExist is a flag of forms (table 219).
const signaturesExist = 1

func (b *book) add(s Source) error {
	f, err := pdfread.Open(s.Data, s.Password)
	if err != nil {
		return err
	}
	if f.Trailer["Encrypt"] != nil && b.o.Protect == nil && !b.o.Unprotected {
		return ErrProtected
	}
	if f.Rebuilt {
		b.result.Repairs = append(b.result.Repairs, s.Name)
	}
	if flags, _ := f.Resolve(f.Dict(f.Dict(f.Trailer["Root"])["AcroForm"])["SigFlags"]).(int64); flags&signaturesExist != 0 {
		b.result.Signed = append(b.result.Signed, s.Name)
	}
	pages, err := f.Pages()
	if err != nil {
		return err
	}
	if len(pages) == 0 {
		return errors.New("the file has no page that can be read")
	}
	if s.Turn%90 != 0 {
		return fmt.Errorf("pages turn by 90, 180 or 270 degrees, not by %d", s.Turn)
	}
	picked, err := Pick(s.Pages, len(pages))
	if err != nil {
		return err
	}
	b.turnLeaf()
	b.starts = append(b.starts, len(b.leaves))
	for _, i := range picked {
		p := pages[i]
		p.Turn = ((p.Turn+s.Turn)%360 + 360) % 360
		b.leaves = append(b.leaves, leaf{len(b.files), i, p})
	}
	title := s.Title
	if title == "" {
		title = textOf(f.Dict(f.Trailer["Info"])["Title"], f)
	}
	if title == "" {
		title = s.Name
	}
	b.files, b.sources, b.titles = append(b.files, f), append(b.sources, s), append(b.titles, title)
	return nil
}

// turnLeaf adds a blank page where the next source is to begin on the right.
func (b *book) turnLeaf() {
	if n := len(b.leaves); b.o.RightHand && n%2 == 1 {
		b.leaves = append(b.leaves, leaf{noSource, 0, b.leaves[n-1].page})
	}
}

// Pick reads a choice of pages: numbers and stretches, "last" and "last-1" for
// those at the end; a stretch may run backwards. The result counts from 0.
func Pick(text string, n int) ([]int, error) {
	if strings.TrimSpace(text) == "" {
		out := make([]int, n)
		for i := range out {
			out[i] = i
		}
		return out, nil
	}
	number := func(s string) (int, error) {
		s = strings.TrimSpace(s)
		back := 0
		if rest, ok := strings.CutPrefix(s, "last"); ok {
			if rest != "" {
				v, err := strconv.Atoi(rest)
				if err != nil || v > 0 {
					return 0, fmt.Errorf("%q names no page; write numbers, last or last-1", s)
				}
				back = v
			}
			return n + back, nil
		}
		v, err := strconv.Atoi(s)
		if err != nil {
			return 0, fmt.Errorf("%q names no page; write numbers, last or last-1", s)
		}
		return v, nil
	}
	var out []int
	for part := range strings.SplitSeq(text, ",") {
		from, to := part, part
		if a, z, ok := cutRange(part); ok {
			from, to = a, z
		}
		a, err := number(from)
		if err != nil {
			return nil, err
		}
		z, err := number(to)
		if err != nil {
			return nil, err
		}
		for _, v := range []int{a, z} {
			if v < 1 || v > n {
				return nil, fmt.Errorf("page %d does not exist; the last is %d", v, n)
			}
		}
		step := 1
		if z < a {
			step = -1
		}
		for i := a; ; i += step {
			out = append(out, i-1)
			if i == z {
				break
			}
		}
	}
	return out, nil
}

// cutRange divides a stretch at its hyphen; that of last-1 does not count.
func cutRange(s string) (a, z string, ok bool) {
	s = strings.TrimSpace(s)
	for i := 1; i < len(s); i++ {
		if s[i] != '-' || strings.HasSuffix(s[:i], "last") && i+1 < len(s) && s[i+1] >= '0' && s[i+1] <= '9' {
			continue
		}
		return s[:i], s[i+1:], i+1 < len(s)
	}
	return "", "", false
}

// contents sets a table of contents and puts it before all. Its own length
// moves the pages it names, so it is set until that holds.
func (b *book) contents() error {
	length := 1
	for range 4 {
		var page strings.Builder
		fmt.Fprintf(&page, "<!DOCTYPE html><html><title>%s</title><style>%s</style><h1>%s</h1>", html.EscapeString(b.o.Contents), contentsStyle, html.EscapeString(b.o.Contents))
		for i, t := range b.titles {
			n := b.starts[i] + length + 1
			fmt.Fprintf(&page, `<a class=entry href="%s%d"><span>%s</span><span>%d</span></a>`, leafAddress, n, html.EscapeString(t), n)
		}
		var out bytes.Buffer
		w, h := size(b.leaves[0].page)
		doc, err := typeset.Set(b.ctx, []byte(page.String()), typeset.Options{Name: "contents", Paper: paper(w, h)}, &out)
		if err != nil {
			return fmt.Errorf("the table of contents: %w", err)
		}
		pages := doc.Pages
		if b.o.RightHand {
			pages += pages % 2
		}
		if pages == length {
			return b.before(out.Bytes())
		}
		length = pages
	}
	return errors.New("the table of contents finds no length that holds")
}

const contentsStyle = `body{font:11pt/1.5 serif} h1{font-size:18pt;bookmark-level:none} .entry{display:flex;color:inherit;text-decoration:none;gap:.5em} .entry span:first-child{flex:1} .entry span:first-child::after{content:leader(".")}`

// before puts a file in front of the others.
func (b *book) before(data []byte) error {
	rest := *b
	b.files, b.sources, b.titles, b.leaves, b.starts = nil, nil, nil, nil, nil
	if err := b.add(Source{Name: b.o.Contents, Data: data, Title: b.o.Contents}); err != nil {
		return err
	}
	b.turnLeaf()
	n := len(b.leaves)
	for _, l := range rest.leaves {
		if l.src != noSource {
			l.src++
		}
		b.leaves = append(b.leaves, l)
	}
	for _, s := range rest.starts {
		b.starts = append(b.starts, s+n)
	}
	b.files, b.sources, b.titles = append(b.files, rest.files...), append(b.sources, rest.sources...), append(b.titles, rest.titles...)
	return nil
}

func (b *book) write(out io.Writer) (*Result, error) {
	w := pdf.New(out)
	w.Small = true
	title, first := b.o.Title, 0
	if b.o.Contents != "" { // it stands before the sources
		first = 1
	}
	if title == "" {
		title = b.titles[first]
	}
	w.Info = pdf.Info{Title: title, Author: b.o.Author, Subject: b.o.Subject, Keywords: b.o.Keywords, Date: pdf.Date(b.o.Date)}
	if b.o.Protect != nil {
		if err := w.Protect(*b.o.Protect); err != nil {
			return nil, err
		}
	}
	in := make([]*importer, len(b.files))
	there, whole := shared{}, newForm()
	for i, f := range b.files {
		in[i] = newImporter(f, w, there)
		in[i].fields = newSourceFields(in[i], whole)
	}
	parts := b.tag(w, in)
	w.Attach = carried(in)
	lay, err := b.overlays(w)
	if err != nil {
		return nil, err
	}
	bound := &binding{book: b, w: w, in: in, parts: parts, lay: lay, where: b.where()}
	for i := range b.leaves {
		if b.ctx.Err() != nil {
			return nil, context.Cause(b.ctx)
		}
		if err := bound.leaf(i); err != nil {
			return nil, err
		}
	}
	for _, m := range in {
		m.fields.write()
	}
	w.Kept = pdf.KeptFields{Tops: whole.tops, Fonts: whole.fonts, Appearances: whole.draws}
	w.Outline = b.outline(in, bound.where)
	b.result.Pages = len(b.leaves)
	if err := w.Close(); err != nil {
		return nil, fmt.Errorf("the PDF could not be written: %w", err)
	}
	return &b.result, nil
}

// binding is a book that is being written.
type binding struct {
	*book
	w     *pdf.Writer
	in    []*importer    // of each source
	parts []*tag.Element // what holds a source that has no tags
	lay   layers
	where []map[int]int // from the pages of each source to the first leaf that shows them
}

// leaf writes a page: an empty one, one of a source as it stands there, or one of a source with what is laid over it.
func (b *binding) leaf(i int) error {
	l := b.leaves[i]
	wide, high := size(l.page)
	add := func() *pdf.Page {
		p := b.w.AddPage(wide, high)
		p.Label = i + 1
		return p
	}
	if l.src == noSource {
		add()
		return nil
	}
	in := b.in[l.src]
	if len(b.lay[i]) == 0 && in.asItIs(l.page, b.w.IsTagged()) {
		p := add()
		p.Anchor(anchor(i))
		if err := in.take(p, l.page); err != nil {
			return b.unread(l, err)
		}
		return nil
	}
	form, marks, err := in.page(l.page)
	if err != nil {
		return b.unread(l, err)
	}
	p, upright := add(), display.Matrix{1 / pt, 0, 0, -1 / pt, 0, high}
	p.Draw(func(c display.Canvas) {
		content := c.(*pdf.Content)
		content.Anchor(anchor(i), 0, 0)
		for _, o := range b.lay.of(i, true) {
			content.Form(o, upright)
		}
		if marks != nil {
			content.TaggedForm(form, placed(l.page))
			in.structure.place(p, l.page.Ref.Num, marks, in.forms)
		} else {
			content.Tag(b.parts[l.src], b.parts[l.src].Order) // all of it, as it comes
			content.Form(form, placed(l.page))
			content.Tag(nil, 0)
		}
		in.annotations(content, p, l.page, b.where[l.src])
		for _, o := range b.lay.of(i, false) {
			content.Form(o, upright)
		}
	})
	return nil
}

// unread tells which page cannot be read.
func (b *book) unread(l leaf, err error) error {
	return fmt.Errorf("%s, page %d: %w", b.sources[l.src].Name, l.index+1, err)
}

// tag makes one structure tree of those of all sources, each a part of it. A source
// without one is a part with all that its pages show, as it comes. The whole is said to be
// readable aloud when all its sources say so.
func (b *book) tag(w *pdf.Writer, in []*importer) []*tag.Element {
	tree := tag.New()
	parts := make([]*tag.Element, len(in))
	order := int32(0)
	tagged := false
	w.Unclaimed = len(b.o.Overlays) > 0
	for i, m := range in {
		order++
		root := m.f.Dict(m.f.Trailer["Root"])
		lang := textOf(root["Lang"], m.f)
		if w.Lang == "" {
			w.Lang = lang
		}
		parts[i] = &tag.Element{Role: "Part", Parent: tree.Root, Order: order, Details: &tag.Details{Lang: lang}}
		if m.structure = m.structureOf(parts[i], order); m.structure != nil {
			order, tagged = m.structure.order, true
		}
		w.Unclaimed = w.Unclaimed || !claimsAccess(m.f, root)
	}
	if !tagged {
		for _, m := range in {
			m.structure = nil
		}
		w.Unclaimed = true
		return parts
	}
	w.Tagged(tree)
	return parts
}

// leafAddress begins the addresses by which the table of contents leads to
// pages of the whole.
const leafAddress = "olive:leaf-"

func anchor(leaf int) string { return "leaf-" + strconv.Itoa(leaf+1) }

// where leads from the pages of each source to the first leaf that shows them.
func (b *book) where() []map[int]int {
	out := make([]map[int]int, len(b.files))
	for i := range out {
		out[i] = map[int]int{}
	}
	for i, l := range b.leaves {
		if l.src == noSource {
			continue
		}
		if _, ok := out[l.src][l.page.Ref.Num]; !ok {
			out[l.src][l.page.Ref.Num] = i
		}
	}
	return out
}

// outline has an entry for each source, and below it the source's own.
func (b *book) outline(in []*importer, where []map[int]int) (list []pdf.OutlineItem) {
	for i, t := range b.titles {
		if len(b.files) > 1 {
			list = append(list, pdf.OutlineItem{Title: t, Level: 1, Page: b.starts[i]})
		}
		level := 1
		if len(b.files) > 1 {
			level = 2
		}
		list = append(list, in[i].outline(level, where[i], b.leaves)...)
	}
	return list
}

// pt is a point in px.
const pt = 0.75

// size of a page as it is shown, in px.
func size(p pdfread.Page) (w, h float64) {
	w, h = (p.Media[2]-p.Media[0])/pt, (p.Media[3]-p.Media[1])/pt
	if p.Turn%180 != 0 {
		w, h = h, w
	}
	return w, h
}

func paper(w, h float64) string { return fmt.Sprintf("%.4fpx %.4fpx", w, h) }

// placed maps the space of a page to that of the leaf that shows it.
func placed(p pdfread.Page) display.Matrix {
	w, h := (p.Media[2]-p.Media[0])/pt, (p.Media[3]-p.Media[1])/pt
	flat := display.Matrix{1 / pt, 0, 0, -1 / pt, -p.Media[0] / pt, p.Media[3] / pt}
	switch p.Turn {
	case 90:
		return display.Matrix{0, 1, -1, 0, h, 0}.Mul(flat)
	case 180:
		return display.Matrix{-1, 0, 0, -1, w, h}.Mul(flat)
	case 270:
		return display.Matrix{0, -1, 1, 0, 0, w}.Mul(flat)
	}
	return flat
}
