package api

import (
	"encoding/json"
	"net/http"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
	"oliveledger/record"
)

func (a *API) listRecordSets(c *echo.Context) error {
	list, err := a.Store.RecordSets()
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, map[string]any{"items": notNil(list)})
}

// importRecords reads the body as a record file; its format comes from
// “format”, or from the file's name.
func (a *API) importRecords(c *echo.Context) error {
	name := strings.TrimSpace(c.QueryParam("name"))
	if name == "" {
		return bad("the record set needs a name: ?name=…")
	}
	format := record.Format(c.QueryParam("format"))
	if format == "" {
		var err error
		if format, err = record.FormatOf(name); err != nil {
			return bad("say the format: ?format=json, ndjson or csv")
		}
	}
	// a bad file takes no row: records are read before anything is kept
	var list []record.Record
	err := record.Each(c.Request().Body, record.Options{Format: format}, func(r record.Record) error { list = append(list, r); return nil })
	if err != nil {
		return echo.NewHTTPError(http.StatusUnprocessableEntity, name+": "+err.Error())
	}
	if len(list) == 0 {
		return echo.NewHTTPError(http.StatusUnprocessableEntity, name+": there are no records in it")
	}
	set, err := a.Store.AddRecords(name, func(visit func(record.Record) error) error {
		for _, r := range list {
			if err := visit(r); err != nil {
				return err
			}
		}
		return nil
	}, func(r record.Record) (string, error) {
		b, err := json.Marshal(r.Data)
		return string(b), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, set)
}

func (a *API) getRecordSet(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	set, err := a.Store.RecordSet(id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, set)
}

func (a *API) listRecords(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	offset, limit, err := pageOf(c)
	if err != nil {
		return err
	}
	set, err := a.Store.RecordSet(id)
	if err != nil {
		return err
	}
	list, err := a.Store.Records(id, offset, limit)
	if err != nil {
		return err
	}
	items := []any{}
	for _, r := range list {
		items = append(items, map[string]any{"number": r.Number, "label": r.Label, "data": json.RawMessage(r.Data)})
	}
	return c.JSON(http.StatusOK, map[string]any{"items": items, "total": set.Count})
}

func (a *API) getRecord(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(c.Param("number"))
	if err != nil {
		return bad("%q is not a record number", c.Param("number"))
	}
	r, err := a.Store.Record(id, n)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, map[string]any{"number": r.Number, "label": r.Label, "data": json.RawMessage(r.Data)})
}

// decode gives a stored record back with its numbers as written.
func decode(r store.Record) (record.Record, error) { return parseRecord([]byte(r.Data), r.Number) }

func parseRecord(data []byte, number int) (record.Record, error) {
	dec := json.NewDecoder(strings.NewReader(string(data)))
	dec.UseNumber()
	out := record.Record{Number: number}
	err := dec.Decode(&out.Data)
	return out, err
}
