// Package record reads structured records one after the other, from JSON,
// NDJSON, CSV, TSV, YAML, XML and XLSX files and from SQL queries. A set of any
// length is read in little memory.
package record

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
)

// Record is one piece of structured data. Numbers are json.Number, so that
// amounts keep the digits they were written with.
type Record struct {
	Number int // place in its set, from 1
	Line   int // where it begins in the file, from 1; 0 when not known
	Data   map[string]any
}

// Name is how messages call the record.
func (r Record) Name() string {
	for _, k := range []string{"number", "id", "name"} {
		if v, ok := r.Data[k]; ok {
			switch v.(type) {
			case string, json.Number:
				return fmt.Sprintf("record %d (%s %v)", r.Number, k, v)
			}
		}
	}
	return fmt.Sprintf("record %d", r.Number)
}

// Format of a record file.
type Format string

// The formats that records are read from.
const (
	JSON   Format = "json"
	NDJSON Format = "ndjson"
	CSV    Format = "csv"
	TSV    Format = "tsv"
	YAML   Format = "yaml"
	XML    Format = "xml"
	XLSX   Format = "xlsx"
)

var endings = map[string]Format{".json": JSON, ".ndjson": NDJSON, ".jsonl": NDJSON, ".csv": CSV, ".tsv": TSV, ".tab": TSV, ".yaml": YAML, ".yml": YAML, ".xml": XML, ".xlsx": XLSX}

// FormatOf tells the format by a file's name.
func FormatOf(name string) (Format, error) {
	if f, ok := endings[strings.ToLower(filepath.Ext(name))]; ok {
		return f, nil
	}
	return "", fmt.Errorf("%s: records are read from .json, .ndjson, .jsonl, .csv, .tsv, .yaml, .yml, .xml and .xlsx files; name another one's format", name)
}

// Options say how records are read; the zero value finds out what it can.
type Options struct {
	Format    Format
	Name      string   // of the file, for messages
	Path      string   // where the records are: fields of JSON and YAML with dots, elements of XML with slashes
	Lists     []string // XML elements that are lists even where they occur once
	Delimiter rune     // of CSV; 0 finds out
	NoHeader  bool     // the first row is a record; fields are called column1, column2, …
	Typed     bool     // numbers and true or false in CSV and TSV are read as such
	Decimal   string   // decimal sign of CSV and TSV, "," or "."; found out column by column when empty
	Dates     string   // notation of dates in CSV and TSV, such as DD.MM.YYYY; found out when empty
	Sheet     string   // of XLSX; the first when empty
	Encoding  string   // utf-8, utf-16le, utf-16be or windows-1252; found out when empty

	// Bad is told of a row that cannot be read. What it returns ends the
	// reading; nil goes on with the next row. Without it a bad row ends it.
	Bad func(*RowError) error
	// Note is told what was found out about the file, such as its encoding.
	Note func(string)
	// Read is told of each piece of the file that has been read, in bytes.
	Read func(n int)
}

// RowError is a row or entry that cannot be read.
type RowError struct {
	Name         string // of the file
	Line, Column int    // from 1; 0 when not known
	Err          error
}

func (e *RowError) Error() string {
	var where []string
	if e.Name != "" {
		where = append(where, e.Name)
	}
	if e.Line > 0 {
		where = append(where, fmt.Sprintf("line %d", e.Line))
	}
	if e.Column > 0 {
		where = append(where, fmt.Sprintf("column %d", e.Column))
	}
	if len(where) == 0 {
		return e.Err.Error()
	}
	return strings.Join(where, " ") + ": " + e.Err.Error()
}

func (e *RowError) Unwrap() error { return e.Err }

func (o *Options) fail(line, column int, format string, args ...any) *RowError {
	return &RowError{o.Name, line, column, fmt.Errorf(format, args...)}
}

// bad tells of a row and whether to go on.
func (o *Options) bad(e *RowError) error {
	if o.Bad == nil {
		return e
	}
	return o.Bad(e)
}

func (o *Options) note(format string, args ...any) {
	if o.Note != nil {
		o.Note(fmt.Sprintf(format, args...))
	}
}

// maxDepth bounds how deep a record's values nest.
const maxDepth = 200

// Each reads records one by one and hands each to visit, which stops the
// reading with an error.
func Each(r io.Reader, o Options, visit func(Record) error) error {
	if o.Read != nil {
		r = tally{r, o.Read}
	}
	switch o.Format {
	case XLSX:
		return eachSheetRow(r, o, visit)
	case XML: // it names its own encoding
		return eachElement(r, o, visit)
	}
	in, err := decoded(r, &o)
	if err != nil {
		return err
	}
	switch o.Format {
	case JSON:
		err = eachJSON(in, o, visit)
	case NDJSON:
		err = eachLine(in, o, visit)
	case CSV, TSV:
		err = eachRow(in, o, visit)
	case YAML:
		err = eachYAML(in, o, visit)
	default:
		return o.unknown()
	}
	return err
}

// tally tells of what is read.
type tally struct {
	io.Reader
	read func(int)
}

func (t tally) Read(p []byte) (int, error) {
	n, err := t.Reader.Read(p)
	t.read(n)
	return n, err
}

// EachFile reads the records of a file, whose ending tells the format unless
// the options do.
func EachFile(name string, o Options, visit func(Record) error) error {
	if o.Format == "" {
		f, err := FormatOf(name)
		if err != nil {
			return err
		}
		o.Format = f
	}
	if o.Name == "" {
		o.Name = name
	}
	f, err := os.Open(name)
	if err != nil {
		return fmt.Errorf("the records %s cannot be read: %w", name, errors.Unwrap(err))
	}
	defer f.Close()
	return Each(f, o, visit)
}

// emit hands a record on, if it is not too deep.
func (o *Options) emit(r Record, visit func(Record) error) error {
	if tooDeep(r.Data, 0) {
		return o.bad(o.fail(r.Line, 0, "the record nests deeper than %d levels", maxDepth))
	}
	return visit(r)
}

func tooDeep(v any, depth int) bool {
	if depth > maxDepth {
		return true
	}
	switch x := v.(type) {
	case map[string]any:
		for _, e := range x {
			if tooDeep(e, depth+1) {
				return true
			}
		}
	case []any:
		for _, e := range x {
			if tooDeep(e, depth+1) {
				return true
			}
		}
	}
	return false
}

// Put sets a field; dots in its name make nested records.
func Put(data map[string]any, name string, v any) {
	for {
		head, tail, ok := strings.Cut(name, ".")
		if !ok {
			data[name] = v
			return
		}
		next, isMap := data[head].(map[string]any)
		if !isMap {
			next = map[string]any{}
			data[head] = next
		}
		data, name = next, tail
	}
}

// Field looks a field up, with dots between levels.
func (r Record) Field(path string) (any, bool) {
	var v any = r.Data
	for name := range strings.SplitSeq(path, ".") {
		m, ok := v.(map[string]any)
		if !ok {
			return nil, false
		}
		if v, ok = m[name]; !ok {
			return nil, false
		}
	}
	return v, true
}
