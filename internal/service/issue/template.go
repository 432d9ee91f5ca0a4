package issue

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"maps"
	"slices"

	"oliveledger/internal/service/store"
)

// Files are the contents of a template folder by path.
type Files map[string][]byte

// FilesOf are the files of a version.
func FilesOf(v store.Version) Files {
	f := Files{}
	for _, x := range v.Files {
		f[x.Path] = x.Content
	}
	return f
}

// Template is a template's files, as they are in a version or were posted. Whether they
// make a template is found out where they are used (Maker.About).
type Template struct {
	Name    string
	Version int // 0 when they were posted
	Files   Files
	Key     string // stands for name and contents
}

// Of is the template that files make.
func Of(name string, files Files) *Template {
	h := sha256.New()
	fmt.Fprintf(h, "%q\n", name)
	for _, p := range slices.Sorted(maps.Keys(files)) {
		fmt.Fprintf(h, "%q %d\n", p, len(files[p]))
		h.Write(files[p])
	}
	return &Template{Name: name, Files: files, Key: hex.EncodeToString(h.Sum(nil))}
}

// Open finds a version of a template; 0 is the newest. Versions do not change,
// so that what is read is kept.
func (m *Maker) Open(name string, version int) (*Template, error) {
	if version == 0 {
		t, err := m.template(name)
		if err != nil {
			return nil, err
		}
		version = t.Latest
	}
	key := fmt.Sprint(name, "/", version)
	if found, ok := m.opened.Get(key); ok {
		return found, nil
	}
	found, err := m.read(name, version)
	if err == nil {
		m.opened.Add(key, found)
	}
	return found, err
}

func (m *Maker) template(name string) (store.Template, error) {
	t, err := m.Store.Template(name)
	if err != nil {
		err = fmt.Errorf("template %q: %w", name, err)
	}
	return t, err
}

// read gets a version from the database.
func (m *Maker) read(name string, version int) (*Template, error) {
	t, err := m.template(name)
	if err != nil {
		return nil, err
	}
	v, err := m.Store.Version(t, version)
	if err != nil {
		return nil, fmt.Errorf("template %q, version %d: %w", name, version, err)
	}
	found := Of(name, FilesOf(v))
	found.Version = v.Number
	return found, nil
}
