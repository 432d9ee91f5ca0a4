package timestamp

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"net/url"
)

// mostTold bounds what an authority tells: lists of revoked certificates are long.
const mostTold = 32 << 20

// Fetch gets what an authority of certificates tells at an address that stands in one: a list of those revoked or a
// certificate where nothing is asked, else its answer to a question about one (OCSP, RFC 6960).
func Fetch(ctx context.Context, address string, question []byte) ([]byte, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, fmt.Errorf("%q, where the authority is to be asked, is not an address of the web", address)
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	method := http.MethodGet
	if question != nil {
		method = http.MethodPost
	}
	req, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(question))
	if err != nil {
		return nil, err
	}
	if question != nil {
		req.Header.Set("Content-Type", "application/ocsp-request")
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return nil, fmt.Errorf("the authority does not answer: %w", err)
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("the authority at %s answers %s", address, res.Status)
	}
	told, err := io.ReadAll(io.LimitReader(res.Body, mostTold+1))
	if err == nil && len(told) > mostTold {
		err = fmt.Errorf("what the authority at %s tells is larger than %d MB", address, mostTold>>20)
	}
	return told, err
}
