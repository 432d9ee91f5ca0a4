package merge

import (
	"bytes"
	"encoding/base64"
	"errors"
	"fmt"
	"html/template"
	"image"
	_ "image/gif"  // that pictures in records may be GIF,
	_ "image/jpeg" // JPEG
	_ "image/png"  // and PNG
	"net/url"
	"strings"

	"github.com/microcosm-cc/bluemonday"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	_ "golang.org/x/image/webp" // or WebP
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// link lets the address of a record through when it is one of the web, of mail
// or of a telephone.
func link(value any) (template.URL, error) {
	v, err := textOf(value)
	if err != nil {
		return "", err
	}
	u, err := url.Parse(strings.TrimSpace(v))
	if err != nil {
		return "", fmt.Errorf("%q is no address", v)
	}
	switch u.Scheme {
	case "http", "https":
		if u.Host == "" {
			return "", fmt.Errorf("%q is no address", v)
		}
	case "mailto", "tel":
	default:
		return "", fmt.Errorf("%q is not an address; https:, http:, mailto: or tel: begins one", v)
	}
	return template.URL(u.String()), nil
}

// maxPicture bounds a picture in a record, in bytes.
const maxPicture = 16 << 20

// picture gives the address of a picture that a record holds: a data: address,
// bare Base64, or the name of a file of the template. It must be PNG, JPEG, GIF
// or WebP.
func (t *tools) picture(v any) (template.URL, error) {
	s, ok := v.(string)
	if !ok || strings.TrimSpace(s) == "" {
		return "", errors.New("there is no picture in the field")
	}
	text := strings.TrimSpace(s)
	if head, data, ok := strings.Cut(text, ","); ok && strings.HasPrefix(head, "data:") {
		if !strings.HasPrefix(head, "data:image/") || !strings.HasSuffix(head, ";base64") {
			return "", errors.New("the field holds data that is no picture in Base64")
		}
		text = data
	} else if len(text) < 200 && strings.Contains(text, ".") {
		return t.asset(text)
	}
	if len(text) > maxPicture/3*4 {
		return "", fmt.Errorf("the picture is larger than %d MiB", maxPicture>>20)
	}
	raw, err := base64.StdEncoding.DecodeString(strings.Join(strings.Fields(text), ""))
	if err != nil {
		return "", errors.New("the picture is not valid Base64")
	}
	_, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return "", errors.New("the picture is neither PNG, JPEG, GIF nor WebP, or is damaged")
	}
	return template.URL("data:image/" + format + ";base64," + base64.StdEncoding.EncodeToString(raw)), nil
}

// signature is a picture that stays inside the box around it.
func (t *tools) signature(v any) (template.HTML, error) {
	address, err := t.picture(v)
	if err != nil {
		return "", err
	}
	return template.HTML(`<img class="signature" alt="Signature" src="` + html.EscapeString(string(address)) + `" style="display:block;max-width:100%;max-height:100%;width:100%;height:100%;object-fit:contain;object-position:left bottom">`), nil
}

// formatted lets formatted text through: elements of text, lists and tables. What could
// act or load something is left out.
var formatted = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	p.AllowElements("abbr", "b", "blockquote", "br", "code", "dd", "del", "div", "dl", "dt", "em", "h1", "h2", "h3", "h4", "h5", "h6", "hr", "i", "ins", "li", "p", "pre", "q", "s", "small", "strong", "sub", "sup", "u", "ul")
	p.AllowTables()
	p.AllowNoAttrs().OnElements("a", "span", "ol")
	p.AllowAttrs("class", "dir", "lang", "title").Globally()
	p.AllowAttrs("start").OnElements("ol")
	p.AllowAttrs("href").OnElements("a")
	p.AllowURLSchemes("http", "https", "mailto", "tel")
	p.RequireParseableURLs(true)
	return p
}()

// cleanHTML lets formatted text of a record through.
func cleanHTML(v any) (template.HTML, error) {
	text, err := textOf(v)
	if err != nil {
		return "", err
	}
	return balanced(formatted.Sanitize(text))
}

// balanced closes what the text leaves open, so that it ends in its own place on the page.
func balanced(text string) (template.HTML, error) {
	nodes, err := html.ParseFragment(strings.NewReader(text), &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div})
	var out strings.Builder
	for _, n := range nodes {
		err = errors.Join(err, html.Render(&out, n))
	}
	return template.HTML(out.String()), err
}

var commonMark = goldmark.New(goldmark.WithExtensions(extension.Table, extension.Strikethrough))

// markdown turns CommonMark into HTML; HTML that stands in it is left out.
func markdown(v any) (template.HTML, error) {
	text, err := textOf(v)
	if err != nil {
		return "", err
	}
	var out bytes.Buffer
	if err := commonMark.Convert([]byte(text), &out); err != nil {
		return "", err
	}
	return cleanHTML(out.String())
}
