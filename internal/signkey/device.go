package signkey

import (
	"bytes"
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/rsa"
	"encoding/asn1"
	"errors"
	"fmt"
	"io"
	"math/big"
	"os/exec"
	"strings"
	"time"
)

// patience is how long a program may take for a signature.
const patience = 30 * time.Second

// device signs with a key that a program has: the program is given what is to be signed at its standard input, and
// writes the signature to its standard output. For RSA that is a DigestInfo (RFC 8017, §9.2), what PKCS #11 calls the
// mechanism RSA-PKCS; for ECDSA the digest, whose signature is r and s side by side, as PKCS #11 has it, or in DER.
type device struct {
	command []string
	public  crypto.PublicKey
}

// Public is the key that the certificate tells.
func (d *device) Public() crypto.PublicKey { return d.public }

// Sign asks the program, and looks whether the signature is that of the certificate's key.
func (d *device) Sign(_ io.Reader, digest []byte, o crypto.SignerOpts) ([]byte, error) {
	if o.HashFunc() != crypto.SHA256 {
		return nil, fmt.Errorf("a program signs SHA-256, not %v", o.HashFunc())
	}
	switch key := d.public.(type) {
	case *rsa.PublicKey:
		signature, err := d.ask(append(bytes.Clone(digestInfo), digest...))
		if err != nil {
			return nil, err
		}
		if rsa.VerifyPKCS1v15(key, crypto.SHA256, digest, signature) != nil {
			return nil, d.wrong()
		}
		return signature, nil
	case *ecdsa.PublicKey:
		signature, err := d.ask(digest)
		if err != nil {
			return nil, err
		}
		if ecdsa.VerifyASN1(key, digest, signature) {
			return signature, nil
		}
		half := len(signature) / 2
		pair, err := asn1.Marshal(struct{ R, S *big.Int }{new(big.Int).SetBytes(signature[:half]), new(big.Int).SetBytes(signature[half:])})
		if err != nil || !ecdsa.VerifyASN1(key, digest, pair) {
			return nil, d.wrong()
		}
		return pair, nil
	}
	return nil, fmt.Errorf("a program does not sign with a key of the kind %T", d.public)
}

// digestInfo is what stands before a SHA-256 that RSA signs (RFC 8017, §9.2, note 1).
var digestInfo = []byte{0x30, 0x31, 0x30, 0x0D, 0x06, 0x09, 0x60, 0x86, 0x48, 0x01, 0x65, 0x03, 0x04, 0x02, 0x01, 0x05, 0x00, 0x04, 0x20}

func (d *device) wrong() error {
	return fmt.Errorf("what %s gave is no signature of the certificate's key: look which key it uses, and by which mechanism", d.command[0])
}

func (d *device) ask(input []byte) ([]byte, error) {
	if len(d.command) == 0 {
		return nil, errors.New("no program is named that has the key")
	}
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	c := exec.CommandContext(ctx, d.command[0], d.command[1:]...)
	c.Stdin = bytes.NewReader(input)
	var told strings.Builder
	c.Stderr = &told
	out, err := c.Output()
	switch {
	case ctx.Err() != nil:
		return nil, fmt.Errorf("%s did not sign within %v", d.command[0], patience)
	case err != nil:
		return nil, fmt.Errorf("%s did not sign: %w: %s", d.command[0], err, strings.TrimSpace(told.String()))
	}
	return out, nil
}
