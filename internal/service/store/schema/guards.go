package schema

import (
	"errors"
	"regexp"
	"strings"

	"github.com/go-sql-driver/mysql"
	"gorm.io/gorm"
)

var trigger = regexp.MustCompile(`(?s)CREATE TRIGGER IF NOT EXISTS [^;]*`)

// Unread tells an error of a server that has not read a trigger: it happens to a node of a cluster that
// ends a transaction just when it opens the table, and stays until the table is opened anew.
func Unread(err error) bool {
	const syntax = 1064
	var e *mysql.MySQLError
	return errors.As(err, &e) && e.Number == syntax && strings.Contains(e.Message, "has an error in its body")
}

// Guard makes the triggers of all steps anew, without a moment in which there are none.
func Guard(db *gorm.DB) error {
	files, err := steps.ReadDir(".")
	if err != nil {
		return err
	}
	for _, f := range files {
		raw, err := steps.ReadFile(f.Name())
		if err != nil {
			return err
		}
		for _, text := range trigger.FindAllString(string(raw), -1) {
			if err := db.Exec(strings.Replace(text, "CREATE TRIGGER IF NOT EXISTS", "CREATE OR REPLACE TRIGGER", 1)).Error; err != nil {
				return err
			}
		}
	}
	return nil
}
