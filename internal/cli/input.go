package cli

import (
	"bytes"
	"net/http"
	"path/filepath"
	"regexp"
	"strings"
)

// action is what templates are filled in by.
var action = regexp.MustCompile(`\{\{[^{}]*\}\}`)

// isPage tells what is wrong with a file that is to be set as a page.
func isPage(name string, html []byte) error {
	kind := http.DetectContentType(html)
	switch {
	case len(bytes.TrimSpace(html)) == 0:
		return usage("%s is empty", name)
	case strings.HasPrefix(kind, "image/"):
		return usage("%s is a picture (%s), not a page; show it in one: <img src=%q>", name, kind, name)
	case holdsRecords(name) && !bytes.Contains(html, []byte("<")):
		return usage("%s holds records, not a page; give it to a template folder: olive render FOLDER --records %s", name, name)
	case kind == "application/pdf", kind == "application/zip", strings.HasPrefix(kind, "font/"):
		return usage("%s is no HTML page, but %s", name, kind)
	}
	return nil
}

// unmerged warns of a page that looks like a template.
func unmerged(html []byte) (first string, n int) {
	all := action.FindAll(html, -1)
	if len(all) == 0 {
		return "", 0
	}
	return string(all[0]), len(all)
}

// holdsRecords tells whether a file's ending is one of records.
func holdsRecords(name string) bool {
	switch strings.ToLower(filepath.Ext(name)) {
	case ".csv", ".tsv", ".json", ".ndjson", ".jsonl", ".yaml", ".yml", ".xlsx":
		return true
	}
	return false
}
