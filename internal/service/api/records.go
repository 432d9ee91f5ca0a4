package api

import (
	"encoding/json"
	"io"
	"net/http"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
	"oliveledger/record"
)

// RecordRow is one record of a set.
type RecordRow struct {
	Number   int    `json:"number"` // its place in the set, from 1
	Label    string `json:"label"`  // a few words of the record, to tell it from others
	Revision int    `json:"revision"`
	Data     raw    `json:"data"`            // the record itself
	Fault    string `json:"fault,omitempty"` // what the schema of ?template= does not allow
}

// Imported tells of an import: what was kept, and what was not.
type Imported struct {
	store.RecordSet
	Bad     []string `json:"bad"`               // rows that could not be read
	Notes   []string `json:"notes"`             // what was found out about the file
	Preview []raw    `json:"preview,omitempty"` // the first records, when nothing was to be kept
}

func (a *API) listRecordSets(c *echo.Context) error {
	return list(c, func(p store.Page) ([]store.RecordSet, int64, error) {
		return a.Store.RecordSets(c.QueryParam("search"), p)
	})
}

// importRecords reads the body as a record file; its format comes from
// “format”, or from the file's name. Fields can be given other names, and rows
// that cannot be read are told.
func (a *API) importRecords(c *echo.Context) error {
	in, err := a.recordFile(c)
	if err != nil {
		return err
	}
	defer in.close()
	out := &in.Imported
	err = a.Store.Once(func(st *store.Store) (store.Event, error) { // a bad file leaves nothing
		err := st.AddRecords(&out.RecordSet, in.each)
		return by(c, event("records.imported", "record-set", out.ID, "%s: %d records, %d bad rows", out.Name, out.Count, len(out.Bad))), err
	})
	if err != nil {
		if out.Count == 0 {
			return unprocessable(err)
		}
		return err
	}
	return c.JSON(http.StatusCreated, out)
}

