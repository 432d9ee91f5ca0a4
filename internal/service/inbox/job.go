package inbox

import (
	"archive/zip"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"oliveledger/client"
)

// job is a record file on its way to documents. It lies in a folder of its own, with how far it is.
type job struct {
	template string
	folder   string // of the template
	at       string // its own folder
}

// state is how far a job is. It is kept at each step, so that a service that ends in the middle goes on where it was
// and makes no document twice.
type state struct {
	File  string    `json:"file"`            // name of the record file
	Key   string    `json:"key"`             // that the batch is started with, once
	Taken time.Time `json:"taken"`           // when the file was taken
	Set   uint64    `json:"set,omitempty"`   // its records in the service
	Bad   []string  `json:"bad,omitempty"`   // rows that could not be read
	Notes []string  `json:"notes,omitempty"` // what was found out about the file
	Batch uint64    `json:"batch,omitempty"` // that makes the documents
}

const (
	stateName  = "state.json"
	partName   = "state.json.part"
	reportName = "report.txt"
)

// take moves a file into a folder of its own, where nobody writes to it any more.
func take(folder, file string, now time.Time) error {
	under := filepath.Join(folder, working)
	if err := os.MkdirAll(under, 0o755); err != nil {
		return err
	}
	at, err := place(under, strings.TrimSuffix(file, filepath.Ext(file)), func(path string) error { return os.Mkdir(path, 0o755) })
	if err != nil {
		return err
	}
	if err := (job{at: at}).keep(state{File: file, Key: rand.Text(), Taken: now.Truncate(time.Second)}); err != nil {
		return err
	}
	return os.Rename(filepath.Join(folder, file), filepath.Join(at, file))
}

// keep writes how far a job is.
func (j job) keep(s state) error {
	raw, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return err
	}
	part := filepath.Join(j.at, partName)
	if err := os.WriteFile(part, raw, 0o644); err != nil {
		return err
	}
	return os.Rename(part, filepath.Join(j.at, stateName))
}

// read tells how far a job is. One whose file was not moved yet, as the service ended just then, has none.
func (j job) read() (s state, err error) {
	raw, err := os.ReadFile(filepath.Join(j.at, stateName))
	if err != nil {
		return s, err
	}
	if err := json.Unmarshal(raw, &s); err != nil {
		return s, wrong{fmt.Errorf("%s, which tells how far it is, was changed: %w", stateName, err)}
	}
	_, err = os.Lstat(filepath.Join(j.at, s.File))
	return s, err
}

