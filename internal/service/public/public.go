// Package public makes the pages for those who have no log-in: whether a document is genuine, and that a link leads
// nowhere. They speak the visitor's language, and work without scripts.
package public

import (
	"bytes"
	"embed"
	"html/template"
	"io/fs"
	"net/http"
	"time"

	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"oliveledger/merge/cldr"
)

// Verdict is what is told of a document. It shows no contents.
type Verdict struct {
	State  State
	Why    string // a link leads nowhere, in English
	Number string
	Issued time.Time
	Pages  int
	SHA256 string
	Signed []Signer
}

// Signer is who has signed a document.
type Signer struct {
	Name  string // the subject of the certificate
	Holds bool   // what was signed is as it was then
}

// State is what a document is worth.
type State int

// States of documents.
const (
	Unknown State = iota // no document has this code
	Genuine
	Void
	Ended // a link leads nowhere
)

//go:embed page.html
var source string

//go:embed verdict.css verdict.js
var files embed.FS

var page = template.Must(template.New("verdict").Parse(source))

// Files are the style and the script of the pages.
func Files() fs.FS { return files }

// Page writes a verdict in the language that a request accepts best.
func Page(v Verdict, r *http.Request) ([]byte, error) {
	tag, _, _ := matcher.Match(accepted(r)...)
	say := message.NewPrinter(tag, message.Catalog(words))
	data := view{Verdict: v, say: say, tag: tag}
	var out bytes.Buffer
	err := page.Execute(&out, data)
	return out.Bytes(), err
}

func accepted(r *http.Request) []language.Tag {
	tags, _, err := language.ParseAcceptLanguage(r.Header.Get("Accept-Language"))
	if err != nil {
		return nil
	}
	return tags
}

// view is a verdict in a language.
type view struct {
	Verdict
	say *message.Printer
	tag language.Tag
}

// Say is a text in the visitor's language.
func (v view) Say(text string, args ...any) string { return v.say.Sprintf(text, args...) }

// Lang is the page's language.
func (v view) Lang() string { return v.tag.String() }

// Day is when the document was issued.
func (v view) Day() string {
	locale, _ := cldr.Find(v.tag)
	return v.say.Sprintf("%d %s %s", v.Issued.Day(), locale.Months[v.Issued.Month()-1], v.Issued.Format("2006"))
}

// Class names the look of the verdict.
func (v view) Class() string { return [...]string{"none", "good", "void", "none"}[v.State] }

// Title is that of the page.
func (v view) Title() string { return v.Say(texts[v.State].title) }

// Head is the verdict in a few words.
func (v view) Head() string { return v.Say(texts[v.State].head) }

// Text explains it.
func (v view) Text() string {
	if v.State == Ended {
		return v.Say("Sorry: %s. Ask whoever sent it for another one.", v.Say(v.Why))
	}
	return v.Say(texts[v.State].text)
}

// Known tells whether there is a document to tell of.
func (v view) Known() bool { return v.State == Genuine || v.State == Void }
