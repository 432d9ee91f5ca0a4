package docs_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"path"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "oliveledger/"

// importsOf lists what each package of the module imports of others in it.
func importsOf(t *testing.T) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", module+"...").Output()
	require.NoError(t, err)
	list := map[string][]string{}
	for dec := json.NewDecoder(strings.NewReader(string(out))); dec.More(); {
		var p struct {
			ImportPath string
			Imports    []string
		}
		require.NoError(t, dec.Decode(&p))
		room := strings.TrimPrefix(p.ImportPath, module)
		list[room] = []string{}
		for _, i := range p.Imports {
			if other, ours := strings.CutPrefix(i, module); ours {
				list[room] = append(list[room], other)
			}
		}
	}
	return list
}

var row = regexp.MustCompile("(?m)^\\| `([^`]+)` \\|.*\\| ([^|]+) \\|$")

// TestRooms holds the table of rooms in architecture.md against the code: each package has its row,
// and imports of the others what the row says, no more and no less.
func TestRooms(t *testing.T) {
	text, err := os.ReadFile("architecture.md")
	require.NoError(t, err)
	imports := importsOf(t)
	told, around := map[string]bool{}, ""
	for _, r := range row.FindAllStringSubmatch(string(text), -1) {
		room := strings.TrimSuffix(r[1], "/")
		if in, ok := strings.CutPrefix(room, "…"); ok {
			room = around + in
		} else if strings.HasPrefix(room, "typeset/internal/") {
			around = "typeset/internal"
		} else {
			around = room
		}
		actual, isPackage := imports[room]
		if !isPackage { // the console and the demo
			continue
		}
		told[room] = true
		got := []string{}
		for _, other := range actual {
			name := path.Base(other)
			if core := strings.HasPrefix(room, "typeset"); core && (name == "memory" || name == "watch") {
				continue
			}
			got = append(got, name)
		}
		want := strings.FieldsFunc(r[2], func(c rune) bool { return strings.ContainsRune(", –", c) })
		slices.Sort(got)
		slices.Sort(want)
		assert.Equal(t, want, slices.Compact(got), room)
	}
	for room := range imports {
		switch {
		case room == "cmd/olive", room == "docs", room == "e2e", path.Base(room) == "generate": // programs and tests, which may import all
		default:
			assert.True(t, told[room], "%s has no row", room)
		}
	}
}
