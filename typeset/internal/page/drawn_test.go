package page_test

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset"
)

// TestDrawn sets small documents on pages, and compares what is drawn there beside words with what is written beside
// them: shapes and pictures, with their colours and the room that they take up.
func TestDrawn(t *testing.T) {
	golden.Each(t, "testdata/drawn", func(t *testing.T, _ string, html []byte) string {
		var pdf bytes.Buffer
		_, err := typeset.Set(context.Background(), html, typeset.Options{}, &pdf)
		require.NoError(t, err)
		file := filepath.Join(t.TempDir(), "x.pdf")
		require.NoError(t, os.WriteFile(file, pdf.Bytes(), 0o600))
		trace, err := exec.Command("mutool", "trace", file).Output()
		require.NoError(t, err, "scripts/install.sh test installs it")
		return drawings(t, trace) + "words\n" + wordsOf(t, pdf.Bytes())
	})
}

// room is how far points reach, in px.
type room struct{ x0, y0, x1, y1 float64 }

func (r *room) add(m [6]float64, x, y float64) {
	px, py := (m[0]*x+m[2]*y+m[4])/0.75, (m[1]*x+m[3]*y+m[5])/0.75
	r.x0, r.x1, r.y0, r.y1 = math.Min(r.x0, px), math.Max(r.x1, px), math.Min(r.y0, py), math.Max(r.y1, py)
}

// drawings lists what a renderer is told to draw: one line each.
func drawings(t *testing.T, trace []byte) string {
	t.Helper()
	var out strings.Builder
	n := func(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10+0, 'f', -1, 64) }
	depth := 0
	var path xml.StartElement
	var at room
	for d := xml.NewDecoder(bytes.NewReader(trace)); ; {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			return out.String()
		}
		require.NoError(t, err)
		switch e := token.(type) {
		case xml.StartElement:
			switch name := e.Name.Local; name {
			case "page":
				fmt.Fprintf(&out, "page of %s\n", value(e, "mediabox"))
			case "fill_path", "stroke_path", "clip_path", "clip_stroke_path":
				path, at = e, room{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
			case "moveto", "lineto":
				at.add(matrix(path), number(e, "x"), number(e, "y"))
			case "curveto":
				at.add(matrix(path), number(e, "x3"), number(e, "y3"))
			case "fill_image", "clip_image_mask":
				at = room{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
				at.add(matrix(e), 0, 0)
				at.add(matrix(e), 1, 1)
				fmt.Fprintf(&out, "%s%s %s,%s %s×%s\n", strings.Repeat(" ", depth+1), name, n(at.x0), n(at.y0), n(at.x1-at.x0), n(at.y1-at.y0))
			case "group", "tile", "mask":
				depth++
				fmt.Fprintf(&out, "%s%s %s\n", strings.Repeat(" ", depth), name, value(e, "alpha"))
			}
		case xml.EndElement:
			switch name := e.Name.Local; name {
			case "fill_path", "stroke_path", "clip_path", "clip_stroke_path":
				if name == "clip_path" || name == "clip_stroke_path" {
					depth++
				}
				look := value(path, "color")
				if w := value(path, "linewidth"); w != "" {
					look += " line " + n(number(path, "linewidth")*math.Hypot(matrix(path)[0], matrix(path)[1])/0.75)
				}
				if a := value(path, "alpha"); a != "" {
					look += " alpha " + a
				}
				fmt.Fprintf(&out, "%s%s %s %s,%s %s×%s\n", strings.Repeat(" ", depth+1), name, look, n(at.x0), n(at.y0), n(at.x1-at.x0), n(at.y1-at.y0))
			case "group", "tile", "mask", "pop_clip":
				depth = max(depth-1, 0)
			}
		}
	}
}

func value(e xml.StartElement, name string) string {
	for _, a := range e.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

func number(e xml.StartElement, name string) float64 {
	v, _ := strconv.ParseFloat(value(e, name), 64)
	return v
}

// matrix is the transformation of an element.
func matrix(e xml.StartElement) (m [6]float64) {
	for i, v := range strings.Fields(value(e, "transform")) {
		m[i], _ = strconv.ParseFloat(v, 64)
	}
	return m
}
