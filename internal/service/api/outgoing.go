package api

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/public"
	"oliveledger/internal/service/store"
)

// ShareInput asks for a link to a document.
type ShareInput struct {
	Document uint64 `json:"document"`
	Days     int    `json:"days,omitempty"`     // until it ends; 30 when 0
	Limit    int    `json:"limit,omitempty"`    // how often it can be used; 0 for no limit
	Download bool   `json:"download,omitempty"` // it is saved instead of shown
}

// NewShare is a link with its address, which is told only now.
type NewShare struct {
	store.Share
	Address string `json:"address"` // that opens the document; it is told only now
}

func (a *API) addShare(c *echo.Context) error {
	in, err := read[ShareInput](c)
	if err != nil {
		return err
	}
	d, err := a.shareable(in.Document)
	if err != nil {
		return err
	}
	if in.Days < 0 || in.Limit < 0 || in.Days > mostDays {
		return bad("days are 1 to %d, a limit is not negative", mostDays)
	}
	if in.Days == 0 {
		in.Days = 30
	}
	code := issue.Secret()
	end := clock.Now().AddDate(0, 0, in.Days)
	x := store.Share{Hash: store.SumOf(code), DocumentID: d.ID, Download: in.Download, Limit: in.Limit, ExpiresAt: &end, Author: who(c).Email}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddShare(&x)
		return event("document.shared", "document", d.ID, "until %s", end.Format(time.DateOnly)), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, NewShare{x, a.Maker.Public + "/s/" + code})
}

// shareable finds a document that may go out.
func (a *API) shareable(id uint64) (store.Document, error) {
	d, err := a.Store.Document(id)
	switch {
	case err != nil:
		return d, err
	case d.State != store.Issued && d.State != store.Sent:
		return d, echo.NewHTTPError(http.StatusConflict, "a document that is "+d.State+" does not go out; only issued ones do")
	}
	return d, nil
}

// listOfDocument reads the “document” that narrows a list down.
func listOfDocument[T any](c *echo.Context, get func(uint64, store.Page) ([]T, int64, error)) error {
	id, err := numberOf(c, "document", 0)
	if err != nil {
		return err
	}
	return list(c, func(p store.Page) ([]T, int64, error) { return get(uint64(max(id, 0)), p) })
}

func (a *API) listShares(c *echo.Context) error { return listOfDocument(c, a.Store.Shares) }

func (a *API) revokeShare(c *echo.Context) error {
	var x store.Share
	err := a.act(c, func(st *store.Store) (_ store.Event, err error) {
		x, err = find(c, st.RevokeShare)
		return event("share.revoked", "document", x.DocumentID, "link %d", x.ID), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, x)
}

// openShare gives a shared document to anyone who has the link.
func (a *API) openShare(c *echo.Context) error {
	x, d, err := a.Store.UseShare(store.SumOf(c.Param("code")))
	if err != nil {
		return a.noDocument(c, http.StatusNotFound, public.LinkEnded)
	}
	if d.State == store.Void {
		return a.noDocument(c, http.StatusGone, public.DocumentVoid)
	}
	return a.sendPDF(c, d, x.Download, "private, no-store")
}

// noDocument tells a person, or a program, that a share link leads nowhere.
func (a *API) noDocument(c *echo.Context, status int, why string) error {
	if !strings.Contains(c.Request().Header.Get("Accept"), "text/html") {
		return echo.NewHTTPError(status, why)
	}
	return a.verdict(c, status, public.Verdict{State: public.Ended, Why: why})
}

// Setup is what the service is set up for.
type Setup struct {
	Public   string   `json:"public"`                                     // address that printed links lead to
	Ways     []string `json:"ways" oneof:"mail webhook folder webdav s3"` // kinds of delivery that are set up
	Hosts    []string `json:"hosts"`                                      // that webhooks and WebDAV may go to
	MaxPages int      `json:"maxPages"`                                   // of a document
	Seconds  int      `json:"seconds"`                                    // that a document may take
	MaxBody  int      `json:"maxBody"`                                    // bytes of a request
	AtOnce   int      `json:"atOnce"`                                     // renderings that go on at once
}

func (a *API) setup(c *echo.Context) error {
	hosts := a.Ways.Hosts
	if hosts == nil {
		hosts = []string{}
	}
	return c.JSON(http.StatusOK, Setup{a.Maker.Public, a.Ways.Kinds(), hosts, a.Maker.Limits.Pages, int(a.Maker.Limits.Time.Seconds()), MaxBody, a.Gate.Places()})
}

// DeliveryInput asks for a document to be brought somewhere. Subject and body of
// a mail may hold fields of the record, as templates do.
type DeliveryInput struct {
	Document uint64 `json:"document"`
	Kind     string `json:"kind" oneof:"mail webhook folder webdav s3"` // mail, webhook, folder, webdav or s3
	To       string `json:"to,omitempty"`                               // where it goes; fields of the record may stand in it
	Subject  string `json:"subject,omitempty"`                          // of the mail; fields of the record may stand in it
	Body     string `json:"body,omitempty"`                             // text of the mail; fields of the record may stand in it
}

func (a *API) addDelivery(c *echo.Context) error {
	in, err := read[DeliveryInput](c)
	if err != nil {
		return err
	}
	if in.Document == 0 {
		return bad("a delivery needs “document”, its number")
	}
	doc, err := a.shareable(in.Document)
	if err != nil {
		return err
	}
	d := store.Delivery{DocumentID: doc.ID, Kind: in.Kind, To: in.To, Subject: in.Subject, Body: in.Body, Author: who(c).Email}
	if err := a.merged(c.Request().Context(), doc, &d); err != nil {
		return unprocessable(err)
	}
	if err := a.Ways.Check(&d); err != nil {
		return unprocessable(err)
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddDelivery(&d)
		return event("document.delivery", "document", doc.ID, "by %s to %s", d.Kind, d.To), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, d)
}

// merged fills the fields in the address, subject and body of a delivery.
func (a *API) merged(ctx context.Context, doc store.Document, d *store.Delivery) error {
	if d.Kind == "mail" && d.Subject == "" {
		d.Subject = titleOf(doc)
	}
	if doc.Template == "" || !strings.Contains(d.To+d.Subject+d.Body, "{{") {
		return nil
	}
	t, err := a.Maker.Open(doc.Template, doc.Version)
	if err != nil {
		return err
	}
	texts, err := a.Maker.Fill(ctx, t, &doc, []string{d.To, d.Subject, d.Body})
	if err != nil {
		return err
	}
	d.To, d.Subject, d.Body = texts[0], texts[1], texts[2]
	d.Subject = strings.Join(strings.Fields(d.Subject), " ") // one line
	return nil
}

func (a *API) listDeliveries(c *echo.Context) error {
	hook, err := numberOf(c, "hook", 0)
	if err != nil {
		return err
	}
	return listOfDocument(c, func(document uint64, p store.Page) ([]store.Delivery, int64, error) {
		return a.Store.Deliveries(document, uint64(max(hook, 0)), c.QueryParam("state"), p)
	})
}

func (a *API) getDelivery(c *echo.Context) error {
	d, err := find(c, a.Store.Delivery)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, d)
}

func (a *API) retryDelivery(c *echo.Context) error {
	var d store.Delivery
	err := a.act(c, func(st *store.Store) (_ store.Event, err error) {
		d, err = find(c, st.RetryDelivery)
		return event("delivery.retried", "document", d.DocumentID, "by %s to %s", d.Kind, d.To), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, d)
}
