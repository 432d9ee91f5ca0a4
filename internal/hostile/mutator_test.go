package hostile

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"image"
	"image/gif"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/xuri/excelize/v2"
)

// mutator makes what may do harm of what does not.
type mutator struct{ *rand.Rand }

// input is one of the ways into the service, with something damaged in it.
func (m mutator) input() input {
	switch m.IntN(6) {
	case 0: // a page
		return rendering(map[string]any{"html": string(m.mutate(pick(m, pages)))})
	case 1: // a template, with its record
		files := map[string]any{"template.yaml": text("title: Bill\npage: page.html\nfilename: '{{.number}}.pdf'\n"), "page.html": text(string(m.mutate(pick(m, merged))))}
		return rendering(map[string]any{"files": files, "record": json.RawMessage(bill)})
	case 2: // a font in a page
		return rendering(map[string]any{"html": `<style>@font-face{font-family:k;src:url(` + data("font/ttf", m.mutate(sans)) + `)}p{font-family:k}</style><p>Office fjord Ärger 123 ffi`})
	case 3: // a font that all are to have
		return input{"/fonts?name=k.ttf", "application/octet-stream", m.mutate(sans)}
	case 4: // a picture
		p := pick(m, pictures)
		return rendering(map[string]any{"html": `<img src="` + data(p.kind, m.mutate(p.data)) + `"><p>Quay`})
	default:
		r := pick(m, records)
		return input{"/record-previews?name=" + r.name, "application/octet-stream", m.mutate(r.data)}
	}
}

func rendering(what map[string]any) input {
	body, err := json.Marshal(what)
	if err != nil {
		panic(err)
	}
	return input{"/renderings", "application/json", body}
}

func text(s string) map[string]string { return map[string]string{"text": s} }

func data(kind string, b []byte) string {
	return "data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(b)
}

func pick[T any](m mutator, list []T) T { return list[m.IntN(len(list))] }

// mutate damages bytes in one to eight places.
func (m mutator) mutate(seed []byte) []byte {
	b := slices.Clone(seed)
	for range 1 + m.IntN(8) {
		if len(b) < 8 {
			return append(b, seed...)
		}
		at := m.IntN(len(b) - 4)
		end := min(at+1+m.IntN(64), len(b))
		switch m.IntN(9) {
		case 0:
			b[at] ^= 1 << m.IntN(8)
		case 1: // a number that reaches as far as it can
			copy(b[at:], pick(m, extremes))
		case 2:
			b = slices.Delete(b, at, end)
		case 3: // something comes twice
			b = slices.Insert(b, at, slices.Clone(b[at:end])...)
		case 4: // or very often
			b = slices.Insert(b, at, bytes.Repeat(slices.Clone(b[at:end]), 1+m.IntN(20_000))...)
		case 5:
			other := m.IntN(len(b) - 4)
			copy(b[at:], slices.Clone(b[other:min(other+end-at, len(b))]))
		case 6:
			b = slices.Insert(b, at, []byte(pick(m, words))...)
		case 7: // digits become a large number
			if i := bytes.IndexAny(b[at:], "123456789"); i >= 0 {
				b = slices.Replace(b, at+i, at+i+1, []byte(pick(m, numbers))...)
			}
		default: // the end is lost
			if m.IntN(4) == 0 {
				b = b[:at+4]
			}
		}
	}
	return b[:min(len(b), 4<<20)]
}

var (
	extremes = [][]byte{{0xff, 0xff, 0xff, 0xff}, {0x7f, 0xff, 0xff, 0xff}, {0, 0, 0, 0}, {0x80, 0, 0, 0}, {0xff, 0xff}, {0, 1}}
	numbers  = []string{"0", "-1", "1e9", "99999999", "1e308", "0.0000001", "2147483648", "NaN"}
	words    = []string{
		"<div style='columns:3'>", "<table><tr><td rowspan=9999>", "<svg viewBox='0 0 1 1'><use href='#a' id=a>", "{{range .lines}}", "{{end}}", "{{", "[[[[", "\x00", "\u202e", "\u0301\u0301\u0301",
		"<style>*{position:absolute;float:left;break-before:page}</style>", "content:counter(a) attr(x);", "--a:var(--a) var(--a);", "<!--", "]]>", "\"", "*a\n- &a [*a,*a]\n", "<a><b><c>", "transform:scale(1e6);",
		"filter:blur(900px);", "width:calc(100% / 0);", "grid-template:repeat(9999,1px)/repeat(9999,1px);", "height:1e9px;", "<img src='data:,'>", "{{repeat 9999 .number}}", "writing-mode:vertical-rl;", "display:flex;",
	}
)

