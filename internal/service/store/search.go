package store

import (
	"slices"
	"strings"
	"unicode"

	"gorm.io/gorm"
)

// leastWord is the length of the shortest words that the index of words has (innodb_ft_min_token_size).
const leastWord = 3

// unindexed are words that the index leaves out (InnoDB's default list).
var unindexed = strings.Fields("a about an are as at be by com de en for from how i in is it la of on or that the this to was what when where who will with und the www")

// unspaced tells letters of scripts that put no spaces between words: the index has no words of them.
func unspaced(r rune) bool {
	return unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer, unicode.Myanmar)
}

// words are those of a text that is looked for, as the index of words is asked for them: each must be
// there, or begin a word that is. Empty when the index has none of them.
func words(text string) string {
	var list []string
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) && !unicode.IsMark(r) }) {
		if len([]rune(w)) >= leastWord && !slices.Contains(unindexed, strings.ToLower(w)) {
			list = append(list, "+"+w+"*")
		}
	}
	return strings.Join(list, " ")
}

// searched narrows documents down to those whose number or name begins with a text, or that hold all of
// its words.
func (s *Store) searched(q *gorm.DB, text string) *gorm.DB {
	if strings.ContainsFunc(text, unspaced) {
		l := like(text)
		return q.Where("number LIKE ? OR name LIKE ? OR title LIKE ? OR data LIKE ?", l, l, l, l)
	}
	begins := strings.TrimPrefix(like(text), "%")
	// joined, so that what is found is looked up, and not each document for whether it is found
	const byStart = "JOIN (SELECT id AS found FROM documents WHERE number LIKE ? UNION SELECT id FROM documents WHERE name LIKE ?"
	if list := words(text); list != "" {
		return q.Joins(byStart+" UNION SELECT id FROM documents WHERE MATCH (number, name, title, data) AGAINST (? IN BOOLEAN MODE)) f ON found = documents.id", begins, begins, list)
	}
	return q.Joins(byStart+") f ON found = documents.id", begins, begins)
}
