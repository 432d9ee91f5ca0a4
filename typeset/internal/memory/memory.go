// Package memory keeps what took long to make for the next document.
package memory

import lru "github.com/hashicorp/golang-lru/v2"

// Of makes a memory of the values used last, at most size of them, for any
// number of goroutines. The size is a constant above zero.
func Of[K comparable, V any](size int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](size)
	if err != nil {
		panic(err) // the size is not above zero
	}
	return c
}
