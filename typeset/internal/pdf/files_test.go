package pdf_test

import (
	"bytes"
	"context"
	"fmt"
	"hash/crc32"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdfread"
)

const small = "<!DOCTYPE html><html lang=en><title>Quay</title><style>@page{size:200px 100px;margin:10px}body{margin:0;font:10px/12px sans-serif}</style>"

// files are documents of which every object is held.
var files = []struct {
	name, html string
	options    typeset.Options
}{
	{"text", "<h1 style='font-size:14px;margin:0'>Lantern</h1><p>Plain <b>bold</b> <i>italic</i> <span style='letter-spacing:3px'>wide</span> <a href='https://quay.test/'>link</a><br>Ωmega שלום ﬁ é <span style='font-variant:small-caps'>Caps</span>", typeset.Options{}},
	{"untagged", "<p>Words <a href='#x'>to</a><p id=x>here", typeset.Options{Untagged: true}},
	{"structure", "<style>@page{size:200px 300px}</style><h1>One</h1><p>a<ul><li>x<li>y</ul><ol><li>n</ol><table><caption>C</caption><tr><th scope=col>h<th>i<tr><td>a<td rowspan=2>b<tr><td></table><figure><svg role=img aria-label=boat width=9 height=9><rect width=9 height=9></svg><figcaption>F</figcaption></figure><blockquote lang=de>Hafen</blockquote><dl><dt>t<dd>d</dl><p aria-hidden=true>not read<code>c</code><q>q</q><abbr title=Quay>Q</abbr>", typeset.Options{}},
	{"outline", "<h1>A</h1><h2>B</h2><h2 style='bookmark-state:closed'>C</h2><h3>D</h3><h1 style='break-before:page'>E</h1>", typeset.Options{}},
	{"shapes", "<div style='width:50px;height:20px;background:linear-gradient(red,blue);border:1px dashed rgb(0 0 0/.5);border-radius:5px'></div><div style='width:40px;height:20px;opacity:.5;background:radial-gradient(circle,#f00,#0f08)'></div><div style='width:30px;height:10px;mix-blend-mode:multiply;background:device-cmyk(0 1 0 0)'></div>", typeset.Options{}},
	{"masks-tiles", "<div style='width:50px;height:20px;background:red;mask:linear-gradient(90deg,black,transparent)'></div><svg width=60 height=30><pattern id=p width=6 height=6 patternUnits=userSpaceOnUse><circle cx=3 cy=3 r=2 fill=green /></pattern><rect width=60 height=30 fill='url(#p)'/></svg>", typeset.Options{}},
	{"conic", "<div style='width:40px;height:40px;background:conic-gradient(red,blue)'></div>", typeset.Options{}},
	{"fields", "<style>@page{size:200px 200px}</style><form><label>Name <input name=n value=Mara maxlength=9 required></label><input type=password name=p value=x title=P><textarea name=t title=T>a\nb</textarea><label><input type=checkbox name=c checked>c</label><input type=radio name=r value=1 title=R1><input type=radio name=r value=2 checked title=R2><select name=s title=S><option value=a>A<option selected>B</select><select multiple name=m title=M><option selected>x<option selected>y</select><input name=ro readonly value=ro title=RO></form>", typeset.Options{Fields: true}},
	{"archive", "<p>kept <img alt=none src='data:image/gif;base64,R0lGODlhAQABAIAAAAUEBAAAACwAAAAAAQABAAACAkQBADs='>", typeset.Options{
		Archive: "PDF/A-3u", Author: "A & B", Subject: "S", Keywords: "k, l", Date: time.Date(2026, 5, 9, 10, 20, 30, 0, time.UTC),
		Attach: []typeset.Attachment{{Name: "record.json", Data: []byte("{}"), Type: "application/json", Description: "the record"}},
	}},
	{"watermark", "<p>a<p style='break-before:page'>b", typeset.Options{Watermark: "DRAFT", Header: "|{title}|{page}", FooterRule: true, HideOutline: true}},
	{"many-fonts", "<p style='font-family:serif'>serif <b>bold</b><p style='font-family:monospace'>mono<p style='font:oblique 12px sans-serif;-webkit-text-stroke:.3px red'>stroke<p style='writing-mode:vertical-rl;text-orientation:upright'>UP", typeset.Options{}},
	{"notes", "<style>.f{float:footnote}</style><p>a<span class=f>note</span> <ruby>b<rt>r</rt></ruby><p style='text-decoration:underline'>u<p style='text-shadow:1px 1px red'>s", typeset.Options{}},
}

// TestFiles writes small documents and compares all objects of their files with what is
// held. To see what a change does, run with -update and look at the difference.
func TestFiles(t *testing.T) {
	for _, c := range files {
		t.Run(c.name, func(t *testing.T) {
			var out bytes.Buffer
			_, err := typeset.Set(context.Background(), []byte(small+c.html), c.options, &out)
			require.NoError(t, err)
			f, err := pdfread.Open(out.Bytes(), "")
			require.NoError(t, err)
			assert.False(t, f.Rebuilt)
			golden.Compare(t, filepath.Join("testdata", "files", c.name+".txt"), dump(t, f))
		})
	}
}

// dump writes all objects of a file that can be reached from its trailer, numbered as they
// are met, streams decoded where they are text.
func dump(t *testing.T, f *pdfread.File) string {
	var b strings.Builder
	numbers, queue := map[pdfread.Ref]int{}, []pdfread.Ref{}
	number := func(r pdfread.Ref) int {
		n, ok := numbers[r]
		if !ok {
			queue = append(queue, r)
			n = len(queue)
			numbers[r] = n
		}
		return n
	}
	fmt.Fprintf(&b, "trailer %s\n", pdfread.Append(nil, pdfread.Dict{"Root": f.Trailer["Root"], "Info": f.Trailer["Info"]}, number))
	for i := 0; i < len(queue); i++ { //nolint:intrange // number lengthens the queue
		o := f.Resolve(queue[i])
		s, ok := o.(*pdfread.Stream)
		if !ok {
			fmt.Fprintf(&b, "%d: %s\n", i+1, pdfread.Append(nil, o, number))
			continue
		}
		d := pdfread.Dict{}
		for k, v := range s.Dict {
			if k != "Length" && k != "Filter" { // how well it is pressed together is not held
				d[k] = v
			}
		}
		data, err := f.Decode(s)
		require.NoError(t, err)
		fmt.Fprintf(&b, "%d: %s stream\n", i+1, pdfread.Append(nil, d, number))
		if text, ok := readable(data); ok {
			fmt.Fprintf(&b, "\t%s\n", strings.ReplaceAll(strings.TrimSpace(text), "\n", "\n\t"))
		} else {
			fmt.Fprintf(&b, "\t%d bytes, checksum %08x\n", len(data), crc32.ChecksumIEEE(data))
		}
	}
	return b.String()
}

// readable gives operators and other text with the bytes of glyphs as numbers; not what is
// mostly bytes.
func readable(data []byte) (string, bool) {
	var b strings.Builder
	odd := 0
	for _, c := range data {
		if c < ' ' && c != '\n' || c > '~' {
			odd++
			fmt.Fprintf(&b, "\\%02x", c)
		} else {
			b.WriteByte(c)
		}
	}
	return b.String(), odd*2 < len(data)
}
