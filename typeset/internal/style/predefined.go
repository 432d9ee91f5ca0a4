package style

import (
	_ "embed"
	"strconv"
	"strings"

	"oliveledger/typeset/internal/css"
)

//go:embed counters.css
var countersCSS string

var predefinedTable = map[string]*CounterStyle{}

// predefinedStyles names the styles whose names have no letter case (§6).
var predefinedStyles = map[string]bool{}

func init() {
	for _, r := range css.ParseSheet("counters.css", countersCSS).Rules {
		name := css.Words(r.Prelude)[0].Text
		predefinedTable[name] = parseCounterStyle(name, r.Decls)
	}
	formal := func(name, digits, units, negative string, informal bool) {
		d, u := []rune(digits), []rune(units)
		predefinedTable[name] = &CounterStyle{
			Name: name, System: "additive", Suffix: "、", Fallback: "cjk-decimal", Ranges: [][2]int{{-9999, 9999}},
			generator: func(v int) (string, bool) { return chinese(v, d, u, negative, informal), true },
		}
	}
	formal("simp-chinese-informal", "零一二三四五六七八九", "十百千", "负", true)
	formal("simp-chinese-formal", "零壹贰叁肆伍陆柒捌玖", "拾佰仟", "负", false)
	formal("trad-chinese-informal", "零一二三四五六七八九", "十百千", "負", true)
	formal("trad-chinese-formal", "零壹貳參肆伍陸柒捌玖", "拾佰仟", "負", false)
	predefinedTable["cjk-ideographic"] = predefinedTable["trad-chinese-informal"]
	predefinedTable["ethiopic-numeric"] = &CounterStyle{
		Name: "ethiopic-numeric", System: "additive", Suffix: "/ ", Fallback: "decimal", Ranges: [][2]int{{1, maxInt}},
		generator: func(v int) (string, bool) { return ethiopic(v), true },
	}
	for name := range predefinedTable {
		predefinedStyles[name] = true
	}
}

func predefined(name string) *CounterStyle { return predefinedTable[strings.ToLower(name)] }

// chinese follows §7.1.1.
func chinese(v int, digits, units []rune, negative string, informal bool) string {
	if v == 0 {
		return string(digits[0])
	}
	sign := ""
	if v < 0 {
		sign, v = negative, -v
	}
	s := strconv.Itoa(v)
	out, zero := "", false
	for i, c := range s {
		d, place := int(c-'0'), len(s)-1-i
		if d == 0 {
			zero = out != ""
			continue
		}
		if zero {
			out += string(digits[0])
			zero = false
		}
		if !(informal && d == 1 && place == 1 && v < 20) {
			out += string(digits[d])
		}
		if place > 0 {
			out += string(units[place-1])
		}
	}
	return sign + out
}

// ethiopic follows §7.2.
func ethiopic(v int) string {
	if v == 1 {
		return "፩"
	}
	tens, ones := []rune("፲፳፴፵፶፷፸፹፺"), []rune("፩፪፫፬፭፮፯፰፱")
	var groups []int
	for n := v; n > 0; n /= 100 {
		groups = append(groups, n%100)
	}
	out := ""
	for i := len(groups) - 1; i >= 0; i-- {
		g := groups[i]
		part := ""
		if !(g == 0 || g == 1 && i == len(groups)-1 || g == 1 && i%2 == 1) {
			if g/10 > 0 {
				part += string(tens[g/10-1])
			}
			if g%10 > 0 {
				part += string(ones[g%10-1])
			}
		}
		if i%2 == 1 && g != 0 {
			part += "፻"
		}
		if i%2 == 0 && i != 0 {
			part += "፼"
		}
		out += part
	}
	return out
}
