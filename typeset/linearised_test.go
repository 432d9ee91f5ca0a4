package typeset_test

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
	"oliveledger/typeset/bind"
)

// paged is a document of several pages with all that a PDF may hold: an outline, links, notes, fields, pictures.
const paged = `<!DOCTYPE html><html lang=en><title>Season</title><style>@page{@bottom-center{content:counter(page)}}h1{break-before:page}.n{float:footnote}</style>
<h1 id=a>Moorings</h1><p>See <a href="#b">courses</a><span class=n>a note</span> and <a href="https://harbour.example">the harbour</a>.</p>
<svg width=40 height=40><circle cx=20 cy=20 r=20 fill=teal></circle></svg><h1 id=b>Courses</h1><p>Two <b>weeks</b> <input name=who aria-label=Who></p>
<table><tr><th>Boat<th>Length<tr><td>Gull<td>7.2 m</table><h1>Report</h1><p>Back to <a href="#a">moorings</a>.</p>`

// inOrder has qpdf look whether a file is linearised as it says.
func inOrder(t *testing.T, pdf []byte) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o600))
	for _, what := range []string{"--check-linearization", "--check"} {
		out, err := exec.Command("qpdf", what, file).CombinedOutput()
		require.NoError(t, err, string(out))
	}
}

// wordsOf are the words of a file.
func wordsOf(t *testing.T, pdf []byte) string {
	t.Helper()
	c := exec.Command("pdftotext", "-", "-")
	c.Stdin = bytes.NewReader(pdf)
	out, err := c.Output()
	require.NoError(t, err)
	return string(out)
}

func TestLinearised(t *testing.T) {
	set := func(o typeset.Options) ([]byte, error) {
		var b bytes.Buffer
		_, err := typeset.Set(context.Background(), []byte(paged), o, &b)
		return b.Bytes(), err
	}
	for name, o := range map[string]typeset.Options{
		"plain":            {},
		"archive":          {Archive: "PDF/A-2u"},
		"fields":           {Fields: true},
		"untagged":         {Untagged: true},
		"a closed outline": {HideOutline: true},
	} {
		t.Run(name, func(t *testing.T) {
			usual, err := set(o)
			require.NoError(t, err)
			o.Linearised = true
			ordered, err := set(o)
			require.NoError(t, err)
			inOrder(t, ordered)
			assert.Equal(t, wordsOf(t, usual), wordsOf(t, ordered))
		})
	}
	t.Run("not with a password", func(t *testing.T) {
		_, err := set(typeset.Options{Linearised: true, Protect: &typeset.Protection{Open: "x"}})
		var option *typeset.OptionError
		require.ErrorAs(t, err, &option)
		assert.Equal(t, "linearised", option.Option)
	})
	t.Run("bound", func(t *testing.T) {
		one, err := set(typeset.Options{})
		require.NoError(t, err)
		var b bytes.Buffer
		sources := []bind.Source{{Name: "a.pdf", Data: one}, {Name: "b.pdf", Data: one}}
		r, err := bind.Bind(context.Background(), sources, bind.Options{Contents: "Contents", Linearised: true}, &b)
		require.NoError(t, err)
		assert.Equal(t, 7, r.Pages)
		inOrder(t, b.Bytes())
		_, err = bind.Bind(context.Background(), sources, bind.Options{Linearised: true, Protect: &typeset.Protection{Open: "x"}}, &b)
		require.ErrorContains(t, err, "password")
	})
}
