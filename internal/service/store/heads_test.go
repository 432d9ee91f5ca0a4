package store_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/seal"
	"oliveledger/internal/service/store"
)

// forge rewrites the ledger from a row on as someone would who may change all tables, with checksums
// that fit.
func forge(t *testing.T, st *store.Store, from int, change func(*store.Entry)) {
	t.Helper()
	db := st.DB()
	_ = db.Exec("DROP TRIGGER IF EXISTS ledger_unchanged").Error
	var list []store.Entry
	require.NoError(t, db.Order("id").Find(&list).Error)
	for i := from - 1; i < len(list); i++ {
		if i == from-1 {
			change(&list[i])
		} else {
			list[i].Previous = list[i-1].Checksum
		}
		list[i].Checksum = list[i].Sum()
		require.NoError(t, db.Save(&list[i]).Error)
	}
	require.NoError(t, db.Exec("UPDATE ledger_head SET checksum = ?", list[len(list)-1].Checksum).Error)
}

// TestForgedLedger makes a chain whose checksums fit: the signatures tell, also when they are taken out of
// the database.
func TestForgedLedger(t *testing.T) {
	st := open(t)
	keys := t.TempDir()
	var err error
	st.Seal, err = seal.Open(keys, "")
	require.NoError(t, err)
	require.NoError(t, st.SealHead(), "an empty one is not signed")
	require.NoError(t, st.AddSeries(&store.Series{Name: "cards", Pattern: "C-{number}", Next: 1}))
	numbered(t, st, "cards", 3)
	finish(t, st, claim(t, st, "w", 3))
	verify := func() store.Verification {
		v, err := st.Verify(1, func(string) error { return nil })
		require.NoError(t, err)
		return v
	}
	assert.Zero(t, verify().Signed)
	require.NoError(t, st.SealHead())
	require.NoError(t, st.SealHead(), "once is enough")
	numbered(t, st, "cards", 2)
	finish(t, st, claim(t, st, "w", 2))
	v := verify()
	assert.True(t, v.Sound, "%v", v.Faults)
	assert.EqualValues(t, 3, v.Signed)
	assert.Equal(t, 5, v.Rows)

	t.Run("anyone can check an export", func(t *testing.T) {
		audit := filepath.Join(t.TempDir(), "audit")
		out, err := exec.Command("go", "build", "-o", audit, "oliveledger/docs/audit").CombinedOutput()
		require.NoError(t, err, string(out))
		check := func(text string) (string, error) {
			c := exec.Command(audit, st.Seal.Key())
			c.Stdin = strings.NewReader(text)
			out, err := c.Output()
			return string(out), err
		}
		var b bytes.Buffer
		require.NoError(t, st.Export(&b))
		said, err := check(b.String())
		assert.NoError(t, err)
		assert.Equal(t, "5 rows, the first 3 signed, 0 faults\n", said)
		for what, text := range map[string]string{
			"a row":       strings.Replace(b.String(), "card.pdf", "card.pdg", 1),
			"a missing":   strings.Join(strings.Split(b.String(), "\n")[1:], "\n"),
			"a head":      strings.Replace(b.String(), `{"rows":3`, `{"rows":4`, 1),
			"another key": strings.ReplaceAll(b.String(), st.Seal.Key(), "AAAA"),
		} {
			_, err := check(text)
			assert.Error(t, err, what)
		}
	})

	t.Run("a key that was lost", func(t *testing.T) {
		own := st.Seal
		defer func() { st.Seal = own }()
		fresh := t.TempDir()
		st.Seal, err = seal.Open(fresh, "")
		require.NoError(t, err)
		assert.ErrorContains(t, st.SealHead(), "--ledger-key")
		assert.Contains(t, verify().Faults[0].Message, "not that of this service")
		require.NoError(t, os.WriteFile(filepath.Join(fresh, seal.OldKeys), []byte(own.Key()+"\n"), 0o600))
		st.Seal, err = seal.Open(fresh, "")
		require.NoError(t, err)
		assert.True(t, verify().Sound)
	})

	forge(t, st, 5, func(e *store.Entry) { e.Who = "nobody" })
	assert.True(t, verify().Sound, "what is not signed yet can be forged")
	require.NoError(t, st.SealHead())
	forge(t, st, 2, func(e *store.Entry) { e.Who = "nobody" })
	v = verify()
	require.NotEmpty(t, v.Faults)
	assert.Contains(t, v.Faults[0].Message, "the ledger was another one then")
	assert.Error(t, st.DB().Exec("DELETE FROM signed_heads").Error)
	require.NoError(t, st.DB().Exec("DROP TRIGGER signed_heads_complete").Error)
	require.NoError(t, st.DB().Exec("DELETE FROM signed_heads").Error)
	v = verify()
	require.NotEmpty(t, v.Faults, "the file beside the key has them as well")
	assert.Contains(t, v.Faults[0].Message, "the head over 3 rows")
}
