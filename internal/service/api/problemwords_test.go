package api

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestRefusalsAreInGerman: whatever the service refuses with a text of its own, the console says in German, too. What
// is wrong with a body that the console never sends is left in English.
func TestRefusalsAreInGerman(t *testing.T) {
	words, err := os.ReadFile("../../../console/src/words/problems.ts")
	require.NoError(t, err)
	german := strings.NewReplacer(`\'`, `'`).Replace(string(words))
	n := 0
	for _, folder := range []string{".", "../store"} {
		files, err := filepath.Glob(filepath.Join(folder, "*.go"))
		require.NoError(t, err)
		for _, file := range files {
			if strings.HasSuffix(file, "_test.go") {
				continue
			}
			f, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
			require.NoError(t, err)
			ast.Inspect(f, func(node ast.Node) bool {
				call, ok := node.(*ast.CallExpr)
				if !ok {
					return true
				}
				text, ok := refusalOf(call)
				if !ok || strings.HasPrefix(text, "%s says: ") || text == "%v" {
					return true
				}
				n++
				assert.Contains(t, german, text, "%s: console/src/words/problems.ts has no German for it", file)
				return true
			})
		}
	}
	assert.Greater(t, n, 40)
}

// refusalOf is the text of a refusal or of an answer that is one: refuse("…"), NewHTTPError(status, "…").
func refusalOf(call *ast.CallExpr) (string, bool) {
	at := 0
	switch f := call.Fun.(type) {
	case *ast.Ident:
		if f.Name != "refuse" {
			return "", false
		}
	case *ast.SelectorExpr:
		if f.Sel.Name != "NewHTTPError" {
			return "", false
		}
		at = 1
	default:
		return "", false
	}
	if at >= len(call.Args) {
		return "", false
	}
	arg := call.Args[at]
	if inner, ok := arg.(*ast.CallExpr); ok && len(inner.Args) > 0 { // fmt.Sprintf
		arg = inner.Args[0]
	}
	lit, ok := arg.(*ast.BasicLit)
	if !ok || lit.Kind != token.STRING {
		return "", false
	}
	text, err := strconv.Unquote(lit.Value)
	return text, err == nil
}
