package packed

import (
	"bytes"
	"io/fs"
	"testing"
	"testing/fstest"

	"github.com/klauspost/compress/zstd"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestRead(t *testing.T) {
	w, err := zstd.NewWriter(nil)
	require.NoError(t, err)
	large := bytes.Repeat([]byte("mooring "), maxSize/8+1)
	files := fstest.MapFS{
		"a/plain.txt.zst":   {Data: w.EncodeAll([]byte("Quay & Lantern"), nil)},
		"a/empty.txt.zst":   {Data: w.EncodeAll(nil, nil)},
		"a/damaged.txt.zst": {Data: []byte("no such form")},
		"a/large.txt.zst":   {Data: w.EncodeAll(large, nil)},
		"a/bare.txt":        {Data: []byte("not packed")},
	}
	data, err := Read(files, "a/plain.txt")
	require.NoError(t, err)
	assert.Equal(t, "Quay & Lantern", string(data))
	data, err = Read(files, "a/empty.txt")
	require.NoError(t, err)
	assert.Empty(t, data)
	_, err = Read(files, "a/bare.txt")
	require.ErrorIs(t, err, fs.ErrNotExist, "only packed files are read")
	_, err = Read(files, "a/damaged.txt")
	require.ErrorContains(t, err, "unpacking a/damaged.txt")
	require.ErrorIs(t, err, zstd.ErrMagicMismatch)
	_, err = Read(files, "a/large.txt")
	require.ErrorIs(t, err, zstd.ErrDecoderSizeExceeded)
}
