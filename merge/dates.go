package merge

import (
	"fmt"
	"strings"
	"time"
	"unicode"

	"github.com/shopspring/decimal"
	"golang.org/x/text/feature/plural"
)

// layouts of dates in records: ISO 8601.
var dateLayouts = []string{"2006-01-02", time.RFC3339, "2006-01-02T15:04:05", "2006-01-02 15:04:05", "2006-01-02T15:04"}

// moment reads a date of a record; one with an offset is moved to the
// template's time zone.
func (t *tools) moment(v any) (time.Time, error) {
	if x, ok := v.(time.Time); ok {
		return x, nil
	}
	s, ok := v.(string)
	s = strings.TrimSpace(s)
	if !ok {
		return time.Time{}, fmt.Errorf("%s is not a date", called(v))
	}
	for _, l := range dateLayouts {
		at, err := time.ParseInLocation(l, s, t.zone)
		if err != nil {
			continue
		}
		if l == time.RFC3339 {
			at = at.In(t.zone)
		}
		return at, nil
	}
	return time.Time{}, fmt.Errorf("%q is not a date; write 2026-05-31 or 2026-05-31T10:00:00Z", s)
}

// date formats a date: short, medium, long or full as the language writes it, a
// pattern of UTS 35 such as "EEE d MMM", or one that shows the second of
// January 2006, such as "2 January 2006".
func (t *tools) date(v any, layout ...string) (string, error) {
	at, err := t.moment(v)
	if err != nil {
		return "", err
	}
	return t.locale.formatted(at, pick(layout, "long"))
}

// time formats the time of day: short, with seconds as medium or long, or by a pattern.
func (t *tools) time(v any, layout ...string) (string, error) {
	at, err := t.moment(v)
	if err != nil {
		return "", err
	}
	if s, ok := v.(string); ok && len(strings.TrimSpace(s)) == len(time.DateOnly) {
		return "", fmt.Errorf("the date %s has no time of day", s)
	}
	switch pattern := pick(layout, "short"); pattern {
	case "short":
		return t.locale.format(at, t.locale.Time[0]), nil
	case "medium", "long", "full":
		return t.locale.format(at, t.locale.Time[1]), nil
	default:
		return t.locale.formatted(at, pattern)
	}
}

// today is the date of the run, which is given or that of the clock.
func (t *tools) today() string {
	at := t.run
	if at.IsZero() {
		at = time.Now().In(t.zone)
	}
	return at.Format(time.DateOnly)
}

func (l *locale) pattern(layout string) string {
	switch layout {
	case "short":
		return l.Date[0]
	case "medium":
		return l.Date[1]
	case "long":
		return l.Date[2]
	case "full":
		return l.Date[3]
	}
	if strings.ContainsAny(layout, "0123456789") {
		return fromExample(layout)
	}
	return layout
}

// examples are the parts of a layout that shows a date, longest first.
var examples = []struct{ shown, pattern string }{
	{"January", "MMMM"},
	{"Monday", "EEEE"},
	{"2006", "yyyy"},
	{"Jan", "MMM"},
	{"Mon", "EEE"},
	{"15", "HH"},
	{"01", "MM"},
	{"02", "dd"},
	{"03", "hh"},
	{"04", "mm"},
	{"05", "ss"},
	{"06", "yy"},
	{"PM", "a"},
	{"pm", "a"},
	{"1", "M"},
	{"2", "d"},
	{"3", "h"},
}

// fromExample turns a layout that shows a date into a pattern.
func fromExample(layout string) string {
	var b strings.Builder
next:
	for layout != "" {
		for _, e := range examples {
			if rest, ok := strings.CutPrefix(layout, e.shown); ok {
				b.WriteString(e.pattern)
				layout = rest
				continue next
			}
		}
		c := []rune(layout)[0]
		if c >= 'A' && c <= 'z' {
			fmt.Fprintf(&b, "'%c'", c)
		} else {
			b.WriteRune(c)
		}
		layout = layout[len(string(c)):]
	}
	return b.String()
}

// formatted writes a date by a layout that a template gives.
func (l *locale) formatted(at time.Time, layout string) (string, error) {
	pattern := l.pattern(layout)
	quoted := false
	for _, c := range pattern {
		switch {
		case c == '\'':
			quoted = !quoted
		case !quoted && unicode.IsLetter(c) && c < unicode.MaxASCII && !strings.ContainsRune(dateFields, c):
			return "", fmt.Errorf("the letter %q of the date pattern %q stands for nothing; put letters that are meant as they are between apostrophes", c, layout)
		}
	}
	if quoted {
		return "", fmt.Errorf("an apostrophe is missing in the date pattern %q", layout)
	}
	return l.format(at, pattern), nil
}

