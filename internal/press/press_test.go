package press

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/rpc"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// probing has the test's program confine itself and tell what it can still do.
const probing = "OLIVE_PRESS_PROBE"

func TestMain(m *testing.M) {
	if os.Getenv(probing) != "" {
		probe()
		return
	}
	Child() // the test's own program is what children are started from
	os.Exit(m.Run())
}

func probe() {
	if err := confine(orders{Memory: 256 << 20, Time: time.Second}); err != nil {
		fmt.Println("confine:", err)
	}
	try := func(what string, err error) { fmt.Printf("%s: %t\n", what, err == nil) }
	_, err := os.ReadFile("/etc/hostname")
	try("read a file", err)
	_, err = os.Create("made")
	try("make a file", err)
	c, err := net.Dial("tcp", os.Getenv(probing))
	if err == nil {
		c.Close()
	}
	try("reach the network", err)
	try("start a program", exec.Command(os.Args[0], "-test.run=^$").Run())
	for range 8 { // as the runtime starts them when the machine is busy
		go func() {
			runtime.LockOSThread()
			time.Sleep(time.Hour)
		}()
	}
	time.Sleep(100 * time.Millisecond)
	hold(180)
	hold(400)
}

// hold fills so many megabytes.
func hold(megabytes int) {
	clear(make([]byte, megabytes<<20))
	fmt.Printf("hold %d MB: true\n", megabytes)
}

// TestConfined looks at a confined process from inside.
func TestConfined(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	c := exec.Command(os.Args[0])
	c.Env, c.Dir = []string{probing + "=" + l.Addr().String(), oneHeap}, t.TempDir()
	out, err := c.CombinedOutput()
	assert.Error(t, err, "it ends when it asks for too much memory")
	said := string(out)
	for _, what := range []string{"read a file: false\n", "make a file: false\n", "reach the network: false\n", "start a program: false\n", "out of memory"} {
		assert.Contains(t, said, what)
	}
	assert.Contains(t, said, "hold 180 MB: true", "threads do not count as memory")
	assert.NotContains(t, said, "hold 400 MB")
}

// pool starts one with a single child, so that what comes after trouble meets the same place.
func pool(t *testing.T, memory int64, limit time.Duration) *Pool {
	t.Helper()
	p, err := New(Config{Size: 1, Memory: memory << 20, Time: limit, Log: slog.New(slog.NewTextHandler(t.Output(), nil))})
	require.NoError(t, err)
	t.Cleanup(p.Close)
	return p
}

var limits = typeset.Limits{Pages: 100, Time: time.Second}

// html is a page with limits.
func html(text string) Page { return Page{HTML: []byte("<!DOCTYPE html>" + text), Limits: limits} }

// still sets a plain page.
func still(t *testing.T, p *Pool) {
	t.Helper()
	out, err := p.Set(context.Background(), html("<title>Quay</title><p>Quay"), nil)
	require.NoError(t, err)
	assert.Equal(t, "Quay", out.Title)
	assert.Equal(t, 1, out.Document.Pages)
	assert.True(t, bytes.HasPrefix(out.PDF, []byte("%PDF-")))
}

// template gives the files of one, and counts how often they are asked for.
func template(page string) (Supply, *int) {
	asked := new(int)
	files := map[string][]byte{
		"page.html": []byte(page), "template.yaml": []byte("title: Card\nfilename: '{{.name}}.pdf'\nsample: sample.json\nschema: schema.json\ngiven: {house: {name: Quay, open: [4, null, 2.5]}}\n"),
		"sample.json": []byte(`{"name": "Ann"}`), "schema.json": []byte(`{"properties": {"berth": {"type": "integer"}}}`),
	}
	return func(_ context.Context, key string) (Goods, error) {
		*asked++
		return Goods{Key: key, Name: "card", Files: files}, nil
	}, asked
}

