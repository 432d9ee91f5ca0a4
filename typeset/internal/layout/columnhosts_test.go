package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// hostsOf lists the parts without height that transformed boxes have in columns beside their own,
// with what they hold.
func hostsOf(f *Fragment, x, y float64) (list [][4]float64) {
	for _, k := range f.Kids {
		if k.F.Box != nil && k.F.Box.Style.Transformed() && k.F.H == 0 && len(k.F.Kids) > 0 {
			in := k.F.Kids[0]
			list = append(list, [4]float64{x + k.X, y + k.Y, in.Y, in.F.H})
		}
		list = append(list, hostsOf(k.F, x+k.X, y+k.Y)...)
	}
	return list
}

// TestPartsAreTransformedForThemselves: what is positioned in a transformed box and reaches into
// columns beside it belongs to a part of the box in each (CSS Transforms 1, §3).
func TestPartsAreTransformedForThemselves(t *testing.T) {
	cases := []struct {
		name, html string
		want       [][4]float64 // place of the part, and place and height of what it holds
	}{
		{"in later columns", `<div style="transform:rotate(180deg);height:77px"><div style="position:absolute;top:100px;width:100%;height:200px"></div></div>`, [][4]float64{{50, 0, 0, 100}, {100, 0, 0, 100}}},
		{"in earlier ones", `<div style="height:150px"></div><div style="transform:rotate(45deg);height:50px"><div style="position:absolute;top:-70px;width:100%;height:100px"></div></div>`, [][4]float64{{0, 80, 0, 20}}},
		{"not where nothing is transformed", `<div style="position:relative;height:77px"><div style="position:absolute;top:100px;width:100%;height:200px"></div></div>`, nil},
	}
	for _, c := range cases {
		l, root := tree(t, columnsOf("3", c.html), "body { margin: 0 }")
		page, _ := l.LayPage(root, 400, 100, 0, 0, nil)
		assert.Equal(t, c.want, hostsOf(page, 0, 0), c.name)
	}
}
