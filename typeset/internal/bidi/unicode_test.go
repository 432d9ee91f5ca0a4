package bidi

import (
	"bufio"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	ucd "golang.org/x/text/unicode/bidi"
)

// The Unicode Consortium's own tests, from Debian's package unicode-data.
const unicodeData = "/usr/share/unicode/"

// eachLine visits the lines of a test file that hold something.
func eachLine(t *testing.T, name string, visit func(line string)) {
	t.Helper()
	f, err := os.Open(unicodeData + name)
	require.NoError(t, err, "scripts/install.sh test installs it")
	defer f.Close()
	lines := bufio.NewScanner(f)
	lines.Buffer(nil, 1<<20)
	for lines.Scan() {
		line, _, _ := strings.Cut(lines.Text(), "#")
		if strings.TrimSpace(line) != "" {
			visit(line)
		}
	}
	require.NoError(t, lines.Err())
}

// atLineEnd resets the levels of white space at the end of a line, and of separators (rule L1).
func atLineEnd(levels []uint8, classes []Class, base uint8) {
	reset := true
	for i := len(levels) - 1; i >= 0; i-- {
		switch classes[i] {
		case ucd.B, ucd.S:
			reset, levels[i] = true, base
		case ucd.WS, ucd.LRI, ucd.RLI, ucd.FSI, ucd.PDI:
			if reset {
				levels[i] = base
			}
		case ucd.LRE, ucd.RLE, ucd.LRO, ucd.RLO, ucd.PDF, ucd.BN:
		default:
			reset = false
		}
	}
}

// TestBidiCharacters holds levels against the Consortium's examples of characters (UAX #9).
func TestBidiCharacters(t *testing.T) {
	ran, wrong := 0, 0
	eachLine(t, "BidiCharacterTest.txt", func(line string) {
		fields := strings.Split(line, ";")
		var text []rune
		var classes []Class
		for _, code := range strings.Fields(fields[0]) {
			n, err := strconv.ParseUint(code, 16, 32)
			require.NoError(t, err)
			text, classes = append(text, rune(n)), append(classes, ClassOf(rune(n)))
		}
		base := fields[2][0] - '0'
		got := Levels(classes, text, base)
		atLineEnd(got, classes, base)
		ran++
		for i, want := range strings.Fields(fields[3]) {
			if want != "x" && want != strconv.Itoa(int(got[i])) {
				if wrong++; wrong <= 10 {
					t.Errorf("%s, level %d: levels %v, not %s", fields[0], base, got, fields[3])
				}
				return
			}
		}
		assert.Equal(t, fields[4], orderOf(strings.Fields(fields[3])), line)
	})
	assert.Greater(t, ran, 90_000)
	assert.Zero(t, wrong)
}

// orderOf gives the places of characters in the order in which they are seen, without those that have
// no level, as the Consortium writes it.
func orderOf(levels []string) string {
	var places []int
	var kept []uint8
	for i, v := range levels {
		if n, err := strconv.ParseUint(v, 10, 8); err == nil {
			places, kept = append(places, i), append(kept, uint8(n))
		}
	}
	var out []string
	for _, k := range Reorder(kept) {
		out = append(out, strconv.Itoa(places[k]))
	}
	return strings.Join(out, " ")
}

// TestBidiClasses holds levels against the Consortium's list of all short texts, as classes.
func TestBidiClasses(t *testing.T) {
	names := map[string]Class{
		"L": ucd.L, "R": ucd.R, "EN": ucd.EN, "ES": ucd.ES, "ET": ucd.ET, "AN": ucd.AN, "CS": ucd.CS, "B": ucd.B, "S": ucd.S, "WS": ucd.WS, "ON": ucd.ON, "BN": ucd.BN,
		"NSM": ucd.NSM, "AL": ucd.AL, "LRO": ucd.LRO, "RLO": ucd.RLO, "LRE": ucd.LRE, "RLE": ucd.RLE, "PDF": ucd.PDF, "LRI": ucd.LRI, "RLI": ucd.RLI, "FSI": ucd.FSI, "PDI": ucd.PDI,
	}
	var want []string
	ran, wrong := 0, 0
	eachLine(t, "BidiTest.txt", func(line string) {
		if list, ok := strings.CutPrefix(line, "@Levels:"); ok {
			want = strings.Fields(list)
			return
		}
		text, set, ok := strings.Cut(line, ";")
		if !ok {
			return // another setting
		}
		var classes []Class
		for _, name := range strings.Fields(text) {
			classes = append(classes, names[name])
		}
		bits, err := strconv.ParseUint(strings.TrimSpace(set), 16, 8)
		require.NoError(t, err)
		for base := range uint8(2) {
			if bits&(2<<base) == 0 {
				continue
			}
			got := Levels(classes, make([]rune, len(classes)), base)
			atLineEnd(got, classes, base)
			ran++
			for i, level := range want {
				if level != "x" && level != strconv.Itoa(int(got[i])) {
					if wrong++; wrong <= 10 {
						t.Errorf("%s, level %d: levels %v, not %v", text, base, got, want)
					}
					break
				}
			}
		}
	})
	assert.Greater(t, ran, 400_000)
	assert.Zero(t, wrong)
}

func TestText(t *testing.T) {
	for text, want := range map[string]bool{"": false, "Quay 12, Ärger €": false, "אב": true, "a العربية": true, "\u200F": true, "\u2067": true, "\uFB1D": true, "\U00010800": true, "文字": false} {
		assert.Equal(t, want, Needed(text), text)
	}
	assert.True(t, FirstStrongRTL("12 אב ab", false))
	assert.False(t, FirstStrongRTL("12 ab אב", true))
	assert.True(t, FirstStrongRTL("12", true), "text without a direction has that around it")
	assert.False(t, FirstStrongRTL("12", false))
}
