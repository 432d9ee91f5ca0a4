package style

import (
	_ "embed"
	"errors"
	"net/url"
	"slices"
	"sort"
	"strings"
	"sync"

	"golang.org/x/text/unicode/bidi"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/watch"
)

//go:embed ua.css
var uaCSS string

// Origin of a style sheet (CSS Cascade 5, §6.2).
type Origin int8

const (
	UserAgent Origin = iota
	User
	Author
)

// Fonts gives font measures to relative units.
type Fonts interface {
	Metrics(*Style) Metrics
	InkBelow(s *Style, text string) float64 // how far a text reaches below its baseline, of 1em
}

type plainFonts struct{}

func (plainFonts) InkBelow(*Style, string) float64 { return 0 }

func (plainFonts) Metrics(*Style) Metrics {
	return Metrics{Ex: 0.5, Ch: 0.5, Cap: 0.7, Ic: 1, Ascent: 0.9, Descent: 0.25}
}

// Loader opens a style sheet that @import or a link names.
type Loader func(address string) (text string, err error)

// Notice is told when a part of a sheet has no effect.
type Notice struct {
	Code      string
	Message   string
	Sheet     string
	Line, Col int
	Node      *markup.Node // with the style attribute that it is about, if it is about one
}

// Resolver holds the rules of a document and computes styles from them.
type Resolver struct {
	env      Env
	fonts    Fonts
	load     Loader
	notice   func(Notice)
	rules    []*rule
	index    map[string]*ruleIndex                  // by pseudo-element, "" for none
	trees    map[*markup.Node]map[string]*ruleIndex // of shadow trees, by their root
	ua       map[string]*ruleIndex                  // of the default style sheet, which all resolvers share
	layers   map[string]int                         // full name → order
	layerSeq []string
	root     *Style
	Watch    *watch.Watch
	shared   map[shareKey][]*sharedStyle
	measured map[shareKey][]*sharedStyle // those that depend on the fonts of the document
	inlined  map[string]inlined          // what is written in attributes, by its text
	order    int
	matcher  matcher
	shapes   shapes
	document int // how many the resolver has served
	matched  []*match
	hints    hints                                  // scratch for what attributes stand for
	replaced map[*pending]map[string]map[PropID]any // values after var(), by their text
	wins     []winner                               // scratch of the cascade, by property
	anon     int
	pageBase string

	variants, measuredVariants map[variantKey]*Style // made from those in shared, and in measured

	key       string                  // what a later document finds the resolver by
	uses      []Use                   // held, so that key stays true
	told      []Notice                // of the sheets
	sizeAsked bool                    // by a media query
	queried   bool                    // some rule asks for the size of a container
	contained map[*markup.Node]*Style // the query containers met so far
	sizes     ContainerSizes
	imports   []importedSheet
	count     int // of styles in shared

	registered registrations // custom properties with a type
	customs    customs
	features   map[featureKey][]int
	palettes   map[string][]*PaletteRule
	Faces      []FontFace
	Pages      []PageRule
	Counters   CounterStyles
}

// PageRule is one @page rule, with the rules for its margin boxes.
type PageRule struct {
	Name    string
	Pseudos []string
	Nth     *[2]int
	NthOf   string // the page group that Nth counts in; "" for all pages
	Decls   []Decl
	Margins map[string][]Decl
	Origin  Origin
	Sheet   string // that it stands in
	Order   int
	layer   int
}

type rule struct {
	sel       *css.Selector
	scope     *scope     // of @scope, or nil
	container *container // of @container, or nil
	match
	attribute bool // it asks for an attribute of the element
}

// unscoped stands for the hops of a rule that is not in @scope.
const unscoped = 1 << 30

// match is a block of declarations that holds for an element, with its place in
// the cascade.
type match struct {
	decls  []Decl
	origin Origin
	layer  int
	spec   [3]int32
	hops   int // to the scoping root
	order  int
	inline bool
	hint   bool
	from   *written // nil for what stands in attributes
}

