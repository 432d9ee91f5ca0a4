package typeset

import (
	"fmt"
	"strings"
	"unicode"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/pdf"
)

// lacking collects the characters that no font at hand has, by script, so that
// a text in one script is told once.
type lacking struct {
	order []string
	list  map[string]*lackingScript
	seen  map[rune]bool
}

type lackingScript struct {
	runes []rune
	first *markup.Node
}

func (l *lacking) add(r rune, n *markup.Node) {
	if l.seen[r] {
		return
	}
	if l.seen == nil {
		l.seen, l.list = map[rune]bool{}, map[string]*lackingScript{}
	}
	l.seen[r] = true
	script := scriptOf(r)
	if l.list[script] == nil {
		l.order = append(l.order, script)
		l.list[script] = &lackingScript{first: n}
	}
	l.list[script].runes = append(l.list[script].runes, r)
}

// tell adds a finding for each script.
func (l *lacking) tell(s *setting) {
	for _, script := range l.order {
		x := l.list[script]
		s.tellAt(x.first, "glyph-missing", Warning, x.message(script), "give a font that has it through @font-face")
	}
}

// against tells why a file is none for an archive: boxes stand in it for characters that nobody can read later.
func (l *lacking) against(profile pdf.Profile) error {
	if profile == pdf.Plain || len(l.order) == 0 {
		return nil
	}
	script := l.order[0]
	return fmt.Errorf("the PDF could not be written: an archive file (%s) is to show each character, and %s; give a font that has it through @font-face, or allow boxes in their place", profile, l.list[script].message(script))
}

func (x *lackingScript) message(script string) string {
	if len(x.runes) == 1 {
		return fmt.Sprintf("no font at hand has the character “%c” (%U)", x.runes[0], x.runes[0])
	}
	const some = 3
	var examples []string
	for _, r := range x.runes[:min(some, len(x.runes))] {
		examples = append(examples, fmt.Sprintf("“%c” (%U)", r, r))
	}
	of := ""
	if script != "" {
		of = " of the " + script + " script"
	}
	which := ", such as "
	if len(x.runes) <= some {
		which = ": "
	}
	return fmt.Sprintf("no font at hand has %d characters%s%s%s", len(x.runes), of, which, strings.Join(examples, ", "))
}

// scriptOf is the name of the script that a character is of, or "" when
// several use it.
func scriptOf(r rune) string {
	for name, table := range unicode.Scripts {
		if name != "Common" && name != "Inherited" && unicode.Is(table, r) {
			return strings.ReplaceAll(name, "_", " ")
		}
	}
	return ""
}
