package merge

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
)

const madeRecord = `{"months": [{"name": "May", "amount": 120}, {"name": "June", "amount": 340.5}, {"name": "July", "amount": 410}, {"name": "August <1>", "amount": 95}],
 "mixed": [{"name": "in", "amount": 30}, {"name": "out", "amount": -45}, {"name": "none", "amount": 0}], "one": [{"name": "only", "amount": 7}], "flat": [{"name": "a", "amount": 5}, {"name": "b", "amount": 5}],
 "small": [{"name": "a", "amount": 0.002}, {"name": "b", "amount": 0.0071}], "half": [{"name": "a", "amount": 50}, {"name": "b", "amount": 50}],
 "long": [{"name": "Winter storage ashore", "amount": 1}, {"name": "Moorings by the week", "amount": 2}, {"name": "Courses for beginners", "amount": 3}, {"name": "Cranes and slipways", "amount": 4}, {"name": "Shore power and water", "amount": 5}, {"name": "All that is left", "amount": 6}],
 "counts": [3, 1, 4, 1, 5, 9, 2, 6], "level": [2, 2, 2], "two": [1, 2], "names": ["Ida", "Jon", "Per"],
 "whole": [0, 1, 2, 3, 5, 7, 10, 11, 12, 16, 17, 20, 21, 22, 30, 31, 45, 70, 71, 80, 81, 90, 91, 99, 100, 101, 110, 180, 199, 200, 201, 500, 700, 999, 1000, 1001, 1100, 2000, 2026, 10000, 21000, 100000, 123456, 1000000, 2000001, 1000000000],
 "parts": [0.5, 1.05, 21.5, 99.99, -3, -0.01, 1.999], "places": [1, 2, 3, 4, 11, 12, 13, 21, 22, 23, 100, 101, 111]}`

// TestWhatIsMade merges templates and compares what comes of them with what is written
// beside them: drawings, and words and signs in the language that a name ends with. To see
// what a change does, run with -update and look at the difference.
func TestWhatIsMade(t *testing.T) {
	golden.Each(t, "testdata/made", func(t *testing.T, name string, html []byte) string {
		locale := "en"
		if _, l, ok := strings.Cut(name, "-"); ok {
			locale = l
		}
		out, err := merged(t, string(html), "currency: EUR\nlocale: "+locale+"\n", madeRecord)
		require.NoError(t, err)
		return strings.ReplaceAll(strings.ReplaceAll(out, "/><", "/>\n<"), "\u00A0", "~")
	})
}

// Drawings are refused where there is nothing to draw.
func TestWhatCannotBeDrawn(t *testing.T) {
	for action, want := range map[string]string{
		`bars .none "name" "amount"`: `the field "none"`, `bars .empty "name" "amount"`: "at least one entry", `pie .less "name" "amount"`: "", `sparkline .empty`: "", `line .text "name" "amount"`: "is not a list", `bars .words "name" "amount"`: "not a record", `pie .zero "name" "amount"`: "",
	} {
		_, err := merged(t, "{{"+action+"}}", "", `{"none": null, "empty": [], "less": [{"name": "a", "amount": -1}], "text": "x", "words": ["x"], "zero": [{"name": "a", "amount": 0}]}`)
		if assert.Error(t, err, action) {
			assert.Contains(t, err.Error(), want, action)
		}
	}
}
