package sweep_test

import (
	"context"
	"errors"
	"io/fs"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
	"oliveledger/internal/service/sweep"
	"oliveledger/internal/standin"
)

// aged are places for bytes, with a way to make all that is there older.
func aged(t *testing.T) map[string]struct {
	blobs blob.Store
	root  string
} {
	t.Helper()
	files, objects := t.TempDir(), t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(objects, "harbour"), 0o755))
	server := httptest.NewServer(&standin.Bucket{Folder: objects, Slow: 4})
	t.Cleanup(server.Close)
	folder, err := blob.Open(files)
	require.NoError(t, err)
	bucket, err := blob.OpenBucket(context.Background(), strings.Replace(server.URL, "http://", "s3+http://k:s@", 1)+"/harbour/documents")
	require.NoError(t, err)
	return map[string]struct {
		blobs blob.Store
		root  string
	}{"files": {folder, files}, "a bucket that is told to slow down at times": {bucket, objects}}
}

func age(t *testing.T, root string, by time.Duration) {
	t.Helper()
	at := time.Now().Add(-by)
	require.NoError(t, filepath.WalkDir(root, func(path string, e fs.DirEntry, err error) error {
		if err == nil && !e.IsDir() {
			err = os.Chtimes(path, at, at)
		}
		return err
	}))
}

// TestSweep removes what nothing names, and never what something does, or what is new.
func TestSweep(t *testing.T) {
	base, err := service.OpenBase(context.Background(), service.Config{Data: t.TempDir()})
	require.NoError(t, err)
	defer base.Close()
	ctx := context.Background()
	for name, place := range aged(t) {
		t.Run(name, func(t *testing.T) {
			put := func(text string) string {
				sum, err := place.blobs.Put(ctx, []byte(text))
				require.NoError(t, err)
				return sum
			}
			named, forgotten := put("a document of "+name), put("forgotten")
			d := &store.Document{Name: "a.pdf", State: store.Issued, SHA256: named, RecordSHA256: store.SumOf("")}
			require.NoError(t, base.Store.Add(d, nil))
			age(t, place.root, 48*time.Hour)
			fresh := put("new")
			f, err := sweep.Run(ctx, base.Store, place.blobs, 24*time.Hour, false)
			require.NoError(t, err)
			assert.Equal(t, sweep.Found{Kept: 3, Forgotten: 1, Bytes: 9}, f)
			_, err = place.blobs.Get(ctx, forgotten)
			require.NoError(t, err, "only looked")

			removed, err := place.blobs.Remove(ctx, named, time.Now().Add(-72*time.Hour))
			require.NoError(t, err)
			assert.False(t, removed, "it was put since then")
			f, err = sweep.Run(ctx, base.Store, place.blobs, 24*time.Hour, true)
			require.NoError(t, err)
			assert.Equal(t, 1, f.Removed)
			_, err = place.blobs.Get(ctx, forgotten)
			assert.ErrorIs(t, err, fs.ErrNotExist)
			for _, sum := range []string{named, fresh} {
				_, err = place.blobs.Get(ctx, sum)
				assert.NoError(t, err)
			}
			age(t, place.root, 48*time.Hour)
			put("new")
			f, err = sweep.Run(ctx, base.Store, place.blobs, 24*time.Hour, true)
			require.NoError(t, err)
			assert.Zero(t, f.Removed, "what is put again is new")
		})
	}
	_, err = sweep.Run(ctx, base.Store, base.Blobs, time.Minute, true)
	assert.ErrorContains(t, err, "being made")
}

// TestPutWhileSwept puts the same bytes again and again while they are removed: what was put last is there.
func TestPutWhileSwept(t *testing.T) {
	folder, err := blob.Open(t.TempDir())
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	var sweeper sync.WaitGroup
	data := []byte("wanted again")
	sum := blob.Sum(data)
	sweeper.Go(func() {
		for ctx.Err() == nil {
			_, err := folder.Remove(ctx, sum, time.Now().Add(-time.Hour))
			if !errors.Is(err, fs.ErrNotExist) {
				assert.NoError(t, err)
			}
		}
	})
	for range 300 {
		_, err := folder.Put(ctx, data)
		require.NoError(t, err)
	}
	stop()
	sweeper.Wait()
	_, err = folder.Get(context.Background(), sum)
	assert.NoError(t, err)
}

// TestTidy removes files that were left unfinished.
func TestTidy(t *testing.T) {
	dir := t.TempDir()
	folder, err := blob.Open(dir)
	require.NoError(t, err)
	sum, err := folder.Put(context.Background(), []byte("whole"))
	require.NoError(t, err)
	half := filepath.Join(dir, sum[:2], ".new-123")
	require.NoError(t, os.WriteFile(half, []byte("ha"), 0o600))
	n, err := folder.Tidy(time.Now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Zero(t, n, "it may be being written")
	n, err = folder.Tidy(time.Now().Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	_, err = folder.Get(context.Background(), sum)
	assert.NoError(t, err)
}
