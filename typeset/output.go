package typeset

import (
	"cmp"
	"fmt"
	"html"
	"io"
	"strings"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/inspect"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/page"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
)

// Attachment is a file that the PDF carries.
type Attachment = pdf.Attachment

// Protection are the passwords and permissions of a PDF.
type Protection = pdf.Protection

// The archive profiles (ISO 19005).
const (
	ArchivePlain = string(pdf.Plain)
	Archive2     = string(pdf.Archive2)
	Archive3     = string(pdf.Archive3)
)

// prepare fills in what the options say about the file as a whole.
func (s *setting) prepare(w *pdf.Writer, doc, root *markup.Node) error {
	said := metas(doc)
	w.Info = pdf.Info{Title: s.title(doc), Author: cmp.Or(s.o.Author, said["author"]), Subject: cmp.Or(s.o.Subject, said["description"]), Keywords: cmp.Or(s.o.Keywords, said["keywords"])}
	w.Lang = tag.Language(root.Attr("lang"))
	w.Info.Date = pdf.Date(s.o.Date)
	w.HideOutline = s.o.HideOutline
	w.Attach = s.o.Attach
	w.Profile = pdf.Profile(s.o.Archive)
	switch w.Profile {
	case pdf.Plain, pdf.Archive3:
	case pdf.Archive2:
		if len(w.Attach) > 0 {
			return &OptionError{"archive", "PDF/A-2u allows no attachments of other formats; use PDF/A-3u"}
		}
	default:
		return &OptionError{"archive", fmt.Sprintf("the profile %q is not known; it is %s or %s", s.o.Archive, Archive2, Archive3)}
	}
	if s.o.Protect == nil {
		return nil
	}
	if w.Profile != pdf.Plain {
		return &OptionError{"archive", "it allows no passwords; leave out one of both"}
	}
	return w.Protect(*s.o.Protect)
}

// metas are what the page's own meta elements say first, by their names in lower case.
func metas(doc *markup.Node) map[string]string {
	said := map[string]string{}
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "meta" {
			if name := strings.ToLower(n.Attr("name")); said[name] == "" {
				said[name] = strings.TrimSpace(n.Attr("content"))
			}
		}
		return true
	})
	return said
}

// cssString writes a string token (CSS Syntax 3, §4.3.5).
func cssString(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\a `).Replace(s) + `"`
}

// watermark is the element that stands over every page.
func watermark(text string) string {
	if text == "" {
		return ""
	}
	size := min(90, 700/max(len([]rune(text)), 1))
	return fmt.Sprintf(`<div aria-hidden=true style="all:initial;position:fixed;inset:0;display:flex;align-items:center;justify-content:center;z-index:2147483000"><div style="all:initial;display:block;white-space:nowrap;transform:rotate(-35deg);font:bold %dpt sans-serif;color:rgb(150 20 20/.16)">%s</div></div>`, size, html.EscapeString(text))
}

// region leaves only the boxes of one element, with the styles it has in its
// page.
func (s *setting) region(build *box.Builder, tree *box.Box, root *markup.Node) (*box.Box, error) {
	if s.o.Selector == "" || tree == nil {
		return tree, nil
	}
	found, err := style.Select(root, s.o.Selector)
	if err != nil {
		return nil, &OptionError{"region", fmt.Sprintf("%q is not a selector: %v", s.o.Selector, err)}
	}
	if len(found) == 0 {
		return nil, fmt.Errorf("no element of the page matches the region %q", s.o.Selector)
	}
	target := boxOf(tree, found[0])
	if target == nil {
		return nil, fmt.Errorf("the region %q is not displayed", s.o.Selector)
	}
	if target == tree {
		return tree, nil
	}
	around := *tree
	around.Children, around.Memo, around.Inline = []*box.Box{target}, nil, false
	plain := *tree.Style
	plain.Display = style.Display{Outer: style.Block, Inner: style.FlowRoot}
	around.Style = &plain
	build.Arrange(&around)
	return &around, nil
}

func boxOf(b *box.Box, n *markup.Node) *box.Box {
	if b.Node == n && b.Rare().Pseudo == "" && b.Kind != box.Text {
		return b
	}
	for _, c := range b.Children {
		if f := boxOf(c, n); f != nil {
			return f
		}
	}
	return nil
}

