package blob

import (
	"context"
	"errors"
	"os"
	"path/filepath"
)

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
	if _, err := os.Stat(path); err == nil {
		return sum, nil
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return "", err
	}
	tmp, err := os.CreateTemp(filepath.Dir(path), ".new-*")
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
