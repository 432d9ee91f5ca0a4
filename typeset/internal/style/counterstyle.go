package style

import (
	"strings"
	"unicode/utf8"

	"oliveledger/typeset/internal/css"
)

// CounterStyle is one @counter-style rule (CSS Counter Styles 3).
type CounterStyle struct {
	Name           string
	System         string // cyclic, numeric, alphabetic, symbolic, additive, fixed, extends
	First          int    // of fixed
	Extends        string
	Negative       [2]string
	Prefix, Suffix string
	Ranges         [][2]int
	AutoRange      bool
	PadTo          int
	Pad            string
	Fallback       string
	Symbols        []string
	Additive       []weighted
	has            map[string]bool
	generator      func(int) (string, bool) // of the styles that no rule can write
}

type weighted struct {
	weight int
	symbol string
}

const maxInt = 1 << 31

func parseCounterStyle(name string, decls []css.Declaration) *CounterStyle {
	s := &CounterStyle{Name: name, System: "symbolic", Negative: [2]string{"-", ""}, Suffix: ". ", Fallback: "decimal", AutoRange: true, First: 1, has: map[string]bool{}}
	for _, d := range decls {
		w := css.Words(d.Value)
		if len(w) == 0 {
			continue
		}
		if s.descriptor(d.Name, w) {
			s.has[d.Name] = true
		}
	}
	switch s.System {
	case "cyclic", "symbolic", "fixed":
		if len(s.Symbols) < 1 {
			return nil
		}
	case "numeric", "alphabetic":
		if len(s.Symbols) < 2 {
			return nil
		}
	case "additive":
		if len(s.Additive) < 1 {
			return nil
		}
	case "extends":
		if s.has["symbols"] || s.has["additive-symbols"] {
			return nil
		}
	}
	return s
}

func symbolText(t css.Token) (string, bool) {
	if t.Kind == css.String || t.Kind == css.Ident {
		return t.Text, true
	}
	return "", t.Kind == css.URL || t.Kind == css.Function
}

func (s *CounterStyle) descriptor(name string, w []css.Token) bool {
	switch name {
	case "system":
		return s.system(w)
	case "negative":
		t, ok := symbolTexts(w)
		if !ok || len(t) > 2 {
			return false
		}
		s.Negative = [2]string{t[0], ""}
		copy(s.Negative[:], t)
		return true
	case "prefix":
		return oneSymbol(w, &s.Prefix)
	case "suffix":
		return oneSymbol(w, &s.Suffix)
	case "range":
		return s.ranges(w)
	case "pad":
		n, sym, ok := weightedSymbol(w)
		if ok {
			s.PadTo, s.Pad = n, sym
		}
		return ok
	case "fallback":
		if len(w) != 1 || w[0].Kind != css.Ident {
			return false
		}
		s.Fallback = w[0].Text
		return true
	case "symbols":
		t, ok := symbolTexts(w)
		if ok {
			s.Symbols = t
		}
		return ok
	case "additive-symbols":
		return s.additive(w)
	}
	return false
}

// system reads the algorithm (CSS Counter Styles 3, §3).
func (s *CounterStyle) system(w []css.Token) bool {
	k := w[0].Lower()
	switch {
	case k == "fixed" && len(w) == 2 && w[1].Kind == css.Number && w[1].ID:
		s.First = int(w[1].Num)
	case k == "extends" && len(w) == 2 && w[1].Kind == css.Ident:
		s.Extends = w[1].Text
		if predefinedStyles[w[1].Lower()] {
			s.Extends = w[1].Lower()
		}
	case len(w) != 1 || !strings.Contains(" cyclic numeric alphabetic symbolic additive fixed ", " "+k+" "):
		return false
	}
	s.System = k
	return true
}