// leastScale bounds how small a document gets that is to fit a number of pages.
const leastScale = 0.5

// shrink finds the largest scale at which the document has no more pages than
// asked for.
func (s *setting) shrink(build *box.Builder, setter *page.Setter, tree *box.Box) error {
	if s.o.FitPages <= 0 || tree == nil {
		return nil
	}
	least := s.o.LeastScale
	if least <= 0 {
		least = leastScale
	}
	count := func(k float64) (int, error) {
		setter.Shrink = k
		places, err := s.onto(pdf.New(io.Discard), build, *setter, tree)
		return places.Pages, err
	}
	n, err := count(1)
	if err != nil || n <= s.o.FitPages {
		return err
	}
	if n, err = count(least); err != nil {
		return err
	}
	if n > s.o.FitPages {
		s.tell("fit-pages", Warning, fmt.Sprintf("at %.0f %% the document still has %s, not %d", least*100, pagesText(n), s.o.FitPages), "allow a smaller scale, or shorten it")
		return nil
	}
	lo, hi := least, 1.0
	for range 7 {
		mid := (lo + hi) / 2
		if n, err = count(mid); err != nil {
			return err
		}
		if n <= s.o.FitPages {
			lo = mid
		} else {
			hi = mid
		}
	}
	setter.Shrink = lo
	s.tell("fit-pages", Note, fmt.Sprintf("the document is set at %.0f %% to fit %s", lo*100, pagesText(s.o.FitPages)), "")
	return nil
}

func pagesText(n int) string {
	if n == 1 {
		return "1 page"
	}
	return fmt.Sprintf("%d pages", n)
}

// remark tells what is off on a page.
func (s *setting) remark(n int, r inspect.Remark) {
	at := s.place(r.Node)
	s.found.Add(Finding{
		Code: r.Code, Severity: r.Severity, Message: r.Message, File: s.o.Name, Line: at.Line, Column: at.Column, Page: n, Advice: r.Advice,
		Rect: [4]float64{r.Rect.X, r.Rect.Y, r.Rect.W, r.Rect.H},
	})
}

// place is where an element stands in the page's source; the source is searched
// only once something is found.
func (s *setting) place(n *markup.Node) markup.Place {
	if n == nil {
		return markup.Place{}
	}
	if s.places == nil {
		s.places = markup.Places(s.doc, s.html)
	}
	return s.places[n]
}

func (s *setting) tellAt(n *markup.Node, code string, sev Severity, message, advice string) {
	at := s.place(n)
	s.found.Add(Finding{Code: code, Severity: sev, Message: message, File: s.o.Name, Line: at.Line, Column: at.Column, Advice: advice})
}

func (s *setting) frame(w, h float64, area display.Rect, end inspect.Ending) {
	n := len(s.frames) + 1
	why := Finding{Code: "break", Severity: Note, Message: end.Why, Page: n, Advice: end.Advice}
	if end.Next != nil && s.o.TraceBreaks {
		at := s.place(end.Next.Node)
		why.File, why.Line, why.Column = s.o.Name, at.Line, at.Column
	}
	s.frames = append(s.frames, Frame{w, h, [4]float64{area.X, area.Y, area.W, area.H}, end.Y, why})
}

// paper turns the options about paper into declarations of @page.
func (s *setting) paper() (string, error) {
	var b strings.Builder
	if s.o.Paper != "" {
		if _, ok := style.ParsePageSize(s.o.Paper); !ok {
			return "", &OptionError{"paper", fmt.Sprintf("%q is not a page size; write it as CSS does: A4, A5 landscape, letter, 210mm 99mm", s.o.Paper)}
		}
		fmt.Fprintf(&b, "size: %s !important;", s.o.Paper)
	}
	if s.o.Margins != "" {
		if !style.Supports("margin", css.Trim(css.ParseValues(s.o.Margins))) {
			return "", &OptionError{"margins", fmt.Sprintf("%q are not CSS margins; write one to four lengths: 20mm, 18mm 16mm", s.o.Margins)}
		}
		fmt.Fprintf(&b, "margin: %s !important;", s.o.Margins)
	}
	return b.String(), nil
}
