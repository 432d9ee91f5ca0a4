package font

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// clustersOf writes the clusters of a run: where each begins, and how many bytes it covers.
func clustersOf(r *Run) string {
	var list []string
	for _, g := range r.Glyphs {
		list = append(list, fmt.Sprintf("%d+%d", g.Cluster, g.Chars))
	}
	return strings.Join(list, " ")
}

// TestSeenClusters: what has no glyph of its own goes with its neighbours, and all of the text
// is covered as before.
func TestSeenClusters(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	for text, want := range map[string]string{
		"abc":            "0+1 1+1 2+1",
		"a\u200Bb":       "0+4 4+1",
		"\u200Bab":       "0+4 4+1",
		"ab\u200B\u2060": "0+1 1+7",
		"\u200B":         "0+3",
		"a\u0301b":       "0+3 3+1",
	} {
		run := f.Shape(text, language.Latin, "en", false, "")
		seen := run.Seen()
		assert.Equal(t, want, clustersOf(seen), "%q", text)
		covered, width := 0, 0.0
		for _, g := range seen.Glyphs {
			covered += int(g.Chars)
			width += g.Advance
		}
		assert.Equal(t, len(text), covered, "%q", text)
		assert.InDelta(t, width, seen.Width, 0.01, "%q", text)
	}
}

// TestRunsForOtherText stand for it as one cluster.
func TestRunsForOtherText(t *testing.T) {
	f, err := Parse(liberationsansregular.TTF, nil)
	require.NoError(t, err)
	run := f.Shape("-", language.Latin, "en", false, "")
	as := run.As("\u00AD")
	assert.Equal(t, "\u00AD", as.Text)
	assert.Equal(t, "0+2", clustersOf(as))
	assert.Equal(t, "0+1", clustersOf(run), "the run itself is as it was")
	assert.Equal(t, run.Width, as.Width)
}

// TestFeaturesAreRead: what is not four letters long asks for nothing.
func TestFeaturesAreRead(t *testing.T) {
	for text, want := range map[Features]string{
		"":                   "",
		"smcp -liga ss01=2":  "smcp=1 liga=0 ss01=2",
		"toolong ab kern=12": "kern=12",
		"-kern=3":            "kern=3",
		"kern=x":             "kern=0",
	} {
		var list []string
		for _, x := range parseFeatures(text) {
			list = append(list, fmt.Sprintf("%s=%d", x.Tag, x.Value))
		}
		assert.Equal(t, want, strings.Join(list, " "), "%q", text)
	}
}
