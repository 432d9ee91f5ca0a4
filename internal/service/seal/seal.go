// Package seal signs the heads of the ledger with a key that is kept outside of the database. Who can
// write to the database can make a chain of rows whose checksums fit, but not the signatures; and what
// was signed is also kept in a file beside the key, so that signatures cannot be dropped in silence.
package seal

import (
	"bufio"
	"crypto/ed25519"
	"crypto/rand"
	"crypto/x509"
	"encoding/base64"
	"encoding/json"
	"encoding/pem"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"oliveledger/internal/service/clock"
)

// Head is the end of the ledger at a moment, signed.
type Head struct {
	Rows      uint64 `json:"rows"`
	Checksum  string `json:"checksum"` // of the last row
	At        string `json:"at"`       // RFC 3339
	Key       string `json:"key"`      // public, base64
	Signature string `json:"signature"`
}

// Text is what is signed.
func (h Head) Text() []byte {
	return fmt.Appendf(nil, "olive-ledger head\n%d\n%s\n%s\n", h.Rows, h.Checksum, h.At)
}

// Holds tells whether the signature is that of the key.
func (h Head) Holds() bool {
	key, err := base64.StdEncoding.DecodeString(h.Key)
	if err != nil || len(key) != ed25519.PublicKeySize {
		return false
	}
	signature, err := base64.StdEncoding.DecodeString(h.Signature)
	return err == nil && ed25519.Verify(key, h.Text(), signature)
}

// Seal is a key with the heads that it has signed.
type Seal struct {
	key  ed25519.PrivateKey
	old  []string // public keys that heads were signed with before
	file string   // one head a line, as JSON
	mu   sync.Mutex
}

// Names of the files in a data folder.
const (
	KeyFile   = "ledger-key.pem"
	HeadsFile = "ledger-heads.ndjson"
	OldKeys   = "ledger-keys.txt" // public keys from before, one a line
)

// Open reads the key from a file; an empty name stands for the one in the data folder, which is made
// when it is not there. Services that share a database share a key.
func Open(data, keyFile string) (*Seal, error) {
	made := keyFile == ""
	if made {
		keyFile = filepath.Join(data, KeyFile)
	}
	raw, err := os.ReadFile(keyFile)
	if made && errors.Is(err, os.ErrNotExist) {
		raw, err = newKey(keyFile)
	}
	if err != nil {
		return nil, fmt.Errorf("the key that signs the ledger cannot be read: %w", err)
	}
	block, _ := pem.Decode(raw)
	if block == nil {
		return nil, fmt.Errorf("%s holds no key in PEM", keyFile)
	}
	parsed, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return nil, fmt.Errorf("%s holds no private key (PKCS #8): %w", keyFile, err)
	}
	key, ok := parsed.(ed25519.PrivateKey)
	if !ok {
		return nil, fmt.Errorf("%s holds a key of another kind; one for Ed25519 is wanted: openssl genpkey -algorithm ed25519", keyFile)
	}
	old, err := os.ReadFile(filepath.Join(data, OldKeys))
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return nil, err
	}
	return &Seal{key: key, old: strings.Fields(string(old)), file: filepath.Join(data, HeadsFile)}, nil
}

// newKey makes a key that only we can read.
func newKey(file string) ([]byte, error) {
	_, key, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return nil, err
	}
	der, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, err
	}
	raw := pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der})
	return raw, os.WriteFile(file, raw, 0o600)
}

// Key is the public key, base64.
func (s *Seal) Key() string {
	return base64.StdEncoding.EncodeToString(s.key.Public().(ed25519.PublicKey))
}

// Trusts tells whether a public key is this one, or one that was used before it.
func (s *Seal) Trusts(key string) bool { return key == s.Key() || slices.Contains(s.old, key) }

// Sign signs a head and keeps it in the file.
func (s *Seal) Sign(rows uint64, checksum string) (Head, error) {
	h := Head{Rows: rows, Checksum: checksum, At: clock.Now().Format(time.RFC3339), Key: s.Key()}
	h.Signature = base64.StdEncoding.EncodeToString(ed25519.Sign(s.key, h.Text()))
	line, err := json.Marshal(h)
	if err != nil {
		return h, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	f, err := os.OpenFile(s.file, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return h, err
	}
	_, err = f.Write(append(line, '\n'))
	return h, errors.Join(err, f.Sync(), f.Close())
}

// Each visits the heads of the file. A last line that was cut off is passed over.
func (s *Seal) Each(visit func(Head) error) error {
	f, err := os.Open(s.file)
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	defer f.Close()
	lines := bufio.NewScanner(f)
	for lines.Scan() {
		var h Head
		if json.Unmarshal(lines.Bytes(), &h) != nil {
			continue
		}
		if err := visit(h); err != nil {
			return err
		}
	}
	return lines.Err()
}
