package service_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"oliveledger/client"
	"oliveledger/internal/collect"
	"oliveledger/internal/servicetest"
)

// demo starts a service that holds the demo's invoice and its records.
func demo(b *testing.B) (*servicetest.Running, *client.Client) {
	b.Helper()
	s := servicetest.Start(b, b.TempDir())
	c := client.New(s.URL, s.Key)
	if _, err := c.Push(context.Background(), "mooring-invoice", "", os.DirFS(demoInvoice)); err != nil {
		b.Fatal(err)
	}
	return s, c
}

const demoInvoice = "../../demo/templates/mooring-invoice"

// sample is the record that comes with a template.
func sample(b *testing.B, folder string) json.RawMessage {
	b.Helper()
	raw, err := os.ReadFile(filepath.Join(folder, "sample.json"))
	if err != nil {
		b.Fatal(err)
	}
	return raw
}

// BenchmarkRenderings sets the demo's invoice through the API, with a number of
// clients at once.
func BenchmarkRenderings(b *testing.B) {
	collect.BySize(collect.Alone) // as the command has it
	_, c := demo(b)
	r := client.Rendering{Template: "mooring-invoice", Record: sample(b, demoInvoice)}
	for _, clients := range []int{1, 8, 32} {
		b.Run(fmt.Sprint(clients, "clients"), func(b *testing.B) {
			var mu sync.Mutex
			var took []time.Duration
			var left atomic.Int64
			left.Store(int64(b.N))
			var all sync.WaitGroup
			b.ResetTimer()
			for range clients {
				all.Go(func() {
					for left.Add(-1) >= 0 {
						start := time.Now()
						if _, err := c.Render(context.Background(), r); err != nil {
							b.Error(err)
							return
						}
						mu.Lock()
						took = append(took, time.Since(start))
						mu.Unlock()
					}
				})
			}
			all.Wait()
			slices.Sort(took)
			if len(took) == 0 {
				return
			}
			ms := func(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }
			b.ReportMetric(float64(len(took))/b.Elapsed().Seconds(), "renderings/s")
			b.ReportMetric(ms(took[len(took)/2]), "p50-ms")
			b.ReportMetric(ms(took[len(took)*99/100]), "p99-ms")
		})
	}
}

// BenchmarkBatch makes 10,000 documents in the background, end to end: with rows, stored bytes and
// the ledger; without numbers and with those of a series.
func BenchmarkBatch(b *testing.B) {
	const n = 10_000
	collect.BySize(collect.Alone) // as the command has it
	s, c := demo(b)
	ctx := context.Background()
	if _, err := c.Push(ctx, "invoice", "", os.DirFS("../../merge/starter/invoice")); err != nil {
		b.Fatal(err)
	}
	if _, err := c.AddSeries(ctx, client.Series{Name: "bills", Pattern: "B-{number:6}"}); err != nil {
		b.Fatal(err)
	}
	for _, test := range []struct{ name, template, folder, series string }{
		{"one page", "invoice", "../../merge/starter/invoice", ""},
		{"one page, numbered", "invoice", "../../merge/starter/invoice", "bills"},
		{"two pages", "mooring-invoice", demoInvoice, ""},
		{"two pages, numbered", "mooring-invoice", demoInvoice, "bills"},
	} {
		b.Run(test.name, func(b *testing.B) {
			set := copies(b, s, test.folder, n)
			b.ResetTimer()
			for b.Loop() {
				start := time.Now()
				batch, err := c.StartBatch(ctx, client.BatchOrder{Template: test.template, RecordSet: set, Series: test.series}, "")
				if err != nil {
					b.Fatal(err)
				}
				if batch, err = c.Follow(ctx, batch.ID, func(client.Batch) {}); err != nil || batch.Done != n {
					b.Fatalf("%d of %d made: %v", batch.Done, n, err)
				}
				b.ReportMetric(n/time.Since(start).Seconds(), "documents/s")
			}
		})
	}
}

// copies imports a template's sample n times as a set, and gives its number.
func copies(b *testing.B, s *servicetest.Running, folder string, n int) uint64 {
	b.Helper()
	many := bytes.Repeat(append(bytes.TrimSpace(sample(b, folder)), ','), n)
	set, err := client.New(s.URL, s.Key).Import(context.Background(), "many.json", nil, bytes.NewReader(append(append([]byte("["), many[:len(many)-1]...), ']')))
	if err != nil {
		b.Fatal(err)
	}
	return set.ID
}
