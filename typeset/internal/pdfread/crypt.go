package pdfread

import (
	"bytes"
	"crypto/aes"
	"crypto/cipher"
	"crypto/md5"
	"crypto/rc4"
	"crypto/sha256"
	"encoding/binary"
	"errors"

	"oliveledger/typeset/internal/pdf"
)

// crypt undoes the encryption of the standard security handler (§7.6.3).
type crypt struct {
	key      []byte
	aes, v5  bool
	identity bool
	metadata bool
}

var padding = []byte{
	0x28, 0xBF, 0x4E, 0x5E, 0x4E, 0x75, 0x8A, 0x41, 0x64, 0x00, 0x4E, 0x56, 0xFF, 0xFA, 0x01, 0x08,
	0x2E, 0x2E, 0x00, 0xB6, 0xD0, 0x68, 0x3E, 0x80, 0x2F, 0x0C, 0xA9, 0xFE, 0x64, 0x53, 0x69, 0x7A,
}

// unlock finds the key with a password.
func (f *File) unlock(password string) error {
	if f.Trailer["Encrypt"] == nil {
		return nil
	}
	d := f.Dict(f.Trailer["Encrypt"])
	if d == nil || d["Filter"] != Name("Standard") {
		return errors.New("the file is protected in a way that is not read here")
	}
	number := func(key Name) int { return int(f.Number(d[key])) }
	str := func(key Name) []byte {
		s, _ := f.Resolve(d[key]).(String)
		return s
	}
	c := &crypt{metadata: f.Resolve(d["EncryptMetadata"]) != false}
	v, r := number("V"), number("R")
	if v >= 4 {
		filter, _ := f.Resolve(d["StmF"]).(Name)
		method := f.Dict(f.Dict(d["CF"])[filter])["CFM"]
		c.aes = method == Name("AESV2") || method == Name("AESV3")
		c.identity = filter == "Identity" || filter == ""
	}
	switch {
	case v == 5:
		c.v5 = true
		c.key = keyV5([]byte(password), str("U"), str("UE"), str("O"), str("OE"), r)
	case v == 1 || v == 2 || v == 4:
		n := 5
		if r >= 3 {
			n = min(max(number("Length")/8, 5), 16)
			if v == 4 {
				n = 16
			}
		}
		id := []byte{}
		if a, ok := f.Resolve(f.Trailer["ID"]).(Array); ok && len(a) > 0 {
			s, _ := f.Resolve(a[0]).(String)
			id = s
		}
		c.key = c.oldKey([]byte(password), str("O"), str("U"), id, uint32(int32(f.Number(d["P"]))), r, n)
	default:
		return errors.New("the file is protected in a way that is not read here")
	}
	if c.key == nil {
		return ErrPassword
	}
	f.crypt = c
	encrypt, _ := f.Trailer["Encrypt"].(Ref)
	f.objects, f.packs = map[int]Object{}, map[int]*pack{}
	if encrypt.Num != 0 { // its own strings are not encrypted
		f.objects[encrypt.Num] = d
	}
	if f.Rebuilt {
		var streams []int
		for num := range f.places {
			if s, ok := f.load(num).(*Stream); ok && s.Dict["Type"] == Name("ObjStm") {
				streams = append(streams, num)
			}
		}
		f.unpackAll(streams)
	}
	return nil
}

// keyV5 tries a password as the reader's and as the owner's (algorithm 2.A).
func keyV5(password, u, ue, o, oe []byte, revision int) []byte {
	if len(u) < 48 || len(o) < 48 || len(ue) < 32 || len(oe) < 32 {
		return nil
	}
	password = password[:min(len(password), 127)]
	hash := func(salt, udata []byte) []byte {
		if revision == 5 {
			h := sha256.Sum256(bytes.Join([][]byte{password, salt, udata}, nil))
			return h[:]
		}
		return pdf.Hash2B(password, salt, udata)
	}
	unwrap := func(key, data []byte) []byte {
		out := make([]byte, 32)
		b, err := aes.NewCipher(key)
		if err != nil {
			return nil
		}
		cipher.NewCBCDecrypter(b, make([]byte, 16)).CryptBlocks(out, data[:32])
		return out
	}
	if bytes.Equal(hash(u[32:40], nil), u[:32]) {
		return unwrap(hash(u[40:48], nil), ue)
	}
	if bytes.Equal(hash(o[32:40], u[:48]), o[:32]) {
		return unwrap(hash(o[40:48], u[:48]), oe)
	}
	return nil
}

