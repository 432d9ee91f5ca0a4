// Package hostile holds a running service to its promise: whatever a document, a font, a picture or a
// record holds, it ends only itself.
//
//	make hostile                    half an hour
//	OLIVE_HOSTILE=5m go test ./internal/hostile
package hostile

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const (
	limit   = 5 * time.Second // that a document may take
	clients = 4
	most    = 1 << 30 // bytes that no process of the service may hold
)

// served is a service that is being harmed.
type served struct {
	t        *testing.T
	url, key string
	cmd      *exec.Cmd
	log      string
	gone     chan struct{} // closed when the service has ended
	answers  atomic.Int64
	peak     atomic.Int64 // bytes that one process has held at most
}

func TestHostileInputEndsOnlyItself(t *testing.T) {
	length := 15 * time.Second
	if v := os.Getenv("OLIVE_HOSTILE"); v != "" {
		var err error
		length, err = time.ParseDuration(v)
		require.NoError(t, err)
	}
	seed := rand.Uint64()
	s := serve(t)
	ctx, stop := context.WithTimeout(t.Context(), length)
	defer stop()
	go s.watch(ctx)
	var all sync.WaitGroup
	for i := range clients {
		all.Go(func() {
			m := mutator{rand.New(rand.NewPCG(seed, uint64(i)))}
			for n := 0; ctx.Err() == nil && !t.Failed(); n++ {
				s.harm(m.input(), fmt.Sprintf("seed %d, client %d, input %d", seed, i, n))
			}
		})
	}
	all.Wait()
	s.plain()
	assert.Less(t, s.peak.Load(), int64(most), "bytes that one process has held")
	t.Logf("%d answers in %v; one process held %d MB at most", s.answers.Load(), length, s.peak.Load()>>20)
	assert.Positive(t, s.answers.Load())
}

// serve starts a service.
func serve(t *testing.T) *served {
	dir := t.TempDir()
	olive := filepath.Join(dir, "olive")
	out, err := exec.Command("go", "build", "-o", olive, "oliveledger/cmd/olive").CombinedOutput()
	require.NoError(t, err, string(out))
	free, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	address := free.Addr().String()
	free.Close()
	s := &served{t: t, url: "http://" + address, log: filepath.Join(dir, "log"), gone: make(chan struct{})}
	s.cmd = exec.Command(olive, "serve", "--data", filepath.Join(dir, "data"), "--listen", address, "--max-time", limit.String())
	log, err := os.Create(s.log)
	require.NoError(t, err)
	s.cmd.Stdout, s.cmd.Stderr = log, log
	require.NoError(t, s.cmd.Start())
	go func() { _ = s.cmd.Wait(); close(s.gone) }()
	t.Cleanup(s.end)
	require.Eventually(t, func() bool {
		res, err := http.Get(s.url + "/readyz")
		if err != nil {
			return false
		}
		res.Body.Close()
		return res.StatusCode == http.StatusOK
	}, 2*time.Minute, 50*time.Millisecond)
	raw, err := os.ReadFile(filepath.Join(dir, "data", "first-login.txt"))
	require.NoError(t, err)
	s.key = regexp.MustCompile(`key: (\S+)`).FindStringSubmatch(string(raw))[1]
	return s
}

// end stops the service; when something went wrong it shows how the log ends.
func (s *served) end() {
	_ = s.cmd.Process.Signal(os.Interrupt)
	select {
	case <-s.gone:
	case <-time.After(20 * time.Second):
		s.t.Error("the service does not end")
		_ = s.cmd.Process.Kill()
	}
	if text, err := os.ReadFile(s.log); s.t.Failed() && err == nil {
		s.t.Logf("…%s", text[max(len(text)-4000, 0):])
	}
}

// input is what is sent to the service.
type input struct {
	path, kind string
	body       []byte
}

// harm sends what may do harm; it is kept in a file when the service does not keep its promise.
func (s *served) harm(in input, name string) {
	start := time.Now()
	status, body, err := s.post(in)
	took := time.Since(start)
	fault := ""
	select {
	case <-s.gone:
		fault = "the service has ended"
	default:
		switch {
		case err != nil:
			fault = err.Error()
		case status == http.StatusInternalServerError:
			fault = "answered 500: " + string(body[:min(len(body), 300)])
		case took > 2*limit:
			fault = fmt.Sprintf("took %v", took)
		}
	}
	if s.answers.Add(1); fault == "" {
		return
	}
	kept := filepath.Join(os.TempDir(), "olive-harm")
	if err := os.WriteFile(kept, in.body, 0o644); err != nil {
		kept = err.Error()
	}
	s.t.Errorf("%s: %s (%s, %s: %s)", name, fault, in.path, in.kind, kept)
}

func (s *served) post(in input) (int, []byte, error) {
	q, err := http.NewRequest(http.MethodPost, s.url+"/api/v1"+in.path, bytes.NewReader(in.body))
	if err != nil {
		return 0, nil, err
	}
	q.Header.Set("Authorization", "Bearer "+s.key)
	q.Header.Set("Content-Type", in.kind)
	c := http.Client{Timeout: 6 * limit}
	res, err := c.Do(q)
	if err != nil {
		return 0, nil, err
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	return res.StatusCode, body, err
}

// plain asks for a page that harms nobody.
func (s *served) plain() {
	start := time.Now()
	status, body, err := s.post(input{"/renderings", "application/json", []byte(`{"html":"<p>Quay"}`)})
	require.NoError(s.t, err)
	assert.Equal(s.t, http.StatusOK, status, string(body[:min(len(body), 300)]))
	assert.Less(s.t, time.Since(start), limit)
}

// watch notes how much memory the processes of the service hold.
func (s *served) watch(ctx context.Context) {
	for ctx.Err() == nil {
		for _, pid := range s.processes() {
			raw, err := os.ReadFile(filepath.Join("/proc", pid, "statm"))
			if fields := strings.Fields(string(raw)); err == nil && len(fields) > 1 {
				pages, _ := strconv.ParseInt(fields[1], 10, 64)
				s.peak.Store(max(s.peak.Load(), pages*int64(os.Getpagesize())))
			}
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// processes are the service and its children, but for the database.
func (s *served) processes() []string {
	me := strconv.Itoa(s.cmd.Process.Pid)
	list := []string{me}
	children, err := filepath.Glob("/proc/" + me + "/task/*/children")
	if err != nil {
		return list
	}
	for _, file := range children {
		raw, _ := os.ReadFile(file) // a thread may have ended
		for _, pid := range strings.Fields(string(raw)) {
			if name, _ := os.ReadFile("/proc/" + pid + "/comm"); strings.HasPrefix(string(name), "olive") {
				list = append(list, pid)
			}
		}
	}
	return list
}
