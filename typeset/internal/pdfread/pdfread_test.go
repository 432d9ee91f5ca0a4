package pdfread

import (
	"bytes"
	"compress/zlib"
	"encoding/ascii85"
	"encoding/binary"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// file writes objects with a plain cross-reference table, as old writers do.
// Each object is what stands between “obj” and “endobj”.
func file(trailer string, objects ...string) []byte {
	var b bytes.Buffer
	b.WriteString("%PDF-1.4\n")
	var at []int
	for i, o := range objects {
		at = append(at, b.Len())
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", i+1, o)
	}
	start := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(objects)+1)
	for _, o := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", o)
	}
	fmt.Fprintf(&b, "trailer\n<</Size %d/Root 1 0 R%s>>\nstartxref\n%d\n%%%%EOF\n", len(objects)+1, trailer, start)
	return b.Bytes()
}

func stream(dict, data string) string {
	return fmt.Sprintf("<<%s/Length %d>>\nstream\n%s\nendstream", dict, len(data), data)
}

// two pages whose sizes and resources come from nodes above them.
func book() []string {
	return []string{
		"<</Type/Catalog/Pages 2 0 R>>",
		"<</Type/Pages/Count 2/Kids[3 0 R 6 0 R]/MediaBox[0 0 200 100]>>",
		"<</Type/Pages/Parent 2 0 R/Count 1/Kids[4 0 R]/Rotate 90/Resources<</Font<</F 7 0 R>>>>>>",
		"<</Type/Page/Parent 3 0 R/Contents[5 0 R 5 0 R]>>",
		stream("", "0 0 m"),
		"<</Type/Page/Parent 2 0 R/MediaBox[10 20 110 320]/Contents 5 0 R>>",
		"<</Type/Font>>",
	}
}

func TestPagesInheritFromAbove(t *testing.T) {
	f, err := Open(file("", book()...), "")
	require.NoError(t, err)
	n, err := f.PageCount()
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	pages, err := f.Pages()
	require.NoError(t, err)
	require.Len(t, pages, 2)
	contents, err := f.Contents(pages[0])
	require.NoError(t, err)
	assert.Equal(t, []string{"0", "0", "m", "0", "0", "m"}, strings.Fields(string(contents)), "parts are joined")
	assert.NotNil(t, f.Dict(f.Dict(pages[0].Dict["Resources"])["Font"])["F"])
	assert.Equal(t, 90, pages[0].Turn)
	assert.Equal(t, [4]float64{0, 0, 200, 100}, pages[0].Media)
	assert.Equal(t, [4]float64{10, 20, 110, 320}, pages[1].Media)
}

// TestDamagedFilesAreRead: what a viewer would still show is found by looking
// through the file.
func TestDamagedFilesAreRead(t *testing.T) {
	whole := string(file("", book()...))
	for name, damaged := range map[string]string{
		"no startxref":        strings.Replace(whole, "startxref", "startxxxx", 1),
		"wrong start":         whole[:strings.Index(whole, "startxref")] + "startxref\n7\n%%EOF",
		"no table":            whole[:strings.Index(whole, "xref\n0")] + "trailer\n<</Root 1 0 R>>",
		"cut off":             whole[:strings.Index(whole, "trailer")],
		"shifted":             "garbage before the header\n\n" + whole,
		"wrong length":        strings.Replace(whole, "/Length 5", "/Length 5000", 1),
		"no length":           strings.Replace(whole, "/Length 5", "/Lengthx 5", 1),
		"carriage returns":    strings.ReplaceAll(whole, "obj\n", "obj\r"),
		"trailing nonsense":   whole + strings.Repeat("\x00", 2000),
		"table of wrong size": strings.Replace(whole, "xref\n0 8", "xref\n0 80", 1),
	} {
		f, err := Open([]byte(damaged), "")
		if !assert.NoError(t, err, name) {
			continue
		}
		pages, err := f.Pages()
		if !assert.NoError(t, err, name) || !assert.Len(t, pages, 2, name) {
			continue
		}
		contents, err := f.Contents(pages[1])
		assert.NoError(t, err, name)
		assert.Equal(t, "0 0 m", strings.TrimSpace(string(contents)), name)
	}
}

