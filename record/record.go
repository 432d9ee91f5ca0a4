// Package record reads structured records from JSON, NDJSON and CSV, one after
// the other.
package record

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"strings"
	"unicode/utf8"
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

const (
	JSON   Format = "json"
	NDJSON Format = "ndjson"
	CSV    Format = "csv"
)

// FormatOf tells the format by a file's name.
func FormatOf(name string) (Format, error) {
	switch strings.ToLower(filepath.Ext(name)) {
	case ".json":
		return JSON, nil
	case ".ndjson", ".jsonl":
		return NDJSON, nil
	case ".csv":
		return CSV, nil
	}
	return "", fmt.Errorf("%s: records are read from .json, .ndjson, .jsonl and .csv files", name)
}

// maxDepth bounds how deep a record's values nest.
const maxDepth = 200

// Each reads records one by one and hands each to visit, which stops the
// reading with an error. The records are never all in memory.
func Each(r io.Reader, f Format, visit func(Record) error) error {
	in := bufio.NewReaderSize(r, 1<<16)
	if b, _ := in.Peek(3); bytes.Equal(b, []byte("\xEF\xBB\xBF")) {
		in.Discard(3)
	}
	switch f {
	case JSON:
		return eachJSON(in, visit)
	case NDJSON:
		return eachLine(in, visit)
	case CSV:
		return eachRow(in, visit)
	}
	return fmt.Errorf("the record format %q is not known", f)
}

// counter counts lines on the way, for messages.
type counter struct {
	r     io.Reader
	lines []int64 // offsets of line ends
	n     int64
}

func (c *counter) Read(p []byte) (int, error) {
	n, err := c.r.Read(p)
	for i, b := range p[:n] {
		if b == '\n' {
			c.lines = append(c.lines, c.n+int64(i))
		}
	}
	c.n += int64(n)
	return n, err
}

// line of an offset; ends before it are dropped.
func (c *counter) line(at int64, base *int) int {
	i := 0
	for i < len(c.lines) && c.lines[i] < at {
		i++
	}
	c.lines = c.lines[i:]
	*base += i
	return *base + 1
}

func eachJSON(r io.Reader, visit func(Record) error) error {
	c := &counter{r: r}
	base := 0
	dec := json.NewDecoder(c)
	dec.UseNumber()
	where := func(err error) error {
		var se *json.SyntaxError
		at := dec.InputOffset()
		if errors.As(err, &se) {
			at = se.Offset
		}
		if errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) {
			return fmt.Errorf("line %d: the file ends in the middle of a value", c.line(c.n, &base))
		}
		return fmt.Errorf("line %d: %w", c.line(at, &base), err)
	}
	tok, err := dec.Token()
	if err != nil {
		if errors.Is(err, io.EOF) {
			return errors.New("the file is empty; it should hold a JSON object or an array of objects")
		}
		return where(err)
	}
	switch tok {
	case json.Delim('['):
		for n := 1; dec.More(); n++ {
			line := c.line(dec.InputOffset(), &base)
			var v any
			if err := dec.Decode(&v); err != nil {
				return where(err)
			}
			data, ok := v.(map[string]any)
			if !ok {
				return fmt.Errorf("line %d: entry %d is not an object", line, n)
			}
			if err := emit(Record{n, line, data}, visit); err != nil {
				return err
			}
		}
		if _, err := dec.Token(); err != nil {
			return where(err)
		}
	case json.Delim('{'):
		data := map[string]any{}
		for dec.More() {
			key, err := dec.Token()
			if err != nil {
				return where(err)
			}
			var v any
			if err := dec.Decode(&v); err != nil {
				return where(err)
			}
			data[key.(string)] = v
		}
		if _, err := dec.Token(); err != nil {
			return where(err)
		}
		if err := emit(Record{1, 1, data}, visit); err != nil {
			return err
		}
	default:
		return errors.New("line 1: the file should hold a JSON object or an array of objects")
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return fmt.Errorf("line %d: there is something after the end of the JSON value; for one object a line, name the file .ndjson", c.line(dec.InputOffset(), &base))
	}
	return nil
}

func emit(r Record, visit func(Record) error) error {
	if tooDeep(r.Data, 0) {
		return fmt.Errorf("line %d: the record nests deeper than %d levels", r.Line, maxDepth)
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

// maxLine bounds one line of NDJSON.
const maxLine = 64 << 20

func eachLine(r io.Reader, visit func(Record) error) error {
	sc := bufio.NewScanner(r)
	sc.Buffer(make([]byte, 1<<16), maxLine)
	n := 0
	for line := 1; sc.Scan(); line++ {
		text := bytes.TrimSpace(sc.Bytes())
		if len(text) == 0 {
			continue
		}
		dec := json.NewDecoder(bytes.NewReader(text))
		dec.UseNumber()
		var data map[string]any
		if err := dec.Decode(&data); err != nil {
			return fmt.Errorf("line %d: %w", line, err)
		}
		if dec.More() {
			return fmt.Errorf("line %d: there is more than one value on the line", line)
		}
		n++
		if err := emit(Record{n, line, data}, visit); err != nil {
			return err
		}
	}
	if errors.Is(sc.Err(), bufio.ErrTooLong) {
		return fmt.Errorf("a line is longer than %d bytes", maxLine)
	}
	return sc.Err()
}

// eachRow reads CSV (RFC 4180). The first row names the fields; dots in a name
// make nested records. A semicolon or tab that the first row uses instead of
// commas is taken as the delimiter.
func eachRow(in *bufio.Reader, visit func(Record) error) error {
	head, err := in.Peek(1 << 12)
	if err != nil && len(head) == 0 {
		return errors.New("the file is empty; its first row should name the fields")
	}
	if !utf8.Valid(head[:max(len(head)-utf8.UTFMax, 0)]) {
		return errors.New("the file is not UTF-8; save it as UTF-8 first")
	}
	first, _, _ := strings.Cut(string(head), "\n")
	rd := csv.NewReader(in)
	rd.ReuseRecord = true
	for _, d := range []rune{';', '\t'} {
		if strings.Count(first, string(d)) > strings.Count(first, string(rd.Comma)) {
			rd.Comma = d
		}
	}
	row, err := rd.Read()
	if err != nil {
		return err
	}
	fields := append([]string(nil), row...)
	seen := map[string]bool{}
	for i, f := range fields {
		fields[i] = strings.TrimSpace(f)
		if fields[i] == "" {
			return fmt.Errorf("line 1: column %d has no name", i+1)
		}
		if seen[fields[i]] {
			return fmt.Errorf("line 1: two columns are named %q", fields[i])
		}
		seen[fields[i]] = true
	}
	for n := 1; ; n++ {
		row, err := rd.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		line, _ := rd.FieldPos(0)
		data := map[string]any{}
		for i, v := range row {
			put(data, fields[i], v)
		}
		if err := visit(Record{n, line, data}); err != nil {
			return err
		}
	}
}

func put(data map[string]any, name string, v any) {
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
