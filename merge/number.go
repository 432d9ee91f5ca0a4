package merge

import (
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"github.com/shopspring/decimal"
)

// Number is an exact decimal number. It prints as it was written, also by the verbs of
// printf.
//
// Templates take Go's own numbers for true unless they are zero, and slices unless they
// are empty, but all structs for true. So a number is a slice with room for one: it is
// empty when the number is zero, and its digits are in the room behind.
type Number []digits

type digits struct {
	value decimal.Decimal
	text  string
}

func newNumber(d decimal.Decimal, text string) Number {
	n := Number{{d, text}}
	if d.IsZero() {
		return n[:0]
	}
	return n
}

// numberOf is a number that was worked out.
func numberOf(d decimal.Decimal) Number { return newNumber(d, d.String()) }

// Decimal is the number's value.
func (n Number) Decimal() decimal.Decimal { return n.digits().value }

// String is the number as it was written.
func (n Number) String() string { return n.digits().text }

func (n Number) digits() digits {
	if cap(n) == 0 {
		return digits{decimal.Zero, "0"}
	}
	return n[:1][0]
}

// MarshalJSON writes the number into scripts of a page.
func (n Number) MarshalJSON() ([]byte, error) { return []byte(n.Decimal().String()), nil }

// Format prints the number by the verbs of whole and of other numbers. One with a
// fraction has no form by %d, as elsewhere in Go.
func (n Number) Format(s fmt.State, verb rune) {
	d := n.Decimal()
	switch verb {
	case 'd', 'b', 'o', 'O', 'x', 'X', 'c', 'U':
		if d.IsInteger() {
			_, _ = fmt.Fprintf(s, fmt.FormatString(s, verb), d.BigInt())
			return
		}
	case 'f', 'F':
		places, given := s.Precision()
		if !given {
			places = 6
		}
		// flags and width apply to the digits, which are exact, as to any text
		n.formatText(s, d.StringFixed(int32(places)))
		return
	case 'e', 'E', 'g', 'G':
		_, _ = fmt.Fprintf(s, fmt.FormatString(s, verb), d.InexactFloat64())
		return
	case 'v', 's':
		text := n.String()
		if most, given := s.Precision(); given {
			text = text[:min(most, len(text))]
		}
		n.formatText(s, text)
		return
	case 'q':
		_, _ = fmt.Fprintf(s, "%q", n.String())
		return
	}
	_, _ = fmt.Fprintf(s, "%%!%c(%s)", verb, n)
}

// formatText pads a number's text as the flags and the width ask.
func (n Number) formatText(s fmt.State, text string) {
	sign := ""
	switch {
	case strings.HasPrefix(text, "-"):
		sign, text = "-", text[1:]
	case s.Flag('+'):
		sign = "+"
	case s.Flag(' '):
		sign = " "
	}
	width, _ := s.Width()
	pad := max(width-len(sign)-len(text), 0)
	switch {
	case s.Flag('-'):
		text = sign + text + strings.Repeat(" ", pad)
	case s.Flag('0'):
		text = sign + strings.Repeat("0", pad) + text
	default:
		text = strings.Repeat(" ", pad) + sign + text
	}
	_, _ = s.Write([]byte(text))
}

// Bounds of numbers, which no amount of a document reaches: written out, a number takes
// as many bytes.
const (
	mostDigits   = 1000
	mostExponent = 400
)

// readNumber reads a number as JSON writes it.
func readNumber(text string) (Number, error) {
	if len(text) > mostDigits {
		return nil, fmt.Errorf("a number has more than %d digits", mostDigits)
	}
	d, err := decimal.NewFromString(text)
	if err != nil {
		return nil, fmt.Errorf("%q is not a number", text)
	}
	if e := d.Exponent(); e > mostExponent || e < -mostExponent-mostDigits {
		return nil, fmt.Errorf("the number %s is too large or too small", text)
	}
	return newNumber(d, text), nil
}

// values is a record's data as templates see them: a copy with numbers of our own.
func values(data map[string]any) (map[string]any, error) {
	out := make(map[string]any, len(data))
	for k, v := range data {
		x, err := templateValue(v)
		if err != nil {
			return nil, fmt.Errorf("the field %q: %w", k, err)
		}
		out[k] = x
	}
	return out, nil
}

func templateValue(v any) (any, error) {
	switch x := v.(type) {
	case string:
		return untyped(x)
	case json.Number:
		return readNumber(x.String())
	case float64:
		return numberOf(decimal.NewFromFloat(x)), nil
	case int:
		return numberOf(decimal.NewFromInt(int64(x))), nil
	case map[string]any:
		return values(x)
	case []any:
		out := make([]any, len(x))
		for i, e := range x {
			var err error
			if out[i], err = templateValue(e); err != nil {
				return nil, err
			}
		}
		return out, nil
	}
	return v, nil
}

// noughts is text that spells zero. Codes such as 000 are text.
var noughts = regexp.MustCompile(`^-?0(\.0+)?$`)

// untyped is text as templates see it. Files such as CSV and XML do not tell numbers and answers
// from text, so text that spells zero or false is as little true as these are.
func untyped(text string) (any, error) {
	switch {
	case noughts.MatchString(text):
		return readNumber(text)
	case strings.EqualFold(text, "false"):
		return false, nil
	}
	return text, nil
}

// amount reads a value as an exact decimal number.
func amount(v any) (decimal.Decimal, error) {
	switch x := v.(type) {
	case Number:
		return x.Decimal(), nil
	case int:
		return decimal.NewFromInt(int64(x)), nil
	case float64:
		return decimal.NewFromFloat(x), nil
	case string:
		n, err := readNumber(strings.TrimSpace(x))
		return n.Decimal(), err
	case nil:
		return decimal.Zero, errors.New("there is no value where a number should be")
	}
	return decimal.Zero, fmt.Errorf("%s is not a number", called(v))
}

// whole reads a value as a whole number.
func whole(v any) (int, error) {
	d, err := amount(v)
	if err != nil {
		return 0, err
	}
	if !d.IsInteger() || !d.BigInt().IsInt64() {
		return 0, fmt.Errorf("%s is not a whole number", d)
	}
	return int(d.IntPart()), nil
}

// textOf reads a value as text: lists and records are none.
func textOf(v any) (string, error) {
	switch x := v.(type) {
	case nil:
		return "", errors.New("there is no value where text should be")
	case string:
		return x, nil
	case []any, map[string]any:
		return "", fmt.Errorf("%s is not text", called(v))
	}
	return fmt.Sprint(v), nil
}

// called is how messages call a value.
func called(v any) string {
	switch x := v.(type) {
	case nil:
		return "null"
	case string:
		return fmt.Sprintf("the text %q", shortened(x))
	case Number:
		return "the number " + x.String()
	case bool:
		return strconv.FormatBool(x)
	case []any:
		return fmt.Sprintf("a list of %d", len(x))
	case map[string]any:
		return "a record"
	case int, float64:
		return fmt.Sprintf("the number %v", x)
	}
	return fmt.Sprintf("%q", shortened(fmt.Sprint(v)))
}

// shortened keeps long values of records out of messages.
func shortened(s string) string {
	const most = 60
	if r := []rune(s); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return s
}
