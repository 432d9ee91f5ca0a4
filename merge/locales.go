package merge

import (
	"strings"
	"sync"

	"github.com/shopspring/decimal"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"
)

const nbsp = "\u00A0"

// locale is how a language writes numbers and dates (CLDR). Patterns of dates
// are written in the notation of UTS 35.
type locale struct {
	tag                      language.Tag
	zero                     rune
	group, point             string
	wide                     bool // four digits are not grouped
	symbolFirst, symbolSpace bool
	percent                  string
	dates                    dateNames
	currencies               sync.Map // of money, by code
}

// dateNames are the names and patterns of dates in one language.
type dateNames struct {
	months, shortMonths, days, shortDays string // separated by spaces
	short, medium, long, full            string
	hours                                string
	am, pm                               string
	units                                [4]string // day, hour, minute, second, as symbols
}

// dateTable by language; months of a date are in the form that a date asks for.
var dateTable = map[string]dateNames{
	"en": {"January February March April May June July August September October November December", "Jan Feb Mar Apr May Jun Jul Aug Sept Oct Nov Dec", "Sunday Monday Tuesday Wednesday Thursday Friday Saturday", "Sun Mon Tue Wed Thu Fri Sat",
		"dd/MM/yyyy", "d MMM yyyy", "d MMMM yyyy", "EEEE d MMMM yyyy", "HH:mm", "am", "pm", [4]string{"d", "h", "min", "s"}},
	"en-US": {"January February March April May June July August September October November December", "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec", "Sunday Monday Tuesday Wednesday Thursday Friday Saturday", "Sun Mon Tue Wed Thu Fri Sat",
		"M/d/yy", "MMM d, yyyy", "MMMM d, yyyy", "EEEE, MMMM d, yyyy", "h:mm a", "AM", "PM", [4]string{"d", "h", "min", "s"}},
	"de": {"Januar Februar März April Mai Juni Juli August September Oktober November Dezember", "Jan. Feb. März Apr. Mai Juni Juli Aug. Sept. Okt. Nov. Dez.", "Sonntag Montag Dienstag Mittwoch Donnerstag Freitag Samstag", "So Mo Di Mi Do Fr Sa",
		"dd.MM.yy", "dd.MM.yyyy", "d. MMMM yyyy", "EEEE, d. MMMM yyyy", "HH:mm", "AM", "PM", [4]string{"T", "Std.", "Min.", "Sek."}},
	"fr": {"janvier février mars avril mai juin juillet août septembre octobre novembre décembre", "janv. févr. mars avr. mai juin juil. août sept. oct. nov. déc.", "dimanche lundi mardi mercredi jeudi vendredi samedi", "dim. lun. mar. mer. jeu. ven. sam.",
		"dd/MM/yyyy", "d MMM yyyy", "d MMMM yyyy", "EEEE d MMMM yyyy", "HH:mm", "AM", "PM", [4]string{"j", "h", "min", "s"}},
	"es": {"enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre", "ene feb mar abr may jun jul ago sept oct nov dic", "domingo lunes martes miércoles jueves viernes sábado", "dom lun mar mié jue vie sáb",
		"d/M/yy", "d MMM yyyy", "d 'de' MMMM 'de' yyyy", "EEEE, d 'de' MMMM 'de' yyyy", "H:mm", "a. m.", "p. m.", [4]string{"d", "h", "min", "s"}},
	"it": {"gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre", "gen feb mar apr mag giu lug ago set ott nov dic", "domenica lunedì martedì mercoledì giovedì venerdì sabato", "dom lun mar mer gio ven sab",
		"dd/MM/yy", "d MMM yyyy", "d MMMM yyyy", "EEEE d MMMM yyyy", "HH:mm", "AM", "PM", [4]string{"g", "h", "min", "s"}},
	"nl": {"januari februari maart april mei juni juli augustus september oktober november december", "jan feb mrt apr mei jun jul aug sep okt nov dec", "zondag maandag dinsdag woensdag donderdag vrijdag zaterdag", "zo ma di wo do vr za",
		"dd-MM-yyyy", "d MMM yyyy", "d MMMM yyyy", "EEEE d MMMM yyyy", "HH:mm", "a.m.", "p.m.", [4]string{"d", "u", "min", "s"}},
	"pt": {"janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro", "jan. fev. mar. abr. mai. jun. jul. ago. set. out. nov. dez.", "domingo segunda-feira terça-feira quarta-feira quinta-feira sexta-feira sábado", "dom. seg. ter. qua. qui. sex. sáb.",
		"dd/MM/yyyy", "d 'de' MMM 'de' yyyy", "d 'de' MMMM 'de' yyyy", "EEEE, d 'de' MMMM 'de' yyyy", "HH:mm", "AM", "PM", [4]string{"d", "h", "min", "s"}},
	"pl": {"stycznia lutego marca kwietnia maja czerwca lipca sierpnia września października listopada grudnia", "sty lut mar kwi maj cze lip sie wrz paź lis gru", "niedziela poniedziałek wtorek środa czwartek piątek sobota", "niedz. pon. wt. śr. czw. pt. sob.",
		"d.MM.yyyy", "d MMM yyyy", "d MMMM yyyy", "EEEE, d MMMM yyyy", "HH:mm", "AM", "PM", [4]string{"d", "godz.", "min", "s"}},
	"sv": {"januari februari mars april maj juni juli augusti september oktober november december", "jan. feb. mars apr. maj juni juli aug. sep. okt. nov. dec.", "söndag måndag tisdag onsdag torsdag fredag lördag", "sön mån tis ons tors fre lör",
		"yyyy-MM-dd", "d MMM yyyy", "d MMMM yyyy", "EEEE d MMMM yyyy", "HH:mm", "fm", "em", [4]string{"d", "tim", "min", "s"}},
	"ar": {"يناير فبراير مارس أبريل مايو يونيو يوليو أغسطس سبتمبر أكتوبر نوفمبر ديسمبر", "يناير فبراير مارس أبريل مايو يونيو يوليو أغسطس سبتمبر أكتوبر نوفمبر ديسمبر", "الأحد الاثنين الثلاثاء الأربعاء الخميس الجمعة السبت", "الأحد الاثنين الثلاثاء الأربعاء الخميس الجمعة السبت",
		"d/M/yyyy", "dd/MM/yyyy", "d MMMM yyyy", "EEEE، d MMMM yyyy", "h:mm a", "ص", "م", [4]string{"ي", "س", "د", "ث"}},
	"ja": {"1月 2月 3月 4月 5月 6月 7月 8月 9月 10月 11月 12月", "1月 2月 3月 4月 5月 6月 7月 8月 9月 10月 11月 12月", "日曜日 月曜日 火曜日 水曜日 木曜日 金曜日 土曜日", "日 月 火 水 木 金 土",
		"yyyy/MM/dd", "yyyy/MM/dd", "yyyy年M月d日", "yyyy年M月d日EEEE", "H:mm", "午前", "午後", [4]string{"日", "時間", "分", "秒"}},
}

