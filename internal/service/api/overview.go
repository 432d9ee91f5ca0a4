package api

import (
	"net/http"
	"time"

	"oliveledger/internal/service/clock"

	"github.com/labstack/echo/v5"
)

// lately is how far back an overview looks.
const lately = 31 * 24 * time.Hour

func (a *API) overview(c *echo.Context) error {
	o, err := a.Store.Overview(clock.Now().Add(-lately).Truncate(24 * time.Hour))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, o)
}
