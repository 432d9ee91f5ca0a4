package box

import "oliveledger/typeset/internal/style"

// ruby makes pairs of the children of a ruby element: a base and the
// annotation that follows it (CSS Ruby 1, §2). Each is an atomic inline of two
// blocks.
func (b *Builder) ruby(kids []*Box, s *style.Style) []*Box {
	var out, base []*Box
	for _, k := range kids {
		if k.Node == nil || k.Node.Name != "rt" || k.Kind != Element || k.Rare().Pseudo != "" {
			if k.Kind == Text && k.Text != "" && blank(k) && len(base) == 0 {
				continue // white space between pairs
			}
			base = append(base, k)
			continue
		}
		centred := *style.Anonymous(s, style.Display{Outer: style.Block, Inner: style.FlowRoot})
		centred.TextAlign, centred.TextIndent = style.Center, style.Indent{}
		under := &Box{Style: &centred, Anon: true, Children: base}
		over := *k.Style
		over.Display, over.TextIndent = style.Display{Outer: style.Block, Inner: style.FlowRoot}, style.Indent{}
		k.Style = &over
		pair := style.Anonymous(s, style.Display{Outer: style.Inline, Inner: style.Ruby})
		out = append(out, &Box{Style: pair, Node: k.Node.Parent, rare: &Rare{Pseudo: "ruby"}, Children: []*Box{under, k}})
		base = nil
	}
	return append(out, base...)
}
