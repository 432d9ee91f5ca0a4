package store_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"oliveledger/internal/service"
	"oliveledger/internal/service/store"
)

// BenchmarkVerify reads a ledger of 100,000 documents, without their bytes.
func BenchmarkVerify(b *testing.B) {
	const n, group = 100_000, 1000
	base, err := service.OpenBase(context.Background(), service.Config{Data: b.TempDir()})
	if err != nil {
		b.Fatal(err)
	}
	defer base.Close()
	st := base.Store
	if err := st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}); err != nil {
		b.Fatal(err)
	}
	data := fmt.Sprintf(`{"name":"Boat","text":"%01000d"}`, 0)
	for range n / group {
		list := make([]*store.Keeping, group)
		for i := range list {
			list[i] = &store.Keeping{Document: &store.Document{Name: "card.pdf", Series: "cards", State: store.Issued, Data: data, RecordSHA256: store.SumOf(data), SHA256: store.SumOf("pdf"), CreatedAt: time.Now()},
				Set: func(*store.Document) error { return nil }}
		}
		if err := st.AddAll(list); err != nil {
			b.Fatal(err)
		}
	}
	for b.Loop() {
		v, err := st.Verify(1, func(string) error { return nil })
		if err != nil || !v.Sound || v.Rows != n {
			b.Fatalf("%d rows: %v %v", v.Rows, err, v.Faults)
		}
	}
	b.ReportMetric(n*float64(b.N)/b.Elapsed().Seconds(), "rows/s")
}
