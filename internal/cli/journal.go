package cli

import (
	"bufio"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"sync"

	"oliveledger/record"
)

// journalName is the file of a run's folder that lists what is made.
const journalName = ".olive-run.ndjson"

// journal lists the documents of a run as they are made, so that a stopped run
// can go on. Its first line tells the state of the template.
type journal struct {
	mu   sync.Mutex
	f    *os.File
	dir  string
	done map[string]entry // by file
}

// entry is one document: the checksum of its record, its file and size.
type entry struct {
	Template string `json:"template,omitempty"`
	Sum      string `json:"sum,omitempty"`
	File     string `json:"file,omitempty"`
	Pages    int    `json:"pages,omitempty"`
	Bytes    int64  `json:"bytes,omitempty"`
}

// openJournal begins a journal, or goes on with one.
func openJournal(dir, template string, resume bool) (*journal, error) {
	state, err := folderSum(template)
	if err != nil {
		return nil, err
	}
	j := &journal{dir: dir, done: map[string]entry{}}
	name := filepath.Join(dir, journalName)
	if resume {
		if err := j.load(name, state); err != nil {
			return nil, err
		}
		left, _ := filepath.Glob(filepath.Join(dir, ".olive-*.pdf")) // what a killed run was writing
		for _, n := range left {
			os.Remove(n)
		}
		if len(j.done) > 0 {
			j.f, err = os.OpenFile(name, os.O_APPEND|os.O_WRONLY, 0o644)
			return j, err
		}
	}
	if j.f, err = os.Create(name); err != nil {
		return nil, usage("the folder %s cannot be written to: %v", dir, errors.Unwrap(err))
	}
	return j, j.add(entry{Template: state})
}

// load reads what a stopped run had made. Another state of the template makes
// other documents: then nothing of it counts.
func (j *journal) load(name, state string) error {
	data, err := os.ReadFile(name)
	if errors.Is(err, fs.ErrNotExist) {
		return usage("there is no stopped run in %s to go on with; leave --resume out to begin one", j.dir)
	}
	if err != nil {
		return err
	}
	sc := bufio.NewScanner(bytes.NewReader(data))
	for first := true; sc.Scan(); first = false {
		var e entry
		if json.Unmarshal(sc.Bytes(), &e) != nil {
			break // the run was stopped while it wrote
		}
		if first && e.Template != state {
			return usage("the template has changed since the run in %s was stopped; leave --resume out to make all documents anew", j.dir)
		}
		if e.File != "" {
			j.done[e.File] = e
		}
	}
	return nil
}

// made tells whether a document was made from the same record and is there.
func (j *journal) made(sum, file string) (entry, bool) {
	j.mu.Lock()
	e, ok := j.done[file]
	j.mu.Unlock()
	if !ok || e.Sum != sum {
		return e, false
	}
	st, err := os.Stat(filepath.Join(j.dir, file))
	return e, err == nil && st.Size() == e.Bytes
}

func (j *journal) add(e entry) error {
	line, err := json.Marshal(e)
	if err != nil {
		return err
	}
	j.mu.Lock()
	defer j.mu.Unlock()
	if _, err := j.f.Write(append(line, '\n')); err != nil {
		return fmt.Errorf("the run's journal could not be written: %w", err)
	}
	return nil
}

// close ends the journal of a run; one that left nothing to do goes.
func (j *journal) close(complete bool) {
	j.f.Close()
	if complete {
		os.Remove(filepath.Join(j.dir, journalName))
	}
}

// checksum of a record's data; keys are in order.
func checksum(r record.Record) string {
	sum := sha256.Sum256(asJSON(r.Data))
	return hex.EncodeToString(sum[:12])
}

func asJSON(v any) []byte {
	data, err := json.Marshal(v)
	if err != nil { // records hold nothing that JSON does not
		return nil
	}
	return data
}

// folderSum is a checksum over all files of a template.
func folderSum(dir string) (string, error) {
	var names []string
	err := filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			names = append(names, p)
		}
		return err
	})
	if err != nil {
		return "", err
	}
	slices.Sort(names)
	h := sha256.New()
	for _, n := range names {
		data, err := os.ReadFile(n)
		if err != nil {
			return "", err
		}
		fmt.Fprintf(h, "%s %d\n", filepath.ToSlash(n), len(data))
		h.Write(data)
	}
	return hex.EncodeToString(h.Sum(nil)[:12]), nil
}
