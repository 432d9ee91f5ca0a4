// Package typeset sets HTML and CSS as paginated PDF. It needs no server, no
// database and no browser, and opens nothing by itself: what a page refers to
// comes through a Loader.
//
//	doc, err := typeset.Set(ctx, page, typeset.Options{Loader: loader}, out)
package typeset

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"runtime/debug"
	"runtime/metrics"
	"strings"
	"time"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/finding"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/layout"
	"oliveledger/typeset/internal/linear"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/page"
	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
	"oliveledger/typeset/internal/tag"
	"oliveledger/typeset/internal/watch"
)

// Finding is one thing that a person should know about a document.
type Finding = finding.Finding

// Severity orders findings.
type Severity = finding.Severity

// Severities of findings.
const (
	Note    = finding.Note
	Warning = finding.Warning
	Error   = finding.Error
)

// Sheet is a style sheet from outside the page.
type Sheet struct {
	Name string // for findings, and what its addresses are relative to
	Text string
}

// Options say how a page is set. The zero value sets it for print on A4 with
// safe limits.
type Options struct {
	Name         string  // address of the page: what its addresses are relative to
	UserSheets   []Sheet // before the page's own sheets, user origin (CSS Cascade 5, §6.2)
	AuthorSheets []Sheet // after the page's own sheets, author origin
	Medium       string  // print (the default) or screen
	Paper        string  // wins over the page's own size: "A4 landscape", "210mm 99mm"
	Margins      string  // wins over the page's own margins: "18mm 16mm"
	Loader       Loader  // nil: nothing outside the page can be had
	Fonts        []*Font
	Title        string // wins over the page's title
	Date         time.Time
	Untagged     bool // leave out the structure that screen readers and reflow need

	Author, Subject, Keywords string  // win over the page's meta elements
	Header, Footer            string  // text of the margins; bars part left, middle and right; {page}, {pages}, {title}, {date}
	FirstHeader, FirstFooter  string  // those of the first page; “none” for none there
	HeaderHTML, FooterHTML    string  // a page's body, in the place of the text
	HeaderRule, FooterRule    bool    // a line between the margin and what the page holds
	Watermark                 string  // text across every page
	Selector                  string  // a selector: only this element is set
	LayoutWidth               float64 // px that the page area's width stands for; 0 for its own
	FitPages                  int     // scale the document down until it has no more pages
	LeastScale                float64 // for FitPages; 0 stands for 0.5
	Continuous                bool    // one page, as tall as the contents
	HideOutline               bool    // viewers do not open the outline by themselves
	Archive                   string  // an archive profile: PDF/A-2u or PDF/A-3u
	AllowMissing              bool    // an archive file may hold boxes for characters that no font at hand has
	Attach                    []Attachment
	Protect                   *Protection
	Fields                    bool // form controls can be filled in
	Linearised                bool // a viewer shows the first page before it has the rest (ISO 32000-1, Annex F); not with Protect
	Probe                     *Probe
	TraceBreaks               bool // Frames tell where in the source each page ends, for which it is read once more
	Limits                    Limits
}

// Limits bound what one page may use. Zero values stand for the defaults.
type Limits struct {
	Bytes    int64         // of the page and of each file it loads; default 64 MiB
	Pages    int           // default 20,000
	Time     time.Duration // default 2 minutes
	Elements int           // of a page; default 3,000,000
	Heap     int64         // bytes that the whole program may hold while the page is set; 0 for no limit
}

// Document tells what was set.
type Document struct {
	Pages    int       `json:"pages"`
	Title    string    `json:"title"`
	Findings []Finding `json:"findings"`
	Frames   []Frame   `json:"-"`
	Probed   []Probed  `json:"-"` // the elements at the point of Options.Probe, from the outermost to the innermost
}

// Frame is the geometry of one page, in px: the size of the sheet, and x, y,
// width and height of the page area on it. Break tells why the page ends where
// it does, where what comes next stands in the source, and what to do; its message is empty
// on the last page.
type Frame struct {
	W, H  float64
	Area  [4]float64
	End   float64 // where the contents end, from the top of the sheet
	Break Finding
}

