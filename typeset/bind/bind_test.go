package bind

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset"
	"oliveledger/typeset/internal/pdfread"
)

func set(t testing.TB, html string, o typeset.Options) []byte {
	t.Helper()
	var out bytes.Buffer
	_, err := typeset.Set(context.Background(), []byte(html), o, &out)
	require.NoError(t, err)
	return out.Bytes()
}

// pages of numbered text, with a heading and a link to the last.
func pages(t testing.TB, name string, n int) []byte {
	var s strings.Builder
	fmt.Fprintf(&s, `<html lang=en><title>%s</title><style>@page { size: A6; margin: 10mm } section + section { break-before: page }</style><p><a href="#end">jump</a>`, name)
	for i := 1; i <= n; i++ {
		fmt.Fprintf(&s, "<section><h1>%s%d</h1></section>", name, i)
	}
	s.WriteString("<p id=end>.")
	return set(t, s.String(), typeset.Options{})
}

func bound(t testing.TB, o Options, list ...Source) ([]byte, *Result) {
	t.Helper()
	var out bytes.Buffer
	r, err := Bind(context.Background(), list, o, &out)
	require.NoError(t, err)
	return out.Bytes(), r
}

func text(t testing.TB, pdf []byte) []string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o644))
	check, err := exec.Command("qpdf", "--check", file).CombinedOutput()
	require.NoError(t, err, "%s", check)
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	list := strings.Split(string(out), "\f")
	return list[:len(list)-1]
}

func TestPick(t *testing.T) {
	for in, want := range map[string][]int{"": {0, 1, 2, 3, 4}, "2": {1}, "1-3": {0, 1, 2}, "last": {4}, "last-1": {3}, "3-1": {2, 1, 0}, "last-1-last": {3, 4}, "1, last-2-last": {0, 2, 3, 4}, "5,1,1": {4, 0, 0}} {
		got, err := Pick(in, 5)
		require.NoError(t, err, in)
		assert.Equal(t, want, got, in)
	}
	for _, in := range []string{"0", "6", "x", "1-", "last+1", "-1", "last-9"} {
		_, err := Pick(in, 5)
		assert.Error(t, err, in)
	}
}

func TestBind(t *testing.T) {
	pdf, r := bound(t, Options{Title: "Whole", Contents: "Contents", Number: "{page} of {pages}"},
		Source{Name: "a.pdf", Data: pages(t, "a", 3)}, Source{Name: "b.pdf", Data: pages(t, "b", 4), Pages: "last,2"}, Source{Name: "c.pdf", Data: pages(t, "c", 1), Turn: 90, Title: "Turned"})
	require.Equal(t, 7, r.Pages)
	got := text(t, pdf)
	require.Len(t, got, 7)
	assert.Regexp(t, `(?s)Contents.*\ba\.+2.*\bb\.+5.*Turned\.+7`, strings.ReplaceAll(got[0], " ", ""))
	for i, want := range []string{"Contents", "a1", "a2", "a3", "b4", "b2", "c1"} {
		assert.Contains(t, got[i], want)
		assert.Contains(t, got[i], fmt.Sprintf("%d of 7", i+1))
	}
	report, err := Inspect(pdf, "")
	require.NoError(t, err)
	assert.Equal(t, "Whole", report.Title)
	assert.Equal(t, []PageSize{{report.Sizes[0].Width, report.Sizes[0].Height, 6}, {report.Sizes[0].Height, report.Sizes[0].Width, 1}}, report.Sizes)
	assert.Equal(t, 4+3+2+1, report.Outline, "an entry for each source and the headings on their pages")
}

func TestLinksLeadToTheirPages(t *testing.T) {
	whole, _ := bound(t, Options{}, Source{Name: "a", Data: pages(t, "a", 2)}, Source{Name: "b", Data: pages(t, "b", 3)})
	f, err := pdfread.Open(whole, "")
	require.NoError(t, err)
	list, err := f.Pages()
	require.NoError(t, err)
	m := newImporter(f, nil, nil)
	where := map[int]int{}
	for i, p := range list {
		where[p.Ref.Num] = i
	}
	for page, target := range map[int]int{0: 1, 2: 4} {
		annots, _ := f.Resolve(list[page].Dict["Annots"]).(pdfread.Array)
		require.Len(t, annots, 1)
		assert.Equal(t, "#"+anchor(target), m.address(f.Dict(annots[0]), where))
	}
}

func TestOverlays(t *testing.T) {
	pdf, _ := bound(t, Options{Overlays: []Overlay{{HTML: []byte("<p>PAID {page}/{pages}"), Pages: "2-last"}, {HTML: []byte("<p>under"), Under: true, Pages: "1"}}}, Source{Name: "a", Data: pages(t, "a", 3)})
	got := text(t, pdf)
	assert.NotContains(t, got[0], "PAID")
	assert.Contains(t, got[0], "under")
	assert.Contains(t, got[1], "PAID 2/3")
	assert.Contains(t, got[2], "PAID 3/3")
}

