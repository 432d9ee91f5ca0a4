package memory

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What a slab hands out is zero and shared with nobody, whatever its size.
func TestSlab(t *testing.T) {
	var s Slab[[3]int]
	var all [][][3]int
	for n := range 120 {
		all = append(all, s.Slice(n))
		all = append(all, []([3]int){*s.New()})
	}
	for i, list := range all {
		for k := range list {
			require.Zero(t, list[k])
			list[k] = [3]int{i, k, 1}
		}
		require.Equal(t, len(list), cap(list))
	}
	for i, list := range all {
		for k := range list {
			require.Equal(t, [3]int{i, k, 1}, list[k])
		}
	}
}
