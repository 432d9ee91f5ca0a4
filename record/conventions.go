package record

import (
	"fmt"
	"regexp"
	"strings"
	"time"
)

// A convention is how a column of text writes its numbers or dates.
type convention struct {
	comma   bool   // the decimal point is a comma
	grouped bool   // thousands are set apart
	dates   string // Go's layout of the dates; "" for a column of other things
}

var (
	groups       = "[ \u00A0\u202F'’]"
	commaNumber  = regexp.MustCompile(`^[-−]?(\d+|\d{1,3}((\.|` + groups + `)\d{3})+)(,\d+)?$`)
	pointNumber  = regexp.MustCompile(`^[-−]?(\d+|\d{1,3}((,|` + groups + `)\d{3})+)(\.\d+)?$`)
	leadingZeros = regexp.MustCompile(`^[-−]?0\d`)
	dottedDate   = regexp.MustCompile(`^(\d{1,2})[./-](\d{1,2})[./-](\d{4})( \d{1,2}:\d{2}(:\d{2})?)?$`)
)

// letters of a date's notation, as people write it, and what Go calls them.
var dateLetters = strings.NewReplacer("YYYY", "2006", "YY", "06", "MM", "1", "DD", "2", "HH", "15", "mm", "04", "ss", "05")

// dateNotation reads how dates are written: DD.MM.YYYY, MM/DD/YYYY HH:mm.
func dateNotation(s string) (layout string, err error) {
	if s == "" {
		return "", nil
	}
	layout = dateLetters.Replace(s)
	for _, part := range []string{"2006", "1", "2"} {
		if !strings.Contains(layout, part) && !(part == "2006" && strings.Contains(layout, "06")) {
			return "", fmt.Errorf("%q is no notation of dates; write one such as DD.MM.YYYY or MM/DD/YYYY HH:mm", s)
		}
	}
	return layout, nil
}

// Check looks at options by themselves.
func (o *Options) Check() error {
	switch o.Format {
	case "", JSON, NDJSON, CSV, TSV, YAML, XML, XLSX:
	default:
		return o.unknown()
	}
	if o.Decimal != "" && o.Decimal != "," && o.Decimal != "." {
		return fmt.Errorf("the decimal sign is a comma or a point, not %q", o.Decimal)
	}
	_, err := dateNotation(o.Dates)
	return err
}

func (o *Options) unknown() error {
	return fmt.Errorf("the record format %q is not json, ndjson, csv, tsv, yaml, xml or xlsx", o.Format)
}

// read gives a cell as records have it: numbers with a point, dates as ISO 8601. What does
// not follow the convention stays as it is, and ok is false.
func (c convention) read(text string) (out string, ok bool) {
	text = strings.TrimSpace(text)
	switch {
	case text == "":
		return text, true
	case c.dates != "":
		return isoDate(text, c.dates)
	case c.comma && commaNumber.MatchString(text):
		return strings.NewReplacer(",", ".", ".", "", " ", "", "\u00A0", "", "\u202F", "", "'", "", "’", "", "−", "-").Replace(text), true
	case !c.comma && c.grouped && pointNumber.MatchString(text):
		return strings.NewReplacer(",", "", " ", "", "\u00A0", "", "\u202F", "", "'", "", "’", "", "−", "-").Replace(text), true
	}
	return text, false
}

// isoDate reads a date, with a time of day if there is one.
func isoDate(text, layout string) (string, bool) {
	for _, clock := range []string{"", " 15:04", " 15:04:05"} {
		at, err := time.Parse(layout+clock, text)
		switch {
		case err != nil:
		case clock == "" && !strings.Contains(layout, "15"):
			return at.Format(time.DateOnly), true
		default:
			return at.Format("2006-01-02T15:04:05"), true
		}
	}
	return text, false
}

// likeNumbers tells how a column's values, if all are numbers, write them. sure is false
// where each could be read in two ways: 1,234.
func likeNumbers(values []string) (c convention, sure, all bool) {
	commas, points := true, true
	for _, v := range values {
		if leadingZeros.MatchString(v) { // codes are no numbers
			return c, false, false
		}
		commas = commas && commaNumber.MatchString(v)
		points = points && pointNumber.MatchString(v)
	}
	has := func(s string) bool { return strings.Contains(strings.Join(values, "\n"), s) }
	switch {
	case commas && points: // 1,234 or 1.234 or 12
		return convention{comma: true}, !has(",") && !has("."), true
	case commas:
		return convention{comma: true}, true, true
	case points:
		return convention{grouped: true}, true, true
	}
	return c, false, false
}

// likeDates tells how a column's values, if all are dates such as 31.05.2026, write them.
// With slashes and dashes the day comes first where some day is above 12, and the month
// where some month would be.
func likeDates(values []string) (c convention, sure, all bool) {
	day, month, dotted := false, false, true
	separator := ""
	for _, v := range values {
		m := dottedDate.FindStringSubmatch(v)
		if m == nil {
			return c, false, false
		}
		sep := v[len(m[1]) : len(m[1])+1]
		if separator != "" && sep != separator {
			return c, false, false
		}
		separator, dotted = sep, dotted && sep == "."
		day, month = day || len(m[1]) == 2 && m[1] > "12", month || len(m[2]) == 2 && m[2] > "12"
	}
	first, second := "2", "1"
	if month {
		first, second = second, first
	}
	return convention{dates: first + separator + second + separator + "2006"}, dotted || day != month, !(day && month)
}

