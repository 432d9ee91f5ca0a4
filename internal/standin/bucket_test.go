package standin

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/minio/minio-go/v7"
	"github.com/minio/minio-go/v7/pkg/credentials"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reach gives a client of the S3 protocol to a store that has a bucket.
func reach(t *testing.T, slow int) (*minio.Client, string) {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "harbour"), 0o755))
	server := httptest.NewServer(&Bucket{Folder: dir, Slow: slow})
	t.Cleanup(server.Close)
	c, err := minio.New(strings.TrimPrefix(server.URL, "http://"), &minio.Options{Creds: credentials.NewStaticV4("k", "s", ""), BucketLookup: minio.BucketLookupPath})
	require.NoError(t, err)
	return c, dir
}

func get(t *testing.T, c *minio.Client, key string) []byte {
	t.Helper()
	o, err := c.GetObject(context.Background(), "harbour", key, minio.GetObjectOptions{})
	require.NoError(t, err)
	data, err := io.ReadAll(o)
	require.NoError(t, err)
	return data
}

// TestBucket keeps, lists and removes objects through a client of the protocol, also while the store
// asks it to slow down.
func TestBucket(t *testing.T) {
	for name, slow := range map[string]int{"willing": 0, "busy": 3} {
		t.Run(name, func(t *testing.T) {
			c, dir := reach(t, slow)
			ctx := context.Background()
			put := func(key string, data []byte, o minio.PutObjectOptions) error {
				_, err := c.PutObject(ctx, "harbour", key, bytes.NewReader(data), int64(len(data)), o)
				return err
			}
			require.NoError(t, put("a/one", []byte("one"), minio.PutObjectOptions{}))
			assert.Equal(t, "one", string(get(t, c, "a/one")))

			large := make([]byte, 12<<20)
			for i := range large {
				large[i] = byte(rand.IntN(256))
			}
			require.NoError(t, put("large", large, minio.PutObjectOptions{PartSize: 5 << 20}))
			assert.True(t, bytes.Equal(large, get(t, c, "large")), "it came in parts")
			left, err := os.ReadDir(filepath.Join(dir, uploads))
			require.NoError(t, err)
			assert.Empty(t, left)

			var only minio.PutObjectOptions
			only.SetMatchETagExcept("*")
			err = put("a/one", []byte("other"), only)
			assert.Equal(t, "PreconditionFailed", minio.ToErrorResponse(err).Code)
			assert.NoError(t, put("a/two", []byte("two"), only))

			for i := range 7 {
				require.NoError(t, put(fmt.Sprint("b/", i), nil, minio.PutObjectOptions{}))
			}
			var keys []string
			for o := range c.ListObjects(ctx, "harbour", minio.ListObjectsOptions{Prefix: "b/", Recursive: true, MaxKeys: 3}) {
				require.NoError(t, o.Err)
				keys = append(keys, o.Key)
			}
			assert.Equal(t, []string{"b/0", "b/1", "b/2", "b/3", "b/4", "b/5", "b/6"}, keys)

			require.NoError(t, c.RemoveObject(ctx, "harbour", "b/3", minio.RemoveObjectOptions{}))
			_, err = c.StatObject(ctx, "harbour", "b/3", minio.StatObjectOptions{})
			assert.Equal(t, minio.NoSuchKey, minio.ToErrorResponse(err).Code)
		})
	}
}

// TestPartsAreChecked gives up an object that comes in parts, and completes one with a wrong part.
func TestPartsAreChecked(t *testing.T) {
	c, dir := reach(t, 0)
	core := minio.Core{Client: c}
	ctx := context.Background()
	id, err := core.NewMultipartUpload(ctx, "harbour", "x", minio.PutObjectOptions{})
	require.NoError(t, err)
	part, err := core.PutObjectPart(ctx, "harbour", "x", id, 1, strings.NewReader("part"), 4, minio.PutObjectPartOptions{})
	require.NoError(t, err)
	_, err = core.CompleteMultipartUpload(ctx, "harbour", "x", id, []minio.CompletePart{{PartNumber: 1, ETag: "wrong"}}, minio.PutObjectOptions{})
	assert.Equal(t, "InvalidPart", minio.ToErrorResponse(err).Code)
	require.NoError(t, core.AbortMultipartUpload(ctx, "harbour", "x", id))
	_, err = core.CompleteMultipartUpload(ctx, "harbour", "x", id, []minio.CompletePart{{PartNumber: 1, ETag: part.ETag}}, minio.PutObjectOptions{})
	assert.Equal(t, "NoSuchUpload", minio.ToErrorResponse(err).Code)
	assert.NoFileExists(t, filepath.Join(dir, "harbour", "x"))
}
