// Package packed reads files that the binary holds in Zstandard's form (RFC 8878), so that it is not larger than need
// be: “zstd -22 --ultra FILE” packs one, and “zstd -d” gives it back.
package packed

import (
	"fmt"
	"io/fs"
	"sync"

	"github.com/klauspost/compress/zstd"
)

// Suffix is what the name of a packed file ends in.
const Suffix = ".zst"

// maxSize is the most that one file may come to, in bytes.
const maxSize = 16 << 20

var decoder = sync.OnceValues(func() (*zstd.Decoder, error) {
	return zstd.NewReader(nil, zstd.WithDecoderConcurrency(0), zstd.WithDecoderMaxMemory(maxSize))
})

// Read gives the bytes of the file that is called name before it was packed. It may be called by several goroutines at
// once.
func Read(files fs.FS, name string) ([]byte, error) {
	data, err := fs.ReadFile(files, name+Suffix)
	if err != nil {
		return nil, err
	}
	d, err := decoder()
	if err != nil {
		return nil, err
	}
	if data, err = d.DecodeAll(data, nil); err != nil {
		return nil, fmt.Errorf("unpacking %s: %w", name, err)
	}
	return data, nil
}
