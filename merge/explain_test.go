package merge

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/record"
)

// TestWhichFieldIsWrong asks errors for the field that a call took, wherever in the template it stands: in a branch, in
// parentheses, behind a pipe, in a part, beside a call that looks the same.
func TestWhichFieldIsWrong(t *testing.T) {
	for _, test := range []struct{ name, page, part, want string }{
		{"a call", `{{money .name}}`, "", `the field "name": `},
		{"another line", "{{money .price}}\n{{money .name}}", "", `the field "name": `},
		{"in a branch", `{{if .no}}{{money .price}}{{else}}{{money .name}}{{end}}`, "", `the field "name": `},
		{"in a condition", `{{if gt (plus .name 1) 2}}x{{end}}`, "", `the field "name": `},
		{"behind a pipe", `{{.name | money}}`, "", `the field "name": `},
		{"two fields", `{{plus .price .name}}`, "", `the fields "price" and "name": `},
		{"in a part, where the page has another call", `{{money .price}}{{template "p.html" .}}`, `{{money .name}}`, `the field "name": `},
		{"in a loop of an else", `{{range .none}}{{.}}{{else}}{{money .name}}{{end}}`, "", `the field "name": `},
		{"of no field", `{{money "x"}}`, "", ``},
	} {
		t.Run(test.name, func(t *testing.T) {
			files := fstest.MapFS{"page.html": {Data: []byte(test.page)}, "p.html": {Data: []byte(test.part)}, "template.yaml": {Data: []byte("parts: [p.html]\n")}}
			m, err := Open("bill", files)
			require.NoError(t, err)
			r, err := record.FromJSON([]byte(`{"name": "Ida", "price": 2, "no": false, "none": []}`), 4)
			require.NoError(t, err)
			_, err = m.Merge(r)
			require.Error(t, err)
			if test.want == "" {
				assert.NotContains(t, err.Error(), "the field")
				return
			}
			assert.Contains(t, err.Error(), test.want)
			place := "page.html line "
			if test.part != "" {
				place = "p.html line "
			}
			assert.Contains(t, err.Error(), place, strings.TrimSpace(err.Error()))
		})
	}
}
