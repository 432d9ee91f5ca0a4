// Package blob keeps bytes by their checksum in files.
package blob

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
)

// Folder keeps blobs under a folder.
type Folder struct{ dir string }

// Open makes the folder when it is not there.
func Open(dir string) (*Folder, error) {
	return &Folder{dir}, os.MkdirAll(dir, 0o700)
}

var sumPattern = regexp.MustCompile(`^[0-9a-f]{64}$`)

func (f *Folder) path(sum string) (string, error) {
	if !sumPattern.MatchString(sum) {
		return "", fmt.Errorf("%q is not a checksum", sum)
	}
	return filepath.Join(f.dir, sum[:2], sum), nil
}

// Put stores data, whole or not at all, and returns its SHA-256 in hex.
func (f *Folder) Put(data []byte) (string, error) {
	h := sha256.Sum256(data)
	sum := hex.EncodeToString(h[:])
	path, _ := f.path(sum)
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
	return sum, os.Rename(tmp.Name(), path)
}

// Get returns the bytes of a checksum, and checks them.
func (f *Folder) Get(sum string) ([]byte, error) {
	path, err := f.path(sum)
	if err != nil {
		return nil, err
	}
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	if h := sha256.Sum256(data); hex.EncodeToString(h[:]) != sum {
		return nil, errors.New("the stored bytes have changed: the disk or someone has altered " + path)
	}
	return data, nil
}
