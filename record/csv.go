package record

import (
	"bufio"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
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
	var fields []string
	for n := 1; ; {
		row, err := rd.Read()
		if errors.Is(err, io.EOF) {
			if fields == nil {
				return o.fail(0, 0, "the file holds no row; its first should name the fields")
			}
			return nil
		}
		if fields == nil && (err == nil || !o.NoHeader) {
			if err != nil {
				return o.rowError(err, nil)
			}
			if fields, err = o.fieldNames(row); err != nil {
				return err
			}
			if !o.NoHeader {
				continue
			}
		}
		number := n
		n++
		if err != nil {
			if err := o.bad(o.rowError(err, fields)); err != nil {
				return err
			}
			continue
		}
		line, _ := rd.FieldPos(0)
		data := map[string]any{}
		for i, v := range row {
			put(data, fields[i], o.value(v))
		}
		if err := visit(Record{number, line, data}); err != nil {
			return err
		}
	}
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
