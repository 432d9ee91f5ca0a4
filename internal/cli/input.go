package cli

import (
	"bytes"
	"net/http"
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
