package orientation

import (
	"bufio"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestCharactersOfEachPosture(t *testing.T) {
	for _, r := range "日あアㄅ한、。「」ー①㎏§©®×÷½Ⅷ⌛☃☎🙂\uE000" {
		assert.True(t, Upright(r), "%c %U", r, r)
	}
	for _, r := range "aÉ1.,-–—(«‹…€%שعกक→∑ｱ" {
		assert.False(t, Upright(r), "%c %U", r, r)
	}
}

// TestEveryCharacter compares with the Unicode Consortium's own file.
func TestEveryCharacter(t *testing.T) {
	f, err := os.Open("/usr/share/unicode/VerticalOrientation.txt")
	require.NoError(t, err, "scripts/install.sh test installs it")
	defer f.Close()
	n := 0
	for lines := bufio.NewScanner(f); lines.Scan(); {
		chars, value, ok := strings.Cut(lines.Text(), ";")
		if !ok || strings.HasPrefix(chars, "#") {
			continue
		}
		var from, to rune
		if _, err := fmt.Sscanf(chars, "%X..%X", &from, &to); err != nil {
			to = from
		}
		upright := strings.TrimSpace(strings.SplitN(value, "#", 2)[0]) != "R"
		for r := from; r <= to; r++ {
			require.Equal(t, upright, Upright(r), "%U", r)
			n++
		}
	}
	require.Greater(t, n, 200000)
}
