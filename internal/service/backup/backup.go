// Package backup writes all that a service keeps into one ZIP file, and reads
// it back: the rows of each table as NDJSON, and the stored bytes.
package backup

import (
	"archive/zip"
	"bufio"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"
	"unicode/utf8"

	"gorm.io/gorm"

	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
)

// Count tells how much was written or read.
type Count struct{ Rows, Blobs int }

// format is told in the file, so that one of another kind is refused.
const format = "olive-ledger-backup 1"

// bytesOf marks a value that is no text.
type bytesOf struct {
	Base64 []byte `json:"base64"`
}

// tables are the names of all tables, in the order of store.Tables.
func tables(db *gorm.DB) ([]string, error) {
	var out []string
	for _, t := range store.Tables() {
		s := &gorm.Statement{DB: db}
		if err := s.Parse(t); err != nil {
			return nil, err
		}
		out = append(out, s.Schema.Table)
	}
	return out, nil
}

// passing are tables whose rows do not outlive a service.
var passing = map[string]bool{"sessions": true, "answers": true}

// Write copies everything as it is at one moment, while the service may go on.
func Write(ctx context.Context, st *store.Store, blobs blob.Store, to io.Writer) (n Count, err error) {
	names, err := tables(st.DB())
	if err != nil {
		return n, err
	}
	z := zip.NewWriter(to)
	if err := z.SetComment(format); err != nil {
		return n, err
	}
	var sums []string
	err = st.DB().WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		for _, name := range names {
			if passing[name] {
				continue
			}
			w, err := z.Create("tables/" + name + ".ndjson")
			if err != nil {
				return err
			}
			rows, err := writeTable(tx, name, w)
			if err != nil {
				return fmt.Errorf("the table %s: %w", name, err)
			}
			n.Rows += rows
		}
		return tx.Raw("SELECT sha256 FROM documents WHERE erased_at IS NULL UNION SELECT sha256 FROM shelf_fonts").Scan(&sums).Error
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return n, err
	}
	for _, sum := range sums {
		data, err := blobs.Get(ctx, sum)
		if err != nil {
			return n, fmt.Errorf("the stored bytes: %w", err)
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: "blobs/" + sum, Method: zip.Store})
		if err != nil {
			return n, err
		}
		if _, err := w.Write(data); err != nil {
			return n, err
		}
		n.Blobs++
	}
	return n, z.Close()
}

func writeTable(tx *gorm.DB, name string, w io.Writer) (n int, err error) {
	rows, err := tx.Raw("SELECT * FROM `" + name + "`").Rows()
	if err != nil {
		return 0, err
	}
	defer rows.Close()
	columns, err := rows.Columns()
	if err != nil {
		return 0, err
	}
	values, places := make([]any, len(columns)), make([]any, len(columns))
	for i := range values {
		places[i] = &values[i]
	}
	enc := json.NewEncoder(w)
	for ; rows.Next(); n++ {
		if err := rows.Scan(places...); err != nil {
			return n, err
		}
		row := map[string]any{}
		for i, c := range columns {
			row[c] = plain(values[i])
		}
		if err := enc.Encode(row); err != nil {
			return n, err
		}
	}
	return n, rows.Err()
}

// plain is a value of the database as JSON holds it.
func plain(v any) any {
	switch v := v.(type) {
	case time.Time:
		return v.UTC().Format("2006-01-02 15:04:05.999999")
	case []byte:
		if utf8.Valid(v) {
			return string(v)
		}
		return bytesOf{v}
	}
	return v
}

// Read puts a back-up into a service that holds nothing yet.
func Read(ctx context.Context, st *store.Store, blobs blob.Store, from io.ReaderAt, size int64) (n Count, err error) {
	z, err := zip.NewReader(from, size)
	if err != nil {
		return n, fmt.Errorf("it is no back-up: %w", err)
	}
	if z.Comment != format {
		return n, errors.New("it is a ZIP file, but no back-up of Olive Ledger that this version reads")
	}
	if _, people, err := st.People(store.Page{Limit: 1}); err != nil || people > 0 {
		return n, errors.Join(err, errors.New("there is data already; a back-up is restored into an empty data folder or database"))
	}
	names, err := tables(st.DB())
	if err != nil {
		return n, err
	}
	known := map[string]bool{}
	for _, name := range names {
		known[name] = true
	}
	err = st.DB().WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("DELETE FROM ledger_head").Error; err != nil {
			return err
		}
		for _, f := range z.File {
			name, ok := strings.CutPrefix(f.Name, "tables/")
			if name = strings.TrimSuffix(name, ".ndjson"); !ok {
				continue
			}
			if !known[name] {
				return fmt.Errorf("it holds the table %q, which is not known here", name)
			}
			rows, err := readTable(tx, name, f)
			if err != nil {
				return fmt.Errorf("the table %s: %w", name, err)
			}
			n.Rows += rows
		}
		for _, f := range z.File {
			sum, ok := strings.CutPrefix(f.Name, "blobs/")
			if !ok {
				continue
			}
			if err := readBlob(ctx, blobs, sum, f); err != nil {
				return err
			}
			n.Blobs++
		}
		return nil
	})
	return n, err
}

func readBlob(ctx context.Context, blobs blob.Store, sum string, f *zip.File) error {
	r, err := f.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	data, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	got, err := blobs.Put(ctx, data)
	if err == nil && got != sum {
		err = fmt.Errorf("the stored bytes %.12s… are damaged in the back-up", sum)
	}
	return err
}

func readTable(tx *gorm.DB, name string, f *zip.File) (n int, err error) {
	r, err := f.Open()
	if err != nil {
		return 0, err
	}
	defer r.Close()
	dec := json.NewDecoder(bufio.NewReader(r))
	dec.UseNumber()
	for {
		var row map[string]any
		if err := dec.Decode(&row); errors.Is(err, io.EOF) {
			return n, nil
		} else if err != nil {
			return n, err
		}
		var columns, marks []string
		var values []any
		for c, v := range row {
			columns, marks = append(columns, "`"+strings.ReplaceAll(c, "`", "")+"`"), append(marks, "?")
			if none, ok := older[name+"."+c]; ok && v == none {
				v = nil
			}
			values = append(values, stored(v))
		}
		insert := "INSERT INTO `" + name + "` (" + strings.Join(columns, ", ") + ") VALUES (" + strings.Join(marks, ", ") + ")"
		if _, err := tx.Statement.ConnPool.ExecContext(tx.Statement.Context, insert, values...); err != nil {
			return n, err
		}
		n++
	}
}

// older is what back-ups from before tables had versions hold where there is NULL now.
var older = map[string]any{"documents.number": "", "documents.batch_id": json.Number("0"), "batch_items.document_id": json.Number("0")}

// stored is a value of JSON as the database takes it.
func stored(v any) any {
	switch v := v.(type) {
	case json.Number:
		return v.String()
	case map[string]any:
		var b bytesOf
		raw, err := json.Marshal(v)
		if err == nil && json.Unmarshal(raw, &b) == nil {
			return b.Base64
		}
	}
	return v
}
