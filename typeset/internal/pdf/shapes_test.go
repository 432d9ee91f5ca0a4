package pdf

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestStreamsArePartedBetweenTokens(t *testing.T) {
	for in, want := range map[string]string{
		"1 0 0 rg\n5 5 m\n6 6":                       "1 0 0 rg\n5 5 m\n",
		"q\n[(a\nb\n)5(c\n":                          "q\n",
		"q\n[(a\\)\n)]TJ\nET":                        "q\n[(a\\)\n)]TJ\n",
		"q\n((\n)\n)Tj\nQ":                           "q\n((\n)\n)Tj\n",
		"q\n/P<</MCID\n3":                            "q\n",
		"q\n<0A\n":                                   "q\n",
		"q % a ( that is no string\nQ\n":             "q % a ( that is no string\nQ\n",
		"q\nBI /W 1\nID \n\nEI\nQ\n":                 "q\n",
		"q\nq 9 0 0 9 0 0 cm BI/W 1\nID \n\nEI\nQ\n": "q\n",
		"/BI Do\n/B BMC\nB\n":                        "/BI Do\n/B BMC\nB\n",
		"q":                                          "",
		"":                                           "",
	} {
		assert.Equal(t, want, in[:wholeLines([]byte(in))], "%q", in)
	}
}

// Shapes leave numbers out, and tell lists of references by the length of one.
func TestShapes(t *testing.T) {
	key := func(s string) uint64 { k, _ := shape([]byte(s)); return k }
	assert.Equal(t, key("<</K 1/P 22 0 R>>"), key("<</K 333/P 4 0 R>>"))
	assert.NotEqual(t, key("<</K 1>>"), key("<</L 1>>"))
	assert.NotEqual(t, key("<</K 1>>"), key("<</K 1 1>>"))
	assert.Zero(t, key("(text)"))
	assert.Zero(t, key("<</T("+strings.Repeat("x", mostShape)+")>>"), "too long to be compared")
	_, columns := shape([]byte("[123 0 R 124 0 R]"))
	assert.Equal(t, len("123 0 R "), columns)
	_, columns = shape([]byte("[/Name 12 0 R]"))
	assert.Zero(t, columns)
}

func TestPeriods(t *testing.T) {
	var data []byte
	for i := range 2000 {
		data = append(data, byte(i%6), byte(i%6*40), 7)
	}
	assert.Equal(t, 6, period(data, 3))
	assert.Equal(t, 1, period(make([]byte, 6000), 3), "no better than each row like the one before")
	assert.Equal(t, 1, period(data[:60], 3), "too few to tell")
}