func TestProtectedSources(t *testing.T) {
	plain := pages(t, "a", 2)
	file := filepath.Join(t.TempDir(), "plain.pdf")
	require.NoError(t, os.WriteFile(file, plain, 0o644))
	for _, how := range [][]string{{"40"}, {"128", "--use-aes=n"}, {"128", "--use-aes=y"}, {"256"}} {
		sealed := file + how[0]
		args := append([]string{"--allow-weak-crypto", "--encrypt", "reader", "owner"}, how...)
		out, err := exec.Command("qpdf", append(args, "--", file, sealed)...).CombinedOutput()
		require.NoError(t, err, "%s", out)
		data, err := os.ReadFile(sealed)
		require.NoError(t, err)
		for _, password := range []string{"reader", "owner"} {
			pdf, r := bound(t, Options{Unprotected: true}, Source{Name: "a", Data: data, Password: password})
			assert.Contains(t, text(t, pdf)[1], "a2", "%v %s", how, password)
			assert.Empty(t, r.Repairs, "it is protected, not damaged")
		}
		_, err = Inspect(data, "wrong")
		assert.ErrorIs(t, err, pdfread.ErrPassword)
	}
}

// TestOwnProtectedFilesAreSound binds what was protected here: its catalog lies in
// a sealed stream.
func TestOwnProtectedFilesAreSound(t *testing.T) {
	data := set(t, "<title>t</title><p>berth", typeset.Options{Protect: &typeset.Protection{Open: "reader", Owner: "owner"}})
	_, err := Bind(context.Background(), []Source{{Name: "own.pdf", Data: data, Password: "reader"}}, Options{}, io.Discard)
	assert.ErrorIs(t, err, ErrProtected, "nothing loses its protection in silence")
	pdf, r := bound(t, Options{Unprotected: true}, Source{Name: "own.pdf", Data: data, Password: "reader"})
	assert.Contains(t, text(t, pdf)[0], "berth")
	assert.Empty(t, r.Repairs)
	report, err := Inspect(data, "reader")
	require.NoError(t, err)
	assert.True(t, report.Encrypted)
	assert.False(t, report.Damaged)
}

func TestDamagedSources(t *testing.T) {
	whole := pages(t, "a", 3)
	lost := bytes.ReplaceAll(whole, []byte("startxref"), []byte("startxxxx"))
	pdf, r := bound(t, Options{}, Source{Name: "lost.pdf", Data: lost})
	assert.Equal(t, []string{"lost.pdf"}, r.Repairs)
	assert.Contains(t, text(t, pdf)[2], "a3")
	for name, data := range map[string][]byte{"nothing": nil, "text": []byte("hello"), "half": whole[:len(whole)/2]} {
		_, err := Bind(context.Background(), []Source{{Name: name, Data: data}}, Options{}, &bytes.Buffer{})
		assert.ErrorContains(t, err, name)
	}
}

func TestInspect(t *testing.T) {
	r, err := Inspect(set(t, `<html lang=de><title>Grüße</title><h1>Eins</h1><p><i>kursiv</i>`, typeset.Options{Archive: typeset.Archive3, Attach: []typeset.Attachment{{Name: "a.txt", Data: []byte("four")}}}), "")
	require.NoError(t, err)
	assert.Equal(t, "Grüße", r.Title)
	assert.Equal(t, "de", r.Language)
	assert.True(t, r.Tagged)
	assert.Equal(t, []string{"PDF/A-3u", "PDF/UA-1"}, r.Standards)
	assert.Equal(t, []Attachment{{"a.txt", 4}}, r.Attachments)
	assert.Equal(t, 1, r.Outline)
	require.NotEmpty(t, r.Fonts)
	for _, f := range r.Fonts {
		assert.True(t, f.Embedded && f.Subset, f.Name)
	}
}

// FuzzRead reads files that were changed at random: reading ends, with an
// error or without one.
func FuzzRead(f *testing.F) {
	whole := pages(f, "a", 2)
	f.Add(whole)
	f.Add(bytes.ReplaceAll(whole, []byte("startxref"), []byte("x")))
	f.Add([]byte("%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj 2 0 obj<</Kids[2 0 R 3 0 R]/Count 1>>endobj 3 0 obj<</Type/Page/Contents 4 0 R/MediaBox[0 0 9 9]>>endobj 4 0 obj<</Length 3>>stream\nq Q\nendstream endobj trailer<</Root 1 0 R>>"))
	f.Fuzz(func(t *testing.T, data []byte) {
		if _, err := Inspect(data, ""); err != nil {
			return
		}
		_, _ = Bind(context.Background(), []Source{{Name: "x", Data: data}}, Options{}, &bytes.Buffer{})
	})
}

