package blob

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// unfinished begins the names of files that are being written.
const unfinished = ".new-"

// Folder keeps blobs in files.
type Folder struct{ dir string }

// Open makes the folder when it is not there.
func Open(dir string) (*Folder, error) {
	return &Folder{dir}, os.MkdirAll(dir, 0o700)
}

func (f *Folder) path(sum string) string { return filepath.Join(f.dir, sum[:2], sum) }

// Put writes a file beside its place and moves it there.
func (f *Folder) Put(_ context.Context, data []byte) (string, error) {
	sum := Sum(data)
	path := f.path(sum)
	if now := time.Now(); os.Chtimes(path, now, now) == nil { // it is there, and wanted again
		return sum, nil
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return "", err
	}
	tmp, err := os.CreateTemp(filepath.Dir(path), unfinished+"*")
	if err != nil {
		return "", err
	}
	defer os.Remove(tmp.Name())
	_, err = tmp.Write(data)
	if err == nil {
		err = tmp.Sync()
	}
	if e := tmp.Close(); err == nil {
		err = e
	}
	if err != nil {
		return "", err
	}
	if err := os.Rename(tmp.Name(), path); err != nil {
		return "", err
	}
	return sum, kept(filepath.Dir(path))
}

// kept waits until the disk has what a folder holds: a file's name is only safe then.
func kept(dir string) error {
	d, err := os.Open(dir)
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}

// Ready tells whether a file can be kept.
func (f *Folder) Ready(context.Context) error {
	tmp, err := os.CreateTemp(f.dir, ".ready-*")
	if err != nil {
		return err
	}
	defer os.Remove(tmp.Name())
	_, err = tmp.Write(make([]byte, 1<<20))
	if err == nil {
		err = tmp.Sync()
	}
	return errors.Join(err, tmp.Close())
}

// Get reads a file.
func (f *Folder) Get(_ context.Context, sum string) ([]byte, error) {
	if err := checkName(sum); err != nil {
		return nil, err
	}
	data, err := os.ReadFile(f.path(sum))
	return checked(sum, data, err)
}

// Each visits the files that blobs are kept in.
func (f *Folder) Each(ctx context.Context, visit func(Kept) error) error {
	return filepath.WalkDir(f.dir, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || checkName(e.Name()) != nil {
			return errors.Join(err, ctx.Err())
		}
		info, err := e.Info()
		if errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		if err != nil {
			return err
		}
		return visit(Kept{e.Name(), info.Size(), info.ModTime()})
	})
}

// Remove moves a file away and removes it there; one that was put again since before comes back.
func (f *Folder) Remove(_ context.Context, sum string, before time.Time) (bool, error) {
	if err := checkName(sum); err != nil {
		return false, err
	}
	away := filepath.Join(filepath.Dir(f.path(sum)), unfinished+sum)
	if err := os.Rename(f.path(sum), away); err != nil {
		if errors.Is(err, fs.ErrNotExist) {
			return false, nil
		}
		return false, err
	}
	st, err := os.Stat(away)
	if err != nil || !st.ModTime().Before(before) {
		return false, errors.Join(err, os.Rename(away, f.path(sum)))
	}
	return true, os.Remove(away)
}

// Tidy removes files that were being written when their process ended, before a time.
func (f *Folder) Tidy(before time.Time) (n int, err error) {
	err = filepath.WalkDir(f.dir, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || !strings.HasPrefix(e.Name(), unfinished) && !strings.HasPrefix(e.Name(), ".ready-") {
			return err
		}
		if info, err := e.Info(); err != nil || !info.ModTime().Before(before) {
			return nil // it is gone, or being written
		}
		n++
		return os.Remove(path)
	})
	return n, err
}
