package pdf

import (
	"bytes"
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"crypto/sha256"
	"crypto/sha512"
	"encoding/binary"
	"errors"
	"fmt"
)

// Protection encrypts a document with AES-256 (ISO 32000-2, §7.6).
type Protection struct {
	Open  string // password for reading; empty opens without asking
	Owner string // password for everything
	Print bool   // what readers may do without the owner's password
	Copy  bool
	Edit  bool
	Fill  bool // form fields
}

// sealed holds the keys of a protected document.
type sealed struct {
	key        []byte
	u, ue      []byte
	o, oe      []byte
	perms      []byte
	permission int32
}

// Protect encrypts all that follows; call it before the first page. The keys
// are drawn at random, so that two runs give different bytes.
func (w *Writer) Protect(p Protection) error {
	if len(p.Open) > 127 || len(p.Owner) > 127 {
		return errors.New("a password of a PDF has at most 127 bytes")
	}
	s := &sealed{key: random(32)}
	if p.Owner == "" { // nobody has it: the permissions cannot be lifted
		p.Owner = string(random(32))
	}
	seal := func(password string, udata []byte) (verify, wrapped []byte) {
		salt := random(16)
		verify = append(Hash2B([]byte(password), salt[:8], udata), salt...)
		return verify, cbc(Hash2B([]byte(password), salt[8:], udata), make([]byte, 16), s.key)
	}
	s.u, s.ue = seal(p.Open, nil)
	s.o, s.oe = seal(p.Owner, s.u)
	s.permission = permission(p)
	plain := binary.LittleEndian.AppendUint32(nil, uint32(s.permission))
	plain = append(plain, 0xFF, 0xFF, 0xFF, 0xFF, 'T', 'a', 'd', 'b')
	plain = append(plain, random(4)...)
	s.perms = make([]byte, 16)
	block(s.key).Encrypt(s.perms, plain)
	w.sealed = s
	return nil
}

// permission is the P entry (table 22): reading aloud is always allowed.
func permission(p Protection) int32 {
	bits := uint32(0xFFFFF0C0) | 1<<9
	for _, x := range []struct {
		allowed bool
		bits    uint32
	}{{p.Print, 1<<2 | 1<<11}, {p.Copy, 1 << 4}, {p.Edit, 1<<3 | 1<<5 | 1<<10}, {p.Fill || p.Edit, 1 << 8}} {
		if x.allowed {
			bits |= x.bits
		}
	}
	return int32(bits)
}

func random(n int) []byte {
	b := make([]byte, n)
	if _, err := rand.Read(b); err != nil { // documented never to fail
		panic(err)
	}
	return b
}

func block(key []byte) cipher.Block {
	b, err := aes.NewCipher(key)
	if err != nil { // keys have 16 or 32 bytes
		panic(err)
	}
	return b
}

func cbc(key, iv, data []byte) []byte {
	out := make([]byte, len(data))
	cipher.NewCBCEncrypter(block(key), iv).CryptBlocks(out, data)
	return out
}

// Hash2B is algorithm 2.B of ISO 32000-2: a hash that is slow on purpose.
func Hash2B(password, salt, udata []byte) []byte {
	first := sha256.Sum256(bytes.Join([][]byte{password, salt, udata}, nil))
	k := first[:]
	for i := 0; ; i++ {
		k1 := bytes.Repeat(bytes.Join([][]byte{password, k, udata}, nil), 64)
		e := cbc(k[:16], k[16:32], k1)
		sum := 0
		for _, b := range e[:16] {
			sum += int(b)
		}
		switch sum % 3 {
		case 0:
			h := sha256.Sum256(e)
			k = h[:]
		case 1:
			h := sha512.Sum384(e)
			k = h[:]
		default:
			h := sha512.Sum512(e)
			k = h[:]
		}
		if i >= 63 && int(e[len(e)-1]) <= i+1-32 {
			return k[:32]
		}
	}
}

// encrypt seals the data of a stream (algorithm 1.A).
func (s *sealed) encrypt(data []byte) []byte {
	pad := 16 - len(data)%16
	data = append(bytes.Clone(data), bytes.Repeat([]byte{byte(pad)}, pad)...)
	iv := random(16)
	return append(iv, cbc(s.key, iv, data)...)
}

// dict is the encryption dictionary.
func (s *sealed) dict() string {
	return fmt.Sprintf("<</Filter/Standard/V 5/R 6/Length 256/P %d/U<%X>/UE<%X>/O<%X>/OE<%X>/Perms<%X>/EncryptMetadata true/CF<</StdCF<</AuthEvent/DocOpen/CFM/AESV3/Length 32>>>>/StmF/StdCF/StrF/StdCF>>",
		s.permission, s.u, s.ue, s.o, s.oe, s.perms)
}
