package style

// SizeAdjust is font-size-adjust: the measure of a face, in em of the font
// size, that all faces are brought to (CSS Fonts 5, §4.1).
type SizeAdjust struct {
	On       bool
	FromFont bool    // the value is that of the first font
	Measure  string  // ex-height, cap-height, ch-width, ic-width or ic-height
	Value    float64 // in em
}

// Of is the measure of a face.
func (a SizeAdjust) Of(m Metrics) float64 {
	switch a.Measure {
	case "cap-height":
		return m.Cap
	case "ch-width":
		return m.Ch
	case "ic-width":
		return m.Ic
	case "ic-height":
		return 1
	}
	return m.Ex
}

func parseSizeAdjust(v *values) (spec[SizeAdjust], bool) {
	if v.word("none") {
		return fixed(SizeAdjust{}), true
	}
	a := SizeAdjust{On: true, Measure: "ex-height"}
	for _, name := range []string{"ex-height", "cap-height", "ch-width", "ic-width", "ic-height"} {
		if v.word(name) {
			a.Measure = name
			break
		}
	}
	if v.word("from-font") {
		a.FromFont = true
		return fixed(a), true
	}
	n, ok := v.number(true)
	if !ok {
		return nil, false
	}
	return func(c *Computer) SizeAdjust {
		a.Value = n(c)
		return a
	}, true
}
