package style

import (
	"go/ast"
	"go/parser"
	"go/token"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every word that a property or a function asks for is a keyword: one that is not would
// end the document that uses it.
func TestEveryWordIsAKeyword(t *testing.T) {
	var files []*ast.File
	names, err := filepath.Glob("*.go")
	require.NoError(t, err)
	for _, name := range names {
		if !strings.HasSuffix(name, "_test.go") {
			file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
			require.NoError(t, err)
			files = append(files, file)
		}
	}
	known := map[string]bool{}
	for _, name := range keywordNames {
		known[name] = true
	}
	constants := map[string]ast.Expr{}
	calls := map[string]int{"oneOf": 0, "words": 2, "keywordSpec": 0, "size": 0, "keyword": 0, "keys": 0, "parseAlign": 0} // and which argument has the words
	sets := 0
	var check func(e ast.Expr)
	check = func(e ast.Expr) {
		switch x := e.(type) {
		case *ast.BinaryExpr:
			check(x.X)
			check(x.Y)
		case *ast.Ident:
			if value := constants[x.Name]; value != nil {
				check(value)
			}
		case *ast.BasicLit:
			text, err := strconv.Unquote(x.Value)
			require.NoError(t, err)
			sets++
			for word := range strings.FieldsSeq(text) {
				assert.True(t, known[word], "%q, of %q", word, text)
			}
		}
	}
	eachNode := func(visit func(ast.Node)) {
		for _, file := range files {
			ast.Inspect(file, func(n ast.Node) bool { visit(n); return true })
		}
	}
	eachNode(func(n ast.Node) {
		if v, ok := n.(*ast.ValueSpec); ok && len(v.Values) == len(v.Names) {
			for i, name := range v.Names {
				constants[name.Name] = v.Values[i]
			}
		}
	})
	eachNode(func(n ast.Node) {
		call, ok := n.(*ast.CallExpr)
		if !ok {
			return
		}
		name := ""
		switch f := call.Fun.(type) {
		case *ast.Ident:
			name = f.Name
		case *ast.SelectorExpr:
			name = f.Sel.Name
		}
		if i, asks := calls[name]; asks && i < len(call.Args) {
			check(call.Args[i])
		}
	})
	assert.Greater(t, sets, 100)
}