// ErrTooLong is in the chain of an error about too many pages.
var ErrTooLong = page.ErrTooManyPages

func (l *Limits) defaults() {
	if l.Bytes == 0 {
		l.Bytes = 64 << 20
	}
	if l.Pages == 0 {
		l.Pages = 20000
	}
	if l.Elements == 0 {
		l.Elements = 3_000_000
	}
	if l.Time == 0 {
		l.Time = 2 * time.Minute
	}
}

// Set writes the PDF of a page to out. The document is whole only when the
// error is nil.
func Set(ctx context.Context, html []byte, o Options, out io.Writer) (doc *Document, err error) {
	defer func() { // a hostile page fails itself, never the program around it
		r := recover()
		if stopped, ok := r.(watch.Stopped); ok {
			err = stopped.Err
		} else if r != nil {
			err = fmt.Errorf("the page could not be set: internal error: %v", r)
			if os.Getenv("OLIVE_TRACE") != "" { // for those who mend the core
				err = fmt.Errorf("%w\n%s", err, debug.Stack())
			}
		}
	}()
	o.Limits.defaults()
	if err := o.check(); err != nil {
		return nil, err
	}
	if int64(len(html)) > o.Limits.Bytes {
		return nil, fmt.Errorf("the page has %d bytes; at most %d are allowed", len(html), o.Limits.Bytes)
	}
	ctx, cancel := context.WithTimeoutCause(ctx, o.Limits.Time, fmt.Errorf("the page took longer than %v to set", o.Limits.Time))
	defer cancel()
	s := &setting{ctx: ctx, o: &o, pictures: map[string]*picture.Picture{}, inline: map[string]bool{}}
	s.watch = &watch.Watch{Check: s.check}
	if !o.Linearised {
		return s.run(html, out)
	}
	err = linear.Through(out, func(w io.Writer) (err error) {
		doc, err = s.run(html, w)
		return err
	})
	return doc, err
}

// check tells of options that nothing can be made of.
func (o *Options) check() error {
	switch {
	case o.Medium != "" && o.Medium != "print" && o.Medium != "screen":
		return &OptionError{"medium", fmt.Sprintf("%q is not print or screen", o.Medium)}
	case o.LayoutWidth < 0:
		return &OptionError{"layout-width", fmt.Sprintf("%g is not a number of px above 0", o.LayoutWidth)}
	case o.FitPages < 0:
		return &OptionError{"fit-pages", fmt.Sprintf("%d is not a number of pages", o.FitPages)}
	case o.LeastScale < 0 || o.LeastScale > 1:
		return &OptionError{"least-scale", fmt.Sprintf("%g does not lie between 0 and 1", o.LeastScale)}
	case o.Linearised && o.Protect != nil:
		return &OptionError{"linearised", linear.ErrProtected.Error()}
	}
	return nil
}

// setting is one page on its way through the stages.
type setting struct {
	ctx      context.Context
	o        *Options
	found    finding.List
	styles   *style.Resolver
	fonts    *font.Set
	pictures map[string]*picture.Picture
	spare    []*style.Resolver // besides the page's: of SVG files, and of page areas that did not hold
	watch    *watch.Watch
	base     string
	frames   []Frame
	html     []byte
	doc      *markup.Node
	places   map[*markup.Node]markup.Place
	foreign  int                     // how deep drawings hold HTML that is being drawn
	within   map[string]*markup.Node // style elements, by the name of their sheet
	inline   map[string]bool         // what has been told of style attributes
	lacking  lacking
}

func (s *setting) check() error {
	if s.ctx.Err() != nil {
		return context.Cause(s.ctx)
	}
	if limit := s.o.Limits.Heap; limit > 0 && heapInUse() > limit {
		return fmt.Errorf("the page needs more than %d MB of memory to set", limit>>20)
	}
	return nil
}

