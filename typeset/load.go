package typeset

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Loader gets what a page refers to: style sheets, pictures, fonts. The
// address is absolute, made from the page's own.
type Loader interface {
	Load(ctx context.Context, address string) ([]byte, error)
}

// Folder loads files from one folder and never from outside of it. Addresses
// are slash paths from the folder.
type Folder struct {
	root  *os.Root
	limit int64

	mu   sync.Mutex
	kept map[string]keptFile
	size int64
}

// keptFile is a file that stays read until it changes.
type keptFile struct {
	was  fs.FileInfo
	data []byte
}

// mostKept bounds what a folder keeps, in bytes.
const mostKept = 64 << 20

// OpenFolder opens a folder for loading. Close it when done.
func OpenFolder(dir string) (*Folder, error) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, err
	}
	return &Folder{root: root, limit: 256 << 20}, nil
}

// Close frees the folder.
func (f *Folder) Close() error { return f.root.Close() }

// Load reads one file.
func (f *Folder) Load(_ context.Context, address string) ([]byte, error) {
	name, err := localPath(address)
	if err != nil {
		return nil, err
	}
	if data := f.known(name); data != nil {
		return data, nil
	}
	st, err := f.root.Stat(name)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, errNoFile
	case err != nil:
		return nil, errors.New("the file cannot be read, or lies outside the folder")
	case st.IsDir():
		return nil, errors.New("it is a folder, not a file")
	}
	file, err := f.root.Open(name)
	if err != nil {
		return nil, errors.New("the file cannot be read, or lies outside the folder")
	}
	defer file.Close()
	var data bytes.Buffer
	data.Grow(int(min(st.Size(), f.limit)) + bytes.MinRead)
	if _, err := data.ReadFrom(io.LimitReader(file, f.limit+1)); err != nil {
		return nil, err
	}
	if int64(data.Len()) > f.limit {
		return nil, fmt.Errorf("it is larger than %d bytes", f.limit)
	}
	f.keep(name, st, data.Bytes())
	return data.Bytes(), nil
}

// known gives a file that was read and has not changed since. It looks at the file by
// its path, which is quicker than from the folder down; what it gives has come from
// within the folder.
func (f *Folder) known(name string) []byte {
	f.mu.Lock()
	k, ok := f.kept[name]
	f.mu.Unlock()
	if !ok {
		return nil
	}
	st, err := os.Stat(filepath.Join(f.root.Name(), filepath.FromSlash(name)))
	if err != nil || !os.SameFile(st, k.was) || !st.ModTime().Equal(k.was.ModTime()) || st.Size() != k.was.Size() {
		return nil
	}
	return k.data
}

func (f *Folder) keep(name string, st fs.FileInfo, data []byte) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.size += int64(len(data) - len(f.kept[name].data))
	if f.size > mostKept || f.kept == nil {
		f.kept, f.size = map[string]keptFile{}, int64(len(data))
	}
	f.kept[name] = keptFile{st, data}
}

// Files loads from a set of files in memory.
type Files map[string][]byte

// Load gives one of the files.
func (f Files) Load(_ context.Context, address string) ([]byte, error) {
	name, err := localPath(address)
	if err != nil {
		return nil, err
	}
	if data, ok := f[name]; ok {
		return data, nil
	}
	return nil, errNoFile
}

var errNoFile = errors.New("there is no such file")

// localPath turns an address into a path within a folder.
func localPath(address string) (string, error) {
	u, err := url.Parse(address)
	if err != nil {
		return "", errors.New("the address does not parse")
	}
	if u.Scheme != "" || u.Host != "" {
		return "", &refusal{fmt.Sprintf("addresses of other hosts are not allowed here (%s://…)", u.Scheme)}
	}
	name := strings.TrimPrefix(path.Clean("/"+u.Path), "/")
	if name == "" {
		return "", errors.New("the address names no file")
	}
	return name, nil
}

// decodeText reads a style sheet's bytes (CSS Syntax 3, §3.2).
func decodeText(data []byte) string {
	switch {
	case bytes.HasPrefix(data, []byte{0xEF, 0xBB, 0xBF}):
		return string(data[3:])
	case bytes.HasPrefix(data, []byte{0xFE, 0xFF}), bytes.HasPrefix(data, []byte{0xFF, 0xFE}):
		if out, err := unicode.UTF16(unicode.BigEndian, unicode.UseBOM).NewDecoder().Bytes(data); err == nil {
			return string(out)
		}
	}
	if utf8.Valid(data) {
		return string(data)
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return string(data)
	}
	return string(out)
}