// ranges reads the numbers that the style is for (§3.5).
func (s *CounterStyle) ranges(w []css.Token) bool {
	if len(w) == 1 && w[0].Is("auto") {
		s.AutoRange = true
		return true
	}
	var ranges [][2]int
	for _, p := range css.Split(w) {
		if len(p) != 2 {
			return false
		}
		r := [2]int{-maxInt, maxInt}
		for i, t := range p {
			if t.Kind == css.Number && t.ID {
				r[i] = int(t.Num)
			} else if !t.Is("infinite") {
				return false
			}
		}
		if r[0] > r[1] {
			return false
		}
		ranges = append(ranges, r)
	}
	s.Ranges, s.AutoRange = ranges, false
	return true
}

// additive reads symbols with their weights, which fall (§3.8).
func (s *CounterStyle) additive(w []css.Token) bool {
	var list []weighted
	for _, p := range css.Split(w) {
		n, sym, ok := weightedSymbol(p)
		if !ok || len(list) > 0 && n >= list[len(list)-1].weight {
			return false
		}
		list = append(list, weighted{n, sym})
	}
	s.Additive = list
	return true
}

// weightedSymbol reads a number from 0 and a symbol, in either order.
func weightedSymbol(w []css.Token) (n int, symbol string, ok bool) {
	if len(w) != 2 {
		return 0, "", false
	}
	number, text := w[0], w[1]
	if number.Kind != css.Number {
		number, text = text, number
	}
	symbol, ok = symbolText(text)
	return int(number.Num), symbol, ok && number.Kind == css.Number && number.ID && number.Num >= 0
}

// symbolTexts reads a list of symbols.
func symbolTexts(w []css.Token) (list []string, ok bool) {
	for _, t := range w {
		x, ok := symbolText(t)
		if !ok {
			return nil, false
		}
		list = append(list, x)
	}
	return list, true
}

// oneSymbol reads a single symbol.
func oneSymbol(w []css.Token, to *string) bool {
	t, ok := symbolTexts(w)
	if !ok || len(t) != 1 {
		return false
	}
	*to = t[0]
	return true
}

// parseSymbols parses the arguments of symbols() (§6.1).
func parseSymbols(args []css.Token) (*CounterStyle, bool) {
	w := css.Words(args)
	s := &CounterStyle{System: "symbolic", Negative: [2]string{"-", ""}, Suffix: " ", Fallback: "decimal", AutoRange: true, First: 1, has: map[string]bool{}}
	if len(w) > 0 && w[0].Kind == css.Ident {
		if !strings.Contains(" cyclic numeric alphabetic symbolic fixed ", " "+w[0].Lower()+" ") {
			return nil, false
		}
		s.System = w[0].Lower()
		w = w[1:]
	}
	for _, t := range w {
		if t.Kind != css.String {
			return nil, false
		}
		s.Symbols = append(s.Symbols, t.Text)
	}
	n := len(s.Symbols)
	return s, n > 1 || n == 1 && s.System != "numeric" && s.System != "alphabetic"
}

// CounterStyles looks styles up: the page's own, then the predefined ones.
type CounterStyles map[string]*CounterStyle

// named is a style as it is written, or nil.
func (m CounterStyles) named(name string) *CounterStyle {
	if s := m[name]; s != nil {
		return s
	}
	return predefined(name)
}

// leadsBack tells whether a style extends itself by way of others (§3.1.7).
func (m CounterStyles) leadsBack(name string) bool {
	seen := map[string]bool{}
	for s := m.named(name); s != nil && s.System == "extends" && !seen[s.Extends]; s = m.named(s.Extends) {
		if s.Extends == name {
			return true
		}
		seen[s.Extends] = true
	}
	return false
}

// find is a style with what it takes from those that it extends, or nil. Styles that extend
// each other extend decimal instead.
func (m CounterStyles) find(name string) *CounterStyle {
	s := m.named(name)
	if s == nil || s.System != "extends" {
		return s
	}
	base := (*CounterStyle)(nil)
	if !m.leadsBack(name) {
		base = m.find(s.Extends)
	}
	if base == nil {
		base = predefined("decimal")
	}
	out := *base
	out.Name = s.Name
	if s.has["negative"] {
		out.Negative = s.Negative
	}
	if s.has["prefix"] {
		out.Prefix = s.Prefix
	}
	if s.has["suffix"] {
		out.Suffix = s.Suffix
	}
	if s.has["range"] {
		out.Ranges, out.AutoRange = s.Ranges, s.AutoRange
	}
	if s.has["pad"] {
		out.PadTo, out.Pad = s.PadTo, s.Pad
	}
	if s.has["fallback"] {
		out.Fallback = s.Fallback
	}
	return &out
}

