package typeset

import (
	"errors"
	"fmt"
	"net/url"
	"path"
	"strings"

	gtfont "github.com/go-text/typesetting/font"

	"oliveledger/typeset/internal/box"
	"oliveledger/typeset/internal/css"
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/font"
	"oliveledger/typeset/internal/markup"
	"oliveledger/typeset/internal/memory"
	"oliveledger/typeset/internal/paint"
	"oliveledger/typeset/internal/picture"
	"oliveledger/typeset/internal/style"
)

// load gets the bytes behind an address.
func (s *setting) load(address string) ([]byte, error) {
	if strings.HasPrefix(address, "data:") {
		data, _, err := picture.DataURI(address)
		return data, err
	}
	if s.o.Loader == nil {
		return nil, errors.New("no files can be loaded here")
	}
	if i := strings.IndexByte(address, '#'); i >= 0 {
		address = address[:i]
	}
	data, err := s.o.Loader.Load(s.ctx, address)
	if err == nil && int64(len(data)) > s.o.Limits.Bytes {
		return nil, fmt.Errorf("it has %d bytes; at most %d are allowed", len(data), s.o.Limits.Bytes)
	}
	return data, err
}

func (s *setting) loadText(address string) (string, error) {
	data, err := s.load(address)
	if err != nil {
		return "", err
	}
	return decodeText(data), nil
}

// picture gives the picture of an element's attribute.
func (s *setting) picture(address string, n *markup.Node) *picture.Picture {
	return s.cached(style.Resolve(s.base, address))
}

// background gives the picture of an address that is absolute already.
func (s *setting) background(address string) *picture.Picture { return s.cached(address) }

func (s *setting) cached(address string) *picture.Picture {
	if p, ok := s.pictures[address]; ok {
		return p
	}
	p, err := s.open(address)
	if err != nil {
		name := strings.TrimPrefix(address, "/")
		if len(name) > 80 {
			name = name[:80] + "…"
		}
		node, written := s.showing(address)
		s.tellAt(node, "picture-missing", Warning, fmt.Sprintf("the picture “%s” did not load: %v", name, err), s.advice(written, err))
		p = nil
	}
	s.pictures[address] = p
	return p
}

// showing is the first element of the page that names a picture, or nil when a
// style sheet does.
func (s *setting) showing(address string) (found *markup.Node, written string) {
	s.doc.Walk(func(n *markup.Node) bool {
		for _, a := range []string{"src", "data", "poster", "href", "background"} {
			if v := n.Attr(a); found == nil && v != "" && style.Resolve(s.base, v) == address {
				found, written = n, v
			}
		}
		return found == nil
	})
	return found, written
}

// advice is what to do about an address, as it is written, that did not load.
func (s *setting) advice(written string, err error) string {
	var refused *refusal
	switch {
	case errors.As(err, &refused):
		return "allow its host with --allow-host, or keep a copy beside the page"
	case errors.Is(err, errNoFile) && climbs(s.base, written):
		return "it lies outside the folder; widen that with --within"
	}
	return "check the address"
}

// climbs tells whether an address leads above the folder that addresses are within.
func climbs(base, address string) bool {
	u, err := url.Parse(address)
	return err == nil && u.Scheme == "" && u.Host == "" && !strings.HasPrefix(u.Path, "/") && strings.HasPrefix(path.Join(path.Dir(base), u.Path), "..")
}

func (s *setting) open(address string) (*picture.Picture, error) {
	data, err := s.load(address)
	if err != nil {
		return nil, err
	}
	if looksLikeSVG(data) {
		return s.svg(data, address)
	}
	return picture.Decode(data)
}

func looksLikeSVG(data []byte) bool {
	head := strings.TrimLeft(string(data[:min(len(data), 1024)]), "\uFEFF \n\r\t")
	return strings.HasPrefix(head, "<") && (strings.Contains(head, "<svg") || strings.HasPrefix(head, "<?xml") || strings.HasPrefix(head, "<!--"))
}

// drawings keeps SVG files parsed for the next document: a logo stands on each.
var drawings = memory.Of[string, *markup.Node](64)

// largestDrawing is how many bytes a file may have that is kept parsed.
const largestDrawing = 256 << 10

