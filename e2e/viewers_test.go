package e2e

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
)

// viewers give the text of a PDF: poppler goes by where letters stand and by ActualText, the others by
// the order of what is drawn and by the text of each glyph. These take spaces from the gaps between what follows each
// other on paper, so that words have to be drawn from left to right: in a line of several directions they give the words
// in that order.
var viewers = map[string][]string{
	"poppler": {"pdftotext", "FILE", "-"},
	"mupdf":   {"mutool", "draw", "-F", "txt", "FILE"},
	"pdf.js":  {"node", "testdata/pdftext.mjs", "FILE"},
}

// TestTextInThreeViewers: what people copy, search and have read to them is the text of the page, whichever
// program they open it with.
func TestTextInThreeViewers(t *testing.T) {
	for _, c := range []struct {
		name, html, want string
		asDrawn          string // where mupdf, which leaves right-to-left as it stands, gives it otherwise
	}{
		{"ligatures and signs", `<p>Harbour office fi ffl “quoted” naïve café 12,50 €<p>second line<br>third`, "Harbour office fi ffl “quoted” naïve café 12,50 € second line third", ""},
		{"small capitals", `<p style="font-variant:small-caps">Small Caps WORDS λιμάνι<p>Plain CAPS after small<p style="font-variant-caps:all-small-caps">All Small`, "Small Caps WORDS λιμάνι Plain CAPS after small All Small", ""},
		{"justified", `<p style="text-align:justify;width:180px">The quay is long and the lantern is bright at night when ships return`, "The quay is long and the lantern is bright at night when ships return", ""},
		{"Greek and Cyrillic", `<p>Λιμάνι φανάρι ΐ<p>Порт и фонарь ё`, "Λιμάνι φανάρι ΐ Порт и фонарь ё", ""},
		{"a table", `<table><tr><td>one<td>two<td style="text-align:right">3.50<tr><td>four<td>five<td style="text-align:right">12.00</table>`, "one two 3.50 four five 12.00", ""},
		{"columns", `<div style="columns:2;height:60px">alpha beta gamma delta epsilon zeta eta theta iota kappa lambda mu nu xi omicron</div>`, "alpha beta gamma delta epsilon zeta eta theta iota kappa lambda mu nu xi omicron", ""},
		{"signs of no face", `<p lang=ja>港の灯台、12隻の船。<p lang=zh>码头灯笼<p>नगर ᚠᚢᚦ`, "港の灯台、12隻の船。 码头灯笼 नगर ᚠᚢᚦ", ""},
		{"raised and lowered", `<p>a<b>b</b>c <i>it</i>, H<sub>2</sub>O`, "abc it, H2O", ""},
		{"set wide", `<p style="letter-spacing:.3em">INVOICE no. 12<p style="letter-spacing:3px;font:bold 20px serif;text-transform:uppercase">harbour office, berth<p style="letter-spacing:1em">far`, "INVOICE no. 12 HARBOUR OFFICE, BERTH far", ""},
		{"Hebrew", `<p dir=rtl lang=he>שלום עולם נמל הפנס`, "שלום עולם נמל הפנס", "סנפה למנ םלוע םולש"},
		{"Arabic", `<p dir=rtl lang=ar style="font-family:'DejaVu Sans'">ميناء الفانوس الرصيف`, "ميناء الفانوس الرصيف", "فيصرلا سونافلا ءانيم"},
	} {
		t.Run(c.name, func(t *testing.T) {
			page := `<!doctype html><html lang=en><title>t</title><style>@page { size: 400px 300px; margin: 20px } body { font-size: 16px; margin: 0 }</style>` + c.html
			var out bytes.Buffer
			_, err := typeset.Set(context.Background(), []byte(page), typeset.Options{}, &out)
			require.NoError(t, err)
			file := filepath.Join(t.TempDir(), "page.pdf")
			require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
			for viewer, command := range viewers {
				args := slices.Clone(command)
				args[slices.Index(args, "FILE")] = file
				text, err := exec.Command(args[0], args[1:]...).Output()
				require.NoError(t, err, viewer)
				want := c.want
				if viewer == "mupdf" && c.asDrawn != "" {
					want = c.asDrawn
				}
				assert.Equal(t, want, seen(string(text)), viewer)
			}
		})
	}
}

// seen are the words of a text, without marks of direction and what else is not seen.
func seen(text string) string {
	text = strings.Map(func(r rune) rune {
		if r >= 0x200B && r <= 0x200F || r >= 0x202A && r <= 0x202E {
			return -1
		}
		return r
	}, text)
	return strings.Join(strings.Fields(text), " ")
}
