package api

import (
	"bytes"
	"compress/gzip"
	"io"
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

func TestConsoleFiles(t *testing.T) {
	const script = "export const harbour = 'Quay & Lantern'"
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	_, err := w.Write([]byte(script))
	require.NoError(t, err)
	require.NoError(t, w.Close())
	a := &API{Console: fstest.MapFS{
		"index.html":          {Data: []byte("<title>Olive Ledger</title>")},
		"assets/page.js.gz":   {Data: packed.Bytes()},
		"assets/broken.js.gz": {Data: []byte("not gzip")},
		"harbour.png":         {Data: []byte("a picture")},
	}}
	for _, c := range []struct {
		name, path, accepts string
		body, kind          string
		packed, kept        bool
	}{
		{"packed for who takes it", "/assets/page.js", "deflate, gzip", packed.String(), "text/javascript; charset=utf-8", true, true},
		{"with a weight", "/assets/page.js", "br;q=1, GZIP;q=0.5", packed.String(), "text/javascript; charset=utf-8", true, true},
		{"plain for who refuses it", "/assets/page.js", "gzip;q=0", script, "text/javascript; charset=utf-8", false, true},
		{"plain for who names nothing", "/assets/page.js", "", script, "text/javascript; charset=utf-8", false, true},
		{"another coding alone", "/assets/page.js", "br", script, "text/javascript; charset=utf-8", false, true},
		{"what is not packed", "/harbour.png", "gzip", "a picture", "image/png", false, false},
		{"a view of the console", "/documents/4", "gzip", "<title>Olive Ledger</title>", "text/html; charset=UTF-8", false, false},
		{"the start", "/", "gzip", "<title>Olive Ledger</title>", "text/html; charset=UTF-8", false, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			res, err := askConsole(a, c.path, c.accepts)
			require.NoError(t, err)
			assert.Equal(t, http.StatusOK, res.Code)
			assert.Equal(t, c.body, res.Body.String())
			assert.Equal(t, c.kind, res.Header().Get("Content-Type"))
			assert.Equal(t, c.packed, res.Header().Get("Content-Encoding") == "gzip")
			assert.Equal(t, c.kept, res.Header().Get("Cache-Control") == "public, max-age=31536000, immutable")
		})
	}
	_, err = askConsole(a, "/assets/gone.js", "gzip")
	require.ErrorIs(t, err, store.ErrNotFound, "an asset of another build")
	_, err = askConsole(a, "/assets/broken.js", "")
	require.ErrorIs(t, err, io.ErrUnexpectedEOF)
	_, err = askConsole(&API{Console: fstest.MapFS{}}, "/", "")
	require.ErrorContains(t, err, "run make build")
}

// askConsole asks for a file of the console.
func askConsole(a *API, path, accepts string) (*httptest.ResponseRecorder, error) {
	req := httptest.NewRequest(http.MethodGet, path, nil)
	req.Header.Set("Accept-Encoding", accepts)
	res := httptest.NewRecorder()
	return res, a.console(echo.New().NewContext(req, res))
}
