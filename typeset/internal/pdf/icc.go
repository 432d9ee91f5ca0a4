package pdf

import (
	"crypto/sha256"
	"encoding/binary"
	"fmt"
	"math"
)

// colorSpace names the space of colours with so many components: the device's, or that
// of an ICC profile, which pictures share (§8.6.5.5).
func (w *Writer) colorSpace(comps int, profile []byte) string {
	if profile == nil {
		return map[int]string{1: "/DeviceGray", 3: "/DeviceRGB", 4: "/DeviceCMYK"}[comps]
	}
	key := sha256.Sum256(profile)
	id, ok := w.profiles[key]
	if !ok {
		id = w.alloc()
		w.profiles[key] = id
		w.stream(id, fmt.Sprintf("/N %d", comps), profile, well)
	}
	return "[/ICCBased " + id.String() + "]"
}

// sRGBProfile makes the ICC profile of sRGB (ICC.1:2001-04; IEC 61966-2-1): a
// matrix to the white point D50, and the transfer curve as a table.
func sRGBProfile() []byte {
	fixed := func(v float64) uint32 { return uint32(int32(math.Round(v * 65536))) }
	be := binary.BigEndian
	xyz := func(x, y, z float64) []byte {
		b := append([]byte("XYZ "), 0, 0, 0, 0)
		for _, v := range []float64{x, y, z} {
			b = be.AppendUint32(b, fixed(v))
		}
		return b
	}
	const name = "sRGB IEC61966-2.1"
	desc := append([]byte("desc"), 0, 0, 0, 0)
	desc = be.AppendUint32(desc, uint32(len(name)+1))
	desc = append(append(desc, name...), 0)
	desc = append(desc, make([]byte, 4+4+2+1+67)...)
	copyright := append([]byte("text\x00\x00\x00\x00No copyright, use freely"), 0)
	const n = 1024
	curve := be.AppendUint32(append([]byte("curv"), 0, 0, 0, 0), n)
	for i := range n {
		v := float64(i) / (n - 1)
		if v <= 0.04045 {
			v /= 12.92
		} else {
			v = math.Pow((v+0.055)/1.055, 2.4)
		}
		curve = be.AppendUint16(curve, uint16(math.Round(v*65535)))
	}
	type entry struct {
		sig  string
		data []byte
	}
	entries := []entry{
		{"desc", desc},
		{"cprt", copyright},
		{"wtpt", xyz(0.9642, 1, 0.8249)},
		{"rXYZ", xyz(0.43607, 0.22249, 0.01392)},
		{"gXYZ", xyz(0.38515, 0.71687, 0.09708)},
		{"bXYZ", xyz(0.14307, 0.06061, 0.71410)},
		{"rTRC", curve},
		{"gTRC", nil},
		{"bTRC", nil},
	}
	head := make([]byte, 128)
	table := be.AppendUint32(nil, uint32(len(entries)))
	at := 128 + 4 + 12*len(entries)
	var body []byte
	var offset, size int
	for _, e := range entries {
		if e.data != nil { // the three curves are one
			offset, size = at+len(body), len(e.data)
			body = append(body, e.data...)
			for len(body)%4 != 0 {
				body = append(body, 0)
			}
		}
		table = append(table, e.sig...)
		table = be.AppendUint32(be.AppendUint32(table, uint32(offset)), uint32(size))
	}
	be.PutUint32(head, uint32(at+len(body)))
	be.PutUint32(head[8:], 0x02100000)
	copy(head[12:], "mntrRGB XYZ ")
	for i, v := range []uint16{2026, 1, 1, 0, 0, 0} {
		be.PutUint16(head[24+2*i:], v)
	}
	copy(head[36:], "acsp")
	for i, v := range []float64{0.9642, 1, 0.8249} {
		be.PutUint32(head[68+4*i:], fixed(v))
	}
	return append(append(head, table...), body...)
}
