package style

import (
	"maps"
	"slices"
	"strings"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
)

// maxSubstituted bounds what var() may grow a value to, in tokens.
const maxSubstituted = 20000

// hasSubstitution tells whether a value holds var(), env() or attr().
func hasSubstitution(list []css.Token) bool {
	for _, t := range list {
		if t.Kind == css.Function && (t.Text == "var" || t.Text == "env") || t.Kind == css.Function && t.Text == "attr" && len(css.Words(t.Args)) > 1 {
			return true
		}
		if len(t.Args) > 0 && hasSubstitution(t.Args) {
			return true
		}
	}
	return false
}

// validSubstitution checks the var() of a value before it is kept: a name, and
// a fallback that could stand in a declaration (CSS Variables 1, §3).
func validSubstitution(list []css.Token) bool {
	for _, t := range list {
		if t.Kind == css.Function && t.Text == "var" && !validVar(css.Trim(t.Args)) {
			return false
		}
		if !validSubstitution(t.Args) {
			return false
		}
	}
	return true
}

func validVar(args []css.Token) bool {
	if len(args) == 0 || args[0].Kind != css.Ident || !customName(args[0].Text) {
		return false
	}
	rest := css.Trim(args[1:])
	if len(rest) > 0 && rest[0].Kind != css.Comma {
		return false
	}
	for _, t := range rest {
		switch {
		case t.Kind == css.Semicolon, t.Kind == css.BadString, t.Kind == css.BadURL:
			return false
		case t.Kind == css.Delim && strings.ContainsAny(t.Text, "!])}"):
			return false
		}
	}
	return true
}

// customName tells whether a name may be a custom property's; the bare "--" is
// reserved.
func customName(name string) bool { return strings.HasPrefix(name, "--") && len(name) > 2 }

// Get returns the value of a custom property.
func (v *Vars) Get(name string) ([]css.Token, bool) {
	if v == nil {
		return nil, false
	}
	t, ok := v.vals[name]
	return t, ok
}