// TestHostileFilesEnd: circles and lies are told, or passed over.
func TestHostileFilesEnd(t *testing.T) {
	with := func(i int, object string) []byte {
		b := book()
		b[i-1] = object
		return file("", b...)
	}
	for name, data := range map[string][]byte{
		"pages in a circle":      with(3, "<</Type/Pages/Parent 2 0 R/Count 1/Kids[2 0 R]>>"),
		"a page is its own kid":  with(4, "<</Type/Pages/Kids[4 0 R]>>"),
		"references in a circle": with(1, "1 0 R"),
		"a count that lies":      with(2, "<</Type/Pages/Count 2000000000/Kids[3 0 R]>>"),
		"arrays without end":     with(7, strings.Repeat("[", 100_000)),
		"no pages":               with(2, "null"),
		"length of itself":       with(5, "<</Length 5 0 R>>\nstream\nx\nendstream"),
	} {
		f, err := Open(data, "")
		if err != nil {
			continue
		}
		pages, err := f.Pages()
		assert.LessOrEqual(t, len(pages), 3, name)
		if err == nil {
			for _, p := range pages {
				_, _ = f.Contents(p) // ends, with contents or an error
			}
		}
	}
	for _, data := range []string{"", "no PDF", "%PDF-1.7\n", "%PDF-1.7\ntrailer\n<<>>"} {
		_, err := Open([]byte(data), "")
		assert.Error(t, err, "%q", data)
	}
}

func deflated(s string) string {
	var b bytes.Buffer
	z := zlib.NewWriter(&b)
	z.Write([]byte(s))
	z.Close()
	return b.String()
}

func coded85(s string) string {
	var b bytes.Buffer
	w := ascii85.NewEncoder(&b)
	w.Write([]byte(s))
	w.Close()
	return b.String()
}

// TestFilters undoes what streams are packed with (ISO 32000-1, §7.4).
func TestFilters(t *testing.T) {
	f, err := Open(file("", book()...), "")
	require.NoError(t, err)
	for name, c := range map[string]struct {
		dict Dict
		data string
		want string
	}{
		"none":        {Dict{}, "berth", "berth"},
		"flate":       {Dict{"Filter": Name("FlateDecode")}, deflated("berth"), "berth"},
		"hex":         {Dict{"Filter": Name("ASCIIHexDecode")}, "62 65 72 74 68>", "berth"},
		"hex, odd":    {Dict{"Filter": Name("ASCIIHexDecode")}, "626>", "b`"},
		"base 85":     {Dict{"Filter": Name("ASCII85Decode")}, coded85("berth") + "~>", "berth"},
		"runs":        {Dict{"Filter": Name("RunLengthDecode")}, "\x04berth\xfeA\x80", "berthAAA"},
		"two":         {Dict{"Filter": Array{Name("ASCIIHexDecode"), Name("FlateDecode")}}, fmt.Sprintf("%x>", deflated("berth")), "berth"},
		"png rows up": {Dict{"Filter": Name("FlateDecode"), "DecodeParms": Dict{"Predictor": int64(12), "Columns": int64(3)}}, deflated("\x02abc\x02\x01\x01\x01"), "abcbcd"},
		"png sub":     {Dict{"Filter": Name("FlateDecode"), "DecodeParms": Dict{"Predictor": int64(11), "Columns": int64(3)}}, deflated("\x01a\x01\x01"), "abc"},
	} {
		got, err := f.Decode(&Stream{Dict: c.dict, Raw: []byte(c.data)})
		if assert.NoError(t, err, name) {
			assert.Equal(t, c.want, strings.TrimRight(string(got), "\x00"), name)
		}
	}
	_, err = f.Decode(&Stream{Dict: Dict{"Filter": Name("NoSuchDecode")}, Raw: []byte("x")})
	assert.ErrorContains(t, err, "NoSuchDecode")
	got, err := f.Decode(&Stream{Dict: Dict{"Filter": Name("FlateDecode")}, Raw: []byte(deflated(strings.Repeat("quay ", 1000))[:30])})
	if err == nil {
		assert.True(t, strings.HasPrefix(strings.Repeat("quay ", 1000), string(got)), "what there is of a stream that was cut off")
	}
}

