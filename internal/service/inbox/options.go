package inbox

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/goccy/go-yaml"
)

// optionsName is the file in a template's folder that says how its records are read and its documents made.
const optionsName = "options.yaml"

// options of a template's folder.
type options struct {
	series string            // that gives documents numbers; empty for none
	draft  bool              // documents wait to be approved
	file   map[string]string // how the record file is read, by the API's names
}

// reading are the options of how a file is read: those of the API's import.
var reading = []string{"path", "sheet", "delimiter", "encoding", "no-header", "typed", "decimal", "dates", "list", "lines-sheet", "lines-in-rows", "key", "line-key", "into"}

// readOptions reads a folder's options; without a file there are none.
func readOptions(folder string) (o options, err error) {
	o.file = map[string]string{"skip-bad": "true"}
	raw, err := os.ReadFile(filepath.Join(folder, optionsName))
	if errors.Is(err, fs.ErrNotExist) {
		return o, nil
	}
	if err != nil {
		return o, fmt.Errorf("%s cannot be read: %w", optionsName, err)
	}
	var given map[string]any
	if err := yaml.Unmarshal(raw, &given); err != nil {
		return o, fmt.Errorf("%s cannot be read: %w", optionsName, err)
	}
	for name, value := range given {
		ok := true
		switch {
		case name == "series":
			o.series, ok = value.(string)
		case name == "draft":
			o.draft, ok = value.(bool)
		case slices.Contains(reading, name):
			o.file[name] = fmt.Sprint(value)
		default:
			return o, fmt.Errorf("%s has %q, which is no option; there are series, draft, %s", optionsName, name, strings.Join(reading, ", "))
		}
		if !ok {
			return o, fmt.Errorf("%s: %v is no value of “%s”", optionsName, value, name)
		}
	}
	return o, nil
}