// localeOf finds how a language writes; one that is not in the tables writes
// dates as English does.
func localeOf(tag language.Tag) *locale {
	base, _ := tag.Base()
	region, _ := tag.Region()
	l := &locale{tag: tag, percent: "%"}
	name := base.String()
	if names, ok := dateTable[name+"-"+region.String()]; ok && strings.Contains(tag.String(), "-") {
		l.dates = names
	} else if names, ok := dateTable[name]; ok {
		l.dates = names
	} else {
		l.dates = dateTable["en"]
	}
	switch name {
	case "en", "ja", "zh", "ko":
		l.symbolFirst = true
	case "nl", "nb", "no", "da":
		l.symbolFirst, l.symbolSpace = name == "nl", true
	case "pt":
		l.symbolFirst, l.symbolSpace = region.String() != "PT", true
	}
	switch name {
	case "de", "fr", "es", "sv", "da", "fi", "cs", "nb":
		l.percent = nbsp + "%"
	case "ar":
		l.percent = "٪"
	}
	p := l.printer()
	l.zero = []rune(p.Sprint(number.Decimal(0)))[0]
	long := []rune(p.Sprint(number.Decimal(12345.5, number.Scale(1)))) // 12,345.5
	l.point = string(long[len(long)-2])
	if len(long) > 7 {
		l.group = string(long[2])
	}
	switch name { // minimumGroupingDigits 2 (CLDR)
	case "es", "pl", "pt":
		l.wide = name != "pt" || region.String() == "PT"
		if l.group == "" {
			l.group = map[string]string{"es": ".", "pl": nbsp, "pt": nbsp}[name]
		}
	}
	return l
}

func (l *locale) printer() *message.Printer { return message.NewPrinter(l.tag) }

// digits writes an amount that is not negative; the digits are exact.
func (l *locale) digits(d decimal.Decimal, places int) string {
	whole, frac, _ := strings.Cut(d.StringFixed(int32(places)), ".")
	var b strings.Builder
	for i, c := range whole {
		if i > 0 && (len(whole)-i)%3 == 0 && !(l.wide && len(whole) == 4) {
			b.WriteString(l.group)
		}
		b.WriteRune(l.digit(c))
	}
	if frac != "" {
		b.WriteString(l.point)
		for _, c := range frac {
			b.WriteRune(l.digit(c))
		}
	}
	return b.String()
}

func (l *locale) digit(c rune) rune {
	if c >= '0' && c <= '9' {
		return l.zero + c - '0'
	}
	return c
}
