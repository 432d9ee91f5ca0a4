package press

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"oliveledger/record"
)

// reader reads a record file in a child, as its pieces come in.
type reader struct {
	in     *io.PipeWriter
	out    chan read
	taken  chan struct{} // a piece has been read
	failed error
}

// read is one thing that came out of a file.
type read struct {
	row       *Row
	bad, note string
}

// together is how many rows a child answers with at most.
const together = 500

// maxBad ends the reading of a file that is no such file at all.
const maxBad = 100

// Read begins to read a file.
func (d *Desk) Read(in Reading, _ *struct{}) error {
	allow(d.orders)
	pr, pw := io.Pipe()
	r := &reader{in: pw, out: make(chan read, together), taken: make(chan struct{}, 1)}
	o, n, first := in.Options, 0, ""
	o.Note = func(s string) { r.out <- read{note: s} }
	if in.SkipBad {
		o.Bad = func(e *record.RowError) error {
			if n++; n == 1 {
				first = e.Error()
			}
			r.out <- read{bad: e.Error()}
			if n >= maxBad {
				return fmt.Errorf("more than %d rows cannot be read; the first: %s", maxBad, first)
			}
			return nil
		}
	}
	d.reading = r
	go func() {
		defer close(r.out)
		r.failed = record.Each(pr, o, func(rec record.Record) error {
			rec.Data = in.Renames.Apply(rec.Data)
			data, err := json.Marshal(rec.Data)
			r.out <- read{row: &Row{rec.Name(), data}}
			return err
		})
		pr.CloseWithError(io.ErrClosedPipe) // what still comes is not read
	}()
	return nil
}

// Feed takes the next piece of the file, and gives what came out of it. While there is more, it is
// asked again.
func (d *Desk) Feed(in Piece, out *Rows) error {
	r := d.reading
	if !in.More {
		go func() {
			_, err := r.in.Write(in.Data)
			if in.End {
				r.in.Close()
			} else if err == nil {
				r.taken <- struct{}{}
			}
		}()
	}
	for len(out.Rows) < together {
		select {
		case x, open := <-r.out:
			switch {
			case !open:
				out.Done = true
				if r.failed != nil {
					out.Failed = r.failed.Error()
				}
				return nil
			case x.row != nil:
				out.Rows = append(out.Rows, *x.row)
			case x.bad != "":
				out.Bad = append(out.Bad, x.bad)
			default:
				out.Notes = append(out.Notes, x.note)
			}
		case <-r.taken:
			return nil
		}
	}
	out.More = true
	return nil
}

// Unreadable is a record file that cannot be read to its end.
type Unreadable struct{ reason string }

func (u *Unreadable) Error() string { return u.reason }

// Records reads a record file in a child and hands out its rows. told gets bad rows, when they
// are skipped, and notes.
func (p *Pool) Records(ctx context.Context, in Reading, file io.Reader, visit func(name string, data []byte) error, told func(bad, notes []string)) error {
	return p.do(ctx, func(c *process) error {
		c.spent = true // until the file has come to its end
		if err := c.call(ctx, "Read", in, new(struct{})); err != nil {
			return err
		}
		buf := make([]byte, 256<<10)
		var next Piece
		for {
			if !next.End {
				n, err := io.ReadFull(file, buf)
				next = Piece{Data: buf[:n], End: errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF)}
				if err != nil && !next.End {
					return err
				}
			}
			done, err := c.feed(ctx, next, visit, told)
			if done || err != nil {
				return err
			}
		}
	})
}

// feed gives a child the next piece, and hands out all that comes of it. It tells whether the file is done.
func (p *process) feed(ctx context.Context, next Piece, visit func(name string, data []byte) error, told func(bad, notes []string)) (done bool, err error) {
	for {
		var out Rows
		if err := p.call(ctx, "Feed", next, &out); err != nil {
			return false, err
		}
		told(out.Bad, out.Notes)
		for _, r := range out.Rows {
			if err := visit(r.Name, r.Data); err != nil {
				return false, err
			}
		}
		if out.Done {
			if out.Failed != "" {
				return true, &Unreadable{out.Failed}
			}
			p.spent = false
			return true, nil
		}
		if !out.More {
			return false, nil
		}
		next = Piece{More: true}
	}
}
