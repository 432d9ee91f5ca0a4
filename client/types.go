package client

import (
	"encoding/json"
	"time"

	"oliveledger/typeset"
)

// Caller is who a key belongs to and what they may do.
type Caller struct {
	Email  string   `json:"email"`
	Name   string   `json:"name"`
	Scopes []string `json:"scopes"`
}

// Setup is what the service is set up for.
type Setup struct {
	Public   string   `json:"public"`
	Ways     []string `json:"ways"`
	Hosts    []string `json:"hosts"`
	MaxPages int      `json:"maxPages"`
	Seconds  int      `json:"seconds"`
	AtOnce   int      `json:"atOnce"`
}

// Template names a template and one of its versions.
type Template struct {
	Name    string    `json:"name"`
	Title   string    `json:"title"`
	Version int       `json:"version,omitempty"`
	Latest  int       `json:"latest,omitempty"`
	Updated time.Time `json:"updated,omitzero"`
}

// File is a file of a template: its text, or its bytes.
type File struct {
	Text   *string `json:"text,omitempty"`
	Base64 []byte  `json:"base64,omitempty"`
}

// Bytes of the file.
func (f File) Bytes() []byte {
	if f.Text != nil {
		return []byte(*f.Text)
	}
	return f.Base64
}

// TemplateFiles is a version or draft with its files.
type TemplateFiles struct {
	Name     string          `json:"name"`
	Title    string          `json:"title"`
	Latest   int             `json:"latest"`
	Version  int             `json:"version"`
	Revision int             `json:"revision"`
	Note     string          `json:"note"`
	Author   string          `json:"author"`
	Created  time.Time       `json:"created"`
	Files    map[string]File `json:"files"`
	Fields   []string        `json:"fields"`
	Fault    string          `json:"fault,omitempty"`
}

// Version is a published state of a template.
type Version struct {
	Number  int       `json:"number"`
	Note    string    `json:"note"`
	Author  string    `json:"author"`
	Created time.Time `json:"created"`
}

// FileDifference is how one file differs between two versions.
type FileDifference struct {
	Path   string `json:"path"`
	Change string `json:"change"`
	Lines  string `json:"lines,omitempty"`
}

// RecordSet is a set of records.
type RecordSet struct {
	ID      uint64    `json:"id"`
	Name    string    `json:"name"`
	Count   int       `json:"count"`
	Author  string    `json:"author"`
	Created time.Time `json:"created"`
}

// Imported tells of an import.
type Imported struct {
	RecordSet
	Bad     []string          `json:"bad"`
	Notes   []string          `json:"notes"`
	Preview []json.RawMessage `json:"preview,omitempty"`
}

// Record is one record of a set.
type Record struct {
	Number   int             `json:"number"`
	Label    string          `json:"label"`
	Revision int             `json:"revision"`
	Data     json.RawMessage `json:"data"`
	Fault    string          `json:"fault,omitempty"`
}

// Rendering is what is to be set at once.
type Rendering struct {
	HTML      string          `json:"html,omitempty"`
	Template  string          `json:"template,omitempty"`
	Version   int             `json:"version,omitempty"`
	Files     map[string]File `json:"files,omitempty"`
	Record    json.RawMessage `json:"record,omitempty"`
	RecordSet uint64          `json:"recordSet,omitempty"`
	Number    int             `json:"number,omitempty"`
	Paper     string          `json:"paper,omitempty"`
	Margins   string          `json:"margins,omitempty"`
	Header    string          `json:"header,omitempty"`
	Footer    string          `json:"footer,omitempty"`
	Watermark string          `json:"watermark,omitempty"`
	Probe     *typeset.Probe  `json:"probe,omitempty"` // a point of a page: what stands there is told by RenderInFull
}

// Rendered is a rendering with all that is known of it.
type Rendered struct {
	Pages    int               `json:"pages"`
	Title    string            `json:"title"`
	Findings []typeset.Finding `json:"findings"`
	HTML     string            `json:"html"`
	PDF      []byte            `json:"pdf"`
	Probed   []typeset.Probed  `json:"probed,omitempty"` // the elements at the point, the outermost first
}

// Order asks for documents.
type Order struct {
	HTML      string          `json:"html,omitempty"`
	Name      string          `json:"name,omitempty"`
	Template  string          `json:"template,omitempty"`
	Version   int             `json:"version,omitempty"`
	RecordSet uint64          `json:"recordSet,omitempty"`
	Records   []int           `json:"records,omitempty"`
	Record    json.RawMessage `json:"record,omitempty"`
	Series    string          `json:"series,omitempty"`
	Draft     bool            `json:"draft,omitempty"`
}

