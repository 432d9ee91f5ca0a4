package api

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
	"golang.org/x/crypto/argon2"

	"oliveledger/internal/service/store"
)

const (
	cookieName  = "olive_session"
	sessionTime = 12 * time.Hour
	// the console sends this header with every change: other sites cannot
	consoleHeader = "X-Olive-Console"
)

// Secret makes an unguessable text.
func Secret() string {
	b := make([]byte, 24)
	rand.Read(b)
	return base64.RawURLEncoding.EncodeToString(b)
}

// Hash is what is stored of a secret.
func Hash(secret string) string {
	h := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(h[:])
}

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

// throttle slows log-ins down after failures.
type throttle struct {
	mu    sync.Mutex
	fails map[string]int
	until map[string]time.Time
}

func (t *throttle) wait(who string) time.Duration {
	t.mu.Lock()
	defer t.mu.Unlock()
	return time.Until(t.until[who])
}

func (t *throttle) note(who string, ok bool) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.fails == nil || len(t.fails) > 10000 {
		t.fails, t.until = map[string]int{}, map[string]time.Time{}
	}
	if ok {
		delete(t.fails, who)
		delete(t.until, who)
		return
	}
	t.fails[who]++
	if n := t.fails[who]; n >= 5 {
		t.until[who] = time.Now().Add(time.Duration(min(n-4, 30)) * 10 * time.Second)
	}
}

func (a *API) logIn(c *echo.Context) error {
	var in struct{ Email, Password string }
	if err := c.Bind(&in); err != nil || in.Email == "" || in.Password == "" {
		return bad("email and password are needed")
	}
	who := strings.ToLower(in.Email)
	if d := a.throttle.wait(who); d > 0 {
		c.Response().Header().Set("Retry-After", fmt.Sprint(int(d.Seconds())+1))
		return echo.NewHTTPError(http.StatusTooManyRequests, "too many failed tries; wait a moment")
	}
	p, err := a.Store.PersonByEmail(in.Email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	ok := checkPassword(p.Password, in.Password)
	a.throttle.note(who, ok)
	if !ok {
		return echo.NewHTTPError(http.StatusUnauthorized, "the email or the password is wrong")
	}
	token := Secret()
	if err := a.Store.AddSession(&store.Session{Token: Hash(token), PersonID: p.ID, ExpiresAt: time.Now().Add(sessionTime)}); err != nil {
		return err
	}
	c.SetCookie(&http.Cookie{Name: cookieName, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: c.IsTLS(), MaxAge: int(sessionTime.Seconds())})
	return c.JSON(http.StatusOK, map[string]string{"email": p.Email, "name": p.Name})
}

// caller is who makes a request.
type caller struct{ Email, Name string }

// authenticate lets in who has a key or a session.
func (a *API) authenticate(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if key, ok := strings.CutPrefix(c.Request().Header.Get("Authorization"), "Bearer "); ok {
			k, err := a.Store.KeyByHash(Hash(key))
			if err != nil {
				return echo.NewHTTPError(http.StatusUnauthorized, "the key is not known")
			}
			c.Set("caller", caller{Email: "key " + k.Name, Name: k.Name})
			return next(c)
		}
		ck, err := c.Cookie(cookieName)
		if err != nil {
			return echo.NewHTTPError(http.StatusUnauthorized, "log in first, or send a key as “Authorization: Bearer …”")
		}
		p, err := a.Store.PersonBySession(Hash(ck.Value))
		if err != nil {
			return echo.NewHTTPError(http.StatusUnauthorized, "the session has ended; log in again")
		}
		if m := c.Request().Method; m != http.MethodGet && m != http.MethodHead && c.Request().Header.Get(consoleHeader) == "" {
			return echo.NewHTTPError(http.StatusForbidden, "changes with a session need the header "+consoleHeader)
		}
		c.Set("caller", caller{Email: p.Email, Name: p.Name})
		return next(c)
	}
}

func who(c *echo.Context) caller {
	x, _ := c.Get("caller").(caller)
	return x
}

func (a *API) whoAmI(c *echo.Context) error {
	x := who(c)
	return c.JSON(http.StatusOK, map[string]string{"email": x.Email, "name": x.Name})
}

func (a *API) logOut(c *echo.Context) error {
	if ck, err := c.Cookie(cookieName); err == nil {
		if err := a.Store.EndSession(Hash(ck.Value)); err != nil {
			return err
		}
	}
	c.SetCookie(&http.Cookie{Name: cookieName, Path: "/", MaxAge: -1})
	return c.NoContent(http.StatusNoContent)
}

func (a *API) addKey(c *echo.Context) error {
	var in struct{ Name string }
	if err := c.Bind(&in); err != nil || strings.TrimSpace(in.Name) == "" {
		return bad("a key needs a name")
	}
	secret := Secret()
	k := store.Key{Name: in.Name, Hash: Hash(secret)}
	if err := a.Store.AddKey(&k); err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, map[string]any{"id": k.ID, "name": k.Name, "key": secret})
}
