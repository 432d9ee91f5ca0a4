package cli

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/pflag"

	"oliveledger/typeset"
)

// fewPlaces is how many further places of a finding are named.
const fewPlaces = 3

// tellFindings prints findings, those that say the same once with the number of places
// and the first of them.
func tellFindings(w io.Writer, list []typeset.Finding) {
	type key struct{ code, message, advice, file string }
	at := map[key]int{}
	var groups [][]typeset.Finding
	for _, f := range list {
		k := key{f.Code, f.Message, f.Advice, f.File}
		i, known := at[k]
		if !known {
			i = len(groups)
			at[k] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], f)
	}
	for _, g := range groups {
		fmt.Fprintln(w, g[0].String()+further(g[1:]))
	}
}

// further tells of a finding's other places.
func further(list []typeset.Finding) string {
	if len(list) == 0 {
		return ""
	}
	var places []string
	for _, f := range list {
		place := ""
		switch {
		case f.Line > 0:
			place = fmt.Sprintf("line %d", f.Line)
		case f.Page > 0:
			place = fmt.Sprintf("page %d", f.Page)
		}
		if place != "" && len(places) < fewPlaces {
			places = append(places, place)
		}
	}
	more := fmt.Sprintf(" (and %s", plural(len(list), "more place"))
	if len(places) > 0 {
		more += ": " + strings.Join(places, ", ")
		if len(list) > len(places) {
			more += " …"
		}
	}
	return more + ")"
}

// failing is the least severity of findings that makes a command fail.
type failing struct{ name string }

func (f *failing) add(fl *pflag.FlagSet, def, what string) {
	fl.StringVar(&f.name, "fail-at", def, "least severity that makes "+what+" fail: note, warning or error")
}

// level is the severity; given is false when none is named.
func (f *failing) level() (s typeset.Severity, given bool, err error) {
	if f.name == "" {
		return 0, false, nil
	}
	s, ok := map[string]typeset.Severity{"note": typeset.Note, "warning": typeset.Warning, "error": typeset.Error}[f.name]
	if !ok {
		err = usage("--fail-at is note, warning or error, not %q", f.name)
	}
	return s, ok, err
}

// breached tells whether a finding is as severe as the level.
func (f *failing) breached(list []typeset.Finding) bool {
	level, given, _ := f.level()
	for _, x := range list {
		if given && x.Severity >= level {
			return true
		}
	}
	return false
}