// written is where declarations stand: in a rule of a sheet.
type written struct {
	sheet *Sheet
	rule  *css.Rule
	decls []css.Declaration
}

// ruleIndex finds the rules that may match an element by what its compound
// asks for first.
type ruleIndex struct {
	steady, loose ruleBuckets // those that all elements of a shape agree on, and others
}

type ruleBuckets struct {
	ids, classes, tags map[string][]*rule
	rest               []*rule
}

func newBuckets() ruleBuckets {
	return ruleBuckets{ids: map[string][]*rule{}, classes: map[string][]*rule{}, tags: map[string][]*rule{}}
}

type shareKey struct {
	parent, root  *Style
	hash          uint64
	width, height float64 // of the viewport
}

type sharedStyle struct {
	lang  string
	root  bool
	key   []*Decl // the first declaration of each block
	style *Style
}

// NewResolver starts a resolver with the default style sheet.
func NewResolver(env Env, fonts Fonts, load Loader, notice func(Notice)) *Resolver {
	r := &Resolver{
		env: env, fonts: fonts, load: load, notice: notice, index: map[string]*ruleIndex{}, trees: map[*markup.Node]map[string]*ruleIndex{}, replaced: map[*pending]map[string]map[PropID]any{}, wins: make([]winner, len(properties)),
		layers: map[string]int{}, shared: map[shareKey][]*sharedStyle{}, measured: map[shareKey][]*sharedStyle{}, variants: map[variantKey]*Style{}, measuredVariants: map[variantKey]*Style{}, inlined: map[string]inlined{}, Counters: CounterStyles{},
	}
	ua := defaults()
	r.ua = ua.index
	r.order = ua.order
	r.Pages = slices.Clone(ua.Pages)
	return r
}

// defaults holds the default style sheet, parsed once.
var defaults = sync.OnceValue(func() *Resolver {
	r := &Resolver{index: map[string]*ruleIndex{}, wins: make([]winner, len(properties)), layers: map[string]int{}, Counters: CounterStyles{}}
	r.AddSheet(ParseSheet("default style sheet", "", uaCSS), UserAgent, nil, nil)
	return r
})

// SetEnv changes the viewport.
func (r *Resolver) SetEnv(env Env) { r.env = env }

// styleAttribute stands for the name of a sheet where declarations stand in an attribute.
const styleAttribute = "style attribute"

// inlined is a block of declarations from an attribute.
type inlined struct {
	decls []Decl
	told  []Notice
}

// Env is what media queries see.
func (r *Resolver) Env() Env { return r.env }

func (r *Resolver) tell(s *css.Sheet, pos int, code, message string) {
	if r.notice == nil {
		return
	}
	line, col := s.Line(pos)
	r.notice(Notice{Code: code, Message: message, Sheet: s.Name, Line: line, Col: col})
}

// AddSheet adds a sheet's rules; media limits it. One in a shadow tree holds for
// that tree only.
func (r *Resolver) AddSheet(s *Sheet, origin Origin, media []css.Token, tree *markup.Node) {
	if !MatchMedia(media, r.env) {
		r.tell(s.Sheet, 0, "sheet-skipped", "the style sheet is meant for “"+css.Text(media)+"”, not for this medium, and was left out")
		return
	}
	for _, f := range s.Bad {
		r.tell(s.Sheet, f.Pos, "css-syntax", f.What+" was left out")
	}
	a := &adder{Resolver: r, sheet: s, origin: origin, tree: tree}
	a.early = true
	a.add(s.Rules, nil, "")
}

type adder struct {
	*Resolver
	sheet     *Sheet
	origin    Origin
	tree      *markup.Node // the shadow tree of the sheet, or nil
	scope     *scope       // the @scope around, or nil
	container *container   // the @container around, or nil
	early     bool         // @import is still allowed here
	depth     int
}