func TestSet(t *testing.T) {
	p := pool(t, 512, time.Minute)
	supply, asked := template(`<title>{{.name}} {{.document.number}}</title><p>{{.name}}`)
	page := Page{Template: "k", Limits: limits, Preview: map[string]string{"number": "PREVIEW"}, Options: Options{Named: true, Merged: true}}
	sample, err := p.Set(context.Background(), page, supply)
	require.NoError(t, err)
	assert.Equal(t, "Ann PREVIEW", sample.Title)
	assert.Equal(t, "Ann.pdf", sample.Name)
	assert.Contains(t, string(sample.HTML), "<p>Ann")

	page.Record = &Record{Number: 2, Data: []byte(`{"name": "Bo", "document": {"number": "own"}}`)}
	own, err := p.Set(context.Background(), page, supply)
	require.NoError(t, err)
	assert.Equal(t, "Bo own", own.Title, "a preview leaves the record's own field")
	page.Record.Document = map[string]string{"number": "I-7"}
	given, err := p.Set(context.Background(), page, supply)
	require.NoError(t, err)
	assert.Equal(t, "Bo I-7", given.Title, "the ledger's wins")
	assert.Equal(t, 1, *asked, "a child keeps what it was brought")

	d := newDesk(p.orders())
	g, _ := supply(context.Background(), "k")
	require.NoError(t, d.Keep(g, nil))
	var here Pages
	require.NoError(t, d.Set(page, &here))
	assert.Equal(t, here.PDF, given.PDF, "the bytes are the same wherever it is set")

	page.Record.Data = []byte(`[]`)
	_, err = p.Set(context.Background(), page, supply)
	assert.ErrorContains(t, err, "the record is not a JSON object")
	_, err = p.Set(context.Background(), Page{Template: "other", Limits: limits}, func(context.Context, string) (Goods, error) { return Goods{}, errors.New("nothing there") })
	assert.EqualError(t, err, "nothing there")
	still(t, p)
}

func TestTemplateTells(t *testing.T) {
	p, ctx := pool(t, 512, time.Minute), context.Background()
	supply, _ := template(`<p>{{.name}} {{.berth}}`)
	about, err := p.About(ctx, "k", supply)
	require.NoError(t, err)
	assert.Equal(t, "Card", about.Manifest.Title)
	assert.Equal(t, []string{"berth", "name"}, about.Fields)
	assert.Equal(t, merge.Given{"house": map[string]any{"name": "Quay", "open": []any{4.0, nil, 2.5}}}, about.Manifest.Given)
	broken, _ := template(`{{if}}`)
	_, err = p.About(ctx, "broken", broken)
	assert.ErrorContains(t, err, "missing value for if")

	texts, err := p.Fill(ctx, Texts{Template: "k", Record: Record{Number: 1, Data: []byte(`{"name": "Bo"}`)}, Patterns: []string{"for {{.name}}", "plain"}}, supply)
	require.NoError(t, err)
	assert.Equal(t, []string{"for Bo", "plain"}, texts)
	faults, err := p.Check(ctx, Checks{Template: "k", Records: []Record{{Number: 1, Data: []byte(`{"berth": 4}`)}, {Number: 2, Data: []byte(`{"berth": "x"}`)}}}, supply)
	require.NoError(t, err)
	require.Len(t, faults, 2)
	assert.Empty(t, faults[0])
	assert.Contains(t, faults[1], "berth")
}

// endless is a template that does not come to its end.
const endless = `{{range 90000}}{{range 90000}}{{end}}{{end}}`

// TestWorkEndsOnlyItself gives children what ends them.
func TestWorkEndsOnlyItself(t *testing.T) {
	t.Run("time", func(t *testing.T) {
		p := pool(t, 512, time.Second)
		supply, _ := template(endless)
		start := time.Now()
		_, err := p.Set(context.Background(), Page{Template: "k", Limits: limits}, supply)
		var ended *Ended
		require.ErrorAs(t, err, &ended)
		assert.ErrorContains(t, err, "longer than the 1s")
		assert.Less(t, time.Since(start), 4*time.Second)
		still(t, p)
	})
	t.Run("memory", func(t *testing.T) {
		p := pool(t, 192, 20*time.Second)
		supply, _ := template(`{{range 90000}}{{range 90000}}<p>a line of a page that does not end{{end}}{{end}}`)
		_, err := p.Set(context.Background(), Page{Template: "k", Limits: limits}, supply)
		assert.ErrorContains(t, err, "more than the 192 MB of memory")
		still(t, p)
	})
	t.Run("caller", func(t *testing.T) {
		p := pool(t, 512, time.Minute)
		supply, _ := template(endless)
		ctx, gone := context.WithTimeoutCause(context.Background(), 300*time.Millisecond, errors.New("the caller has gone"))
		defer gone()
		start := time.Now()
		_, err := p.Set(ctx, Page{Template: "k", Limits: limits}, supply)
		assert.EqualError(t, err, "the caller has gone")
		assert.Less(t, time.Since(start), 5*time.Second)
		still(t, p)
	})
	t.Run("fault", func(t *testing.T) {
		p := pool(t, 512, time.Minute)
		still(t, p)
		require.NoError(t, p.idle[0].cmd.Process.Kill()) // as the system does when its memory is short
		_, err := p.Set(context.Background(), html("<p>x"), nil)
		assert.ErrorContains(t, err, "memory")
		still(t, p)
	})
}