const bill = `{"number":"Q-1","date":"2026-05-31","lines":[{"text":"Mooring","quantity":3,"price":184.5},{"text":"Water","quantity":2,"price":3.1}]}`

// What is damaged: the demo's pages and records, and small files of every other kind.
var (
	pages    = read("../../demo/pages/*.html", "../../demo/templates/*/page.html", "../../typeset/testdata/conformance/*.html")
	merged   = read("../../merge/starter/*/page.html", "../../demo/templates/*/page.html")
	sans     = liberationsansregular.TTF
	pictures = []struct {
		kind string
		data []byte
	}{
		{"image/png", drawn(func(b *bytes.Buffer, im image.Image) error { return png.Encode(b, im) })},
		{"image/jpeg", drawn(func(b *bytes.Buffer, im image.Image) error { return jpeg.Encode(b, im, nil) })},
		{"image/gif", drawn(func(b *bytes.Buffer, im image.Image) error { return gif.Encode(b, im, nil) })},
		{"image/svg+xml", []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><defs><linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1"/></linearGradient><pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse"><circle r="1"/></pattern></defs><g transform="rotate(20 3 4)"><rect width="20" height="9" fill="url(#g)"/><path d="M1 2 3 4A5 6 0 1 0 9 9Z" stroke-dasharray="3 1" stroke="url(#p)"/><text x="3" y="8">Quay</text><use href="#g"/></g></svg>`)},
	}
	records = []struct {
		name string
		data []byte
	}{
		{"a.json", []byte("[" + bill + "," + bill + "]")},
		{"a.ndjson", []byte(bill + "\n" + bill + "\n")},
		{"a.csv", []byte("number;date;price\nQ-1;31.05.2026;1.234,56\nQ-2;01.06.2026;\"12,50\"\n")},
		{"a.tsv", []byte("number\tprice\nQ-1\t12.5\n")},
		{"a.yaml", []byte("- number: Q-1\n  lines: &l\n    - {text: Mooring, price: 184.50}\n- number: Q-2\n  lines: *l\n")},
		{"a.xml", []byte(`<?xml version="1.0"?><!DOCTYPE b [<!ENTITY q "Quay">]><bills><bill><number>Q-1</number><line a="1">&q; &amp; Lantern</line></bill><bill/></bills>`)},
		{"a.xlsx", workbook()},
	}
)

func read(patterns ...string) (list [][]byte) {
	for _, p := range patterns {
		names, err := filepath.Glob(p)
		if err != nil || len(names) == 0 {
			panic("there is no " + p)
		}
		for _, name := range names {
			raw, err := os.ReadFile(name)
			if err != nil {
				panic(err)
			}
			list = append(list, []byte(strings.ToValidUTF8(string(raw), "?")))
		}
	}
	return list
}

func drawn(encode func(*bytes.Buffer, image.Image) error) []byte {
	var b bytes.Buffer
	gray := image.NewGray(image.Rect(0, 0, 40, 30))
	for i := range gray.Pix {
		gray.Pix[i] = byte(i * 7)
	}
	if err := encode(&b, gray); err != nil {
		panic(err)
	}
	return b.Bytes()
}

func workbook() []byte {
	f := excelize.NewFile()
	for cell, v := range map[string]any{"A1": "number", "B1": "price", "A2": "Q-1", "B2": 184.5, "A3": "Q-2", "B3": 3.1} {
		if err := f.SetCellValue("Sheet1", cell, v); err != nil {
			panic(err)
		}
	}
	b, err := f.WriteToBuffer()
	if err != nil {
		panic(err)
	}
	return b.Bytes()
}
