package linear

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/pdfread"
)

// small is a file of two pages which share a font, with an outline.
const small = `%PDF-1.7
1 0 obj<</Type/Catalog/Pages 2 0 R/Outlines 9 0 R/MODE>>endobj
2 0 obj<</Type/Pages/Kids[3 0 R 6 0 R]/Count 2>>endobj
3 0 obj<</Type/Page/MediaBox[0 0 100 100]/Parent 2 0 R/Contents 4 0 R/Resources<</Font<</F 5 0 R>>>>>>endobj
4 0 obj<</Length 20>>stream
BT/F 9 Tf(one)Tj ET 
endstream endobj
5 0 obj<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>endobj
6 0 obj<</Type/Page/MediaBox[0 0 100 100]/Parent 2 0 R/Contents 7 0 R/Resources<</Font<</F 5 0 R>>/XObject<</X 8 0 R>>>>>>endobj
7 0 obj<</Length 20>>stream
BT/F 9 Tf(two)Tj ET 
endstream endobj
8 0 obj<</Type/XObject/Subtype/Form/BBox[0 0 1 1]/Length 0>>stream

endstream endobj
9 0 obj<</Type/Outlines/First 10 0 R/Last 10 0 R/Count 1>>endobj
10 0 obj<</Title(Two)/Parent 9 0 R/Dest[6 0 R/Fit]>>endobj
11 0 obj<</Title(Not led to)>>endobj
trailer<</Root 1 0 R/Size 12>>
`

// checked writes a file and has qpdf look whether it is in order.
func checked(t *testing.T, data []byte) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	for _, what := range []string{"--check-linearization", "--check"} {
		out, err := exec.Command("qpdf", what, file).CombinedOutput()
		require.NoError(t, err, string(out))
	}
}

func TestOrder(t *testing.T) {
	for _, c := range []struct{ name, mode string }{
		{"an outline that is closed", ""},
		{"one that is open stands with the first page", "/PageMode/UseOutlines"},
	} {
		t.Run(c.name, func(t *testing.T) {
			in := []byte(strings.Replace(small, "/MODE", c.mode, 1))
			out, err := Rewrite(in)
			require.NoError(t, err)
			checked(t, out)
			again, err := Rewrite(in)
			require.NoError(t, err)
			assert.Equal(t, out, again, "the same bytes each time")
			text := string(out)
			one, two, font := strings.Index(text, "(one)"), strings.Index(text, "(two)"), strings.Index(text, "/Helvetica")
			assert.Less(t, one, two)
			assert.Less(t, font, two, "the first page has what it shows")
			assert.Equal(t, c.mode != "", strings.Index(text, "/Count 1") < two, "where the outline stands")
			assert.NotContains(t, text, "<4E6F74", "nothing leads to it")

			f, err := pdfread.Open(out, "")
			require.NoError(t, err)
			assert.False(t, f.Rebuilt)
			pages, err := f.Pages()
			require.NoError(t, err)
			require.Len(t, pages, 2)
			for i, want := range []string{"(one)", "(two)"} {
				contents, err := f.Contents(pages[i])
				require.NoError(t, err)
				assert.Contains(t, string(contents), want)
			}
		})
	}
}

func TestWhatCannotBeOrdered(t *testing.T) {
	_, err := Rewrite([]byte("no PDF"))
	require.Error(t, err)
	_, err = Rewrite([]byte("%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[]/Count 0>>endobj\ntrailer<</Root 1 0 R>>\n"))
	require.ErrorContains(t, err, "no pages")
}

func TestBits(t *testing.T) {
	b := &bitWriter{}
	b.put(3, 5)
	b.put(7, 1)
	b.put(2, 3)
	b.flush()
	b.put(16, 258)
	assert.Equal(t, []byte{0b10100000, 0b01110000, 1, 2}, b.out)
}

func TestVersion(t *testing.T) {
	assert.Equal(t, "2.0", version([]byte("%PDF-2.0\n")))
	assert.Equal(t, "1.7", version([]byte("%PDF")))
}

// FuzzRewrite: whatever a file holds, it is refused or comes out whole.
func FuzzRewrite(f *testing.F) {
	f.Add([]byte(strings.Replace(small, "/MODE", "", 1)))
	f.Add([]byte(strings.Replace(small, "9 0 R/MODE", "3 0 R/PageMode/UseOutlines", 1)))
	f.Add(bytes.ReplaceAll([]byte(small), []byte("5 0 R"), []byte("1 0 R")))
	f.Fuzz(func(t *testing.T, in []byte) {
		out, err := Rewrite(in)
		if err != nil {
			return
		}
		file, err := pdfread.Open(out, "")
		require.NoError(t, err)
		_, err = file.Pages()
		require.NoError(t, err)
	})
}
