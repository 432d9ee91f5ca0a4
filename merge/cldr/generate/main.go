// Generate writes how languages write dates, numbers and lists, from the Common Locale
// Data Repository as Debian's package unicode-cldr-core has it:
//
//	go run ./merge/cldr/generate
package main

import (
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"log"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"

	"oliveledger/merge/cldr"
)

const source = "/usr/share/unicode/cldr/common"

func main() {
	g := &generator{files: map[string]*node{}, parents: map[string]string{}, resolved: map[string]*cldr.Locale{}, zeros: map[string]string{}}
	g.readParents()
	g.readDigits()
	names, err := filepath.Glob(filepath.Join(source, "main", "*.xml"))
	check(err)
	if len(names) == 0 {
		log.Fatalf("there is no data in %s; install unicode-cldr-core", source)
	}
	for _, name := range names {
		tag := strings.TrimSuffix(filepath.Base(name), ".xml")
		g.files[tag] = read(name)
	}
	out := map[string]*cldr.Locale{}
	for tag := range g.files {
		if l := g.kept(tag); l != nil {
			out[strings.ReplaceAll(tag, "_", "-")] = l
		}
	}
	b, err := json.MarshalIndent(out, "", "")
	check(err)
	check(os.WriteFile("merge/cldr/locales.json", append(b, '\n'), 0o644))
	log.Printf("%d locales", len(out))
}

func check(err error) {
	if err != nil {
		log.Fatal(err)
	}
}

// node is an element of a file.
type node struct {
	name string
	attr map[string]string
	kids []*node
	text string
}

func read(name string) *node {
	f, err := os.Open(name)
	check(err)
	defer f.Close()
	d := xml.NewDecoder(f)
	d.Strict = false
	top := &node{}
	open := []*node{top}
	for {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			return top
		}
		check(err)
		last := open[len(open)-1]
		switch x := t.(type) {
		case xml.StartElement:
			n := &node{name: x.Name.Local, attr: map[string]string{}}
			for _, a := range x.Attr {
				n.attr[a.Name.Local] = a.Value
			}
			last.kids = append(last.kids, n)
			open = append(open, n)
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.CharData:
			last.text += string(x)
		}
	}
}

// find follows steps such as month[type=1] down from a node. Variants are passed over.
func (n *node) find(path string) *node {
	for step := range strings.SplitSeq(path, "/") {
		if n == nil {
			return nil
		}
		name, want, _ := strings.Cut(strings.TrimSuffix(step, "]"), "[")
		key, value, asked := strings.Cut(want, "=")
		i := slices.IndexFunc(n.kids, func(k *node) bool {
			if k.name != name || k.attr["alt"] != "" || k.attr["case"] != "" {
				return false
			}
			if !asked {
				return k.attr["type"] == "" || name == "pattern"
			}
			return k.attr[key] == value
		})
		if i < 0 {
			return nil
		}
		n = n.kids[i]
	}
	return n
}

type generator struct {
	files    map[string]*node
	parents  map[string]string
	resolved map[string]*cldr.Locale
	zeros    map[string]string // of numbering systems
}

func (g *generator) readParents() {
	top := read(filepath.Join(source, "supplemental", "supplementalData.xml"))
	for _, p := range top.find("supplementalData/parentLocales").kids {
		for tag := range strings.FieldsSeq(p.attr["locales"]) {
			g.parents[tag] = p.attr["parent"]
		}
	}
}

func (g *generator) readDigits() {
	top := read(filepath.Join(source, "supplemental", "numberingSystems.xml"))
	for _, s := range top.find("supplementalData/numberingSystems").kids {
		if digits := []rune(s.attr["digits"]); len(digits) > 0 {
			g.zeros[s.attr["id"]] = string(digits[0])
		}
	}
}

func (g *generator) parent(tag string) string {
	if p, ok := g.parents[tag]; ok {
		return p
	}
	if i := strings.LastIndexByte(tag, '_'); i > 0 {
		return tag[:i]
	}
	return "root"
}

// kept is what a locale has that its parent has not; nil for one without words.
func (g *generator) kept(tag string) *cldr.Locale {
	l := g.resolve(tag)
	if tag == "root" || strings.HasSuffix(tag, "POSIX") || len(l.Months) == 0 || len(l.Days) == 0 {
		return nil
	}
	up := g.parent(tag)
	if up == "root" {
		return l
	}
	out := *l
	mine, theirs := reflect.ValueOf(&out).Elem(), reflect.ValueOf(g.resolve(up)).Elem()
	differs := false
	for i := range mine.NumField() {
		if reflect.DeepEqual(mine.Field(i).Interface(), theirs.Field(i).Interface()) {
			mine.Field(i).SetZero()
		} else {
			differs = true
		}
	}
	if !differs { // the parent is not always the language alone
		out = cldr.Locale{}
	}
	out.Parent = strings.ReplaceAll(up, "_", "-")
	return &out
}

