package layout

import (
	"slices"

	"oliveledger/typeset/internal/font"
)

// ligateSpaces joins words and the spaces between them where the font makes them one
// glyph, as fonts of symbols do with their names. Such a group stays on one line.
func (l *Layout) ligateSpaces(p *para) {
	for i := 0; i < len(p.leaves); {
		end := i
		for end < len(p.leaves) && l.ligates(p, i, end) {
			end++
		}
		if end-i > 1 {
			end = l.joinLigatures(p, i, end)
		}
		i = max(end, i+1)
	}
}

// ligates tells whether a leaf may be part of a ligature with one before it, or with itself.
func (l *Layout) ligates(p *para, first, i int) bool {
	a, lf := &p.leaves[first], &p.leaves[i]
	plain := (lf.kind == leafText || lf.kind == leafSpace) && !lf.other && !lf.upright && lf.level == 0 && lf.match.Face.LigatesSpaces()
	if !plain || i == first {
		return plain
	}
	return lf.box.Style == a.box.Style && lf.match == a.match && bare(p.leaves[i-1].closes) && bare(lf.opens)
}

// joinLigatures makes one leaf of those between first and end that a glyph of theirs spans. It
// gives the end of those that are left.
func (l *Layout) joinLigatures(p *para, first, end int) int {
	from, to := p.leaves[first].start, p.leaves[end-1].end
	a := &p.leaves[first]
	feats := a.match.Features(l.look(a.box.Style).features)
	run := a.match.Face.Shape(p.text[from:to], a.script, a.box.Style.Lang, false, feats)
	spanned := func(i int) bool { // a glyph stands for the end of leaf i and the beginning of the next one
		at := int32(p.leaves[i].end - from)
		return slices.ContainsFunc(run.Glyphs, func(g font.Glyph) bool { return g.Cluster < at && at < g.Cluster+g.Chars })
	}
	for i := end - 2; i >= first; i-- {
		if !spanned(i) {
			continue
		}
		lf, next := &p.leaves[i], p.leaves[i+1]
		if lf.kind == leafSpace {
			lf.script = next.script
		}
		lf.kind, lf.end, lf.canBreak, lf.soft = leafText, next.end, next.canBreak, next.soft
		lf.closes = append(slices.Clone(lf.closes), next.closes...)
		lf.collapse, lf.hang = false, false
		l.measure(lf, p.text, p.text[lf.start:lf.end], l.look(lf.box.Style).features)
		p.leaves = slices.Delete(p.leaves, i+1, i+2)
		end--
	}
	return end
}