// heapInUse is what the whole program held in memory when garbage was last collected, in bytes.
func heapInUse() int64 {
	sample := []metrics.Sample{{Name: "/gc/heap/live:bytes"}}
	metrics.Read(sample)
	return int64(sample[0].Value.Uint64())
}

func (s *setting) tell(code string, sev finding.Severity, message, advice string) {
	s.found.Add(Finding{Code: code, Severity: sev, Message: message, File: s.o.Name, Advice: advice})
}

func (s *setting) run(html []byte, out io.Writer) (*Document, error) {
	doc, root, err := s.parse(html)
	if err != nil {
		return nil, err
	}
	s.fonts = font.NewSet()
	s.fonts.Missing = func(family string, err error) {
		s.tell("font-missing", Warning, fmt.Sprintf("the font “%s” did not load: %v", family, err), "check the file that @font-face names")
	}
	env := style.Env{Medium: cmp.Or(s.o.Medium, "print"), Width: 718, Height: 1047}
	setter := &page.Setter{Pictures: s.background, Default: defaultPaper(), MaxPages: s.o.Limits.Pages, Check: s.check, LayoutWidth: s.o.LayoutWidth, Continuous: s.o.Continuous}
	sheets, err := s.sheets(doc)
	if err != nil {
		return nil, err
	}
	s.settle(sheets, env, setter)
	s.replacing()
	if err := s.check(); err != nil {
		return nil, err
	}
	s.installed()
	s.faces()
	build := &box.Builder{Styles: s.styles, Pictures: s.picture, Inline: s.inlineSVG, PageCounters: s.styles.HasMarginContent(), Tell: func(code, message string) { s.tell(code, Warning, message, "") }}
	build.ByPage = setter.NotesByPage()
	tree, err := s.rounds(build, s.build(build, root, setter), root, setter)
	if err != nil {
		return nil, err
	}
	if tree, err = s.region(build, tree, root); err != nil {
		return nil, err
	}
	if err := s.shrink(build, setter, tree); err != nil {
		return nil, err
	}
	setter.Remark, setter.Framed = s.remark, s.frame
	if p := s.o.Probe; p != nil {
		setter.Probe = &page.Probe{Page: p.Page, X: p.X, Y: p.Y}
	}
	writer := pdf.New(out)
	writer.Watch = s.watch
	if err := s.prepare(writer, doc, root); err != nil {
		return nil, err
	}
	if tree == nil {
		s.tell("page-blank", Warning, "the page shows nothing: its root element is not displayed", "look for display: none on html or :root")
	}
	s.equip(setter, writer)
	lost := s.lostLinks(doc) // told of files without tags, too
	if t := setter.Tags; t != nil {
		t.Lost, t.Notes = lost, build.Notes()
	}
	pages, err := s.onto(writer, build, *setter, tree)
	if err != nil {
		return nil, err
	}
	if err := s.lacking.against(writer.Profile); err != nil && !s.o.AllowMissing {
		return nil, err
	}
	if err := writer.Close(); err != nil {
		return nil, fmt.Errorf("the PDF could not be written: %w", err)
	}
	if writer.Info.Title != "" || writer.Lang != "" || writer.Profile != pdf.Plain { // else it is a sketch that claims nothing
		s.tellClaim(writer.AccessFaults())
	}
	s.lacking.tell(s)
	for _, r := range s.fonts.Replaced() {
		s.tell("font-replaced", Note, fmt.Sprintf("the font “%s” is not at hand; its text is set in %s", r.Wanted, r.Taken), "give its file through @font-face or --fonts")
	}
	set := &Document{Pages: pages.Pages, Title: writer.Info.Title, Findings: s.found.All(), Frames: s.frames, Probed: s.probed(setter.Probe)}
	for _, r := range append(s.spare, s.styles) {
		r.Release()
	}
	return set, nil
}

