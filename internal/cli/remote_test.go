package cli

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
)

// TestRemote does by commands what the console does, on a real service.
func TestRemote(t *testing.T) {
	t.Setenv("XDG_CONFIG_HOME", t.TempDir())
	data, dir := t.TempDir(), t.TempDir()
	s := servicetest.Start(t, data, func(c *service.Config) {
		c.DeliverFolder, c.DeliverHosts, c.WebhookSecret = filepath.Join(dir, "out"), []string{"127.0.0.1:9"}, "a secret"
	})
	olive := func(code int, args ...string) string {
		t.Helper()
		var out, errs bytes.Buffer
		got := Run(args, &out, &errs)
		require.Equal(t, code, got, "olive %s: %s%s", strings.Join(args, " "), out.String(), errs.String())
		return out.String() + errs.String()
	}
	at := func(name string) string { return filepath.Join(dir, name) }
	write := func(name, text string) string {
		require.NoError(t, os.MkdirAll(filepath.Dir(at(name)), 0o755))
		require.NoError(t, os.WriteFile(at(name), []byte(text), 0o644))
		return at(name)
	}
	write("card/page.html", "<h1>{{.name}}</h1>")
	write("card/template.yaml", "title: A card\nfilename: '{{.name}}.pdf'\n")

	assert.Contains(t, olive(2, "template", "list", "--data", "nowhere"), "a key is needed")
	assert.Contains(t, olive(2, "template", "list", "--data", data, "--server", "http://harbour.example"), "the key at hand is for "+s.URL+" and is not sent to http://harbour.example")
	olive(0, "template", "list", "--data", data)
	olive(0, "profile", "add", "default", "--server", s.URL, "--key", s.Key)
	assert.Contains(t, olive(2, "template", "list", "--server", "http://harbour.example"), "is not sent to http://harbour.example")
	olive(0, "template", "list", "--server", strings.Replace(s.URL, "127.0.0.1", "localhost", 1))
	assert.Contains(t, olive(0, "profile", "list"), s.URL)
	assert.Contains(t, olive(2, "template", "list", "--profile", "none"), "no profile")

	assert.Contains(t, olive(0, "setup"), "folder")
	assert.Contains(t, olive(0, "template", "push", at("card"), "--note", "first"), "card: version 1")
	write("card/page.html", "<h1>Dear {{.name}}</h1>")
	assert.Contains(t, olive(0, "template", "draft", at("card")), "draft 1")
	assert.Contains(t, olive(0, "template", "publish", "card", "--note", "kinder"), "version 2")
	assert.Contains(t, olive(0, "__complete", "template", "get", ""), "card\n")
	assert.Contains(t, olive(0, "template", "diff", "card", "1", "2"), "+<h1>Dear {{.name}}</h1>")
	assert.Contains(t, olive(0, "template", "versions", "card"), "kinder")
	assert.Contains(t, olive(0, "template", "get", "card", "--version", "1", "--to", at("old")), "2 files of version 1")
	old, err := os.ReadFile(at("old/page.html"))
	require.NoError(t, err)
	assert.Equal(t, "<h1>{{.name}}</h1>", string(old))
	assert.Contains(t, olive(1, "template", "diff", "card", "1", "9"), "404")

	serif := "../../demo/templates/mooring-invoice/fonts/source-serif-4-latin-700-normal.woff2"
	assert.Contains(t, olive(0, "font", "add", serif), "Source Serif 4 is there: 700")
	assert.Contains(t, olive(1, "font", "add", serif), "is there already")
	assert.Contains(t, olive(1, "font", "add", write("letter.ttf", "Dear harbour office")), "letter.ttf")
	assert.Contains(t, olive(0, "font", "list"), "Source Serif 4")
	olive(0, "font", "withdraw", "1")
	assert.NotContains(t, olive(0, "font", "list"), "Source Serif 4")
	assert.Contains(t, olive(1, "font", "withdraw", "1"), "404")

	people := write("people.csv", "Holder\nAda\nBo\n")
	assert.Contains(t, olive(0, "record-set", "import", people, "--preview", "--rename", "Holder=name"), `{"name":"Ada"}`)
	assert.Contains(t, olive(0, "record-set", "import", people, "--rename", "Holder=name"), "record set 1: people.csv, 2 records")
	assert.Contains(t, olive(0, "__complete", "record-set", "records", ""), "1\tpeople.csv\n")
	assert.Contains(t, olive(0, "record-set", "records", "1", "--search", "Bo"), "name Bo")
	assert.Contains(t, olive(0, "record-set", "add", "1", write("cy.json", `{"name":"Cy"}`)), "Cy")
	assert.Contains(t, olive(0, "record-set", "change", "1", "3", write("cy.json", `{"name":"Cyd"}`)), "Cyd")
	assert.Contains(t, olive(0, "record-set", "show", "1", "3"), "Cyd")
	assert.Contains(t, olive(2, "record-set", "show", "x", "3"), "record-set list")

	assert.Contains(t, olive(0, "series", "add", "cards", "--pattern", "C-{number:3}"), "C-{number:3} from 1")
	assert.Contains(t, olive(0, "series", "change", "1", "--next", "5"), "next 5")
	assert.Contains(t, olive(0, "document", "make", "card", "--set", "1", "--records", "1,2", "--series", "cards"), "C-005")
	assert.Contains(t, olive(1, "document", "make", "card", "--set", "1", "--records", "9"), "no such record")
	var list struct{ Items []map[string]any }
	require.NoError(t, json.Unmarshal([]byte(olive(0, "document", "list", "--state", "issued", "--json")), &list))
	assert.Len(t, list.Items, 2)
	assert.Contains(t, olive(0, "document", "show", "1"), "C-005")
	assert.Contains(t, olive(0, "document", "repeat", "1"), "the same")
	assert.Contains(t, olive(0, "document", "get", "1", "-o", at("one.pdf")), "one.pdf")
	assert.FileExists(t, at("one.pdf"))
	assert.Contains(t, olive(0, "document", "void", "2", "--reason", "a slip"), "void")
	assert.Contains(t, olive(0, "document", "history", "2"), "a slip")

	assert.Regexp(t, `1 +– +\S+\.pdf +1 `, olive(0, "batch", "try", "card", "--set", "1"))
	assert.Contains(t, olive(2, "batch", "try", "card"), "say which record set")
	assert.Contains(t, olive(0, "batch", "start", "card", "--set", "1", "--watch"), "3 documents made, 0 failed")
	assert.Contains(t, olive(0, "batch", "list"), "done")
	assert.Contains(t, olive(0, "batch", "items", "1", "--state", "done"), "3")
	assert.Contains(t, olive(1, "batch", "pause", "1"), "cannot be paused")
	olive(0, "batch", "get", "1", "--zip", at("all.zip"))
	olive(0, "batch", "get", "1", "--pdf", at("all.pdf"))
	assert.FileExists(t, at("all.zip"))
	assert.Contains(t, olive(2, "batch", "get", "1"), "--zip FILE")

	assert.Contains(t, olive(0, "delivery", "send", "1", "--by", "folder", "--to", "{{.name}}"), "delivery 1")
	assert.Contains(t, olive(1, "delivery", "send", "1", "--by", "mail", "--to", "a@b.example"), "no mail server")
	assert.Contains(t, olive(0, "delivery", "list"), "folder")
	assert.Contains(t, olive(1, "hook", "add", "https://books.example/"), "nothing may be sent to the host books.example")
	assert.Contains(t, olive(0, "hook", "add", "http://127.0.0.1:9/", "--events", "document.void"), "webhook 1 is told of document.void")
	assert.Regexp(t, `1 +told +http://127.0.0.1:9/ +document.void`, olive(0, "hook", "list"))
	assert.Contains(t, olive(0, "hook", "test", "1"), "waits for its turn")
	assert.Regexp(t, `hook.tested +–`, olive(0, "hook", "log", "1"))
	assert.Contains(t, olive(0, "hook", "pause", "1"), "webhook 1: paused")
	assert.Contains(t, olive(0, "hook", "resume", "1"), "webhook 1: told")
	assert.Contains(t, olive(1, "hook", "remove", "7"), "404")
	olive(0, "hook", "remove", "1")
	assert.NotContains(t, olive(0, "hook", "list"), "127.0.0.1")
	assert.Contains(t, olive(2, "hook", "pause", "x"), "olive hook list")
	assert.Contains(t, olive(0, "share", "make", "1", "--limit", "1"), s.URL+"/s/")
	olive(0, "share", "revoke", "1")
	assert.Contains(t, olive(0, "share", "list"), "true")
	assert.Contains(t, olive(0, "ledger", "verify"), "sound: 6 rows")
	assert.Contains(t, olive(0, "ledger", "list", "--document", "2"), "void")
	assert.Regexp(t, `(?s)^\{"row":\{"id":1,.*\{"head":\{"rows":6,`, olive(0, "ledger", "export", "-o", "-"))
	assert.Contains(t, olive(0, "ledger", "head", "-o", at("kept/head.pdf")), "head.pdf")
	assert.Contains(t, olive(0, "inspect", at("kept/head.pdf")), "The ledger on ")
	assert.Regexp(t, "^%PDF-", olive(0, "document", "get", "1", "-o", "-"))
	assert.Contains(t, olive(0, "key", "add", "cash desk", "--scopes", "read,issue", "--days", "30"), "read issue")
	olive(0, "key", "revoke", "2")
	assert.Contains(t, olive(0, "key", "list"), "cash desk")
	assert.Contains(t, olive(0, "person", "add", "--name", "Mara", "--email", "mara@harbour.example", "--role", "sender", "--password", "long enough"), "Mara, sender")
	assert.Contains(t, olive(0, "person", "change", "2", "--role", "reader"), "Mara, reader")
	assert.Contains(t, olive(0, "person", "list"), "mara@harbour.example")
	assert.Contains(t, olive(0, "event", "list", "--kind", "person"), "person.changed")

	assert.Contains(t, olive(0, "backup", "--data", data, "-o", at("backup.zip")), "4 files", "three documents, of which the same bytes are kept once, and a font")
	assert.Contains(t, olive(2, "backup", "--data", at("nowhere"), "-o", at("none.zip")), "there is no data folder")
	assert.Contains(t, olive(2, "sweep", "--data", at("nowhere")), "there is no data folder")
	assert.Contains(t, olive(0, "restore", at("backup.zip"), "--data", at("again")), "sound: 6 rows")
	assert.Contains(t, olive(1, "restore", at("backup.zip"), "--data", at("again")), "data already")
	st, err := os.Stat(at("backup.zip"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), st.Mode().Perm())
	require.NoError(t, os.WriteFile(at("pass"), []byte("lantern light\n"), 0o600))
	require.NoError(t, os.WriteFile(at("wrong"), []byte("other\n"), 0o600))
	olive(0, "backup", "--data", data, "-o", at("sealed"), "--passphrase-file", at("pass"))
	assert.Contains(t, olive(1, "restore", at("sealed"), "--data", at("fourth")), "the back-up is sealed")
	assert.Contains(t, olive(1, "restore", at("sealed"), "--data", at("fourth"), "--passphrase-file", at("wrong")), "does not open the back-up")
	sealed, err := os.ReadFile(at("sealed"))
	require.NoError(t, err)
	sealed[len(sealed)-100] ^= 1
	require.NoError(t, os.WriteFile(at("altered"), sealed, 0o600))
	assert.Contains(t, olive(1, "restore", at("altered"), "--data", at("fourth"), "--passphrase-file", at("pass")), "damaged")
	assert.Contains(t, olive(0, "restore", at("sealed"), "--data", at("fourth"), "--passphrase-file", at("pass")), "sound: 6 rows")
	assert.Contains(t, olive(1, "restore", at("one.pdf"), "--data", at("third")), "no back-up")
}

// TestSettings tells what is wrong with a configuration before anything starts.
func TestSettings(t *testing.T) {
	run := func(args ...string) string {
		var out, errs bytes.Buffer
		assert.Equal(t, 2, Run(append([]string{"serve", "--data", t.TempDir()}, args...), &out, &errs))
		return errs.String()
	}
	file := func(text string) string {
		name := filepath.Join(t.TempDir(), "olive.yaml")
		require.NoError(t, os.WriteFile(name, []byte(text), 0o600))
		return name
	}
	assert.Contains(t, run("--listen", "8470"), "not host:port")
	assert.Contains(t, run("--config", file("lisen: x")), `has "lisen", which is no option`)
	assert.Contains(t, run("--config", file("max-pages: many")), "max-pages in the configuration")
	assert.Contains(t, run("--config", "nowhere.yaml"), "cannot be read")
	assert.Contains(t, run("--deliver-host", "a.example"), "--webhook-secret")
	assert.Contains(t, run("--mail", "smtp://x"), "--mail-from")
	assert.Contains(t, run("--log", "loud"), "text or json")
	t.Setenv("OLIVE_MAX_TIME", "soon")
	assert.Contains(t, run(), "OLIVE_MAX_TIME")
}
