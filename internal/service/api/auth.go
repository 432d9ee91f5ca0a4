package api

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/labstack/echo/v5"
	"golang.org/x/crypto/argon2"

	"oliveledger/internal/service/clock"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/store"
)

const (
	cookieName  = "olive_session"
	markName    = "olive_here" // the console looks for it
	sessionTime = 12 * time.Hour
	// the console sends this header with every change: other sites cannot
	consoleHeader = "X-Olive-Console"
)

// HashPassword makes an argon2id hash with its own salt (RFC 9106).
func HashPassword(password string) string {
	salt := make([]byte, 16)
	rand.Read(salt)
	return fmt.Sprintf("argon2id$%s$%s", base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(derive(password, salt)))
}

func derive(password string, salt []byte) []byte {
	return argon2.IDKey([]byte(password), salt, 2, 19*1024, 1, 32)
}

func checkPassword(stored, password string) bool {
	part := strings.Split(stored, "$")
	if len(part) != 3 {
		derive(password, make([]byte, 16)) // as slow as for someone who exists
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(part[1])
	want, err2 := base64.RawStdEncoding.DecodeString(part[2])
	return err == nil && err2 == nil && subtle.ConstantTimeCompare(derive(password, salt), want) == 1
}

// Caller is who makes a request, and what they may do.
type Caller struct {
	Email  string   `json:"email"`          // address of the person, or “key” and the name of the key
	Name   string   `json:"name"`           // of the person or the key
	Role   string   `json:"role,omitempty"` // of the person; empty for a key
	Scopes []string `json:"scopes"`         // what the caller may do

	Templates []string `json:"templates,omitempty"` // that the key is limited to; all when there are none

	person uint64 // who answers for it; 0 when nobody is known
}

func callerOf(p store.Person) Caller {
	return Caller{Email: p.Email, Name: p.Name, Role: p.Role, Scopes: store.Roles[p.Role], person: p.ID}
}

// LogIn is the body of a log-in.
type LogIn struct {
	Email    string `json:"email"`    // address that the person logs in with
	Password string `json:"password"` // of the person
}

// mostEmail is what an email address has at most, in characters.
const mostEmail = 190

// doors are what log-ins have to pass.
type doors struct {
	accounts, addresses *throttle
	hashing             chan struct{} // one for each password that is hashed at once: each takes 19 MB
}

func newDoors() doors {
	return doors{newThrottle(4, 10*time.Second), newThrottle(40, 5*time.Second), make(chan struct{}, 2)}
}

// knock holds a try back, by the address it comes from and by the account it is for: however the
// account's name is typed, the database finds the same. No account is a name of its own, so that
// nobody can tell which there are.
func (d doors) knock(address, account string) (wait time.Duration) {
	if wait = d.addresses.begin(address); wait > 0 {
		return wait
	}
	return d.accounts.begin(account)
}

func (a *API) logIn(c *echo.Context) error {
	in, err := read[LogIn](c)
	if err != nil {
		return err
	}
	if in.Email == "" || in.Password == "" {
		return bad("email and password are needed")
	}
	if utf8.RuneCountInString(in.Email) > mostEmail {
		return bad("an email address has at most %d characters", mostEmail)
	}
	p, err := a.Store.PersonByEmail(in.Email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	if p.ID == 0 {
		p.Email = in.Email
	}
	if ok, err := a.allowed(c, p, in.Password); err != nil {
		return err
	} else if !ok {
		return echo.NewHTTPError(http.StatusUnauthorized, "the email or the password is wrong")
	}
	if err := a.begin(c, p); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, callerOf(p))
}

// allowed looks at a password, unless too many were wrong before. p is nobody where no account was found.
func (a *API) allowed(c *echo.Context, p store.Person, password string) (ok bool, err error) {
	account := fmt.Sprint("person ", p.ID)
	if p.ID == 0 {
		account = "nobody " + strings.ToLower(p.Email)
	}
	if wait := a.doors.knock(c.RealIP(), account); wait > 0 {
		c.Response().Header().Set("Retry-After", strconv.Itoa(int(wait.Seconds())+1))
		return false, echo.NewHTTPError(http.StatusTooManyRequests, "too many failed tries; wait a moment")
	}
	a.doors.hashing <- struct{}{}
	ok = checkPassword(p.Password, password) && !p.Disabled
	<-a.doors.hashing
	if !ok {
		return false, a.Store.Note(by(c, event("log-in.failed", "person", p.Email, "from %s", c.RealIP())))
	}
	a.doors.accounts.passed(account)
	a.doors.addresses.passed(c.RealIP())
	return true, nil
}

// begin begins a session, which a cookie stands for.
func (a *API) begin(c *echo.Context, p store.Person) error {
	token := issue.Secret()
	c.Set("caller", callerOf(p))
	err := a.act(c, func(st *store.Store) (store.Event, error) {
		err := st.AddSession(&store.Session{Token: store.SumOf(token), PersonID: p.ID, Agent: shortened(c.Request().UserAgent(), 200), Address: c.RealIP(), ExpiresAt: clock.Now().Add(sessionTime)})
		return event("log-in", "person", p.Email, "from %s", c.RealIP()), err
	})
	if err != nil {
		return err
	}
	a.setSession(c, token, int(sessionTime.Seconds()))
	return nil
}

// setSession gives a browser the cookie of its session for so many seconds, and one that says no more than that there is a
// session: a console without it need not ask who is logged in.
func (a *API) setSession(c *echo.Context, token string, seconds int) {
	c.SetCookie(&http.Cookie{Name: cookieName, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: a.overTLS(c), MaxAge: seconds})
	c.SetCookie(&http.Cookie{Name: markName, Value: "1", Path: "/", SameSite: http.SameSiteStrictMode, Secure: a.overTLS(c), MaxAge: seconds})
}

// shortened is a text of at most so many characters.
func shortened(s string, most int) string {
	if r := []rune(strings.ToValidUTF8(s, "")); len(r) > most {
		return string(r[:most])
	}
	return strings.ToValidUTF8(s, "")
}

// overTLS tells whether a browser reaches the service through TLS: that of its own, or of a proxy before it.
func (a *API) overTLS(c *echo.Context) bool {
	return c.IsTLS() || strings.HasPrefix(a.Maker.Public, "https://")
}

// authenticate lets in who has a key or a session, and the scope. A key that is limited to templates has few ways:
// those that look whether theirs are asked for.
func (a *API) authenticate(scope string, limited bool, next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		x, err := a.caller(c)
		if err != nil {
			return err
		}
		c.Set("caller", x)
		if !slices.Contains(x.Scopes, scope) {
			return echo.NewHTTPError(http.StatusForbidden, fmt.Sprintf("this needs the scope “%s”, which %s does not have", scope, x.Name))
		}
		if len(x.Templates) > 0 && !limited {
			return onlyTemplates(x)
		}
		return next(c)
	}
}