// parse reads the page, and finds its root and what its addresses are relative to.
func (s *setting) parse(html []byte) (doc, root *markup.Node, err error) {
	html = s.withRunning(html)
	if doc, err = markup.ParseHTML(append(html[:len(html):len(html)], watermark(s.o.Watermark)...)); err != nil {
		return nil, nil, err
	}
	s.html, s.doc = html, doc
	if n := doc.Elements(); n > s.o.Limits.Elements {
		return nil, nil, fmt.Errorf("the page has %d elements; at most %d are allowed", n, s.o.Limits.Elements)
	}
	if doc.TooDeep() {
		s.tell("nesting", Warning, "elements nest deeper than 480 levels; those further in were left out, and what they hold stands in the last one kept", "look for tags that are not closed")
	}
	if root = rootElement(doc); root == nil {
		return nil, nil, errors.New("the page has no element")
	}
	s.base = s.o.Name
	if b := doc.Find("base"); b != nil && b.Has("href") {
		s.base = style.Resolve(s.base, b.Attr("href"))
	}
	return doc, root, nil
}

// equip readies the setter for the last round, whose pages are written: with tags and fields.
func (s *setting) equip(setter *page.Setter, writer *pdf.Writer) {
	if !s.o.Untagged {
		setter.Tags = tag.New()
		setter.Tags.Missing = func(n *markup.Node) {
			s.tellAt(n, "alt-missing", Note, fmt.Sprintf("the picture “%s” has no alternative text; a reader of the page aloud passes it over", pictureName(n)), "give it alt=\"…\", or alt=\"\" when it is decoration")
		}
		writer.Tagged(setter.Tags)
	}
	setter.Fields = map[*markup.Node]bool{}
	if s.o.Fields {
		setter.FillIn = true
		writer.FormFace = s.fonts.Primary(font.Query{Families: []string{"sans-serif"}, Weight: 400, Stretch: 100}).Face
	}
	setter.Final = true
}

// tellClaim tells why the file does not say that it can be read aloud.
func (s *setting) tellClaim(faults []pdf.Fault) {
	if len(faults) == 0 {
		return
	}
	var what, cure []string
	for _, f := range faults {
		what, cure = append(what, f.What), append(cure, f.Cure)
	}
	s.tell("access-unclaimed", Note, "the file does not say that it can be read aloud (PDF/UA-1): "+strings.Join(what, "; "), strings.Join(cure, "; "))
}

// pictureName is what tells one picture from another in a finding.
func pictureName(n *markup.Node) string {
	for _, name := range []string{"src", "data", "id", "class"} {
		if v := n.Attr(name); v != "" && !strings.HasPrefix(v, "data:") {
			return v
		}
	}
	return n.Name
}

// maxRounds bounds how often a document is set whose text depends on its own
// page numbers, or whose styles depend on the size of containers.
const maxRounds = 4

// build makes the box tree. The name of the first page and the root's writing
// mode are known with it only: when they change the page area, which lengths
// may refer to, the tree is made again.
func (s *setting) build(build *box.Builder, root *markup.Node, setter *page.Setter) *box.Box {
	tree := build.Build(root)
	if tree == nil {
		return nil
	}
	env := s.styles.Env()
	if w, h := setter.FirstArea(tree); w != env.Width || h != env.Height {
		env.Width, env.Height = w, h
		s.styles.SetEnv(env)
		tree = build.Build(root)
	}
	return tree
}

// rounds sets the box tree. Text that shows page numbers of the document itself,
// and styles that ask for the size of containers, need to know them: the tree is
// set, without a file, until they hold.
func (s *setting) rounds(build *box.Builder, tree *box.Box, root *markup.Node, setter *page.Setter) (*box.Box, error) {
	for round := 0; (len(build.Watched) > 0 || s.styles.AsksContainers()) && round < maxRounds; round++ {
		places, err := s.onto(pdf.New(io.Discard), build, *setter, tree)
		if err != nil {
			return nil, err
		}
		if build.Known != nil && places.Equal(build.Known) {
			return tree, nil
		}
		build.Known = &places
		s.styles.SetContainers(places.Sizes)
		tree = build.Build(root)
	}
	return tree, nil
}

