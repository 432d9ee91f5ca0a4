package cli

import (
	"context"
	"html/template"
	"io"
	"path/filepath"
	"strconv"
	"strings"

	"oliveledger/typeset"
	"oliveledger/typeset/bind"
)

// proofName is the file of a document's proof: what --proof names, or a file of
// the document's name in the folder that it names when there are several.
func (f *renderFlags) proofName(document string) string {
	if !f.several {
		return f.proof
	}
	return filepath.Join(f.proof, filepath.Base(document))
}

// writeProof makes a copy of a document on which page areas and findings are
// drawn, with a list of the findings at its end.
func writeProof(ctx context.Context, data []byte, to string, doc *typeset.Document) error {
	from := filepath.Base(to)
	var o bind.Options
	for i, f := range doc.Frames {
		var page strings.Builder
		if err := proofPage.Execute(&page, proofOf(i+1, f, doc.Findings)); err != nil {
			return err
		}
		o.Overlays = append(o.Overlays, bind.Overlay{HTML: []byte(page.String()), Pages: strconv.Itoa(i + 1)})
	}
	o.Unprotected = true // a proof is for who made the document
	sources := []bind.Source{{Name: from, Data: data, Title: doc.Title}}
	if len(doc.Findings) > 0 {
		var list, pdf strings.Builder
		if err := proofList.Execute(&list, numbered(doc.Findings)); err != nil {
			return err
		}
		if _, err := typeset.Set(ctx, []byte(list.String()), typeset.Options{Name: "findings"}, &pdf); err != nil {
			return err
		}
		sources = append(sources, bind.Source{Name: "findings", Title: "Findings", Data: []byte(pdf.String())})
	}
	return writeWhole(to, func(w io.Writer) error {
		_, err := bind.Bind(ctx, sources, o, w)
		return err
	})
}

// proofMark is a finding with its number and, as percentages, its place.
type proofMark struct {
	Number int
	typeset.Finding
	X, Y, W, H float64
}

func numbered(list []typeset.Finding) (out []proofMark) {
	for i, f := range list {
		out = append(out, proofMark{Number: i + 1, Finding: f})
	}
	return out
}

type proofSheet struct {
	Area  [4]float64
	Marks []proofMark
	End   float64
	Break string
}

// proofOf gathers what is drawn onto page n, all in percent of the sheet.
func proofOf(n int, f typeset.Frame, list []typeset.Finding) (out proofSheet) {
	place := func(r [4]float64) [4]float64 {
		return [4]float64{r[0] / f.W * 100, r[1] / f.H * 100, r[2] / f.W * 100, r[3] / f.H * 100}
	}
	out.Area, out.End, out.Break = place(f.Area), f.End/f.H*100, f.Break.Message
	for _, m := range numbered(list) {
		if m.Page == n && m.Rect != [4]float64{} {
			p := place(m.Rect)
			m.X, m.Y, m.W, m.H = p[0], p[1], p[2], p[3]
			out.Marks = append(out.Marks, m)
		}
	}
	return out
}

var proofPage = template.Must(template.New("proof").Parse(`<!DOCTYPE html><style>
@page { margin: 0 } html, body { margin: 0; height: 100% }
div { position: absolute; box-sizing: border-box; overflow: visible }
.area { border: 0.5pt dashed rgb(30 110 160 / 0.8) }
.note { border: 0.8pt solid rgb(30 110 160 / 0.9); background: rgb(30 110 160 / 0.08) }
.warning { border: 0.8pt solid rgb(190 90 0 / 0.9); background: rgb(220 130 20 / 0.1) }
.error { border: 0.8pt solid rgb(180 20 20 / 0.9); background: rgb(200 30 30 / 0.1) }
b { position: absolute; right: 100%; top: 0; font: bold 7pt/1.3 sans-serif; padding: 0 2pt; color: white; background: rgb(30 110 160) }
.break { left: 0; width: 100%; border-top: 0.6pt dotted rgb(120 60 140); font: 6.5pt/1.4 sans-serif; color: rgb(100 40 120); text-align: right; padding-right: 3mm }
.warning b { background: rgb(170 80 0) } .error b { background: rgb(180 20 20) }
</style><div class="area" style="left:{{index .Area 0}}%;top:{{index .Area 1}}%;width:{{index .Area 2}}%;height:{{index .Area 3}}%"></div>
{{with .Break}}<div class="break" style="top:{{$.End}}%">{{.}}</div>{{end}}
{{range .Marks}}<div class="{{.Severity}}" style="left:{{.X}}%;top:{{.Y}}%;width:{{.W}}%;height:{{.H}}%"><b>{{.Number}}</b></div>{{end}}`))

var proofList = template.Must(template.New("list").Parse(`<!DOCTYPE html><html lang="en"><title>Findings</title><style>
@page { size: A4; margin: 20mm 18mm } body { margin: 0; font: 9.5pt/1.45 sans-serif; color: #1d2b36 }
h1 { font-size: 16pt; margin: 0 0 5mm } table { border-collapse: collapse; width: 100% }
th, td { text-align: left; vertical-align: top; padding: 1.4mm 2mm; border-bottom: 0.5pt solid #ccd6dc } tr { break-inside: avoid }
th { color: #5d6b75; font-size: 8pt } .n { text-align: right } .warning { color: #a05000 } .error { color: #b01414 } .advice { color: #5d6b75 } td.code { white-space: nowrap }
</style><h1>Findings</h1><table><thead><tr><th class="n">No.<th>Page<th>Severity<th>Code<th>What and where</thead>
{{range .}}<tr><td class="n">{{.Number}}<td>{{with .Page}}{{.}}{{end}}<td class="{{.Severity}}">{{.Severity}}<td class="code">{{.Code}}<td>{{with .File}}{{.}}: {{end}}{{.Message}}{{with .Advice}}<br><span class="advice">{{.}}</span>{{end}}
{{end}}</table>`))
