package timestamp

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"time"
)

// mostTold bounds what an authority tells, in bytes: lists of revoked certificates are long.
const mostTold = 32 << 20

// patience is how long an authority may take to answer.
const patience = 20 * time.Second

// Fetch gets what an authority of certificates tells at an address that stands in one: a list of those revoked or a
// certificate where nothing is asked, else its answer to a question about one (OCSP, RFC 6960).
func Fetch(ctx context.Context, address string, question []byte) ([]byte, error) {
	if !onTheWeb(address) {
		return nil, fmt.Errorf("%q, where the authority is to be asked, is not an address of the web", address)
	}
	told, err := ask(ctx, address, "application/ocsp-request", question, mostTold)
	if err != nil {
		return nil, fmt.Errorf("the authority at %s: %w", address, err)
	}
	return told, nil
}

func onTheWeb(address string) bool {
	u, err := url.Parse(address)
	return err == nil && u.Host != "" && (u.Scheme == "http" || u.Scheme == "https")
}

// ask sends a question of a kind to a server, or none, and gives its answer of at most so many bytes.
func ask(ctx context.Context, address, kind string, question []byte, most int64) ([]byte, error) {
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
		req.Header.Set("Content-Type", kind)
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	answer, err := io.ReadAll(io.LimitReader(res.Body, most+1))
	switch {
	case err != nil:
		return nil, err
	case res.StatusCode != http.StatusOK:
		return nil, fmt.Errorf("it answers %s", res.Status)
	case int64(len(answer)) > most:
		return nil, fmt.Errorf("it answers with more than %d MB", most>>20)
	}
	return answer, nil
}
