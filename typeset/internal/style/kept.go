package style

import (
	"strconv"
	"sync"

	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
)

// Use is a style sheet of a document with what limits it.
type Use struct {
	Sheet  *Sheet
	Origin Origin
	Media  []css.Token  // media query list; empty for all
	Tree   *markup.Node // the shadow tree that it is limited to, or nil
}

// keptCascades is how many lists of style sheets stay ready for the next document.
const keptCascades = 64

// kept holds resolvers that have done their document, by what they were made
// from. Documents of one template find the rules sorted and most styles
// computed. A resolver belongs to one document at a time; the pools let go of
// those that nobody has asked for in a while.
var kept = memory.Of[string, *sync.Pool](keptCascades)

// mostKept is how many styles a resolver may keep for the next document.
const mostKept = 4000

// Ready gives the resolver of a document: its sheets in their order, base the
// address that style attributes are relative to. notice may be nil. Release it
// when the document is done.
func Ready(env Env, base string, uses []Use, fonts Fonts, load Loader, notice func(Notice)) *Resolver {
	key := cascadeKey(env, base, uses)
	if pool, ok := kept.Get(key); ok {
		if r, ok := pool.Get().(*Resolver); ok {
			if r.again(env, fonts, load, notice) {
				return r
			}
		}
	}
	r := NewResolver(env, fonts, load, notice)
	asked := false
	r.env.SizeAsked = &asked
	r.pageBase, r.key, r.uses = base, key, uses
	r.notice = func(n Notice) {
		r.told = append(r.told, n)
		if notice != nil {
			notice(n)
		}
	}
	for _, u := range uses {
		r.AddSheet(u.Sheet, u.Origin, u.Media, u.Tree)
	}
	r.Finish()
	r.notice = notice
	r.sizeAsked = asked
	r.ask(env)
	return r
}

// again prepares a resolver for its next document. It fails when an imported
// sheet has changed.
func (r *Resolver) again(env Env, fonts Fonts, load Loader, notice func(Notice)) bool {
	r.fonts, r.load, r.notice, r.root = fonts, load, notice, nil
	clear(r.measured)
	clear(r.measuredVariants)
	r.document++
	for _, i := range r.imports {
		if s, _ := r.imported(i.address); s != i.sheet || s == nil { // what did not load is told anew
			return false
		}
	}
	if notice != nil {
		for _, n := range r.told {
			notice(n)
		}
	}
	r.ask(env)
	return true
}

// ask takes the environment of a document, and tells it whether a media query
// looked at its size.
func (r *Resolver) ask(env Env) {
	r.env = env
	if r.sizeAsked && env.SizeAsked != nil {
		*env.SizeAsked = true
	}
}

// Release keeps the resolver for the next document. It must not be used
// afterwards; styles that it gave stay valid.
func (r *Resolver) Release() {
	if len(r.trees) > 0 {
		return
	}
	if r.count > mostKept {
		r.forget()
	}
	r.fonts, r.load, r.notice, r.Watch = nil, nil, nil, nil
	r.matcher, r.shapes.path = matcher{}, nil // they lead to the nodes of the document
	r.contained, r.sizes = nil, nil
	pool, ok := kept.Get(r.key)
	if !ok {
		pool = &sync.Pool{}
		kept.Add(r.key, pool)
	}
	pool.Put(r)
}

// forget drops the computed styles.
func (r *Resolver) forget() {
	clear(r.shared)
	clear(r.variants)
	clear(r.inlined)
	clear(r.replaced)
	r.shapes = shapes{}
	r.count = 0
}

// cascadeKey names what the rules of a document come from. Sheets are kept by
// their content, so that their number stands for it.
func cascadeKey(env Env, base string, uses []Use) string {
	b := append([]byte(env.Medium), ' ')
	b = strconv.AppendFloat(b, env.Width, 'g', -1, 64)
	b = strconv.AppendFloat(append(b, ' '), env.Height, 'g', -1, 64)
	b = append(append(b, ' '), base...)
	for _, u := range uses {
		b = strconv.AppendUint(append(b, 0), u.Sheet.id, 16)
		b = append(b, ' ', byte('0'+u.Origin))
		b = append(b, css.Text(u.Media)...)
	}
	return string(b)
}
