package picture

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"io"
)

// maxProfile bounds the size of a colour profile; those of presses reach 3 MB.
const maxProfile = 8 << 20

// profileOf gives the ICC profile that a JPEG or PNG file carries for colours of so many
// components, or nil. One that is made for other colours, or damaged, is left out.
func profileOf(data []byte, comps int) []byte {
	var icc []byte
	if bytes.HasPrefix(data, []byte("\xFF\xD8")) {
		icc = jpegProfile(data)
	} else {
		icc = pngProfile(data)
	}
	if len(icc) < 132 || string(icc[36:40]) != "acsp" || int(binary.BigEndian.Uint32(icc)) != len(icc) {
		return nil
	}
	if space := map[int]string{1: "GRAY", 3: "RGB ", 4: "CMYK"}[comps]; string(icc[16:20]) != space {
		return nil
	}
	return icc
}

// jpegProfile joins the pieces of a profile, which segments of a JPEG file hold in any
// order (ICC.1:2022, annex B.4).
func jpegProfile(data []byte) []byte {
	const name = "ICC_PROFILE\x00"
	pieces, of := map[byte][]byte{}, byte(0)
	for at := 2; at+4 < len(data) && data[at] == 0xFF && data[at+1] != 0xDA; {
		end := at + 2 + int(binary.BigEndian.Uint16(data[at+2:]))
		if end > len(data) || end < at+4 {
			break
		}
		if segment := data[at+4 : end]; data[at+1] == 0xE2 && bytes.HasPrefix(segment, []byte(name)) && len(segment) > len(name)+2 {
			pieces[segment[len(name)]] = segment[len(name)+2:]
			of = segment[len(name)+1]
		}
		at = end
	}
	var icc []byte
	for i := 1; i <= int(of); i++ {
		icc = append(icc, pieces[byte(i)]...)
	}
	return icc
}

// pngProfile unpacks the iCCP chunk of a PNG file (PNG 3, §11.3.2.3).
func pngProfile(data []byte) (icc []byte) {
	pngChunks(data, func(kind string, chunk []byte) bool {
		if kind == "iCCP" {
			_, packed, _ := bytes.Cut(chunk, []byte{0})
			if len(packed) > 1 && packed[0] == 0 {
				if r, err := zlib.NewReader(bytes.NewReader(packed[1:])); err == nil {
					icc, _ = io.ReadAll(io.LimitReader(r, maxProfile))
				}
			}
		}
		return kind != "IDAT"
	})
	return icc
}

// pngChunks calls f with the chunks of a PNG file while it asks for more.
func pngChunks(data []byte, f func(kind string, chunk []byte) bool) {
	if !bytes.HasPrefix(data, []byte("\x89PNG\r\n\x1a\n")) {
		return
	}
	for at := 8; at+12 <= len(data); {
		size := int(binary.BigEndian.Uint32(data[at:]))
		if size < 0 || at+12+size > len(data) || !f(string(data[at+4:at+8]), data[at+8:at+8+size]) {
			return
		}
		at += 12 + size
	}
}
