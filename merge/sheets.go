package merge

import (
	"fmt"
	"io/fs"
	"strings"
)

// Font is a face that a template brings.
type Font struct {
	Family string `yaml:"family" json:"family"` // that style sheets name it by
	File   string `yaml:"file" json:"file"`     // in the template
	Weight string `yaml:"weight" json:"weight"` // as CSS writes it; default normal
	Style  string `yaml:"style" json:"style"`   // normal or italic
}

// Defaults are options of the PDF that a template asks for; those given at
// rendering win.
type Defaults struct {
	Paper        string `yaml:"paper" json:"paper"`                // as CSS writes it: A4 landscape
	Margins      string `yaml:"margins" json:"margins"`            // 20mm, or 18mm 16mm
	Header       string `yaml:"header" json:"header"`              // left | middle | right, with {page}, {pages}, {title}
	Footer       string `yaml:"footer" json:"footer"`              // the same at the foot
	Watermark    string `yaml:"watermark" json:"watermark"`        // text across every page
	Author       string `yaml:"author" json:"author"`              // in the metadata, as are the next two
	Subject      string `yaml:"subject" json:"subject"`            // what it is about
	Keywords     string `yaml:"keywords" json:"keywords"`          // with commas between them
	Archive      string `yaml:"archive" json:"archive"`            // PDF/A-2u or PDF/A-3u
	AllowMissing bool   `yaml:"allow-missing" json:"allowMissing"` // an archive file may hold boxes for characters that no font has
	Untagged     bool   `yaml:"untagged" json:"untagged"`          // without the structure that readers aloud need
	Linearised   bool   `yaml:"linearised" json:"linearised"`      // viewers show the first page before they have the rest
}

// Sheet is a style sheet by its name in the template's folder.
type Sheet struct{ Name, Text string }

// Sheets are the style sheets that the manifest names and the page does not link
// itself, and one that brings its fonts.
func (t *Template) Sheets() (list []Sheet, err error) {
	if len(t.Manifest.Fonts) > 0 {
		var b strings.Builder
		for _, f := range t.Manifest.Fonts {
			fmt.Fprintf(&b, "@font-face { font-family: %s; src: url(%s);", quoted(f.Family), quoted(f.File))
			if f.Weight != "" {
				fmt.Fprintf(&b, " font-weight: %s;", f.Weight)
			}
			if f.Style != "" {
				fmt.Fprintf(&b, " font-style: %s;", f.Style)
			}
			b.WriteString(" }\n")
		}
		list = append(list, Sheet{ManifestName, b.String()})
	}
	for _, name := range t.unlinked {
		text, err := fs.ReadFile(t.files, name)
		if err != nil {
			return nil, fmt.Errorf("the style sheet %s of the template cannot be read: %w", name, err)
		}
		list = append(list, Sheet{name, string(text)})
	}
	return list, nil
}

// quoted is a CSS string.
func quoted(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\a `).Replace(s) + `"`
}
