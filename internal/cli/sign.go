package cli

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/internal/signkey"
	"oliveledger/internal/timestamp"
	"oliveledger/typeset/sign"
)

// permissions are what --permits takes.
var permissions = []string{"anything", "nothing", "filling", "comments"}

// signing is what olive sign was asked for.
type signing struct {
	sign.Options
	out, key, passphraseFile, program, permits, stamps, roots, at string
	lasting                                                       bool
}

func signCommand() *cobra.Command {
	var s signing
	c := &cobra.Command{
		Use:   "sign FILE.pdf -o OUT.pdf --certificate OFFICE.p12",
		Short: "Sign a PDF with a certificate, and have an authority confirm when",
		Long: `Signs a PDF as ETSI's PAdES baseline has it: the signature is appended, and what it
is over stays as it is. It goes into a field that the page has for it
(data-signature="Harbour office" on any element, whose look is that of the
signature), or into one that is not seen. A file can be signed several times.

With --lasting the file also keeps what proves its signatures when their authorities
answer no more, under a time stamp. Without --certificate nothing is signed, and only
that is added: do so every few years, before the certificate of the last stamp ends.

A key in a smart card or a security module stays there: --key-program names the program
that asks it, which is given what is to be signed and writes the signature.

olive inspect tells whose signatures a file has, and whether they hold.`,
		Example: `  olive sign agreement.pdf -o signed.pdf --certificate office.p12 --passphrase-file passphrase.txt --field "Harbour office"
  olive sign invoice.pdf -o signed.pdf --certificate office.p12 --permits nothing --time-stamps https://stamps.example
  olive sign signed.pdf -o kept.pdf --lasting --time-stamps https://stamps.example
  olive sign invoice.pdf -o signed.pdf --certificate office.pem --key-program "pkcs11-tool --module /usr/lib/softhsm/libsofthsm2.so --sign --mechanism RSA-PKCS --id 01 --pin env:PIN"`,
		Args: exactly(1, "one PDF file"),
		RunE: func(c *cobra.Command, args []string) error { return s.run(c, args[0]) },
	}
	f := c.Flags()
	f.StringVarP(&s.out, "output", "o", "", "PDF file to write, - for standard output")
	f.StringVar(&s.key, "certificate", "", "file with the key and its certificates (PKCS #12: .p12, .pfx)")
	f.StringVar(&s.passphraseFile, "passphrase-file", "", "file whose first line is the passphrase of the key")
	f.StringVar(&s.program, "key-program", "", "program that has the key, with its arguments: --certificate then holds the certificates alone, in PEM")
	f.StringVar(&s.Field, "field", "", "signature field of the file (default: one that is not seen)")
	f.StringVar(&s.Reason, "reason", "", "why it is signed")
	f.StringVar(&s.Place, "place", "", "where it is signed")
	f.StringVar(&s.at, "date", "", "when it is signed, as the signature claims: 2026-05-31T09:30:00Z (default: now)")
	f.StringVar(&s.permits, "permits", permissions[0], "what may follow: "+strings.Join(permissions, ", ")+"; all but the first certify the file")
	f.StringVar(&s.stamps, "time-stamps", "", "address of a time-stamp server (RFC 3161) that confirms when it was signed")
	f.BoolVar(&s.lasting, "lasting", false, "keep in the file what proves its signatures years later: certificates, what is told of revoked ones, and a time stamp over it")
	f.StringVar(&s.roots, "time-stamp-roots", "", "file of the certificates, in PEM, that are trusted for time stamps (default: those of this machine)")
	return c
}

func (s *signing) run(c *cobra.Command, name string) error {
	if err := s.check(); err != nil {
		return err
	}
	data, err := os.ReadFile(name)
	if err != nil {
		return usage("%s cannot be read: %v", name, errors.Unwrap(err))
	}
	did := "what proves its signatures was added"
	if s.key != "" {
		k, err := s.openKey()
		if err != nil {
			return err
		}
		did = "signed by " + k.Name()
		if data, err = sign.Sign(c.Context(), data, k, s.Options); err != nil {
			return ofFile(name, err)
		}
	}
	if s.lasting {
		if data, err = sign.Lasting(c.Context(), data, timestamp.Fetch, s.Stamp); err != nil {
			return ofFile(name, err)
		}
	}
	tell, err := output{c.OutOrStdout(), c.ErrOrStderr()}.write(s.out, writing(data))
	if err == nil {
		fmt.Fprintf(tell, "%s: %s\n", s.out, did)
	}
	return err
}

// check reads the options that are not what the core takes as they stand.
func (s *signing) check() (err error) {
	if s.out == "" || s.key == "" && !s.lasting {
		return usage("-o names the PDF file to write, and --certificate the key that signs it")
	}
	if s.lasting && s.stamps == "" {
		return usage("--lasting needs --time-stamps, the server that confirms when what proves the signatures was there")
	}
	if s.Permission = sign.Permission(slices.Index(permissions, s.permits)); s.Permission < 0 {
		return usage("--permits is one of %s, not %q", strings.Join(permissions, ", "), s.permits)
	}
	if s.At, err = signedAt(s.at); err != nil || s.stamps == "" {
		return err
	}
	authority, err := timestamp.Open(s.stamps, s.roots)
	if err != nil {
		return usageError{err}
	}
	s.Stamp = authority.Stamp
	return nil
}

// ofFile tells which file cannot be signed, and whether what was asked for does not go with it.
func ofFile(name string, err error) error {
	if errors.Is(err, sign.ErrField) || errors.Is(err, sign.ErrUnsigned) {
		return usage("%s: %v", name, err)
	}
	return fmt.Errorf("%s: %w", name, err)
}

func signedAt(text string) (time.Time, error) {
	if text == "" {
		return time.Now(), nil
	}
	at, err := time.Parse(time.RFC3339, text)
	if err != nil {
		return at, usage("--date is a time such as 2026-05-31T09:30:00Z, not %q", text)
	}
	return at, nil
}

// openKey reads a key that signs.
func (s *signing) openKey() (*sign.Key, error) {
	passphrase, err := passphraseOf(s.passphraseFile)
	if err != nil {
		return nil, err
	}
	k, err := signkey.Open(s.key, passphrase, s.program)
	if err != nil {
		return nil, usage("the key %v", err)
	}
	return k, nil
}
