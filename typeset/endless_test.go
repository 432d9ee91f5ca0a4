package typeset

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// propertiesOf lists the properties that values are held of.
func propertiesOf(t *testing.T) (list []string) {
	t.Helper()
	held, err := os.ReadFile("internal/style/testdata/values.txt")
	require.NoError(t, err)
	seen := map[string]bool{}
	for line := range strings.Lines(string(held)) {
		if name, _, ok := strings.Cut(line, " → "); ok && !seen[name] {
			seen[name] = true
			list = append(list, name)
		}
	}
	require.Greater(t, len(list), 250)
	return list
}

// Sizes without end, and such as are no number, may stand wherever a number may (CSS Values 4, §10.7): the page is set all
// the same, and each number of the file is one.
func TestNumbersWithoutEnd(t *testing.T) {
	numbers := []string{
		"calc(infinity * 1px)", "calc(-infinity * 1px)", "calc(NaN * 1px)", "calc(infinity * 1%)", "calc(NaN * 1%)", "calc(infinity)", "calc(-infinity)", "calc(NaN)",
		"calc(infinity * 1deg)", "min(calc(infinity * 1%), 5px)", "-1e300%", "1e30", "1e30fr", "1e-9px", "1e-9%", "1e-9",
	}
	forms := []struct{ of, values string }{ // N stands for the numbers
		{"", "N; N N; N N N N; N solid red; 1px N; a N; 1 1 N; auto N; N / N; N / N / N / N; span N; N N N N red; oblique N; 'wght' N; attr(data-n type(<length>), N)"},
		{"transform", "translate(N, N); scale(N); rotate(N); skew(N, N); matrix(N, N, N, N, N, N); perspective(N); scale(2) translate(N) rotate(N)"},
		{"filter", "blur(N); brightness(N); hue-rotate(N); opacity(N); drop-shadow(N N N red)"},
		{"clip-path shape-outside", "circle(N at N N); ellipse(N N); inset(N round N); polygon(N N, 0 0, 5px N); rect(N N N N); xywh(N N N N)"},
		{"background background-image mask mask-image border-image list-style-image content", "radial-gradient(circle at N N, red N, blue 0); radial-gradient(N N at 0 0, red, blue N); linear-gradient(N, red, blue); repeating-linear-gradient(red, blue N); repeating-radial-gradient(red N, blue N); conic-gradient(from N at N N, red, blue N); repeating-conic-gradient(red, blue N)"},
		{"text-decoration", "N underline wavy red; underline dotted N; N wavy overline line-through"},
		{"background mask", "url(data:image/svg+xml,<svg/>) N N / N N; linear-gradient(red, blue) N N / 5px N"},
		{"grid-template-columns grid-template-rows grid-auto-rows grid-auto-columns", "minmax(N, 1fr) N; repeat(auto-fill, N); fit-content(N); repeat(N, 1px)"},
		{"color background-color border-color", "rgb(N 0 0 / N); oklch(N N N); hsl(N N N); color-mix(in hsl, red N, blue)"},
	}
	around := []string{"", "display:flex", "display:grid", "columns:2", "position:relative", "font-size:0"}
	for _, property := range propertiesOf(t) {
		t.Run(property, func(t *testing.T) {
			t.Parallel()
			var page strings.Builder
			page.WriteString("<!DOCTYPE html><title>x</title><style>section { height: 40px; overflow: hidden; break-inside: avoid }</style>")
			for _, f := range forms {
				if f.of != "" && !slices.Contains(strings.Fields(f.of), property) {
					continue
				}
				for i, form := range strings.Split(f.values, "; ") {
					for k, n := range numbers {
						fmt.Fprintf(&page, `<section style="%s"><div style="%s: %s">ab <b>c</b></div></section>`, around[(i+k)%len(around)], property, strings.ReplaceAll(form, "N", n))
					}
				}
			}
			var pdf bytes.Buffer
			_, err := Set(context.Background(), []byte(page.String()), Options{Limits: Limits{Pages: 2000}}, &pdf)
			assert.NoError(t, err)
		})
	}
}
