package style

import "oliveledger/typeset/internal/css"

// tellInvalid tells of a value that does not suit its property once its references are replaced.
func (c *Computer) tellInvalid(p *pending, value []css.Token) {
	bad := unknown(css.Declaration{Name: p.prop, Value: value})
	if bad == nil {
		return
	}
	message := "“" + bad.Value + "”, which “" + p.prop + ": " + css.Text(p.tokens) + "” comes to, is not understood and was left out"
	if p.sheet.Name == styleAttribute {
		c.tellOfNode(message)
	} else {
		c.resolver.tell(p.sheet.Sheet, p.pos, "css-unsupported", message)
	}
}

// tellOfNode tells what has no effect on the element, whichever declaration it comes from.
func (c *Computer) tellOfNode(message string) {
	if c.resolver.notice != nil {
		c.resolver.notice(Notice{Code: "css-unsupported", Message: message, Node: c.node})
	}
}