// conventions are those of a file's columns.
type conventions struct {
	o       *Options
	columns []convention
	kinds   []string // numbers or dates, where there is one; "" else
	told    map[int]bool
}

// mostLooked bounds how many rows are looked at to find conventions out.
const mostLooked = 500

// signs are those that set digits apart.
const signs = ",. \u00A0\u202F'’"

// conventionsOf finds out, or takes from the options, how columns write what they hold.
func conventionsOf(o *Options, fields []string, rows [][]string) (*conventions, error) {
	if err := o.Check(); err != nil {
		return nil, err
	}
	n := len(fields)
	c := &conventions{o: o, columns: make([]convention, n), kinds: make([]string, n), told: map[int]bool{}}
	l := &looking{conventions: c, fields: fields, values: make([][]string, n), commas: o.Decimal == ","}
	l.dates, _ = dateNotation(o.Dates)
	for i := range fields {
		l.values[i] = column(rows, i)
		if len(l.values[i]) > 0 && !l.areDates(i) {
			l.areNumbers(i)
		}
	}
	for _, i := range l.unsure {
		l.decide(i)
	}
	for i := range fields {
		l.tell(i)
	}
	return c, nil
}

// looking finds the conventions of columns out.
type looking struct {
	*conventions
	fields []string
	values [][]string // of each column
	dates  string     // the layout of dates that is given, or ""
	commas bool       // some column has a decimal comma
	unsure []int      // columns whose numbers can be read in two ways
}

func (l *looking) set(i int, kind string, how convention) { l.columns[i], l.kinds[i] = how, kind }

// areDates tells whether a column holds dates. It is told when they stay as they are.
func (l *looking) areDates(i int) bool {
	values := l.values[i]
	if l.dates != "" {
		given := convention{dates: l.dates}
		if !mostRead(given, values) {
			return false
		}
		l.set(i, "dates", given)
		return true
	}
	d, sure, all := likeDates(values)
	switch {
	case !all:
		return false
	case !sure:
		l.o.note("the dates of the column %q can be read in two ways, such as %q; they stay as they are: name their notation, DD/MM/YYYY or MM/DD/YYYY", l.fields[i], values[0])
	default:
		l.set(i, "dates", d)
		l.o.note("the column %q holds dates such as %q, which are read as %s", l.fields[i], values[0], shown(d, values[0]))
	}
	return true
}

// areNumbers looks whether a column holds numbers.
func (l *looking) areNumbers(i int) {
	values := l.values[i]
	n, sure, all := likeNumbers(values)
	comma := example(values, ",") != ""
	switch {
	case !all && l.o.Decimal == "," && comma && mostRead(convention{comma: true}, values):
		l.set(i, "numbers", convention{comma: true})
	case !all, example(values, signs) == "": // text, or digits alone
	case !sure:
		l.unsure = append(l.unsure, i)
	default:
		l.set(i, "numbers", n)
		l.commas = l.commas || n.comma && comma
	}
}

// decide reads numbers that can be read in two ways as other columns of the file are read.
func (l *looking) decide(i int) {
	values := l.values[i]
	switch {
	case l.o.Decimal == "" && !l.commas && !onlyPoints(values):
		l.o.note("the numbers of the column %q can be read in two ways, such as %q; they stay as they are: name the decimal sign", l.fields[i], example(values, ",."))
	case l.o.Decimal == "" && !l.commas: // 1.234 is a number as it stands
	default:
		l.set(i, "numbers", convention{comma: l.commas && l.o.Decimal != ".", grouped: true})
	}
}

// tell says how the numbers of a column are read, if that is not what is seen. They stay as they are when they have
// another decimal sign than the one that is given.
func (l *looking) tell(i int) {
	n := l.columns[i]
	switch {
	case l.kinds[i] != "numbers":
	case l.o.Decimal != "":
		if n.comma != (l.o.Decimal == ",") {
			l.set(i, "", convention{})
		}
	default:
		if v := example(l.values[i], signs); v != "" && shown(n, v) != v {
			l.o.note("the column %q holds numbers such as %q, which are read as %s", l.fields[i], v, shown(n, v))
		}
	}
}

func column(rows [][]string, i int) (values []string) {
	for _, r := range rows {
		if i < len(r) && strings.TrimSpace(r[i]) != "" {
			values = append(values, strings.TrimSpace(r[i]))
		}
	}
	return values
}

// onlyPoints tells whether no value has a comma: with a point they are numbers already.
func onlyPoints(values []string) bool { return example(values, ",") == "" }

// example is the first value with one of some characters.
func example(values []string, chars string) string {
	for _, v := range values {
		if strings.ContainsAny(v, chars) {
			return v
		}
	}
	return ""
}

func shown(c convention, v string) string {
	out, _ := c.read(v)
	return out
}

// mostRead tells whether a convention that is given fits most of a column: the others are
// told as they come.
func mostRead(c convention, values []string) bool {
	fit := 0
	for _, v := range values {
		if _, ok := c.read(v); ok {
			fit++
		}
	}
	return 2*fit > len(values)
}

// read gives a cell of a column as its convention has it. The first of a column that does
// not follow it is told.
func (c *conventions) read(i int, field, text string, line int) string {
	if c == nil || c.kinds[i] == "" {
		return text
	}
	out, ok := c.columns[i].read(text)
	if !ok && !c.told[i] && !plainNumber.MatchString(text) {
		c.told[i] = true
		c.o.note("line %d: %q in the column %q is not written as the %s above it; it stays as it is", line, text, field, c.kinds[i])
	}
	return out
}
