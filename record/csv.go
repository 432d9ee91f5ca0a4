package record

import (
	"bufio"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
)

// eachRow reads CSV (RFC 4180) and TSV. The first row names the fields; dots in
// a name make nested records. A semicolon, tab or bar that the first row uses
// more often than commas is taken as the delimiter.
func eachRow(r io.Reader, o Options, visit func(Record) error) error {
	in := bufio.NewReaderSize(r, 1<<16)
	head, err := in.Peek(1 << 12)
	if len(head) == 0 {
		if !errors.Is(err, io.EOF) {
			return err
		}
		return o.fail(0, 0, "the file is empty; its first row should name the fields")
	}
	rd := csv.NewReader(in)
	rd.ReuseRecord = true
	switch {
	case o.Delimiter != 0:
		rd.Comma = o.Delimiter
	case o.Format == TSV:
		rd.Comma = '\t'
	default:
		rd.Comma = delimiterOf(string(head))
	}
	t := &table{o: &o, rd: rd}
	if err := t.head(); err != nil {
		return err
	}
	for n := 1; ; n++ {
		row := t.next()
		switch {
		case errors.Is(row.err, io.EOF):
			return nil
		case row.err != nil:
			if err := o.bad(o.rowError(row.err, t.fields)); err != nil {
				return err
			}
			continue
		}
		data := map[string]any{}
		for i, v := range row.cells {
			Put(data, t.fields[i], o.value(t.conventions.read(i, t.fields[i], v, row.line)))
		}
		if err := o.emit(Record{n, row.line, data}, visit); err != nil {
			return err
		}
	}
}

// table is a file of rows whose first ones are looked at before they are handed on.
type table struct {
	o           *Options
	rd          *csv.Reader
	fields      []string
	ahead       []row // read already
	conventions *conventions
}

type row struct {
	cells []string
	line  int
	err   error
}

func (t *table) read() row {
	cells, err := t.rd.Read()
	r := row{err: err}
	if err == nil {
		r.cells = cells
		r.line, _ = t.rd.FieldPos(0)
	}
	return r
}

func (t *table) next() row {
	if len(t.ahead) > 0 {
		r := t.ahead[0]
		t.ahead = t.ahead[1:]
		return r
	}
	return t.read()
}

// head reads the names of the fields, and finds out how columns write numbers and dates.
func (t *table) head() error {
	first := t.read()
	for t.o.NoHeader && first.err != nil && !errors.Is(first.err, io.EOF) { // a later row tells how many fields there are
		t.ahead = append(t.ahead, first)
		first = t.read()
	}
	switch {
	case errors.Is(first.err, io.EOF) && len(t.ahead) == 0:
		return t.o.fail(0, 0, "the file holds no row; its first should name the fields")
	case first.err != nil && !t.o.NoHeader:
		return t.o.rowError(first.err, nil)
	}
	var err error
	if t.fields, err = t.o.fieldNames(first.cells); err != nil {
		return err
	}
	if t.o.NoHeader {
		t.ahead = append(t.ahead, row{slices.Clone(first.cells), first.line, first.err}) // the reader takes its cells again
	}
	var looked [][]string
	for ended := false; !ended && len(looked) < mostLooked; {
		r := t.read()
		r.cells, ended = slices.Clone(r.cells), errors.Is(r.err, io.EOF)
		t.ahead = append(t.ahead, r)
		looked = append(looked, r.cells)
	}
	t.conventions, err = conventionsOf(t.o, t.fields, looked)
	return err
}

func delimiterOf(head string) rune {
	first, _, _ := strings.Cut(head, "\n")
	best := ','
	for _, d := range []rune{';', '\t', '|'} {
		if strings.Count(first, string(d)) > strings.Count(first, string(best)) {
			best = d
		}
	}
	return best
}

func (o *Options) rowError(err error, fields []string) *RowError {
	var pe *csv.ParseError
	if !errors.As(err, &pe) {
		return o.fail(0, 0, "%w", err)
	}
	if errors.Is(pe.Err, csv.ErrFieldCount) {
		return o.fail(pe.Line, 0, "the row has not as many fields as there are columns (%d)", len(fields))
	}
	return o.fail(pe.Line, pe.Column, "%w", pe.Err)
}

// fieldNames reads the header row, or makes names for a file without one.
func (o *Options) fieldNames(row []string) ([]string, error) {
	fields := make([]string, len(row))
	seen := map[string]bool{}
	for i, f := range row {
		if o.NoHeader {
			fields[i] = fmt.Sprintf("column%d", i+1)
			continue
		}
		fields[i] = strings.TrimSpace(f)
		if fields[i] == "" {
			return nil, o.fail(1, 0, "column %d has no name", i+1)
		}
		if seen[fields[i]] {
			return nil, o.fail(1, 0, "two columns are named %q", fields[i])
		}
		seen[fields[i]] = true
	}
	return fields, nil
}

// plainNumber is a number as JSON writes it; what has leading zeros is text.
var plainNumber = regexp.MustCompile(`^-?(0|[1-9]\d{0,30})(\.\d{1,30})?$`)

// value reads a cell by its look when types are asked for.
func (o *Options) value(text string) any {
	if !o.Typed {
		return text
	}
	switch {
	case plainNumber.MatchString(text):
		return json.Number(text)
	case text == "true" || text == "TRUE":
		return true
	case text == "false" || text == "FALSE":
		return false
	case text == "":
		return nil
	}
	return text
}
