package press

import (
	"time"

	"oliveledger/merge"
	"oliveledger/record"
	"oliveledger/typeset"
)

// Goods are what a child needs for its work and keeps for the next: the files of a
// template, or a font. Their key stands for their contents.
type Goods struct {
	Key   string
	Name  string
	Files map[string][]byte // of a template
	Font  []byte
}

// Wanting is part of each answer: keys of goods that the child does not have. The
// work is asked for again when it has got them.
type Wanting struct{ Lacks []string }

func (w *Wanting) lacks() []string { return w.Lacks }

// Record is a record as JSON.
type Record struct {
	Number   int
	Data     []byte            // a JSON object
	Document map[string]string // the field “document”; nil for none
}

// Page is what is to be set: a record merged into a template, or a posted page.
type Page struct {
	Template string // key of the goods; empty for a posted page
	HTML     []byte
	Record   *Record           // nil for the template's sample
	Preview  map[string]string // the field “document” of a record that has none
	Today    time.Time
	Fonts    []string // keys of the goods
	Options  Options
	Limits   typeset.Limits
}

// Options are those of a setting that a caller may choose.
type Options struct {
	Paper, Margins, Header, Footer, Watermark string
	Date                                      time.Time
	Merged                                    bool // the answer holds the page as merged
	TraceBreaks                               bool
	Probe                                     *typeset.Probe // a point that is asked about
	Named                                     bool           // the answer holds the file's name
}

// Pages is what setting a page gave.
type Pages struct {
	Wanting
	HTML   []byte // as merged, when it was asked for
	PDF    []byte
	Name   string       // of the file, when it was asked for
	Keep   merge.Period // what the template says
	Signed string       // too
	typeset.Document
}

// Texts are short patterns to fill with a record.
type Texts struct {
	Template string
	Record   Record
	Patterns []string
}

// Filled are patterns with their fields filled in.
type Filled struct {
	Wanting
	Texts []string
}

// Checks are records to hold against a template's schema.
type Checks struct {
	Template string
	Records  []Record
}

// Faults tell for each record what its schema does not allow; empty where nothing is wrong.
type Faults struct {
	Wanting
	Faults []string
}

// About is what a template tells of itself.
type About struct {
	Wanting
	Manifest merge.Manifest
	Fields   []string // that the page uses
}

// FontFile is a font to look at.
type FontFile struct {
	Name string
	Data []byte
}

// FontFace is what a font file holds.
type FontFace struct {
	Family               string
	MinWeight, MaxWeight float64
	Italic               bool
}

// Reading says how a record file is read.
type Reading struct {
	Options record.Options // without its functions
	Renames record.Renames
	SkipBad bool // bad rows are told, and the reading goes on
}

// Piece is the next part of a record file.
type Piece struct {
	Data []byte
	End  bool // nothing follows
	More bool // none yet: what came of the last one is not all told
}

// Row is a record of a file as JSON.
type Row struct {
	Name string // as messages call it
	Data []byte
}

// Rows is what came out of a file so far.
type Rows struct {
	Rows  []Row
	Bad   []string
	Notes []string
	More  bool // there is more to be had before the next piece is taken
	Done  bool // the file has ended

	Failed string // why it ended before its end
}