// onto sets a tree onto the pages of a file.
func (s *setting) onto(w *pdf.Writer, build *box.Builder, setter page.Setter, tree *box.Box) (box.Places, error) {
	setter.Out, setter.Build, setter.Noted, setter.Watched = w, build, build.Noted, build.Watched
	setter.Footnotes = build.Footnotes
	setter.Layout = s.layout(s.styles)
	setter.Elements = &picture.Elements{Base: s.base, Drawing: s.drawing(s.doc, s.styles, s.base)}
	_, err := setter.Set(tree)
	return setter.Places, err
}

// layout sets boxes whose styles a resolver has made.
func (s *setting) layout(styles *style.Resolver) *layout.Layout {
	return &layout.Layout{Fonts: s.fonts, Styles: styles, Watch: s.watch, Tell: func(code, message string, b *box.Box) {
		s.tellAt(nodeOf(b), code, Warning, message, "")
	}, Lacks: func(r rune, b *box.Box) { s.lacking.add(r, nodeOf(b)) }}
}

func nodeOf(b *box.Box) *markup.Node {
	if b == nil {
		return nil
	}
	return b.Node
}

func rootElement(doc *markup.Node) *markup.Node {
	for c := doc.First; c != nil; c = c.Next {
		if c.Kind == markup.Element {
			return c
		}
	}
	return nil
}

func (s *setting) title(doc *markup.Node) string {
	if s.o.Title != "" {
		return s.o.Title
	}
	if head := doc.Find("head"); head != nil {
		if t := head.Find("title"); t != nil {
			return strings.Join(strings.Fields(t.Content()), " ")
		}
	}
	return ""
}

func defaultPaper() style.PageSize {
	p, _ := style.ParsePageSize("A4")
	return p
}

// sheets collects the style sheets of a page in their order.
func (s *setting) sheets(doc *markup.Node) ([]style.Use, error) {
	var list []style.Use
	s.within = map[string]*markup.Node{}
	add := func(parsed *style.Sheet, origin style.Origin, media string, tree *markup.Node) {
		list = append(list, style.Use{Sheet: parsed, Origin: origin, Media: css.ParseValues(media), Tree: tree})
	}
	for _, b := range s.o.UserSheets {
		add(style.ParseSheet(b.Name, b.Name, b.Text), style.User, "", nil)
	}
	var visit func(n, tree *markup.Node) bool
	walk := func(root, tree *markup.Node) {
		root.Walk(func(n *markup.Node) bool { return visit(n, tree) })
	}
	visit = func(n, tree *markup.Node) bool {
		if r := n.ShadowRoot(); r != nil {
			walk(r, r)
		}
		switch n.Name {
		case "style":
			if t := n.Attr("type"); t == "" || strings.EqualFold(t, "text/css") {
				name := fmt.Sprintf("%s#style%d", s.o.Name, len(s.within)+1)
				s.within[name] = n
				add(style.ParseSheet(name, s.base, n.Content()), style.Author, n.Attr("media"), tree)
			}
			return false
		case "link":
			if href := n.Attr("href"); href != "" && hasWord(n.Attr("rel"), "stylesheet") && !hasWord(n.Attr("rel"), "alternate") && !n.Has("disabled") {
				address := style.Resolve(s.base, href)
				text, err := s.loadText(address)
				if err != nil {
					s.tellAt(n, "sheet-missing", Warning, fmt.Sprintf("the style sheet “%s” did not load: %v", href, err), s.advice(href, err))
					return true
				}
				add(style.ParseSheet(address, address, text), style.Author, n.Attr("media"), tree)
			}
		case "math":
			s.tell("math-plain", Warning, "a formula (<math>) is set as plain text, one sign after the other", "show it as a picture, such as SVG")
		case "script":
			if !n.Foreign && n.Parent != nil && (n.Has("src") || strings.TrimSpace(n.Content()) != "") && scriptRuns(n.Attr("type")) {
				s.tell("script", Note, "scripts do not run on paper; what they would add is not there", "")
			}
			return false
		}
		return true
	}
	walk(doc, nil)
	for _, a := range s.o.AuthorSheets {
		add(style.ParseSheet(a.Name, a.Name, a.Text), style.Author, "", nil)
	}
	typed, err := s.typed(s.title(doc))
	if err != nil {
		return nil, err
	}
	if typed != "" {
		add(style.ParseSheet(optionSheet, s.base, typed), style.Author, "", nil)
	}
	return list, nil
}

