package api

import (
	"net/http"
	"net/mail"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
)

// PersonInput is a person as they are added or changed; what is left out stays.
type PersonInput struct {
	Email    *string `json:"email,omitempty"`                                   // address to log in with
	Name     *string `json:"name,omitempty"`                                    // as it is shown
	Role     *string `json:"role,omitempty" oneof:"reader maker sender keeper"` // keeper, maker, sender or reader
	Password *string `json:"password,omitempty"`                                // at least 10 characters
	Disabled *bool   `json:"disabled,omitempty"`                                // may not log in
}

func (in PersonInput) apply(p *store.Person) error {
	if in.Email != nil {
		if a, err := mail.ParseAddress(*in.Email); err != nil || a.Address != *in.Email {
			return bad("%q is not an email address", *in.Email)
		}
		p.Email = *in.Email
	}
	if in.Name != nil {
		p.Name = strings.TrimSpace(*in.Name)
	}
	if in.Role != nil {
		if store.Roles[*in.Role] == nil {
			return bad("%q is not a role; there are keeper, maker, sender and reader", *in.Role)
		}
		p.Role = *in.Role
	}
	if in.Password != nil {
		if utf8.RuneCountInString(*in.Password) < leastPassword {
			return bad("a password has at least %d characters", leastPassword)
		}
		p.Password = HashPassword(*in.Password)
	}
	if in.Disabled != nil {
		p.Disabled = *in.Disabled
	}
	if p.Email == "" || p.Name == "" || p.Password == "" || p.Role == "" {
		return bad("a person needs email, name, role and password")
	}
	return nil
}

func (a *API) listPeople(c *echo.Context) error { return list(c, a.Store.People) }

func (a *API) addPerson(c *echo.Context) error {
	in, err := read[PersonInput](c)
	if err != nil {
		return err
	}
	p := store.Person{}
	if err := in.apply(&p); err != nil {
		return err
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddPerson(&p)
		return event("person.added", "person", p.Email, "%s", p.Role), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusCreated, p.Revision, p)
}

func (a *API) changePerson(c *echo.Context) error {
	id, rev, in, err := edit[PersonInput](c)
	if err != nil {
		return err
	}
	var p store.Person
	err = a.act(c, func(st *store.Store) (_ store.Event, err error) {
		if p, err = st.Person(id); err != nil {
			return store.Event{}, err
		}
		kept := p.Role == "keeper" && !p.Disabled
		if err := in.apply(&p); err != nil {
			return store.Event{}, err
		}
		if kept && (p.Role != "keeper" || p.Disabled) {
			if n, err := st.Keepers(); err != nil || n < 2 {
				return store.Event{}, echo.NewHTTPError(http.StatusConflict, "this is the last keeper; make someone else one first")
			}
		}
		err = st.SavePerson(&p, rev, in.Password != nil)
		return event("person.changed", "person", p.Email, "role %s, disabled %v, password %s", p.Role, p.Disabled, map[bool]string{true: "new", false: "as it was"}[in.Password != nil]), err
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, p.Revision, p)
}

// mostDays is how long a key or a link may last at most.
const mostDays = 3660

// KeyInput is a key that is asked for.
type KeyInput struct {
	Name   string   `json:"name"`             // what it is for
	Scopes []string `json:"scopes,omitempty"` // all that the caller has, when there are none
	Days   int      `json:"days,omitempty"`   // until it ends; 0 for never

	Templates []string `json:"templates,omitempty"` // that it is limited to; all when there are none
}

// NewKey is a key with its secret, which is told only now.
type NewKey struct {
	store.Key
	Secret string `json:"key"` // the key itself; it is told only now
}

func (a *API) listKeys(c *echo.Context) error { return list(c, a.Store.Keys) }

func (a *API) addKey(c *echo.Context) error {
	in, err := read[KeyInput](c)
	if err != nil {
		return err
	}
	if n := utf8.RuneCountInString(in.Name); strings.TrimSpace(in.Name) == "" || n > 100 {
		return bad("a key needs a name, of at most 100 characters")
	}
	if in.Scopes == nil {
		in.Scopes = who(c).Scopes
	}
	if len(in.Scopes) == 0 {
		return bad("a key with no scopes may do nothing; there are %s", strings.Join(store.AllScopes, ", "))
	}
	for _, s := range in.Scopes {
		if !slices.Contains(store.AllScopes, s) {
			return bad("%q is not a scope; there are %s", s, strings.Join(store.AllScopes, ", "))
		}
		if !slices.Contains(who(c).Scopes, s) {
			return echo.NewHTTPError(http.StatusForbidden, "you cannot give the scope “"+s+"”: you do not have it")
		}
	}
	for _, name := range in.Templates {
		if _, err := a.Store.Template(name); err != nil {
			return unprocessableText("there is no template %q", name)
		}
	}
	secret := issue.Secret()
	k := store.Key{Templates: strings.Join(in.Templates, " "), Name: in.Name, Hash: store.SumOf(secret), Scopes: strings.Join(in.Scopes, " "), Author: who(c).Email, PersonID: who(c).person}
	if in.Days < 0 || in.Days > mostDays {
		return bad("a key ends after 1 to %d days, or never when “days” is left out", mostDays)
	}
	if in.Days > 0 {
		end := clock.Now().AddDate(0, 0, in.Days)
		k.ExpiresAt = &end
	}
	err = a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddKey(&k)
		return event("key.added", "key", k.ID, "%s: %s", k.Name, k.Scopes), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, NewKey{k, secret})
}

func (a *API) revokeKey(c *echo.Context) error {
	var k store.Key
	err := a.act(c, func(st *store.Store) (_ store.Event, err error) {
		k, err = find(c, st.RevokeKey)
		return event("key.revoked", "key", k.ID, "%s", k.Name), err
	})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, k)
}