// drop removes the folder of a job whose file lies where it was, to be taken anew. It fails where there is more.
func (j job) drop() error {
	for _, name := range []string{stateName, partName} {
		if err := os.Remove(filepath.Join(j.at, name)); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return os.Remove(j.at)
}

// wrong is what cannot work, however often it is tried.
type wrong struct{ error }

// lasting tells an error that stays from one that passes: the service refuses what is wrong with 4XX.
func lasting(err error) bool {
	var p *client.Problem
	if errors.As(err, &p) {
		return p.Status >= 400 && p.Status < 500 && p.Status != 409 && p.Status != 429
	}
	var w wrong
	return errors.As(err, &w)
}

// do goes on with a job: to its end, or until something fails that may pass. It tells whether to try again.
func (x *Inbox) do(ctx context.Context, j job) (again bool) {
	s, err := j.read()
	if errors.Is(err, os.ErrNotExist) {
		if j.drop() == nil {
			return false
		}
		err = wrong{errors.New("how far it was is not known any more, as files of it were removed; look into the service for what was made, and lay the file into the folder again")}
	}
	var r report
	if err == nil {
		r, err = x.documents(ctx, j, &s)
	}
	if err != nil && !lasting(err) {
		if ctx.Err() == nil {
			x.Log.Warn("a file of the watched folder has to wait", "file", j.at, "error", err)
		}
		return true
	}
	r.wrong(err)
	to, err := j.end(r)
	if err != nil {
		x.Log.Error("a file of the watched folder cannot be put away", "file", j.at, "error", err)
		return true
	}
	x.Log.Info("a file of the watched folder is done", "file", to, "documents", r.documents, "failed", len(r.failures))
	return false
}

// documents makes the documents of a job, from where it is.
func (x *Inbox) documents(ctx context.Context, j job, s *state) (r report, err error) {
	o, err := readOptions(j.folder)
	if err != nil {
		return r, wrong{err}
	}
	if s.Set == 0 {
		if err := x.records(ctx, j, s, o); err != nil {
			return r, err
		}
	}
	r.notes, r.failures = s.Notes, slices.Clone(s.Bad)
	if s.Batch == 0 {
		b, err := x.Client.StartBatch(ctx, client.BatchOrder{Template: j.template, RecordSet: s.Set, Series: o.series, Draft: o.draft}, s.Key)
		if err != nil {
			return r, err
		}
		s.Batch = b.ID
		if err := j.keep(*s); err != nil {
			return r, err
		}
	}
	return r, x.gather(ctx, j, s.Batch, &r)
}

// records imports the file, if it is not there already: the service may have ended before that was kept.
func (x *Inbox) records(ctx context.Context, j job, s *state, o options) error {
	if _, err := x.Client.Template(ctx, j.template, 0); err != nil {
		var p *client.Problem
		if errors.As(err, &p) && p.Status == 404 {
			return wrong{fmt.Errorf("the service has no template %q, after which the folder is named", j.template)}
		}
		return err
	}
	name := fmt.Sprintf("%s %s %s", j.template, s.Taken.UTC().Format("2006-01-02 15:04:05"), s.File) // the ending tells the format
	there, err := x.Client.RecordSets(ctx, client.Find{Search: name})
	if err != nil {
		return err
	}
	for _, set := range there.Items {
		if set.Name == name {
			s.Set = set.ID
			return j.keep(*s)
		}
	}
	f, err := os.Open(filepath.Join(j.at, s.File))
	if err != nil {
		return err
	}
	defer f.Close()
	set, err := x.Client.Import(ctx, name, o.file, f)
	if err != nil {
		return err
	}
	s.Set, s.Bad, s.Notes = set.ID, set.Bad, set.Notes
	return j.keep(*s)
}

// gather waits for the batch, and brings its documents.
func (x *Inbox) gather(ctx context.Context, j job, batch uint64, r *report) error {
	b, err := x.Client.Follow(ctx, batch, func(client.Batch) {})
	if err != nil {
		return err
	}
	r.batch, r.documents = b.ID, b.Done
	if b.State == "cancelled" {
		r.failures = append(r.failures, "the batch was cancelled in the console before all documents were made")
	}
	if b.Failed > 0 {
		items, err := x.Client.Items(ctx, b.ID, client.Find{Limit: b.Failed, Filter: map[string]string{"state": "failed"}})
		if err != nil {
			return err
		}
		for _, i := range items.Items {
			r.failures = append(r.failures, "record "+strconv.Itoa(i.Record)+": "+i.Error)
		}
	}
	if b.Done == 0 {
		return nil
	}
	return x.fetch(ctx, j, b.ID)
}

// fetch writes the documents of a batch into a job's folder.
func (x *Inbox) fetch(ctx context.Context, j job, batch uint64) error {
	tmp, err := os.CreateTemp(j.at, ".documents-*.zip")
	if err != nil {
		return err
	}
	defer os.Remove(tmp.Name())
	defer tmp.Close()
	if err := x.Client.BatchFile(ctx, batch, "zip", false, tmp); err != nil {
		return err
	}
	size, err := tmp.Seek(0, io.SeekEnd)
	if err != nil {
		return err
	}
	all, err := zip.NewReader(tmp, size)
	if err != nil {
		return err
	}
	root, err := os.OpenRoot(j.at)
	if err != nil {
		return err
	}
	defer root.Close()
	for _, f := range all.File {
		if err := unpack(root, f); err != nil {
			return err
		}
	}
	return nil
}

// unpack writes one document.
func unpack(root *os.Root, f *zip.File) error {
	from, err := f.Open()
	if err != nil {
		return err
	}
	defer from.Close()
	to, err := root.Create(filepath.Base(f.Name))
	if err != nil {
		return err
	}
	_, err = io.Copy(to, from)
	return errors.Join(err, to.Close())
}

// end writes the report, and puts the job's folder where people look for it.
func (j job) end(r report) (string, error) {
	if err := os.WriteFile(filepath.Join(j.at, reportName), []byte(r.text()), 0o644); err != nil {
		return "", err
	}
	under := filepath.Join(j.folder, done)
	if len(r.failures) > 0 {
		under = filepath.Join(j.folder, failed)
	}
	if err := os.MkdirAll(under, 0o755); err != nil {
		return "", err
	}
	to, err := place(under, filepath.Base(j.at), func(path string) error { return os.Rename(j.at, path) })
	if err != nil {
		return "", err
	}
	_ = os.Remove(filepath.Join(to, stateName)) // not before: a service that ends here would not know the folder again
	return to, nil
}
