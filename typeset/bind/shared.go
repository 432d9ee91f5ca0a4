package bind

import (
	"crypto/sha256"
	"encoding/binary"
	"hash"
	"slices"

	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// digest names what an object holds, whatever number it has in its file.
type digest [sha256.Size]byte

// shared are the objects that are in the whole already, by what they hold: the fonts and
// pictures of documents that were made alike are there once.
type shared map[digest]pdf.Ref

// deepest bounds how far an object is followed to tell what it holds.
const deepest = 24

// digestOf tells what an object holds, with all that it refers to; ok is false for one
// that leads back to itself, or to a page.
func (m *importer) digestOf(r pdfread.Ref, depth int) (d digest, ok bool) {
	if known, seen := m.digests[r.Num]; seen {
		return known.digest, known.ok
	}
	m.digests[r.Num] = objectDigest{} // while it is looked at it leads back to itself
	h := sha256.New()
	if ok = m.hash(h, m.f.Resolve(r), depth); ok {
		h.Sum(d[:0])
	}
	m.digests[r.Num] = objectDigest{d, ok}
	return d, ok
}

type objectDigest struct {
	digest digest
	ok     bool
}

// hash adds what an object holds.
func (m *importer) hash(h hash.Hash, o pdfread.Object, depth int) bool {
	if depth > deepest {
		return false
	}
	switch x := o.(type) {
	case pdfread.Ref:
		d, ok := m.digestOf(x, depth+1)
		h.Write(d[:])
		return ok
	case *pdfread.Stream:
		if x.Dict["StructParents"] != nil { // its contents belong to elements of its own file
			return false
		}
		size := binary.BigEndian.AppendUint64([]byte("stream"), uint64(len(x.Raw)))
		h.Write(size)
		h.Write(x.Raw)
		return m.hash(h, withoutLength(x.Dict), depth+1)
	case pdfread.Dict:
		if t := x["Type"]; t == pdfread.Name("Page") || t == pdfread.Name("Pages") || t == pdfread.Name("Catalog") {
			return false
		}
		h.Write([]byte("<<"))
		for _, k := range sortedKeys(x) {
			h.Write([]byte("/" + string(k) + " "))
			if !m.hash(h, x[k], depth+1) {
				return false
			}
		}
		h.Write([]byte(">>"))
	case pdfread.Array:
		h.Write([]byte("["))
		for _, e := range x {
			if !m.hash(h, e, depth+1) {
				return false
			}
			h.Write([]byte(" "))
		}
		h.Write([]byte("]"))
	default:
		h.Write(pdfread.Append(nil, o, nil))
	}
	return true
}

func withoutLength(d pdfread.Dict) pdfread.Dict {
	if _, has := d["Length"]; !has {
		return d
	}
	out := pdfread.Dict{}
	for k, v := range d {
		if k != "Length" {
			out[k] = v
		}
	}
	return out
}

func sortedKeys(d pdfread.Dict) []pdfread.Name {
	keys := make([]pdfread.Name, 0, len(d))
	for k := range d {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}
