package style

import (
	"slices"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
)

// FontFace is one @font-face rule (CSS Fonts 4, §4).
type FontFace struct {
	Family          string
	Named           bool       // by whatever name: even an empty one
	Files           []FontFile // src, in its order
	Weight, Stretch [2]float64 // from and to; stretch in percent
	Italic          bool
	Slant           [2]float64 // degrees that an oblique face leans, from and to
	AutoWeight      bool       // the file tells, if it varies
	AutoWidth       bool
	AutoSlant       bool
	Features        []Feature
	Ranges          [][2]rune // unicode-range; nil for all characters
}

// parseFontFace reads the descriptors of a rule; base is what its addresses are
// relative to.
func parseFontFace(decls []css.Declaration, base string) FontFace {
	f := FontFace{Weight: [2]float64{400, 400}, Stretch: [2]float64{100, 100}, AutoWeight: true, AutoWidth: true, AutoSlant: true}
	for _, d := range decls {
		w := css.Words(d.Value)
		switch d.Name {
		case "font-family":
			v := &values{list: w}
			if fam, ok := parseFamilies(v); ok && v.done() {
				f.Family, f.Named = fam(nil)[0], true
			}
		case "src":
			f.Files = fontSources(d.Value, base)
		case "font-weight":
			f.Weight, f.AutoWeight = weightRange(d.Value), len(w) == 1 && w[0].Is("auto")
		case "font-stretch", "font-width":
			f.Stretch, f.AutoWidth = stretchRange(d.Value), len(w) == 1 && w[0].Is("auto")
		case "font-style":
			f.fontStyle(w)
		case "font-feature-settings":
			if list, ok := parseFeatures(&values{list: w}); ok {
				f.Features = list(nil)
			}
		case "unicode-range":
			f.Ranges = unicodeRanges(css.Text(d.Value))
		}
	}
	return f
}

// fontStyle reads font-style, whose range of angles is for files that vary (§4.4).
func (f *FontFace) fontStyle(w []css.Token) {
	if len(w) == 0 {
		return
	}
	f.AutoSlant = w[0].Is("auto")
	f.Italic = w[0].Is("italic") || w[0].Is("oblique")
	v := &values{list: w[1:]}
	from, ok := v.angle()
	if !ok || !w[0].Is("oblique") {
		return
	}
	to, ok := v.angle()
	if !ok {
		return
	}
	c := &Computer{S: &Style{}}
	a, b := from(c), to(c)
	f.Slant, f.Italic = [2]float64{min(a, b), max(a, b)}, false
}

// FontFile is one entry of a @font-face rule's src.
type FontFile struct {
	URL   string
	Local string
}

// fontSources parses src (CSS Fonts 4, §4.3) and leaves out formats that
// cannot be read.
func fontSources(list []css.Token, base string) []FontFile {
	var out []FontFile
	for _, part := range css.Split(list) {
		v := &values{list: css.Words(part), base: base}
		if t := v.peek(); t.Kind == css.Function && t.Text == "local" {
			var words []string
			for _, a := range css.Words(t.Args) {
				words = append(words, a.Text)
			}
			out = append(out, FontFile{Local: strings.Join(words, " ")})
			continue
		}
		u, ok := v.url()
		if !ok {
			continue
		}
		usable := true
		for !v.done() {
			t := v.next()
			if t.Kind == css.Function && t.Text == "format" && len(css.Words(t.Args)) > 0 {
				switch strings.ToLower(css.Words(t.Args)[0].Text) {
				case "truetype", "opentype", "woff", "woff2", "truetype-variations", "opentype-variations", "woff-variations", "woff2-variations", "collection":
				default:
					usable = false
				}
			}
		}
		if usable {
			out = append(out, FontFile{URL: u})
		}
	}
	return out
}

func weightRange(list []css.Token) [2]float64 {
	var v []float64
	for _, t := range css.Words(list) {
		switch {
		case t.Kind == css.Number:
			v = append(v, t.Num)
		case t.Is("bold"):
			v = append(v, 700)
		case t.Is("normal"):
			v = append(v, 400)
		}
	}
	return spanned(v, 400)
}

func stretchRange(list []css.Token) [2]float64 {
	var v []float64
	for _, t := range css.Words(list) {
		if t.Kind == css.Percentage {
			v = append(v, t.Num)
		} else if w, ok := fontStretches[t.Lower()]; ok {
			v = append(v, w)
		}
	}
	return spanned(v, 100)
}

// spanned is the range of one or two values; of any other number, it is the usual one.
func spanned(v []float64, usual float64) [2]float64 {
	if len(v) != 1 && len(v) != 2 {
		v = []float64{usual}
	}
	return [2]float64{slices.Min(v), slices.Max(v)}
}

// unicodeRanges parses unicode-range (CSS Syntax 3, §7).
func unicodeRanges(text string) [][2]rune {
	var out [][2]rune
	for part := range strings.SplitSeq(strings.ReplaceAll(text, "/**/", ""), ",") {
		part = strings.ToUpper(strings.TrimSpace(part))
		part = strings.TrimPrefix(part, "U+")
		lo, hi, isRange := strings.Cut(part, "-")
		if !isRange {
			hi = strings.ReplaceAll(lo, "?", "F")
			lo = strings.ReplaceAll(lo, "?", "0")
		}
		a, err := strconv.ParseInt(lo, 16, 32)
		b, err2 := strconv.ParseInt(hi, 16, 32)
		if err == nil && err2 == nil {
			out = append(out, [2]rune{rune(a), rune(b)})
		}
	}
	return out
}