// TestWhy has children say why they end.
// An answer that cannot be written ends the child, so that its parent does not wait for the rest.
func TestAnswersThatCannotBeWritten(t *testing.T) {
	var out bytes.Buffer
	c := newCodec(strings.NewReader(""), &out)
	require.NoError(t, c.WriteResponse(&rpc.Response{Seq: 1}, "told"))
	assert.False(t, c.over)
	assert.NotZero(t, out.Len())
	assert.Error(t, c.WriteResponse(&rpc.Response{Seq: 2}, map[string]any{"of": struct{ unknown int }{1}}))
	assert.True(t, c.over)
}

func TestWhy(t *testing.T) {
	const memory = "the work on it needs more than the 1 MB of memory that a document may take (--max-memory)"
	for said, want := range map[string]string{
		"fatal error: runtime: out of memory":                                                     memory,
		"fatal error: runtime: cannot allocate memory":                                            memory,
		"fatal error: runtime: cannot map pages in arena address space":                           memory,
		"runtime: failed to create new OS thread (have 9 already; errno=11)":                      memory,
		"runtime/cgo: pthread_create failed: Resource temporarily unavailable\nSIGABRT: abort":    memory,
		"panic: runtime error: index out of range [3] with length 3\n\ngoroutine 1 [running]:\n…": "the process that worked on it ended: panic: runtime error: index out of range [3] with length 3",
	} {
		p := &process{orders: orders{Memory: 1 << 20}, cmd: exec.Command("sh", "-c", `printf '%s' "$0" >&2; exit 2`, said)}
		p.cmd.Stderr = &p.says
		require.Error(t, p.cmd.Run())
		assert.EqualError(t, p.why(), want)
	}
}

func TestFont(t *testing.T) {
	p := pool(t, 512, time.Minute)
	data, err := os.ReadFile("../../demo/templates/mooring-invoice/fonts/source-sans-3-latin-700-normal.woff2")
	require.NoError(t, err)
	f, err := p.Font(context.Background(), FontFile{"sans.woff2", data})
	require.NoError(t, err)
	assert.Equal(t, FontFace{Family: "Source Sans 3", MinWeight: 700, MaxWeight: 700}, f)
	_, err = p.Font(context.Background(), FontFile{"x.ttf", []byte("no font")})
	assert.ErrorContains(t, err, "x.ttf")
	still(t, p)
}

// readAll reads a file in a child.
func readAll(p *Pool, in Reading, text string) (rows, bad, notes []string, err error) {
	err = p.Records(context.Background(), in, strings.NewReader(text), func(name string, data []byte) error {
		rows = append(rows, name+" "+string(data))
		return nil
	}, func(b, n []string) { bad, notes = append(bad, b...), append(notes, n...) })
	return rows, bad, notes, err
}

