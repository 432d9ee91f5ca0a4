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
	Files           []FontFile // src, in its order
	Weight, Stretch [2]float64 // from and to; stretch in percent
	Italic          bool
	Ranges          [][2]rune // unicode-range; nil for all characters
}

// parseFontFace reads the descriptors of a rule; base is what its addresses are
// relative to.
func parseFontFace(decls []css.Declaration, base string) FontFace {
	f := FontFace{Weight: [2]float64{400, 400}, Stretch: [2]float64{100, 100}}
	for _, d := range decls {
		w := css.Words(d.Value)
		switch d.Name {
		case "font-family":
			v := &values{list: w}
			if fam, ok := parseFamilies(v); ok && v.done() {
				f.Family = fam(nil)[0]
			}
		case "src":
			f.Files = fontSources(d.Value, base)
		case "font-weight":
			f.Weight = weightRange(d.Value)
		case "font-stretch", "font-width":
			f.Stretch = stretchRange(d.Value)
		case "font-style":
			f.Italic = len(w) > 0 && (w[0].Is("italic") || w[0].Is("oblique"))
		case "unicode-range":
			f.Ranges = unicodeRanges(css.Text(d.Value))
		}
	}
	return f
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
