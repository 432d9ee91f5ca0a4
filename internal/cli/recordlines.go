package cli

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"oliveledger/record"
)

// asLines reads the records, with all that the options ask for, into a temporary file of
// one JSON object a line, which is gone once it is closed. Rows that cannot be read are
// told and left out when skip says so.
func (f *recordFlags) asLines(c *cobra.Command, skip bool) (io.ReadCloser, error) {
	var bad func(*record.RowError) error
	if skip {
		bad = func(e *record.RowError) error {
			fmt.Fprintln(c.ErrOrStderr(), "warning:", e)
			return nil
		}
	}
	source, err := f.source(c, false, bad, nil)
	if err != nil {
		return nil, err
	}
	tmp, err := os.CreateTemp("", "olive-records-*.ndjson")
	if err != nil {
		return nil, fmt.Errorf("there is no room for a temporary file: %w", err)
	}
	out := &vanishing{tmp}
	w := bufio.NewWriter(tmp)
	e := json.NewEncoder(w)
	e.SetEscapeHTML(false)
	err = source(func(r record.Record) error { return e.Encode(r.Data) })
	if err == nil {
		err = w.Flush()
	}
	if err == nil {
		_, err = tmp.Seek(0, io.SeekStart)
	}
	if err != nil {
		out.Close()
		return nil, err
	}
	return out, nil
}

// vanishing is a file that is removed when it is closed.
type vanishing struct{ *os.File }

func (f *vanishing) Close() error {
	defer os.Remove(f.Name())
	return f.File.Close()
}
