package standin

import (
	"bytes"
	"crypto/rand"
	"encoding/xml"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

// uploads is the folder of objects that come in parts.
const uploads = ".uploads"

type begun struct {
	XMLName  xml.Name `xml:"http://s3.amazonaws.com/doc/2006-03-01/ InitiateMultipartUploadResult"`
	UploadId string
}

type completed struct {
	XMLName xml.Name `xml:"http://s3.amazonaws.com/doc/2006-03-01/ CompleteMultipartUploadResult"`
	Bucket  string
	Key     string
	ETag    string
}

type parts struct {
	Part []struct {
		PartNumber int
		ETag       string
	}
}

var uploadID = regexp.MustCompile(`^[A-Z0-9]{26}$`)

// inParts takes an object that comes in parts: begun, part by part, and completed or given up.
func inParts(w http.ResponseWriter, r *http.Request, folder, path string) {
	q := r.URL.Query()
	if q.Has("uploads") && r.Method == http.MethodPost {
		id := rand.Text()
		if err := os.MkdirAll(filepath.Join(folder, id), 0o755); err != nil {
			refuse(w, http.StatusInternalServerError, "InternalError")
			return
		}
		say(w, begun{UploadId: id})
		return
	}
	id := q.Get("uploadId")
	dir := filepath.Join(folder, id)
	if _, err := os.Stat(dir); err != nil || !uploadID.MatchString(id) {
		refuse(w, http.StatusNotFound, "NoSuchUpload")
		return
	}
	switch r.Method {
	case http.MethodPut:
		if n, err := strconv.Atoi(q.Get("partNumber")); err != nil || n < 1 || n > 10_000 {
			refuse(w, http.StatusBadRequest, "InvalidArgument")
			return
		}
		put(w, r, filepath.Join(dir, q.Get("partNumber")))
	case http.MethodPost:
		complete(w, r, dir, path)
	case http.MethodDelete:
		os.RemoveAll(dir)
		w.WriteHeader(http.StatusNoContent)
	default:
		refuse(w, http.StatusNotImplemented, "NotImplemented")
	}
}

// complete joins the parts that the request names.
func complete(w http.ResponseWriter, r *http.Request, dir, path string) {
	var named parts
	if err := xml.NewDecoder(r.Body).Decode(&named); err != nil || len(named.Part) == 0 {
		refuse(w, http.StatusBadRequest, "MalformedXML")
		return
	}
	var whole bytes.Buffer
	last := 0
	for _, p := range named.Part {
		data, err := os.ReadFile(filepath.Join(dir, strconv.Itoa(p.PartNumber)))
		switch {
		case err != nil || tagOf(data) != p.ETag && tagOf(data) != `"`+p.ETag+`"`:
			refuse(w, http.StatusBadRequest, "InvalidPart")
			return
		case p.PartNumber <= last:
			refuse(w, http.StatusBadRequest, "InvalidPartOrder")
			return
		}
		last = p.PartNumber
		whole.Write(data)
	}
	switch err := keep(path, whole.Bytes(), r.Header.Get("If-None-Match") == "*"); {
	case errors.Is(err, fs.ErrExist):
		refuse(w, http.StatusPreconditionFailed, "PreconditionFailed")
	case err != nil:
		refuse(w, http.StatusInternalServerError, "InternalError")
	default:
		os.RemoveAll(dir)
		bucket, key, _ := strings.Cut(strings.Trim(r.URL.Path, "/"), "/")
		say(w, completed{Bucket: bucket, Key: key, ETag: fmt.Sprintf(`"%s-%d"`, tagOf(whole.Bytes())[1:33], len(named.Part))})
	}
}
