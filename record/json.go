package record

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
)

// counter counts lines on the way, for messages.
type counter struct {
	r     io.Reader
	lines []int64 // offsets of line ends
	n     int64
	base  int   // lines dropped from the list
	start int64 // where the last of them ended
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

// place gives line and column of an offset; line ends before it are dropped.
func (c *counter) place(at int64) (line, column int) {
	i := 0
	for i < len(c.lines) && c.lines[i] < at {
		c.start = c.lines[i] + 1
		i++
	}
	c.lines = c.lines[i:]
	c.base += i
	return c.base + 1, int(at-c.start) + 1
}

// jsonReader walks through one JSON text.
type jsonReader struct {
	*Options
	dec *json.Decoder
	at  *counter
}

// FromJSON reads one record, which is a JSON object.
func FromJSON(data []byte, number int) (Record, error) {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	out := Record{Number: number}
	err := dec.Decode(&out.Data)
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &kind):
		met, _, _ := strings.Cut(kind.Value, " ")
		err = fmt.Errorf("it is %s", map[string]string{"string": "text", "array": "a list", "number": "a number", "bool": "true or false"}[met])
	case err != nil:
	case out.Data == nil:
		err = errors.New("it is null")
	case tooDeep(out.Data, 0):
		err = fmt.Errorf("it nests deeper than %d levels", maxDepth)
	}
	return out, err
}

func eachJSON(r io.Reader, o Options, visit func(Record) error) error {
	c := &counter{r: r}
	j := &jsonReader{&o, json.NewDecoder(c), c}
	j.dec.UseNumber()
	tok, err := j.dec.Token()
	if err != nil {
		if errors.Is(err, io.EOF) {
			return o.fail(0, 0, "the file is empty; it should hold a JSON object or an array of objects")
		}
		return j.broken(err)
	}
	var path []string
	if o.Path != "" {
		path = strings.Split(o.Path, ".")
	}
	if err := j.descend(tok, path, visit); err != nil {
		return err
	}
	if len(path) > 0 {
		return nil // what follows is not asked for
	}
	if _, err := j.dec.Token(); !errors.Is(err, io.EOF) {
		line, _ := c.place(j.dec.InputOffset())
		return o.fail(line, 0, "there is something after the end of the JSON value; for one object a line, name the file .ndjson")
	}
	return nil
}

// broken is a syntax error: nothing after it can be read.
func (j *jsonReader) broken(err error) error {
	var se *json.SyntaxError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		line, _ := j.at.place(j.at.n)
		return j.fail(line, 0, "the file ends in the middle of a value")
	case errors.As(err, &se):
		line, column := j.at.place(se.Offset - 1)
		return j.fail(line, column, "%w", err)
	}
	line, _ := j.at.place(j.dec.InputOffset())
	return j.fail(line, 0, "%w", err)
}

// descend goes down to the records and reads them; tok begins the value.
func (j *jsonReader) descend(tok json.Token, path []string, visit func(Record) error) error {
	switch {
	case len(path) > 0 && tok == json.Delim('{'):
		for j.dec.More() {
			key, err := j.dec.Token()
			if err != nil {
				return j.broken(err)
			}
			next, err := j.dec.Token()
			if err != nil {
				return j.broken(err)
			}
			if key == path[0] {
				return j.descend(next, path[1:], visit)
			}
			if err := j.skip(next); err != nil {
				return err
			}
		}
		return j.fail(0, 0, "there is no field %q on the way %q to the records", path[0], j.Path)
	case len(path) > 0:
		line, _ := j.at.place(j.dec.InputOffset())
		return j.fail(line, 0, "what should hold the field %q is not an object (the way to the records is %q)", path[0], j.Path)
	case tok == json.Delim('['):
		return j.entries(visit)
	case tok == json.Delim('{'):
		line, _ := j.at.place(j.dec.InputOffset())
		return j.object(line, visit)
	}
	line, _ := j.at.place(j.dec.InputOffset())
	return j.fail(line, 0, "there should be a JSON object or an array of objects")
}

// skip reads over the value that tok begins.
func (j *jsonReader) skip(tok json.Token) (err error) {
	for depth := 0; ; {
		switch tok {
		case json.Delim('{'), json.Delim('['):
			depth++
		case json.Delim('}'), json.Delim(']'):
			depth--
		}
		if depth == 0 {
			return nil
		}
		if tok, err = j.dec.Token(); err != nil {
			return j.broken(err)
		}
	}
}

func (j *jsonReader) entries(visit func(Record) error) error {
	for n := 1; j.dec.More(); n++ {
		var v any
		if err := j.dec.Decode(&v); err != nil {
			return j.broken(err)
		}
		line, _ := j.at.place(j.dec.InputOffset() - 1)
		data, ok := v.(map[string]any)
		if !ok {
			if err := j.bad(j.fail(line, 0, "entry %d is not an object", n)); err != nil {
				return err
			}
			continue
		}
		if err := j.emit(Record{n, line, data}, visit); err != nil {
			return err
		}
	}
	if _, err := j.dec.Token(); err != nil {
		return j.broken(err)
	}
	return nil
}

// object reads the rest of one object, which is the only record.
func (j *jsonReader) object(line int, visit func(Record) error) error {
	data := map[string]any{}
	for j.dec.More() {
		key, err := j.dec.Token()
		if err != nil {
			return j.broken(err)
		}
		var v any
		if err := j.dec.Decode(&v); err != nil {
			return j.broken(err)
		}
		data[key.(string)] = v
	}
	if _, err := j.dec.Token(); err != nil {
		return j.broken(err)
	}
	return j.emit(Record{1, line, data}, visit)
}

// maxLine bounds one line of NDJSON.
const maxLine = 64 << 20

func eachLine(r io.Reader, o Options, visit func(Record) error) error {
	sc := bufio.NewScanner(r)
	sc.Buffer(make([]byte, 1<<16), maxLine)
	n := 0
	for line := 1; sc.Scan(); line++ {
		text := bytes.TrimSpace(sc.Bytes())
		if len(text) == 0 {
			continue
		}
		n++
		data, err := oneObject(text)
		if err != nil {
			column := 0
			if se := (*json.SyntaxError)(nil); errors.As(err, &se) {
				column = int(se.Offset)
			}
			if err := o.bad(o.fail(line, column, "%w", err)); err != nil {
				return err
			}
			continue
		}
		if err := o.emit(Record{n, line, data}, visit); err != nil {
			return err
		}
	}
	return lineError(sc)
}

// lineError is what ended the reading of lines too early.
func lineError(sc *bufio.Scanner) error {
	if errors.Is(sc.Err(), bufio.ErrTooLong) {
		return fmt.Errorf("a line is longer than %d bytes", maxLine)
	}
	return sc.Err()
}

func oneObject(text []byte) (data map[string]any, err error) {
	dec := json.NewDecoder(bytes.NewReader(text))
	dec.UseNumber()
	var v any
	if err := dec.Decode(&v); err != nil {
		return nil, err
	}
	data, ok := v.(map[string]any)
	switch {
	case !ok:
		return nil, errors.New("the line is not a JSON object")
	case dec.More():
		return nil, errors.New("there is more than one value on the line")
	}
	return data, nil
}
