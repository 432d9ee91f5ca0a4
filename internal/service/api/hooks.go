package api

import (
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/deliver"
	"oliveledger/internal/service/store"
)

// HookInput is a webhook that is to be told of what happens, or a change of one.
type HookInput struct {
	Address string   `json:"address,omitempty"`                                                                                // that messages are posted to; in a change, empty leaves it
	Events  []string `json:"events,omitempty" oneof:"document.issued document.void delivery.done delivery.failed batch.ended"` // that it is told of; in a change, none leave them
	Paused  *bool    `json:"paused,omitempty"`                                                                                 // it is told of nothing that happens meanwhile
}

// check tells why a webhook cannot be kept like this.
func (in HookInput) check(w *deliver.Ways) error {
	for _, e := range in.Events {
		if !slices.Contains(store.AllHappenings, e) {
			return unprocessableText("nothing called %q happens; there are %s", e, strings.Join(store.AllHappenings, ", "))
		}
	}
	if in.Address == "" {
		return nil
	}
	if err := w.Check(&store.Delivery{Kind: deliver.ByWebhook, To: in.Address}); err != nil {
		return unprocessable(err)
	}
	return nil
}

// into changes a webhook.
func (in HookInput) into(h *store.Hook) {
	if in.Address != "" {
		h.Address = in.Address
	}
	if len(in.Events) > 0 {
		h.Events = in.Events
	}
	if in.Paused != nil {
		h.Paused = *in.Paused
	}
}

func (a *API) listHooks(c *echo.Context) error { return list(c, a.Store.Hooks) }

func (a *API) addHook(c *echo.Context) error {
	in, err := read[HookInput](c)
	if err != nil {
		return err
	}
	if in.Address == "" || len(in.Events) == 0 {
		return bad("a webhook needs “address”, and “events” that it is told of: %s", strings.Join(store.AllHappenings, ", "))
	}
	if err := in.check(a.Ways); err != nil {
		return err
	}
	h := store.Hook{Author: who(c).Email}
	in.into(&h)
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddHook(&h)
		return event("hook.added", "hook", h.ID, "%s: %s", h.Address, strings.Join(h.Events, ", ")), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusCreated, h.Revision, h)
}

func (a *API) changeHook(c *echo.Context) error {
	id, rev, in, err := edit[HookInput](c)
	if err != nil {
		return err
	}
	if err := in.check(a.Ways); err != nil {
		return err
	}
	var h store.Hook
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		h, err = st.SaveHook(id, rev, in.into)
		return event("hook.changed", "hook", h.ID, "%s: %s%s", h.Address, strings.Join(h.Events, ", "), paused(h)), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, h.Revision, h)
}

func paused(h store.Hook) string {
	if h.Paused {
		return ", paused"
	}
	return ""
}

func (a *API) removeHook(c *echo.Context) error {
	err := a.act(c, func(st *store.Store) (store.Event, error) {
		h, err := find(c, st.RemoveHook)
		return event("hook.removed", "hook", h.ID, "%s: %s", h.Address, strings.Join(h.Events, ", ")), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// testHook sends a message that means nothing.
func (a *API) testHook(c *echo.Context) error {
	var d store.Delivery
	err := a.act(c, func(st *store.Store) (_ store.Event, err error) {
		d, err = find(c, func(id uint64) (store.Delivery, error) { return st.TestHook(id, who(c).Email) })
		return event("hook.tested", "hook", d.HookID, "%s", d.To), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, d)
}
