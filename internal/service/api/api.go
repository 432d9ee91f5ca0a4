// Package api serves the HTTP API: a table of routes, and one file for the
// handlers of each resource.
package api

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
	"golang.org/x/sync/semaphore"

	"oliveledger/internal/press"
	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/deliver"
	"oliveledger/internal/service/issue"
	"oliveledger/internal/service/public"
	"oliveledger/internal/service/store"
)

// API answers requests.
type API struct {
	Store   *store.Store
	Blobs   blob.Store
	Maker   *issue.Maker
	Ways    *deliver.Ways
	Log     *slog.Logger
	Console fs.FS
	Gate    *Gate
	Metrics *Metrics
	SignIn  *SignIn // nil without a provider

	PageHosts []string // that pages may be copied from

	doors   doors
	reading *Gate // what reads much, for everyone together
	signed  *lru.Cache[string, []public.Signer]
	bodies  *semaphore.Weighted
}

// Handler makes the routes.
func (a *API) Handler() http.Handler {
	a.doors, a.reading, a.bodies = newDoors(), NewGate(2), semaphore.NewWeighted(bodiesAtOnce)
	a.signed, _ = lru.New[string, []public.Signer](filesRemembered) // only sizes below 1 are errors
	e := echo.New()
	e.IPExtractor = echo.ExtractIPDirect() // what a header says of the address, the caller has written
	e.HTTPErrorHandler = a.problem
	e.Use(ownID, middleware.RequestID(), a.watch, middleware.Recover(), patient, a.headers)
	e.GET("/healthz", func(c *echo.Context) error { return c.String(http.StatusOK, "ok\n") })
	e.GET("/readyz", a.ready)
	e.GET("/metrics", echo.WrapHandler(a.Metrics.Handler()))
	e.GET("/s/:code", a.openShare)
	e.GET("/verify/:code", a.verifyPage)
	e.StaticFS("/public", public.Files())
	e.GET("/api/v1/openapi.json", a.describe)
	e.GET(signInPath, a.signIn)
	e.GET(returnPath, a.signedIn)
	for _, r := range routes() {
		do := r.do
		if len(r.query) > 0 {
			do = r.asked(do)
		}
		h := func(c *echo.Context) error { return do(a, c) }
		if r.method == http.MethodPost && !r.repeatable {
			h = a.once(r.secret, do)
		}
		if r.scope != "" {
			h = a.authenticate(r.scope, r.limited, a.weighed(r.streams, h))
		}
		h = limitBody(r.scope != "", h)
		e.Add(r.method, "/api/v1"+r.path, h)
	}
	e.Any("/api/*", func(*echo.Context) error { return echo.NewHTTPError(http.StatusNotFound, "there is no such resource") })
	e.GET("/*", a.console)
	return e
}

// requestID is what a caller may call a request.
var requestID = regexp.MustCompile(`^[A-Za-z0-9._:-]{1,60}$`)

// ownID passes over names of requests that do not fit into a row, so that the request gets one of ours.
func ownID(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if h := c.Request().Header; !requestID.MatchString(h.Get(echo.HeaderXRequestID)) {
			h.Del(echo.HeaderXRequestID)
		}
		return next(c)
	}
}

// ready tells whether requests can be answered.
func (a *API) ready(c *echo.Context) error {
	if err := a.Store.Ping(); err != nil {
		return echo.NewHTTPError(http.StatusServiceUnavailable, "the database does not answer")
	}
	if err := a.Blobs.Ready(c.Request().Context()); err != nil {
		return echo.NewHTTPError(http.StatusServiceUnavailable, fmt.Sprintf("nothing can be kept where documents are: %v", err))
	}
	return c.String(http.StatusOK, "ready\n")
}

