// Package picture turns image files into things that can be painted.
package picture

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/color"
	_ "image/gif" // decoders
	_ "image/jpeg"
	_ "image/png"
	"slices"
	"strconv"
	"strings"

	_ "golang.org/x/image/bmp"
	_ "golang.org/x/image/webp"

	"oliveledger/typeset/internal/display"
)

// Picture is a raster or vector picture with its natural size in px. A zero
// size means that there is none in that direction.
type Picture struct {
	W, H  float64
	Ratio float64 // width / height, 0 for none
	Image *display.Image
	Draw  func(c display.Canvas, box display.Rect) // vector pictures
	DPI   float64
	raw   *Picture // without the turn that its file asks for
}

// Paint draws the picture into a box.
func (p *Picture) Paint(c display.Canvas, to display.Rect) {
	switch {
	case p.Draw != nil:
		p.Draw(c, to)
	case p.Image != nil:
		c.Image(p.Image, to)
	}
}

// cut clips to a rectangle.
func cut(c display.Canvas, r display.Rect) {
	clip := &display.Path{}
	clip.Rect(r)
	c.Clip(clip, false)
}

// Part is the stretch r of a picture, in its own px, as a picture.
func (p *Picture) Part(r display.Rect) *Picture {
	if r.W <= 0 || r.H <= 0 {
		return p
	}
	return &Picture{W: r.W, H: r.H, Ratio: r.W / r.H, Draw: func(c display.Canvas, to display.Rect) {
		kx, ky := to.W/r.W, to.H/r.H
		c.Save()
		cut(c, to)
		p.Paint(c, display.Rect{X: to.X - r.X*kx, Y: to.Y - r.Y*ky, W: p.W * kx, H: p.H * ky})
		c.Restore()
	}}
}

// Turned gives the picture as its file asks it to be turned, or as it is
// stored (CSS Images 3, §5.1).
func (p *Picture) Turned(asAsked bool) *Picture {
	if asAsked || p.raw == nil {
		return p
	}
	return p.raw
}

// MaxPixels bounds the size of a raster picture.
const MaxPixels = 100_000_000

// Decode reads PNG, JPEG, GIF, WebP or BMP.
func Decode(data []byte) (*Picture, error) {
	sum := sha256.Sum256(data)
	key := hex.EncodeToString(sum[:12])
	conf, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, errors.New("the file is not a picture of a known kind (PNG, JPEG, GIF, WebP, BMP, SVG)")
	}
	if conf.Width <= 0 || conf.Height <= 0 || conf.Width*conf.Height > MaxPixels {
		return nil, fmt.Errorf("the picture has %d × %d pixels; at most %d million are allowed", conf.Width, conf.Height, MaxPixels/1_000_000)
	}
	orientation := pngOrientation(data)
	if format == "jpeg" {
		orientation = exifOrientation(data)
	}
	var stored *Picture
	var src image.Image
	if format != "jpeg" || orientation > 1 {
		if src, _, err = image.Decode(bytes.NewReader(data)); err != nil {
			return nil, fmt.Errorf("the picture is damaged: %w", err)
		}
	}
	if format == "jpeg" {
		stored = fromImage(jpegFile(data, conf), key)
	} else {
		stored = fromImage(fromPixels(src, data), key)
	}
	if orientation <= 1 {
		return stored, nil
	}
	p := fromImage(fromPixels(turn(src, orientation), data), key+" turned")
	p.raw = stored
	return p, nil
}

func fromImage(im *display.Image, key string) *Picture {
	im.Key = key
	return &Picture{W: float64(im.W), H: float64(im.H), Ratio: float64(im.W) / float64(im.H), Image: im}
}

// jpegFile passes a JPEG file through as it is.
func jpegFile(data []byte, conf image.Config) *display.Image {
	comps := 3
	switch conf.ColorModel {
	case color.GrayModel:
		comps = 1
	case color.CMYKModel:
		comps = 4
	}
	return &display.Image{W: conf.Width, H: conf.Height, JPEG: data, Comps: comps, Profile: profileOf(data, comps), Invert: comps == 4 && bytes.Contains(data[:min(len(data), 4096)], []byte("Adobe\x00"))}
}

// turned shows an image as its EXIF orientation asks.
type turned struct {
	image.Image
	o int
}

func turn(src image.Image, o int) image.Image { return turned{src, o} }

func (t turned) Bounds() image.Rectangle {
	b := t.Image.Bounds()
	if t.o >= 5 {
		return image.Rect(0, 0, b.Dy(), b.Dx())
	}
	return image.Rect(0, 0, b.Dx(), b.Dy())
}

