package inbox

import (
	"errors"
	"fmt"
	"strings"

	"oliveledger/client"
)

// report is what became of a file.
type report struct {
	batch     uint64
	documents int
	notes     []string // what was found out about the file
	failures  []string // rows that could not be read, documents that could not be made
}

// wrong adds what kept everything from being made.
func (r *report) wrong(err error) {
	var p *client.Problem
	switch {
	case err == nil:
	case errors.As(err, &p):
		r.failures = append(r.failures, p.Detail)
	default:
		r.failures = append(r.failures, err.Error())
	}
}

// text is the report as people read it.
func (r *report) text() string {
	var b strings.Builder
	switch r.documents {
	case 0:
		b.WriteString("No document was made")
	case 1:
		b.WriteString("1 document was made")
	default:
		fmt.Fprintf(&b, "%d documents were made", r.documents)
	}
	if r.batch != 0 {
		fmt.Fprintf(&b, " by batch %d", r.batch)
	}
	b.WriteString(".\n")
	for _, part := range []struct {
		head  string
		lines []string
	}{{"What failed", r.failures}, {"What was found out about the file", r.notes}} {
		if len(part.lines) == 0 {
			continue
		}
		fmt.Fprintf(&b, "\n%s:\n", part.head)
		for _, line := range part.lines {
			fmt.Fprintf(&b, "- %s\n", strings.ReplaceAll(line, "\n", "\n  "))
		}
	}
	if len(r.failures) > 0 {
		b.WriteString("\nMend the records, and lay a file with only these into the folder again.\n")
	}
	return b.String()
}
