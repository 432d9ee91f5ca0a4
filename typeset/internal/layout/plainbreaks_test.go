package layout

import (
	"math/rand/v2"
	"testing"

	"github.com/go-text/typesetting/segmenter"
	"github.com/stretchr/testify/require"
)

// Text that is said to break at its spaces alone does so by UAX #14.
func TestBreaksAtSpaces(t *testing.T) {
	chars := []rune("abZ_#&@*=0159.,:;()-/'%$äßŁ·\u00A0’€–   \n")
	r := rand.New(rand.NewPCG(7, 7))
	plain := 0
	for range 400_000 {
		b := make([]rune, 1+r.IntN(7))
		for i := range b {
			b[i] = chars[r.IntN(len(chars))]
		}
		text := string(b)
		if !breaksAtSpaces(text) {
			continue
		}
		plain++
		var seg segmenter.Segmenter
		seg.Init([]rune(text))
		ends := map[int]bool{}
		for it := seg.LineIterator(); it.Next(); {
			ends[len(string(b[:it.Line().Offset+len(it.Line().Text)]))] = true
		}
		for i := 1; i < len(text); i++ {
			require.Equal(t, ends[i], breakSet{text: text}.at(i), "%q at %d", text, i)
		}
	}
	require.Greater(t, plain, 10_000)
	for _, text := range []string{"2026-01-31", "-12.50", "(see p. 4)", "31/12/2026", "it's 5% of $10.00", "a_b@c: d; e", "QL-2026-0003", "1 Quay\n20457 Tidewell", "Quay · 2"} {
		require.True(t, breaksAtSpaces(text), text)
	}
	for _, text := range []string{"a-b", "a/b", "x ,y", "£5", "x–y", "a!b", "(a)(b)"} {
		require.False(t, breaksAtSpaces(text), text)
	}
}
