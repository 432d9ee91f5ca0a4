package bidi

import ucd "golang.org/x/text/unicode/bidi"

// isolatePairs finds for each isolate initiator its PDI (BD9).
func isolatePairs(classes []Class) []int {
	out := make([]int, len(classes))
	var stack []int
	for i, c := range classes {
		out[i] = -1
		switch c {
		case ucd.LRI, ucd.RLI, ucd.FSI:
			stack = append(stack, i)
		case ucd.PDI:
			if k := len(stack); k > 0 {
				out[stack[k-1]], out[i] = i, stack[k-1]
				stack = stack[:k-1]
			}
		}
	}
	return out
}

// isolatingRuns splits the text into isolating run sequences (BD13).
func isolatingRuns(classes []Class, levels []uint8, removed []bool, match []int) [][]int {
	var runs [][]int
	runOf := make([]int, len(classes))
	for i := range classes {
		if removed[i] {
			continue
		}
		if k := len(runs); k > 0 && levels[runs[k-1][len(runs[k-1])-1]] == levels[i] {
			runs[k-1] = append(runs[k-1], i)
		} else {
			runs = append(runs, []int{i})
		}
		runOf[i] = len(runs) - 1
	}
	used := make([]bool, len(runs))
	var out [][]int
	for r := range runs {
		first := runs[r][0]
		if used[r] || classes[first] == ucd.PDI && match[first] >= 0 {
			continue
		}
		var seq []int
		for at := r; ; {
			used[at] = true
			seq = append(seq, runs[at]...)
			last := seq[len(seq)-1]
			isIso := classes[last] == ucd.LRI || classes[last] == ucd.RLI || classes[last] == ucd.FSI
			if !isIso || match[last] < 0 {
				break
			}
			at = runOf[match[last]]
			if used[at] {
				break
			}
		}
		out = append(out, seq)
	}
	return out
}

func firstStrongClass(list []Class) bool {
	depth := 0
	for _, c := range list {
		switch c {
		case ucd.LRI, ucd.RLI, ucd.FSI:
			depth++
		case ucd.PDI:
			depth--
		case ucd.L:
			if depth == 0 {
				return false
			}
		case ucd.R, ucd.AL:
			if depth == 0 {
				return true
			}
		}
	}
	return false
}
