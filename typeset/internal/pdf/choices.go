package pdf

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// choice is the value and the look of a menu or a list (§12.7.4.4).
func (w *Writer) choice(f *field, flags int) string {
	if !f.List {
		flags |= choiceCombo
	}
	if f.Several {
		flags |= choiceSeveral
	}
	var options, values, places strings.Builder
	for i, o := range f.Options {
		options.WriteString("[" + text(o[0]) + text(o[1]) + "]")
		if slices.Contains(f.Chosen, i) {
			values.WriteString(text(o[0]))
			places.WriteString(strconv.Itoa(i) + " ")
		}
	}
	value := values.String()
	switch {
	case len(f.Chosen) > 1:
		value = "[" + value + "]"
	case value == "":
		value = " null"
	}
	if f.List { // which option is meant, should two have one value
		value += "/I[" + places.String() + "]"
	}
	look := w.listed(f)
	if !f.List {
		look = w.shown(f, f.label())
	}
	return fmt.Sprintf("/FT/Ch/Ff %d/Opt[%s]/V%s/DA(/Form %s Tf 0 g)/AP<</N %s>>", flags, options.String(), value, num(f.Size*0.75), look)
}

// label is what a menu shows.
func (f *field) label() string {
	if len(f.Chosen) == 0 {
		return ""
	}
	return f.Options[f.Chosen[0]][1]
}

// listed draws the options of a list, those that are chosen on a ground of their own.
func (w *Writer) listed(f *field) Ref {
	wide, high, size := f.box.W*0.75, f.box.H*0.75, f.Size*0.75
	line := size * 1.15
	var b strings.Builder
	fmt.Fprintf(&b, "/Tx BMC q 0 0 %s %s re W n ", num(wide), num(high))
	for _, i := range f.Chosen {
		fmt.Fprintf(&b, "0.81 g 0 %s %s %s re f ", num(high-line*float64(i+1)), num(wide), num(line))
	}
	fmt.Fprintf(&b, "BT /Form %s Tf 0 g %s TL 2 %s Td ", num(size), num(line), num(high-size*0.93))
	for _, o := range f.Options {
		fmt.Fprintf(&b, "<%X> Tj T* ", latin(o[1]))
	}
	b.WriteString("ET Q EMC")
	return w.fieldLook(f, b.String())
}
