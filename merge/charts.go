package merge

import (
	"errors"
	"fmt"
	"html/template"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// chartColors are those of charts when a template names none.
var chartColors = []string{"#2f6f8f", "#d08c2f", "#5a8f4e", "#a34a5b", "#6b5b95", "#7a7a7a"}

// colorLook is a colour as a manifest writes it.
var colorLook = regexp.MustCompile(`^#([0-9a-fA-F]{3}|[0-9a-fA-F]{6})$`)

func (t *tools) color(i int) (string, error) {
	list := t.colors
	if len(list) == 0 {
		list = chartColors
	}
	name := list[i%len(list)]
	if !colorLook.MatchString(name) {
		return "", fmt.Errorf("colors: %q is no colour such as #2f6f8f", name)
	}
	return name, nil
}

// series reads labels and values of a chart.
func series(list any, labels, values string) (names []string, v []float64, err error) {
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

// Size of charts in units of their view box; CSS gives the size on paper.
const (
	chartWidth  = 480.0
	chartHeight = 220.0
	plotTop     = 10.0
	plotBottom  = 195.0
	plotLeft    = 58.0
	plotRight   = 472.0
)

// axis maps values to heights in a chart, with ticks at round numbers.
type axis struct {
	lo, hi, step float64
}

// axisFor takes an axis that holds all values and zero, with about four steps of
// 1, 2 or 5 times a power of ten.
func axisFor(v []float64) axis {
	lo, hi := math.Min(slices.Min(v), 0), math.Max(slices.Max(v), 0)
	if lo == hi {
		hi = lo + 1
	}
	rough := (hi - lo) / 4
	step := math.Pow(10, math.Floor(math.Log10(rough)))
	for _, k := range []float64{5, 2} {
		if step*k <= rough {
			step *= k
			break
		}
	}
	return axis{math.Floor(lo/step+1e-9) * step, math.Ceil(hi/step-1e-9) * step, step}
}

func (a axis) y(v float64) float64 {
	return plotBottom - (v-a.lo)/(a.hi-a.lo)*(plotBottom-plotTop)
}

// chart is an SVG drawing on its way.
type chart struct {
	t *tools
	b strings.Builder
}

func (t *tools) newChart(kind, label string, w, h float64, more ...string) *chart {
	c := &chart{t: t}
	fmt.Fprintf(&c.b, `<svg class="chart %s" role="img" aria-label="%s" viewBox="0 0 %g %g" font-family="sans-serif" font-size="11"%s>`, kind, template.HTMLEscapeString(label), w, h, strings.Join(append([]string{""}, more...), " "))
	return c
}

func (c *chart) done() template.HTML {
	c.b.WriteString("</svg>")
	return template.HTML(c.b.String())
}

// frame draws the lines across with their numbers, and the names below.
func (c *chart) frame(a axis, names []string) error {
	places := max(0, int(-math.Floor(math.Log10(a.step)+1e-9)))
	for v := a.lo; v <= a.hi+a.step/2; v += a.step {
		label, err := c.t.number(strconv.FormatFloat(v, 'f', places, 64))
		if err != nil {
			return err
		}
		line := "#dddddd"
		if math.Abs(v) < a.step/2 {
			line = "#888888"
		}
		fmt.Fprintf(&c.b, `<path d="M%g %.2fH%g" stroke="%s" stroke-width="0.75"/><text x="%g" y="%.2f" text-anchor="end">%s</text>`, plotLeft, a.y(v), plotRight, line, plotLeft-6, a.y(v)+3.5, template.HTMLEscapeString(label))
	}
	room := (plotRight - plotLeft) / float64(len(names))
	every := 1 // names that stand too close are left out
	longest := 0
	for _, n := range names {
		longest = max(longest, utf8.RuneCountInString(n))
	}
	if w := float64(longest)*6 + 6; w > room {
		every = int(math.Ceil(w / room))
	}
	for i := 0; i < len(names); i += every {
		fmt.Fprintf(&c.b, `<text x="%.2f" y="%g" text-anchor="middle">%s</text>`, plotLeft+(float64(i)+0.5)*room, plotBottom+16, template.HTMLEscapeString(names[i]))
	}
	return nil
}

// bars draws a bar for each entry of a list: bars .months "name" "amount".
func (t *tools) bars(list any, labels, values string) (template.HTML, error) {
	names, v, err := series(list, labels, values)
	if err != nil {
		return "", err
	}
	fill, err := t.color(0)
	if err != nil {
		return "", err
	}
	c, a := t.newChart("bars", describe(names, v), chartWidth, chartHeight), axisFor(v)
	if err := c.frame(a, names); err != nil {
		return "", err
	}
	room := (plotRight - plotLeft) / float64(len(v))
	for i, x := range v {
		top, bottom := math.Min(a.y(x), a.y(0)), math.Max(a.y(x), a.y(0))
		fmt.Fprintf(&c.b, `<rect x="%.2f" y="%.2f" width="%.2f" height="%.2f" fill="%s"/>`, plotLeft+(float64(i)+0.18)*room, top, room*0.64, bottom-top, fill)
	}
	return c.done(), nil
}

// line draws a line through the entries of a list.
func (t *tools) line(list any, labels, values string) (template.HTML, error) {
	names, v, err := series(list, labels, values)
	if err != nil {
		return "", err
	}
	c, a := t.newChart("line", describe(names, v), chartWidth, chartHeight), axisFor(v)
	if err := c.frame(a, names); err != nil {
		return "", err
	}
	room := (plotRight - plotLeft) / float64(len(v))
	if err := c.polyline(v, 2, func(i int) (float64, float64) { return plotLeft + (float64(i)+0.5)*room, a.y(v[i]) }); err != nil {
		return "", err
	}
	return c.done(), nil
}

func (c *chart) polyline(v []float64, width float64, at func(i int) (x, y float64)) error {
	stroke, err := c.t.color(0)
	if err != nil {
		return err
	}
	var path strings.Builder
	for i := range v {
		x, y := at(i)
		fmt.Fprintf(&path, "%s%.2f %.2f", map[bool]string{true: "M", false: "L"}[i == 0], x, y)
	}
	fmt.Fprintf(&c.b, `<path d="%s" fill="none" stroke="%s" stroke-width="%g" stroke-linejoin="round"/>`, path.String(), stroke, width)
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
	v := make([]float64, len(all))
	for i, d := range all {
		v[i], _ = d.Float64()
	}
	const w, h, edge = 80.0, 16.0, 1.5
	lo, hi := slices.Min(v), slices.Max(v)
	if lo == hi {
		lo, hi = lo-1, hi+1
	}
	c := t.newChart("sparkline", describe(nil, v), w, h, `height="1em"`)
	err = c.polyline(v, 1, func(i int) (float64, float64) {
		return edge + float64(i)/float64(len(v)-1)*(w-2*edge), h - edge - (v[i]-lo)/(hi-lo)*(h-2*edge)
	})
	if err != nil {
		return "", err
	}
	return c.done(), nil
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
	c := t.newChart("pie", describe(names, v), chartWidth, 200)
	const cx, cy, r = 100.0, 100.0, 90.0
	at := -math.Pi / 2
	for i, x := range v {
		fill, err := t.color(i)
		if err != nil {
			return "", err
		}
		angle := x / total * 2 * math.Pi
		switch {
		case x == total:
			fmt.Fprintf(&c.b, `<circle cx="%g" cy="%g" r="%g" fill="%s"/>`, cx, cy, r, fill)
		case x > 0:
			large := 0
			if angle > math.Pi {
				large = 1
			}
			fmt.Fprintf(&c.b, `<path d="M%g %gL%.2f %.2fA%g %g 0 %d 1 %.2f %.2fZ" fill="%s" stroke="white" stroke-width="1"/>`, cx, cy, cx+r*math.Cos(at), cy+r*math.Sin(at), r, r, large, cx+r*math.Cos(at+angle), cy+r*math.Sin(at+angle), fill)
		}
		at += angle
		y := 30 + 20*float64(i)
		share, err := t.percent(strconv.FormatFloat(x/total*100, 'f', -1, 64), 1)
		if err != nil {
			return "", err
		}
		fmt.Fprintf(&c.b, `<rect x="225" y="%g" width="10" height="10" fill="%s"/><text x="285" y="%g" text-anchor="end">%s</text><text x="297" y="%g">%s</text>`, y-9, fill, y, share, y, template.HTMLEscapeString(names[i]))
	}
	return c.done(), nil
}

// describe is what a reader of the page aloud says of a chart.
func describe(names []string, v []float64) string {
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