func scriptRuns(t string) bool {
	t = strings.ToLower(strings.TrimSpace(t))
	return t == "" || t == "module" || strings.Contains(t, "javascript") || strings.Contains(t, "ecmascript")
}

func hasWord(list, w string) bool {
	for f := range strings.FieldsSeq(list) {
		if strings.EqualFold(f, w) {
			return true
		}
	}
	return false
}

// typed turns options into CSS that wins over the page's.
func (s *setting) typed(title string) (string, error) {
	decls, err := s.paper()
	if err != nil {
		return "", err
	}
	first := ""
	for _, m := range s.margins() {
		text, err := s.running(m, m.text, title)
		if err != nil {
			return "", err
		}
		decls += text
		if m.first == "" {
			continue
		}
		if text, err = s.firstRunning(m, title); err != nil {
			return "", err
		}
		first += text
	}
	if decls != "" {
		decls = "@page {" + decls + "}"
	}
	if first != "" {
		decls += "@page :first {" + first + "}"
	}
	return decls, nil
}

// resolve starts the cascade anew with all sheets.
func (s *setting) resolve(sheets []style.Use, env style.Env, notice func(style.Notice)) {
	if s.styles != nil {
		s.spare = append(s.spare, s.styles)
	}
	s.styles = style.Ready(env, s.base, sheets, layout.NewMetrics(s.fonts), s.loadText, notice)
	s.styles.Watch = s.watch
}

// settle resolves the style sheets. Page size and media queries depend on each
// other: when queries asked for the size of a page area that turns out
// different, the sheets are resolved again.
func (s *setting) settle(sheets []style.Use, env style.Env, setter *page.Setter) {
	var notices []style.Notice
	settled := false
	for range 2 {
		asked := false
		env.SizeAsked, notices = &asked, nil
		s.resolve(sheets, env, func(n style.Notice) {
			if settled { // a style attribute, read as its box is made
				s.notice(n)
				return
			}
			notices = append(notices, n)
		})
		setter.Styles = s.styles
		w, h := setter.FirstArea(nil)
		same := w == env.Width && h == env.Height
		env.Width, env.Height = w, h
		if same || !asked {
			break
		}
	}
	s.styles.SetEnv(env)
	for _, n := range append(notices, s.styles.Unset(s.doc)...) {
		s.notice(n)
	}
	settled = true
}

func (s *setting) notice(n style.Notice) {
	sev := Warning
	if n.Code == "css-unsupported" || n.Code == "sheet-skipped" || n.Code == "variable-unset" {
		sev = Note
	}
	if n.Node != nil { // once for each kind, however many elements have it
		if !s.inline[n.Message] {
			s.inline[n.Message] = true
			s.tellAt(n.Node, n.Code, sev, n.Message, "")
		}
		return
	}
	file, line, column := s.inSheet(n.Sheet, n.Line, n.Col)
	s.found.Add(Finding{Code: n.Code, Severity: sev, Message: n.Message, File: file, Line: line, Column: column})
}

// inSheet is where a place of a style sheet stands: in a file of its own, or in the page.
func (s *setting) inSheet(sheet string, line, column int) (file string, _, _ int) {
	if element := s.within[sheet]; element != nil {
		at := markup.After(s.html, s.place(element)).Plus(markup.Place{Line: line, Column: column})
		return s.o.Name, at.Line, at.Column
	}
	return cmp.Or(strings.TrimPrefix(sheet, "/"), s.o.Name), line, column
}