// previewRecords reads a file as an import would, and keeps nothing.
func (a *API) previewRecords(c *echo.Context) error {
	in, err := a.recordFile(c)
	if err != nil {
		return err
	}
	defer in.close()
	out := &in.Imported
	err = in.each(func(_ string, data []byte) error {
		if out.Count++; len(out.Preview) < 20 {
			out.Preview = append(out.Preview, data)
		}
		return nil
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// recordFile is the body as records, and what there is to tell of it.
func (a *API) recordFile(c *echo.Context) (*recordImport, error) {
	name := strings.TrimSpace(c.QueryParam("name"))
	if name == "" {
		return nil, bad("the record set needs a name: ?name=…")
	}
	o, err := importOptions(c, name)
	if err != nil {
		return nil, err
	}
	names, err := mapping(c.QueryParam("fields"))
	if err != nil {
		return nil, err
	}
	in := &recordImport{
		Imported: Imported{Bad: []string{}, Notes: []string{}, RecordSet: store.RecordSet{Name: name, Author: who(c).Email}},
		read: func(in press.Reading, file io.Reader, visit func(string, []byte) error, told func(bad, notes []string)) error {
			return a.Maker.Press.Records(c.Request().Context(), in, file, visit, told)
		},
		reading: press.Reading{Options: o, Renames: names, SkipBad: flag(c, "skip-bad")},
	}
	if err := in.open(c); err != nil {
		in.close()
		return nil, err
	}
	return in, nil
}

func importOptions(c *echo.Context, name string) (record.Options, error) {
	o := record.Options{
		Format: record.Format(c.QueryParam("format")), Name: name, Path: c.QueryParam("path"), Sheet: c.QueryParam("sheet"), Encoding: c.QueryParam("encoding"),
		NoHeader: flag(c, "no-header"), Typed: flag(c, "typed"), Decimal: c.QueryParam("decimal"), Dates: c.QueryParam("dates"),
	}
	if list := c.QueryParam("list"); list != "" {
		o.Lists = strings.Split(list, ",")
	}
	if err := o.Check(); err != nil {
		return o, bad("%v", err)
	}
	if d := c.QueryParam("delimiter"); d != "" {
		r, n := utf8.DecodeRuneInString(d)
		if n != len(d) {
			return o, bad("the delimiter %q is more than one character", d)
		}
		o.Delimiter = r
	}
	if o.Format == "" {
		var err error
		if o.Format, err = record.FormatOf(name); err != nil {
			return o, bad("say the format: ?format=json, ndjson, csv, tsv, yaml, xml or xlsx")
		}
	}
	return o, nil
}

// mapping reads a JSON object of names.
func mapping(text string) (out record.Renames, err error) {
	if text == "" {
		return nil, nil
	}
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		return nil, bad("“fields” is not a JSON object of names: %v", err)
	}
	return out, nil
}

func (a *API) getRecordSet(c *echo.Context) error {
	set, err := find(c, a.Store.RecordSet)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, set)
}

func (a *API) dropRecordSet(c *echo.Context) error {
	set, err := find(c, a.Store.RecordSet)
	if err != nil {
		return err
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.DropRecordSet(set.ID)
		return event("records.dropped", "record-set", set.ID, "%s: %d records", set.Name, set.Count), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

func (a *API) listRecords(c *echo.Context) error {
	set, err := find(c, a.Store.RecordSet)
	if err != nil {
		return err
	}
	var t *issue.Template
	if name := c.QueryParam("template"); name != "" {
		if t, err = a.Maker.Open(name, 0); err != nil {
			return err
		}
	}
	return list(c, func(p store.Page) ([]RecordRow, int64, error) {
		rows, total, err := a.Store.Records(set.ID, c.QueryParam("search"), p)
		items := make([]RecordRow, 0, len(rows))
		for _, r := range rows {
			items = append(items, rowOf(r))
		}
		if t == nil || err != nil {
			return items, total, err
		}
		faults, err := a.Maker.Check(c.Request().Context(), t, rows)
		for i, fault := range faults {
			items[i].Fault = fault
		}
		return items, total, err
	})
}

func rowOf(r store.Record) RecordRow {
	return RecordRow{Number: r.Number, Label: r.Label, Revision: r.Revision, Data: raw(r.Data)}
}

func recordParam(c *echo.Context) (set uint64, number int, err error) {
	if set, err = idParam(c, "id"); err != nil {
		return 0, 0, err
	}
	if number, err = strconv.Atoi(c.Param("number")); err != nil {
		return 0, 0, bad("%q is not a record number", c.Param("number"))
	}
	return set, number, nil
}

func (a *API) getRecord(c *echo.Context) error {
	set, n, err := recordParam(c)
	if err != nil {
		return err
	}
	r, err := a.Store.Record(set, n)
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, r.Revision, rowOf(r))
}

// recordBody reads a record as JSON, as it is kept.
func recordBody(c *echo.Context, number int) (record.Record, string, error) {
	in, err := read[raw](c)
	if err != nil {
		return record.Record{}, "", err
	}
	r, err := record.FromJSON(in, number)
	if err != nil {
		return r, "", bad("the record is not a JSON object: %v", err)
	}
	data, err := json.Marshal(r.Data)
	return r, string(data), err
}

func (a *API) saveRecord(c *echo.Context) error {
	set, n, err := recordParam(c)
	if err != nil {
		return err
	}
	rev, err := revision(c)
	if err != nil {
		return err
	}
	r, data, err := recordBody(c, n)
	if err != nil {
		return err
	}
	var row store.Record
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		row, err = st.SaveRecord(set, n, r, data, rev)
		return event("record.changed", "record-set", set, "%s", row.Label), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, row.Revision, rowOf(row))
}

func (a *API) addRecord(c *echo.Context) error {
	set, err := idParam(c, "id")
	if err != nil {
		return err
	}
	r, data, err := recordBody(c, 0)
	if err != nil {
		return err
	}
	var row store.Record
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		row, err = st.AddRecord(set, r, data)
		return event("record.added", "record-set", set, "%s", row.Label), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusCreated, row.Revision, rowOf(row))
}
