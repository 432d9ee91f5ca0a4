package e2e

import (
	"context"
	"database/sql"
	"encoding/json"
	"log/slog"
	"net/url"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/database"
	"oliveledger/record"
)

func TestRecordsFromAQuery(t *testing.T) {
	ctx := context.Background()
	private, err := database.Start(ctx, t.TempDir(), slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	defer private.Stop()
	db, err := sql.Open("mysql", private.DSN()+"?multiStatements=true")
	require.NoError(t, err)
	defer db.Close()
	_, err = db.ExecContext(ctx, `create database harbour character set utf8mb4; use harbour;
		create table guests (number varchar(20) primary key, name varchar(80), fee decimal(10,2), nights int, came date, at datetime, extra json, gone varchar(5));
		insert into guests values ('Q1', 'Zoë 🚢', 1234.50, 3, '2026-05-31', '2026-05-31 10:20:30', '{"a": [1.10]}', null), ('Q2', 'Ann', 5, 1, '2026-06-01', null, null, 'x');`)
	require.NoError(t, err)
	cfg, err := mysql.ParseDSN(private.DSN())
	require.NoError(t, err)
	address := "mysql://" + cfg.User + "@/harbour?socket=" + url.QueryEscape(cfg.Addr)
	var list []record.Record
	query := "select number, name as `guest.name`, fee, nights, came, at, extra, gone from guests where nights > ? order by number"
	require.NoError(t, record.EachSQL(ctx, address, query, []any{"0"}, func(r record.Record) error { list = append(list, r); return nil }))
	require.Len(t, list, 2)
	first := list[0].Data
	assert.Equal(t, map[string]any{"name": "Zoë 🚢"}, first["guest"])
	assert.Equal(t, json.Number("1234.50"), first["fee"], "digits stay as stored")
	assert.Equal(t, json.Number("3"), first["nights"])
	assert.Equal(t, "2026-05-31", first["came"])
	assert.Equal(t, "2026-05-31T10:20:30", first["at"])
	assert.Equal(t, map[string]any{"a": []any{json.Number("1.10")}}, first["extra"])
	assert.Nil(t, first["gone"])
	outfile := filepath.Join(t.TempDir(), "stolen.csv")
	for _, q := range []string{"select * into outfile '" + outfile + "' from guests", "select 1; drop table guests", "with x as (select 1) delete from guests", "select * from guests for update; insert into guests values ()"} {
		err := record.EachSQL(ctx, address, q, nil, func(record.Record) error { return nil })
		assert.Error(t, err, q)
	}
	assert.NoFileExists(t, outfile)
	var n int
	require.NoError(t, db.QueryRowContext(ctx, "select count(*) from harbour.guests").Scan(&n))
	assert.Equal(t, 2, n, "nothing was changed")
	err = record.EachSQL(ctx, strings.Replace(address, "harbour", "nowhere", 1), "select 1", nil, nil)
	assert.ErrorContains(t, err, "nowhere")
	err = record.EachSQL(ctx, "mysql://nobody:p@ss/word@/harbour?socket="+url.QueryEscape(cfg.Addr), "select 1", nil, nil)
	assert.ErrorContains(t, err, `denies access to the user "nobody"`)
}