// Document is one PDF that the service keeps.
type Document struct {
	ID       uint64     `json:"id"`
	Keep     *time.Time `json:"keepUntil,omitempty"` // it must be kept until then
	Hold     string     `json:"hold,omitempty"`      // why it must not be erased
	Erased   *time.Time `json:"erased,omitempty"`
	Number   string     `json:"number,omitempty"`
	Name     string     `json:"name"`
	Title    string     `json:"title"`
	State    string     `json:"state"`
	Template string     `json:"template,omitempty"`
	Version  int        `json:"version,omitempty"`
	Batch    uint64     `json:"batch,omitempty"`
	Record   int        `json:"record,omitempty"`
	Pages    int        `json:"pages"`
	Bytes    int        `json:"bytes"`
	SHA256   string     `json:"sha256"`
	Verify   string     `json:"verify,omitempty"`
	Author   string     `json:"author"`
	Approver string     `json:"approver,omitempty"`
	Reason   string     `json:"reason,omitempty"`
	Revision int        `json:"revision"`
	Issued   *time.Time `json:"issued,omitempty"`
	Created  time.Time  `json:"created"`
	Error    string     `json:"error,omitempty"`
}

// BatchOrder asks for the documents of many records.
type BatchOrder struct {
	Template  string `json:"template"`
	Version   int    `json:"version,omitempty"`
	RecordSet uint64 `json:"recordSet"`
	Records   []int  `json:"records,omitempty"`
	Series    string `json:"series,omitempty"`
	Draft     bool   `json:"draft,omitempty"`
	Priority  int    `json:"priority,omitempty"`
}

// Batch is how far the documents of many records are.
type Batch struct {
	ID        uint64     `json:"id"`
	Template  string     `json:"template"`
	Version   int        `json:"version"`
	RecordSet uint64     `json:"recordSet"`
	Series    string     `json:"series,omitempty"`
	Drafts    bool       `json:"drafts"`
	State     string     `json:"state"`
	Priority  int        `json:"priority"`
	Total     int        `json:"total"`
	Done      int        `json:"done"`
	Failed    int        `json:"failed"`
	Author    string     `json:"author"`
	Created   time.Time  `json:"created"`
	EndedAt   *time.Time `json:"ended,omitempty"`
}

// Ended tells whether nothing more happens.
func (b Batch) Ended() bool { return b.State == "done" || b.State == "cancelled" }

// Item is one record's turn in a batch.
type Item struct {
	Record   int    `json:"record"`
	State    string `json:"state"`
	Tries    int    `json:"tries"`
	Error    string `json:"error,omitempty"`
	Document uint64 `json:"document,omitempty"`
}

// Trial is a document that a batch would make.
type Trial struct {
	Record   int               `json:"record"`
	Number   string            `json:"number,omitempty"` // if nothing else is issued before
	Name     string            `json:"name"`
	Title    string            `json:"title"`
	Pages    int               `json:"pages"`
	Findings []typeset.Finding `json:"findings"`
	Error    string            `json:"error,omitempty"`
}

// DeliveryOrder asks for a document to be brought somewhere.
type DeliveryOrder struct {
	Document uint64 `json:"document"`
	Kind     string `json:"kind"`
	To       string `json:"to,omitempty"`
	Subject  string `json:"subject,omitempty"`
	Body     string `json:"body,omitempty"`
}

// Delivery brings a document to someone.
type Delivery struct {
	ID       uint64     `json:"id"`
	Document uint64     `json:"document,omitempty"`
	Kind     string     `json:"kind"`
	To       string     `json:"to"`
	Subject  string     `json:"subject,omitempty"`
	Event    string     `json:"event,omitempty"` // that a webhook is told of; empty when a document is delivered
	Hook     uint64     `json:"hook,omitempty"`
	About    uint64     `json:"about,omitempty"` // delivery or batch that the event is about
	State    string     `json:"state"`
	Tries    int        `json:"tries"`
	Error    string     `json:"error,omitempty"`
	Author   string     `json:"author"`
	Created  time.Time  `json:"created"`
	Sent     *time.Time `json:"sent,omitempty"`
	History  []struct {
		At    time.Time `json:"at"`
		MS    int       `json:"ms"`
		Error string    `json:"error,omitempty"`
	} `json:"history,omitempty"`
}

// HookInput is a webhook that is to be told of what happens, or a change of one: what is left out stays.
type HookInput struct {
	Address string   `json:"address,omitempty"`
	Events  []string `json:"events,omitempty"` // document.issued, document.void, delivery.done, delivery.failed, batch.ended
	Paused  *bool    `json:"paused,omitempty"`
}

// Hook is a webhook that is told when something happens.
type Hook struct {
	ID       uint64    `json:"id"`
	Address  string    `json:"address"`
	Events   []string  `json:"events"`
	Paused   bool      `json:"paused"`
	Author   string    `json:"author"`
	Revision int       `json:"revision"`
	Created  time.Time `json:"created"`
}

