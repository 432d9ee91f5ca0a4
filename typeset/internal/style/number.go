package style

import (
	"strings"

	"github.com/shopspring/decimal"
)

// Number writes a decimal by a pattern as UTS 35 has them: "#,##0.00 €" groups
// by threes and shows two decimals. The signs in the pattern are those
// written: "#.##0,00" is the German way. The last stop or comma divides off
// the decimals unless ##0 follows it.
func Number(v decimal.Decimal, pattern string) string {
	first := strings.IndexAny(pattern, "#0")
	last := strings.LastIndexAny(pattern, "#0")
	if first < 0 {
		return pattern + v.String()
	}
	before, core, after := pattern[:first], pattern[first:last+1], pattern[last+1:]
	whole, fraction, point := splitPattern(core)
	group := ""
	if i := strings.LastIndexFunc(whole, func(r rune) bool { return r != '#' && r != '0' }); i >= 0 {
		group = strings.Trim(whole, "#0")
		if k := strings.IndexAny(group, "#0"); k >= 0 {
			group = group[:k]
		}
	}
	least := strings.Count(fraction, "0")
	text := v.Abs().Round(int32(len(fraction))).StringFixed(int32(len(fraction)))
	ints, decs, _ := strings.Cut(text, ".")
	for len(decs) > least && strings.HasSuffix(decs, "0") {
		decs = decs[:len(decs)-1]
	}
	for len(ints) < strings.Count(whole, "0") {
		ints = "0" + ints
	}
	if group != "" {
		ints = grouped(ints, group)
	}
	out := ints
	if decs != "" {
		out += point + decs
	}
	if v.Round(int32(len(fraction))).IsNegative() {
		out = "\u2212" + out
	}
	return before + out + after
}

// splitPattern divides a pattern at its decimal sign.
func splitPattern(core string) (whole, fraction, point string) {
	i := strings.LastIndexAny(core, ".,")
	if i < 0 {
		return core, "", "."
	}
	rest := core[i+1:]
	if rest == "##0" {
		return core, "", "."
	}
	return core[:i], rest, core[i : i+1]
}

func grouped(digits, sign string) string {
	var out strings.Builder
	for i, r := range digits {
		if i > 0 && (len(digits)-i)%3 == 0 {
			out.WriteString(sign)
		}
		out.WriteRune(r)
	}
	return out.String()
}
