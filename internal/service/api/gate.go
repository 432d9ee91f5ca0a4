package api

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// Gate lets a number of renderings go on at once. One caller cannot fill the
// queue for all.
type Gate struct {
	places  chan struct{}
	mu      sync.Mutex
	waiting map[string]int
}

// NewGate makes a gate with a number of places.
func NewGate(places int) *Gate {
	return &Gate{places: make(chan struct{}, places), waiting: map[string]int{}}
}

// Places is how many renderings go on at once.
func (g *Gate) Places() int { return cap(g.places) }

const (
	maxWaiting = 64 // of one caller
	maxWait    = 20 * time.Second
)

// enter waits for a place; the caller gives it back. A caller with too many
// requests is turned away (429), as is anyone when it takes too long (503).
func (g *Gate) enter(ctx context.Context, who string) (leave func(), err error) {
	if !g.queue(who, 1) {
		return nil, echo.NewHTTPError(http.StatusTooManyRequests, "you have too many requests waiting; try again in a moment")
	}
	defer g.queue(who, -1)
	timer := time.NewTimer(maxWait)
	defer timer.Stop()
	select {
	case g.places <- struct{}{}:
		return func() { <-g.places }, nil
	case <-timer.C:
		return nil, echo.NewHTTPError(http.StatusServiceUnavailable, "too many requests at once; try again in a moment")
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

func (g *Gate) queue(who string, by int) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	if by > 0 && g.waiting[who] >= maxWaiting {
		return false
	}
	if g.waiting[who] += by; g.waiting[who] == 0 {
		delete(g.waiting, who)
	}
	return true
}

// slot is enter for a request that sets pages.
func (a *API) slot(c *echo.Context) (func(), error) { return pass(c, a.Gate) }

// heavy is enter for a request that reads a great deal.
func heavy(next handler) handler {
	return func(a *API, c *echo.Context) error {
		leave, err := pass(c, a.reading)
		if err != nil {
			return err
		}
		defer leave()
		return next(a, c)
	}
}

func pass(c *echo.Context, g *Gate) (func(), error) {
	leave, err := g.enter(c.Request().Context(), who(c).Email)
	if err != nil {
		c.Response().Header().Set("Retry-After", "2")
	}
	return leave, err
}
