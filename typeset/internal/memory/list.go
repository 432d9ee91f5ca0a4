package memory

// listPiece is how many values one piece of a List holds.
const listPiece = 1 << 12

// List grows without copying what it holds: a long document has very many things
// that are counted one by one. The zero value is an empty list.
type List[T any] struct {
	pieces [][]T
	n      int
}

// Len is how many values there are.
func (l *List[T]) Len() int { return l.n }

// Add puts a value at the end.
func (l *List[T]) Add(v T) {
	switch {
	case l.n == 0:
		l.pieces = [][]T{nil} // the first piece grows: most lists are short
	case l.n%listPiece == 0:
		l.pieces = append(l.pieces, make([]T, 0, listPiece))
	}
	last := &l.pieces[len(l.pieces)-1]
	*last = append(*last, v)
	l.n++
}

// At is the value at a place below Len, to be changed before more are added.
func (l *List[T]) At(i int) *T { return &l.pieces[i/listPiece][i%listPiece] }