// headers keep pages from doing what they need not, and tell the limits.
func (a *API) headers(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "SAMEORIGIN")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; worker-src 'self' blob:; font-src 'self' data: blob:; connect-src 'self' blob:; object-src 'none'; frame-ancestors 'self'; base-uri 'self'; form-action 'self'")
		if strings.HasPrefix(c.Request().URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
			h.Set("Olive-Limits", fmt.Sprintf("body=%d, pages=%d, seconds=%d, renderings=%d", MaxBody, a.Maker.Limits.Pages, int(a.Maker.Limits.Time.Seconds()), a.Gate.Places()))
		}
		return next(c)
	}
}

// watch logs and counts requests.
func (a *API) watch(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		start := time.Now()
		err := next(c)
		if err != nil {
			a.problem(c, err)
		}
		res, _ := echo.UnwrapResponse(c.Response())
		status := 0
		if res != nil {
			status = res.Status
		}
		took := time.Since(start)
		a.Metrics.request(c.Request().Method, c.Path(), status, took)
		a.Log.Info("request", "id", c.Response().Header().Get(echo.HeaderXRequestID), "method", c.Request().Method, "path", logged(c), "status", status, "ms", took.Milliseconds(), "who", who(c).Name)
		return nil
	}
}

// logged is a request's path as the log tells it: codes that open a document are left out.
func logged(c *echo.Context) string {
	if p := c.Path(); p == "/s/:code" || p == "/verify/:code" {
		return p
	}
	return c.Request().URL.Path
}

// Problem is an error as the API tells it (RFC 9457).
type Problem struct {
	Type   string `json:"type"`   // about:blank: the status tells the kind
	Title  string `json:"title"`  // the status in words
	Status int    `json:"status"` // of the answer
	Detail string `json:"detail"` // what is wrong, where, and what to do
}

func (a *API) problem(c *echo.Context, err error) {
	if res, _ := echo.UnwrapResponse(c.Response()); res != nil && res.Committed {
		return
	}
	status, detail := http.StatusInternalServerError, "something went wrong in the service; its log tells more under the request's X-Request-Id"
	var known interface{ StatusCode() int }
	var refusal *store.Refusal
	var unsorted *store.Unsorted
	var ended *press.Ended
	switch {
	case errors.Is(err, press.ErrClosed):
		status, detail = http.StatusServiceUnavailable, "the service is ending; ask again in a moment"
	case noRoom(err):
		status, detail = http.StatusInsufficientStorage, fmt.Sprintf("the service cannot keep anything at present: %v; make room, and ask again", err)
	case errors.As(err, &ended):
		status, detail = http.StatusUnprocessableEntity, err.Error()
	case errors.As(err, &unsorted):
		status, detail = http.StatusBadRequest, unsorted.Error()
	case errors.Is(err, store.ErrNotFound):
		status, detail = http.StatusNotFound, "there is no such thing here"
		if text := err.Error(); text != store.ErrNotFound.Error() {
			detail = strings.Replace(text, store.ErrNotFound.Error(), "there is none", 1)
		}
	case errors.Is(err, store.ErrChanged):
		status, detail = http.StatusPreconditionFailed, err.Error()
	case store.Twice(err):
		detail = "the document's number belongs to another one already; whoever runs the service should verify the ledger"
		a.Log.Error("a number was given twice", "error", err)
	case errors.Is(err, store.ErrTaken):
		status, detail = http.StatusConflict, "there is one with this name already"
	case errors.As(err, &refusal):
		status, detail = http.StatusConflict, refusal.Reason
	case errors.As(err, &known):
		status = known.StatusCode()
		detail = err.Error()
		var he *echo.HTTPError
		if errors.As(err, &he) {
			detail = he.Message
		}
		if status == http.StatusRequestEntityTooLarge {
			detail = fmt.Sprintf("the request is too large: at most %d MiB are taken as a file, %d MiB as JSON or a form, and %d KiB before log-in", MaxBody>>20, maxJSON>>20, maxUnknownBody>>10)
		}
	default:
		a.Log.Error("request failed", "id", c.Response().Header().Get(echo.HeaderXRequestID), "path", c.Request().URL.Path, "error", err)
	}
	if err := c.Blob(status, "application/problem+json", problemJSON(status, detail)); err != nil {
		a.Log.Error("the answer could not be written", "error", err)
	}
}

