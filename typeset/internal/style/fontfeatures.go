package style

import (
	"fmt"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
)

// alternate is one name that font-variant-alternates asks for, such as
// swash(fancy); @font-feature-values gives it numbers (CSS Fonts 4, §6.8).
type alternate struct{ kind, name string }

var alternateKinds = map[string]bool{"stylistic": true, "styleset": true, "character-variant": true, "swash": true, "ornaments": true, "annotation": true}

// parseAlternate reads the names of one function. Only stylesets and character
// variants take several.
func parseAlternate(t css.Token) (list []alternate, ok bool) {
	for _, part := range css.Split(t.Args) {
		in := &values{list: css.Words(part)}
		name, ok := in.customIdent("")
		if !ok || !in.done() {
			return nil, false
		}
		list = append(list, alternate{t.Text, strings.ToLower(name)})
	}
	many := t.Text == "styleset" || t.Text == "character-variant"
	return list, len(list) == 1 || many && len(list) > 1
}

// AsksVariants tells whether some font-variant property but that for caps asks for
// features.
func (s *Style) AsksVariants() bool {
	for _, list := range s.FontVariants {
		if len(list) > 0 {
			return true
		}
	}
	return false
}

// EmojiVariant is font-variant-emoji; "" for normal.
func (s *Style) EmojiVariant() string {
	if list := s.FontVariants[len(variantGroups)-1]; len(list) > 0 {
		return list[0]
	}
	return ""
}

// VariantFeatures are the features that the font-variant properties but that for caps ask for.
func (s *Style) VariantFeatures() (list []string) {
	for _, group := range s.FontVariants[:len(variantGroups)-1] {
		list = append(list, group...)
	}
	return list
}

// featureKey finds the numbers of a name for one family.
type featureKey struct {
	family string
	alternate
}

// featureValues reads an @font-feature-values rule.
func (a *adder) featureValues(r *css.Rule) {
	for _, part := range css.Split(r.Prelude) {
		v := &values{list: css.Words(part)}
		families, ok := parseFamilies(v)
		if !ok || !v.done() {
			a.tell(a.sheet.Sheet, r.Pos, "css-value", "@font-feature-values names no font family; the rule was left out")
			return
		}
		for _, family := range families(nil) {
			for i := range r.Rules {
				a.featureBlock(strings.ToLower(family), &r.Rules[i])
			}
		}
	}
}

func (a *adder) featureBlock(family string, block *css.Rule) {
	if !alternateKinds[block.At] {
		return
	}
	for _, d := range block.Decls {
		var numbers []int
		for _, t := range css.Words(d.Value) {
			n, err := strconv.Atoi(strings.TrimSpace(css.Text([]css.Token{t})))
			if err != nil || n < 0 {
				numbers = nil
				break
			}
			numbers = append(numbers, n)
		}
		if numbers == nil {
			continue
		}
		if a.features == nil {
			a.features = map[featureKey][]int{}
		}
		a.features[featureKey{family, alternate{block.At, strings.ToLower(d.Name)}}] = numbers
	}
}

// alternate gives the OpenType features of a name in the first family that
// defines it (§6.9.2).
func (r *Resolver) alternate(families []string, a alternate) (out []string) {
	var n []int
	for _, f := range families {
		if n = r.features[featureKey{strings.ToLower(f), a}]; n != nil {
			break
		}
	}
	if n == nil {
		return nil
	}
	switch a.kind {
	case "stylistic":
		return []string{fmt.Sprintf("salt=%d", n[0])}
	case "swash":
		return []string{fmt.Sprintf("swsh=%d", n[0]), fmt.Sprintf("cswh=%d", n[0])}
	case "ornaments":
		return []string{fmt.Sprintf("ornm=%d", n[0])}
	case "annotation":
		return []string{fmt.Sprintf("nalt=%d", n[0])}
	case "styleset":
		for _, v := range n {
			if v >= 1 && v <= 20 {
				out = append(out, fmt.Sprintf("ss%02d", v))
			}
		}
	case "character-variant":
		if n[0] >= 1 && n[0] <= 99 {
			v := 1
			if len(n) > 1 {
				v = n[1]
			}
			out = append(out, fmt.Sprintf("cv%02d=%d", n[0], v))
		}
	}
	return out
}

// FeatureList writes OpenType features with their values: "smcp=1 -liga".
func FeatureList(list []Feature) string {
	parts := make([]string, len(list))
	for i, f := range list {
		if parts[i] = f.Tag + "=" + strconv.Itoa(int(f.Value)); f.Value == 0 {
			parts[i] = "-" + f.Tag
		}
	}
	return strings.Join(parts, " ")
}

// FontAxes writes the axes of variable fonts that a style sets: "GRAD=-50 wdth=75".
func (s *Style) FontAxes() string {
	if len(s.FontVariations) == 0 {
		return ""
	}
	parts := make([]string, len(s.FontVariations))
	for i, a := range s.FontVariations {
		parts[i] = a.Tag + "=" + strconv.FormatFloat(a.Value, 'g', -1, 32)
	}
	return strings.Join(parts, " ")
}