func (a *adder) add(rules []css.Rule, parent []css.Selector, layer string) {
	for i := range rules {
		a.one(&rules[i], parent, layer)
	}
}

func (a *adder) one(r *css.Rule, parent []css.Selector, layer string) {
	if r.At != "import" && r.At != "charset" && !(r.At == "layer" && !r.HasBody) {
		a.early = false
	}
	switch r.At {
	case "":
		a.styleRule(r, parent, layer)
	case "media":
		if MatchMedia(r.Prelude, a.env) {
			a.group(r, parent, layer)
		}
	case "supports":
		if MatchSupports(r.Prelude) {
			a.group(r, parent, layer)
		}
	case "layer":
		a.layerRule(r, parent, layer)
	case "import":
		if a.early && a.depth < 12 {
			a.importRule(r, layer)
		}
	case "font-face":
		if f := parseFontFace(r.Decls, a.sheet.base); f.Named {
			a.Faces = append(a.Faces, f)
		}
	case "font-feature-values":
		a.featureValues(r)
	case "font-palette-values":
		a.paletteValues(r)
	case "counter-style":
		a.counterStyle(r)
	case "property":
		a.propertyRule(r)
	case "page":
		a.pageRule(r, layer)
	case "scope":
		a.scopeRule(r, parent, layer)
	case "container":
		a.containerRule(r, parent, layer)
	case "starting-style":
		a.tell(a.sheet.Sheet, r.Pos, "css-unsupported", "@"+r.At+" is not supported and was left out")
	case "charset", "namespace", "keyframes", "-webkit-keyframes", "view-transition", "-ms-viewport", "viewport":
	default:
		if !strings.HasPrefix(r.At, "-") {
			a.tell(a.sheet.Sheet, r.Pos, "css-unsupported", "@"+r.At+" is not supported and was left out")
		}
	}
}

// group adds the contents of a conditional rule; bare declarations inside a
// nested one belong to the parent's selectors.
func (a *adder) group(r *css.Rule, parent []css.Selector, layer string) {
	if len(r.Decls) > 0 && parent != nil {
		a.bodyOf(r, parent, layer)
		return
	}
	a.add(r.Rules, parent, layer)
}

func (a *adder) layerRule(r *css.Rule, parent []css.Selector, layer string) {
	names := css.Split(r.Prelude)
	full := func(list []css.Token) string {
		n := strings.ReplaceAll(css.Text(css.Words(list)), "/**/", "")
		if layer != "" {
			n = layer + "." + n
		}
		return n
	}
	if !r.HasBody {
		for _, n := range names {
			a.layer(full(n))
		}
		return
	}
	name := ""
	if len(css.Words(r.Prelude)) == 0 {
		a.anon++
		name = full([]css.Token{{Kind: css.Ident, Text: "(" + strings.Repeat("i", a.anon)}})
	} else {
		name = full(r.Prelude)
	}
	a.layer(name)
	a.group(r, parent, name)
}

// layer gives a layer and its parents their place in the order of first use.
func (r *Resolver) layer(name string) {
	parts := strings.Split(name, ".")
	for i := range parts {
		n := strings.Join(parts[:i+1], ".")
		if _, ok := r.layers[n]; !ok {
			r.layers[n] = 0
			r.layerSeq = append(r.layerSeq, n)
		}
	}
}

// sortLayers numbers the layers: a layer comes after its sublayers, siblings
// come in order of first use, and no layer comes last (Cascade 5, §6.4.3).
func (r *Resolver) sortLayers() {
	children := map[string][]string{}
	for _, n := range r.layerSeq {
		p := ""
		if i := strings.LastIndex(n, "."); i >= 0 {
			p = n[:i]
		}
		children[p] = append(children[p], n)
	}
	n := 0
	var walk func(string)
	walk = func(p string) {
		for _, c := range children[p] {
			walk(c)
			n++
			r.layers[c] = n
		}
	}
	walk("")
	r.layers[""] = 1 << 20
}

