package service_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// names lists what lies in a folder.
func names(t *testing.T, dir string) (list []string) {
	t.Helper()
	all, err := os.ReadDir(dir)
	if !os.IsNotExist(err) {
		require.NoError(t, err)
	}
	for _, e := range all {
		list = append(list, e.Name())
	}
	return list
}

// TestWatchedFolder lays record files into a folder that a service watches, and finds documents or reasons beside them.
func TestWatchedFolder(t *testing.T) {
	box, data := t.TempDir(), t.TempDir()
	lay := func(name, text string) {
		t.Helper()
		path := filepath.Join(box, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	}
	comes := func(dir string) (report string) {
		t.Helper()
		until(t, dir, func() bool {
			text, err := os.ReadFile(filepath.Join(box, dir, "report.txt"))
			report = string(text)
			return err == nil
		})
		return report
	}
	watching := func(c *service.Config) { c.WatchFolder = box }
	s := servicetest.Start(t, data, watching)
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "cards", Pattern: "C-{number:3}"})
	require.NoError(t, err)

	lay("card/options.yaml", "series: cards\ndecimal: ','\n")
	lay("card/may.csv", "name;price\nIda;12,50\nJon;3,00\n")
	report := comes("card/done/may")
	assert.Contains(t, report, "2 documents were made by batch 1.")
	assert.Equal(t, []string{"Ida.pdf", "Jon.pdf", "may.csv", "report.txt"}, names(t, filepath.Join(box, "card/done/may")))
	assert.Equal(t, []string{"done", "options.yaml", "working"}, names(t, filepath.Join(box, "card")))
	assert.Empty(t, names(t, filepath.Join(box, "card/working")))
	docs, err := s.Client.Documents(ctx, client.Find{Sort: "number"}) // both are made at the same time
	require.NoError(t, err)
	require.Len(t, docs.Items, 2)
	assert.Equal(t, []string{"C-001", "C-002"}, []string{docs.Items[0].Number, docs.Items[1].Number})
	pdf, err := os.ReadFile(filepath.Join(box, "card/done/may/Ida.pdf"))
	require.NoError(t, err)
	kept, err := s.Client.PDF(ctx, docs.Items[0].ID)
	require.NoError(t, err)
	assert.Equal(t, kept, pdf)
	events, err := s.Client.Events(ctx, client.Find{Filter: map[string]string{"who": "watched folder"}})
	require.NoError(t, err)
	assert.Len(t, events.Items, 2, "it is told who imported the records and started the batch")

	for _, test := range []struct{ file, text, ends, says string }{
		{"card/june.json", `[{"name":"Ada","price":1},{"price":2}]`, "card/failed/june", "record 2: "},
		{"card/july.json", `[{"name":"Ada"`, "card/failed/july", "What failed:\n- "},
		{"card/august.docx", "PK", "card/failed/august", "say the format"},
		{"card/may.csv", "name;price\nUte;1,00\n", "card/done/may (2)", "1 document was made"},
		{"boat/may.csv", "name\nIda\n", "boat/failed/may", `the service has no template "boat"`},
	} {
		lay(test.file, test.text)
		assert.Contains(t, comes(test.ends), test.says, test.file)
	}
	assert.Equal(t, []string{"Ada.pdf", "june.json", "report.txt"}, names(t, filepath.Join(box, "card/failed/june")), "what could be made is there")
	lay("card/options.yaml", "serie: cards\n")
	lay("card/september.csv", "name;price\nIda;1\n")
	assert.Contains(t, comes("card/failed/september"), `options.yaml has "serie", which is no option`)
	before, err := s.Client.Documents(ctx, client.Find{})
	require.NoError(t, err)

	t.Run("what was under way goes on, and nothing is made twice", func(t *testing.T) {
		s.Stop(t)
		lay("card/options.yaml", "series: cards\n")
		lay("card/working/october/october.csv", "name;price\nIda;1\n")
		lay("card/working/october/state.json", `{"file":"october.csv","key":"once","taken":"2026-10-01T08:00:00Z"}`)
		s = servicetest.Start(t, data, watching)
		assert.Contains(t, comes("card/done/october"), "1 document was made")
		lay("card/working/october/october.csv", "name;price\nIda;1\n")
		lay("card/working/october/state.json", `{"file":"october.csv","key":"once","taken":"2026-10-01T08:00:00Z"}`)
		assert.Contains(t, comes("card/done/october (2)"), "1 document was made", "as if the state had not been kept")
		after, err := s.Client.Documents(ctx, client.Find{})
		require.NoError(t, err)
		assert.Equal(t, before.Total+1, after.Total)
	})
}
