package bidi

// Reorder gives the order in which items of a line are seen, from left to right, by their levels (rule L2).
func Reorder(levels []uint8) []int {
	n := len(levels)
	order := make([]int, n)
	high, low := uint8(0), uint8(255)
	for i, l := range levels {
		order[i] = i
		high = max(high, l)
		if l&1 == 1 {
			low = min(low, l)
		}
	}
	for lv := high; lv >= low && lv > 0; lv-- {
		for i := 0; i < n; {
			if levels[order[i]] < lv {
				i++
				continue
			}
			j := i
			for j < n && levels[order[j]] >= lv {
				j++
			}
			for a, b := i, j-1; a < b; a, b = a+1, b-1 {
				order[a], order[b] = order[b], order[a]
			}
			i = j
		}
	}
	return order
}
