package record

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rowsOf is the source of a CSV file's rows.
func rowsOf(csv string) Source {
	return func(visit func(Record) error) error {
		return Each(strings.NewReader(csv), Options{Format: CSV}, visit)
	}
}

// gather gives the records of rows, as JSON.
func gather(csv string) (list []string, err error) {
	err = Gather{Key: "number", Into: "lines"}.Each(rowsOf(csv), func(r Record) error {
		data, err := json.Marshal(r.Data)
		list = append(list, r.Name()+" "+string(data))
		return err
	})
	return list, err
}

func TestRowsOfOneKeyAreARecord(t *testing.T) {
	got, err := gather("number,customer.name,lines.text,lines.price\nA1,Ines,Berth,184\nA1,Ines,Power,7\n,,Water,3\nA2,Jonas,Berth,90\n")
	require.NoError(t, err)
	assert.Equal(t, []string{
		`record 1 (number A1) {"customer":{"name":"Ines"},"lines":[{"price":"184","text":"Berth"},{"price":"7","text":"Power"},{"price":"3","text":"Water"}],"number":"A1"}`,
		`record 2 (number A2) {"customer":{"name":"Jonas"},"lines":[{"price":"90","text":"Berth"}],"number":"A2"}`,
	}, got)
	got, err = gather("number,lines.text\n")
	require.NoError(t, err)
	assert.Empty(t, got)
}

func TestRowsThatAreNoRecord(t *testing.T) {
	for name, c := range map[string]struct{ csv, want string }{
		"apart":        {"number,lines.text\nA1,a\nA2,b\nA1,c\n", "rows 1 and 3 have the same number, A1, and stand apart: sort the rows by it"},
		"differing":    {"number,due,lines.text\nA1,May,a\nA2,May,b\nA2,June,c\n", "rows 2 and 3 have the same number, A2, but differ in due: “May” and “June”"},
		"deeper":       {"number,buyer.town,lines.text\nA1,Tidewell,a\nA1,Oarham,b\n", "rows 1 and 2 have the same number, A1, but differ in buyer.town: “Tidewell” and “Oarham”"},
		"only later":   {"number,due,lines.text\nA1,,a\nA1,June,b\n", "rows 1 and 2 have the same number, A1, but differ in due: “” and “June”"},
		"without key":  {"number,lines.text\n,a\n", `row 1: the field "number", which tells what record a row belongs to, is empty in the first row`},
		"another name": {"Number,lines.text\nA1,a\n", `row 1: the field "number", which tells what record a row belongs to, is missing; did you mean "Number"?`},
		"no lines":     {"number,text\nA1,a\n", `row 1: no field begins with "lines.": name those of the lines so, such as lines.text`},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := gather(c.csv)
			assert.EqualError(t, err, c.want)
		})
	}
	stop := errors.New("enough")
	for _, csv := range []string{"number,lines.text\nA1,a\n", "number,lines.text\nA1,a\nA2,b\nA3,c\n"} {
		err := Gather{Key: "number", Into: "lines"}.Each(rowsOf(csv), func(Record) error { return stop })
		assert.ErrorIs(t, err, stop)
	}
}

func TestNamesWithDots(t *testing.T) {
	data := map[string]any{"text": "Berth", "lines": map[string]any{"price": "3"}, "number": "A1", "secret": 1}
	got := Renames{"text": "lines.text", "number": "no", "secret": ""}.Apply(data)
	assert.Equal(t, map[string]any{"no": "A1", "lines": map[string]any{"price": "3", "text": "Berth"}}, got)
	assert.Equal(t, data, Renames{}.Apply(data))
}
