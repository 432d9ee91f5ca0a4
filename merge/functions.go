package merge

import (
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"maps"
	"net/url"
	"time"

	"github.com/shopspring/decimal"
	"golang.org/x/text/language"
)

// tools are what the functions of one template share.
type tools struct {
	files    fs.FS
	tag      language.Tag
	locale   *locale
	currency string
	zone     *time.Location
	run      time.Time // the date that today gives; zero for the clock's
	rounding string
	colors   []string
}

func (m Manifest) tools(files fs.FS) (*tools, error) {
	tag, err := language.Parse(m.Locale)
	if err != nil {
		return nil, fmt.Errorf("locale: %q is no language tag such as en or pt-BR", m.Locale)
	}
	t := &tools{files: files, tag: tag, currency: m.Currency, rounding: m.Rounding, zone: time.UTC, colors: m.Colors}
	known := false
	if t.locale, known = localeOf(tag); !known {
		return nil, fmt.Errorf("locale: there are no words for %q; take a language that is close to it", m.Locale)
	}
	if m.TimeZone != "" {
		if t.zone, err = time.LoadLocation(m.TimeZone); err != nil {
			return nil, fmt.Errorf("timezone: %q is not known; write a name such as Europe/Lisbon", m.TimeZone)
		}
	}
	switch m.Rounding {
	case "", "half-up", "half-even", "down":
	default:
		return nil, fmt.Errorf("rounding: %q is not half-up, half-even or down", m.Rounding)
	}
	return t, nil
}

// functions are what a template may call beside and/or/not of html/template.
func (t *tools) functions() template.FuncMap {
	functions := template.FuncMap{
		// amounts
		"money": t.money, "number": t.number, "percent": t.percent, "unit": t.unit,
		"add": calc(decimal.Decimal.Add), "subtract": calc(decimal.Decimal.Sub), "multiply": calc(decimal.Decimal.Mul), "divide": divide,
		"round": t.round, "negative": negative, "plus": calc(decimal.Decimal.Add),
		"discount": t.discount, "priced": t.priced, "taxes": t.taxes,
		"inWords": t.inWords, "ordinal": t.ordinal, "plural": t.plural,
		// dates
		"date": t.date, "time": t.time, "duration": t.duration, "today": t.today,
		// lists
		"sum": sum, "count": count, "least": t.least, "greatest": t.greatest, "running": running,
		"groupBy": groupBy, "sortBy": t.sortBy, "where": t.where, "pluck": pluck, "chunk": chunk, "columns": columns,
		// text and choice
		"upper": t.upper, "lower": t.lower, "join": join, "enumerate": t.enumerate, "split": split, "shorten": shorten,
		"has": has, "default": fallback, "choose": t.choose,
		// checked values
		"asset": t.asset, "picture": t.picture, "signature": t.signature, "link": link, "html": cleanHTML, "markdown": markdown,
		// drawings
		"qr": qr, "barcode": barcodeSVG, "bars": t.bars, "line": t.line, "pie": t.pie, "sparkline": t.sparkline,
		// in the place of html/template's own, for values of records
		"printf": printf, "print": printed(fmt.Sprint), "println": printed(fmt.Sprintln), "len": length, "index": index, "slice": part,
	}
	maps.Copy(functions, t.comparisons())
	return functions
}

// asset is the address of a file of the template.
func (t *tools) asset(name string) (template.URL, error) {
	if _, err := fs.Stat(t.files, name); err != nil {
		if errors.Is(err, fs.ErrNotExist) {
			return "", fmt.Errorf("there is no file %q in the template", name)
		}
		return "", fmt.Errorf("the file %q of the template cannot be read: %w", name, err)
	}
	return template.URL((&url.URL{Path: name}).String()), nil
}