// Text represents value in the style, without prefix and suffix (§2, §3).
func (m CounterStyles) Text(t ListType, value int) string {
	if t.IsText {
		return t.Text
	}
	s := t.Anon
	if s == nil {
		if t.Name == "none" {
			return ""
		}
		s = m.find(t.Name)
	}
	for depth := 0; s != nil && depth < 20; depth++ {
		if out, ok := s.represent(value); ok {
			return out
		}
		s = m.find(s.Fallback)
	}
	out, _ := predefined("decimal").represent(value)
	return out
}

// Marker is the text of a list marker, with prefix and suffix.
func (m CounterStyles) Marker(t ListType, value int) string {
	if t.IsText {
		return t.Text
	}
	s := t.Anon
	if s == nil {
		if t.Name == "none" {
			return ""
		}
		if s = m.find(t.Name); s == nil {
			s = predefined("decimal")
		}
	}
	return s.Prefix + m.Text(t, value) + s.Suffix
}

func (s *CounterStyle) inRange(v int) bool {
	if s.AutoRange || len(s.Ranges) == 0 {
		switch s.System {
		case "alphabetic", "symbolic":
			return v >= 1
		case "additive":
			return v >= 0
		}
		return true
	}
	for _, r := range s.Ranges {
		if v >= r[0] && v <= r[1] {
			return true
		}
	}
	return false
}

func (s *CounterStyle) represent(v int) (string, bool) {
	if !s.inRange(v) {
		return "", false
	}
	if s.generator != nil {
		return s.generator(v)
	}
	signed := v < 0 && (s.System == "numeric" || s.System == "alphabetic" || s.System == "symbolic" || s.System == "additive")
	a := v
	if signed {
		a = -v
	}
	out, ok := s.initial(a)
	if !ok {
		return "", false
	}
	n := utf8.RuneCountInString(out)
	if signed {
		n += utf8.RuneCountInString(s.Negative[0] + s.Negative[1])
	}
	if s.PadTo > n && s.PadTo < 1000 {
		out = strings.Repeat(s.Pad, s.PadTo-n) + out
	}
	if signed {
		out = s.Negative[0] + out + s.Negative[1]
	}
	return out, true
}

func (s *CounterStyle) initial(v int) (string, bool) {
	n := len(s.Symbols)
	switch s.System {
	case "cyclic":
		return s.Symbols[((v-1)%n+n)%n], true
	case "fixed":
		i := v - s.First
		if i < 0 || i >= n {
			return "", false
		}
		return s.Symbols[i], true
	case "symbolic":
		if v < 1 {
			return "", false
		}
		times := (v + n - 1) / n
		if times > 200 {
			return "", false
		}
		return strings.Repeat(s.Symbols[(v-1)%n], times), true
	case "alphabetic":
		if v < 1 {
			return "", false
		}
		out := ""
		for v > 0 {
			v--
			out = s.Symbols[v%n] + out
			v /= n
		}
		return out, true
	case "numeric":
		if v == 0 {
			return s.Symbols[0], true
		}
		out := ""
		for v > 0 {
			out = s.Symbols[v%n] + out
			v /= n
		}
		return out, true
	case "additive":
		if v == 0 {
			for _, w := range s.Additive {
				if w.weight == 0 {
					return w.symbol, true
				}
			}
			return "", false
		}
		var b strings.Builder
		for _, w := range s.Additive {
			if w.weight == 0 || w.weight > v {
				continue
			}
			times := v / w.weight
			if b.Len()+times > 2000 {
				return "", false
			}
			b.WriteString(strings.Repeat(w.symbol, times))
			v -= times * w.weight
		}
		return b.String(), v == 0
	}
	return "", false
}
