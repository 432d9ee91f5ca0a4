package pagecopy

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// site holds files by their addresses, and counts how often each is asked for.
type site struct {
	files map[string]string
	asked map[string]int
}

func (s *site) Load(_ context.Context, address string) ([]byte, error) {
	if s.asked == nil {
		s.asked = map[string]int{}
	}
	s.asked[address]++
	if text, ok := s.files[address]; ok {
		return []byte(text), nil
	}
	return nil, errors.New("it is not there")
}

func fetch(t *testing.T, s *site, address string) *Copy {
	t.Helper()
	c, err := Fetch(context.Background(), s, address)
	require.NoError(t, err)
	return c
}

func TestPageWithItsFiles(t *testing.T) {
	s := &site{files: map[string]string{
		"https://quay.example/docs/page.html":    `<title> Berth </title><base href="/look/"><link rel=stylesheet href="Main.css?v=2"><link rel=icon href=i.ico><style>p { background: url(sea.png) }</style><img src="sea.png#top"><img src="data:image/png;base64,AA"><img src="sub/sea.png"><a href="other.html">x</a>`,
		"https://quay.example/look/Main.css?v=2": `@import "more.css"; @import url('more.css'); b { background: url( "../sea.png" ), url(#in) } i { background: url() }`,
		"https://quay.example/look/more.css":     `@font-face { src: url(face.woff2) } @import "Main.css?v=2";`,
		"https://quay.example/look/sea.png":      "look", "https://quay.example/sea.png": "root", "https://quay.example/look/sub/sea.png": "sub",
		"https://quay.example/look/face.woff2": "face",
	}}
	c := fetch(t, s, "https://quay.example/docs/page.html")
	assert.Equal(t, "Berth", c.Title)
	assert.Empty(t, c.Notes)
	texts := map[string]string{}
	for name, data := range c.Files {
		texts[name] = string(data)
	}
	page := texts[PageFile]
	delete(texts, PageFile)
	assert.Equal(t, map[string]string{
		"main.css":   `@import "more.css"; @import url("more.css"); b { background: url("sea.png"), url(#in) } i { background: url() }`,
		"more.css":   `@font-face { src: url("face.woff2") } @import "main.css";`,
		"face.woff2": "face", "sea.png": "root", "sea-2.png": "look", "sea-3.png": "sub",
	}, texts)
	assert.NotContains(t, page, "<base")
	for _, part := range []string{`href="main.css"`, `url("sea-2.png")`, `<img src="sea-2.png"/>`, `<img src="sea-3.png"/>`, `src="data:image/png;base64,AA"`, `href="i.ico"`, `href="other.html"`} {
		assert.Contains(t, page, part)
	}
	for address, n := range s.asked {
		assert.Equal(t, 1, n, address)
	}
}

func TestWhatCannotBeBrought(t *testing.T) {
	var many strings.Builder
	s := &site{files: map[string]string{"http://quay.example/big.png": strings.Repeat("x", mostBytes)}}
	many.WriteString(`<img src=lost.png><img src=lost.png><img src=big.png>`)
	for i := range mostFiles + 1 {
		fmt.Fprintf(&many, "<img src=%d.png>", i)
		s.files[fmt.Sprintf("http://quay.example/%d.png", i)] = ""
	}
	s.files["http://quay.example/"] = many.String()
	c := fetch(t, s, "http://quay.example/")
	assert.Len(t, c.Files, 1, "once the size is passed nothing more is brought")
	assert.Equal(t, "http://quay.example/lost.png was not brought: it is not there", c.Notes[0])
	assert.Equal(t, "http://quay.example/big.png was not brought: a page may bring 24 MB", c.Notes[1])
	assert.Contains(t, string(c.Files[PageFile]), `<img src="http://quay.example/lost.png"/>`, "it keeps its address")

	delete(s.files, "http://quay.example/big.png")
	c = fetch(t, s, "http://quay.example/")
	assert.Len(t, c.Files, mostFiles+1, "with the page")
	assert.Contains(t, c.Notes[len(c.Notes)-1], fmt.Sprintf("http://quay.example/%d.png was not brought: a page may bring %d files", mostFiles, mostFiles))
}

func TestPagesThatCannotBeHad(t *testing.T) {
	_, err := Fetch(context.Background(), &site{}, "page.html")
	assert.ErrorContains(t, err, "“page.html” is not an address such as https://")
	_, err = Fetch(context.Background(), &site{}, "https://quay.example/")
	assert.EqualError(t, err, "it is not there")
	ended, end := context.WithCancel(context.Background())
	end()
	_, err = Fetch(ended, &site{files: map[string]string{"https://quay.example/": "x"}}, "https://quay.example/")
	assert.ErrorIs(t, err, context.Canceled)
}

func FuzzFetch(f *testing.F) {
	f.Add(`<link rel=stylesheet href=a.css><style>@import 'b'</style>`, `a { b: url(c) }`)
	f.Fuzz(func(t *testing.T, page, sheet string) {
		s := &site{files: map[string]string{"http://a/": page, "http://a/a.css": sheet, "http://a/b": sheet}}
		_, err := Fetch(context.Background(), s, "http://a/")
		require.NoError(t, err)
	})
}
