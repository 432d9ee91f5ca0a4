package cli

import (
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/internal/timestamp"
	"oliveledger/typeset/bind"
	"oliveledger/typeset/sign"
)

func inspectCommand() *cobra.Command {
	var password, trust string
	var asJSON, sizes bool
	c := &cobra.Command{
		Use:   "inspect FILE.pdf",
		Short: "Tell what is in a PDF: pages, fonts, tags, attachments, signatures",
		Example: `  olive inspect invoice.pdf --json
  olive inspect invoice.pdf --sizes`,
		Args: exactly(1, "one PDF file"),
		RunE: func(c *cobra.Command, args []string) error {
			data, err := os.ReadFile(args[0])
			if err != nil {
				return usage("%s cannot be read: %v", args[0], errors.Unwrap(err))
			}
			r, err := bind.Inspect(data, password)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			believed, err := trusted(trust)
			if err != nil {
				return usageError{err}
			}
			signed, err := sign.Signatures(data, password, believed)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			if sizes {
				return printSizes(c.OutOrStdout(), data, password, asJSON)
			}
			if asJSON {
				return writeJSON(c.OutOrStdout(), struct {
					*bind.Report
					Signatures []sign.Signature `json:"signatures"`
				}{r, signed})
			}
			if err := printReport(c.OutOrStdout(), r, len(data)); err != nil {
				return err
			}
			return printSignatures(c.OutOrStdout(), signed, len(data))
		},
	}
	c.Flags().StringVar(&trust, "trust", "", "file of the certificates, in PEM, that are trusted for signatures and time stamps (default: those of this machine)")
	c.Flags().StringVar(&password, "password", "", "password of the file")
	c.Flags().BoolVar(&sizes, "sizes", false, "tell what takes the bytes of the file instead")
	c.Flags().BoolVar(&asJSON, "json", false, "write JSON")
	return c
}

func printReport(out io.Writer, r *bind.Report, size int) error {
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	line := func(name, format string, args ...any) { fmt.Fprintf(w, "%s\t%s\n", name, fmt.Sprintf(format, args...)) }
	for _, x := range [][2]string{{"Title", r.Title}, {"Author", r.Author}, {"Subject", r.Subject}, {"Keywords", r.Keywords}, {"Created", r.Created}, {"Language", r.Language}} {
		if x[1] != "" {
			line(x[0], "%s", x[1])
		}
	}
	line("File", "PDF %s, %d bytes", r.Version, size)
	for i, s := range r.Sizes {
		name := ""
		if i == 0 {
			name = "Pages"
		}
		line(name, "%d of %.0f × %.0f mm", s.Pages, s.Width, s.Height)
	}
	yes := map[bool]string{true: "yes", false: "no"}
	line("Tagged", "%s", yes[r.Tagged])
	if len(r.Standards) > 0 {
		line("Claims", "%s", strings.Join(r.Standards, ", "))
	}
	line("Protected", "%s", yes[r.Encrypted])
	line("Outline", "%s", entries(r.Outline))
	if r.Fields > 0 {
		line("Form", "%s", plural(r.Fields, "field"))
	}
	for i, f := range r.Fonts {
		name := ""
		if i == 0 {
			name = "Fonts"
		}
		how := "not embedded"
		if f.Embedded {
			how = "embedded"
		}
		if f.Subset {
			how += ", subset"
		}
		line(name, "%s (%s, %s)", f.Name, f.Type, how)
	}
	for i, a := range r.Attachments {
		name := ""
		if i == 0 {
			name = "Carries"
		}
		line(name, "%s, %d bytes", a.Name, a.Size)
	}
	if r.Damaged {
		line("Damaged", "its table of objects was lost and has been made anew")
	}
	return w.Flush()
}

// printSizes tells what takes the bytes of a file.
func printSizes(out io.Writer, data []byte, password string, asJSON bool) error {
	parts, err := bind.Sizes(data, password)
	if err != nil {
		return err
	}
	if asJSON {
		return writeJSON(out, parts)
	}
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintf(w, "Bytes\tShare\tObjects\t  Of\n")
	for _, p := range parts {
		fmt.Fprintf(w, "%d\t%.1f %%\t%d\t  %s\n", p.Bytes, 100*float64(p.Bytes)/float64(len(data)), p.Objects, p.What)
	}
	fmt.Fprintf(w, "%d\t100.0 %%\t\t  the file\n", len(data))
	return w.Flush()
}

// trusted reads whose certificates are believed.
func trusted(file string) (sign.Trust, error) {
	roots, err := timestamp.Roots(file)
	return sign.Trust{Roots: roots, Stamp: func(token, data []byte) (time.Time, string, error) {
		t, err := timestamp.Read(token, data, roots)
		return t.At, t.By, err
	}}, err
}

// printSignatures tells of each signature: whether it holds, whose it is, and what is there besides what was signed.
func printSignatures(out io.Writer, list []sign.Signature, size int) error {
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	for _, s := range list {
		fmt.Fprintf(w, "\nSignature\t%s\n", s.Field)
		line := func(name, format string, args ...any) {
			fmt.Fprintf(w, "  %s\t%s\n", name, fmt.Sprintf(format, args...))
		}
		if s.Holds {
			line("holds", "yes")
		} else {
			line("holds", "NO: %s", s.Fault)
		}
		if s.Signer != "" {
			line("by", "%s", s.Signer)
			if s.Trusted {
				line("trusted", "yes, by %s", s.Issuer)
			} else {
				line("trusted", "no: %s", s.Doubt)
			}
		}
		for _, x := range [][2]string{{"says", s.At}, {"reason", s.Reason}, {"place", s.Place}} {
			if x[1] != "" {
				line(x[0], "%s", x[1])
			}
		}
		if s.Level != "" {
			line("level", "%s", s.Level)
		}
		if s.Stamp != nil {
			line("stamped", "%s by %s", s.Stamp.At.Format(time.RFC3339), s.Stamp.By)
		}
		switch {
		case s.Later != "":
			line("covers", "the first %d of %d bytes; since then %s", s.Covers, size, s.Later)
		case s.Covers > 0:
			line("covers", "the whole file")
		}
	}
	return w.Flush()
}

func entries(n int) string {
	if n == 1 {
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}
