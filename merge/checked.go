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

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	_ "golang.org/x/image/webp" // or WebP
	"golang.org/x/net/html"
)

// link lets the address of a record through when it is one of the web, of mail
// or of a telephone.
func link(v string) (template.URL, error) {
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
		return "", fmt.Errorf("%q is not an address that begins with https:, http:, mailto: or tel:", v)
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

// Elements that formatted text in a record may hold.
var textElements = map[string]bool{"a": true, "abbr": true, "b": true, "blockquote": true, "br": true, "code": true, "dd": true, "del": true, "div": true, "dl": true, "dt": true, "em": true,
	"h1": true, "h2": true, "h3": true, "h4": true, "h5": true, "h6": true, "hr": true, "i": true, "ins": true, "li": true, "ol": true, "p": true, "pre": true, "q": true, "s": true, "small": true, "span": true,
	"strong": true, "sub": true, "sup": true, "table": true, "tbody": true, "td": true, "tfoot": true, "th": true, "thead": true, "tr": true, "u": true, "ul": true}

// Attributes that they may have.
var textAttributes = map[string]bool{"class": true, "colspan": true, "dir": true, "lang": true, "rowspan": true, "start": true, "title": true}

// cleanHTML lets formatted text of a record through: elements of text, lists and
// tables. Scripts, styles, frames, forms and pictures are left out with all that
// is in them; other elements lose their tags.
func cleanHTML(v string) (template.HTML, error) {
	var out strings.Builder
	z := html.NewTokenizer(strings.NewReader(v))
	var open []string
	hidden := ""
	for {
		switch z.Next() {
		case html.ErrorToken:
			for i := len(open) - 1; i >= 0; i-- {
				out.WriteString("</" + open[i] + ">")
			}
			return template.HTML(out.String()), nil
		case html.TextToken:
			if hidden == "" {
				out.WriteString(html.EscapeString(string(z.Text())))
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			t := z.Token()
			switch {
			case hidden != "":
			case t.Data == "script" || t.Data == "style" || t.Data == "iframe" || t.Data == "object" || t.Data == "template" || t.Data == "svg" || t.Data == "math" || t.Data == "textarea" || t.Data == "select":
				if t.Type == html.StartTagToken {
					hidden = t.Data
				}
			case textElements[t.Data]:
				out.WriteString(cleanTag(t))
				if t.Data != "br" && t.Data != "hr" {
					open = append(open, t.Data)
				}
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			if hidden != "" {
				if string(name) == hidden {
					hidden = ""
				}
				continue
			}
			for i := len(open) - 1; i >= 0; i-- {
				if open[i] != string(name) {
					continue
				}
				for k := len(open) - 1; k >= i; k-- {
					out.WriteString("</" + open[k] + ">")
				}
				open = open[:i]
				break
			}
		}
	}
}

func cleanTag(t html.Token) string {
	var b strings.Builder
	b.WriteString("<" + t.Data)
	for _, a := range t.Attr {
		value := a.Val
		if t.Data == "a" && a.Key == "href" {
			address, err := link(value)
			if err != nil {
				continue
			}
			value = string(address)
		} else if !textAttributes[a.Key] {
			continue
		}
		fmt.Fprintf(&b, ` %s="%s"`, a.Key, html.EscapeString(value))
	}
	b.WriteString(">")
	return b.String()
}

var commonMark = goldmark.New(goldmark.WithExtensions(extension.Table, extension.Strikethrough))

// markdown turns CommonMark into HTML; HTML that stands in it is left out.
func markdown(v string) (template.HTML, error) {
	var out bytes.Buffer
	if err := commonMark.Convert([]byte(v), &out); err != nil {
		return "", err
	}
	return cleanHTML(out.String())
}
