package style

import (
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// container is what an @container rule asks of the query container around an element
// (Conditional Rules 5, §4).
type container struct {
	name  string // "" for any
	query []css.Token
	asks  axes       // that the query looks at
	up    *container // the rule around
}

// ContainerSizes are the content boxes of query containers, in px, as the last round
// of layout has them.
type ContainerSizes map[*markup.Node][2]float64

// AsksContainers tells whether some style depends on the size of a container of the
// document, which only layout can tell.
func (r *Resolver) AsksContainers() bool {
	if r.queried {
		for _, s := range r.contained {
			if s.Container != Normal {
				return true
			}
		}
	}
	return false
}

// SetContainers gives the sizes that queries look at. Without one, a container
// fulfils no query.
func (r *Resolver) SetContainers(sizes ContainerSizes) { r.sizes = sizes }

// containerRule adds the rules of @container.
func (a *adder) containerRule(r *css.Rule, parent []css.Selector, layer string) {
	c, ok := parseContainer(css.Words(r.Prelude))
	if !ok {
		a.tell(a.sheet.Sheet, r.Pos, "css-unsupported", "@container "+css.Text(r.Prelude)+" is not understood and was left out")
		return
	}
	for _, t := range c.query {
		if t.Kind == css.Function {
			a.tell(a.sheet.Sheet, r.Pos, "css-unsupported", "@container asks for "+t.Text+"(), which is not supported and does not hold")
		}
	}
	c.up = a.container
	a.queried = true
	inner := *a
	inner.container = c
	inner.group(r, parent, layer)
}

// parseContainer reads "name? condition".
func parseContainer(w []css.Token) (*container, bool) {
	c := &container{}
	if len(w) > 0 && w[0].Kind == css.Ident && !w[0].Is("not") {
		c.name, w = w[0].Text, w[1:]
		if w0 := strings.ToLower(c.name); w0 == "none" || w0 == "and" || w0 == "or" {
			return nil, false
		}
	}
	c.query, c.asks = w, asked(w)
	if len(w) == 0 {
		return c, c.name != ""
	}
	return c, condition(w, true, func(t css.Token) tri { return containerFeature(t, Env{Width: 1, Height: 1}, false) }) != syntaxError
}

// fulfilled tells whether the containers around n, or n itself for a pseudo-element,
// are as an @container rule and those around it ask.
func (r *Resolver) fulfilled(c *container, n *markup.Node, pseudo bool) bool {
	for ; c != nil; c = c.up {
		if !r.holds(c, n, pseudo) {
			return false
		}
	}
	return true
}

func (r *Resolver) holds(c *container, n *markup.Node, pseudo bool) bool {
	n = r.containerOf(n, pseudo, c.name, c.asks)
	if n == nil || len(c.query) == 0 {
		return n != nil
	}
	size, known := r.sizes[n]
	if !known {
		return false
	}
	s := r.contained[n]
	env := Env{Width: size[0], Height: size[1], em: s.FontSize}
	return condition(c.query, true, func(t css.Token) tri { return containerFeature(t, env, s.WritingMode.Vertical()) }) == yes
}

// axes are the sizes that something looks at.
type axes struct{ width, height, inline, block bool }

// heldBy tells whether the element of style s is contained in all of them.
func (a axes) heldBy(s *Style) bool {
	if s.WritingMode.Vertical() {
		a.width, a.height = a.height, a.width
	}
	if a.height || a.block {
		return s.Container == SizeKey
	}
	return !(a.width || a.inline) || s.Container != Normal
}

// containerOf finds the container that n, or a pseudo-element of n, looks at: the
// nearest around it that has the name and is contained in the axes asked for.
func (r *Resolver) containerOf(n *markup.Node, pseudo bool, name string, a axes) *markup.Node {
	if n != nil && !pseudo {
		n = n.Parent
	}
	for ; n != nil; n = n.Parent {
		s := r.contained[n]
		if s != nil && (name == "" || slices.Contains(s.ContainerNames, name)) && a.heldBy(s) {
			return n
		}
	}
	return nil
}

// containerUnit gives a hundredth of the container's width or height; the page's
// where there is no container (§5).
func (c *Computer) containerUnit(height bool) float64 {
	r := c.resolver
	c.apart, r.queried = true, true
	axis, page := 0, r.env.Width
	if height {
		axis, page = 1, r.env.Height
	}
	if n := r.containerOf(c.node, c.pseudo, "", axes{width: !height, height: height}); n != nil {
		if size, known := r.sizes[n]; known {
			return size[axis] / 100
		}
	}
	return page / 100
}

// asked tells which sizes a query looks at.
func asked(list []css.Token) (a axes) {
	for _, t := range list {
		if t.Kind == css.Ident {
			switch _, name := prefixed(t.Lower()); name {
			case "width":
				a.width = true
			case "height":
				a.height = true
			case "inline-size":
				a.inline = true
			case "block-size":
				a.block = true
			case "aspect-ratio", "orientation":
				a.width, a.height = true, true
			}
		}
		in := asked(t.Args)
		a = axes{a.width || in.width, a.height || in.height, a.inline || in.inline, a.block || in.block}
	}
	return a
}

// containerFeature judges one part of a query, whose features are those of media
// queries, and two more. What is no size, such as style(), is not known.
func containerFeature(t css.Token, env Env, vertical bool) tri {
	if t.Kind != css.Paren {
		if t.Kind == css.Function {
			return unknownTruth
		}
		return syntaxError
	}
	if asked(t.Args) == (axes{}) {
		return unknownTruth
	}
	t.Args = slices.Clone(t.Args)
	for at := range t.Args {
		a := &t.Args[at]
		if a.Kind != css.Ident {
			continue
		}
		prefix, name := prefixed(a.Lower())
		switch {
		case name == "inline-size" && !vertical, name == "block-size" && vertical:
			a.Text = prefix + "width"
		case name == "inline-size", name == "block-size":
			a.Text = prefix + "height"
		}
	}
	return mediaFeature(t, env)
}

// contain notes the style of an element that is a query container.
func (r *Resolver) contain(n *markup.Node, s *Style) {
	if s.Container == Normal && len(s.ContainerNames) == 0 {
		return
	}
	if r.contained == nil {
		r.contained = map[*markup.Node]*Style{}
	}
	r.contained[n] = s
}

// parseContainerNames reads container-name.
func parseContainerNames(v *values) (spec[[]string], bool) {
	if v.word("none") {
		return fixed[[]string](nil), true
	}
	var names []string
	for !v.done() && v.peek().Kind == css.Ident {
		names = append(names, v.next().Text)
	}
	return fixed(names), len(names) > 0
}

func defineContainers() {
	words("container-type", false, "normal size inline-size", func(s *Style) *Keyword { return &s.Container })
	define("container-name", false, func(s *Style) *[]string { return &s.ContainerNames }, parseContainerNames)
	short("container", "container-name container-type", func(v *values, set func(string, any)) bool {
		names, ok := parseContainerNames(v)
		if !ok {
			return false
		}
		set("container-name", names)
		if v.delim('/') {
			k, ok := byName["container-type"].parse(v)
			if !ok {
				return false
			}
			set("container-type", k)
		}
		return true
	})
}