func (t turned) At(x, y int) color.Color {
	b := t.Image.Bounds()
	w, h := b.Dx()-1, b.Dy()-1
	switch t.o {
	case 2:
		x = w - x
	case 3:
		x, y = w-x, h-y
	case 4:
		y = h - y
	case 5:
		x, y = y, x
	case 6:
		x, y = y, h-x
	case 7:
		x, y = w-y, h-x
	case 8:
		x, y = w-y, x
	}
	return t.Image.At(b.Min.X+x, b.Min.Y+y)
}

// exifOrientation finds the orientation tag (Exif 2.3, §4.6.4).
func exifOrientation(data []byte) int {
	for at := 2; at+4 < len(data) && data[at] == 0xFF; {
		size := int(binary.BigEndian.Uint16(data[at+2:]))
		if data[at+1] == 0xE1 && at+2+size <= len(data) && size > 16 && string(data[at+4:at+8]) == "Exif" {
			return tiffOrientation(data[at+10 : at+2+size])
		}
		if data[at+1] == 0xDA {
			break
		}
		at += 2 + size
	}
	return 1
}

// pngOrientation finds the orientation in the eXIf chunk of a PNG file (PNG 3,
// §11.3.3.4).
func pngOrientation(data []byte) int {
	orientation := 1
	pngChunks(data, func(kind string, chunk []byte) bool {
		if kind == "eXIf" {
			orientation = tiffOrientation(chunk)
		}
		return kind != "IDAT"
	})
	return orientation
}

func tiffOrientation(b []byte) int {
	if len(b) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.LittleEndian
	if b[0] == 'M' {
		order = binary.BigEndian
	}
	at := int(order.Uint32(b[4:]))
	if at < 8 || at+2 > len(b) {
		return 1
	}
	for i := range int(order.Uint16(b[at:])) {
		e := at + 2 + 12*i
		if e+12 > len(b) {
			break
		}
		if order.Uint16(b[e:]) == 0x0112 {
			if o := int(order.Uint16(b[e+8:])); o >= 1 && o <= 8 {
				return o
			}
		}
	}
	return 1
}

// fromPixels keeps the pixels of a decoded file, one byte each when all are grey, with the
// file's colour profile.
func fromPixels(src image.Image, file []byte) *display.Image {
	b := src.Bounds()
	w, h := b.Dx(), b.Dy()
	out := &display.Image{W: w, H: h}
	if src.ColorModel() != color.CMYKModel { // whose colours are RGB by now
		out.Profile = profileOf(file, 3)
	}
	rgb := make([]byte, 0, w*h*3)
	alpha := make([]byte, 0, w*h)
	opaque, gray := true, out.Profile == nil // greys of an RGB profile are its own
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			c := color.NRGBAModel.Convert(src.At(x, y)).(color.NRGBA)
			rgb = append(rgb, c.R, c.G, c.B)
			alpha = append(alpha, c.A)
			opaque = opaque && c.A == 255
			gray = gray && c.R == c.G && c.G == c.B
		}
	}
	if gray {
		out.Gray = true
		for i := range len(rgb) / 3 {
			rgb[i] = rgb[3*i]
		}
		rgb = rgb[:w*h]
		out.Profile = profileOf(file, 1)
	}
	out.RGB = rgb
	if !opaque {
		out.Alpha = alpha
	}
	return out
}

// DataURI reads the contents of a data: address (RFC 2397).
func DataURI(address string) (data []byte, mime string, err error) {
	head, body, ok := strings.Cut(strings.TrimPrefix(address, "data:"), ",")
	if !ok {
		return nil, "", errors.New("the data: address has no comma")
	}
	mime, _, _ = strings.Cut(head, ";")
	data = unescaped(body)
	if i := strings.LastIndexByte(head, ';'); i < 0 || !strings.EqualFold(strings.TrimSpace(head[i+1:]), "base64") {
		return data, mime, nil
	}
	data = slices.DeleteFunc(data, func(c byte) bool { return strings.IndexByte(" \n\t\r\f", c) >= 0 })
	data, err = base64.RawStdEncoding.DecodeString(strings.TrimRight(string(data), "="))
	return data, mime, err
}

// unescaped decodes %XX and leaves every other % as it is (URL, §1.3: percent-decode):
// drawings written into style sheets are full of them.
func unescaped(s string) []byte {
	out := make([]byte, 0, len(s))
	for i := 0; i < len(s); i++ {
		if s[i] == '%' && i+2 < len(s) {
			if v, err := strconv.ParseUint(s[i+1:i+3], 16, 8); err == nil {
				out = append(out, byte(v))
				i += 2
				continue
			}
		}
		out = append(out, s[i])
	}
	return out
}