// Documents that were made alike share their fonts and pictures in the whole.
func TestSourcesShareWhatIsAlike(t *testing.T) {
	picture := "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="
	var list []Source
	for i := range 20 {
		page := fmt.Sprintf(`<title>Bill %d</title><p>the quick brown fox jumps over the lazy dog, number %d<img alt=x src="%s">`, i, i, picture)
		list = append(list, Source{Name: "bill", Data: set(t, page, typeset.Options{})})
	}
	var out bytes.Buffer
	_, err := Bind(context.Background(), list, Options{}, &out)
	require.NoError(t, err)
	f, err := pdfread.Open(out.Bytes(), "")
	require.NoError(t, err)
	fonts, pictures := map[pdfread.Object]bool{}, map[pdfread.Object]bool{}
	pages, err := f.Pages()
	require.NoError(t, err)
	require.Len(t, pages, 20)
	for _, p := range pages {
		inside := f.Dict(p.Dict["Resources"])
		for _, font := range f.Dict(inside["Font"]) {
			kids := f.Resolve(f.Dict(font)["DescendantFonts"]).(pdfread.Array)
			fonts[f.Dict(f.Dict(kids[0])["FontDescriptor"])["FontFile2"]] = true
		}
		for _, picture := range f.Dict(inside["XObject"]) {
			pictures[picture] = true
		}
	}
	assert.Len(t, fonts, 1)
	assert.Len(t, pictures, 1)
	assert.Less(t, out.Len(), len(list[0].Data)*3, "twenty documents take hardly more than one")
}

// A page on which nothing is laid stands in the whole as it is: its contents are the page's, and its
// marked content belongs to the page's elements. What is laid on it stands beside it in a form.
func TestPagesStandAsTheyAre(t *testing.T) {
	bill := Source{Name: "bill", Data: set(t, `<html lang=en><title>Bill</title><h1>Berth 12</h1><p>Due in May`, typeset.Options{})}
	bound := func(o Options) (page pdfread.Dict, report *Report) {
		var out bytes.Buffer
		_, err := Bind(context.Background(), []Source{bill, bill}, o, &out)
		require.NoError(t, err)
		f, err := pdfread.Open(out.Bytes(), "")
		require.NoError(t, err)
		pages, err := f.Pages()
		require.NoError(t, err)
		require.Len(t, pages, 2)
		report, err = Inspect(out.Bytes(), "")
		require.NoError(t, err)
		return pages[1].Dict, report
	}
	plain, report := bound(Options{})
	resources := plain["Resources"].(pdfread.Dict)
	assert.Contains(t, resources, pdfread.Name("Font"))
	assert.NotContains(t, resources, pdfread.Name("XObject"))
	assert.Contains(t, plain, pdfread.Name("StructParents"))
	assert.True(t, report.Tagged)
	assert.Contains(t, report.Standards, "PDF/UA-1")
	laid, _ := bound(Options{Overlays: []Overlay{{HTML: []byte("<p>Copy")}}})
	assert.Contains(t, laid["Resources"].(pdfread.Dict), pdfread.Name("XObject"))
}

// What leads back to itself is not taken for something else.
func TestDigestsOfCycles(t *testing.T) {
	open := func(other string) *importer {
		file := "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj 2 0 obj<</Type/Pages/Count 0/Kids[]>>endobj 3 0 obj<</Next 4 0 R/A(x)>>endobj 4 0 obj<</Next 3 0 R>>endobj " +
			"5 0 obj<</B 6 0 R/A(x)/C[1 2.5 true null/N]>>endobj 6 0 obj<</V(" + other + ")>>endobj 7 0 obj<</P 1 0 R>>endobj trailer<</Root 1 0 R/Size 8>>"
		f, err := pdfread.Open([]byte(file), "")
		require.NoError(t, err)
		return newImporter(f, nil, nil)
	}
	a, b, c := open("same"), open("same"), open("other")
	for _, cyclic := range []int{3, 4, 7} {
		_, ok := a.digestOf(pdfread.Ref{Num: cyclic}, 0)
		assert.False(t, ok, cyclic)
	}
	first, ok := a.digestOf(pdfread.Ref{Num: 5}, 0)
	assert.True(t, ok)
	same, _ := b.digestOf(pdfread.Ref{Num: 5}, 0)
	other, _ := c.digestOf(pdfread.Ref{Num: 5}, 0)
	assert.Equal(t, first, same)
	assert.NotEqual(t, first, other, "what it refers to differs")
}

// FuzzPick holds that only pages that there are can be picked.
func FuzzPick(f *testing.F) {
	f.Add("1-3,last,last-2-1", 5)
	f.Add("3-1", 3)
	f.Fuzz(func(t *testing.T, text string, n int) {
		n = max(n%100, 0)
		list, err := Pick(text, n)
		for _, p := range list {
			if err == nil && (p < 0 || p >= n) {
				t.Errorf("%q of %d pages picks %d", text, n, p)
			}
		}
	})
}
