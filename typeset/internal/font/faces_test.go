package font

import (
	"fmt"
	"hash/crc32"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/require"

	gtfont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"

	"oliveledger/internal/golden"
)

// facesFiles are font files of the examples: variable WOFF2 of two families.
const facesFiles = "../../../demo/templates/*/fonts/*-normal.woff2"

// shapings are texts that faces are asked to shape.
var shapings = []struct {
	text     string
	script   language.Script
	lang     string
	rtl      bool
	features Features
}{
	{text: "office AV To.", script: language.Latin},
	{text: "office", script: language.Latin, features: "-liga"},
	{text: "AVATAR", script: language.Latin, features: "-kern"},
	{text: "Quay 1234567890", script: language.Latin, features: "onum tnum"},
	{text: "1/2 2nd", script: language.Latin, features: "frac ordn"},
	{text: "Caps", script: language.Latin, features: "smcp c2sc"},
	{text: "e\u0301 Å ß", script: language.Latin},
	{text: "ŞŢ i", script: language.Latin, lang: "ro"},
	{text: "Ωμέγα", script: language.Greek},
	{text: "Привет", script: language.Cyrillic},
	{text: "שָׁלוֹם", script: language.Hebrew, rtl: true},
	{text: "سلام لا", script: language.Arabic, rtl: true},
	{text: "a\u00ADb\u200Bc\u200D", script: language.Latin},
	{text: "漢", script: language.Han},
}

// TestFaces writes down what faces tell of themselves, how they shape text and what is left
// of them when they are cut down, and compares that with what is held. To see what a change
// does, run with -update and look at the difference.
func TestFaces(t *testing.T) {
	var out strings.Builder
	s := NewSet()
	for _, q := range []Query{
		{Families: []string{"Arial"}, Weight: 400},
		{Families: []string{"Times New Roman"}, Weight: 700, Italic: true, Slant: 14},
		{Families: []string{"monospace"}, Weight: 400},
		{Families: []string{"DejaVu Sans"}, Weight: 400},
		{Families: []string{"serif"}, Weight: 300},
		{Families: []string{"DejaVu Serif"}, Weight: 900, Italic: true, Slant: 14},
	} {
		q.Stretch = 100
		m := s.Primary(q)
		fmt.Fprintf(&out, "%v %g italic=%t is %s bold=%t slanted=%g\n", q.Families, q.Weight, q.Italic, m.Family(), m.Bold, m.Oblique)
		writeFace(&out, m.Face)
	}
	files, err := filepath.Glob(facesFiles)
	require.NoError(t, err)
	require.NotEmpty(t, files)
	seen := map[string]bool{}
	for _, file := range files {
		if seen[filepath.Base(file)] || strings.Contains(file, "-ext-") {
			continue
		}
		seen[filepath.Base(file)] = true
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, axes := range [][]gtfont.Variation{nil, {{Tag: ot.MustNewTag("wght"), Value: 700}}} {
			f, err := Parse(data, axes)
			require.NoError(t, err)
			fmt.Fprintf(&out, "%s %v\n", filepath.Base(file), axes)
			writeFace(&out, f)
		}
	}
	golden.Compare(t, "testdata/faces.txt", out.String())
}

func writeFace(out *strings.Builder, f *Face) {
	least, most := f.Weights()
	fmt.Fprintf(out, "  %s of %s, %g to an em, ascent %.4g descent %.4g gap %.4g, x %.4g cap %.4g, mean %.4g\n", f.Name, f.Family, f.Upem, f.Ascent, f.Descent, f.LineGap, f.XHeight, f.CapHeight, f.MeanWidth)
	fmt.Fprintf(out, "  underline %.4g %.4g strike %.4g %.4g angle %g fixed %t italic %t weight %g (%g to %g) box %.4g CFF %t colours %t glyphs %d\n",
		f.UnderlinePos, f.UnderlineSize, f.StrikePos, f.StrikeSize, f.ItalicAngle, f.Fixed, f.Italic, f.Weight, least, most, f.Box, f.CFF, f.HasColors(), f.NumGlyphs)
	for _, tag := range []string{"liga", "kern", "smcp", "onum", "zzzz"} {
		fmt.Fprintf(out, "  %s %t", tag, f.HasFeature(tag))
	}
	out.WriteByte('\n')
	for _, r := range "Ag1éΩ漢" {
		g := f.Glyph(r)
		left, right, ok := f.Ink(g, -0.2, -0.05)
		fmt.Fprintf(out, "  %q glyph %d advance %.4g width %g outline %d ink below %.4g %.4g %t\n", r, g, f.Advance(r), f.GlyphWidth(g), len(f.Outline(g)), left, right, ok)
	}
	used := map[uint32]bool{}
	for _, s := range shapings {
		run := f.Shape(s.text, s.script, s.lang, s.rtl, s.features)
		fmt.Fprintf(out, "  %q %s %s width %g:", s.text, s.lang, s.features, run.Width)
		for _, g := range run.Glyphs {
			fmt.Fprintf(out, " %d+%g", g.ID, g.Advance)
			if g.XOff != 0 || g.YOff != 0 {
				fmt.Fprintf(out, "(%g,%g)", g.XOff, g.YOff)
			}
			fmt.Fprintf(out, "@%d-%d", g.Cluster, g.Chars)
			used[g.ID] = true
		}
		out.WriteByte('\n')
	}
	w := f.Words(language.Latin, "", false, "")
	fmt.Fprintf(out, "  words “Quay” %g “AV” %g, spaces %g %g\n", w.Width("Quay"), w.Width("AV"), w.Space('A', 'V').Width, w.Space('r', '.').Width)
	sub := f.Subset(used, 0)
	var kept []uint32
	for g := range sub.NewID {
		kept = append(kept, g)
	}
	slices.Sort(kept)
	fmt.Fprintf(out, "  cut down to %d glyphs from %d on, %d bytes, checksum %08x\n", len(kept), kept[0], len(sub.Data), crc32.ChecksumIEEE(sub.Data))
}