func TestRecords(t *testing.T) {
	p := pool(t, 512, time.Minute)
	var text strings.Builder
	text.WriteString("number;old;rest äöü\n")
	const n = 20_000
	for i := range n {
		fmt.Fprintf(&text, "%d;%d;%s\n", i, i, strings.Repeat("x", 40))
	}
	in := Reading{Options: record.Options{Format: record.CSV, Name: "many.csv"}, Renames: record.Renames{"old": "new", "rest äöü": ""}}
	rows, _, notes, err := readAll(p, in, strings.NewReplacer("ä", "\xe4", "ö", "\xf6", "ü", "\xfc").Replace(text.String()))
	require.NoError(t, err)
	require.Len(t, rows, n)
	assert.Equal(t, `record 20000 (number 19999) {"new":"19999","number":"19999"}`, rows[n-1])
	assert.NotEmpty(t, notes)
	assert.Len(t, p.idle, 1, "the child is kept")

	lines := Reading{Options: record.Options{Format: record.NDJSON, Name: "l.ndjson"}}
	_, _, _, err = readAll(p, lines, "{\"a\":1}\n{a\n{\"a\":3}\n")
	var unreadable *Unreadable
	require.ErrorAs(t, err, &unreadable)
	assert.ErrorContains(t, err, "l.ndjson line 2")
	lines.SkipBad = true
	rows, bad, _, err := readAll(p, lines, "{\"a\":1}\n{a\n{\"a\":3}\n")
	require.NoError(t, err)
	assert.Len(t, rows, 2)
	assert.Len(t, bad, 1)
	_, _, _, err = readAll(p, lines, strings.Repeat("{a\n", 5000))
	assert.ErrorContains(t, err, "more than 100 rows cannot be read")

	enough := errors.New("enough")
	err = p.Records(context.Background(), lines, strings.NewReader(strings.Repeat("{\"a\":1}\n", 50_000)), func(string, []byte) error { return enough }, func(_, _ []string) {})
	assert.Equal(t, enough, err)
	still(t, p)
}

func TestClosedPool(t *testing.T) {
	p := pool(t, 512, time.Minute)
	still(t, p)
	child := p.idle[0].cmd
	p.Close()
	assert.NotNil(t, child.ProcessState, "its child has ended")
	_, err := p.Set(context.Background(), html("x"), nil)
	assert.ErrorContains(t, err, "ending")
	_, err = os.Stat(p.folder)
	assert.ErrorIs(t, err, os.ErrNotExist)
	p.Close() // once more does nothing
}

// A child serves many ordinary documents: garbage does not make it swell, for starting
// another costs more than to collect.
func TestAChildServesManyDocuments(t *testing.T) {
	p, err := New(Config{Size: 1, Memory: 512 << 20, Time: time.Minute, Log: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	defer p.Close()
	page, supply := invoice(t)
	first, most := 0, int64(0)
	for n := range 300 {
		_, err := p.Set(t.Context(), page, supply)
		require.NoError(t, err)
		require.Len(t, p.idle, 1, "document %d", n)
		pid := p.idle[0].cmd.Process.Pid
		if first == 0 {
			first = pid
		}
		require.Equal(t, first, pid, "document %d", n)
		most = max(most, resident(pid))
	}
	assert.Less(t, most, int64(swollen)*9/10, "there is room for larger ones")
}

// TestFoldersOfKilledProcesses asks that a pool removes what killed ones have left, and nothing else.
func TestFoldersOfKilledProcesses(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	c := exec.Command("true")
	require.NoError(t, c.Run())
	gone := filepath.Join(os.TempDir(), fmt.Sprintf("%s%d-1", folders, c.Process.Pid))
	living := filepath.Join(os.TempDir(), fmt.Sprintf("%s%d-1", folders, os.Getppid()))
	for _, dir := range []string{gone, living} {
		require.NoError(t, os.Mkdir(dir, 0o700))
	}
	clearFolders()
	assert.NoDirExists(t, gone)
	assert.DirExists(t, living)
}

// A shelf may hold more fonts than a child remembers between documents: all of a page's are there while it is set.
func TestManyFonts(t *testing.T) {
	p := pool(t, 512, time.Minute)
	page := html("<p style='font-family:Liberation Sans'>Quay")
	for i := range kept + 6 {
		page.Fonts = append(page.Fonts, fmt.Sprint("font ", i))
	}
	supply := func(_ context.Context, key string) (Goods, error) {
		return Goods{Key: key, Name: key + ".ttf", Font: liberationsansregular.TTF}, nil
	}
	for range 2 {
		out, err := p.Set(t.Context(), page, supply)
		require.NoError(t, err)
		assert.Equal(t, 1, out.Document.Pages)
	}
	still(t, p)
}
