// Package inbox makes documents of the record files that are laid into a folder. Each folder in it has the name of a
// template; a file in one becomes a record set and a batch, and comes back with its documents, in “done”, or with what
// is wrong, in “failed”. It asks the service's API as any program does.
package inbox

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"

	"github.com/gofrs/flock"

	"oliveledger/client"
)

// Inbox watches a folder.
type Inbox struct {
	Folder string
	Client *client.Client // that may read, import records and make documents
	Log    *slog.Logger

	seen  map[string]look // files that may still be written to
	jobs  sync.WaitGroup
	mu    sync.Mutex
	hands map[string]time.Time // jobs that are worked on, by their folder, or until when they wait for another try
}

// look is how a file was when it was seen, and since when it is like that.
type look struct {
	size     int64
	modified time.Time
	since    time.Time
}

const (
	pause = time.Second      // between two looks at the folder: shares of the network tell of no changes
	still = 2 * time.Second  // that a file must not change before it is taken
	later = 10 * time.Second // until something that may pass is tried again
	most  = 8                // files that are worked on at once
)

// The folders beside the files of a template.
const (
	working = "working"
	done    = "done"
	failed  = "failed"
)

// Open begins to watch a folder that nobody else watches. The folder is made when it is not there.
func Open(folder string, c *client.Client, log *slog.Logger) (x *Inbox, unlock func(), err error) {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, nil, fmt.Errorf("the folder that is to be watched cannot be made: %w", err)
	}
	lock := flock.New(filepath.Join(folder, ".lock"), flock.SetPermissions(0o600))
	ours, err := lock.TryLock()
	if err != nil {
		return nil, nil, fmt.Errorf("the folder %s, which is to be watched, cannot be written to: %w", folder, err)
	}
	if !ours {
		return nil, nil, fmt.Errorf("the folder %s is watched by another service; each needs a folder of its own", folder)
	}
	return &Inbox{Folder: folder, Client: c, Log: log, seen: map[string]look{}, hands: map[string]time.Time{}}, func() { _ = lock.Close() }, nil
}

// Run works until ctx ends. What was under way when a service ended goes on first.
func (x *Inbox) Run(ctx context.Context) {
	defer x.jobs.Wait()
	for ctx.Err() == nil {
		x.fresh(time.Now())
		for _, j := range x.begun() {
			x.begin(ctx, j)
		}
		select {
		case <-ctx.Done():
		case <-time.After(pause):
		}
	}
}

// begin works on a job beside others, unless it is worked on already, has to wait, or too many are.
func (x *Inbox) begin(ctx context.Context, j job) {
	x.mu.Lock()
	defer x.mu.Unlock()
	if until, known := x.hands[j.at]; known && (until.IsZero() || time.Now().Before(until)) || x.busy() >= most {
		return
	}
	x.hands[j.at] = time.Time{}
	x.jobs.Go(func() {
		again := x.do(ctx, j)
		x.mu.Lock()
		defer x.mu.Unlock()
		if delete(x.hands, j.at); again {
			x.hands[j.at] = time.Now().Add(later)
		}
	})
}

// busy counts the jobs that are worked on.
func (x *Inbox) busy() (n int) {
	for _, until := range x.hands {
		if until.IsZero() {
			n++
		}
	}
	return n
}

// begun lists the jobs that are under way.
func (x *Inbox) begun() (list []job) {
	for _, template := range folders(x.Folder) {
		at := filepath.Join(x.Folder, template, working)
		for _, name := range folders(at) {
			list = append(list, job{template: template, folder: filepath.Join(x.Folder, template), at: filepath.Join(at, name)})
		}
	}
	return list
}

// fresh takes the files that are complete.
func (x *Inbox) fresh(now time.Time) {
	there := map[string]look{}
	for _, template := range folders(x.Folder) {
		dir := filepath.Join(x.Folder, template)
		for _, e := range entries(dir) {
			if !e.Type().IsRegular() || !offered(e.Name()) {
				continue
			}
			info, err := e.Info()
			if err != nil { // it is gone by now
				continue
			}
			path := filepath.Join(dir, e.Name())
			is := look{info.Size(), info.ModTime(), now}
			if was, ok := x.seen[path]; ok && was.size == is.size && was.modified.Equal(is.modified) {
				is.since = was.since
			}
			if now.Sub(is.since) < still {
				there[path] = is
				continue
			}
			if err := take(dir, e.Name(), now); err != nil {
				x.Log.Error("a file in the watched folder cannot be taken", "file", path, "error", err)
				is.since = now
				there[path] = is
			}
		}
	}
	x.seen = there
}

// offered tells whether a file is laid in to become documents: options, hidden files and those that programs still
// write under another name are not.
func offered(name string) bool {
	if name == optionsName || strings.HasPrefix(name, ".") || strings.HasPrefix(name, "~") {
		return false
	}
	switch strings.ToLower(filepath.Ext(name)) {
	case ".part", ".partial", ".tmp", ".crdownload", ".filepart":
		return false
	}
	return true
}

// entries lists a folder in the order of names; nothing when it is not there.
func entries(dir string) []fs.DirEntry {
	list, err := os.ReadDir(dir)
	if err != nil {
		return nil
	}
	return list
}

func folders(dir string) (names []string) {
	for _, e := range entries(dir) {
		if e.IsDir() && !strings.HasPrefix(e.Name(), ".") {
			names = append(names, e.Name())
		}
	}
	return names
}

// place makes a folder of a name that is free: “bills”, “bills (2)” and so on.
func place(dir, name string, make func(path string) error) (string, error) {
	for n := 1; ; n++ {
		path := filepath.Join(dir, name)
		if n > 1 {
			path = filepath.Join(dir, fmt.Sprintf("%s (%d)", name, n))
		}
		if _, err := os.Lstat(path); err == nil {
			continue
		}
		err := make(path)
		if errors.Is(err, fs.ErrExist) {
			continue
		}
		return path, err
	}
}
