package service_test

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// worker starts a process that works beside a service.
func worker(t *testing.T, olive, data string) *exec.Cmd {
	t.Helper()
	c := exec.Command(olive, "worker", "--data", data, "--workers", "2")
	out, err := c.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, c.Start())
	t.Cleanup(func() { c.Process.Kill(); c.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	require.Contains(t, line, "is ready")
	return c
}

// until waits for something to hold.
func until(t *testing.T, what string, holds func() bool) {
	t.Helper()
	for end := time.Now().Add(2 * time.Minute); time.Now().Before(end); time.Sleep(20 * time.Millisecond) {
		if holds() {
			return
		}
	}
	t.Fatal("this did not come: " + what)
}

// TestKilledWorker kills a worker in the middle of a batch: the other one
// finishes it, and every record has its document once, with numbers without
// gaps.
func TestKilledWorker(t *testing.T) {
	olive := filepath.Join(t.TempDir(), "olive")
	out, err := exec.Command("go", "build", "-o", olive, "../../cmd/olive").CombinedOutput()
	require.NoError(t, err, string(out))
	data := t.TempDir()
	s := servicetest.Start(t, data, func(c *service.Config) { c.Workers = -1 })
	ctx := context.Background()
	_, err = s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	const n = 400
	set := people(t, s, n)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "cards", Pattern: "C-{number:4}"})
	require.NoError(t, err)
	first := worker(t, olive, data)
	b, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: set, Series: "cards"}, "")
	require.NoError(t, err)
	until(t, "some documents", func() bool {
		b, err = s.Client.Batch(ctx, b.ID)
		require.NoError(t, err)
		return b.Done > 20
	})
	require.NoError(t, first.Process.Kill())
	first.Wait()
	require.NoError(t, base(t, data).Store.DB().Exec("UPDATE batch_items SET not_before = NOW() WHERE state = 'claimed'").Error) // the leases end
	worker(t, olive, data)
	b, err = s.Client.Follow(ctx, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	assert.Equal(t, "done", b.State)
	assert.Equal(t, n, b.Done)
	seen, numbers := map[int]bool{}, map[string]bool{}
	for at := 0; at < n; at += 200 {
		list, err := s.Client.Documents(ctx, client.Find{Filter: map[string]string{"batch": strconv.FormatUint(b.ID, 10)}, Limit: 200, Offset: at, Sort: "number"})
		require.NoError(t, err)
		require.Equal(t, n, list.Total, "none is doubled, none is missing")
		for _, d := range list.Items {
			seen[d.Record], numbers[d.Number] = true, true
		}
	}
	assert.Len(t, seen, n)
	one, err := s.Client.Documents(ctx, client.Find{Filter: map[string]string{"batch": strconv.FormatUint(b.ID, 10)}, Limit: 5, Sort: "number"})
	require.NoError(t, err)
	for i, d := range one.Items {
		assert.Equal(t, i+1, d.Record, "numbers follow the order of the records")
	}
	for i := 1; i <= n; i++ {
		require.Contains(t, numbers, fmt.Sprintf("C-%04d", i))
	}
	v, err := s.Client.VerifyLedger(ctx)
	require.NoError(t, err)
	assert.True(t, v.Sound)
	assert.Equal(t, n, v.Rows)
}

