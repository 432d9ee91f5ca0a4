package press

import (
	"context"
	"io"
	"io/fs"
	"log/slog"
	"os"
	"testing"
	"time"

	"oliveledger/internal/collect"
	"oliveledger/typeset"
)

// invoice gives the demo's invoice with its record.
func invoice(b testing.TB) (Page, Supply) {
	b.Helper()
	dir := os.DirFS("../../demo/templates/mooring-invoice")
	g := Goods{Key: "k", Name: "mooring-invoice", Files: map[string][]byte{}}
	err := fs.WalkDir(dir, ".", func(p string, e fs.DirEntry, err error) error {
		if err == nil && !e.IsDir() {
			g.Files[p], err = fs.ReadFile(dir, p)
		}
		return err
	})
	if err != nil {
		b.Fatal(err)
	}
	page := Page{Template: "k", Record: &Record{Number: 1, Data: g.Files["sample.json"]}, Limits: typeset.Limits{Pages: 5000, Time: time.Minute, Elements: 500_000}}
	return page, func(context.Context, string) (Goods, error) { return g, nil }
}

// BenchmarkSet sets the demo's invoice in this process, and in a child: the difference is what the
// way there costs.
func BenchmarkSet(b *testing.B) {
	collect.BySize(collect.Alone) // as the command has it
	page, supply := invoice(b)
	b.Run("here", func(b *testing.B) {
		d := newDesk(orders{512 << 20, time.Minute})
		g, _ := supply(context.Background(), "k")
		if err := d.Keep(g, nil); err != nil {
			b.Fatal(err)
		}
		for b.Loop() {
			var out Pages
			if err := d.Set(page, &out); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("child", func(b *testing.B) {
		p, err := New(Config{Size: 1, Memory: 512 << 20, Time: time.Minute, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
		if err != nil {
			b.Fatal(err)
		}
		defer p.Close()
		for b.Loop() {
			if _, err := p.Set(context.Background(), page, supply); err != nil {
				b.Fatal(err)
			}
		}
	})
}

func BenchmarkAbout(b *testing.B) {
	_, supply := invoice(b)
	p, _ := New(Config{Size: 1, Memory: 512 << 20, Time: time.Minute, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	defer p.Close()
	for b.Loop() {
		p.About(context.Background(), "k", supply)
	}
}
