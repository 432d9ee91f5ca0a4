// Package hyphen finds where words may be hyphenated, with TeX's patterns
// (F. M. Liang: Word Hy-phen-a-tion by Com-put-er, 1983).
package hyphen

import (
	"bytes"
	"cmp"
	"embed"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"

	"oliveledger/typeset/internal/packed"
)

//go:embed patterns/*.zst
var files embed.FS

// dictionary holds the patterns of one language.
type dictionary struct {
	values      map[string][]byte // for the letters of a pattern, the weights between them
	longest     int               // letters of the longest pattern
	left, right int               // fewest letters before and after a hyphen
}

// shortest is the fewest letters of a word that is hyphenated.
const shortest = 5

var (
	mu     sync.Mutex
	loaded = map[string]*dictionary{}
)

// languages leads from a language, or a language and region, to its file.
var languages = map[string]string{
	"cs": "cs", "da": "da", "de": "de", "en": "en", "en-gb": "en-gb", "en-au": "en-gb", "en-ie": "en-gb", "en-nz": "en-gb", "es": "es", "fr": "fr",
	"it": "it", "nb": "nb", "no": "nb", "nl": "nl", "pl": "pl", "pt": "pt", "sv": "sv",
}

// Supports tells whether there are patterns for a language tag.
func Supports(lang string) bool { return fileOf(lang) != "" }

func fileOf(lang string) string {
	lang = strings.ToLower(strings.ReplaceAll(lang, "_", "-"))
	for lang != "" {
		if f := languages[lang]; f != "" {
			return f
		}
		i := strings.LastIndexByte(lang, '-')
		lang = lang[:max(i, 0)]
	}
	return ""
}

func dictionaryOf(lang string) *dictionary {
	name := fileOf(lang)
	if name == "" {
		return nil
	}
	mu.Lock()
	defer mu.Unlock()
	d, ok := loaded[name]
	if !ok {
		if data, err := packed.Read(files, "patterns/"+name+".dic"); err == nil {
			d = read(data)
		}
		loaded[name] = d
	}
	return d
}

// read parses a pattern file: its encoding, directives, and one pattern a
// line.
func read(data []byte) *dictionary {
	first, rest, _ := bytes.Cut(data, []byte("\n"))
	switch strings.TrimSpace(string(first)) {
	case "ISO8859-1":
		data = decoded(rest, charmap.ISO8859_1)
	case "ISO8859-2":
		data = decoded(rest, charmap.ISO8859_2)
	default:
		data = rest
	}
	d := &dictionary{values: map[string][]byte{}, left: 2, right: 2}
	for line := range bytes.Lines(data) {
		text := strings.TrimSpace(string(line))
		switch {
		case text == "" || text[0] == '#' || text[0] == '%' || strings.ContainsRune(text, '/'):
			continue // changes of spelling are left out
		case unicode.IsUpper(rune(text[0])):
			d.directive(text)
		default:
			d.add(text)
		}
	}
	return d
}

func decoded(data []byte, from *charmap.Charmap) []byte {
	out, err := from.NewDecoder().Bytes(data)
	if err != nil {
		return nil
	}
	return out
}

func (d *dictionary) directive(text string) {
	name, value, _ := strings.Cut(text, " ")
	n, err := strconv.Atoi(strings.TrimSpace(value))
	if err != nil || n < 1 {
		return
	}
	switch name {
	case "LEFTHYPHENMIN":
		d.left = n
	case "RIGHTHYPHENMIN":
		d.right = n
	}
}

// add takes a pattern such as 1ba or .hy3ph apart.
func (d *dictionary) add(pattern string) {
	var letters strings.Builder
	weights := []byte{0}
	for _, r := range pattern {
		if r >= '0' && r <= '9' {
			weights[len(weights)-1] = byte(r - '0')
			continue
		}
		letters.WriteRune(r)
		weights = append(weights, 0)
	}
	key := letters.String()
	if old := d.values[key]; old != nil { // levels of one file add up
		for i := range weights {
			weights[i] = max(weights[i], old[i])
		}
	}
	d.values[key] = weights
	d.longest = max(d.longest, utf8.RuneCountInString(key))
}

// Limits are the fewest letters of a word, and those before and after a hyphen; 0 leaves it
// to the language (CSS Text 4, §6.3.1).
type Limits struct{ Word, Before, After int }

// points gives the numbers of letters after which a word may end a line.
func (d *dictionary) points(word []rune, l Limits) []int {
	n := len(word)
	if n < cmp.Or(l.Word, shortest) {
		return nil
	}
	left, right := cmp.Or(l.Before, d.left), cmp.Or(l.After, d.right)
	text := make([]rune, 0, n+2)
	text = append(text, '.')
	for _, r := range word {
		text = append(text, unicode.ToLower(r))
	}
	text = append(text, '.')
	weights := make([]byte, len(text)+1)
	for i := range text {
		for j := i + 1; j <= min(len(text), i+d.longest); j++ {
			for k, v := range d.values[string(text[i:j])] {
				weights[i+k] = max(weights[i+k], v)
			}
		}
	}
	var out []int
	for i := left; i <= n-right; i++ {
		if weights[i+1]%2 == 1 {
			out = append(out, i)
		}
	}
	return out
}

// soft is the soft hyphen.
const soft = '\u00AD'

// Insert puts soft hyphens into the words of a text. Words with digits,
// capitals inside or soft hyphens of their own are left as they are.
func Insert(text, lang string, limits Limits) string {
	d := dictionaryOf(lang)
	if d == nil {
		return text
	}
	var out strings.Builder
	runes := []rune(text)
	for i := 0; i < len(runes); {
		j := i
		for j < len(runes) && (unicode.IsLetter(runes[j]) || unicode.Is(unicode.Mn, runes[j])) {
			j++
		}
		if j == i {
			out.WriteRune(runes[i])
			i++
			continue
		}
		word := runes[i:j]
		at := 0
		if plain(runes, i, j) {
			for _, p := range d.points(word, limits) {
				out.WriteString(string(word[at:p]))
				out.WriteRune(soft)
				at = p
			}
		}
		out.WriteString(string(word[at:]))
		i = j
	}
	return out.String()
}

// plain tells whether the letters from i to j are a word on their own.
func plain(runes []rune, i, j int) bool {
	for _, r := range runes[i+1 : j] {
		if unicode.IsUpper(r) {
			return false
		}
	}
	joined := func(k int) bool {
		return k >= 0 && k < len(runes) && (unicode.IsDigit(runes[k]) || runes[k] == soft || runes[k] == '@' || runes[k] == '_')
	}
	return !joined(i-1) && !joined(j)
}
