package store

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestNumbered(t *testing.T) {
	for pattern, want := range map[string]string{"QL-{year}-{number:4}": "QL-2026-0007", "{number}": "7", "A{number:1}/{year:6}": "A7/002026", "{number:9}": "000000007"} {
		assert.NoError(t, CheckPattern(pattern), pattern)
		assert.Equal(t, want, numbered(pattern, 2026, 7), pattern)
	}
	for pattern, want := range map[string]string{"": "needs {number} once", "{number}{number}": "needs {number} once", "{year}": "needs {number} once", "{name}{number}": "has the field {name}", "{number:x}": "brace", "{number}}": "brace"} {
		assert.ErrorContains(t, CheckPattern(pattern), want, pattern)
	}
}

// FuzzPattern holds every pattern that is taken to giving different numbers different texts.
func FuzzPattern(f *testing.F) {
	f.Add("QL-{year}-{number:4}", uint16(1), uint16(2))
	f.Add("{number:0}{year:9}", uint16(9), uint16(10))
	f.Fuzz(func(t *testing.T, pattern string, a, b uint16) {
		if CheckPattern(pattern) != nil {
			return
		}
		one, other := numbered(pattern, 2026, int(a)), numbered(pattern, 2026, int(b))
		if a != b && one == other {
			t.Errorf("%q gives %q for %d and for %d", pattern, one, a, b)
		}
		if strings.Contains(one, "{number") {
			t.Errorf("%q leaves its field as it is", pattern)
		}
	})
}

// TestYearsGoOn draws numbers by clocks that differ at New Year.
func TestYearsGoOn(t *testing.T) {
	s := Series{Pattern: "QL-{year}-{number:3}", Year: 2026, Next: 41}
	var got []string
	for _, year := range []int{2026, 2027, 2026, 2027, 2026} {
		s.turn(year)
		got = append(got, numbered(s.Pattern, s.Year, s.Next))
		s.Next++
	}
	assert.Equal(t, []string{"QL-2026-041", "QL-2027-001", "QL-2027-002", "QL-2027-003", "QL-2027-004"}, got)
	plain := Series{Pattern: "D-{number}", Year: 2026, Next: 9}
	plain.turn(2027)
	assert.Equal(t, 9, plain.Next, "a pattern without years goes on")
}