// oldKey is algorithm 2, checked by algorithms 6 and 7.
func (c *crypt) oldKey(password, o, u, id []byte, p uint32, r, n int) []byte {
	if len(o) < 32 || len(u) < 32 {
		return nil
	}
	try := func(password []byte) []byte {
		h := md5.New()
		h.Write(append(bytes.Clone(password[:min(len(password), 32)]), padding...)[:32])
		h.Write(o[:32])
		h.Write(binary.LittleEndian.AppendUint32(nil, p))
		h.Write(id)
		if r >= 4 && !c.metadata {
			h.Write([]byte{0xFF, 0xFF, 0xFF, 0xFF})
		}
		key := h.Sum(nil)
		if r >= 3 {
			for range 50 {
				s := md5.Sum(key[:n])
				key = s[:]
			}
		}
		key = key[:n]
		if r == 2 {
			if bytes.Equal(stir(key, padding), u[:32]) {
				return key
			}
			return nil
		}
		s := md5.Sum(append(bytes.Clone(padding), id...))
		x := s[:]
		for i := range 20 {
			x = stir(xored(key, byte(i)), x)
		}
		if bytes.Equal(x, u[:16]) {
			return key
		}
		return nil
	}
	if key := try(password); key != nil {
		return key
	}
	// as the owner's password: it gives back the reader's
	s := md5.Sum(append(bytes.Clone(password[:min(len(password), 32)]), padding...)[:32])
	k := s[:]
	if r >= 3 {
		for range 50 {
			s := md5.Sum(k)
			k = s[:]
		}
	}
	k = k[:n]
	reader := bytes.Clone(o[:32])
	if r == 2 {
		reader = stir(k, reader)
	} else {
		for i := 19; i >= 0; i-- {
			reader = stir(xored(k, byte(i)), reader)
		}
	}
	return try(reader)
}

func stir(key, data []byte) []byte {
	out := make([]byte, len(data))
	c, err := rc4.NewCipher(key)
	if err != nil {
		return out
	}
	c.XORKeyStream(out, data)
	return out
}

func xored(key []byte, v byte) []byte {
	out := make([]byte, len(key))
	for i := range key {
		out[i] = key[i] ^ v
	}
	return out
}

// open decrypts the strings and the data of an object.
func (c *crypt) open(o Object, num, gen int) Object {
	if c == nil || c.identity {
		return o
	}
	switch v := o.(type) {
	case String:
		return String(c.decrypt(v, num, gen))
	case Array:
		for i := range v {
			v[i] = c.open(v[i], num, gen)
		}
	case Dict:
		for k := range v {
			v[k] = c.open(v[k], num, gen)
		}
	case *Stream:
		if v.Dict["Type"] == Name("XRef") || v.Dict["Type"] == Name("Metadata") && !c.metadata {
			return v
		}
		c.open(v.Dict, num, gen)
		v.Raw = c.decrypt(v.Raw, num, gen)
	}
	return o
}

// decrypt is algorithm 1, or 1.A for AES-256.
func (c *crypt) decrypt(data []byte, num, gen int) []byte {
	key := c.key
	if !c.v5 {
		k := append(bytes.Clone(c.key), byte(num), byte(num>>8), byte(num>>16), byte(gen), byte(gen>>8))
		if c.aes {
			k = append(k, "sAlT"...)
		}
		s := md5.Sum(k)
		key = s[:min(len(c.key)+5, 16)]
	}
	if !c.aes && !c.v5 {
		return stir(key, data)
	}
	if len(data) < 32 || len(data)%16 != 0 {
		return nil
	}
	b, err := aes.NewCipher(key)
	if err != nil {
		return nil
	}
	out := make([]byte, len(data)-16)
	cipher.NewCBCDecrypter(b, data[:16]).CryptBlocks(out, data[16:])
	if pad := int(out[len(out)-1]); pad >= 1 && pad <= 16 {
		out = out[:len(out)-pad]
	}
	return out
}
