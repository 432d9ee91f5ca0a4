package layout

// filling is a line while units are put onto it.
type filling struct {
	*lineState
	avail, y float64
	x        float64 // where the next unit begins
	hang     float64 // width of spaces at the end of the line
	units    []unit
	floats   []int // that stand below the line
	solid    bool  // something visible stands on the line
	begun    bool  // spaces do not collapse into its beginning any more
	tooWide  bool
	best     ending // the last place where the line may end; without units for none
}

// ending is where a line may end: its units, its floats, and where the next begins.
type ending struct {
	units, floats int
	next          cursor
}

// fill takes units for a line of width avail.
func (st *lineState) fill(avail, y float64) (units []unit, next cursor, floats []int, forced, tooWide bool) {
	p := st.p
	fl := filling{lineState: st, avail: avail, y: y, x: st.indent() - st.hangStart(st.at.leaf), units: st.units[:0], best: ending{units: -1}}
	defer func() { st.units = fl.units[:0] }()
	i, off := st.at.leaf, st.at.off
	for i < len(p.leaves) {
		u := fl.unit(i, off)
		if len(fl.units) == 0 {
			fl.x += st.clonedBefore(&u)
		}
		if u.leaf.kind == leafBreak {
			fl.units = append(fl.units, u)
			return fl.units, cursor{leaf: i + 1}, fl.floats, true, fl.tooWide
		}
		if !fl.fits(&u) {
			if end := fl.full(&u, off); end != nil {
				return fl.units[:end.units], end.next, fl.floats[:end.floats], false, false
			}
			fl.tooWide = true
		}
		fl.put(u)
		off = 0
		i++
		if fl.mayEnd(&u, cursor{leaf: i}) && fl.tooWide {
			break
		}
	}
	if i >= len(p.leaves) {
		return fl.units, cursor{leaf: i}, fl.floats, false, fl.tooWide
	}
	st.hyphenate(fl.units[:fl.best.units])
	return fl.units[:fl.best.units], fl.best.next, fl.floats[:fl.best.floats], false, fl.tooWide
}

// unit is leaf number i from an offset on, with the width that it takes on this line. Floats are set where they fit.
func (fl *filling) unit(i, off int) unit {
	st, lf := fl.lineState, &fl.p.leaves[i]
	u := unit{leaf: lf, idx: i, run: lf.run, w: lf.w, noOpen: off > 0}
	if off > 0 {
		st.part(&u, off, lf.end-lf.start)
	}
	if !u.noOpen {
		u.pre = st.l.opensWidth(lf, st.in.w)
	}
	u.post = st.l.closesWidth(lf, st.in.w)
	switch lf.kind {
	case leafFloat:
		fl.float(i)
		u.w = 0
	case leafAtomic:
		st.atomic(&u)
	case leafTab:
		u.w = st.tab(fl.x, lf)
	case leafSpace:
		if lf.collapse && !fl.begun { // at the line's start, after collapsing
			u.w = 0
		}
	}
	return u
}

// float sets a float beside what is on the line when it fits, else below it.
func (fl *filling) float(i int) {
	st := fl.lineState
	switch {
	case st.floated[i]:
	case len(fl.floats) > 0: // none stands higher than an earlier one (CSS 2.2, §9.5.1, rule 5)
		fl.floats = append(fl.floats, i)
	case st.floatNow(&fl.p.leaves[i], fl.x-fl.hang, fl.avail, fl.y, fl.solid):
		st.hasFloated(i)
		l2, r2 := st.band(fl.y, st.strutHeight())
		fl.avail = r2 - l2
	default:
		fl.floats = append(fl.floats, i)
	}
}

// isSpace tells whether a unit may hang at the end of a line.
func (u *unit) isSpace() bool {
	return u.leaf.kind == leafSpace && (u.leaf.collapse || u.leaf.hang)
}

// fits tells whether a unit has room on the line, or may stand at its end without.
func (fl *filling) fits(u *unit) bool {
	lf, end := u.leaf, fl.x+u.pre+u.w
	switch lf.kind {
	case leafFloat, leafOut, leafPhantom:
		return true
	case leafSpace:
		if lf.collapse && u.post > 0 { // the edges of boxes that end there need room
			return atMost(fl.x+u.pre+u.post, fl.avail) || atMost(end+fl.trailing(u), fl.avail)
		}
		if u.isSpace() {
			return true
		}
	case leafText:
		if lf.soft && end <= fl.avail { // a soft hyphen needs room for its hyphen when the line ends here
			return true
		}
		if exceeds(end+fl.trailing(u), fl.avail) { // its last character may hang
			return atMost(end+fl.trailing(u)-fl.hangEnd(lf, u.idx == len(fl.p.leaves)-1), fl.avail)
		}
		return true
	}
	return atMost(end+fl.trailing(u), fl.avail)
}

// full is where a line ends at a unit that does not fit: before it, or within it; nil when there is no such place.
func (fl *filling) full(u *unit, off int) *ending {
	st, lf := fl.lineState, u.leaf
	if fl.best.units >= 0 {
		st.hyphenate(fl.units[:fl.best.units])
		return &fl.best
	}
	if !wraps(st.styleOf(lf)) || !st.breaksWords(lf) {
		return nil
	}
	switch lf.kind {
	case leafText:
		if cut := st.cutWord(u, fl.avail-fl.x-u.pre-st.clonedAfter(u), off, !fl.solid); cut > 0 {
			fl.units = append(fl.units, *u)
			return &ending{len(fl.units), len(fl.floats), cursor{leaf: u.idx, off: off + cut}}
		}
		if fl.solid {
			return &ending{len(fl.units), len(fl.floats), cursor{leaf: u.idx, off: off}}
		}
	case leafSpace: // a preserved one that takes up room
		if fl.solid {
			return &ending{len(fl.units), len(fl.floats), cursor{leaf: u.idx}}
		}
	}
	return nil
}

// put adds a unit to the line.
func (fl *filling) put(u unit) {
	fl.x += u.pre + u.w + u.post
	fl.units = append(fl.units, u)
	kind := u.leaf.kind
	switch {
	case u.isSpace():
		fl.hang += u.w
	case kind != leafFloat && kind != leafOut && (kind != leafPhantom || u.pre+u.w+u.post != 0):
		fl.hang = 0
		fl.solid = fl.solid || kind != leafPhantom
	}
	fl.begun = fl.begun || kind == leafText || kind == leafAtomic || kind == leafTab || kind == leafSpace
}

// mayEnd notes that the line may end after its last unit, when that is so; next is where the one after it begins.
func (fl *filling) mayEnd(u *unit, next cursor) bool {
	lf := u.leaf
	if lf.kind == leafOut && u.pre == 0 && fl.best.units == len(fl.units)-1 { // no line begins before it
		fl.best.units, fl.best.next = len(fl.units), next
	}
	fitsHyphen := !lf.soft || atMost(fl.x-u.post+fl.hyphenWidth(lf), fl.avail)
	none := fl.best.units < 0
	fl.tooWide = fl.tooWide || !fitsHyphen && none && lf.canBreak && fl.solid // there is no other place to break
	if !lf.canBreak || !fl.solid && (lf.kind != leafSpace || lf.collapse) || !fitsHyphen && !none {
		return false
	}
	fl.best = ending{len(fl.units), len(fl.floats), next}
	return true
}