// dateFields are the letters that stand for parts of a date.
const dateFields = "yuMLdEcHhmsabBGw"

// format writes a date by a pattern of UTS 35 (Date Field Symbol Table).
func (l *locale) format(at time.Time, pattern string) string {
	var b strings.Builder
	r := []rune(pattern)
	for i := 0; i < len(r); {
		if r[i] == '\'' {
			end := i + 1
			for end < len(r) && r[end] != '\'' {
				end++
			}
			if end == i+1 {
				b.WriteByte('\'')
			}
			b.WriteString(string(r[i+1 : min(end, len(r))]))
			i = end + 1
			continue
		}
		n := 1
		for i+n < len(r) && r[i+n] == r[i] {
			n++
		}
		b.WriteString(l.field(at, r[i], n))
		i += n
	}
	return b.String()
}

func (l *locale) field(at time.Time, c rune, n int) string {
	number := func(v, width int) string {
		var b strings.Builder
		for _, d := range fmt.Sprintf("%0*d", width, v) {
			b.WriteRune(l.digit(d))
		}
		return b.String()
	}
	switch c {
	case 'y', 'u':
		if n == 2 {
			return number(at.Year()%100, 2)
		}
		return number(at.Year(), n)
	case 'M', 'L':
		switch {
		case n >= 4:
			return alone(c == 'L', l.MonthsAlone, l.Months)[at.Month()-1]
		case n == 3:
			return l.ShortMonths[at.Month()-1]
		}
		return number(int(at.Month()), n)
	case 'd':
		return number(at.Day(), n)
	case 'E', 'c':
		if n >= 4 {
			return alone(c == 'c', l.DaysAlone, l.Days)[at.Weekday()]
		}
		return l.ShortDays[at.Weekday()]
	case 'H':
		return number(at.Hour(), n)
	case 'h':
		return number((at.Hour()+11)%12+1, n)
	case 'm':
		return number(at.Minute(), n)
	case 's':
		return number(at.Second(), n)
	case 'a', 'b', 'B':
		if at.Hour() < 12 {
			return l.Halves[0]
		}
		return l.Halves[1]
	case 'G':
		return l.Era
	case 'w':
		_, week := at.ISOWeek()
		return number(week, n)
	}
	return strings.Repeat(string(c), n)
}

// alone takes the names that stand by themselves, where a language has others for that.
func alone(asked bool, names, usual []string) []string {
	if asked && len(names) > 0 {
		return names
	}
	return usual
}

// duration writes minutes, or a number of another unit (d, h, min, s), in days,
// hours, minutes and seconds.
func (t *tools) duration(v any, unit ...string) (string, error) {
	d, err := amount(v)
	if err != nil {
		return "", err
	}
	per, ok := map[string]int64{"d": 86400, "h": 3600, "min": 60, "s": 1}[pick(unit, "min")]
	if !ok {
		return "", fmt.Errorf("the unit %q of a duration is not d, h, min or s", unit[0])
	}
	total := d.Mul(decimal.NewFromInt(per)).Round(0).IntPart()
	sign := ""
	if total < 0 {
		sign, total = "−", -total
	}
	var parts []string
	for i, size := range []int64{86400, 3600, 60, 1} {
		if n := total / size; n > 0 {
			parts = append(parts, t.locale.measure(i, n))
			total -= n * size
		}
	}
	if len(parts) == 0 {
		return t.locale.measure(2, 0), nil
	}
	return sign + strings.Join(parts, " "), nil
}

// measure is a number of days, hours, minutes or seconds, by the unit's place among these.
func (l *locale) measure(unit int, n int64) string {
	form := plural.Cardinal.MatchPlural(l.tag, pluralOperand(decimal.NewFromInt(n)), 0, 0, 0, 0)
	name := map[plural.Form]string{plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many"}[form]
	pattern, ok := l.Units[unit][name]
	if !ok {
		pattern = l.Units[unit]["other"]
	}
	return strings.ReplaceAll(strings.Replace(pattern, "{0}", l.digits(decimal.NewFromInt(n), 0), 1), " ", nbsp)
}
