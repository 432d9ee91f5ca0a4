// Package press does what hostile input could harm in processes of its own: merging,
// setting, and the reading of templates, fonts and records. A child is the same program, started
// with hard limits of the system on its memory and processor time and with no way to files, the
// network or other programs. It stays for the next piece of work; one that dies costs the
// piece it was at, with an error that names the cause.
package press

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Config bounds a pool.
type Config struct {
	Size   int           // children that work at once
	Memory int64         // bytes that each may hold
	Time   time.Duration // that a piece of work may take
	Log    *slog.Logger
}

// Pool hands work to children. It may be used from many goroutines.
type Pool struct {
	Config
	places chan struct{} // one for each child that works
	folder string        // that children work in; nothing is in it

	mu   sync.Mutex
	idle []*process // the last is the one that worked last

	open  context.Context // ends with the pool
	close context.CancelFunc
}

// Ended is a piece of work that ended because its process did.
type Ended struct{ reason string }

func (e *Ended) Error() string { return e.reason }

func late(limit time.Duration) error {
	return &Ended{fmt.Sprintf("the work on it took longer than the %v that a document may take", limit)}
}

// New makes a pool. Children start when they are needed first.
func New(c Config) (*Pool, error) {
	clearFolders()
	folder, err := os.MkdirTemp("", fmt.Sprintf("%s%d-", folders, os.Getpid()))
	if err != nil {
		return nil, fmt.Errorf("there is no room for an empty folder: %w", err)
	}
	p := &Pool{Config: c, places: make(chan struct{}, c.Size), folder: folder}
	p.open, p.close = context.WithCancel(context.Background())
	return p, nil
}

// folders are named after the process that works in them.
const folders = "olive-press-"

// clearFolders removes the folders of processes that were killed.
func clearFolders() {
	list, err := filepath.Glob(filepath.Join(os.TempDir(), folders+"*"))
	if err != nil {
		return
	}
	for _, dir := range list {
		pid, _, _ := strings.Cut(strings.TrimPrefix(filepath.Base(dir), folders), "-")
		n, err := strconv.Atoi(pid)
		if err != nil {
			continue
		}
		if _, err := os.Stat(fmt.Sprint("/proc/", n)); errors.Is(err, os.ErrNotExist) {
			_ = os.Remove(dir) // nothing is in it; another process may have been quicker
		}
	}
}

// ErrClosed ends work whose pool is closed: it can be done elsewhere, or later.
var ErrClosed = errors.New("the service is ending")

// Close ends the children, also those at work.
func (p *Pool) Close() {
	p.close()
	p.mu.Lock()
	list := p.idle
	p.idle = nil
	p.mu.Unlock()
	for _, c := range list {
		c.end()
	}
	os.RemoveAll(p.folder)
}

func (p *Pool) orders() orders { return orders{p.Memory, p.Time} }

// take gives a child that is free, or a new one.
func (p *Pool) take(ctx context.Context) (*process, error) {
	select {
	case p.places <- struct{}{}:
	case <-ctx.Done():
		return nil, context.Cause(ctx)
	}
	p.mu.Lock()
	var c *process
	if n := len(p.idle); n > 0 {
		c, p.idle = p.idle[n-1], p.idle[:n-1]
	}
	p.mu.Unlock()
	if c != nil {
		return c, nil
	}
	err := ErrClosed
	if p.open.Err() == nil {
		if c, err = start(p.orders(), p.folder); err == nil {
			return c, nil
		}
	}
	<-p.places
	return nil, err
}

// swollen is what a child may hold after its work to be kept for the next, in bytes.
const swollen = 160 << 20

// give takes a child back after its work, or ends it.
func (p *Pool) give(c *process) {
	fit := !c.spent && resident(c.cmd.Process.Pid) < swollen
	p.mu.Lock()
	keep := fit && p.open.Err() == nil
	if keep {
		p.idle = append(p.idle, c)
	}
	p.mu.Unlock()
	if !keep {
		c.end()
	}
	<-p.places
}

// do has a child work.
func (p *Pool) do(ctx context.Context, work func(*process) error) error {
	ctx, cancel := context.WithCancelCause(ctx)
	defer cancel(nil)
	defer context.AfterFunc(p.open, func() { cancel(ErrClosed) })()
	c, err := p.take(ctx)
	if err != nil {
		return err
	}
	defer p.give(c)
	err = work(c)
	var ended *Ended
	if errors.As(err, &ended) {
		p.Log.Warn("a process for documents has ended", "reason", ended.reason, "said", c.says.String())
	}
	return err
}

// Supply gives the goods that a key stands for.
type Supply func(ctx context.Context, key string) (Goods, error)

// ask has work done, and brings what the child lacks for it.
func ask[Out any, P interface {
	*Out
	lacks() []string
}](ctx context.Context, p *Pool, supply Supply, method string, in any) (*Out, error) {
	var out *Out
	err := p.do(ctx, func(c *process) error {
		for given := false; ; given = true {
			out = new(Out)
			if err := c.call(ctx, method, in, out); err != nil {
				return err
			}
			missing := P(out).lacks()
			if len(missing) == 0 {
				return nil
			}
			if given { // to bring it again would go on for ever
				return fmt.Errorf("the process for documents has lost %d of the fonts and templates that it was given", len(missing))
			}
			for _, key := range missing {
				g, err := supply(ctx, key)
				if err != nil {
					return err
				}
				if err := c.call(ctx, "Keep", g, new(struct{})); err != nil {
					return err
				}
			}
		}
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// Set merges and sets a page.
func (p *Pool) Set(ctx context.Context, page Page, supply Supply) (*Pages, error) {
	return ask[Pages](ctx, p, supply, "Set", page)
}

// Fill fills patterns with a record.
func (p *Pool) Fill(ctx context.Context, t Texts, supply Supply) ([]string, error) {
	out, err := ask[Filled](ctx, p, supply, "Fill", t)
	if err != nil {
		return nil, err
	}
	return out.Texts, nil
}

// Check tells for each record what the schema of a template does not allow; empty where nothing is wrong.
func (p *Pool) Check(ctx context.Context, c Checks, supply Supply) ([]string, error) {
	out, err := ask[Faults](ctx, p, supply, "Check", c)
	if err != nil {
		return nil, err
	}
	return out.Faults, nil
}

// About tells of a template, or why its files are none.
func (p *Pool) About(ctx context.Context, key string, supply Supply) (*About, error) {
	return ask[About](ctx, p, supply, "About", key)
}

// Font looks at a font file, and fails when it is none that can be set.
func (p *Pool) Font(ctx context.Context, f FontFile) (out FontFace, err error) {
	err = p.do(ctx, func(c *process) error { return c.call(ctx, "Font", f, &out) })
	return out, err
}
