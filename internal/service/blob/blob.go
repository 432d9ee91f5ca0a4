// Package blob keeps bytes by their checksum: in files, or in a bucket through
// the S3 protocol.
package blob

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"regexp"
	"time"
)

// Store keeps bytes, whole or not at all.
type Store interface {
	// Put keeps data and returns its SHA-256 in hex.
	Put(ctx context.Context, data []byte) (sum string, err error)
	// Get returns the bytes of a checksum, and checks them. The error is
	// fs.ErrNotExist when there are none.
	Get(ctx context.Context, sum string) ([]byte, error)
	// Ready tells why nothing can be kept at present.
	Ready(ctx context.Context) error
	// Each visits all that is kept.
	Each(ctx context.Context, visit func(Kept) error) error
	// Remove removes what was not put again since before, and tells whether it did.
	Remove(ctx context.Context, sum string, before time.Time) (bool, error)
}

// Kept is what a store has.
type Kept struct {
	Sum     string
	Size    int64
	Changed time.Time // when it was put last
}

var sumPattern = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Sum is the checksum of data.
func Sum(data []byte) string {
	h := sha256.Sum256(data)
	return hex.EncodeToString(h[:])
}

func checkName(sum string) error {
	if !sumPattern.MatchString(sum) {
		return fmt.Errorf("%q is not a checksum", sum)
	}
	return nil
}

// ErrAltered tells that stored bytes are not what they were.
var ErrAltered = errors.New("the stored bytes have changed: the disk or someone has altered them")

// checked compares what was read with its checksum.
func checked(sum string, data []byte, err error) ([]byte, error) {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, fmt.Errorf("the stored bytes %s… are missing: %w", sum[:12], fs.ErrNotExist)
	case err != nil:
		return nil, err
	case Sum(data) != sum:
		return nil, fmt.Errorf("%s…: %w", sum[:12], ErrAltered)
	}
	return data, nil
}
