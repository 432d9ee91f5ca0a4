package store_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"oliveledger/internal/service"
	"oliveledger/internal/service/store"
)

const many = 100_000

// filled is a store with many documents, without their bytes.
func filled(b *testing.B) *store.Store {
	b.Helper()
	const group = 1000
	base, err := service.OpenBase(context.Background(), service.Config{Data: b.TempDir()})
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(base.Close)
	st := base.Store
	if err := st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}); err != nil {
		b.Fatal(err)
	}
	for at := range many / group {
		list := make([]*store.Keeping, group)
		for i := range list {
			data := fmt.Sprintf(`{"name":"Boat %d","town":"Town %d","text":"%0800d"}`, at*group+i, i%50, 0)
			list[i] = &store.Keeping{
				Document: &store.Document{Name: "card.pdf", Series: "cards", State: store.Issued, Data: data, RecordSHA256: store.SumOf(data), SHA256: store.SumOf("pdf"), CreatedAt: time.Now()},
				Set:      func(*store.Document) error { return nil },
			}
		}
		if err := st.AddAll(list); err != nil {
			b.Fatal(err)
		}
	}
	return st
}

// BenchmarkSearch finds one of many documents, and a page of the many that hold a word.
func BenchmarkSearch(b *testing.B) {
	st := filled(b)
	for _, text := range []string{"77123", "Town 17", "C-4711", "nothing"} {
		b.Run(text, func(b *testing.B) {
			for b.Loop() {
				if _, _, err := st.Documents(store.DocumentFilter{Search: text}, store.Page{Limit: 50}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkVerify reads the whole ledger.
func BenchmarkVerify(b *testing.B) {
	st := filled(b)
	for b.Loop() {
		v, err := st.Verify(1, func(string) error { return nil })
		if err != nil || !v.Sound || v.Rows != many {
			b.Fatalf("%d rows: %v %v", v.Rows, err, v.Faults)
		}
	}
	b.ReportMetric(many*float64(b.N)/b.Elapsed().Seconds(), "rows/s")
}
