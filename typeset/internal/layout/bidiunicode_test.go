package layout

import (
	"bufio"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/bidi"
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
func atLineEnd(levels []uint8, classes []bidi.Class, base uint8) {
	reset := true
	for i := len(levels) - 1; i >= 0; i-- {
		switch classes[i] {
		case bidi.B, bidi.S:
			reset, levels[i] = true, base
		case bidi.WS, bidi.LRI, bidi.RLI, bidi.FSI, bidi.PDI:
			if reset {
				levels[i] = base
			}
		case bidi.LRE, bidi.RLE, bidi.LRO, bidi.RLO, bidi.PDF, bidi.BN:
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
		var classes []bidi.Class
		for _, code := range strings.Fields(fields[0]) {
			n, err := strconv.ParseUint(code, 16, 32)
			require.NoError(t, err)
			p, _ := bidi.LookupRune(rune(n))
			text, classes = append(text, rune(n)), append(classes, p.Class())
		}
		base := uint8(fields[2][0] - '0')
		got := bidiLevels(classes, text, base)
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
	})
	assert.Greater(t, ran, 90_000)
	assert.Zero(t, wrong)
}

// TestBidiClasses holds levels against the Consortium's list of all short texts, as classes.
func TestBidiClasses(t *testing.T) {
	names := map[string]bidi.Class{"L": bidi.L, "R": bidi.R, "EN": bidi.EN, "ES": bidi.ES, "ET": bidi.ET, "AN": bidi.AN, "CS": bidi.CS, "B": bidi.B, "S": bidi.S, "WS": bidi.WS, "ON": bidi.ON, "BN": bidi.BN,
		"NSM": bidi.NSM, "AL": bidi.AL, "LRO": bidi.LRO, "RLO": bidi.RLO, "LRE": bidi.LRE, "RLE": bidi.RLE, "PDF": bidi.PDF, "LRI": bidi.LRI, "RLI": bidi.RLI, "FSI": bidi.FSI, "PDI": bidi.PDI}
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
		var classes []bidi.Class
		for _, name := range strings.Fields(text) {
			classes = append(classes, names[name])
		}
		bits, err := strconv.ParseUint(strings.TrimSpace(set), 16, 8)
		require.NoError(t, err)
		for base := range uint8(2) {
			if bits&(2<<base) == 0 {
				continue
			}
			got := bidiLevels(classes, make([]rune, len(classes)), base)
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
