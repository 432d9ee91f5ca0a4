package api_test

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/internal/service/api"
)

// commented are the packages whose structs the API shows.
var commented = []string{
	"oliveledger/internal/service/api", "oliveledger/internal/service/store", "oliveledger/internal/service/deliver", "oliveledger/internal/press", "oliveledger/merge", "oliveledger/typeset", "oliveledger/typeset/internal/finding", "oliveledger/record",
}

// comments reads what the source says of the fields of structs, by the names of type and field.
func comments(t *testing.T) map[string]string {
	t.Helper()
	out := map[string]string{}
	for _, pkg := range commented {
		dir, err := exec.Command("go", "list", "-f", "{{.Dir}}", pkg).Output()
		require.NoError(t, err)
		files, err := filepath.Glob(filepath.Join(strings.TrimSpace(string(dir)), "*.go"))
		require.NoError(t, err)
		for _, name := range files {
			file, err := parser.ParseFile(token.NewFileSet(), name, nil, parser.ParseComments|parser.SkipObjectResolution)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				spec, ok := n.(*ast.TypeSpec)
				if !ok {
					return true
				}
				if s, ok := spec.Type.(*ast.StructType); ok && out[spec.Name.Name] == "" {
					fieldComments(out, spec.Name.Name, s)
				}
				return true
			})
		}
	}
	return out
}

func fieldComments(out map[string]string, name string, s *ast.StructType) {
	for _, f := range s.Fields.List {
		text := f.Comment.Text()
		if text == "" {
			text = f.Doc.Text()
		}
		for _, own := range f.Names {
			if text != "" {
				out[name+"."+own.Name] = strings.Join(strings.Fields(text), " ")
			}
		}
	}
}

// TestWords holds what the description says of properties against the comments in the source: there is one text for both.
func TestWords(t *testing.T) {
	said := comments(t)
	words := map[string]string{}
	for _, f := range api.Shown() {
		key := f.Type + "." + f.Field
		if said[key] == "" && api.Common(f.Field) != "" {
			continue
		}
		if assert.NotEmpty(t, said[key], "%s (%s) has no comment that tells what it is", key, f.JSON) {
			words[key] = said[key]
		}
	}
	text, err := json.MarshalIndent(words, "", "  ")
	require.NoError(t, err)
	golden.Compare(t, "words.json", string(text)+"\n")
}

// TestDescriptionIsWhole asks that everything in the description says what it is and what it may be.
func TestDescriptionIsWhole(t *testing.T) {
	raw, err := json.Marshal((&api.API{}).Describe())
	require.NoError(t, err)
	var doc struct {
		Tags  []struct{ Name, Description string }
		Paths map[string]map[string]struct {
			Summary    string
			Parameters []struct {
				Name, Description string
				Schema            struct{ Type string }
			}
		}
		Components struct {
			Schemas map[string]struct {
				Properties map[string]struct{ Description string }
			}
		}
	}
	require.NoError(t, json.Unmarshal(raw, &doc))
	require.NotEmpty(t, doc.Paths)
	require.NotEmpty(t, doc.Tags)
	for _, x := range doc.Tags {
		assert.NotEmpty(t, x.Description, x.Name)
	}
	for path, item := range doc.Paths {
		for method, op := range item {
			assert.NotEmpty(t, op.Summary, "%s %s", method, path)
			for _, p := range op.Parameters {
				assert.NotEmpty(t, p.Description, "%s %s: %s", method, path, p.Name)
				assert.NotEmpty(t, p.Schema.Type, "%s %s: %s", method, path, p.Name)
			}
		}
	}
	require.NotEmpty(t, doc.Components.Schemas)
	for name, s := range doc.Components.Schemas {
		for property, p := range s.Properties {
			assert.NotEmpty(t, p.Description, "%s.%s", name, property)
		}
	}
}
