package cli

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"oliveledger/client"
	"oliveledger/internal/service"
)

// remote is how commands reach a service, and how they print.
type remote struct {
	server, key, data, profile string
	json                       bool
	out, errs                  io.Writer
	*client.Client
}

// flags adds the options that all commands of a group share.
func (r *remote) flags(c *cobra.Command) *cobra.Command {
	f := c.PersistentFlags()
	f.StringVar(&r.server, "server", "", "address of the service (or OLIVE_SERVER; default: the profile's, or http://"+DefaultAddress+")")
	f.StringVar(&r.key, "key", "", "key for the service (or OLIVE_KEY; default: the profile's, or the first key in --data)")
	f.StringVar(&r.data, "data", "data", "data folder of a service on this machine, to find its first key")
	f.StringVar(&r.profile, "profile", os.Getenv("OLIVE_PROFILE"), "server and key under this name (or OLIVE_PROFILE); see “olive profile”")
	f.BoolVar(&r.json, "json", false, "print JSON")
	return c
}

// connect finds out which service and key to use.
func (r *remote) connect(c *cobra.Command) error {
	r.out, r.errs = c.OutOrStdout(), c.ErrOrStderr()
	p, err := profileNamed(r.profile)
	if err != nil {
		return err
	}
	asked := firstOf(r.server, os.Getenv("OLIVE_SERVER"))
	key, home := firstOf(r.key, os.Getenv("OLIVE_KEY")), "" // where a key that was kept is meant for
	if key == "" {
		if key, home, err = r.kept(p); err != nil {
			return err
		}
		if asked != "" && !sameServer(asked, home) {
			return usage("the key at hand is for %s and is not sent to %s: give the key for that with --key or OLIVE_KEY", firstOf(home, "the service of the data folder "+r.data), asked)
		}
	}
	r.Client = client.New(firstOf(asked, home, p.Server, "http://"+DefaultAddress), key)
	return nil
}

// kept is the key of the profile, or the first one of the service on this machine, and
// the address that it is for.
func (r *remote) kept(p profile) (key, server string, err error) {
	if p.Key != "" {
		return p.Key, p.Server, nil
	}
	raw, err := os.ReadFile(filepath.Join(r.data, service.FirstLogin))
	if err != nil {
		return "", "", usage("a key is needed: give --key, set OLIVE_KEY, keep one with “olive profile add”, or point --data at the service's data folder")
	}
	for line := range strings.SplitSeq(string(raw), "\n") {
		if v, ok := strings.CutPrefix(line, "key: "); ok {
			key = strings.TrimSpace(v)
		}
	}
	address, err := os.ReadFile(filepath.Join(r.data, service.AddressFile))
	if err != nil {
		return "", "", usage("the service of the data folder %s has not run yet; start it with “olive serve --data %s”", r.data, r.data)
	}
	return key, strings.TrimSpace(string(address)), nil
}

// sameServer tells whether two addresses lead to the same service.
func sameServer(a, b string) bool {
	plain := func(s string) string {
		u, err := url.Parse(strings.TrimRight(s, "/"))
		if err != nil {
			return s
		}
		host := u.Hostname()
		if ip := net.ParseIP(host); host == "localhost" || ip != nil && (ip.IsLoopback() || ip.IsUnspecified()) {
			host = "localhost"
		}
		return u.Scheme + "://" + net.JoinHostPort(host, u.Port()) + u.Path
	}
	return plain(a) == plain(b)
}

func firstOf(list ...string) string {
	for _, v := range list {
		if v != "" {
			return v
		}
	}
	return ""
}

// group makes a command that holds others about one kind of thing.
func group(use, short string, add func(r *remote) []*cobra.Command) *cobra.Command {
	r := &remote{}
	c := &cobra.Command{Use: use, Short: short}
	for _, sub := range add(r) {
		r.complete(use, sub)
		c.AddCommand(sub)
	}
	return r.flags(c)
}

// command makes one command of a group. It takes as many arguments as its use
// names in capitals.
func (r *remote) command(use, short string, run func(ctx context.Context, args []string) error) *cobra.Command {
	names := strings.Fields(use)[1:]
	return &cobra.Command{Use: use, Short: short, Args: exactly(len(names), strings.ToLower(strings.Join(names, " and "))), RunE: func(c *cobra.Command, args []string) error {
		if err := r.connect(c); err != nil {
			return err
		}
		return run(c.Context(), args)
	}}
}

// print writes v as JSON when asked, else lets table write it.
func (r *remote) print(v any, table func(w *tabwriter.Writer)) error {
	if r.json {
		enc := json.NewEncoder(r.out)
		enc.SetIndent("", "  ")
		return enc.Encode(v)
	}
	w := tabwriter.NewWriter(r.out, 0, 4, 2, ' ', 0)
	table(w)
	return w.Flush()
}

// rows prints a list as a table under a heading.
func rows[T any](r *remote, l client.List[T], heading string, row func(T) []any) error {
	return r.print(l, func(w *tabwriter.Writer) {
		fmt.Fprintln(w, strings.ReplaceAll(heading, " | ", "\t"))
		for _, x := range l.Items {
			cells := row(x)
			for i, c := range cells {
				if i > 0 {
					fmt.Fprint(w, "\t")
				}
				fmt.Fprint(w, c)
			}
			fmt.Fprintln(w)
		}
		if l.Total > len(l.Items) {
			fmt.Fprintf(w, "%d of %d\n", len(l.Items), l.Total)
		}
	})
}

// said prints a sentence, or v as JSON.
func (r *remote) said(v any, format string, args ...any) error {
	return r.print(v, func(w *tabwriter.Writer) { fmt.Fprintf(w, format+"\n", args...) })
}

// listing adds the options of commands that list.
func listing(c *cobra.Command, f *client.Find, filters ...string) *cobra.Command {
	fl := c.Flags()
	fl.IntVar(&f.Limit, "limit", 50, "how many to list")
	fl.IntVar(&f.Offset, "offset", 0, "how many to pass over")
	fl.IntVar(&f.After, "after", 0, "list what comes after the row of this number, in lists that are sorted by it: quicker than --offset far down")
	fl.StringVar(&f.Sort, "sort", "", "field to sort by, with - before it for the other way round")
	f.Filter = map[string]string{}
	for _, name := range filters {
		if name == "search" {
			fl.StringVar(&f.Search, "search", "", "text that is looked for")
			continue
		}
		fl.Var(filterValue{f.Filter, name}, name, "only those of this "+name)
	}
	return c
}

// filterValue keeps an option in a map.
type filterValue struct {
	to   map[string]string
	name string
}

func (v filterValue) String() string { return "" }
func (v filterValue) Type() string   { return "string" }
func (v filterValue) Set(s string) error {
	v.to[v.name] = s
	return nil
}

// number reads an argument that is a number; list is the command that tells it.
func number(arg, what, list string) (uint64, error) {
	n, err := strconv.ParseUint(arg, 10, 63)
	if err != nil {
		return 0, usage("%q is not the number of a %s; “%s” lists them", arg, what, list)
	}
	return n, nil
}

func day(t time.Time) string { return t.Local().Format("2006-01-02 15:04") }

func dayOf(t *time.Time) string {
	if t == nil {
		return "–"
	}
	return day(*t)
}

func kb(n int) int { return (n + 1023) / 1024 }

// save writes data to a file, or to standard output for -.
func (r *remote) save(name string, write func(io.Writer) error) error {
	if _, err := (output{r.out, r.errs}).write(name, write); err != nil || name == standardOutput {
		return err
	}
	return r.said(struct {
		File string `json:"file"`
	}{name}, "%s", name)
}
