package service_test

import (
	"bytes"
	"context"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service/backup"
	"oliveledger/internal/servicetest"
)

// TestFontShelf: templates name a font of the shelf by its family; a document
// keeps the fonts that it was set with, whatever is added or withdrawn later.
func TestFontShelf(t *testing.T) {
	data := t.TempDir()
	s := servicetest.Start(t, data)
	ctx := context.Background()
	_, err := s.Client.Push(ctx, "card", "", fstest.MapFS{
		"template.yaml": {Data: []byte("title: Card\nfilename: '{{.name}}.pdf'\n")},
		"page.html":     {Data: []byte(`<p style="font-family: 'Source Serif 4', serif"><b>{{.name}}</b></p>`)},
	})
	require.NoError(t, err)
	issue := func(name string) client.Document {
		made, err := s.Client.Issue(ctx, client.Order{Template: "card", Record: []byte(`{"name": "` + name + `"}`)}, "")
		require.NoError(t, err)
		require.Len(t, made, 1)
		d, err := s.Client.Document(ctx, made[0].ID)
		require.NoError(t, err)
		return d
	}
	serif := func(d client.Document) bool {
		pdf, err := s.Client.PDF(ctx, d.ID)
		require.NoError(t, err)
		name := filepath.Join(t.TempDir(), "d.pdf")
		require.NoError(t, os.WriteFile(name, pdf, 0o644))
		fonts, err := exec.Command("pdffonts", name).Output()
		require.NoError(t, err)
		return bytes.Contains(fonts, []byte("SourceSerif"))
	}
	same := func(d client.Document) bool {
		ok, err := s.Client.Repeat(ctx, d.ID)
		require.NoError(t, err)
		return ok
	}

	before := issue("Ada")
	assert.False(t, serif(before))

	file, err := os.ReadFile("../../demo/templates/mooring-invoice/fonts/source-serif-4-latin-700-normal.woff2")
	require.NoError(t, err)
	f, err := s.Client.AddFont(ctx, "serif.woff2", bytes.NewReader(file))
	require.NoError(t, err)
	assert.Equal(t, "Source Serif 4", f.Family)
	with := issue("Bo")
	assert.True(t, serif(with))
	assert.True(t, same(before), "it was set without the font, and is again")

	require.NoError(t, s.Client.WithdrawFont(ctx, f.ID))
	after := issue("Cy")
	assert.False(t, serif(after))
	assert.True(t, same(with), "it keeps the font that was withdrawn")
	assert.True(t, same(after))

	_, err = s.Client.AddFont(ctx, "serif.woff2", bytes.NewReader(file))
	require.NoError(t, err, "a font may come back")
	_, err = s.Client.AddFont(ctx, "again.woff2", bytes.NewReader(file))
	assert.Equal(t, 409, status(t, err))
	_, err = s.Client.AddFont(ctx, "letter.ttf", bytes.NewReader([]byte("Dear harbour office")))
	assert.Equal(t, 422, status(t, err))
	assert.ErrorContains(t, err, "letter.ttf")

	b := base(t, data)
	n, err := backup.Write(ctx, b.Store, b.Blobs, io.Discard)
	require.NoError(t, err)
	assert.Equal(t, 4, n.Blobs, "three documents and the font")
}