// noRoom tells whether an error is that of a disk that is full or must not be written to.
func noRoom(err error) bool {
	const diskFull, tableFull, cannotWrite = 1021, 1114, 1026
	var my *mysql.MySQLError
	if errors.As(err, &my) {
		return my.Number == diskFull || my.Number == tableFull || my.Number == cannotWrite
	}
	return errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EROFS) || errors.Is(err, syscall.EDQUOT)
}

func problemJSON(status int, detail string) []byte {
	return mustJSON(Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: detail})
}

func bad(format string, args ...any) error {
	return echo.NewHTTPError(http.StatusBadRequest, fmt.Sprintf(format, args...))
}

// unprocessable tells what is wrong with an input that was understood. Errors
// that are not about it stay what they are.
func unprocessable(err error) error {
	var refusal *store.Refusal
	var answered *echo.HTTPError
	if errors.Is(err, store.ErrNotFound) || errors.As(err, &refusal) || errors.As(err, &answered) || errors.Is(err, press.ErrClosed) || noRoom(err) {
		return err
	}
	return echo.NewHTTPError(http.StatusUnprocessableEntity, err.Error())
}

func unprocessableText(format string, args ...any) error {
	return echo.NewHTTPError(http.StatusUnprocessableEntity, fmt.Sprintf(format, args...))
}

// List is one page of a list.
type List[T any] struct {
	Items []T   `json:"items"` // as many as were asked for
	Total int64 `json:"total"` // 0 on pages after a row
}

// list answers with one page of a list.
func list[T any](c *echo.Context, get func(store.Page) ([]T, int64, error)) error {
	p, err := pageOf(c)
	if err != nil {
		return err
	}
	items, total, err := get(p)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, List[T]{items, total})
}

// pageOf reads offset, limit, sort and after.
func pageOf(c *echo.Context) (p store.Page, err error) {
	p.Limit, p.Sort = 50, c.QueryParam("sort")
	if p.Offset, err = numberOf(c, "offset", 0); err != nil || p.Offset < 0 {
		return p, bad("offset %q is not a number from 0", c.QueryParam("offset"))
	}
	if p.Limit, err = numberOf(c, "limit", 50); err != nil || p.Limit < 1 || p.Limit > mostListed {
		return p, bad("limit %q is not a number from 1 to %d", c.QueryParam("limit"), mostListed)
	}
	after, err := numberOf(c, "after", 0)
	if err != nil || after < 0 {
		return p, bad("after %q is not the number of a row", c.QueryParam("after"))
	}
	p.After = uint64(after)
	return p, nil
}

// mostListed is how many rows a list gives at once.
const mostListed = 100

func numberOf(c *echo.Context, name string, def int) (int, error) {
	v := c.QueryParam(name)
	if v == "" {
		return def, nil
	}
	n, err := strconv.Atoi(v)
	if err != nil {
		return 0, bad("%s %q is not a number", name, v)
	}
	return n, nil
}

// flag tells whether a parameter is true. That it is true or false was seen before.
func flag(c *echo.Context, name string) bool {
	on, err := strconv.ParseBool(c.QueryParam(name))
	return err == nil && on
}

// read decodes a JSON body; a field that is not known is an error.
func read[T any](c *echo.Context) (in T, err error) {
	dec := json.NewDecoder(c.Request().Body)
	dec.DisallowUnknownFields()
	if err := dec.Decode(&in); err != nil {
		var tooLarge interface{ StatusCode() int }
		if errors.As(err, &tooLarge) {
			return in, err
		}
		if errors.Is(err, io.EOF) {
			return in, bad("the request has no body; JSON is wanted")
		}
		return in, bad("the body is not the JSON that is wanted: %s", wrongJSON(err))
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return in, bad("the body goes on after its JSON")
	}
	return in, nil
}

