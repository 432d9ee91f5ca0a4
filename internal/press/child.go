package press

import (
	"bufio"
	"bytes"
	"context"
	"encoding/gob"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/rpc"
	"os"
	"runtime/debug"
	"testing/fstest"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"oliveledger/internal/collect"
	"oliveledger/internal/setting"
	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// environment tells a process that it is a child, and by which limits it works.
const environment = "OLIVE_PRESS"

// orders are what a child is told when it starts.
type orders struct {
	Memory int64         // bytes
	Time   time.Duration // of one piece of work
}

// room is what a child holds after ordinary documents, in bytes, with garbage: several stand side
// by side, and one that is swollen is ended, which costs more than to collect.
const room = swollen / 2

// Child does the work of a child and ends the process, when it was started as one. Programs
// that open a Pool call it before anything else.
func Child() {
	raw := os.Getenv(environment)
	if raw == "" {
		return
	}
	var o orders
	if err := json.Unmarshal([]byte(raw), &o); err != nil {
		fmt.Fprintf(os.Stderr, "%s cannot be read: %v\n", environment, err)
		os.Exit(2)
	}
	if err := confine(o); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	collect.BySize(room)
	debug.SetMemoryLimit(collectAt(o.Memory))
	s := rpc.NewServer()
	if err := s.RegisterName("Desk", newDesk(o)); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	c := newCodec(os.Stdin, os.Stdout)
	for !c.over {
		_ = s.ServeRequest(c) // what goes wrong with one is in its answer
	}
	os.Exit(0) // the parent has gone
}

// codec reads and writes as net/rpc's own does. With it requests are served one after the other by one
// goroutine, whose stack has grown already when the next comes; no thread waits for more meanwhile.
type codec struct {
	in   *gob.Decoder
	out  *gob.Encoder
	buf  *bufio.Writer
	over bool // nothing more comes
}

func newCodec(in io.Reader, out io.Writer) *codec {
	buf := bufio.NewWriter(out)
	return &codec{in: gob.NewDecoder(bufio.NewReaderSize(in, 64<<10)), out: gob.NewEncoder(buf), buf: buf}
}

func (c *codec) ReadRequestHeader(r *rpc.Request) error {
	err := c.in.Decode(r)
	c.over = err != nil
	return err
}

func (c *codec) ReadRequestBody(body any) error { return c.in.Decode(body) }

// WriteResponse writes an answer. Where that fails the parent would wait for the rest of it: nothing more comes then.
func (c *codec) WriteResponse(r *rpc.Response, body any) error {
	err := errors.Join(c.out.Encode(r), c.out.Encode(body), c.buf.Flush())
	if err != nil {
		fmt.Fprintf(os.Stderr, "the answer cannot be written: %v\n", err)
		c.over = true
	}
	return err
}

func (c *codec) Close() error { return nil }

// Heap is what documents may hold of the memory of a process, in bytes, before they are told that it is too much.
// The rest is for what is not in use any more, and what the program needs for itself.
func Heap(memory int64) int64 { return memory / 10 * 7 }

// collectAt is when garbage is collected at the latest, so that the system's limit does not end the process.
func collectAt(memory int64) int64 { return memory / 20 * 13 }

// pipes are the two directions that a child and its parent talk in.
type pipes struct {
	io.ReadCloser
	io.WriteCloser
}

func (p pipes) Close() error { return errors.Join(p.ReadCloser.Close(), p.WriteCloser.Close()) }

// Desk takes the work of a child. Its methods are called one at a time.
type Desk struct {
	orders
	templates *lru.Cache[string, *folder]
	fonts     *lru.Cache[string, *typeset.Font]
	reading   *reader
}

// folder is a parsed template with its files.
type folder struct {
	*merge.Template
	files typeset.Files
}

// kept is how many templates, and how many fonts, a child remembers; more fonts when a page may name more.
const kept = 64

func newDesk(o orders) *Desk {
	templates, err := lru.New[string, *folder](kept)
	if err != nil {
		panic(err) // the size is positive
	}
	fonts, err := lru.New[string, *typeset.Font](kept)
	if err != nil {
		panic(err) // the size is positive
	}
	return &Desk{orders: o, templates: templates, fonts: fonts}
}

// Keep takes goods in.
func (d *Desk) Keep(g Goods, _ *struct{}) error {
	if g.Font != nil {
		f, err := typeset.OpenFont(g.Name, g.Font)
		if err != nil {
			return err
		}
		d.fonts.Add(g.Key, f)
		return nil
	}
	m := fstest.MapFS{}
	for name, data := range g.Files {
		m[name] = &fstest.MapFile{Data: data, Mode: 0o444}
	}
	t, err := merge.Open(g.Name, m)
	if err != nil {
		return err
	}
	d.templates.Add(g.Key, &folder{t, g.Files})
	return nil
}

// template finds one that is kept, or tells that it is wanted.
func (d *Desk) template(key string, w *Wanting) *folder {
	t, ok := d.templates.Get(key)
	if !ok {
		w.Lacks = append(w.Lacks, key)
		return nil
	}
	return t
}

// Set sets a page.
func (d *Desk) Set(p Page, out *Pages) error {
	allow(d.orders)
	o := typeset.Options{
		Name: "page.html", Limits: p.Limits, Paper: p.Options.Paper, Margins: p.Options.Margins, Header: p.Options.Header, Footer: p.Options.Footer,
		Watermark: p.Options.Watermark, Date: p.Options.Date, TraceBreaks: p.Options.TraceBreaks, Probe: p.Options.Probe,
	}
	o.Limits.Heap = Heap(d.Memory)
	d.fonts.Resize(max(kept, len(p.Fonts))) // else the first are forgotten before the last have come
	for _, key := range p.Fonts {
		f, ok := d.fonts.Get(key)
		if !ok {
			out.Lacks = append(out.Lacks, key)
		}
		o.Fonts = append(o.Fonts, f)
	}
	var t *folder
	if p.Template != "" {
		t = d.template(p.Template, &out.Wanting)
	}
	if len(out.Lacks) > 0 {
		return nil
	}
	if t == nil {
		return set(p, p.HTML, o, out)
	}
	o.Name, o.Loader = t.Manifest.Page, t.files
	return fill(p, t.Template, o, out)
}

// fill merges a record into a template and sets it.
func fill(p Page, t *merge.Template, o typeset.Options, out *Pages) error {
	t, err := t.On(p.Today)
	if err != nil {
		return err
	}
	r, err := recordOf(p, t)
	if err != nil {
		return err
	}
	merged, err := t.Merge(r)
	if err != nil {
		return err
	}
	if err := setting.Apply(t, &o); err != nil {
		return err
	}
	if err := set(p, merged.HTML, o, out); err != nil {
		return err
	}
	differences, err := setting.Differences(t, r)
	if err != nil {
		return err
	}
	out.Findings = append(differences, out.Findings...)
	setting.Trace(out.Findings, merged, o.Name)
	setting.TraceBreaks(out.Frames, merged, o.Name)
	setting.TraceProbed(out.Probed, merged, o.Name)
	out.Keep, out.Signed = t.Manifest.Keep, t.Manifest.Signed
	if p.Options.Named {
		out.Name, err = t.FileName(r)
	}
	return err
}

func set(p Page, html []byte, o typeset.Options, out *Pages) error {
	var pdf bytes.Buffer
	doc, err := typeset.Set(context.Background(), html, o, &pdf) // the parent ends what takes too long
	if err != nil {
		return err
	}
	out.PDF, out.Document = pdf.Bytes(), *doc
	if p.Options.Merged {
		out.HTML = html
	}
	return nil
}

// recordOf is the record of a page, or the sample of its template.
func recordOf(p Page, t *merge.Template) (r record.Record, err error) {
	if p.Record != nil {
		r, err = p.Record.decode()
	} else {
		r, err = t.SampleRecord()
	}
	if err != nil {
		return r, err
	}
	if _, given := r.Data["document"]; !given && p.Preview != nil {
		r.Data["document"] = anyMap(p.Preview)
	}
	return r, nil
}

func anyMap(m map[string]string) map[string]any {
	out := make(map[string]any, len(m))
	for k, v := range m {
		out[k] = v
	}
	return out
}

func (r Record) decode() (record.Record, error) {
	out, err := record.FromJSON(r.Data, r.Number)
	if err != nil {
		return out, fmt.Errorf("the record is not a JSON object: %w", err)
	}
	if r.Document != nil {
		out.Data["document"] = anyMap(r.Document)
	}
	return out, nil
}

// Fill fills patterns with a record.
func (d *Desk) Fill(in Texts, out *Filled) error {
	allow(d.orders)
	t := d.template(in.Template, &out.Wanting)
	if t == nil {
		return nil
	}
	r, err := in.Record.decode()
	if err != nil {
		return err
	}
	for _, pattern := range in.Patterns {
		text, err := t.Text(pattern, r)
		if err != nil {
			return err
		}
		out.Texts = append(out.Texts, text)
	}
	return nil
}

// Check holds records against the schema of a template.
func (d *Desk) Check(in Checks, out *Faults) error {
	allow(d.orders)
	t := d.template(in.Template, &out.Wanting)
	if t == nil {
		return nil
	}
	for _, row := range in.Records {
		fault := ""
		r, err := row.decode()
		if err == nil {
			err = t.Check(r)
		}
		if err != nil {
			fault = err.Error()
		}
		out.Faults = append(out.Faults, fault)
	}
	return nil
}

// About tells of a template.
func (d *Desk) About(key string, out *About) error {
	allow(d.orders)
	if t := d.template(key, &out.Wanting); t != nil {
		out.Manifest, out.Fields = t.Manifest, t.Fields()
	}
	return nil
}

// Font looks at a font file.
func (d *Desk) Font(in FontFile, out *FontFace) error {
	allow(d.orders)
	f, err := typeset.OpenFont(in.Name, in.Data)
	if err == nil {
		*out = FontFace{f.Family, f.MinWeight, f.MaxWeight, f.Italic}
	}
	return err
}
