// Package sweep finds stored bytes that nothing names: those of documents whose rows could not be kept,
// and of what was deleted.
package sweep

import (
	"context"
	"fmt"
	"time"

	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
)

// Least is how old stored bytes are at least when they are taken for forgotten: those of a document
// that is being made are younger.
const Least = time.Hour

// Found is what a sweep found.
type Found struct {
	Kept, Forgotten, Removed int
	Bytes                    int64 // of what is forgotten
	Unfinished               int   // files that were being written when their process ended, and are removed
}

// together is how many are looked for at once.
const together = 500

// Run looks at all stored bytes. Those that nothing names and that were put longer ago than older are
// removed when remove says so.
func Run(ctx context.Context, st *store.Store, blobs blob.Store, older time.Duration, remove bool) (f Found, err error) {
	if older < Least {
		return f, fmt.Errorf("what is younger than %v may belong to a document that is being made", Least)
	}
	before := time.Now().Add(-older)
	var group []blob.Kept
	flush := func() error {
		err := f.look(ctx, st, blobs, group, before, remove)
		group = group[:0]
		return err
	}
	err = blobs.Each(ctx, func(k blob.Kept) error {
		if f.Kept++; !k.Changed.Before(before) {
			return nil
		}
		if group = append(group, k); len(group) < together {
			return nil
		}
		return flush()
	})
	if err == nil {
		err = flush()
	}
	if folder, ok := blobs.(*blob.Folder); ok && err == nil && remove {
		f.Unfinished, err = folder.Tidy(before)
	}
	return f, err
}

// look finds those of a group that nothing names.
func (f *Found) look(ctx context.Context, st *store.Store, blobs blob.Store, group []blob.Kept, before time.Time, remove bool) error {
	if len(group) == 0 {
		return nil
	}
	sums := make([]string, len(group))
	for i, k := range group {
		sums[i] = k.Sum
	}
	named, err := st.Named(sums)
	if err != nil {
		return err
	}
	for _, k := range group {
		if named[k.Sum] {
			continue
		}
		f.Forgotten++
		f.Bytes += k.Size
		if !remove {
			continue
		}
		done, err := blobs.Remove(ctx, k.Sum, before)
		if err != nil {
			return err
		}
		if done {
			f.Removed++
		}
	}
	return nil
}