// resolve is all that a locale has, with what it inherits.
func (g *generator) resolve(tag string) *cldr.Locale {
	if l := g.resolved[tag]; l != nil {
		return l
	}
	l := &cldr.Locale{}
	if tag != "root" {
		*l = *g.resolve(g.parent(tag))
	}
	if top := g.files[tag]; top != nil {
		g.add(l, top.find("ldml"), tag == "root")
	}
	for _, fallback := range []struct{ to, from *[]string }{{&l.ShortMonths, &l.Months}, {&l.ShortDays, &l.Days}} {
		if len(*fallback.to) == 0 {
			*fallback.to = *fallback.from
		}
	}
	for _, alone := range []struct{ to, like *[]string }{{&l.MonthsAlone, &l.Months}, {&l.DaysAlone, &l.Days}} {
		if slices.Equal(*alone.to, *alone.like) {
			*alone.to = nil
		}
	}
	g.resolved[tag] = l
	return l
}

var (
	weekdays = []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}
	months   = []string{"1", "2", "3", "4", "5", "6", "7", "8", "9", "10", "11", "12"}
	lengths  = []string{"short", "medium", "long", "full"}
	counts   = []string{"zero", "one", "two", "few", "many", "other"}
)

func (g *generator) add(l *cldr.Locale, top *node, root bool) {
	cal := top.find("dates/calendars/calendar[type=gregorian]")
	if !root { // its months are M01, M02, …
		words(&l.Months, cal, "months/monthContext[type=format]/monthWidth[type=wide]", "month", months)
		words(&l.ShortMonths, cal, "months/monthContext[type=format]/monthWidth[type=abbreviated]", "month", months)
		words(&l.Days, cal, "days/dayContext[type=format]/dayWidth[type=wide]", "day", weekdays)
		words(&l.ShortDays, cal, "days/dayContext[type=format]/dayWidth[type=abbreviated]", "day", weekdays)
	}
	if !root {
		words(&l.MonthsAlone, cal, "months/monthContext[type=stand-alone]/monthWidth[type=wide]", "month", months)
		words(&l.DaysAlone, cal, "days/dayContext[type=stand-alone]/dayWidth[type=wide]", "day", weekdays)
	}
	for i, length := range lengths {
		text(&l.Date[i], cal.find("dateFormats/dateFormatLength[type="+length+"]/dateFormat/pattern"))
	}
	for i, length := range lengths[:2] {
		text(&l.Time[i], cal.find("timeFormats/timeFormatLength[type="+length+"]/timeFormat/pattern"))
	}
	for i, half := range []string{"am", "pm"} {
		for _, width := range []string{"wide", "abbreviated"} {
			text(&l.Halves[i], cal.find("dayPeriods/dayPeriodContext[type=format]/dayPeriodWidth[type="+width+"]/dayPeriod[type="+half+"]"))
		}
	}
	text(&l.Era, cal.find("eras/eraAbbr/era[type=1]"))
	for i, unit := range []string{"day", "hour", "minute", "second"} {
		u := top.find("units/unitLength[type=short]/unit[type=duration-" + unit + "]")
		own := map[string]string{}
		for _, c := range counts {
			if p := u.find("unitPattern[count=" + c + "]"); p != nil && !strings.Contains(p.text, "↑") {
				own[c] = p.text
			}
		}
		if len(own) > 0 {
			l.Units[i] = own
		}
	}
	for i, part := range []string{"2", "start", "middle", "end"} {
		text(&l.List[i], top.find("listPatterns/listPattern/listPatternPart[type="+part+"]"))
	}
	g.numbers(l, top.find("numbers"))
}

func (g *generator) numbers(l *cldr.Locale, n *node) {
	system := "latn"
	if s := n.find("defaultNumberingSystem"); s != nil && g.zeros[s.text] != "" {
		system = s.text
		l.Zero = g.zeros[system]
	} else if l.Zero != "" && l.Zero != "0" {
		for id, zero := range g.zeros {
			if zero == l.Zero {
				system = id
			}
		}
	}
	if l.Zero == "" {
		l.Zero = "0"
	}
	symbols := n.find("symbols[numberSystem=" + system + "]")
	text(&l.Point, symbols.find("decimal"))
	text(&l.Group, symbols.find("group"))
	text(&l.PercentSign, symbols.find("percentSign"))
	text(&l.LeastGrouped, n.find("minimumGroupingDigits"))
	for _, s := range []string{"latn", system} {
		text(&l.Decimal, n.find("decimalFormats[numberSystem="+s+"]/decimalFormatLength/decimalFormat/pattern"))
		text(&l.Percent, n.find("percentFormats[numberSystem="+s+"]/percentFormatLength/percentFormat/pattern"))
		text(&l.Currency, n.find("currencyFormats[numberSystem="+s+"]/currencyFormatLength/currencyFormat[type=standard]/pattern"))
	}
}

// text takes what an element says, if it is there and does not point elsewhere.
func text(to *string, n *node) {
	if n != nil && n.text != "" && !strings.Contains(n.text, "↑") {
		*to = n.text
	}
}

// words takes a list of names, if all are there.
func words(to *[]string, cal *node, path, name string, types []string) {
	at := cal.find(path)
	var list []string
	for i, t := range types {
		word := ""
		if i < len(*to) {
			word = (*to)[i]
		}
		text(&word, at.find(name+"[type="+t+"]"))
		list = append(list, word)
	}
	if !slices.Contains(list, "") {
		*to = list
	}
}
