package style

import (
	"go/ast"
	"go/parser"
	"go/token"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// unusedValues are computed for their own sake.
var unusedValues = map[string]string{
	"ImageRendering": "viewers of PDF decide how they enlarge pictures",
	"PrintAdjust":    "colours are printed as they are",
}

// What a property computes is looked at somewhere. One that is parsed and then forgotten would be lost in silence, as
// only what is not understood is told.
func TestEveryComputedValueIsUsed(t *testing.T) {
	used := map[string]bool{}
	files, err := filepath.Glob("../*/*.go")
	require.NoError(t, err)
	require.Greater(t, len(files), 100)
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
		require.NoError(t, err)
		place := map[ast.Expr]bool{} // where a value is put, as define names it
		ast.Inspect(parsed, func(n ast.Node) bool {
			switch x := n.(type) {
			case *ast.UnaryExpr:
				place[x.X] = x.Op == token.AND
			case *ast.AssignStmt:
				for _, to := range x.Lhs {
					place[to] = true
				}
			case *ast.SelectorExpr:
				used[x.Sel.Name] = used[x.Sel.Name] || !place[x]
			}
			return true
		})
	}
	for _, part := range []reflect.Type{reflect.TypeFor[Inherited](), reflect.TypeFor[Own]()} {
		for i := range part.NumField() {
			name := part.Field(i).Name
			_, known := unusedValues[name]
			assert.Equal(t, !known, used[name], "%s: is its value used?", name)
		}
	}
}
