package inbox

import (
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
)

// put writes a file below a folder.
func put(t *testing.T, dir, name, text string) string {
	t.Helper()
	path := filepath.Join(dir, name)
	require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
	require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	return path
}

// opened is an inbox on an empty folder.
func opened(t *testing.T) *Inbox {
	t.Helper()
	x, unlock, err := Open(t.TempDir(), nil, slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	t.Cleanup(unlock)
	return x
}

// jobs names what is under way, by its place below the folder.
func underWay(t *testing.T, x *Inbox) (list []string) {
	t.Helper()
	for _, j := range x.begun() {
		rel, err := filepath.Rel(x.Folder, j.at)
		require.NoError(t, err)
		list = append(list, rel)
	}
	return list
}

// TestFilesAreTakenWhenTheyAreComplete looks at a file that grows: it is taken when it has not changed for a while.
func TestFilesAreTakenWhenTheyAreComplete(t *testing.T) {
	x, start := opened(t), time.Now()
	file := put(t, x.Folder, "bill/may.csv", "name\n")
	x.fresh(start)
	x.fresh(start.Add(still - time.Millisecond))
	assert.FileExists(t, file)
	put(t, x.Folder, "bill/may.csv", "name\nIda\n")
	x.fresh(start.Add(still))
	assert.FileExists(t, file, "it has grown")
	require.NoError(t, os.Chtimes(file, start, start.Add(time.Hour)))
	x.fresh(start.Add(2 * still))
	assert.FileExists(t, file, "it was written anew")
	x.fresh(start.Add(3 * still))
	assert.NoFileExists(t, file)
	assert.Equal(t, []string{"bill/working/may"}, underWay(t, x))

	put(t, x.Folder, "bill/may.csv", "name\nJon\n")
	x.fresh(start.Add(4 * still))
	x.fresh(start.Add(5 * still))
	assert.Equal(t, []string{"bill/working/may", "bill/working/may (2)"}, underWay(t, x), "another of the same name gets a number")
	s, err := x.begun()[1].read()
	require.NoError(t, err)
	assert.Equal(t, "may.csv", s.File)
	first, err := x.begun()[0].read()
	require.NoError(t, err)
	assert.NotEqual(t, first.Key, s.Key)
}

// TestWhatIsNotOffered: options, hidden files and those that are still written under another name stay where they are.
func TestWhatIsNotOffered(t *testing.T) {
	x, start := opened(t), time.Now()
	for _, name := range []string{"options.yaml", ".may.csv", "~$may.xlsx", "may.csv.part", "may.csv.TMP", "may.crdownload"} {
		put(t, x.Folder, "bill/"+name, "x")
	}
	put(t, x.Folder, "bill/done/may/may.csv", "x")
	put(t, x.Folder, "loose.csv", "x")
	put(t, x.Folder, ".trash/may.csv", "x")
	require.NoError(t, os.Symlink("/etc/hostname", filepath.Join(x.Folder, "bill", "linked.csv")))
	x.fresh(start)
	x.fresh(start.Add(2 * still))
	assert.Empty(t, x.begun())
	assert.FileExists(t, filepath.Join(x.Folder, "bill", "options.yaml"))
}

// TestHalfTaken: a service ended before the file was moved. It lies where it was, and is taken anew.
func TestHalfTaken(t *testing.T) {
	x := opened(t)
	put(t, x.Folder, "bill/may.csv", "name\n")
	j := job{template: "bill", folder: filepath.Join(x.Folder, "bill"), at: filepath.Join(x.Folder, "bill", working, "may")}
	require.NoError(t, os.MkdirAll(j.at, 0o755))
	require.NoError(t, j.keep(state{File: "may.csv", Key: "k"}))
	assert.False(t, x.do(t.Context(), j))
	assert.NoDirExists(t, j.at)
	assert.FileExists(t, filepath.Join(x.Folder, "bill", "may.csv"))
}

// TestHalfKept: a service ended while it wrote the first state.
func TestHalfKept(t *testing.T) {
	x := opened(t)
	put(t, x.Folder, "bill/may.csv", "name\n")
	j := job{template: "bill", folder: filepath.Join(x.Folder, "bill"), at: filepath.Join(x.Folder, "bill", working, "may")}
	put(t, j.at, partName, "{")
	assert.False(t, x.do(t.Context(), j))
	assert.NoDirExists(t, j.at)
	assert.FileExists(t, filepath.Join(x.Folder, "bill", "may.csv"))
}

// TestEnd: a folder is put away before its state is removed, so that a service that ends in between finds it again, or
// nothing more to do.
func TestEnd(t *testing.T) {
	x := opened(t)
	j := job{template: "bill", folder: filepath.Join(x.Folder, "bill"), at: filepath.Join(x.Folder, "bill", working, "may")}
	for n, want := range []string{"done/may", "done/may (2)"} {
		put(t, j.at, "may.csv", "name\n")
		require.NoError(t, j.keep(state{File: "may.csv", Key: "k"}))
		to, err := j.end(report{batch: 3, documents: 1})
		require.NoError(t, err)
		assert.Equal(t, filepath.Join(j.folder, want), to, n)
		assert.FileExists(t, filepath.Join(to, "may.csv"))
		assert.FileExists(t, filepath.Join(to, reportName))
		assert.NoFileExists(t, filepath.Join(to, stateName))
		assert.Empty(t, underWay(t, x))
	}
	put(t, j.at, "may.csv", "name\n")
	require.NoError(t, j.keep(state{File: "may.csv", Key: "k"}))
	require.NoError(t, os.WriteFile(filepath.Join(j.folder, failed), nil, 0o600), "where a folder should be")
	_, err := j.end(report{failures: []string{"no"}})
	require.Error(t, err)
	s, err := j.read()
	require.NoError(t, err, "it is still under way")
	assert.Equal(t, "k", s.Key)
}

// TestStateIsGone: what cannot go on, as somebody removed files of it, comes back with a report instead of staying in silence.
func TestStateIsGone(t *testing.T) {
	for name, gone := range map[string]string{"the state": stateName, "the file": "may.csv"} {
		t.Run(name, func(t *testing.T) {
			x := opened(t)
			j := job{template: "bill", folder: filepath.Join(x.Folder, "bill"), at: filepath.Join(x.Folder, "bill", working, "may")}
			put(t, j.at, "may.csv", "name\n")
			put(t, j.at, "QL-1.pdf", "a document")
			require.NoError(t, j.keep(state{File: "may.csv", Key: "k"}))
			require.NoError(t, os.Remove(filepath.Join(j.at, gone)))
			assert.False(t, x.do(t.Context(), j))
			assert.Empty(t, underWay(t, x))
			said, err := os.ReadFile(filepath.Join(j.folder, failed, "may", reportName))
			require.NoError(t, err)
			assert.Contains(t, string(said), "how far it was is not known any more")
			assert.FileExists(t, filepath.Join(j.folder, failed, "may", "QL-1.pdf"))
		})
	}
}

// TestOneWatches: a folder is watched by one service.
func TestOneWatches(t *testing.T) {
	x := opened(t)
	_, _, err := Open(x.Folder, nil, nil)
	require.ErrorContains(t, err, "is watched by another service")
	_, _, err = Open(put(t, t.TempDir(), "file", ""), nil, nil)
	require.ErrorContains(t, err, "cannot be made")
}

func TestOptions(t *testing.T) {
	for _, test := range []struct {
		name, text, wrong string
		want              options
	}{
		{"none", "", "", options{file: map[string]string{"skip-bad": "true"}}},
		{"all kinds", "series: bills\ndraft: true\ndecimal: ','\ntyped: true\nsheet: 2026\n", "", options{"bills", true, map[string]string{"skip-bad": "true", "decimal": ",", "typed": "true", "sheet": "2026"}}},
		{"misspelt", "serie: bills\n", `has "serie", which is no option; there are series, draft, path`, options{}},
		{"of another kind", "draft: maybe\n", "maybe is no value of “draft”", options{}},
		{"no YAML", "series: [", "options.yaml cannot be read", options{}},
	} {
		t.Run(test.name, func(t *testing.T) {
			dir := t.TempDir()
			put(t, dir, optionsName, test.text)
			o, err := readOptions(dir)
			if test.wrong != "" {
				require.ErrorContains(t, err, test.wrong)
				return
			}
			require.NoError(t, err)
			assert.Equal(t, test.want, o)
		})
	}
	o, err := readOptions(t.TempDir())
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"skip-bad": "true"}, o.file)
}

