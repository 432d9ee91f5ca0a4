package sign_test

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// appended is a file with an update that was written by hand; the objects have the numbers that stand in them.
func appended(t *testing.T, file, objects string) string {
	t.Helper()
	prev := regexp.MustCompile(`startxref\s+(\d+)\s+%%EOF\s*$`).FindStringSubmatch(file)
	root := regexp.MustCompile(`/Root (\d+ 0 R)`).FindAllStringSubmatch(file, -1)
	require.NotNil(t, prev)
	require.NotEmpty(t, root)
	out := file + objects
	start := len(out)
	out += "xref\n"
	for _, at := range regexp.MustCompile(`(?m)^(\d+) 0 obj`).FindAllStringSubmatchIndex(objects, -1) {
		out += fmt.Sprintf("%s 1\n%010d 00000 n \n", objects[at[2]:at[3]], len(file)+at[0])
	}
	return out + fmt.Sprintf("trailer\n<</Root %s/Prev %s/Size 9001>>\nstartxref\n%d\n%%%%EOF\n", root[len(root)-1][1], prev[1], start)
}

// signedPage is the page of a file that was signed, with other text in place of some.
func signedPage(t *testing.T, file, old, text string) string {
	t.Helper()
	page := regexp.MustCompile(`(?m)^\d+ 0 obj\n<<.*/Type /Page>>\nendobj\n`).FindString(file)
	require.Contains(t, page, old)
	return strings.Replace(page, old, text, 1)
}
