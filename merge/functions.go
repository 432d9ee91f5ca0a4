package merge

import (
	"encoding/json"
	"fmt"
	"html/template"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"golang.org/x/text/currency"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"
)

// functions are what a template may call beside html/template's own.
func functions(m Manifest) template.FuncMap {
	tag := language.Make(m.Locale)
	p := func() *message.Printer { return message.NewPrinter(tag) }
	return template.FuncMap{
		"money":    func(v any, code ...string) (string, error) { return money(p(), tag, v, pick(code, m.Currency)) },
		"number":   func(v any, places ...int) (string, error) { return formatNumber(p(), v, places) },
		"percent":  func(v any, places ...int) (string, error) { return percent(p(), v, places) },
		"date":     func(v any, layout ...string) (string, error) { return date(v, pick(layout, "2 January 2006")) },
		"add":      func(a, b any) (decimal.Decimal, error) { return two(a, b, decimal.Decimal.Add) },
		"subtract": func(a, b any) (decimal.Decimal, error) { return two(a, b, decimal.Decimal.Sub) },
		"multiply": func(a, b any) (decimal.Decimal, error) { return two(a, b, decimal.Decimal.Mul) },
		"divide":   divide,
		"round":    round,
		"sum":      sum,
		"count":    count,
		"has":      has,
		"default":  fallback,
		"upper":    strings.ToUpper,
		"lower":    strings.ToLower,
		"join":     join,
		"negative": func(v any) (bool, error) { d, err := amount(v); return d.IsNegative(), err },
		"plus":     func(n, by int) int { return n + by },
	}
}

func pick(list []string, def string) string {
	if len(list) > 0 {
		return list[0]
	}
	return def
}

// amount reads a value as an exact decimal number.
func amount(v any) (decimal.Decimal, error) {
	switch x := v.(type) {
	case decimal.Decimal:
		return x, nil
	case json.Number:
		return decimal.NewFromString(x.String())
	case int:
		return decimal.NewFromInt(int64(x)), nil
	case float64:
		return decimal.NewFromFloat(x), nil
	case string:
		d, err := decimal.NewFromString(strings.TrimSpace(x))
		if err != nil {
			return d, fmt.Errorf("%q is not a number", x)
		}
		return d, nil
	case nil:
		return decimal.Zero, fmt.Errorf("there is no value where a number should be")
	}
	return decimal.Zero, fmt.Errorf("a %T is not a number", v)
}

// money formats an amount with the currency's own decimals and sign.
func money(p *message.Printer, tag language.Tag, v any, code string) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	unit, err := currency.ParseISO(code)
	if err != nil {
		return "", fmt.Errorf("%q is not a currency code such as EUR", code)
	}
	scale, _ := currency.Standard.Rounding(unit)
	text := digits(p, d.Abs(), scale)
	symbol := p.Sprint(currency.NarrowSymbol(unit))
	sign := ""
	if d.Round(int32(scale)).IsNegative() {
		sign = "−"
	}
	base, _ := tag.Base()
	if base.String() == "en" || base.String() == "nl" {
		if base.String() == "nl" {
			symbol += "\u00A0"
		}
		return sign + symbol + text, nil
	}
	return sign + text + "\u00A0" + symbol, nil
}

// digits writes a number in the printer's language; the digits are exact.
func digits(p *message.Printer, d decimal.Decimal, places int) string {
	fixed := d.StringFixed(int32(places))
	whole, frac, _ := strings.Cut(fixed, ".")
	sample := p.Sprint(number.Decimal(1234.5, number.Scale(1))) // 1,234.5 as this language writes it
	runes := []rune(sample)
	group, point := "", string(runes[len(runes)-2])
	if len(runes) > 6 {
		group = string(runes[1])
	}
	var b strings.Builder
	for i, c := range whole {
		if i > 0 && (len(whole)-i)%3 == 0 && c >= '0' && c <= '9' {
			b.WriteString(group)
		}
		b.WriteRune(c)
	}
	if frac != "" {
		b.WriteString(point + frac)
	}
	return b.String()
}

func formatNumber(p *message.Printer, v any, places []int) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	n := max(-int(d.Exponent()), 0)
	if len(places) > 0 {
		n = places[0]
	}
	out := digits(p, d.Abs(), n)
	if d.Round(int32(n)).IsNegative() {
		out = "−" + out
	}
	return out, nil
}

func percent(p *message.Printer, v any, places []int) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	out, err := formatNumber(p, d, places)
	return out + "\u00A0%", err
}

// layouts of dates in records: ISO 8601.
var dateLayouts = []string{"2006-01-02", time.RFC3339, "2006-01-02T15:04:05", "2006-01-02 15:04:05", "2006-01-02T15:04"}

func date(v any, layout string) (string, error) {
	s, ok := v.(string)
	if !ok {
		return "", fmt.Errorf("a %T is not a date", v)
	}
	for _, l := range dateLayouts {
		if t, err := time.Parse(l, s); err == nil {
			return t.Format(layout), nil
		}
	}
	return "", fmt.Errorf("%q is not a date; write 2026-05-31 or 2026-05-31T10:00:00Z", s)
}

func two(a, b any, f func(x, y decimal.Decimal) decimal.Decimal) (decimal.Decimal, error) {
	x, err := amount(a)
	if err != nil {
		return x, err
	}
	y, err := amount(b)
	if err != nil {
		return y, err
	}
	return f(x, y), nil
}

func divide(a, b any) (decimal.Decimal, error) {
	y, err := amount(b)
	if err == nil && y.IsZero() {
		return y, fmt.Errorf("division by zero")
	}
	return two(a, b, decimal.Decimal.Div)
}

// round rounds half away from zero, as tax offices do.
func round(v any, places int) (decimal.Decimal, error) {
	d, err := amount(v)
	return d.Round(int32(places)), err
}

// sum adds up a field of every entry of a list, or the entries themselves.
func sum(list any, field ...string) (decimal.Decimal, error) {
	total := decimal.Zero
	items, ok := list.([]any)
	if !ok {
		return total, fmt.Errorf("sum needs a list, not a %T", list)
	}
	for i, it := range items {
		v := it
		if len(field) > 0 {
			m, ok := it.(map[string]any)
			if !ok {
				return total, fmt.Errorf("entry %d of the list is not a record", i+1)
			}
			if v, ok = m[field[0]]; !ok {
				return total, fmt.Errorf("entry %d of the list has no field %q", i+1, field[0])
			}
		}
		d, err := amount(v)
		if err != nil {
			return total, fmt.Errorf("entry %d of the list: %w", i+1, err)
		}
		total = total.Add(d)
	}
	return total, nil
}

func count(list any) (int, error) {
	switch x := list.(type) {
	case []any:
		return len(x), nil
	case map[string]any:
		return len(x), nil
	}
	return 0, fmt.Errorf("count needs a list, not a %T", list)
}

// has tells whether a record has a field that is not empty.
func has(data map[string]any, field string) bool {
	v, ok := data[field]
	return ok && v != nil && v != ""
}

// fallback gives def when the record has no such field, or an empty one.
func fallback(data map[string]any, field string, def any) any {
	if has(data, field) {
		return data[field]
	}
	return def
}

func join(list any, by string) (string, error) {
	items, ok := list.([]any)
	if !ok {
		return "", fmt.Errorf("join needs a list, not a %T", list)
	}
	parts := make([]string, len(items))
	for i, v := range items {
		parts[i] = fmt.Sprint(v)
	}
	return strings.Join(parts, by), nil
}