// TestLasting tells what is tried again from what is not.
func TestLasting(t *testing.T) {
	for err, want := range map[error]bool{
		wrong{errors.New("no")}:                            true,
		fmt.Errorf("it: %w", &client.Problem{Status: 422}): true,
		&client.Problem{Status: 404}:                       true,
		&client.Problem{Status: 409}:                       false,
		&client.Problem{Status: 429}:                       false,
		&client.Problem{Status: 503}:                       false,
		errors.New("the way was cut"):                      false,
	} {
		assert.Equal(t, want, lasting(err), err.Error())
	}
}

func TestReports(t *testing.T) {
	for _, test := range []struct {
		name string
		r    report
		want string
	}{
		{"all well", report{batch: 3, documents: 2, notes: []string{"decimal comma in price"}}, "2 documents were made by batch 3.\n\nWhat was found out about the file:\n- decimal comma in price\n"},
		{"one", report{batch: 3, documents: 1}, "1 document was made by batch 3.\n"},
		{"some failed", report{batch: 3, documents: 1, failures: []string{"record 2: no\nname"}}, "1 document was made by batch 3.\n\nWhat failed:\n- record 2: no\n  name\n\nMend the records, and lay a file with only these into the folder again.\n"},
	} {
		assert.Equal(t, test.want, test.r.text(), test.name)
	}
	r := report{}
	r.wrong(nil)
	r.wrong(&client.Problem{Status: 422, Title: "Unprocessable", Detail: "there are no records"})
	r.wrong(errors.New("another"))
	assert.Equal(t, []string{"there are no records", "another"}, r.failures)
	assert.Contains(t, r.text(), "No document was made.\n")
}
