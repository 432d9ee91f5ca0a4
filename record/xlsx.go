package record

import (
	"encoding/json"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"
)

// eachSheetRow reads the rows of a sheet; the first names the fields. Numbers
// and dates come as they are stored, not as the sheet shows them: dates as
// 2026-05-31.
func eachSheetRow(r io.Reader, o Options, visit func(Record) error) error {
	book, err := excelize.OpenReader(r, excelize.Options{ShortDatePattern: "yyyy-mm-dd", LongDatePattern: "yyyy-mm-dd", LongTimePattern: "hh:mm:ss"})
	if err != nil {
		return o.fail(0, 0, "the file is no XLSX workbook: %w", err)
	}
	defer book.Close()
	sheets := book.GetSheetList()
	if len(sheets) == 0 {
		return o.fail(0, 0, "the workbook holds no sheet")
	}
	sheet := o.Sheet
	if sheet == "" {
		if sheet = sheets[0]; len(sheets) > 1 {
			o.note("the workbook holds the sheets %s; %q is read", strings.Join(sheets, ", "), sheet)
		}
	} else if !slices.Contains(sheets, sheet) {
		return o.fail(0, 0, "there is no sheet %q in the workbook; it has %s", sheet, strings.Join(sheets, ", "))
	}
	shown, err := book.Rows(sheet)
	if err != nil {
		return o.fail(0, 0, "the sheet %q cannot be read: %w", sheet, err)
	}
	defer shown.Close()
	stored, err := book.Rows(sheet)
	if err != nil {
		return o.fail(0, 0, "the sheet %q cannot be read: %w", sheet, err)
	}
	defer stored.Close()
	var fields []string
	n := 0
	for line := 1; shown.Next() && stored.Next(); line++ {
		texts, err := shown.Columns()
		if err != nil {
			return o.fail(line, 0, "%w", err)
		}
		raws, err := stored.Columns(excelize.Options{RawCellValue: true})
		if err != nil {
			return o.fail(line, 0, "%w", err)
		}
		if blankRow(texts) {
			continue
		}
		if fields == nil {
			if fields, err = o.fieldNames(texts); err != nil {
				return err
			}
			if !o.NoHeader {
				continue
			}
		}
		n++
		if len(texts) > len(fields) && !blankRow(texts[len(fields):]) {
			if err := o.bad(o.fail(line, len(fields)+1, "the row has more cells than there are columns with a name (%d)", len(fields))); err != nil {
				return err
			}
			continue
		}
		data := map[string]any{}
		for i, f := range fields {
			var v any
			if i < len(texts) {
				v = cellValue(texts[i], raws[i])
			}
			Put(data, f, v)
		}
		if err := o.emit(Record{n, line, data}, visit); err != nil {
			return err
		}
	}
	if err := shown.Error(); err != nil {
		return o.fail(0, 0, "%w", err)
	}
	if fields == nil {
		return o.fail(0, 0, "the sheet %q is empty; its first row should name the fields", sheet)
	}
	return nil
}

func blankRow(row []string) bool {
	return !slices.ContainsFunc(row, func(s string) bool { return strings.TrimSpace(s) != "" })
}

// cellValue gives what a cell stores; shown is how the sheet writes it.
func cellValue(shown, raw string) any {
	switch {
	case raw == "":
		return nil
	case raw == shown && raw == "TRUE", raw == "1" && shown == "TRUE":
		return true
	case raw == shown && raw == "FALSE", raw == "0" && shown == "FALSE":
		return false
	}
	f, err := strconv.ParseFloat(raw, 64)
	if err != nil {
		return raw
	}
	if t, ok := dateOf(f, shown); ok {
		return t
	}
	if plainNumber.MatchString(raw) {
		return json.Number(shortest(raw, f))
	}
	if strings.HasPrefix(strings.TrimPrefix(raw, "-"), "0") && !strings.Contains(raw, ".") {
		return raw // an article number such as 00123
	}
	return json.Number(strconv.FormatFloat(f, 'f', -1, 64))
}

// shortest writes a number that a workbook stores as a binary fraction, such as
// 0.10000000000000001, with the digits that were typed.
func shortest(raw string, f float64) string {
	if len(raw) < 16 {
		return raw
	}
	return strconv.FormatFloat(f, 'f', -1, 64)
}

var dateLook = regexp.MustCompile(`^[\p{L}\d .,/:\-]*\d[\p{L}\d .,/:\-]*$`)

// dateOf tells whether a number is shown as a date or time, and gives it as
// ISO 8601. A workbook stores both as days since 1900.
func dateOf(serial float64, shown string) (string, bool) {
	if serial < 0 || serial > 2958465 || !strings.ContainsAny(shown, "/-:.") && !strings.ContainsFunc(shown, func(r rune) bool { return r > 'A' }) || !dateLook.MatchString(shown) {
		return "", false
	}
	t, err := excelize.ExcelDateToTime(serial, false)
	if err != nil {
		return "", false
	}
	t = t.Round(time.Second)
	day, year := strconv.Itoa(t.Day()), fmt.Sprintf("%02d", t.Year()%100)
	hasDate := strings.Contains(shown, day) && strings.Contains(shown, year) && (strings.Count(shown, "-") > 1 || strings.Count(shown, "/") > 0 || strings.Count(shown, ".") > 1 || strings.Contains(shown, t.Month().String()[:3]))
	hasTime := strings.Contains(shown, ":") && strings.Contains(shown, fmt.Sprintf("%02d", t.Minute()))
	switch {
	case hasDate && (hasTime || t.Hour()+t.Minute()+t.Second() > 0):
		return t.Format("2006-01-02T15:04:05"), true
	case hasDate:
		return t.Format("2006-01-02"), true
	case hasTime && serial < 1:
		return t.Format("15:04:05"), true
	}
	return "", false
}
