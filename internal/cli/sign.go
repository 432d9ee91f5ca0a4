package cli

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/internal/timestamp"
	"oliveledger/typeset/sign"
)

// permissions are what --permits takes.
var permissions = []string{"anything", "nothing", "filling", "comments"}

func signCommand() *cobra.Command {
	var o sign.Options
	var out, key, passphraseFile, permits, stamps, roots, at string
	var lasting bool
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

olive inspect tells whose signatures a file has, and whether they hold.`,
		Example: `  olive sign agreement.pdf -o signed.pdf --certificate office.p12 --passphrase-file passphrase.txt --field "Harbour office"
  olive sign invoice.pdf -o signed.pdf --certificate office.p12 --permits nothing --time-stamps https://stamps.example
  olive sign signed.pdf -o kept.pdf --lasting --time-stamps https://stamps.example`,
		Args: exactly(1, "one PDF file"),
		RunE: func(c *cobra.Command, args []string) error {
			if out == "" || key == "" && !lasting {
				return usage("-o names the PDF file to write, and --certificate the key that signs it")
			}
			if lasting && stamps == "" {
				return usage("--lasting needs --time-stamps, the server that confirms when what proves the signatures was there")
			}
			data, err := os.ReadFile(args[0])
			if err != nil {
				return usage("%s cannot be read: %v", args[0], errors.Unwrap(err))
			}
			if o.Permission = sign.Permission(slices.Index(permissions, permits)); o.Permission < 0 {
				return usage("--permits is one of %s, not %q", strings.Join(permissions, ", "), permits)
			}
			if o.At, err = signedAt(at); err != nil {
				return err
			}
			if stamps != "" {
				authority, err := timestamp.Open(stamps, roots)
				if err != nil {
					return usageError{err}
				}
				o.Stamp = authority.Stamp
			}
			did := "what proves its signatures was added"
			if key != "" {
				k, err := openKey(key, passphraseFile)
				if err != nil {
					return err
				}
				did = "signed by " + k.Name()
				data, err = sign.Sign(c.Context(), data, k, o)
				if errors.Is(err, sign.ErrField) {
					return usage("%s: %v", args[0], err)
				}
				if err != nil {
					return fmt.Errorf("%s: %w", args[0], err)
				}
			}
			if lasting {
				if data, err = sign.Lasting(c.Context(), data, timestamp.Fetch, o.Stamp); errors.Is(err, sign.ErrUnsigned) {
					return usage("%s: %v", args[0], err)
				}
				if err != nil {
					return fmt.Errorf("%s: %w", args[0], err)
				}
			}
			tell, err := output{c.OutOrStdout(), c.ErrOrStderr()}.write(out, writing(data))
			if err == nil {
				fmt.Fprintf(tell, "%s: %s\n", out, did)
			}
			return err
		},
	}
	f := c.Flags()
	f.StringVarP(&out, "output", "o", "", "PDF file to write, - for standard output")
	f.StringVar(&key, "certificate", "", "file with the key and its certificates (PKCS #12: .p12, .pfx)")
	f.StringVar(&passphraseFile, "passphrase-file", "", "file whose first line is the passphrase of the key")
	f.StringVar(&o.Field, "field", "", "signature field of the file (default: one that is not seen)")
	f.StringVar(&o.Reason, "reason", "", "why it is signed")
	f.StringVar(&o.Place, "place", "", "where it is signed")
	f.StringVar(&at, "date", "", "when it is signed, as the signature claims: 2026-05-31T09:30:00Z (default: now)")
	f.StringVar(&permits, "permits", permissions[0], "what may follow: "+strings.Join(permissions, ", ")+"; all but the first certify the file")
	f.StringVar(&stamps, "time-stamps", "", "address of a time-stamp server (RFC 3161) that confirms when it was signed")
	f.BoolVar(&lasting, "lasting", false, "keep in the file what proves its signatures years later: certificates, what is told of revoked ones, and a time stamp over it")
	f.StringVar(&roots, "time-stamp-roots", "", "file of the certificates, in PEM, that are trusted for time stamps (default: those of this machine)")
	return c
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
func openKey(file, passphraseFile string) (*sign.Key, error) {
	passphrase, err := passphraseOf(passphraseFile)
	if err != nil {
		return nil, err
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		return nil, usage("the key %s cannot be read: %v", file, errors.Unwrap(err))
	}
	k, err := sign.OpenKey(raw, passphrase)
	if err != nil {
		return nil, usage("the key %s: %v", file, err)
	}
	return k, nil
}
