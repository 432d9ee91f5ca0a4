package pdf_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/pdf"
	"oliveledger/typeset/internal/pdfread"
)

// manyObjects writes a document whose catalog leads to objects of several shapes, and gives
// what each should be.
func manyObjects(t *testing.T, n int) (file []byte, want map[int]string) {
	t.Helper()
	var out bytes.Buffer
	w := pdf.New(&out)
	w.AddPage(100, 100)
	want = map[int]string{}
	put := func(body string) {
		id := w.Alloc()
		w.RawObject(id, body)
		want[int(id)] = body
	}
	for i := range n {
		put(fmt.Sprintf("<</S/TD/P %d 0 R/K %d>>", i/5*6, i%97)) // their numbers grow longer and shorter again
		if i%5 == 4 {
			put(fmt.Sprintf("<</S/TR/K[%d 0 R %d 0 R %d 0 R]>>", i, i+1, i+2))
		}
		if i%50 == 0 {
			put("[" + strings.TrimSpace(strings.Repeat(fmt.Sprintf("%d 0 R ", 100+i), 20+i%7)) + "]")
			put("[null " + fmt.Sprintf("%d 0 R]", i))
			put(fmt.Sprintf("<</Title(%s)>>", strings.Repeat("x", i%30)))
			put(fmt.Sprintf("[%d 0.5]", i))
			put("(a string)")
		}
	}
	require.NoError(t, w.Close())
	return out.Bytes(), want
}

// Objects that are packed among their like are read back, by us and by others.
func TestObjectsAlike(t *testing.T) {
	for _, n := range []int{1, 20, 300, 3000} {
		file, want := manyObjects(t, n)
		f, err := pdfread.Open(file, "")
		require.NoError(t, err)
		assert.False(t, f.Rebuilt, n)
		path := filepath.Join(t.TempDir(), "x.pdf")
		require.NoError(t, os.WriteFile(path, file, 0o600))
		said, err := exec.Command("qpdf", "--check", path).CombinedOutput()
		require.NoError(t, err, string(said))
		shown, err := exec.Command("qpdf", "--object-streams=disable", "--preserve-unreferenced", "--static-id", "--qdf", "--no-original-object-ids", path, "-").Output()
		require.NoError(t, err)
		assert.Contains(t, string(shown), "/S /TD")
		for id, body := range want {
			got := f.Resolve(pdfread.Ref{Num: id})
			assert.Equal(t, body, plain(got), "object %d of %d", id, n)
		}
	}
}

// Very many kinds of a few objects each are too little for streams of their own; together they are more than one stream
// can number.
func TestVeryManyKinds(t *testing.T) {
	var out bytes.Buffer
	w := pdf.New(&out)
	w.AddPage(100, 100)
	letters := strings.NewReplacer("0", "a", "1", "b", "2", "c", "3", "d", "4", "e", "5", "f", "6", "g", "7", "h", "8", "i", "9", "j")
	last := map[int]int64{}
	for n := range 17 {
		for kind := range 4096 {
			id := w.Alloc()
			w.RawObject(id, fmt.Sprintf("<</K%s %d>>", letters.Replace(strconv.Itoa(kind)), n))
			last[int(id)] = int64(n)
		}
	}
	require.NoError(t, w.Close())
	f, err := pdfread.Open(out.Bytes(), "")
	require.NoError(t, err)
	assert.False(t, f.Rebuilt)
	wrong := 0
	for id, n := range last {
		for _, v := range f.Dict(pdfread.Ref{Num: id}) {
			if v != n {
				wrong++
			}
			delete(last, id)
		}
	}
	assert.Zero(t, wrong)
	for _, m := range regexp.MustCompile(`/Type/ObjStm/N (\d+)`).FindAllSubmatch(out.Bytes(), -1) {
		n, err := strconv.Atoi(string(m[1]))
		require.NoError(t, err)
		assert.LessOrEqual(t, n, 1000, "readers hold a stream to find one object in it, and places in it have two bytes")
	}
	assert.Empty(t, last, "objects that are not there")
}

// plain writes an object as the test wrote it.
func plain(o pdfread.Object) string {
	switch o := o.(type) {
	case pdfread.Dict:
		if title, ok := o["Title"].(pdfread.String); ok {
			return fmt.Sprintf("<</Title(%s)>>", string(title))
		}
		s := "<</S/" + string(o["S"].(pdfread.Name))
		if p, ok := o["P"].(pdfread.Ref); ok {
			s += fmt.Sprintf("/P %d 0 R", p.Num)
		}
		if list, ok := o["K"].(pdfread.Array); ok {
			return s + "/K" + plain(list) + ">>"
		}
		return s + fmt.Sprintf("/K %v>>", o["K"])
	case pdfread.Array:
		var list []string
		for _, v := range o {
			switch v := v.(type) {
			case pdfread.Ref:
				list = append(list, fmt.Sprintf("%d 0 R", v.Num))
			case nil:
				list = append(list, "null")
			default:
				list = append(list, fmt.Sprint(v))
			}
		}
		return "[" + strings.Join(list, " ") + "]"
	case pdfread.String:
		return "(" + string(o) + ")"
	}
	return fmt.Sprint(o)
}

// A thousand cells are a few bytes each, though their numbers differ.
func TestObjectsAlikeAreSmall(t *testing.T) {
	few, want := manyObjects(t, 1000)
	many, all := manyObjects(t, 11000)
	each := float64(len(many)-len(few)) / float64(len(all)-len(want))
	assert.Less(t, each, 6.0, "bytes for an object")
}
