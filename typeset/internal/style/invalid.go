package style

import "oliveledger/typeset/internal/css"

// tellInvalid tells of a value that does not suit its property once its references are replaced.
func (c *Computer) tellInvalid(p *pending, value []css.Token) {
	bad := unknown(css.Declaration{Name: p.prop, Value: value})
	if bad == nil || c.isZero(value) {
		return
	}
	message := "“" + bad.Value + "”, which “" + p.prop + ": " + css.Text(p.tokens) + "” comes to, is not understood and was left out"
	if p.sheet.Name == styleAttribute {
		c.tellOfNode(message)
	} else {
		c.resolver.tell(p.sheet.Sheet, p.pos, "css-unsupported", message)
	}
}

// isZero tells whether a value works out to a plain zero, such as calc(-1 * 0), where a length is
// asked for: it is left out as the standard has it, but what comes instead is mostly zero, too.
func (c *Computer) isZero(value []css.Token) bool {
	v := &values{list: css.Words(value)}
	worked := v.peek().Kind == css.Function
	n, ok := v.number(false)
	return worked && ok && v.done() && n(c) == 0
}

// tellOfNode tells what has no effect on the element, whichever declaration it comes from.
func (c *Computer) tellOfNode(message string) {
	if c.resolver.notice != nil {
		c.resolver.notice(Notice{Code: "css-unsupported", Message: message, Node: c.node})
	}
}
