package font

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"sort"
)

// maxFontBytes bounds an unpacked font.
const maxFontBytes = 64 << 20

var errTooLarge = fmt.Errorf("the font is larger than %d MB when it is unpacked", maxFontBytes>>20)

// unpack turns WOFF and WOFF2 into plain OpenType.
func unpack(data []byte) ([]byte, error) {
	if len(data) < 12 {
		return nil, errors.New("the font file is too short")
	}
	switch string(data[:4]) {
	case "wOFF":
		return unpackWOFF(data)
	case "wOF2":
		return unpackWOFF2(data)
	}
	return data, nil
}

type table struct {
	tag  string
	data []byte
}

// assemble writes tables as an OpenType file.
func assemble(flavor uint32, tables []table) []byte {
	sort.Slice(tables, func(i, j int) bool { return tables[i].tag < tables[j].tag })
	var b bytes.Buffer
	n := len(tables)
	power, log := 1, 0
	for power*2 <= n {
		power, log = power*2, log+1
	}
	binary.Write(&b, binary.BigEndian, flavor)
	for _, v := range []int{n, power * 16, log, n*16 - power*16} {
		binary.Write(&b, binary.BigEndian, uint16(v))
	}
	off := 12 + 16*n
	for _, t := range tables {
		b.WriteString(t.tag)
		binary.Write(&b, binary.BigEndian, checksum(t.data))
		binary.Write(&b, binary.BigEndian, uint32(off))
		binary.Write(&b, binary.BigEndian, uint32(len(t.data)))
		off += (len(t.data) + 3) &^ 3
	}
	for _, t := range tables {
		b.Write(t.data)
		for b.Len()%4 != 0 {
			b.WriteByte(0)
		}
	}
	return b.Bytes()
}

func checksum(b []byte) uint32 {
	var sum uint32
	for len(b) >= 4 {
		sum += binary.BigEndian.Uint32(b)
		b = b[4:]
	}
	var last [4]byte
	copy(last[:], b)
	return sum + binary.BigEndian.Uint32(last[:])
}

// unpackWOFF follows WOFF File Format 1.0, §3 to §5.
func unpackWOFF(data []byte) ([]byte, error) {
	if len(data) < 44 {
		return nil, errors.New("the WOFF file is too short")
	}
	n := u16(data, 12)
	var tables []table
	total := 0
	for i := range n {
		r := 44 + 20*i
		if r+20 > len(data) {
			return nil, errors.New("the WOFF table directory is cut off")
		}
		off, comp, orig := int(u32(data, r+4)), int(u32(data, r+8)), int(u32(data, r+12))
		if off < 0 || comp < 0 || off+comp > len(data) {
			return nil, errors.New("a WOFF table lies outside the file")
		}
		if total += orig; total > maxFontBytes {
			return nil, errTooLarge
		}
		body := data[off : off+comp]
		if comp < orig {
			z, err := zlib.NewReader(bytes.NewReader(body))
			if err != nil {
				return nil, fmt.Errorf("a WOFF table does not unpack: %w", err)
			}
			if body, err = io.ReadAll(io.LimitReader(z, int64(orig))); err != nil {
				return nil, fmt.Errorf("a WOFF table does not unpack: %w", err)
			}
		}
		tables = append(tables, table{string(data[r : r+4]), body})
	}
	return assemble(u32(data, 4), tables), nil
}
