package merge

import (
	"errors"
	"fmt"
	"html/template"
	"image/color"
	"strings"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/aztec"
	"github.com/boombuler/barcode/codabar"
	"github.com/boombuler/barcode/code128"
	"github.com/boombuler/barcode/code39"
	"github.com/boombuler/barcode/code93"
	"github.com/boombuler/barcode/datamatrix"
	"github.com/boombuler/barcode/ean"
	"github.com/boombuler/barcode/pdf417"
	barcodeqr "github.com/boombuler/barcode/qr"
	"github.com/boombuler/barcode/twooffive"
)

// qr draws a QR code. The level says how much of it may be damaged: L, M, Q or
// H; M when it is left out.
func qr(v any, level ...string) (template.HTML, error) {
	text, err := textOf(v)
	if err != nil {
		return "", err
	}
	l, ok := map[string]barcodeqr.ErrorCorrectionLevel{"L": barcodeqr.L, "M": barcodeqr.M, "Q": barcodeqr.Q, "H": barcodeqr.H}[pick(level, "M")]
	if !ok {
		return "", fmt.Errorf("the level %q of a QR code is not L, M, Q or H", level[0])
	}
	if text == "" {
		return "", errors.New("there is nothing to put into the QR code")
	}
	code, err := barcodeqr.Encode(text, l, barcodeqr.Auto)
	if err != nil {
		return "", fmt.Errorf("no QR code can hold this: %w", err)
	}
	return squares(code, "QR code", 4), nil
}

// encoders of the usual codes, by their names in the trade.
var encoders = map[string]func(string) (barcode.Barcode, error){
	"ean":        func(s string) (barcode.Barcode, error) { return ean.Encode(s) },
	"code128":    func(s string) (barcode.Barcode, error) { return code128.Encode(s) },
	"code39":     func(s string) (barcode.Barcode, error) { return code39.Encode(s, false, true) },
	"code93":     func(s string) (barcode.Barcode, error) { return code93.Encode(s, true, true) },
	"codabar":    codabar.Encode,
	"itf":        func(s string) (barcode.Barcode, error) { return twooffive.Encode(s, true) },
	"datamatrix": datamatrix.Encode,
	"aztec":      func(s string) (barcode.Barcode, error) { return aztec.Encode([]byte(s), aztec.DEFAULT_EC_PERCENT, 0) },
	"pdf417":     func(s string) (barcode.Barcode, error) { return pdf417.Encode(s, 2) },
}

// barcodeSVG draws a code: ean, code128, code39, code93, codabar, itf,
// datamatrix, aztec or pdf417. Code 39 takes the option “check” for a check character.
func barcodeSVG(kind string, v any, options ...string) (template.HTML, error) {
	text, err := textOf(v)
	if err != nil {
		return "", err
	}
	encode, ok := encoders[kind]
	if !ok {
		return "", fmt.Errorf("the barcode %q is not ean, code128, code39, code93, codabar, itf, datamatrix, aztec or pdf417", kind)
	}
	for _, o := range options {
		if o != "check" || kind != "code39" {
			return "", fmt.Errorf("the barcode %s has no option %q; code39 takes “check”, for a check character", kind, o)
		}
		encode = func(s string) (barcode.Barcode, error) { return code39.Encode(s, true, true) }
	}
	code, err := encode(text)
	if err != nil {
		return "", fmt.Errorf("%q cannot be written as %s: %w", text, kind, err)
	}
	if code.Bounds().Dy() > 1 {
		return squares(code, kind+" code", 2), nil
	}
	return stripes(code, kind+" "+text), nil
}

func dark(c barcode.Barcode, x, y int) bool {
	g := color.GrayModel.Convert(c.At(x, y)).(color.Gray)
	return g.Y < 128
}

// squares draws a code of two dimensions, with so many modules of quiet zone.
func squares(c barcode.Barcode, label string, quiet int) template.HTML {
	b := c.Bounds()
	var path strings.Builder
	for y := range b.Dy() {
		for x := 0; x < b.Dx(); x++ {
			if !dark(c, b.Min.X+x, b.Min.Y+y) {
				continue
			}
			n := 1
			for x+n < b.Dx() && dark(c, b.Min.X+x+n, b.Min.Y+y) {
				n++
			}
			fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", x+quiet, y+quiet, n, n)
			x += n
		}
	}
	return drawing(b.Dx()+2*quiet, b.Dy()+2*quiet, label, "xMidYMid", path.String())
}

// stripes draws a code of bars, which take all of the height.
func stripes(c barcode.Barcode, label string) template.HTML {
	const quiet, height = 10, 40
	b := c.Bounds()
	var path strings.Builder
	for x := 0; x < b.Dx(); x++ {
		n := 0
		for x+n < b.Dx() && dark(c, b.Min.X+x+n, b.Min.Y) {
			n++
		}
		if n > 0 {
			fmt.Fprintf(&path, "M%d 0h%dv%dh-%dz", x+quiet, n, height, n)
			x += n
		}
	}
	return drawing(b.Dx()+2*quiet, height, label, "none", path.String())
}

func drawing(w, h int, label, aspect, path string) template.HTML {
	return template.HTML(fmt.Sprintf(`<svg class="code" role="img" aria-label="%s" viewBox="0 0 %d %d" preserveAspectRatio="%s" shape-rendering="crispEdges"><path d="%s"/></svg>`, template.HTMLEscapeString(label), w, h, aspect, path))
}
