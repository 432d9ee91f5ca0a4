package bind

import (
	"bytes"
	"fmt"
	"slices"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdfread"
)

// attached lists the files that a source carries (§7.11.4).
func (m *importer) attached() (list []typeset.Attachment) {
	names := map[string]pdfread.Object{}
	m.tree(names, m.f.Dict(m.f.Dict(m.f.Trailer["Root"])["Names"])["EmbeddedFiles"], 0)
	for key, o := range names {
		d := m.f.Dict(o)
		s, ok := m.f.Resolve(m.f.Dict(d["EF"])["F"]).(*pdfread.Stream)
		if !ok {
			continue
		}
		data, err := m.f.Decode(s)
		if err != nil {
			continue // what cannot be read cannot be carried on
		}
		a := typeset.Attachment{Name: textOf(d["UF"], m.f), Data: data}
		if a.Name == "" {
			a.Name = textOf(pdfread.String(key), m.f)
		}
		if kind, ok := m.f.Resolve(s.Dict["Subtype"]).(pdfread.Name); ok {
			a.Type = string(kind)
		}
		list = append(list, a)
	}
	slices.SortFunc(list, func(a, b typeset.Attachment) int { return bytes.Compare([]byte(a.Name), []byte(b.Name)) })
	return list
}

// carried are the files that all sources carry. Two of one name that differ are told
// apart by a number.
func carried(in []*importer) (all []typeset.Attachment) {
	for _, m := range in {
		for _, a := range m.attached() {
			name := a.Name
			for n := 2; ; n++ {
				i := slices.IndexFunc(all, func(b typeset.Attachment) bool { return b.Name == a.Name })
				if i < 0 {
					all = append(all, a)
					break
				}
				if bytes.Equal(all[i].Data, a.Data) {
					break
				}
				a.Name = fmt.Sprintf("%d-%s", n, name)
			}
		}
	}
	return all
}
