package memory

import "unsafe"

// slabBytes is about how much memory a Slab takes at once.
const slabBytes = 4096

// Slab hands out values from larger pieces of memory: a document is made of very
// many small things. A piece is let go when all that was handed out of it is.
// The zero value is ready.
type Slab[T any] struct{ free []T }

// New is a zero T.
func (s *Slab[T]) New() *T { return &s.Slice(1)[0] }

// Slice is room for n zero values, and no more.
func (s *Slab[T]) Slice(n int) []T {
	if n > len(s.free) {
		piece := slabBytes / int(max(unsafe.Sizeof(*new(T)), 1))
		if n > piece/2 {
			return make([]T, n)
		}
		s.free = make([]T, piece)
	}
	out := s.free[:n:n]
	s.free = s.free[n:]
	return out
}
