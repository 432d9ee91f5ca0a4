package typeset

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"syscall"
	"time"
)

// Web loads from hosts that are allowed by name, and what is no address of the
// web from another loader. Connections to private addresses are refused, also
// when a name leads there, unless the name is among Private.
type Web struct {
	Hosts   []string // host names, with a port where it is not the usual one
	Private []string // those of them that may lie in a private network
	Local   Loader   // for all other addresses; nil: they cannot be had
	Limit   int64    // bytes of one file; 0 stands for 64 MiB
}

// webTimeout bounds one request.
const webTimeout = 20 * time.Second

// Load fetches one file.
func (w *Web) Load(ctx context.Context, address string) ([]byte, error) {
	u, err := url.Parse(address)
	if err != nil {
		return nil, errors.New("the address does not parse")
	}
	if u.Scheme == "" && u.Host == "" {
		if w.Local == nil {
			return nil, errors.New("no files can be loaded here")
		}
		return w.Local.Load(ctx, address)
	}
	if err := w.allowed(u); err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, webTimeout)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, u.String(), nil)
	if err != nil {
		return nil, errors.New("the address does not parse")
	}
	req.Header.Set("User-Agent", "olive")
	res, err := w.client(u).Do(req)
	if err != nil {
		var refused *refusal
		if errors.As(err, &refused) {
			return nil, refused
		}
		return nil, fmt.Errorf("%s does not answer", u.Host)
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("%s answered %s", u.Host, res.Status)
	}
	limit := w.Limit
	if limit == 0 {
		limit = 64 << 20
	}
	data, err := io.ReadAll(io.LimitReader(res.Body, limit+1))
	if err != nil {
		return nil, fmt.Errorf("%s stopped in the middle of its answer", u.Host)
	}
	if int64(len(data)) > limit {
		return nil, fmt.Errorf("it is larger than %d bytes", limit)
	}
	return data, nil
}

// refusal is an address that is not allowed.
type refusal struct{ what string }

func (r *refusal) Error() string { return r.what }

func (w *Web) allowed(u *url.URL) error {
	switch {
	case u.Scheme != "http" && u.Scheme != "https":
		return &refusal{fmt.Sprintf("addresses that begin with %s: are not loaded", u.Scheme)}
	case u.User != nil:
		return &refusal{"addresses with a name and password are not loaded"}
	case !contains(w.Hosts, u):
		return &refusal{fmt.Sprintf("the host %s is not allowed", u.Host)}
	}
	return nil
}

func contains(hosts []string, u *url.URL) bool {
	return slices.ContainsFunc(hosts, func(h string) bool {
		return strings.EqualFold(h, u.Host) || u.Port() == "" && strings.EqualFold(h, u.Hostname())
	})
}

// client makes a client whose connections and redirects keep to what is
// allowed. The address is checked when it is dialled, after names are resolved,
// so that no name can lead elsewhere meanwhile.
func (w *Web) client(u *url.URL) *http.Client {
	private := contains(w.Private, u)
	dialer := &net.Dialer{Timeout: 10 * time.Second, Control: func(_, address string, _ syscall.RawConn) error {
		at, err := netip.ParseAddrPort(address)
		if err != nil {
			return &refusal{"the host has no address that can be used"}
		}
		if ip := at.Addr().Unmap(); !private && (!ip.IsGlobalUnicast() || ip.IsPrivate() || sharedSpace.Contains(ip)) {
			return &refusal{fmt.Sprintf("the host %s lies in a private network, which is not allowed", u.Host)}
		}
		return nil
	}}
	return &http.Client{
		Transport: &http.Transport{DialContext: dialer.DialContext, TLSHandshakeTimeout: 10 * time.Second, DisableKeepAlives: true, ForceAttemptHTTP2: true},
		CheckRedirect: func(req *http.Request, via []*http.Request) error {
			if len(via) > 5 {
				return &refusal{"the address leads on and on to others"}
			}
			if err := w.allowed(req.URL); err != nil {
				return err
			}
			if private && !contains(w.Private, req.URL) {
				return &refusal{fmt.Sprintf("the host %s is not allowed to lie in a private network", req.URL.Host)}
			}
			return nil
		},
	}
}

// sharedSpace is used inside providers' networks (RFC 6598).
var sharedSpace = netip.MustParsePrefix("100.64.0.0/10")
