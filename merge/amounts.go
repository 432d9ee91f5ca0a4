package merge

import (
	"encoding/json"
	"fmt"
	"sort"
	"strings"

	"github.com/shopspring/decimal"
	"golang.org/x/text/currency"
)

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

// calc makes a function of two amounts.
func calc(f func(x, y decimal.Decimal) decimal.Decimal) func(a, b any) (decimal.Decimal, error) {
	return func(a, b any) (decimal.Decimal, error) {
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
}

func divide(a, b any) (decimal.Decimal, error) {
	y, err := amount(b)
	if err == nil && y.IsZero() {
		return y, fmt.Errorf("division by zero")
	}
	return calc(decimal.Decimal.Div)(a, b)
}

func negative(v any) (bool, error) {
	d, err := amount(v)
	return d.IsNegative(), err
}

// round rounds by the template's rule, or by one that is given: half-up, which
// is half away from zero as tax offices do, half-even, up or down.
func (t *tools) round(v any, places int, rule ...string) (decimal.Decimal, error) {
	d, err := amount(v)
	if err != nil {
		return d, err
	}
	switch r := pick(rule, t.rounding); r {
	case "", "half-up":
		return d.Round(int32(places)), nil
	case "half-even":
		return d.RoundBank(int32(places)), nil
	case "down":
		return d.Truncate(int32(places)), nil
	case "up":
		return d.RoundUp(int32(places)), nil
	default:
		return d, fmt.Errorf("the rounding rule %q is not half-up, half-even, up or down", r)
	}
}

func pick(list []string, def string) string {
	if len(list) > 0 {
		return list[0]
	}
	return def
}

// money formats an amount with the currency's own decimals and sign.
func (t *tools) money(v any, code ...string) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	unit, err := t.locale.currency(pick(code, t.currency))
	if err != nil {
		return "", err
	}
	if d, err = t.round(d, unit.scale); err != nil {
		return "", err
	}
	text, symbol := t.locale.digits(d.Abs(), unit.scale), unit.symbol
	sign := ""
	if d.IsNegative() {
		sign = "−"
	}
	switch {
	case t.locale.symbolFirst && t.locale.symbolSpace:
		return sign + symbol + nbsp + text, nil
	case t.locale.symbolFirst:
		return sign + symbol + text, nil
	}
	return sign + text + nbsp + symbol, nil
}

// money is a currency as a language writes it.
type money struct {
	symbol string
	scale  int // decimal places
}

// currency finds a currency by its code; those of a template are asked for often.
func (l *locale) currency(code string) (money, error) {
	if m, ok := l.currencies.Load(code); ok {
		return m.(money), nil
	}
	unit, err := currency.ParseISO(code)
	if err != nil {
		return money{}, fmt.Errorf("%q is not a currency code such as EUR", code)
	}
	scale, _ := currency.Standard.Rounding(unit)
	m := money{l.printer().Sprint(currency.NarrowSymbol(unit)), scale}
	l.currencies.Store(code, m)
	return m, nil
}

// number formats with the digits that the value has, or with so many places.
func (t *tools) number(v any, places ...int) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	n := max(-int(d.Exponent()), 0)
	if len(places) > 0 {
		n = places[0]
		if d, err = t.round(d, n); err != nil {
			return "", err
		}
	}
	out := t.locale.digits(d.Abs(), n)
	if d.IsNegative() {
		out = "−" + out
	}
	return out, nil
}

// percent formats 7.5 as 7.5 %, the way the language writes it.
func (t *tools) percent(v any, places ...int) (string, error) {
	out, err := t.number(v, places...)
	return out + t.locale.percent, err
}

// unit formats a measure: unit 12.5 "kg".
func (t *tools) unit(v any, name string, places ...int) (string, error) {
	out, err := t.number(v, places...)
	return out + nbsp + name, err
}

// discount is what so many percent of an amount are, rounded to the currency.
func (t *tools) discount(v, percent any) (decimal.Decimal, error) {
	d, err := calc(decimal.Decimal.Mul)(v, percent)
	if err != nil {
		return d, err
	}
	unit, err := t.locale.currency(t.currency)
	if err != nil {
		return d, err
	}
	return t.round(d.Shift(-2), unit.scale)
}

// TaxLine is the tax of all amounts that share a rate.
type TaxLine struct{ Rate, Net, Tax, Gross decimal.Decimal }

// taxes sums up lines by their tax rate, in percent, the lowest first. The tax
// is rounded once for each rate.
func (t *tools) taxes(list any, netField, rateField string) ([]TaxLine, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	unit, err := t.locale.currency(t.currency)
	if err != nil {
		return nil, err
	}
	byRate := map[string]*TaxLine{}
	for i, m := range items {
		net, err := fieldAmount(m, i, netField)
		if err != nil {
			return nil, err
		}
		rate, err := fieldAmount(m, i, rateField)
		if err != nil {
			return nil, err
		}
		key := rate.String()
		if byRate[key] == nil {
			byRate[key] = &TaxLine{Rate: rate}
		}
		byRate[key].Net = byRate[key].Net.Add(net)
	}
	out := make([]TaxLine, 0, len(byRate))
	for _, l := range byRate {
		if l.Tax, err = t.round(l.Net.Mul(l.Rate).Shift(-2), unit.scale); err != nil {
			return nil, err
		}
		l.Gross = l.Net.Add(l.Tax)
		out = append(out, *l)
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Rate.LessThan(out[j].Rate) })
	return out, nil
}
