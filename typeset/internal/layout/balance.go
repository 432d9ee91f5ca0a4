package layout

import "oliveledger/typeset/internal/style"

// mostBalanced is how many lines text-wrap: balance looks at; longer text is
// left as it is (CSS Text 4, §6.2 allows a limit).
const mostBalanced = 10

// balance finds the narrowest lines that need no more of them, so that they
// come out about equally long.
func (st *lineState) balance() {
	if st.b.Style.WrapStyle != style.Balance || !st.first || st.in.floats != nil || st.p.floats {
		return
	}
	n := st.remaining(st.at, mostBalanced+1)
	if n < 2 || n > mostBalanced {
		return
	}
	lo, hi := 0.0, st.in.w
	for hi-lo > 1 {
		st.limit = (lo + hi) / 2
		if st.fitsIn(n) {
			hi = st.limit
		} else {
			lo = st.limit
		}
	}
	st.limit = hi
}

// fitsIn tells whether the text takes no more than n lines and no word sticks
// out.
func (st *lineState) fitsIn(n int) bool {
	lo, _ := st.l.inlineSizes(st.b)
	return st.limit >= lo && st.remaining(st.at, n+1) <= n
}