func (a *adder) importRule(r *css.Rule, layer string) {
	w := css.Words(r.Prelude)
	if len(w) == 0 {
		return
	}
	v := &values{list: w, base: a.sheet.base}
	address, ok := v.url()
	if !ok {
		s, isText := v.str()
		if !isText {
			return
		}
		address = Resolve(a.sheet.base, s)
	}
	if t := v.peek(); t.Is("layer") || t.Kind == css.Function && t.Text == "layer" {
		v.pos++
		sub := &css.Rule{At: "layer", Prelude: t.Args, HasBody: true}
		name := strings.ReplaceAll(css.Text(css.Words(sub.Prelude)), "/**/", "")
		if name == "" {
			a.anon++
			name = "(" + strings.Repeat("i", a.anon)
		}
		if layer != "" {
			name = layer + "." + name
		}
		a.layer(name)
		layer = name
	}
	if t := v.peek(); t.Kind == css.Function && t.Text == "supports" {
		v.pos++
		args := t.Args
		if !MatchSupports(args) && !MatchSupports([]css.Token{{Kind: css.Paren, Args: args}}) {
			return
		}
	}
	media := w[v.pos:]
	if !MatchMedia(media, a.env) {
		a.tell(a.sheet.Sheet, r.Pos, "sheet-skipped", "the imported style sheet "+address+" is meant for “"+css.Text(media)+"” and was left out")
		return
	}
	if a.load == nil {
		return
	}
	imported, err := a.imported(address)
	a.imports = append(a.imports, importedSheet{address, imported})
	if err != nil {
		a.tell(a.sheet.Sheet, r.Pos, "sheet-missing", "the imported style sheet "+address+" could not be read: "+err.Error())
		return
	}
	sub := &adder{Resolver: a.Resolver, tree: a.tree, scope: a.scope, sheet: imported, origin: a.origin, early: true, depth: a.depth + 1}
	sub.add(sub.sheet.Rules, nil, layer)
}

// importedSheet is what an @import rule led to; nil when it did not load.
type importedSheet struct {
	address string
	sheet   *Sheet
}

func (r *Resolver) imported(address string) (*Sheet, error) {
	text, err := r.load(address)
	if err != nil {
		return nil, err
	}
	return ParseSheet(address, address, text), nil
}

// Supported pseudo-elements; rules for others are parsed but match nothing.
func (a *adder) styleRule(r *css.Rule, parent []css.Selector, layer string) {
	sels, err := a.sheet.selectorsOf(r, parent != nil || a.scope != nil)
	if errors.Is(err, css.ErrForeign) {
		return
	}
	if err != nil {
		a.tell(a.sheet.Sheet, r.Pos, "css-selector", "the rule “"+css.Text(r.Prelude)+"” was left out: "+err.Error()+" is not understood")
		return
	}
	if parent != nil && !a.scope.holds(parent) {
		sels = nest(sels, parent)
	}
	a.bodyOf(r, sels, layer)
}

// bodyOf adds a rule's declarations and nested rules in their order.
func (a *adder) bodyOf(r *css.Rule, sels []css.Selector, layer string) {
	done := 0
	for i := range r.Rules {
		if b := r.DeclsBefore[i]; b > done {
			a.declare(r, r.Decls[done:b], sels, layer)
			done = b
		}
		a.one(&r.Rules[i], sels, layer)
	}
	a.declare(r, r.Decls[done:], sels, layer)
}

func (a *adder) declare(r *css.Rule, decls []css.Declaration, sels []css.Selector, layer string) {
	if len(decls) == 0 {
		return
	}
	list, from := a.ruleDecls(decls, sels), &written{a.sheet, r, decls}
	for i := range sels {
		a.order++
		a.addRule(&rule{sel: &sels[i], scope: a.scope, container: a.container, match: match{hops: unscoped, decls: list, origin: a.origin, order: a.order, layer: a.layerRef(layer), spec: sels[i].Specificity, from: from}})
	}
}