// ShareOrder asks for a link to a document.
type ShareOrder struct {
	Document uint64 `json:"document"`
	Days     int    `json:"days,omitempty"`
	Limit    int    `json:"limit,omitempty"`
	Download bool   `json:"download,omitempty"`
}

// Share is a link to a document; its address is told when it is made.
type Share struct {
	ID       uint64     `json:"id"`
	Document uint64     `json:"document"`
	Address  string     `json:"address,omitempty"`
	Limit    int        `json:"limit,omitempty"`
	Uses     int        `json:"uses"`
	Expires  *time.Time `json:"expires,omitempty"`
	Revoked  bool       `json:"revoked"`
	Author   string     `json:"author"`
}

// Series gives documents numbers without gaps.
type Series struct {
	ID      uint64 `json:"id"`
	Name    string `json:"name"`
	Pattern string `json:"pattern"`
	Next    int    `json:"next"`
}

// Font is a font that all templates can name by its family.
type Font struct {
	ID        uint64 `json:"id"`
	File      string `json:"file"`
	Family    string `json:"family"`
	MinWeight int    `json:"leastBold"`
	MaxWeight int    `json:"mostBold"`
	Italic    bool   `json:"italic"`
	Bytes     int    `json:"bytes"`
	Author    string `json:"author"`
}

// Entry is a row of the ledger.
type Entry struct {
	ID       uint64 `json:"id"`
	Kind     string `json:"kind"`
	Document uint64 `json:"document"`
	Number   string `json:"number"`
	Name     string `json:"name"`
	Template string `json:"template"`
	Version  int    `json:"version"`
	SHA256   string `json:"sha256"`
	Pages    int    `json:"pages"`
	Reason   string `json:"reason"`
	Who      string `json:"who"`
	At       string `json:"at"`
	Previous string `json:"previous"`
	Checksum string `json:"checksum"`
}

// Verification is what reading the whole ledger gave.
type Verification struct {
	Rows   int    `json:"rows"`   // that were read
	Last   int    `json:"last"`   // the last of them
	Signed int    `json:"signed"` // rows that are covered by a signed head
	Key    string `json:"key"`    // that heads are signed with, public
	Sound  bool   `json:"sound"`
	Faults []struct {
		Entry    uint64 `json:"entry"`
		Document uint64 `json:"document"`
		Message  string `json:"message"`
	} `json:"faults"`
	Witnessed *Witnessed `json:"witnessed,omitempty"` // nil when no time stamp is over the ledger
}

// Witnessed is until where the ledger is older than a time-stamp authority says.
type Witnessed struct {
	Rows int       `json:"rows"`
	At   time.Time `json:"at"`
	Who  string    `json:"who"`
}

// Erasure is what was erased.
type Erasure struct {
	Documents []Document `json:"documents"` // the first of them
	Total     int        `json:"total"`
	Bytes     int64      `json:"bytes"`
}

// Key lets a program in; its secret is told when it is made.
type Key struct {
	ID      uint64     `json:"id"`
	Name    string     `json:"name"`
	Scopes  string     `json:"scopes"`
	Limited string     `json:"templates,omitempty"` // to these templates, with spaces between
	Secret  string     `json:"key,omitempty"`
	Expires *time.Time `json:"expires,omitempty"`
	Revoked bool       `json:"revoked"`
	Author  string     `json:"author"`
	Created time.Time  `json:"created"`
}

// KeyOrder asks for a key.
type KeyOrder struct {
	Name      string   `json:"name"`
	Scopes    []string `json:"scopes,omitempty"`    // all that one may oneself, when there are none
	Days      int      `json:"days,omitempty"`      // until it ends; 0 for never
	Templates []string `json:"templates,omitempty"` // that it is limited to; all when there are none
}

// Person may log in.
type Person struct {
	ID       uint64    `json:"id"`
	Email    string    `json:"email"`
	Name     string    `json:"name"`
	Role     string    `json:"role"`
	Disabled bool      `json:"disabled"`
	Created  time.Time `json:"created"`
}

// PersonInput is a person as they are added or changed; nil stays.
type PersonInput struct {
	Email    *string `json:"email,omitempty"`
	Name     *string `json:"name,omitempty"`
	Role     *string `json:"role,omitempty"`
	Password *string `json:"password,omitempty"`
	Disabled *bool   `json:"disabled,omitempty"`
}

// Event is what someone did.
type Event struct {
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	Action string    `json:"action"`
	Kind   string    `json:"kind"`
	Ref    string    `json:"ref"`
	Detail string    `json:"detail,omitempty"`
}
