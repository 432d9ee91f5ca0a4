package api

import (
	"embed"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/press"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/seal"
	"oliveledger/internal/service/store"
)

func (a *API) listEntries(c *echo.Context) error { return listOfDocument(c, a.Store.Entries) }

// verifyLedger checks the chain, the documents and the stored bytes.
func (a *API) verifyLedger(c *echo.Context) error {
	from, err := numberOf(c, "from", 0)
	if err != nil || from < 0 {
		return bad("from %q is not the number of a row", c.QueryParam("from"))
	}
	v, err := a.Store.Verify(uint64(from), func(sum string) error {
		_, err := a.Blobs.Get(c.Request().Context(), sum)
		return err
	})
	if err != nil {
		return err
	}
	if err := a.Store.Note(by(c, event("ledger.verified", "ledger", v.Rows, "%d faults", len(v.Faults)))); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, v)
}

// exportLedger gives the ledger to those who check it without this program.
func (a *API) exportLedger(c *echo.Context) error {
	if err := a.Store.SealHead(); err != nil {
		return err
	}
	c.Response().Header().Set("Content-Type", "application/x-ndjson")
	c.Response().Header().Set("Content-Disposition", `attachment; filename="ledger.ndjson"`)
	return a.Store.Export(c.Response())
}

//go:embed headpage
var headPage embed.FS

// printHead gives a page with the newest signed head, to be printed and kept away from the service.
func (a *API) printHead(c *echo.Context) error {
	if err := a.Store.SealHead(); err != nil {
		return err
	}
	signed, err := a.Store.NewestHead()
	if err != nil {
		return err
	}
	head := signed.Head()
	record := struct {
		seal.Head
		Line    string           `json:"line"`
		Witness *store.Witnessed `json:"witness,omitempty"`
	}{Head: head, Line: string(mustJSON(map[string]any{"head": head}))}
	if record.Witness, err = a.Store.LastWitness(); err != nil {
		return err
	}
	files := issue.Files{}
	for _, name := range []string{"page.html", "style.css", "template.yaml"} {
		if files[name], err = headPage.ReadFile("headpage/" + name); err != nil {
			return err
		}
	}
	p, err := a.Maker.Set(c.Request().Context(), issue.Of("", files), press.Page{Record: &press.Record{Number: 1, Data: mustJSON(record)}}, issue.Now)
	if err != nil {
		return err
	}
	c.Response().Header().Set("Content-Disposition", `inline; filename="ledger-head.pdf"`)
	return c.Blob(http.StatusOK, "application/pdf", p.PDF)
}

// SeriesInput is a number series that is added or changed.
type SeriesInput struct {
	Name    string `json:"name,omitempty"`    // of the series
	Pattern string `json:"pattern,omitempty"` // such as QL-{year}-{number:4}
	Next    int    `json:"next,omitempty"`    // the number that comes next

	Approval *bool `json:"approval,omitempty"` // documents wait to be approved before they get a number
}

// approval tells, in the event of a series, whether its documents are to be approved.
func approval(x store.Series) string {
	if x.Approval {
		return ", to be approved"
	}
	return ""
}

func (a *API) listSeries(c *echo.Context) error { return list(c, a.Store.SeriesList) }

func (a *API) addSeries(c *echo.Context) error {
	in, err := read[SeriesInput](c)
	if err != nil {
		return err
	}
	if in.Name == "" {
		return bad("a number series needs a name")
	}
	if err := store.CheckPattern(in.Pattern); err != nil {
		return bad("%v", err)
	}
	x := store.Series{Name: in.Name, Pattern: in.Pattern, Next: max(in.Next, 1), Approval: in.Approval != nil && *in.Approval}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddSeries(&x)
		return event("series.added", "series", x.Name, "%s from %d%s", x.Pattern, x.Next, approval(x)), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusCreated, x.Revision, x)
}

func (a *API) changeSeries(c *echo.Context) error {
	id, rev, in, err := edit[SeriesInput](c)
	if err != nil {
		return err
	}
	if in.Pattern != "" {
		if err := store.CheckPattern(in.Pattern); err != nil {
			return bad("%v", err)
		}
	}
	var x store.Series
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		x, err = st.SaveSeries(id, rev, in.Pattern, in.Next, in.Approval)
		return event("series.changed", "series", x.Name, "%s next %d%s", x.Pattern, x.Next, approval(x)), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, x.Revision, x)
}

func (a *API) listEvents(c *echo.Context) error {
	return list(c, func(p store.Page) ([]store.Event, int64, error) {
		return a.Store.Events(c.QueryParam("kind"), c.QueryParam("ref"), c.QueryParam("who"), p)
	})
}
