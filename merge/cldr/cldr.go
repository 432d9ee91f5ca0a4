// Package cldr tells how languages write dates, numbers and lists: the Common Locale Data
// Repository of the Unicode consortium, as far as documents need it. The data are made by
// the program in generate.
package cldr

import (
	_ "embed"
	"encoding/json"
	"maps"
	"reflect"
	"slices"
	"sync"

	"golang.org/x/text/language"
)

// Locale is how one language, perhaps of one region, writes. Patterns of dates are written
// in the notation of UTS 35.
type Locale struct {
	Parent       string               `json:",omitempty"` // that it takes from what it lacks itself
	Months       []string             `json:",omitempty"` // in the form that a date asks for
	ShortMonths  []string             `json:",omitempty"`
	MonthsAlone  []string             `json:",omitempty"` // without a day, where that differs
	Days         []string             `json:",omitempty"` // from Sunday on
	ShortDays    []string             `json:",omitempty"`
	DaysAlone    []string             `json:",omitempty"` // without a date, where that differs
	Date         [4]string            `json:",omitzero"`  // short, medium, long, full
	Time         [2]string            `json:",omitzero"`  // short, medium
	Halves       [2]string            `json:",omitzero"`  // of the day: am, pm
	Era          string               `json:",omitempty"`
	Units        [4]map[string]string `json:",omitzero"`  // patterns of days, hours, minutes and seconds, by plural form
	List         [4]string            `json:",omitzero"`  // patterns of two entries; of the start, the middle and the end of more
	Zero         string               `json:",omitempty"` // the digit
	Point, Group string               `json:",omitempty"`
	LeastGrouped string               `json:",omitempty"` // digits that the first group has at least
	Decimal      string               `json:",omitempty"` // patterns of numbers
	Percent      string               `json:",omitempty"`
	PercentSign  string               `json:",omitempty"`
	Currency     string               `json:",omitempty"`
}

//go:embed locales.json
var data []byte

// table is all locales, with a matcher over their tags.
type table struct {
	locales map[string]*Locale
	close   func(tag language.Tag) (name string, ok bool) // what comes closest to a tag that has no data
}

var load = sync.OnceValue(func() *table {
	t := &table{}
	if err := json.Unmarshal(data, &t.locales); err != nil {
		panic("the data of languages are damaged: " + err.Error()) // they are built in
	}
	match := sync.OnceValues(t.matcher)
	t.close = func(tag language.Tag) (string, bool) {
		m, names := match()
		_, i, confidence := m.Match(tag)
		return names[i], confidence >= language.Low
	}
	return t
})

// matcher finds the closest locale; English comes first, which others fall back to.
func (t *table) matcher() (language.Matcher, []string) {
	names, tags := []string{"en"}, []language.Tag{language.English}
	for _, name := range slices.Sorted(maps.Keys(t.locales)) {
		if tag, err := language.Parse(name); err == nil && name != "en" { // the library may not know one
			names, tags = append(names, name), append(tags, tag)
		}
	}
	return language.NewMatcher(tags), names
}

// whole is a locale with what it takes from its parents.
func (t *table) whole(name string) Locale {
	l := *t.locales[name]
	if l.Parent == "" {
		return l
	}
	up := t.whole(l.Parent)
	mine, theirs := reflect.ValueOf(&l).Elem(), reflect.ValueOf(up)
	for i := range mine.NumField() {
		if mine.Field(i).IsZero() {
			mine.Field(i).Set(theirs.Field(i))
		}
	}
	return l
}

// inScript is a tag without its region, if the language alone is written as it is there.
func inScript(tag language.Tag) string {
	base, _ := tag.Base()
	there, _ := tag.Script()
	if usual, _ := language.Make(base.String()).Script(); usual != there {
		return base.String() + "-" + there.String()
	}
	return base.String()
}

// Find is how a language writes. English without a region is that of Europe; ok is false
// where there are no words for a language, and English is given.
func Find(tag language.Tag) (l Locale, ok bool) {
	t := load()
	switch tag.String() {
	case "en":
		return t.whole("en-GB"), true
	case "en-US":
		return t.whole("en"), true
	}
	for _, name := range []string{tag.String(), inScript(tag)} {
		if t.locales[name] != nil {
			return t.whole(name), true
		}
	}
	name, ok := t.close(tag)
	return t.whole(name), ok
}