func onlyTemplates(x Caller) error {
	return echo.NewHTTPError(http.StatusForbidden, fmt.Sprintf("%s is limited to the templates %s, and to documents of theirs", x.Name, strings.Join(x.Templates, ", ")))
}

// within tells whether a caller may use a template. A page or files that are posted are of none.
func within(c *echo.Context, template string, posted bool) error {
	if x := who(c); len(x.Templates) > 0 && (posted || !slices.Contains(x.Templates, template)) {
		return onlyTemplates(x)
	}
	return nil
}

// inside is where a context holds who calls, when a part of the service does.
type inside struct{}

// As makes requests with this context be those of a part of the service itself. No request from outside has such a
// context.
func As(ctx context.Context, who Caller) context.Context {
	return context.WithValue(ctx, inside{}, who)
}

func (a *API) caller(c *echo.Context) (Caller, error) {
	if x, ok := c.Request().Context().Value(inside{}).(Caller); ok {
		return x, nil
	}
	key, given := strings.CutPrefix(c.Request().Header.Get("Authorization"), "Bearer ")
	if !given && isForm(c) { // a plain form cannot send a header
		key = c.FormValue("key")
		given = key != ""
	}
	if given {
		k, err := a.Store.KeyByHash(store.SumOf(key))
		if errors.Is(err, store.ErrNotFound) {
			return Caller{}, echo.NewHTTPError(http.StatusUnauthorized, "the key is not known, or has ended")
		}
		if err != nil {
			return Caller{}, err
		}
		person, err := a.Store.PersonBehind(k)
		return Caller{Email: "key " + k.Name, Name: k.Name, Scopes: k.Grants(), Templates: strings.Fields(k.Templates), person: person}, err
	}
	ck, err := c.Cookie(cookieName)
	if err != nil {
		return Caller{}, echo.NewHTTPError(http.StatusUnauthorized, "log in first, or send a key as “Authorization: Bearer …”")
	}
	p, err := a.Store.PersonBySession(store.SumOf(ck.Value))
	if errors.Is(err, store.ErrNotFound) {
		return Caller{}, echo.NewHTTPError(http.StatusUnauthorized, "the session has ended; log in again")
	}
	if m := c.Request().Method; m != http.MethodGet && m != http.MethodHead && c.Request().Header.Get(consoleHeader) == "" {
		return Caller{}, echo.NewHTTPError(http.StatusForbidden, "changes with a session need the header "+consoleHeader)
	}
	return callerOf(p), err
}

// isForm tells whether a plain HTML form asks for a rendering.
func isForm(c *echo.Context) bool {
	kind := c.Request().Header.Get("Content-Type")
	return c.Path() == "/api/v1/renderings" && (strings.HasPrefix(kind, "application/x-www-form-urlencoded") || strings.HasPrefix(kind, "multipart/form-data"))
}

func who(c *echo.Context) Caller {
	x, _ := c.Get("caller").(Caller)
	return x
}

func (a *API) whoAmI(c *echo.Context) error { return c.JSON(http.StatusOK, who(c)) }

func (a *API) logOut(c *echo.Context) error {
	if ck, err := c.Cookie(cookieName); err == nil {
		if err := a.Store.EndSession(store.SumOf(ck.Value)); err != nil {
			return err
		}
	}
	a.setSession(c, "", -1)
	return c.NoContent(http.StatusNoContent)
}
