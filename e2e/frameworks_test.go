package e2e

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"image"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/go-fonts/liberation/liberationsansbold"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
)

// The size in px that framework pages are compared at.
const (
	wide = 900
	high = 1200
)

// letters are the faces that both take, so that neither picks one of the machine's.
func letters() string {
	face := func(weight int, file []byte) string {
		return fmt.Sprintf("@font-face { font-family: Compared; font-weight: %d; src: url(data:font/ttf;base64,%s) }\n", weight, base64.StdEncoding.EncodeToString(file))
	}
	return face(400, liberationsansregular.TTF) + face(700, liberationsansbold.TTF) + "* { font-family: Compared !important }"
}

// TestFrameworksLookAsInABrowser compares pages styled by the newest majors of CSS frameworks with a
// browser's screen, by pixels: colours, borders, shadows, gradients and places.
func TestFrameworksLookAsInABrowser(t *testing.T) {
	dir, err := filepath.Abs("../typeset/testdata/frameworks")
	require.NoError(t, err)
	pages, err := filepath.Glob(filepath.Join(dir, "*.html"))
	require.NoError(t, err)
	require.Len(t, pages, 12)
	require.FileExists(t, filepath.Join(dir, "tailwind.css"), "make frameworks fetches the style sheets")
	ctx := browser(t)
	do(t, ctx, chromedp.EmulateViewport(wide, high))
	for _, page := range pages {
		name := strings.TrimSuffix(filepath.Base(page), ".html")
		do(t, ctx, chromedp.Navigate("file://"+page))
		value[bool](t, ctx, fmt.Sprintf("document.head.appendChild(document.createElement('style')).textContent = %q, true", letters()))
		until(t, ctx, "document.fonts.status == 'loaded' && document.fonts.check('16px Compared')")
		shot, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		theirs, err := png.Decode(bytes.NewReader(shot))
		require.NoError(t, err)
		ours := onPaper(t, dir, name)
		assert.Less(t, unlike(theirs, ours), 0.08, name) // viewers round each of many faint layers of a shadow
		assert.Greater(t, unlike(theirs, image.White), 0.9, "%s shows something", name)
	}
}

// onPaper sets a page for the screen on one sheet, and draws that.
func onPaper(t *testing.T, dir, name string) image.Image {
	t.Helper()
	html, err := os.ReadFile(filepath.Join(dir, name+".html"))
	require.NoError(t, err)
	folder, err := typeset.OpenFolder(dir)
	require.NoError(t, err)
	defer folder.Close()
	var pdf bytes.Buffer
	_, err = typeset.Set(context.Background(), html, typeset.Options{Name: name + ".html", Loader: folder, Medium: "screen", Paper: "900px 1200px", Margins: "0", AuthorSheets: []typeset.Sheet{{Text: letters()}}}, &pdf)
	require.NoError(t, err)
	draw := exec.Command("pdftoppm", "-r", "96", "-f", "1", "-l", "1", "-png")
	draw.Stdin = &pdf
	out, err := draw.Output()
	require.NoError(t, err)
	sheet, err := png.Decode(bytes.NewReader(out))
	require.NoError(t, err)
	return sheet
}

// unlike is the share of blocks of px whose mean colours differ to the eye, among those that show
// something. Single px differ with the way in which letters are drawn.
func unlike(a, b image.Image) float64 {
	const block, slack = 6, 0.08
	off, all, paper := 0, 0, [3]float64{1, 1, 1}
	for y := 0; y < high; y += block {
		for x := 0; x < wide; x += block {
			p, q := mean(a, x, y, block), mean(b, x, y, block)
			if apart(p, paper) > slack || apart(q, paper) > slack {
				all++
			}
			if apart(p, q) > slack {
				off++
			}
		}
	}
	return float64(off) / float64(all)
}

// apart is how far two colours are from each other in the component that differs most.
func apart(p, q [3]float64) float64 {
	return max(math.Abs(p[0]-q[0]), math.Abs(p[1]-q[1]), math.Abs(p[2]-q[2]))
}

// mean is the mean colour of a block, with half as much around it, from 0 to 1.
func mean(m image.Image, x, y, block int) (sum [3]float64) {
	n := 0.0
	for v := y - block/2; v < y+block+block/2; v++ {
		for u := x - block/2; u < x+block+block/2; u++ {
			r, g, b, _ := m.At(min(max(u, 0), wide-1), min(max(v, 0), high-1)).RGBA()
			sum[0], sum[1], sum[2] = sum[0]+float64(r), sum[1]+float64(g), sum[2]+float64(b)
			n++
		}
	}
	for i := range sum {
		sum[i] /= n * 0xFFFF
	}
	return sum
}
