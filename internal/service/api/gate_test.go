package api

import (
	"net/http"
	"net/http/httptest"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
)

// TestHeavyQuestionsWait asks many heavy questions at once: two are answered at a time, and a light one
// does not wait for them.
func TestHeavyQuestionsWait(t *testing.T) {
	a := &API{reading: NewGate(2)}
	var now, most atomic.Int64
	begun, end := make(chan bool, 8), make(chan bool)
	ask := heavy(func(*API, *echo.Context) error {
		n := now.Add(1)
		for old := most.Load(); n > old && !most.CompareAndSwap(old, n); old = most.Load() {
		}
		begun <- true
		<-end
		now.Add(-1)
		return nil
	})
	e := echo.New()
	context := func() *echo.Context {
		return e.NewContext(httptest.NewRequest(http.MethodPost, "/", nil), httptest.NewRecorder())
	}
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() { assert.NoError(t, ask(a, context())) })
	}
	<-begun
	<-begun
	light := func(*API, *echo.Context) error { return nil }
	assert.NoError(t, light(a, context()))
	assert.EqualValues(t, 2, now.Load(), "the others wait")
	close(end)
	all.Wait()
	assert.EqualValues(t, 2, most.Load())
}
