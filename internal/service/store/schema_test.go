package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"sync"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"oliveledger/internal/service/database"
	"oliveledger/internal/service/store"
	"oliveledger/internal/service/store/schema"
)

// server starts a database server and gives a way to empty databases in it.
func server(t *testing.T) func(name, charset string) (*gorm.DB, *sql.DB) {
	t.Helper()
	p, err := database.Start(context.Background(), filepath.Join(t.TempDir(), "db"), nil)
	require.NoError(t, err)
	t.Cleanup(p.Stop)
	root, err := database.Open(p.DSN()+"mysql", false)
	require.NoError(t, err)
	return func(name, charset string) (*gorm.DB, *sql.DB) {
		require.NoError(t, root.Exec("CREATE DATABASE "+name+" CHARACTER SET "+charset).Error)
		db, err := database.Open(p.DSN()+name, false)
		require.NoError(t, err)
		pool, err := db.DB()
		require.NoError(t, err)
		t.Cleanup(func() { pool.Close() })
		return db, pool
	}
}

// TestSchema brings databases up to date: new ones, one of the first step, one that several
// services find at once; and refuses those that it cannot work with.
func TestSchema(t *testing.T) {
	empty := server(t)
	ctx := context.Background()

	t.Run("an old one is brought up in place", func(t *testing.T) {
		db, pool := empty("old", "utf8mb4")
		require.NoError(t, schema.UpdateTo(ctx, pool, 1))
		for _, q := range []string{
			"INSERT INTO documents (id, number, batch_id, record, state, issued_at) VALUES (1, '', 0, 0, 'issued', NOW()), (2, '', 0, 0, 'draft', NULL), (3, 'A-1', 4, 1, 'issued', NOW())",
			"INSERT INTO batch_items (id, batch_id, record, state, document_id) VALUES (1, 4, 1, 'done', 3), (2, 4, 2, 'failed', 0)",
			"INSERT INTO ledger (id, kind, document_id, number) VALUES (1, 'issued', 1, ''), (2, 'issued', 3, 'A-1')",
		} {
			require.NoError(t, db.Exec(q).Error, q)
		}
		st, err := store.New(ctx, db)
		require.NoError(t, err)
		for id, number := range map[uint64]string{1: "", 2: "", 3: "A-1"} {
			d, err := st.Document(id)
			require.NoError(t, err)
			assert.Equal(t, number, d.Number)
		}
		items, _, err := st.BatchItems(4, "", store.Page{Limit: 9})
		require.NoError(t, err)
		assert.Equal(t, []uint64{3, 0}, []uint64{items[0].DocumentID, items[1].DocumentID})
		_, err = store.New(ctx, db)
		assert.NoError(t, err, "once more")
	})

	t.Run("one without versions is taken over", func(t *testing.T) {
		db, pool := empty("unversioned", "utf8mb4")
		require.NoError(t, schema.UpdateTo(ctx, pool, 1))
		require.NoError(t, db.Exec("DROP TABLE schema_steps").Error)
		require.NoError(t, db.Exec("INSERT INTO people (email) VALUES ('keeper@quay.test')").Error)
		st, err := store.New(ctx, db)
		require.NoError(t, err)
		_, n, err := st.People(store.Page{Limit: 1})
		require.NoError(t, err)
		assert.EqualValues(t, 1, n)
	})

	t.Run("two documents with one number stop it, and say so", func(t *testing.T) {
		db, pool := empty("doubled", "utf8mb4")
		require.NoError(t, schema.UpdateTo(ctx, pool, 1))
		require.NoError(t, db.Exec("INSERT INTO documents (number) VALUES ('A-1'), ('A-1')").Error)
		_, err := store.New(ctx, db)
		assert.ErrorContains(t, err, "two documents have the same number")
	})

	t.Run("several services may start at once", func(t *testing.T) {
		db, _ := empty("crowded", "utf8mb4")
		var all sync.WaitGroup
		for range 4 {
			all.Go(func() {
				_, err := store.New(ctx, db)
				assert.NoError(t, err)
			})
		}
		all.Wait()
	})

	t.Run("one of a newer version is refused", func(t *testing.T) {
		db, _ := empty("newer", "utf8mb4")
		_, err := store.New(ctx, db)
		require.NoError(t, err)
		require.NoError(t, db.Exec("INSERT INTO schema_steps (version_id, is_applied) VALUES (999, TRUE)").Error)
		_, err = store.New(ctx, db)
		assert.ErrorContains(t, err, "the tables are those of a newer version (step 999")
	})

	t.Run("text has room, whatever the database was made with", func(t *testing.T) {
		db, _ := empty("western", "latin1")
		st, err := store.New(ctx, db)
		require.NoError(t, err)
		require.NoError(t, st.AddSeries(&store.Series{Name: "Ωmega ⚓ 船", Pattern: "{number}", Next: 1}))
		require.NoError(t, db.Exec("ALTER TABLE templates CONVERT TO CHARACTER SET latin1").Error)
		_, err = store.New(ctx, db)
		assert.ErrorContains(t, err, "ALTER TABLE templates CONVERT TO CHARACTER SET utf8mb4")
	})

	t.Run("triggers are made anew where a server has not read them", func(t *testing.T) {
		db, _ := empty("unread", "utf8mb4")
		_, err := store.New(ctx, db)
		require.NoError(t, err)
		require.NoError(t, db.Exec("INSERT INTO documents (id) VALUES (1)").Error)
		require.NoError(t, db.Exec("INSERT INTO ledger (id, kind, document_id) VALUES (1, 'issued', 1)").Error)
		for _, name := range []string{"ledger_unchanged", "ledger_complete", "signed_heads_unchanged", "signed_heads_complete", "head_witnesses_unchanged", "head_witnesses_complete"} {
			require.NoError(t, db.Exec("DROP TRIGGER "+name).Error)
		}
		require.NoError(t, schema.Guard(db))
		require.NoError(t, schema.Guard(db), "over those that are there")
		assert.ErrorContains(t, db.Exec("UPDATE ledger SET pages = 1").Error, "never changed")
		assert.ErrorContains(t, db.Exec("DELETE FROM ledger").Error, "never deleted")
		unread := &mysql.MySQLError{Number: 1064, Message: "Trigger 'ledger_unchanged' has an error in its body: 'You have an error in your SQL syntax'"}
		assert.True(t, schema.Unread(fmt.Errorf("a row: %w", unread)))
		assert.False(t, schema.Unread(&mysql.MySQLError{Number: 1064, Message: "You have an error in your SQL syntax"}))
	})

	t.Run("a missing column is named", func(t *testing.T) {
		db, _ := empty("short", "utf8mb4")
		_, err := store.New(ctx, db)
		require.NoError(t, err)
		require.NoError(t, db.Exec("ALTER TABLE documents DROP COLUMN shelf").Error)
		_, err = store.New(ctx, db)
		assert.ErrorContains(t, err, "no column documents.shelf")
	})
}

// TestEveryTableIsKnown: what the steps make is what back-ups take along and services look at, with nothing left out.
func TestEveryTableIsKnown(t *testing.T) {
	db, _ := server(t)("whole", "utf8mb4")
	_, err := store.New(context.Background(), db)
	require.NoError(t, err)
	var there, known []string
	require.NoError(t, db.Raw("SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name <> 'schema_steps'").Scan(&there).Error)
	for _, row := range store.Tables() {
		s := &gorm.Statement{DB: db}
		require.NoError(t, s.Parse(row))
		known = append(known, s.Schema.Table)
	}
	assert.ElementsMatch(t, known, there)
}
