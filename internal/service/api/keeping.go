package api

import (
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/store"
)

// HoldInput says why a document must not be erased.
type HoldInput struct {
	Reason string `json:"reason"`
}

func (a *API) holdDocument(c *echo.Context) error {
	id, rev, in, err := edit[HoldInput](c)
	if err != nil {
		return err
	}
	if err := reasoned(in.Reason, "the document must stay"); err != nil {
		return err
	}
	return a.hold(c, id, rev, in.Reason, "document.held")
}

func (a *API) releaseDocument(c *echo.Context) error {
	id, err := idParam(c, "id")
	if err != nil {
		return err
	}
	rev, err := revision(c)
	if err != nil {
		return err
	}
	return a.hold(c, id, rev, "", "document.released")
}

func (a *API) hold(c *echo.Context, id uint64, rev int, reason, action string) error {
	var d store.Document
	err := a.act(c, func(st *store.Store) (_ store.Event, err error) {
		d, err = st.HoldDocument(id, rev, reason)
		return event(action, "document", d.ID, "%s", reason), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, d.Revision, detail(d))
}

// ErasureOrder says whether documents that have run out are erased, or only named.
type ErasureOrder struct {
	OnlyLook bool `json:"onlyLook,omitempty"` // nothing is erased; the answer names what would be
}

// Erasure is what was erased, or may be.
type Erasure struct {
	Documents []store.Document `json:"documents"` // the first 100
	Total     int              `json:"total"`     // how many documents were erased, or may be
	Bytes     int64            `json:"bytes"`     // that they took, or take
}

// erase forgets what has run out, one document after the other with its event; then the bytes that
// nothing names any more.
func (a *API) erase(c *echo.Context) error {
	in, err := read[ErasureOrder](c)
	if err != nil {
		return err
	}
	out := Erasure{Documents: []store.Document{}}
	now := clock.Now()
	for after := uint64(0); ; {
		list, err := a.Store.RunOut(now, after, 200)
		if err != nil {
			return err
		}
		if len(list) == 0 {
			return c.JSON(http.StatusOK, out)
		}
		for _, d := range list {
			if after = d.ID; !in.OnlyLook {
				if d, err = a.eraseOne(c, d.ID, now); err != nil {
					return err
				}
			}
			out.Total++
			out.Bytes += int64(d.Bytes)
			if len(out.Documents) < 100 {
				out.Documents = append(out.Documents, d)
			}
		}
	}
}

func (a *API) eraseOne(c *echo.Context, id uint64, now time.Time) (d store.Document, err error) {
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		d, err = st.Erase(id, now)
		return event("document.erased", "document", d.ID, "%s", d.Name), err
	})
	if err != nil {
		return d, err
	}
	named, err := a.Store.Named([]string{d.SHA256})
	if err != nil || named[d.SHA256] {
		return d, err
	}
	_, err = a.Blobs.Remove(c.Request().Context(), d.SHA256, now)
	return d, err
}
