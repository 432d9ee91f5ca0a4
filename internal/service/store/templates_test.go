package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

func TestTemplates(t *testing.T) {
	st := open(t)
	files := func(text string) []store.VersionFile {
		return []store.VersionFile{{Path: "page.html", Content: []byte(text)}, {Path: "template.yaml"}}
	}
	card, err := st.Publish("card", "Card", &store.Version{Files: files("one"), Author: "ida"})
	require.NoError(t, err)
	assert.Equal(t, 1, card.Latest)
	card, err = st.Publish("card", "Mooring card", &store.Version{Files: files("two"), Note: "wider"})
	require.NoError(t, err)
	assert.Equal(t, 2, card.Latest)
	_, err = st.Publish("100%_bill", "Bill", &store.Version{Files: files("x")})
	require.NoError(t, err)

	newest, err := st.Version(card, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, newest.Number)
	require.Len(t, newest.Files, 2)
	first, err := st.Version(card, 1)
	require.NoError(t, err)
	assert.Equal(t, "one", string(first.Files[0].Content))
	_, err = st.Version(card, 3)
	require.ErrorIs(t, err, store.ErrNotFound)
	versions, total, err := st.Versions(card, store.Page{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, int64(2), total)
	assert.Equal(t, []int{2, 1}, []int{versions[0].Number, versions[1].Number}, "the newest first")
	assert.Empty(t, versions[0].Files)

	for search, want := range map[string]int{"": 2, "card": 1, "moor": 1, "0%_b": 1, "a%d": 0, "c_rd": 0, `\`: 0} {
		_, n, err := st.Templates(search, store.Page{Limit: 5})
		require.NoError(t, err)
		assert.Equal(t, int64(want), n, "%q is taken literally", search)
	}
	_, _, err = st.Templates("", store.Page{Sort: "author"})
	require.ErrorContains(t, err, `cannot be sorted by "author"; it can by name, title, updated_at`)
}

func TestDrafts(t *testing.T) {
	st := open(t)
	files := func(text string) map[string][]byte { return map[string][]byte{"page.html": []byte(text)} }
	d, err := st.SaveDraft("card", "ida", files("a"), 0)
	require.NoError(t, err)
	assert.Equal(t, 1, d.Revision)
	card, err := st.Template("card")
	require.NoError(t, err, "it is there, without a version")
	assert.Zero(t, card.Latest)
	d, err = st.SaveDraft("card", "jon", files("b"), 1)
	require.NoError(t, err)
	assert.Equal(t, 2, d.Revision)
	_, err = st.SaveDraft("card", "ida", files("c"), 1)
	require.ErrorIs(t, err, store.ErrChanged, "jon has changed it since")
	d, err = st.Draft(card)
	require.NoError(t, err)
	kept, err := d.Contents()
	require.NoError(t, err)
	assert.Equal(t, files("b"), kept)
	assert.Equal(t, "jon", d.Author)

	require.NoError(t, st.DropDraft(card))
	_, err = st.Template("card")
	require.ErrorIs(t, err, store.ErrNotFound, "it was never published")

	_, err = st.SaveDraft("card", "ida", files("a"), 0)
	require.NoError(t, err)
	card, err = st.Publish("card", "Card", &store.Version{})
	require.NoError(t, err)
	_, err = st.Draft(card)
	require.ErrorIs(t, err, store.ErrNotFound, "the draft has become the version")
	_, err = st.SaveDraft("card", "ida", files("late"), 1)
	require.ErrorIs(t, err, store.ErrChanged, "it was published meanwhile")
	_, err = st.SaveDraft("card", "ida", files("next"), 0)
	require.NoError(t, err)
	require.NoError(t, st.DropDraft(card))
	_, err = st.Template("card")
	require.NoError(t, err, "what is published stays")
}
