package pdf

import (
	"fmt"
	"slices"
	"strings"
)

// Attachment is a file inside the document (§7.11.4).
type Attachment struct {
	Name        string
	Type        string // MIME type
	Description string
	Data        []byte
}

// attachments writes the files and returns their name tree and the list of
// associated files (ISO 19005-3, §6.8); both are empty without any.
func (w *Writer) attachments() (names, associated string) {
	list := slices.Clone(w.Attach)
	slices.SortStableFunc(list, func(a, b Attachment) int { return strings.Compare(text(a.Name), text(b.Name)) })
	for _, a := range list {
		kind := a.Type
		if kind == "" {
			kind = "application/octet-stream"
		}
		file, spec := w.alloc(), w.alloc()
		modified := ""
		if w.Info.Date != "" { // it is made with the document
			modified = "/ModDate" + text(w.Info.Date)
		}
		w.stream(file, fmt.Sprintf("/Type/EmbeddedFile/Subtype/%s/Params<</Size %d%s>>", nameOf(kind), len(a.Data), modified), a.Data, well)
		d := fmt.Sprintf("<</Type/Filespec/F%s/UF%s/AFRelationship/Data/EF<</F %s/UF %s>>", text(a.Name), text(a.Name), file, file)
		if a.Description != "" {
			d += "/Desc" + text(a.Description)
		}
		w.object(spec, d+">>")
		names += text(a.Name) + spec.String() + " "
		associated += spec.String() + " "
	}
	return names, associated
}

// nameOf escapes the characters that a name may not hold (§7.3.5).
func nameOf(s string) string {
	var b strings.Builder
	for i := range len(s) {
		if c := s[i]; c > ' ' && c < 127 && !strings.ContainsRune("()<>[]{}/%#", rune(c)) {
			b.WriteByte(c)
		} else {
			fmt.Fprintf(&b, "#%02X", c)
		}
	}
	return b.String()
}

// labels are the page labels (§12.4.2): stretches of pages whose counter goes
// up by one.
func (w *Writer) labels() string {
	var b strings.Builder
	plain := true
	for i, p := range w.pages {
		plain = plain && p.Label == i+1
		if i == 0 || p.Label != w.pages[i-1].Label+1 {
			if p.Label > 0 {
				fmt.Fprintf(&b, "%d<</S/D/St %d>>", i, p.Label)
			} else {
				fmt.Fprintf(&b, "%d<</P(%d)>>", i, p.Label)
			}
		}
	}
	if plain {
		return ""
	}
	return "/PageLabels<</Nums[" + b.String() + "]>>"
}
