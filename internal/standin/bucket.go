package standin

import (
	"bufio"
	"crypto/md5"
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
	"time"
)

// Bucket answers as much of the S3 protocol as keeping and fetching objects
// needs. Signatures are not checked: it is for loopback.
type Bucket struct {
	Folder string // a folder in it is a bucket
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

func (b *Bucket) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !strings.Contains(r.Header.Get("Authorization"), "Signature=") {
		refuse(w, http.StatusForbidden, "AccessDenied")
		return
	}
	bucket, key, _ := strings.Cut(strings.Trim(r.URL.Path, "/"), "/")
	if !filepath.IsLocal(filepath.FromSlash(bucket + "/" + key)) {
		refuse(w, http.StatusBadRequest, "InvalidArgument")
		return
	}
	if st, err := os.Stat(filepath.Join(b.Folder, bucket)); err != nil || !st.IsDir() || bucket == "" {
		refuse(w, http.StatusNotFound, "NoSuchBucket")
		return
	}
	path := filepath.Join(b.Folder, bucket, filepath.FromSlash(key))
	switch {
	case key == "" && r.URL.Query().Has("location"):
		fmt.Fprint(w, `<?xml version="1.0"?><LocationConstraint xmlns="http://s3.amazonaws.com/doc/2006-03-01/"></LocationConstraint>`)
	case key == "" && r.Method == http.MethodHead:
	case r.Method == http.MethodPut && key != "":
		put(w, r, path)
	case (r.Method == http.MethodGet || r.Method == http.MethodHead) && key != "":
		give(w, r, path)
	default:
		refuse(w, http.StatusNotImplemented, "NotImplemented")
	}
}

func put(w http.ResponseWriter, r *http.Request, path string) {
	body := io.Reader(r.Body)
	if strings.HasPrefix(r.Header.Get("X-Amz-Content-Sha256"), "STREAMING-") {
		body = &chunked{in: bufio.NewReader(r.Body)}
	}
	data, err := io.ReadAll(body)
	if err == nil {
		err = os.MkdirAll(filepath.Dir(path), 0o755)
	}
	if err == nil {
		err = os.WriteFile(path+".part", data, 0o644)
	}
	if err == nil {
		err = os.Rename(path+".part", path)
	}
	if err != nil {
		refuse(w, http.StatusInternalServerError, "InternalError")
		return
	}
	w.Header().Set("ETag", tagOf(data))
}

func tagOf(data []byte) string {
	sum := md5.Sum(data)
	return `"` + hex.EncodeToString(sum[:]) + `"`
}

func give(w http.ResponseWriter, r *http.Request, path string) {
	data, err := os.ReadFile(path)
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
	http.ServeContent(w, r, "", time.Now(), strings.NewReader(string(data)))
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
