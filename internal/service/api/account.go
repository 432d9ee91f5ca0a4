package api

import (
	"net/http"
	"time"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
)

// LoggedIn is one of the log-ins of a person.
type LoggedIn struct {
	Name    string    `json:"name"`    // to end it by
	Agent   string    `json:"agent"`   // the browser, as it calls itself
	Address string    `json:"address"` // that the log-in came from
	Since   time.Time `json:"since"`   // when it began
	Ends    time.Time `json:"ends"`    // when it ends by itself
	This    bool      `json:"this"`    // it is the one that asks
}

// person is who asks, and the session that they ask in. Programs have no account.
func (a *API) person(c *echo.Context) (p store.Person, session string, err error) {
	ck, err := c.Cookie(cookieName)
	if err != nil || who(c).Role == "" {
		return p, "", echo.NewHTTPError(http.StatusForbidden, "this is for people who have logged in; a key has no account")
	}
	session = store.SumOf(ck.Value)
	p, err = a.Store.PersonBySession(session)
	return p, session, err
}

func (a *API) listSessions(c *echo.Context) error {
	p, own, err := a.person(c)
	if err != nil {
		return err
	}
	rows, err := a.Store.Sessions(p.ID)
	if err != nil {
		return err
	}
	out := List[LoggedIn]{Items: []LoggedIn{}, Total: int64(len(rows))}
	for _, x := range rows {
		out.Items = append(out.Items, LoggedIn{x.Name(), x.Agent, x.Address, x.CreatedAt, x.ExpiresAt, x.Token == own})
	}
	return c.JSON(http.StatusOK, out)
}

func (a *API) endSession(c *echo.Context) error {
	p, _, err := a.person(c)
	if err != nil {
		return err
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.EndSessionNamed(p.ID, c.Param("name"))
		return event("log-in.ended", "person", p.Email, "from %s", c.RealIP()), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// PasswordInput is a new password of one's own, with the one of before.
type PasswordInput struct {
	Old string `json:"old"` // the one until now
	New string `json:"new"` // at least 10 characters
}

// leastPassword is what a password has at least, in characters.
const leastPassword = 10

// changePassword gives a person another password and ends their other sessions.
func (a *API) changePassword(c *echo.Context) error {
	in, err := read[PasswordInput](c)
	if err != nil {
		return err
	}
	p, own, err := a.person(c)
	if err != nil {
		return err
	}
	if utf8.RuneCountInString(in.New) < leastPassword {
		return bad("a password has at least %d characters", leastPassword)
	}
	if ok, err := a.allowed(c, p, in.Old); err != nil {
		return err
	} else if !ok {
		return unprocessableText("the present password is another one")
	}
	p.Password = HashPassword(in.New)
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.ChangePassword(p.ID, p.Password, own)
		return event("password.changed", "person", p.Email, "from %s", c.RealIP()), err
	})
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}
