package page

import (
	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/style"
)

// Room for marks outside the sheet, in px: crop marks are 5 mm long and keep
// clear of the bleed.
const (
	markLength = 19.0
	markGap    = 4.0
	autoBleed  = 8.0 // 6pt (CSS Page 3, §7.3)
)

// trimming gives a page the room that bleed and marks need around its sheet,
// and returns the bleed in px.
func (st *Setter) trimming(m *made) float64 {
	bleed := 0.0
	marked := m.look.s.CropMarks || m.look.s.CrossMarks
	switch {
	case m.look.s.Bleed.Kind == style.Length:
		bleed = m.look.s.Bleed.Of(m.box.w)
	case m.look.s.CropMarks:
		bleed = autoBleed
	}
	m.page.Bleed, m.page.Around = bleed, bleed
	if marked {
		m.page.Around = bleed + markGap + markLength
	}
	return bleed
}

// marks draws crop marks at the corners and cross marks at the middle of the
// edges.
func marks(c display.Canvas, m *made) {
	if !m.look.s.CropMarks && !m.look.s.CrossMarks {
		return
	}
	w, h := m.box.w, m.box.h
	near, far := m.page.Bleed+markGap, m.page.Around
	line := func(x0, y0, x1, y1 float64) {
		p := &display.Path{}
		p.MoveTo(x0, y0)
		p.LineTo(x1, y1)
		c.Stroke(p, display.Solid(style.Black), display.Stroke{Width: 0.33})
	}
	if m.look.s.CropMarks {
		for _, x := range []float64{0, w} {
			line(x, -far, x, -near)
			line(x, h+near, x, h+far)
		}
		for _, y := range []float64{0, h} {
			line(-far, y, -near, y)
			line(w+near, y, w+far, y)
		}
	}
	if m.look.s.CrossMarks {
		mid, arm := (near+far)/2, markLength/2
		for _, at := range [][2]float64{{w / 2, -mid}, {w / 2, h + mid}, {-mid, h / 2}, {w + mid, h / 2}} {
			line(at[0]-arm, at[1], at[0]+arm, at[1])
			line(at[0], at[1]-arm, at[0], at[1]+arm)
		}
	}
}