// layerRef keeps the layer's place in layerSeq until the order is known.
func (r *Resolver) layerRef(layer string) int {
	if layer == "" {
		return -1
	}
	return slices.Index(r.layerSeq, layer)
}

// ruleDecls gives the declarations of a rule for sels, or for pages, and notes the custom properties in them.
func (a *adder) ruleDecls(decls []css.Declaration, sels []css.Selector) []Decl {
	a.customs.add(decls, askedCustom{sheet: a.sheet.Sheet, sels: sels})
	return a.parseDecls(decls)
}

// parseDecls gives the declarations that are understood and tells of the rest.
func (a *adder) parseDecls(decls []css.Declaration) []Decl {
	if len(decls) == 0 {
		return nil
	}
	b := a.sheet.blockOf(decls)
	for _, d := range b.dropped {
		if a.origin == UserAgent {
			break
		}
		what := "the property “" + d.Name + "” is not known"
		if d.BadValue {
			what = "the value “" + d.Value + "” of " + d.Name + " is not understood"
		}
		what += " and was left out"
		if name, _, _ := strings.Cut(d.Value, " "); d.BadValue && customName(name) {
			what += " — write var(" + name + ")"
		}
		a.tell(a.sheet.Sheet, d.pos, "css-unsupported", what)
	}
	return b.decls
}

func (a *adder) addRule(x *rule) {
	a.rules = append(a.rules, x)
	x.attribute = slices.ContainsFunc(x.sel.Compounds[len(x.sel.Compounds)-1].Tests, func(t css.Test) bool { return t.Kind == css.TestAttr })
	index := a.index
	if a.tree != nil {
		if index = a.trees[a.tree]; index == nil {
			index = map[string]*ruleIndex{}
			a.trees[a.tree] = index
		}
	}
	ix := index[x.sel.Pseudo]
	if ix == nil {
		ix = &ruleIndex{steady: newBuckets(), loose: newBuckets()}
		index[x.sel.Pseudo] = ix
	}
	if x.scope == nil && x.container == nil && steady(x.sel) {
		ix.steady.add(x)
	} else {
		ix.loose.add(x)
	}
}

func (ix *ruleBuckets) add(x *rule) {
	last := &x.sel.Compounds[len(x.sel.Compounds)-1]
	for _, t := range last.Tests {
		if t.Kind == css.TestID {
			ix.ids[t.Name] = append(ix.ids[t.Name], x)
			return
		}
	}
	for _, t := range last.Tests {
		if t.Kind == css.TestClass {
			ix.classes[t.Name] = append(ix.classes[t.Name], x)
			return
		}
	}
	if last.Tag != "" && last.Tag != "*" {
		ix.tags[last.Tag] = append(ix.tags[last.Tag], x)
		return
	}
	ix.rest = append(ix.rest, x)
}

// nest joins nested selectors to their parents (CSS Nesting 1, §3.1).
func nest(sels, parent []css.Selector) []css.Selector {
	parent = slices.DeleteFunc(slices.Clone(parent), func(s css.Selector) bool { return s.Pseudo != "" }) // & cannot stand for them
	out := make([]css.Selector, 0, len(sels))
	for _, s := range sels {
		uses := usesNesting(s)
		is := css.Test{Kind: css.TestPseudo, Name: "is", List: parent}
		var most [3]int32
		for _, p := range parent {
			if css.Less(most, p.Specificity) {
				most = p.Specificity
			}
		}
		n := s
		n.Compounds = append([]css.Compound(nil), s.Compounds...)
		if uses {
			times := int32(0)
			n.Compounds, times = replaceNesting(n.Compounds, is)
			for i := range most {
				n.Specificity[i] += most[i] * times
			}
			if s.Relative {
				uses = false
			}
		}
		if !uses {
			if !s.Relative || n.Compounds[0].Comb == css.None {
				n.Compounds[0].Comb = css.Descendant
			}
			n.Compounds = append([]css.Compound{{Tests: []css.Test{is}}}, n.Compounds...)
			for i := range most {
				n.Specificity[i] += most[i]
			}
		}
		n.Relative = false
		out = append(out, n)
	}
	return out
}

