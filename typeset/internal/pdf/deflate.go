package pdf

import (
	"bytes"
	"encoding/binary"
	"hash/adler32"
	"sync"

	"github.com/klauspost/compress/flate"
	"github.com/klauspost/compress/zlib"
)

// packing is how the data of a stream is written. What pages show and objects say is
// deflated quickly: to do it well takes longer, a tenth of a long table's time, and
// saves little. Fonts and pictures are deflated well.
type packing int8

const (
	unpacked packing = iota
	quick
	well
)

// smallStream is up to how many bytes a stream that is deflated quickly stays as it is:
// to deflate it takes as long as a page and saves little.
const smallStream = 1000

// suits is the packing for a stream of so many bytes.
func (p packing) suits(bytes int) packing {
	if p == quick && bytes <= smallStream {
		return unpacked
	}
	return p
}

// compressor is a deflater with room for what it makes. They are kept from one
// document to the next, as their tables are large.
type compressor struct {
	z   *zlib.Writer
	out bytes.Buffer
}

var compressors = sync.Pool{New: func() any { return &compressor{z: zlib.NewWriter(nil)} }}

// deflating hands use the data deflated; it stays valid until use returns.
func (p packing) deflating(data []byte, use func([]byte)) {
	c := compressors.Get().(*compressor)
	defer compressors.Put(c)
	c.out.Reset()
	if p == quick {
		c.quickly(data)
	} else {
		c.z.Reset(&c.out)
		_, _ = c.z.Write(data) // memory takes everything
		c.z.Close()
	}
	use(c.out.Bytes())
}

// quickly makes a zlib stream (RFC 1950) with small tables, which stay near the
// processor: most streams are a few thousand bytes long.
func (c *compressor) quickly(data []byte) {
	c.out.Write([]byte{0x78, 0x01})
	_ = flate.StatelessDeflate(&c.out, data, true, nil) // memory takes everything
	c.out.Write(binary.BigEndian.AppendUint32(nil, adler32.Checksum(data)))
}

// deflate gives the data deflated well.
func deflate(data []byte) (z []byte) {
	well.deflating(data, func(out []byte) { z = bytes.Clone(out) })
	return z
}
