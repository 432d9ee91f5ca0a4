package merge

import (
	"fmt"
	"strconv"
	"strings"
	"time"
)

// Period is how long documents must be kept, such as “10 years”, “6 months” or “90 days”; empty for
// no end.
type Period string

// Check tells what is wrong with a period.
func (p Period) Check() error {
	_, _, err := p.parts()
	return err
}

func (p Period) parts() (n int, unit string, err error) {
	if p == "" {
		return 0, "", nil
	}
	count, unit, _ := strings.Cut(strings.TrimSpace(string(p)), " ")
	n, err = strconv.Atoi(count)
	unit = strings.TrimSuffix(strings.TrimSpace(unit), "s")
	if err != nil || n < 1 || n > 10_000 || unit != "year" && unit != "month" && unit != "day" {
		return 0, "", fmt.Errorf("%q is no time to keep documents for; write 10 years, 6 months or 90 days", string(p))
	}
	return n, unit, nil
}

// End is when the period ends that begins at a moment; zero for never.
func (p Period) End(from time.Time) time.Time {
	switch n, unit, _ := p.parts(); unit {
	case "year":
		return from.AddDate(n, 0, 0)
	case "month":
		return from.AddDate(0, n, 0)
	case "day":
		return from.AddDate(0, 0, n)
	}
	return time.Time{}
}
