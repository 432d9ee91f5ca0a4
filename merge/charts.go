package merge

import (
	"bytes"
	"errors"
	"fmt"
	"html/template"
	"image/color"
	"math"
	"regexp"
	"strconv"
	"strings"

	"gonum.org/v1/plot"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/plotter"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/draw"
	"gonum.org/v1/plot/vg/vgsvg"
)

// chartColors are those of charts when a template names none.
var chartColors = []string{"#2f6f8f", "#d08c2f", "#5a8f4e", "#a34a5b", "#6b5b95", "#7a7a7a"}

func (t *tools) color(i int) (color.Color, error) {
	list := t.colors
	if len(list) == 0 {
		list = chartColors
	}
	name := strings.TrimPrefix(list[i%len(list)], "#")
	if len(name) == 3 {
		name = string([]byte{name[0], name[0], name[1], name[1], name[2], name[2]})
	}
	v, err := strconv.ParseUint(name, 16, 32)
	if err != nil || len(name) != 6 {
		return nil, fmt.Errorf("colors: %q is no colour such as #2f6f8f", list[i%len(list)])
	}
	return color.RGBA{uint8(v >> 16), uint8(v >> 8), uint8(v), 255}, nil
}

// series reads labels and values of a chart.
func series(list any, labels, values string) (names []string, v plotter.Values, err error) {
	items, err := records(list)
	if err != nil {
		return nil, nil, err
	}
	if len(items) == 0 {
		return nil, nil, errors.New("a chart needs at least one entry")
	}
	for i, m := range items {
		d, err := fieldAmount(m, i, values)
		if err != nil {
			return nil, nil, err
		}
		name, err := field(m, i, labels)
		if err != nil {
			return nil, nil, err
		}
		f, _ := d.Float64()
		names, v = append(names, fmt.Sprint(name)), append(v, f)
	}
	return names, v, nil
}

// Size of charts in points; CSS scales them.
const (
	chartWidth  = 480
	chartHeight = 220
)

func (t *tools) axes() *plot.Plot {
	p := plot.New()
	sans := font.Font{Typeface: "Liberation", Variant: "Sans", Size: 10}
	p.X.Tick.Label.Font, p.Y.Tick.Label.Font = sans, sans
	p.BackgroundColor = color.Transparent
	p.Y.Tick.Marker = localTicks{t}
	p.Y.LineStyle.Width = 0
	p.Y.Tick.LineStyle.Width = 0
	p.X.LineStyle.Color = color.Gray{0x88}
	grid := plotter.NewGrid()
	grid.Vertical.Width = 0
	grid.Horizontal.Color = color.Gray{0xdd}
	p.Add(grid)
	return p
}

// localTicks writes the numbers of an axis as the template's language does.
type localTicks struct{ t *tools }

func (l localTicks) Ticks(lo, hi float64) []plot.Tick {
	ticks := plot.DefaultTicks{}.Ticks(lo, hi)
	for i := range ticks {
		if ticks[i].Label == "" {
			continue
		}
		if s, err := l.t.number(strconv.FormatFloat(ticks[i].Value, 'f', -1, 64)); err == nil {
			ticks[i].Label = s
		}
	}
	return ticks
}

// bars draws a bar for each entry of a list: bars .months "name" "amount".
func (t *tools) bars(list any, labels, values string) (template.HTML, error) {
	names, v, err := series(list, labels, values)
	if err != nil {
		return "", err
	}
	p := t.axes()
	width := min((chartWidth-50)/vg.Length(len(v))*0.7, 60)
	b, err := plotter.NewBarChart(v, max(width, 1))
	if err != nil {
		return "", err
	}
	if b.Color, err = t.color(0); err != nil {
		return "", err
	}
	b.LineStyle.Width = 0
	p.Add(b)
	p.NominalX(names...)
	p.X.Min, p.X.Max = -0.6, float64(len(v))-0.4
	p.Y.Min = math.Min(p.Y.Min, 0)
	return svgOf(p, chartWidth, chartHeight, "bars", describe(names, v))
}

// line draws a line through the entries of a list.
func (t *tools) line(list any, labels, values string) (template.HTML, error) {
	names, v, err := series(list, labels, values)
	if err != nil {
		return "", err
	}
	p := t.axes()
	if err := t.addLine(p, v, 1.6); err != nil {
		return "", err
	}
	p.NominalX(names...)
	return svgOf(p, chartWidth, chartHeight, "line", describe(names, v))
}

