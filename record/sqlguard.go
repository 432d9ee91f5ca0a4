package record

import (
	"errors"
	"regexp"
	"strings"
)

// readingQuery is what a query may begin with.
var readingQuery = regexp.MustCompile(`(?i)^\s*\(*\s*(select|with|table|values|show)\b`)

// writingWords are those by which a query that begins as a reading one writes files or
// variables, reads files of the server, or locks.
var writingWords = regexp.MustCompile(`(?i)\b(into|load_file|for\s+update|lock\s+in\s+share\s+mode|for\s+share)\b`)

// onlyReads refuses a query that does anything but read rows. It looks at the query before
// it is sent: a transaction that can only read still lets files be written.
func onlyReads(query string) error {
	bare, err := withoutText(query)
	if err != nil {
		return err
	}
	switch word := writingWords.FindString(bare); {
	case !readingQuery.MatchString(bare):
		return errors.New("the query is no SELECT: records are only read")
	case word != "":
		return errors.New("the query holds " + strings.ToUpper(strings.Join(strings.Fields(word), " ")) + ": records are only read")
	case strings.Contains(strings.TrimRight(bare, "; \n\t\r"), ";"):
		return errors.New("the query holds several statements; one SELECT gives the records")
	}
	return nil
}

// withoutText leaves out a query's strings, quoted names and comments. Comments that a
// server runs are refused.
func withoutText(query string) (string, error) {
	var out strings.Builder
	for i := 0; i < len(query); {
		rest := query[i:]
		switch {
		case strings.HasPrefix(rest, "/*!"), strings.HasPrefix(rest, "/*M!"):
			return "", errors.New("the query holds a comment that the server would run (/*! … */)")
		case strings.HasPrefix(rest, "/*"):
			i += ended(rest, 2, "*/")
		case strings.HasPrefix(rest, "#"), strings.HasPrefix(rest, "--") && (len(rest) == 2 || rest[2] <= ' '):
			i += ended(rest, 1, "\n")
		case rest[0] == '\'' || rest[0] == '"' || rest[0] == '`':
			i += quotedLength(rest)
		default:
			out.WriteByte(rest[0])
			i++
			continue
		}
		out.WriteByte(' ')
	}
	return out.String(), nil
}

// ended is the length of what begins s and ends with end, which is looked for from a place
// on.
func ended(s string, from int, end string) int {
	if i := strings.Index(s[from:], end); i >= 0 {
		return from + i + len(end)
	}
	return len(s)
}

// quotedLength is the length of the string or quoted name that begins s. Its quote stands
// for itself where it is doubled, or in strings behind a backslash.
func quotedLength(s string) int {
	for i := 1; i < len(s); i++ {
		switch {
		case s[i] == '\\' && s[0] != '`':
			i++
		case s[i] == s[0] && i+1 < len(s) && s[i+1] == s[0]:
			i++
		case s[i] == s[0]:
			return i + 1
		}
	}
	return len(s)
}
