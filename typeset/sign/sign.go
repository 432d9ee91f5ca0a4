// Package sign signs PDF files (ISO 32000-2 §12.8, as ETSI EN 319 142-1 profiles it), and tells whose signatures a file
// has and whether they hold. A signature is appended: the bytes that it is over stay as they are.
package sign

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"time"

	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// Permission is what may be changed after a certifying signature (§12.8.2.2).
type Permission int

// Permissions of certifying signatures.
const (
	Approve Permission = iota // it does not certify: anything may follow
	Nothing                   // nothing may be changed
	Fill                      // fields may be filled in, and others sign
	Comment                   // and comments may be added
)

// Stamper gives a time stamp over data (RFC 3161, DER): the token of an authority.
type Stamper func(ctx context.Context, data []byte) (token []byte, err error)

// Options of a signature.
type Options struct {
	Field         string // signature field of the file; empty for one of its own, which is not seen
	Reason, Place string
	At            time.Time  // that the signature claims
	Permission    Permission // only the first signature of a file certifies
	Stamp         Stamper    // that confirms the time; nil for none
}

// ErrField tells that a file has no such signature field, or that it is signed.
var ErrField = errors.New("there is no such signature field")

// Sign gives the file with a signature.
func Sign(ctx context.Context, file []byte, key *Key, o Options) ([]byte, error) {
	room := key.room(o.Stamp != nil)
	return appended(file, o.Field, o.Permission, valueOf(key, o, room), room, func(covered [][]byte) ([]byte, error) {
		digest := sha256.New()
		for _, part := range covered {
			digest.Write(part)
		}
		return key.cms(ctx, digest.Sum(nil), o.Stamp)
	})
}

// appended gives the file with a signature's value in a field, which seal makes of the bytes that it is over.
func appended(file []byte, field string, p Permission, value []byte, room int, seal func(covered [][]byte) ([]byte, error)) ([]byte, error) {
	f, err := pdfread.Open(file, "")
	if err != nil {
		return nil, err
	}
	u, err := pdfread.NewUpdate(f)
	if err != nil {
		return nil, fmt.Errorf("the file cannot be signed: %w", err)
	}
	form := formOf(f)
	if p != Approve && form.signed() {
		return nil, errors.New("the file is signed already: only its first signature can certify it")
	}
	at := u.Alloc()
	if field != "" {
		err = form.fill(u, field, at)
	} else {
		err = form.add(u, at)
	}
	if err != nil {
		return nil, err
	}
	form.catalog(u, at, p)
	u.Set(at, value)
	out := u.Bytes()
	covered, hole, err := ranges(out, room)
	if err != nil {
		return nil, err
	}
	cms, err := seal(covered)
	if err != nil {
		return nil, err
	}
	if 2*len(cms) > len(hole) {
		return nil, fmt.Errorf("the signature has %d bytes, and there is room for %d", len(cms), len(hole)/2)
	}
	hex.Encode(hole, cms)
	return out, nil
}

// Places in a signature's value that are written when the file is there (§12.8.1).
const (
	rangesBegin = "/ByteRange["
	rangesRoom  = "0 0000000000 0000000000 0000000000"
	hexBegin    = "/Contents<"
)

// valueOf is the dictionary of a signature, with room for what is signed and the signature itself.
func valueOf(key *Key, o Options, room int) []byte {
	b := []byte("<</Type/Sig/Filter/Adobe.PPKLite/SubFilter/ETSI.CAdES.detached")
	said := func(name, text string) {
		if text != "" {
			b = append(append(b, name...), pdf.Text(text)...)
		}
	}
	said("/Name", key.Name())
	said("/Reason", o.Reason)
	said("/Location", o.Place)
	if !o.At.IsZero() {
		b = fmt.Appendf(b, "/M(D:%s+00'00')", o.At.UTC().Format("20060102150405"))
	}
	if o.Permission != Approve {
		b = fmt.Appendf(b, "/Reference[<</Type/SigRef/TransformMethod/DocMDP/TransformParams<</Type/TransformParams/V/1.2/P %d>>>>]", o.Permission)
	}
	return append(b, emptySignature(room)...)
}

// emptySignature ends the dictionary of a signature: what it is over, and room for so many bytes of it.
func emptySignature(room int) []byte {
	b := []byte(rangesBegin + rangesRoom + "]" + hexBegin)
	return append(append(b, bytes.Repeat([]byte("0"), 2*room)...), ">>>"...)
}

// ranges writes which bytes are signed: all but the signature. It gives those, and the place of the signature's digits.
func ranges(out []byte, room int) (covered [][]byte, hole []byte, err error) {
	at := bytes.LastIndex(out, []byte(rangesBegin+rangesRoom))
	open := bytes.LastIndex(out, []byte(hexBegin)) + len(hexBegin) - 1
	if at < 0 || open < at {
		return nil, nil, errors.New("the place of the signature is lost") // what was just written is not there
	}
	shut := open + 1 + 2*room + 1
	if len(out) > 9_999_999_999 {
		return nil, nil, errors.New("the file is too large to be signed")
	}
	copy(out[at+len(rangesBegin):], fmt.Sprintf("0 %010d %010d %010d", open, shut, len(out)-shut))
	return [][]byte{out[:open], out[shut:]}, out[open+1 : shut-1], nil
}
