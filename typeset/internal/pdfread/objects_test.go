package pdfread

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// read reads one object and writes it as a new file has it, with what follows behind a bar.
func read(source string) string {
	l := &lexer{data: []byte(source)}
	o, err := l.object(0)
	if err != nil {
		return "error: " + err.Error()
	}
	rest := strings.TrimSpace(source[l.pos:])
	if rest != "" {
		rest = " | " + rest
	}
	return fmt.Sprintf("%T ", o) + string(Append(nil, o, func(r Ref) int { return r.Num })) + rest
}

// TestObjects holds how each kind of object is read, in good order and in bad (ISO 32000-1, §7.3).
func TestObjects(t *testing.T) {
	for _, c := range [][2]string{
		{"12", "int64 12"},
		{"+7", "int64 7"},
		{"-0", "int64 0"},
		{"007", "int64 7"},
		{"1.50", "float64 1.5"},
		{"-.5", "float64 -0.5"},
		{"4.", "float64 4"},
		{"1e3", "float64 1000"},
		{"99999999999999999999", "float64 100000000000000000000"},
		{"--5", "int64 0"},
		{"true", "bool true"},
		{"false", "bool false"},
		{"null", "<nil> null"},
		{"truex", "error: the file does not follow PDF's syntax"},
		{"nothing", "error: the file does not follow PDF's syntax"},
		{"", "error: the file does not follow PDF's syntax"},
		{"/Name", "pdfread.Name /Name"},
		{"/A#20B", "pdfread.Name /A#20B"},
		{"/A#2", "pdfread.Name /A#232"},
		{"/A#zz", "pdfread.Name /A#23zz"},
		{"/", "pdfread.Name /"},
		{"/a/b", "pdfread.Name /a | /b"},
		{"(text)", "pdfread.String <74657874>"},
		{"(a(b)c)", "pdfread.String <6128622963>"},
		{"(a\\(b)", "pdfread.String <612862>"},
		{"(a\\)b)", "pdfread.String <612962>"},
		{"(\\n\\r\\t\\b\\f\\\\)", "pdfread.String <0A0D09080C5C>"},
		{"(\\101\\1012\\7)", "pdfread.String <41413207>"},
		{"(a\\\nb)", "pdfread.String <6162>"},
		{"(a\r\nb)", "pdfread.String <610A62>"},
		{"(a\rb)", "pdfread.String <610A62>"},
		{"(\\x)", "pdfread.String <78>"},
		{"(open", "pdfread.String <6F70656E>"},
		{"<48 65 6C>", "pdfread.String <48656C>"},
		{"<4>", "pdfread.String <40>"},
		{"<4X8>", "pdfread.String <48>"},
		{"<>", "pdfread.String <>"},
		{"<48", "pdfread.String <48>"},
		{"[1 2 /A (b) <43>]", "pdfread.Array [1 2 /A <62> <43>]"},
		{"[]", "pdfread.Array []"},
		{"[1", "error: the file does not follow PDF's syntax"},
		{"[1 [2 [3]]]", "pdfread.Array [1 [2 [3]]]"},
		{"<</A 1/B[2]>>", "pdfread.Dict <</A 1/B [2]>>"},
		{"<<>>", "pdfread.Dict <<>>"},
		{"<</A>>", "error: the file does not follow PDF's syntax"},
		{"<</A 1", "error: the file does not follow PDF's syntax"},
		{"<</A 1 2 R /B 3>>", "pdfread.Dict <</A 1 0 R/B 3>>"},
		{"<<(x) 1>>", "error: the file does not follow PDF's syntax"},
		{"1 0 R", "pdfread.Ref 1 0 R"},
		{"1 0 Rx", "int64 1 | 0 Rx"},
		{"12 3 obj", "int64 12 | 3 obj"},
		{"[1 0 R 2 0 R 3]", "pdfread.Array [1 0 R 2 0 R 3]"},
		{"[1 2 3]", "pdfread.Array [1 2 3]"},
		{"% c\n5", "int64 5"},
		{"[1 % c ]\n2]", "pdfread.Array [1 2]"},
		{"{", "error: the file does not follow PDF's syntax"},
		{"}", "error: the file does not follow PDF's syntax"},
		{")", "error: the file does not follow PDF's syntax"},
		{">", "error: the file does not follow PDF's syntax"},
		{"]", "error: the file does not follow PDF's syntax"},
	} {
		assert.Equal(t, c[1], read(c[0]), c[0])
	}
	deep := strings.Repeat("[", maxDepth+2)
	assert.Equal(t, "error: objects nest too deep", read(deep))
	assert.Equal(t, "error: objects nest too deep", read(strings.Repeat("<</A", maxDepth+2)))
}