// TestPredictedRows undoes the filters that Go's own encoder of PNG has put on rows.
func TestPredictedRows(t *testing.T) {
	const w, h = 40, 64
	im := image.NewNRGBA(image.Rect(0, 0, w, h))
	r := rand.New(rand.NewPCG(3, 3))
	for i := range im.Pix { // smooth, noisy, as above, and between the row above and the left: rows of all kinds
		noise := byte(r.Uint32())
		switch y := i / (4 * w); {
		case y%4 == 0 || i < 4:
			im.Pix[i] = noise
		case y%4 == 1:
			im.Pix[i] = im.Pix[i-4*w] + noise%2
		case y%4 == 2:
			im.Pix[i] = im.Pix[i-4] + noise%3
		default:
			im.Pix[i] = byte((int(im.Pix[i-4])+int(im.Pix[i-4*w]))/2) + noise%2
		}
	}
	var encoded bytes.Buffer
	require.NoError(t, png.Encode(&encoded, im))
	var packed []byte // the data of the IDAT chunks
	kinds := map[byte]bool{}
	for b := encoded.Bytes()[8:]; len(b) > 12; {
		n := binary.BigEndian.Uint32(b)
		if string(b[4:8]) == "IDAT" {
			packed = append(packed, b[8:8+n]...)
		}
		b = b[12+n:]
	}
	z, err := zlib.NewReader(bytes.NewReader(packed))
	require.NoError(t, err)
	rows, err := io.ReadAll(z)
	require.NoError(t, err)
	for y := range h {
		kinds[rows[y*(4*w+1)]] = true
	}
	assert.Greater(t, len(kinds), 2, "the picture takes several kinds: %v", kinds)
	f, err := Open(file("", book()...), "")
	require.NoError(t, err)
	got, err := f.Decode(&Stream{Dict: Dict{"Filter": Name("FlateDecode"), "DecodeParms": Dict{"Predictor": int64(15), "Colors": int64(4), "Columns": int64(w)}}, Raw: packed})
	require.NoError(t, err)
	assert.Equal(t, im.Pix, got)
}

// TestObjectsAreWrittenAsTheyWereRead sends objects through the reader and back.
func TestObjectsAreWrittenAsTheyWereRead(t *testing.T) {
	for in, want := range map[string]string{
		"12": "12", "-3.50": "-3.5", "+.5": "0.5", "true": "true", "null": "null", "/Name": "/Name", "/A#20B": "/A#20B", "(a\\(b\\))": "<61286229>",
		"(a(b)c)": "<6128622963>", "(\\101\\n)": "<410A>", "(a\\\nb)": "<6162>", "<41 42>": "<4142>", "<4>": "<40>", "[1[2/X]null]": "[1[2/X]null]", "<</A 1/B<</C[]>>>>": "<</A 1/B<</C[]>>>>",
		"[1 2 8 0 R]": "[1 2 9 0 R]", "% a remark\n5": "5",
	} {
		b := book()
		b[6] = in
		f, err := Open(file("", b...), "")
		require.NoError(t, err)
		got := string(Append(nil, f.load(7), func(Ref) int { return 9 }))
		assert.Equal(t, strings.ReplaceAll(want, " ", ""), strings.ReplaceAll(got, " ", ""), in)
	}
}

// FuzzFilters undoes filters on any data: there is an end to it, with an error or without one.
func FuzzFilters(f *testing.F) {
	whole, err := Open(file("", book()...), "")
	require.NoError(f, err)
	names := []Name{"FlateDecode", "LZWDecode", "ASCIIHexDecode", "ASCII85Decode", "RunLengthDecode"}
	f.Add([]byte(deflated("\x02abc")), uint8(0), 12, 3)
	f.Add([]byte("<~87cUR~>"), uint8(3), 1, 0)
	f.Add([]byte("\x04berth"), uint8(4), 0, -1)
	f.Fuzz(func(t *testing.T, data []byte, which uint8, predictor, columns int) {
		d := Dict{"Filter": names[int(which)%len(names)], "DecodeParms": Dict{"Predictor": int64(predictor), "Columns": int64(columns), "Colors": int64(which), "BitsPerComponent": int64(predictor)}}
		_, _ = whole.Decode(&Stream{Dict: d, Raw: data})
	})
}

// FuzzProtected opens files whose protection is described in any way: they open, or tell why not.
func FuzzProtected(f *testing.F) {
	f.Add(5, 6, 256, []byte(strings.Repeat("u", 48)), []byte(strings.Repeat("o", 48)), []byte(strings.Repeat("e", 32)), "AESV3", "reader")
	f.Add(4, 4, 128, []byte(strings.Repeat("u", 32)), []byte(strings.Repeat("o", 32)), []byte(nil), "AESV2", "")
	f.Add(2, 3, 40, []byte("short"), []byte{}, []byte{}, "V2", "owner")
	f.Add(1, 2, -8, []byte{0}, []byte{1}, []byte{2}, "", "")
	f.Fuzz(func(t *testing.T, v, r, length int, u, o, e []byte, method, password string) {
		if strings.ContainsFunc(method, func(c rune) bool { return c < 'A' || c > 'z' }) {
			return
		}
		encrypt := fmt.Sprintf("/ID [<00>] /Encrypt << /Filter /Standard /V %d /R %d /Length %d /P -44 /U <%x> /O <%x> /UE <%x> /OE <%x> /StmF /S /StrF /S /CF << /S << /CFM /%s >> >> >>", v, r, length, u, o, e, e, method)
		whole, err := Open(file(encrypt, book()...), password)
		if err == nil {
			_, _ = whole.Pages()
		}
	})
}
