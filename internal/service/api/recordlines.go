package api

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/record"
)

// recordParts are the files of an import in parts: the records, and the rows that belong to
// them, such as the lines of invoices.
var recordParts = []string{"records", "lines"}

// recordImport reads a record file, and gives each record the rows of another file, or of
// another sheet, that belong to it.
type recordImport struct {
	Imported
	read    func(in press.Reading, file io.Reader, visit func(name string, data []byte) error, told func(bad, notes []string)) error
	reading press.Reading
	records io.Reader
	lines   *os.File // nil without lines, or with such in the records' own rows
	ofLines press.Reading
	join    record.Join
	inRows  bool       // rows of one key are a record
	files   []*os.File // to be closed
}

// open finds the files in a request.
func (in *recordImport) open(c *echo.Context) error {
	sheet := c.QueryParam("lines-sheet")
	in.ofLines = in.reading
	in.ofLines.Renames = nil
	in.join = record.Join{Key: cmp.Or(c.QueryParam("key"), "number"), LineKey: c.QueryParam("line-key"), Into: cmp.Or(c.QueryParam("into"), "lines")}
	in.inRows = flag(c, "lines-in-rows")
	in.records = c.Request().Body
	kind := c.Request().Header.Get("Content-Type")
	switch {
	case in.inRows && (sheet != "" || strings.HasPrefix(kind, "multipart/")):
		return bad("“lines-in-rows” says that the records' own rows hold the lines: send one file, and leave lines-sheet out")
	case strings.HasPrefix(kind, "multipart/"):
		return in.parts(c.Request(), sheet)
	case sheet != "":
		file, err := in.keep(c.Request().Body)
		in.records, in.lines, in.ofLines.Options.Sheet = file, file, sheet
		return err
	}
	for _, name := range []string{"key", "line-key", "into"} {
		if c.QueryParam(name) != "" && (!in.inRows || name == "line-key") {
			return bad("“%s” means nothing without lines: send two files, records and lines, or say lines-sheet or lines-in-rows", name)
		}
	}
	return nil
}

// parts takes the files of a body in several parts.
func (in *recordImport) parts(r *http.Request, sheet string) error {
	parts, err := r.MultipartReader()
	if err != nil {
		return bad("the body is not in parts as it says: %v", err)
	}
	in.records = nil
	for {
		p, err := parts.NextPart()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return bad("the body ends in the middle of a part: %v", err)
		}
		if err := in.part(p, sheet); err != nil {
			return err
		}
	}
	if in.records == nil {
		return bad("the body has no part named “records”")
	}
	return nil
}

func (in *recordImport) part(p *multipart.Part, sheet string) error {
	switch p.FormName() {
	case "records":
		file, err := in.keep(p)
		in.records = file
		return err
	case "lines":
		format, err := record.FormatOf(p.FileName())
		if err != nil {
			return bad("the lines: %v", err)
		}
		in.ofLines.Options.Format, in.ofLines.Options.Name, in.ofLines.Options.Sheet, in.ofLines.Options.Path = format, p.FileName(), sheet, ""
		in.lines, err = in.keep(p)
		return err
	}
	return bad("the body has a part named “%s”; there are records and lines", p.FormName())
}

// keep writes a file down where it can be read again. It is gone when it is closed.
func (in *recordImport) keep(r io.Reader) (*os.File, error) {
	file, err := os.CreateTemp("", "olive-records-*")
	if err != nil {
		return nil, fmt.Errorf("there is no room for a temporary file: %w", err)
	}
	in.files = append(in.files, file)
	if err := os.Remove(file.Name()); err != nil {
		return nil, err
	}
	if _, err := io.Copy(file, r); err != nil {
		return nil, err
	}
	_, err = file.Seek(0, io.SeekStart)
	return file, err
}

func (in *recordImport) close() {
	for _, f := range in.files {
		f.Close()
	}
}

// told notes what there is to tell of a file.
func (in *recordImport) told(bad, notes []string) {
	in.Bad, in.Notes = append(in.Bad, bad...), append(in.Notes, notes...)
}

// each hands out the records.
func (in *recordImport) each(visit func(name string, data []byte) error) error {
	switch {
	case in.inRows:
		return in.made(visit, func(visit func(record.Record) error) error {
			return record.Gather{Key: in.join.Key, Into: in.join.Into}.Each(in.source(in.reading, in.records), visit)
		})
	case in.lines == nil:
		return in.file(in.reading, in.records, visit)
	}
	lost := func(n int, key string) {
		in.told(nil, []string{fmt.Sprintf("lines that belong to no record: %d; the first has %s %s", n, in.join.Key, key)})
	}
	lines := func(visit func(record.Record) error) error {
		return in.source(in.ofLines, in.lines)(visit)
	}
	parents := func(visit func(record.Record) error) error {
		if in.records == in.lines { // sheets of one workbook
			if _, err := in.lines.Seek(0, io.SeekStart); err != nil {
				return err
			}
		}
		return in.source(in.reading, in.records)(visit)
	}
	return in.made(visit, func(visit func(record.Record) error) error { return in.join.Each(parents, lines, lost, visit) })
}

// made hands out records that are made of rows. What is wrong with the rows is the file's fault.
func (in *recordImport) made(visit func(name string, data []byte) error, each record.Source) error {
	failed := false
	err := each(func(r record.Record) error {
		data, err := json.Marshal(r.Data)
		if err == nil {
			err = visit(r.Name(), data)
		}
		failed = err != nil
		return err
	})
	var told *echo.HTTPError
	if err != nil && !failed && !errors.As(err, &told) {
		return echo.NewHTTPError(http.StatusUnprocessableEntity, in.Name+": "+err.Error())
	}
	return err
}

// file hands out the rows of one file.
func (in *recordImport) file(how press.Reading, file io.Reader, visit func(name string, data []byte) error) error {
	var unreadable *press.Unreadable
	err := in.read(how, file, visit, in.told)
	if errors.As(err, &unreadable) {
		return echo.NewHTTPError(http.StatusUnprocessableEntity, how.Options.Name+": "+err.Error())
	}
	return err
}

// source is a file's rows as records.
func (in *recordImport) source(how press.Reading, file io.Reader) record.Source {
	return func(visit func(record.Record) error) error {
		n := 0
		return in.file(how, file, func(_ string, data []byte) error {
			n++
			r, err := record.FromJSON(data, n)
			if err != nil {
				return err
			}
			r.Line = n
			return visit(r)
		})
	}
}
