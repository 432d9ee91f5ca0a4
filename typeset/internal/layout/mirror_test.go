package layout

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// boxesOf lists the boxes of pages with the path to each and its place, from the left or from the right. Texts that
// follow each other count as one: how many there are depends on the direction.
func boxesOf(pages []*Fragment, width float64, mirrored bool) (list []placed) {
	add := func(p placed) {
		if mirrored {
			p.x = width - p.x - p.w
		}
		list = append(list, p)
	}
	var walk func(f *Fragment, at string, x, y float64)
	walk = func(f *Fragment, at string, x, y float64) {
		name := "line"
		if !f.Line {
			name = nameOf(f.Box)
		}
		at += "/" + name
		add(placed{at, x, y, f.W, f.H})
		var texts []placed
		for _, k := range f.Kids {
			if k.F.Text == nil {
				walk(k.F, at, x+k.X, y+k.Y)
			} else {
				texts = append(texts, placed{at + "/text", x + k.X, y + k.Y, k.F.W, k.F.H})
			}
		}
		for _, p := range joined(texts) {
			add(p)
		}
	}
	for i, p := range pages {
		walk(p, strconv.Itoa(i+1), 0, 0)
	}
	return list
}

// joined makes one of places that touch or overlap.
func joined(list []placed) (out []placed) {
	slices.SortFunc(list, func(a, b placed) int { return cmp.Compare(a.x, b.x) })
	for _, p := range list {
		if k := len(out) - 1; k >= 0 && out[k].y == p.y && p.x < out[k].x+out[k].w+0.01 {
			out[k].w = math.Max(out[k].w, p.x+p.w-out[k].x)
		} else {
			out = append(out, p)
		}
	}
	return out
}

// TestMirrored turns random pages round, left to right: everything stands where it stood, seen in a mirror.
func TestMirrored(t *testing.T) {
	for seed := range int64(400) {
		t.Run(strconv.FormatInt(seed, 10), func(t *testing.T) { mirrored(t, scattered(seed)) })
	}
}

func FuzzMirrored(f *testing.F) {
	f.Add(int64(1))
	f.Fuzz(func(t *testing.T, seed int64) { mirrored(t, scattered(seed)) })
}

// mirrored lays a page out as it is and turned round.
func mirrored(t *testing.T, html string) {
	turned := strings.NewReplacer("left", "right", "right", "left", "rtl", "ltr", "ltr", "rtl")
	l, root := page(t, "<html dir=ltr>"+html)
	there := boxesOf(laidOut(t, l, root, 300, 180), 300, false)
	l, root = page(t, "<html dir=rtl>"+turned.Replace(html))
	back := boxesOf(laidOut(t, l, root, 300, 180), 300, true)
	for _, p := range there {
		i := slices.IndexFunc(back, func(q placed) bool { return near(p, q) })
		require.GreaterOrEqual(t, i, 0, "no counterpart of %v in %s", p, html)
		back = slices.Delete(back, i, i+1)
	}
	require.Empty(t, back, html)
}
