// Package signkey finds the key that signs documents: in a file, or in a device that a program speaks to, such as a
// smart card or a security module (PKCS #11).
package signkey

import (
	"crypto/x509"
	"encoding/pem"
	"errors"
	"fmt"
	"os"
	"strings"

	"oliveledger/typeset/sign"
)

// Open reads a key with its certificates. Without a program, the file holds both, in PKCS #12. With one, given with its
// arguments and spaces between them, the file holds the certificates alone, in PEM, the key's own first.
func Open(file, passphrase, program string) (*sign.Key, error) {
	raw, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read: %w", file, errors.Unwrap(err))
	}
	if program == "" {
		k, err := sign.OpenKey(raw, passphrase)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
		return k, nil
	}
	list, err := certificates(raw)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	k, err := sign.NewKey(&device{strings.Fields(program), list[0].PublicKey}, list[0], list[1:]...)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return k, nil
}

func certificates(raw []byte) (list []*x509.Certificate, err error) {
	for block, rest := pem.Decode(raw); block != nil; block, rest = pem.Decode(rest) {
		if block.Type != "CERTIFICATE" {
			continue
		}
		c, err := x509.ParseCertificate(block.Bytes)
		if err != nil {
			return nil, err
		}
		list = append(list, c)
	}
	if len(list) == 0 {
		return nil, errors.New("it holds no certificate in PEM, which a key that a program has needs")
	}
	return list, nil
}
