package box

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/style"
)

// made are the boxes of a document, and what is told of them.
func made(t *testing.T, html string) (root *Box, told []string) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte(html))
	require.NoError(t, err)
	r := style.NewResolver(style.Env{Medium: "print", Width: 400, Height: 300}, plain{}, nil, nil)
	doc.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			r.AddSheet(style.ParseSheet("", "", n.Content()), style.Author, nil, nil)
		}
		return true
	})
	r.Finish()
	b := &Builder{Styles: r, Tell: func(code, message string) { told = append(told, fmt.Sprintf("%s: %s", code, message)) }}
	return b.Build(doc.Find("html")), told
}

func TestPageThatIsNotDisplayed(t *testing.T) {
	root, told := made(t, "<style>html { display: none }</style><p>x")
	assert.Nil(t, root)
	assert.Empty(t, told)
}
