package cldr

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"golang.org/x/text/language"
)

// Every locale is whole once it has taken from its parents what it lacks itself.
func TestLocalesAreWhole(t *testing.T) {
	table := load()
	assert.Greater(t, len(table.locales), 300)
	for name := range table.locales {
		l := table.whole(name)
		assert.Len(t, l.Months, 12, name)
		assert.Len(t, l.Days, 7, name)
		for _, list := range [][]string{l.Months, l.ShortMonths, l.Days, l.ShortDays, l.Date[:], l.Time[:], l.List[:], {l.Zero, l.Point, l.Decimal, l.Percent, l.PercentSign, l.Currency}} {
			assert.NotEmpty(t, list, name)
			assert.NotContains(t, list, "", name)
		}
		for _, unit := range l.Units {
			assert.Contains(t, unit["other"], "{0}", name)
		}
	}
}

func TestFind(t *testing.T) {
	for tag, want := range map[string]struct {
		month, date string
		known       bool
	}{
		"en":         {"January", "dd/MM/y", true},
		"en-US":      {"January", "M/d/yy", true},
		"en-NZ":      {"January", "d/MM/yy", true},
		"de-AT":      {"Jänner", "dd.MM.yy", true},
		"de-LU":      {"Januar", "dd.MM.yy", true},
		"pt-BR":      {"janeiro", "dd/MM/y", true},
		"no":         {"januar", "dd.MM.y", true},
		"sr-Latn":    {"januar", "d.M.yy.", true},
		"zh-Hant-HK": {"1月", "d/M/y", true},
		"zh-TW":      {"1月", "y/M/d", true},
		"sr-Latn-XK": {"januar", "d.M.yy.", true},
		"es-GT":      {"enero", "d/MM/yy", true},
		"qaa":        {"January", "dd/MM/y", false},
	} {
		l, ok := Find(language.MustParse(tag))
		assert.Equal(t, want.known, ok, tag)
		if ok {
			assert.Equal(t, want.month, l.Months[0], tag)
			assert.Equal(t, want.date, l.Date[0], tag)
		}
	}
}
