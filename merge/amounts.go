package merge

import (
	"errors"
	"fmt"
	"maps"
	"slices"

	"github.com/shopspring/decimal"
	"golang.org/x/text/currency"
)

// calc makes a function of two amounts.
func calc(f func(x, y decimal.Decimal) decimal.Decimal) func(a, b any) (Number, error) {
	return func(a, b any) (Number, error) {
		x, err := amount(a)
		if err != nil {
			return nil, err
		}
		y, err := amount(b)
		if err != nil {
			return nil, err
		}
		return numberOf(f(x, y)), nil
	}
}

func divide(a, b any) (Number, error) {
	y, err := amount(b)
	if err == nil && y.IsZero() {
		return nil, errors.New("division by zero")
	}
	return calc(decimal.Decimal.Div)(a, b)
}

func negative(v any) (bool, error) {
	d, err := amount(v)
	return d.IsNegative(), err
}

// round rounds by the template's rule, or by one that is given: half-up, which
// is half away from zero as tax offices do, half-even, up or down.
func (t *tools) round(v, places any, rule ...string) (Number, error) {
	d, err := amount(v)
	if err != nil {
		return nil, err
	}
	n, err := placesOf(places)
	if err != nil {
		return nil, err
	}
	d, err = t.rounded(d, n, rule...)
	return numberOf(d), err
}

// mostPlaces bounds decimal places that are asked for.
const mostPlaces = 100

func placesOf(v any) (int, error) {
	n, err := whole(v)
	if err == nil && (n > mostPlaces || n < -mostPlaces) {
		err = fmt.Errorf("%d decimal places are too many; at most %d are allowed", n, mostPlaces)
	}
	return n, err
}

func (t *tools) rounded(d decimal.Decimal, places int, rule ...string) (decimal.Decimal, error) {
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
	if d, err = t.rounded(d, unit.scale); err != nil {
		return "", err
	}
	sign := ""
	if d.IsNegative() {
		sign = "−"
	}
	return sign + filled(t.locale.Currency, t.locale.digits(d.Abs(), unit.scale), unit.symbol), nil
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
func (t *tools) number(v any, places ...any) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	n := max(-int(d.Exponent()), 0)
	if len(places) > 0 {
		if n, err = placesOf(places[0]); err != nil {
			return "", err
		}
		if d, err = t.rounded(d, n); err != nil {
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
func (t *tools) percent(v any, places ...any) (string, error) {
	out, err := t.number(v, places...)
	return filled(t.locale.Percent, out, t.locale.PercentSign), err
}

// unit formats a measure: unit 12.5 "kg".
func (t *tools) unit(v any, name string, places ...any) (string, error) {
	out, err := t.number(v, places...)
	return out + nbsp + name, err
}

// discount is what so many percent of an amount are, rounded to the currency.
func (t *tools) discount(v, percent any) (Number, error) {
	d, err := calc(decimal.Decimal.Mul)(v, percent)
	if err != nil {
		return nil, err
	}
	return t.part(d.Decimal())
}

// part is a hundredth of an amount, rounded to the template's currency.
func (t *tools) part(d decimal.Decimal) (Number, error) {
	unit, err := t.locale.currency(t.currency)
	if err != nil {
		return nil, err
	}
	return t.round(numberOf(d.Shift(-2)), unit.scale)
}

// priced gives a list of lines with their amount, the product of two of their fields,
// less so many percent of it where a third is named. It is rounded to the currency.
func (t *tools) priced(list any, quantity, price string, discount ...string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	unit, err := t.locale.currency(t.currency)
	if err != nil {
		return nil, err
	}
	out := make([]any, len(items))
	for i, m := range items {
		product := decimal.NewFromInt(1)
		for _, path := range []string{quantity, price} {
			d, err := fieldAmount(m, i, path)
			if err != nil {
				return nil, err
			}
			product = product.Mul(d)
		}
		if len(discount) > 0 {
			d, err := fieldAmount(m, i, discount[0])
			if err != nil {
				return nil, err
			}
			product = product.Mul(decimal.NewFromInt(100).Sub(d)).Shift(-2)
		}
		rounded, err := t.rounded(product, unit.scale)
		if err != nil {
			return nil, err
		}
		line := maps.Clone(m)
		line["amount"] = numberOf(rounded)
		out[i] = line
	}
	return out, nil
}

// taxes sums up lines by their tax rate, in percent, the lowest first: records with Rate,
// Net, Tax and Gross. The tax is rounded once for each rate.
func (t *tools) taxes(list any, netField, rateField string) ([]any, error) {
	items, err := records(list)
	if err != nil {
		return nil, err
	}
	var rates []decimal.Decimal
	nets := map[string]decimal.Decimal{}
	for i, m := range items {
		net, err := fieldAmount(m, i, netField)
		if err != nil {
			return nil, err
		}
		rate, err := fieldAmount(m, i, rateField)
		if err != nil {
			return nil, err
		}
		if _, known := nets[rate.String()]; !known {
			rates = append(rates, rate)
		}
		nets[rate.String()] = nets[rate.String()].Add(net)
	}
	slices.SortFunc(rates, decimal.Decimal.Cmp)
	out := make([]any, len(rates))
	for i, rate := range rates {
		net := nets[rate.String()]
		tax, err := t.part(net.Mul(rate))
		if err != nil {
			return nil, err
		}
		out[i] = map[string]any{"Rate": numberOf(rate), "Net": numberOf(net), "Tax": tax, "Gross": numberOf(net.Add(tax.Decimal()))}
	}
	return out, nil
}