// resolveVars computes custom properties from the winning declarations, with
// cycles made invalid (CSS Variables 1, §2.3). What has no effect is told.
func resolveVars(parent *Vars, registered registrations, decls map[string][]css.Token, n *markup.Node, tell func(message string)) *Vars {
	out := &Vars{vals: map[string][]css.Token{}}
	if seen := registered.inherited(parent); seen != nil {
		maps.Copy(out.vals, seen.vals)
	}
	r := &varResolver{decls: decls, parent: parent, registered: registered, state: map[string]int{}, done: map[string][]css.Token{}, wrong: map[string]string{}, node: n}
	for name := range decls {
		r.resolve(name)
	}
	for name := range decls {
		if v, ok := r.done[name]; ok {
			out.vals[name] = v
		} else {
			delete(out.vals, name)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(r.wrong)) {
		tell(r.wrong[name])
	}
	return out
}

type varResolver struct {
	decls      map[string][]css.Token
	parent     *Vars
	registered registrations
	state      map[string]int // 1: being resolved, 2: done
	done       map[string][]css.Token
	cyclic     map[string]bool
	stack      []string
	wrong      map[string]string // what is to be told of properties, by their names
	node       *markup.Node
}

func (r *varResolver) resolve(name string) ([]css.Token, bool) {
	list, own := r.decls[name]
	if !own {
		return r.unset(name)
	}
	switch r.state[name] {
	case 2:
		v, ok := r.done[name]
		return v, ok
	case 1: // every property on the cycle is invalid
		if r.cyclic == nil {
			r.cyclic = map[string]bool{}
		}
		for i := len(r.stack) - 1; i >= 0; i-- {
			r.cyclic[r.stack[i]] = true
			if r.stack[i] == name {
				break
			}
		}
		return nil, false
	}
	r.state[name] = 1
	r.stack = append(r.stack, name)
	if w := css.Words(list); len(w) == 1 && w[0].Kind == css.Ident {
		switch wideKeywords[w[0].Lower()] {
		case wideInherit:
			v, ok := r.parent.Get(name)
			if !ok {
				v, ok = r.registered.initialOf(name)
			}
			return r.finish(name, v, ok)
		case wideUnset, wideRevert, wideRevertLayer:
			v, ok := r.unset(name)
			return r.finish(name, v, ok)
		case wideInitial:
			v, ok := r.registered.initialOf(name)
			return r.finish(name, v, ok)
		}
	}
	v, ok := substitute(list, r.resolve, r.node)
	if r.cyclic[name] {
		r.wrong[name], ok = name+" has no effect: its value leads back to itself", false
	}
	reg := r.registered[name]
	if reg == nil {
		return r.finish(name, v, ok)
	}
	if ok && !reg.syntax.accepts(v) {
		r.wrong[name], ok = "“"+css.Text(css.Trim(v))+"” is not of the syntax “"+reg.written+"” of "+name+" and was left out", false
	}
	if !ok { // invalid at computed-value time (Properties and Values API 1, §2.4)
		v, ok = r.unset(name)
	}
	return r.finish(name, v, ok)
}

// finish keeps what a property comes to.
func (r *varResolver) finish(name string, v []css.Token, ok bool) ([]css.Token, bool) {
	r.stack = r.stack[:len(r.stack)-1]
	r.state[name] = 2
	if !ok {
		return nil, false
	}
	r.done[name] = v
	return v, true
}

// unset is the value of a property that the element does not set: its parent's, unless it
// does not inherit, or else the initial one.
func (r *varResolver) unset(name string) ([]css.Token, bool) {
	if v, ok := r.registered.inherited(r.parent).Get(name); ok {
		return v, true
	}
	return r.registered.initialOf(name)
}

// substitute replaces var(), env() and attr() in list; false when the value
// becomes invalid.
func substitute(list []css.Token, get func(string) ([]css.Token, bool), n *markup.Node) ([]css.Token, bool) {
	if !hasSubstitution(list) {
		return list, true
	}
	budget := maxSubstituted
	return replace(list, get, n, &budget)
}

func replace(list []css.Token, get func(string) ([]css.Token, bool), n *markup.Node, budget *int) ([]css.Token, bool) {
	var out []css.Token
	for _, t := range list {
		if *budget--; *budget < 0 {
			return nil, false
		}
		if t.Kind == css.Function && (t.Text == "var" || t.Text == "env" || t.Text == "attr") {
			v, ok := lookup(t, get, n, budget)
			if !ok {
				return nil, false
			}
			*budget -= weight(v, *budget)
			out = append(out, v...)
			continue
		}
		if len(t.Args) > 0 && hasSubstitution(t.Args) {
			args, ok := replace(t.Args, get, n, budget)
			if !ok {
				return nil, false
			}
			t.Args = args
		}
		out = append(out, t)
	}
	return out, true
}

// weight counts the tokens of a value with those inside of functions and blocks, as far as most. A value that
// doubles from property to property shares its parts, and is large all the same for whoever reads it.
func weight(list []css.Token, most int) int {
	n := len(list)
	for i := range list {
		if n > most {
			break
		}
		if len(list[i].Args) > 0 {
			n += weight(list[i].Args, most-n)
		}
	}
	return n
}

func lookup(t css.Token, get func(string) ([]css.Token, bool), n *markup.Node, budget *int) ([]css.Token, bool) {
	args := css.Trim(t.Args)
	var fallback []css.Token
	hasFallback := false
	head := args
	for i, a := range args {
		if a.Kind == css.Comma {
			head, fallback, hasFallback = css.Trim(args[:i]), css.Trim(args[i+1:]), true
			break
		}
	}
	if len(head) == 0 || head[0].Kind != css.Ident {
		return nil, false
	}
	var fb []css.Token
	if hasFallback { // a fallback is part of the value even when it is not used
		var ok bool
		if fb, ok = replace(fallback, get, n, budget); !ok {
			fb, hasFallback = nil, false
		}
	}
	switch t.Text {
	case "var":
		if len(head) != 1 || !strings.HasPrefix(head[0].Text, "--") {
			return nil, false
		}
		if v, ok := get(head[0].Text); ok {
			return v, true
		}
	case "attr":
		if v, ok := attrValue(head, n); ok {
			return v, true
		}
		if !hasFallback && len(css.Words(head)) == 1 {
			return []css.Token{{Kind: css.String}}, true
		}
	}
	return fb, hasFallback
}

// attrValue reads an attribute as the type asked for (CSS Values 5, §7.7).
func attrValue(head []css.Token, n *markup.Node) ([]css.Token, bool) {
	if n == nil {
		return nil, false
	}
	w := css.Words(head)
	v, ok := n.Lookup(w[0].Text)
	if !ok {
		return nil, false
	}
	if len(w) == 1 || w[1].Is("string") || w[1].Is("raw-string") {
		return []css.Token{{Kind: css.String, Text: v}}, true
	}
	if w[1].Kind == css.Function && w[1].Text == "type" {
		return css.Trim(css.ParseValues(v)), true
	}
	toks := css.Trim(css.ParseValues(v))
	if len(toks) != 1 {
		return nil, false
	}
	switch unit := w[1].Lower(); {
	case w[1].IsDelim('%') && toks[0].Kind == css.Number:
		return []css.Token{{Kind: css.Percentage, Num: toks[0].Num}}, true
	case unit == "number" || unit == "integer":
		return toks, toks[0].Kind == css.Number
	case unit == "color":
		_, ok := parseColor(toks[0])
		return toks, ok
	case toks[0].Kind == css.Number && w[1].Kind == css.Ident:
		return []css.Token{{Kind: css.Dimension, Num: toks[0].Num, Unit: unit}}, true
	}
	return nil, false
}