func usesNesting(s css.Selector) bool {
	return hasTest(s, func(t css.Test) bool { return t.Kind == css.TestNesting })
}

// hasTest tells whether a selector, or one inside it, has such a test.
func hasTest(s css.Selector, is func(css.Test) bool) bool {
	for _, c := range s.Compounds {
		for _, t := range c.Tests {
			if is(t) {
				return true
			}
			for _, l := range t.List {
				if hasTest(l, is) {
					return true
				}
			}
		}
	}
	return false
}

func replaceNesting(list []css.Compound, is css.Test) ([]css.Compound, int32) {
	times := int32(0)
	out := append([]css.Compound(nil), list...)
	for i := range out {
		tests := append([]css.Test(nil), out[i].Tests...)
		for j := range tests {
			if tests[j].Kind == css.TestNesting {
				tests[j] = is
				times++
				continue
			}
			if len(tests[j].List) > 0 {
				subs := append([]css.Selector(nil), tests[j].List...)
				for k := range subs {
					var n int32
					subs[k].Compounds, n = replaceNesting(subs[k].Compounds, is)
					times += n
				}
				tests[j].List = subs
			}
		}
		out[i].Tests = tests
	}
	return out, times
}

// Resolve makes an address absolute against base. Addresses are slash paths
// or URLs.
func Resolve(base, ref string) string {
	ref = strings.TrimSpace(ref)
	if ref == "" {
		return base
	}
	if strings.HasPrefix(ref, "data:") || strings.HasPrefix(ref, "#") {
		return ref
	}
	b, err := url.Parse(base)
	if err != nil {
		return ref
	}
	u, err := url.Parse(ref)
	if err != nil {
		return ref
	}
	return b.ResolveReference(u).String()
}

func firstStrong(s string) string {
	for _, r := range s {
		p, _ := bidi.LookupRune(r)
		switch p.Class() {
		case bidi.L:
			return "ltr"
		case bidi.R, bidi.AL:
			return "rtl"
		}
	}
	return "ltr"
}

// Finish is called once, after the last sheet.
func (r *Resolver) Finish() {
	r.sortLayers()
	rank := func(ref int) int {
		if ref < 0 {
			return r.layers[""]
		}
		return r.layers[r.layerSeq[ref]]
	}
	for _, x := range r.rules {
		x.layer = rank(x.layer)
	}
	for i := range r.Pages {
		r.Pages[i].layer = rank(r.Pages[i].layer)
	}
	sort.SliceStable(r.Pages, func(i, j int) bool {
		a, b := &r.Pages[i], &r.Pages[j]
		if a.Origin != b.Origin {
			return a.Origin < b.Origin
		}
		if a.layer != b.layer {
			return a.layer < b.layer
		}
		if x, y := a.specificity(), b.specificity(); x != y {
			return css.Less(x, y)
		}
		return a.Order < b.Order
	})
}

// Fonts gives the measures of the document's fonts.
func (r *Resolver) Fonts() Fonts { return r.fonts }

// counterStyle takes in a counter style, unless it has the name of one that cannot be written anew (Counter Styles 3, §2).
func (a *adder) counterStyle(r *css.Rule) {
	w := css.Words(r.Prelude)
	if len(w) != 1 || w[0].Kind != css.Ident {
		return
	}
	name := w[0].Text
	if predefinedStyles[strings.ToLower(name)] {
		name = strings.ToLower(name)
	}
	switch name {
	case "decimal", "disc", "none", "square", "circle", "disclosure-open", "disclosure-closed":
		if a.origin != UserAgent {
			return
		}
	}
	if cs := parseCounterStyle(name, r.Decls); cs != nil {
		a.Counters[name] = cs
	}
}