func TestBatches(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	set, err := s.Client.Import(ctx, "mixed.ndjson", nil, strings.NewReader(`{"name":"Ada","price":1}
{"name":"Bo"}
{"name":"Cy","price":3}
`))
	require.NoError(t, err)

	b, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: set.ID}, "batch-1")
	require.NoError(t, err)
	again, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: set.ID}, "batch-1")
	require.NoError(t, err)
	assert.Equal(t, b.ID, again.ID)
	steps := 0
	b, err = s.Client.Follow(ctx, b.ID, func(client.Batch) { steps++ })
	require.NoError(t, err)
	assert.Positive(t, steps)
	assert.Equal(t, 2, b.Done)
	assert.Equal(t, 1, b.Failed)
	items, err := s.Client.Items(ctx, b.ID, client.Find{Filter: map[string]string{"state": "failed"}})
	require.NoError(t, err)
	require.Len(t, items.Items, 1)
	assert.Equal(t, 2, items.Items[0].Record)
	assert.Equal(t, 1, items.Items[0].Tries, "what cannot work is not tried again")
	assert.Contains(t, items.Items[0].Error, "price")
	done, err := s.Client.Items(ctx, b.ID, client.Find{Filter: map[string]string{"state": "done"}})
	require.NoError(t, err)
	history, err := s.Client.History(ctx, done.Items[0].Document, client.Find{})
	require.NoError(t, err)
	require.Len(t, history.Items, 1)
	assert.Equal(t, "document.made", history.Items[0].Action)
	assert.Equal(t, fmt.Sprintf("by batch %d from record 1", b.ID), history.Items[0].Detail)

	_, err = s.Client.SaveRecord(ctx, set.ID, 2, 0, []byte(`{"name":"Bo","price":2}`))
	require.NoError(t, err)
	_, err = s.Client.RetryBatch(ctx, b.ID)
	require.NoError(t, err)
	b, err = s.Client.Follow(ctx, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	assert.Equal(t, 3, b.Done)
	assert.Zero(t, b.Failed)

	var file bytes.Buffer
	require.NoError(t, s.Client.BatchFile(ctx, b.ID, "zip", false, &file))
	z, err := zip.NewReader(bytes.NewReader(file.Bytes()), int64(file.Len()))
	require.NoError(t, err)
	require.Len(t, z.File, 3)
	assert.Equal(t, "Bo.pdf", z.File[1].Name)
	file.Reset()
	require.NoError(t, s.Client.BatchFile(ctx, b.ID, "pdf", true, &file))
	name := filepath.Join(t.TempDir(), "all.pdf")
	require.NoError(t, os.WriteFile(name, file.Bytes(), 0o600))
	info, err := exec.Command("pdfinfo", name).Output()
	require.NoError(t, err)
	assert.Regexp(t, `Pages: +5`, string(info), "each begins on a right-hand page")

	_, whole, _ := withKey(t, s, http.MethodGet, fmt.Sprintf("/api/v1/batches/%d/events", b.ID), "")
	assert.Regexp(t, `^event: progress\nid: \d+-3-0\ndata: \{.*"done":3.*\}\n\nevent: end\ndata: \{\}\n\n$`, whole)
	seen := regexp.MustCompile(`id: (\S+)`).FindStringSubmatch(whole)[1]
	_, rest, _ := withKey(t, s, http.MethodGet, fmt.Sprintf("/api/v1/batches/%d/events", b.ID), "", "Last-Event-ID", seen)
	assert.Equal(t, ": still here\n\nevent: end\ndata: {}\n\n", rest, "what was heard is not said again")

	some, err := s.Client.Documents(ctx, client.Find{Limit: 2, Sort: "id"})
	require.NoError(t, err)
	ids := []uint64{some.Items[1].ID, some.Items[0].ID, some.Items[0].ID}
	file.Reset()
	require.NoError(t, s.Client.DocumentsFile(ctx, ids, "zip", &file))
	z, err = zip.NewReader(bytes.NewReader(file.Bytes()), int64(file.Len()))
	require.NoError(t, err)
	require.Len(t, z.File, 3)
	assert.Equal(t, []string{some.Items[1].Name, some.Items[0].Name, "2-" + some.Items[0].Name}, []string{z.File[0].Name, z.File[1].Name, z.File[2].Name}, "in the order asked for")
	file.Reset()
	require.NoError(t, s.Client.DocumentsFile(ctx, ids, "bound", &file))
	require.NoError(t, os.WriteFile(name, file.Bytes(), 0o600))
	info, err = exec.Command("pdfinfo", name).Output()
	require.NoError(t, err)
	assert.Regexp(t, `Pages: +3`, string(info))
	assert.ErrorContains(t, s.Client.DocumentsFile(ctx, []uint64{ids[0], 999}, "zip", io.Discard), "document 999: there is none (404")
	assert.ErrorContains(t, s.Client.DocumentsFile(ctx, nil, "zip", io.Discard), `ids "" are not numbers of documents with commas between them (400`)
	assert.ErrorContains(t, s.Client.DocumentsFile(ctx, slices.Repeat(ids[:1], 101), "zip", io.Discard), "at most 100 documents are sent together (400")

	big := people(t, s, 300)
	slow := fstest.MapFS{"page.html": {Data: []byte("<p>{{.name}}</p>" + strings.Repeat("<p style='break-before: page'>x</p>", 40))}}
	_, err = s.Client.Push(ctx, "slow", "", slow)
	require.NoError(t, err)
	b, err = s.Client.StartBatch(ctx, client.BatchOrder{Template: "slow", RecordSet: big}, "")
	require.NoError(t, err)
	quick, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: set.ID, Priority: 5}, "")
	require.NoError(t, err)
	quick, err = s.Client.Follow(ctx, quick.ID, func(client.Batch) {})
	require.NoError(t, err)
	assert.Equal(t, 3, quick.Done)
	b, err = s.Client.Batch(ctx, b.ID)
	require.NoError(t, err)
	assert.Equal(t, "running", b.State, "a batch ends while another goes on")
	b, err = s.Client.SetBatch(ctx, b.ID, "paused", nil)
	require.NoError(t, err)
	time.Sleep(1500 * time.Millisecond) // what was claimed ends
	one, err := s.Client.Batch(ctx, b.ID)
	require.NoError(t, err)
	time.Sleep(500 * time.Millisecond)
	two, err := s.Client.Batch(ctx, b.ID)
	require.NoError(t, err)
	assert.Equal(t, one.Done, two.Done, "nothing is made meanwhile")
	assert.Less(t, two.Done, 300)
	assert.Equal(t, 409, status(t, s.Client.DropRecordSet(ctx, big)))
	urgent := 9
	_, err = s.Client.SetBatch(ctx, b.ID, "running", &urgent)
	require.NoError(t, err)
	b, err = s.Client.SetBatch(ctx, b.ID, "cancelled", nil)
	require.NoError(t, err)
	assert.Equal(t, "cancelled", b.State)
	_, err = s.Client.SetBatch(ctx, b.ID, "running", nil)
	assert.Equal(t, 409, status(t, err))
	list, err := s.Client.Batches(ctx, client.Find{Filter: map[string]string{"state": "cancelled"}})
	require.NoError(t, err)
	assert.Equal(t, 1, list.Total)
	_, err = s.Client.StartBatch(ctx, client.BatchOrder{Template: "none", RecordSet: big}, "")
	assert.Equal(t, 404, status(t, err))
	_, err = s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: 99}, "")
	assert.Equal(t, 422, status(t, err))
	_, err = s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: big, Records: []int{1, 9999}}, "")
	assert.Equal(t, 409, status(t, err))
}