func (t *tools) addLine(p *plot.Plot, v plotter.Values, width float64) error {
	points := make(plotter.XYs, len(v))
	for i := range v {
		points[i] = plotter.XY{X: float64(i), Y: v[i]}
	}
	l, err := plotter.NewLine(points)
	if err != nil {
		return err
	}
	l.Width = vg.Length(width)
	if l.Color, err = t.color(0); err != nil {
		return err
	}
	p.Add(l)
	return nil
}

// sparkline draws a line without axes, as tall as a word: sparkline .counts.
func (t *tools) sparkline(list any, path ...string) (template.HTML, error) {
	all, err := amounts(list, path)
	if err != nil {
		return "", err
	}
	if len(all) < 2 {
		return "", errors.New("a sparkline needs at least two values")
	}
	v := make(plotter.Values, len(all))
	for i, d := range all {
		v[i], _ = d.Float64()
	}
	p := plot.New()
	p.BackgroundColor = color.Transparent
	p.HideAxes()
	if err := t.addLine(p, v, 1); err != nil {
		return "", err
	}
	return svgOf(p, 80, 16, "sparkline", describe(nil, v))
}

// pie draws shares of a whole, with their names beside it.
func (t *tools) pie(list any, labels, values string) (template.HTML, error) {
	names, v, err := series(list, labels, values)
	if err != nil {
		return "", err
	}
	total := 0.0
	for i, x := range v {
		if x < 0 {
			return "", fmt.Errorf("entry %d of the list is below zero; a pie shows shares", i+1)
		}
		total += x
	}
	if total == 0 {
		return "", errors.New("all shares of the pie are zero")
	}
	var out bytes.Buffer
	fmt.Fprintf(&out, `<svg class="chart pie" role="img" aria-label="%s" viewBox="0 0 480 200" font-family="sans-serif" font-size="11">`, template.HTMLEscapeString(describe(names, v)))
	const cx, cy, r = 100.0, 100.0, 90.0
	at := -math.Pi / 2
	for i, x := range v {
		c, err := t.color(i)
		if err != nil {
			return "", err
		}
		rgb := c.(color.RGBA)
		fill := fmt.Sprintf("#%02x%02x%02x", rgb.R, rgb.G, rgb.B)
		angle := x / total * 2 * math.Pi
		switch {
		case x == total:
			fmt.Fprintf(&out, `<circle cx="%g" cy="%g" r="%g" fill="%s"/>`, cx, cy, r, fill)
		case x > 0:
			large := 0
			if angle > math.Pi {
				large = 1
			}
			fmt.Fprintf(&out, `<path d="M%g %gL%.2f %.2fA%g %g 0 %d 1 %.2f %.2fZ" fill="%s" stroke="white" stroke-width="1"/>`, cx, cy, cx+r*math.Cos(at), cy+r*math.Sin(at), r, r, large, cx+r*math.Cos(at+angle), cy+r*math.Sin(at+angle), fill)
		}
		at += angle
		y := 30 + 20*float64(i)
		share, err := t.percent(strconv.FormatFloat(x/total*100, 'f', -1, 64), 1)
		if err != nil {
			return "", err
		}
		fmt.Fprintf(&out, `<rect x="225" y="%g" width="10" height="10" fill="%s"/><text x="285" y="%g" text-anchor="end">%s</text><text x="297" y="%g">%s</text>`, y-9, fill, y, share, y, template.HTMLEscapeString(names[i]))
	}
	out.WriteString("</svg>")
	return template.HTML(out.String()), nil
}

// describe is what a reader of the page aloud says of a chart.
func describe(names []string, v plotter.Values) string {
	var parts []string
	for i, x := range v {
		s := strconv.FormatFloat(x, 'f', -1, 64)
		if names != nil {
			s = names[i] + ": " + s
		}
		parts = append(parts, s)
	}
	return strings.Join(parts, ", ")
}

// svgHead is what a drawing of the library begins with, up to its contents.
var svgHead = regexp.MustCompile(`(?s)^.*?<svg[^>]*>`)

func svgOf(p *plot.Plot, w, h vg.Length, kind, label string) (template.HTML, error) {
	c := vgsvg.New(w, h)
	p.Draw(draw.New(c))
	var out bytes.Buffer
	if _, err := c.WriteTo(&out); err != nil {
		return "", err
	}
	body := svgHead.ReplaceAllString(out.String(), "")
	return template.HTML(fmt.Sprintf(`<svg class="chart %s" role="img" aria-label="%s" viewBox="0 0 %g %g">%s`, kind, template.HTMLEscapeString(label), w.Points(), h.Points(), body)), nil
}