// wrongJSON says in the words of JSON what is wrong with a body.
func wrongJSON(err error) string {
	var kind *json.UnmarshalTypeError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF):
		return "it ends in the middle"
	case !errors.As(err, &kind):
		return strings.TrimPrefix(err.Error(), "json: ")
	}
	where := "it"
	if kind.Field != "" {
		where = "“" + kind.Field + "”"
	}
	met, _, _ := strings.Cut(kind.Value, " ")
	return fmt.Sprintf("%s is %s, where %s is wanted", where, map[string]string{"string": "text", "array": "a list", "object": "an object", "bool": "true or false", "number": "the " + kind.Value}[met], kindOf(kind.Type))
}

// kindOf names the kind of a value.
func kindOf(t reflect.Type) string {
	switch t.Kind() {
	case reflect.Struct, reflect.Map:
		return "an object"
	case reflect.Slice, reflect.Array:
		return "a list"
	case reflect.String:
		return "text"
	case reflect.Bool:
		return "true or false"
	case reflect.Float32, reflect.Float64:
		return "a number"
	case reflect.Pointer:
		return kindOf(t.Elem())
	}
	return "a whole number"
}

func idParam(c *echo.Context, name string) (uint64, error) {
	v, err := strconv.ParseUint(c.Param(name), 10, 63)
	if err != nil {
		return 0, bad("%q is not a number", c.Param(name))
	}
	return v, nil
}

// find gets the thing whose number the path names.
func find[T any](c *echo.Context, get func(uint64) (T, error)) (x T, err error) {
	id, err := idParam(c, "id")
	if err != nil {
		return x, err
	}
	return get(id)
}

// revision is the one that an edit was made from, of If-Match; 0 when the edit
// does not say.
func revision(c *echo.Context) (int, error) {
	v := c.Request().Header.Get("If-Match")
	if v == "" || v == "*" {
		return 0, nil
	}
	n, err := strconv.Atoi(strings.Trim(strings.TrimPrefix(v, "W/"), `"`))
	if err != nil || n < 1 {
		return 0, echo.NewHTTPError(http.StatusPreconditionFailed, fmt.Sprintf("If-Match %s is no ETag of this service", v))
	}
	return n, nil
}

// edit reads what an edit is of: the thing's number, the revision that it was
// made from, and the change.
func edit[T any](c *echo.Context) (id uint64, rev int, in T, err error) {
	if id, err = idParam(c, "id"); err != nil {
		return id, rev, in, err
	}
	if rev, err = revision(c); err != nil {
		return id, rev, in, err
	}
	in, err = read[T](c)
	return id, rev, in, err
}

// answer sends a thing that can be edited, with its revision as the ETag.
func answer(c *echo.Context, status, revision int, v any) error {
	c.Response().Header().Set("ETag", `"`+strconv.Itoa(revision)+`"`)
	return c.JSON(status, v)
}

// event tells what a request does.
func event(action, kind string, ref any, format string, args ...any) store.Event {
	return store.Event{Action: action, Kind: kind, Ref: fmt.Sprint(ref), Detail: fmt.Sprintf(format, args...)}
}

// by adds who made a request, and which.
func by(c *echo.Context, e store.Event) store.Event {
	e.Who, e.Request = who(c).Email, c.Response().Header().Get(echo.HeaderXRequestID)
	return e
}

// act does what a request asks, and keeps the event that tells of it: no act without its row.
func (a *API) act(c *echo.Context, do func(*store.Store) (store.Event, error)) error {
	return a.Store.Act(func(st *store.Store) (store.Event, error) {
		e, err := do(st)
		return by(c, e), err
	})
}
