package standin

import (
	"encoding/xml"
	"io/fs"
	"net/http"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"time"
)

type listing struct {
	XMLName               xml.Name `xml:"http://s3.amazonaws.com/doc/2006-03-01/ ListBucketResult"`
	Name, Prefix          string
	KeyCount, MaxKeys     int
	IsTruncated           bool
	NextContinuationToken string `xml:",omitempty"`
	Contents              []listed
}

type listed struct {
	Key          string
	LastModified string
	Size         int64
	StorageClass string
}

// list tells the objects of a bucket (ListObjectsV2), a page at a time; a token is the last key of the
// page before.
func list(w http.ResponseWriter, r *http.Request, root string) {
	q := r.URL.Query()
	out := listing{Name: filepath.Base(root), Prefix: q.Get("prefix"), MaxKeys: 1000}
	if n, err := strconv.Atoi(q.Get("max-keys")); err == nil && n > 0 {
		out.MaxKeys = min(n, out.MaxKeys)
	}
	after := max(q.Get("start-after"), q.Get("continuation-token"))
	var all []listed
	err := filepath.WalkDir(root, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || strings.HasPrefix(e.Name(), partial) {
			return err
		}
		key, err := filepath.Rel(root, path)
		if err != nil {
			return err
		}
		if key = filepath.ToSlash(key); key <= after || !strings.HasPrefix(key, out.Prefix) {
			return nil
		}
		info, err := e.Info()
		if err != nil {
			return nil // it has been removed meanwhile
		}
		all = append(all, listed{key, info.ModTime().UTC().Format(time.RFC3339), info.Size(), "STANDARD"})
		return nil
	})
	if err != nil {
		refuse(w, http.StatusInternalServerError, "InternalError")
		return
	}
	sort.Slice(all, func(i, j int) bool { return all[i].Key < all[j].Key })
	out.Contents = all[:min(len(all), out.MaxKeys)]
	if out.KeyCount = len(out.Contents); out.KeyCount < len(all) {
		out.IsTruncated, out.NextContinuationToken = true, out.Contents[out.KeyCount-1].Key
	}
	say(w, out)
}