// parsedSVG is the svg element of a file.
func parsedSVG(data []byte) (*markup.Node, error) {
	key := string(data)
	if root, ok := drawings.Get(key); ok {
		return root, nil
	}
	doc, err := markup.ParseXML(data)
	if err != nil {
		return nil, fmt.Errorf("the SVG file does not parse: %w", err)
	}
	root := doc.Find("svg")
	if root == nil {
		return nil, errors.New("the file holds no svg element")
	}
	if len(data) <= largestDrawing {
		drawings.Add(key, root)
	}
	return root, nil
}

// svg opens an SVG file as a document with style sheets of its own.
func (s *setting) svg(data []byte, address string) (*picture.Picture, error) {
	root, err := parsedSVG(data)
	if err != nil {
		return nil, err
	}
	var sheets []style.Use
	root.Walk(func(n *markup.Node) bool {
		if n.Name == "style" {
			sheets = append(sheets, style.Use{Sheet: style.ParseSheet(address, address, n.Content()), Origin: style.Author, Media: css.ParseValues(n.Attr("media"))})
		}
		return true
	})
	r := style.Ready(s.styles.Env(), address, sheets, s.styles.Fonts(), nil, nil)
	s.spare = append(s.spare, r)
	d := s.drawing(root, r, address)
	d.Scaled = true
	return d.Picture(r.Style(root, "", style.Initial())), nil
}

// inlineSVG draws an svg element that stands in the page.
func (s *setting) inlineSVG(n *markup.Node, st *style.Style) *picture.Picture {
	return s.drawing(n, s.styles, s.base).Picture(st)
}

// maxForeign bounds HTML in drawings in HTML in drawings, which may use one another.
const maxForeign = 8

// drawing is an svg element in a file at an address.
func (s *setting) drawing(root *markup.Node, styles *style.Resolver, address string) *picture.Drawing {
	return &picture.Drawing{
		Root: root, Styles: styles, Fonts: s.fonts,
		Pictures: func(ref string) *picture.Picture { return s.cached(style.Resolve(address, ref)) },
		Lacks: func(n *markup.Node, what string) {
			where := "a drawing"
			if address != s.base {
				where = path.Base(address)
			}
			s.tellAt(n, "svg-"+what, Warning, fmt.Sprintf("the %s of <%s> in %s is left out", what, n.Name, where), "draw the effect another way, or use a picture of pixels")
		},
		Layers: func(c display.Canvas, st *style.Style, boxes func(style.Keyword) display.Rect, element func(string) (func(display.Canvas), bool)) {
			paint.NewPainter(c, s.background, boxes(style.ViewBox), nil).MaskLayers(st, func(k style.Keyword) (display.Rect, display.Radii) { return boxes(k), display.Radii{} }, element)
		},
		Foreign: func(c display.Canvas, n *markup.Node, st *style.Style, r display.Rect) {
			if s.foreign >= maxForeign {
				return
			}
			s.foreign++
			defer func() { s.foreign-- }()
			build := &box.Builder{Styles: styles, Pictures: s.picture, Inline: s.inlineSVG, Tell: func(code, message string) { s.tell(code, Warning, message, "") }}
			if tree := build.Inset(n, st); tree != nil {
				frag := s.layout(styles).LayFixed(tree, r.W, r.W, r.H)
				paint.NewPainter(c, s.background, r, nil).Context(frag, r.X, r.Y)
			}
		},
	}
}

// faces adds the @font-face rules to the fonts (CSS Fonts 4, §4).
func (s *setting) faces() {
	for _, f := range s.styles.Faces {
		s.fonts.Add(s.face(f))
	}
}

func (s *setting) face(f style.FontFace) *font.Source {
	src := &font.Source{
		Family: f.Family, WeightMin: f.Weight[0], WeightMax: f.Weight[1], StretchMin: f.Stretch[0], StretchMax: f.Stretch[1], Italic: f.Italic,
		SlantMin: f.Slant[0], SlantMax: f.Slant[1], AutoWeight: f.AutoWeight, AutoWidth: f.AutoWidth, AutoSlant: f.AutoSlant, Ranges: f.Ranges, Features: font.Features(style.FeatureList(f.Features)),
	}
	src.Open = func(axes []gtfont.Variation) (*font.Face, error) {
		err := errors.New("@font-face names no source that can be used")
		for _, file := range f.Files {
			if file.Local != "" {
				if face := s.fonts.Local(file.Local); face != nil {
					return face, nil
				}
				continue
			}
			data, e := s.load(file.URL)
			if e == nil {
				var face *font.Face
				if face, e = font.Parsed(data, axes); e == nil {
					return face, nil
				}
			}
			err = e
		}
		return nil, err
	}
	return src
}