// TestPoisonIsSetAside lets a worker be lost twice over the same item: it is named and set aside, and the others
// are made.
func TestPoisonIsSetAside(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data, func(c *service.Config) { c.Workers = -1 })
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	b, err := s.Client.StartBatch(ctx, client.BatchOrder{Template: "card", RecordSet: people(t, s, 3)}, "")
	require.NoError(t, err)
	st := base(t, data).Store
	lose := func() { // the process is gone, and its leases end
		require.NoError(t, st.DB().Exec("UPDATE batch_items SET not_before = NOW() - INTERVAL 1 MINUTE WHERE state = 'claimed'").Error)
	}
	first, err := st.Claim("one", 10, time.Minute)
	require.NoError(t, err)
	require.Len(t, first, 3)
	lose()
	again, err := st.Claim("two", 10, time.Minute)
	require.NoError(t, err)
	require.Len(t, again, 3, "it is not known which of them it was")
	assert.Equal(t, 1, again[1].Item.Losses)
	require.NoError(t, st.Begin(again[1]))
	lose()
	others, err := st.Claim("three", 10, time.Minute)
	require.NoError(t, err)
	require.Len(t, others, 2)
	assert.Equal(t, []int{1, 3}, []int{others[0].Item.Record, others[1].Item.Record})
	items, err := s.Client.Items(ctx, b.ID, client.Find{Filter: map[string]string{"state": "failed"}})
	require.NoError(t, err)
	require.Len(t, items.Items, 1)
	assert.Equal(t, 2, items.Items[0].Record)
	assert.Contains(t, items.Items[0].Error, "lost twice")
	_, n, err := st.RetryFailed(b.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n, "a person may give it another turn")
}

// TestTrial looks at what a batch would make: numbers, names and what fails, and nothing is kept or taken.
func TestTrial(t *testing.T) {
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	_, err = s.Client.AddSeries(ctx, client.Series{Name: "cards", Pattern: "C-{number:3}", Next: 7})
	require.NoError(t, err)
	set := people(t, s, 12)
	_, err = s.Client.SaveRecord(ctx, set, 2, 0, []byte(`{"price":1}`)) // it lacks the name
	require.NoError(t, err)
	o := client.BatchOrder{Template: "card", RecordSet: set, Series: "cards"}
	first, err := s.Client.TryBatch(ctx, o)
	require.NoError(t, err)
	require.Len(t, first.Items, 10)
	assert.Equal(t, []any{1, "C-007", 1, ""}, []any{first.Items[0].Record, first.Items[0].Number, first.Items[0].Pages, first.Items[0].Error})
	assert.Contains(t, first.Items[1].Error, `"name"`)
	assert.Equal(t, "C-016", first.Items[9].Number)
	again, err := s.Client.TryBatch(ctx, o)
	require.NoError(t, err)
	assert.Equal(t, first, again, "no number was taken")
	list, err := s.Client.Documents(ctx, client.Find{})
	require.NoError(t, err)
	assert.Zero(t, list.Total)

	b, err := s.Client.StartBatch(ctx, o, "")
	require.NoError(t, err)
	_, err = s.Client.Follow(ctx, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	made, err := s.Client.Documents(ctx, client.Find{Sort: "id"})
	require.NoError(t, err)
	assert.Equal(t, 11, made.Total)
	assert.True(t, slices.ContainsFunc(made.Items, func(d client.Document) bool { return d.Name == first.Items[0].Name && d.Record == 1 }))

	o.Records, o.Draft = []int{12, 3}, true
	some, err := s.Client.TryBatch(ctx, o)
	require.NoError(t, err)
	require.Len(t, some.Items, 2)
	assert.Equal(t, []any{3, ""}, []any{some.Items[0].Record, some.Items[0].Number}, "drafts have no numbers yet")
	for why, o := range map[string]client.BatchOrder{
		"there is no number series": {Template: "card", RecordSet: set, Series: "boats"},
		"has no such record":        {Template: "card", RecordSet: set, Records: []int{99}},
		"there is no record set":    {Template: "card", RecordSet: 99},
	} {
		_, err := s.Client.TryBatch(ctx, o)
		require.ErrorContains(t, err, why)
	}
}
