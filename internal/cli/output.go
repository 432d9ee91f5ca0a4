package cli

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// standardOutput is the name, in options, of what is no file.
const standardOutput = "-"

// output is where a command writes what it was asked for, and tells of it.
type output struct{ out, errs io.Writer }

// write writes a file, in a folder that is made for it, or to standard output. It gives where to tell of it: not among
// the bytes.
func (o output) write(name string, write func(io.Writer) error) (tell io.Writer, err error) {
	if name == standardOutput {
		return o.errs, write(o.out)
	}
	if err := makeFolderOf(name); err != nil {
		return nil, err
	}
	return o.out, writeWhole(name, write)
}

// makeFolder makes the folder that documents go to.
func makeFolder(dir string) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return usage("the folder %s cannot be made: %v", dir, errors.Unwrap(err))
	}
	return nil
}

// makeFolderOf makes the folder that a file goes to, and refuses a name that is a folder's before there is work to lose.
func makeFolderOf(file string) error {
	if st, err := os.Stat(file); err == nil && st.IsDir() || os.IsPathSeparator(file[len(file)-1]) {
		return usage("%s is a folder; name the file in it, such as %s", file, filepath.Join(file, "document.pdf"))
	}
	return makeFolder(filepath.Dir(file))
}

// writeWhole writes a file that appears under its name only when it is whole.
func writeWhole(out string, write func(io.Writer) error) error {
	return writeFile(out, 0o644, write)
}

// writeFile is writeWhole for a file that not everyone may read.
func writeFile(out string, mode os.FileMode, write func(io.Writer) error) error {
	tmp, err := os.CreateTemp(filepath.Dir(out), ".olive-*.pdf")
	if err != nil {
		return fmt.Errorf("the folder of %s cannot be written to: %w", out, err)
	}
	defer os.Remove(tmp.Name())
	if err = write(tmp); err == nil {
		err = tmp.Chmod(mode)
	}
	if e := tmp.Close(); err == nil {
		err = e
	}
	if err != nil {
		return err
	}
	return os.Rename(tmp.Name(), out)
}

// writeBytes writes a file whole or not at all.
func writeBytes(name string, data []byte) error { return writeWhole(name, writing(data)) }

// writing writes bytes that are there.
func writing(data []byte) func(io.Writer) error {
	return func(w io.Writer) error {
		_, err := w.Write(data)
		return err
	}
}
