package standin

import (
	"bufio"
	"crypto/md5"
	"encoding/base64"
	"encoding/hex"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync/atomic"
	"time"
)

// Bucket answers as much of the S3 protocol as keeping, fetching, listing and removing objects
// needs. Signatures are not checked: it is for loopback.
type Bucket struct {
	Folder string // a folder in it is a bucket
	Slow   int    // every so manyth request is told to slow down; 0 for none

	asked atomic.Int64
}

type fault struct {
	XMLName xml.Name `xml:"Error"`
	Code    string
	Message string
}

func refuse(w http.ResponseWriter, status int, code string) {
	w.Header().Set("Content-Type", "application/xml")
	w.WriteHeader(status)
	xml.NewEncoder(w).Encode(fault{Code: code, Message: code})
}

func say(w http.ResponseWriter, v any) {
	w.Header().Set("Content-Type", "application/xml")
	io.WriteString(w, xml.Header)
	xml.NewEncoder(w).Encode(v)
}

func (b *Bucket) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !strings.Contains(r.Header.Get("Authorization"), "Signature=") {
		refuse(w, http.StatusForbidden, "AccessDenied")
		return
	}
	if n := b.asked.Add(1); b.Slow > 0 && n%int64(b.Slow) == 0 {
		refuse(w, http.StatusServiceUnavailable, "SlowDown")
		return
	}
	bucket, key, _ := strings.Cut(strings.Trim(r.URL.Path, "/"), "/")
	if !filepath.IsLocal(filepath.FromSlash(bucket + "/" + key)) {
		refuse(w, http.StatusBadRequest, "InvalidArgument")
		return
	}
	root := filepath.Join(b.Folder, bucket)
	if st, err := os.Stat(root); err != nil || !st.IsDir() || bucket == "" {
		refuse(w, http.StatusNotFound, "NoSuchBucket")
		return
	}
	path, q := filepath.Join(root, filepath.FromSlash(key)), r.URL.Query()
	switch {
	case key == "":
		ofBucket(w, r, root)
	case q.Has("uploads") || q.Has("uploadId"):
		inParts(w, r, filepath.Join(b.Folder, uploads), path)
	case r.Method == http.MethodPut:
		put(w, r, path)
	case r.Method == http.MethodGet || r.Method == http.MethodHead:
		give(w, r, path)
	case r.Method == http.MethodDelete:
		remove(w, path)
	default:
		refuse(w, http.StatusNotImplemented, "NotImplemented")
	}
}

// ofBucket answers what is asked of a bucket as a whole.
func ofBucket(w http.ResponseWriter, r *http.Request, root string) {
	switch {
	case r.URL.Query().Has("location"):
		fmt.Fprint(w, `<?xml version="1.0"?><LocationConstraint xmlns="http://s3.amazonaws.com/doc/2006-03-01/"></LocationConstraint>`)
	case r.Method == http.MethodHead:
	case r.Method == http.MethodGet:
		list(w, r, root)
	default:
		refuse(w, http.StatusNotImplemented, "NotImplemented")
	}
}

func put(w http.ResponseWriter, r *http.Request, path string) {
	data, err := body(r)
	if err != nil {
		refuse(w, http.StatusBadRequest, "IncompleteBody")
		return
	}
	if told := r.Header.Get("Content-Md5"); told != "" {
		if sum := md5.Sum(data); told != base64.StdEncoding.EncodeToString(sum[:]) {
			refuse(w, http.StatusBadRequest, "BadDigest")
			return
		}
	}
	switch err := keep(path, data, r.Header.Get("If-None-Match") == "*"); {
	case errors.Is(err, fs.ErrExist):
		refuse(w, http.StatusPreconditionFailed, "PreconditionFailed")
	case err != nil:
		refuse(w, http.StatusInternalServerError, "InternalError")
	default:
		w.Header().Set("ETag", tagOf(data))
	}
}

// body is what a request brings, without the signatures of its chunks.
func body(r *http.Request) ([]byte, error) {
	if strings.HasPrefix(r.Header.Get("X-Amz-Content-Sha256"), "STREAMING-") {
		return io.ReadAll(&chunked{in: bufio.NewReader(r.Body)})
	}
	return io.ReadAll(r.Body)
}

// keep writes an object, whole or not at all; with fresh, only when there is none.
func keep(path string, data []byte, fresh bool) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return err
	}
	tmp, err := os.CreateTemp(filepath.Dir(path), partial+"*")
	if err != nil {
		return err
	}
	defer os.Remove(tmp.Name())
	if _, err = tmp.Write(data); err != nil {
		return errors.Join(err, tmp.Close())
	}
	if err := tmp.Close(); err != nil {
		return err
	}
	if fresh {
		return os.Link(tmp.Name(), path)
	}
	return os.Rename(tmp.Name(), path)
}

// partial begins the names of files that are being written.
const partial = ".part-"

func remove(w http.ResponseWriter, path string) {
	if err := os.Remove(path); err != nil && !errors.Is(err, fs.ErrNotExist) {
		refuse(w, http.StatusInternalServerError, "InternalError")
		return
	}
	w.WriteHeader(http.StatusNoContent)
}

func tagOf(data []byte) string {
	sum := md5.Sum(data)
	return `"` + hex.EncodeToString(sum[:]) + `"`
}

func give(w http.ResponseWriter, r *http.Request, path string) {
	data, err := os.ReadFile(path)
	var changed time.Time
	if st, e := os.Stat(path); e == nil {
		changed = st.ModTime()
	}
	if errors.Is(err, fs.ErrNotExist) {
		refuse(w, http.StatusNotFound, "NoSuchKey")
		return
	}
	if err != nil {
		refuse(w, http.StatusInternalServerError, "InternalError")
		return
	}
	w.Header().Set("ETag", tagOf(data))
	w.Header().Set("Content-Type", "application/octet-stream")
	http.ServeContent(w, r, "", changed, strings.NewReader(string(data)))
}

// chunked reads a body in signed chunks: a line with a length in hex and a
// signature before each.
type chunked struct {
	in   *bufio.Reader
	left int64
	done bool
}

func (c *chunked) Read(p []byte) (int, error) {
	for c.left == 0 {
		if c.done {
			return 0, io.EOF
		}
		line, err := c.in.ReadString('\n')
		if err != nil {
			return 0, err
		}
		if line = strings.TrimSpace(line); line == "" { // the end of the chunk before
			continue
		}
		size, _, _ := strings.Cut(line, ";")
		if c.left, err = strconv.ParseInt(size, 16, 64); err != nil {
			return 0, err
		}
		c.done = c.left == 0
	}
	n, err := c.in.Read(p[:min(int64(len(p)), c.left)])
	c.left -= int64(n)
	return n, err
}
