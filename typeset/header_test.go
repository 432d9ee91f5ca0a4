package typeset

import (
	"context"
	"io"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHeaderFillsInItsWords(t *testing.T) {
	o := Options{
		Paper: "A5", Title: "Berths", Date: time.Date(2026, 5, 31, 0, 0, 0, 0, time.UTC),
		Header: "{title} | made {date} | {date:02.01.2006}", Footer: "{page} of {pages} {}",
	}
	pdf, doc := pdfOf(t, `<html lang=en><p>text`, o)
	text := textOf(t, pdf)[0]
	for _, want := range []string{"Berths", "made 2026-05-31", "31.05.2026", "1 of 1 {}"} {
		assert.Contains(t, text, want)
	}
	assert.Empty(t, doc.Findings)
	pdf, _ = pdfOf(t, `<p>text`, Options{Header: "{date}"})
	assert.Contains(t, textOf(t, pdf)[0], time.Now().Format("2006-01-"))
}

func TestOptionsThatCannotBeUsed(t *testing.T) {
	for want, o := range map[string]Options{
		`header: {pagenumber} is not known`: {Header: "{pagenumber}"},
		`footer: "a|b|c|d" has 4 parts`:     {Footer: "a|b|c|d"},
		`header: {page} takes no format`:    {Header: "{page:03}"},
		`paper: "B99" is not a page size`:   {Paper: "B99"},
		`margins: "wide"`:                   {Margins: "wide"},
		`archive: the profile "PDF/X"`:      {Archive: "PDF/X"},
		`region: ">" is not a selector`:     {Selector: ">"},
	} {
		_, err := Set(context.Background(), []byte(`<p>x`), o, io.Discard)
		var option *OptionError
		require.ErrorAs(t, err, &option, want)
		assert.ErrorContains(t, err, want)
	}
}

// What an option takes the place of is told, and nothing else.
func TestOptionsTellWhatTheyReplace(t *testing.T) {
	page := `<style>@page { size: A5; margin-left: 3cm; @top-left { content: "own" } @bottom-center { content: none } }</style>x`
	for message, o := range map[string]Options{
		"": {Footer: "x | | y"},
		"the option paper replaces the size of the page's own @page rules":       {Paper: "A6"},
		"the option margins replaces the margin of the page's own @page rules":   {Margins: "1cm"},
		"the option header replaces the @top-left of the page's own @page rules": {Header: "a | b | c"},
	} {
		_, doc := pdfOf(t, page, o)
		var told []string
		for _, f := range doc.Findings {
			if f.Code == "option-wins" {
				told = append(told, f.Message)
			}
		}
		if message == "" {
			assert.Empty(t, told)
		} else {
			assert.Equal(t, []string{message}, told)
		}
	}
	_, doc := pdfOf(t, `x`, Options{Paper: "A6", Margins: "1cm", Header: "a"})
	assert.Empty(t, doc.Findings)
}

func TestMarginsWithoutRoomAreAnError(t *testing.T) {
	for _, o := range []Options{{Margins: "200mm"}, {Paper: "A6", Margins: "0 60mm"}} {
		_, err := Set(context.Background(), []byte(`<p>x`), o, io.Discard)
		require.ErrorContains(t, err, "the margins leave no room on the page")
		assert.ErrorContains(t, err, "mm")
	}
}

func TestAdviceFitsWhatWentWrong(t *testing.T) {
	files := Files{"pages/page.html": nil}
	for html, want := range map[string]string{
		`<img src="https://harbour.example/logo.png">`:          "allow its host with --allow-host",
		`<img src="../../logo.png">`:                            "it lies outside the folder; widen that with --within",
		`<img src="../logo.png">`:                               "check the address",
		`<img src="logo.png">`:                                  "check the address",
		`<link rel=stylesheet href="../../a.css">x`:             "it lies outside the folder",
		`<link rel=stylesheet href="//harbour.example/a.css">x`: "allow its host",
	} {
		_, doc := pdfOf(t, html, Options{Name: "pages/page.html", Loader: files})
		var advice []string
		for _, f := range doc.Findings {
			if f.Code != "alt-missing" {
				advice = append(advice, f.Advice)
			}
		}
		if assert.Len(t, advice, 1, html) {
			assert.Contains(t, advice[0], want, html)
		}
	}
}

// A family that is not at hand is told once, unless what is named after it has the same
// widths or is the reader's own choice.
func TestReplacedFontsAreTold(t *testing.T) {
	for css, want := range map[string]string{
		`font-family: "Harbour Sans", sans-serif`:        "the font “Harbour Sans” is not at hand; its text is set in Liberation Sans",
		`font-family: Lantern, Quay`:                     "the font “Lantern” is not at hand; its text is set in Liberation Serif",
		`font-family: "Harbour Sans", Arial, sans-serif`: "",
		`font-family: system-ui, "Harbour Sans"`:         "",
		`font-family: Arial`:                             "",
	} {
		_, doc := pdfOf(t, `<p style='`+css+`'>one<p style='`+css+`;font-weight:700'>two`, Options{})
		var told []string
		for _, f := range doc.Findings {
			if f.Code == "font-replaced" {
				told = append(told, f.Message)
			}
		}
		if want == "" {
			assert.Empty(t, told, css)
		} else {
			assert.Equal(t, []string{want}, told, css)
		}
	}
}

func TestFormulasAreTold(t *testing.T) {
	_, doc := pdfOf(t, `<p>x <math><mi>a</mi><mo>=</mo><mn>2</mn></math> <math><mn>3</mn></math>`, Options{})
	require.Len(t, doc.Findings, 1)
	assert.Equal(t, "math-plain", doc.Findings[0].Code)
}

const threePages = `<!DOCTYPE html><title>Notes</title><body><p>one<p style="break-before:page">two<p style="break-before:page">three`

func TestFirstPageHasItsOwnHeader(t *testing.T) {
	pdf, _ := pdfOf(t, threePages, Options{Paper: "A6", Header: "H{page} | | right", FirstHeader: "cover", Footer: "F", FirstFooter: "none"})
	text := textOf(t, pdf)
	assert.Contains(t, text[0], "cover")
	assert.NotContains(t, text[0], "H1")
	assert.NotContains(t, text[0], "right")
	assert.NotContains(t, text[0], "F")
	for _, want := range []string{"H2", "right", "F"} {
		assert.Contains(t, text[1], want)
	}
	_, err := Set(context.Background(), []byte("x"), Options{FirstHeader: "{sheet}"}, io.Discard)
	assert.ErrorContains(t, err, "header: {sheet} is not known")
}

func TestHeaderOfHTML(t *testing.T) {
	o := Options{Paper: "A6", HeaderHTML: "<style>\n.own { color: red }</style>\n<b class=own>Harbour</b> {page}/{pages} {date}", Footer: "foot", Date: time.Date(2026, 5, 31, 0, 0, 0, 0, time.UTC)}
	for _, page := range []string{threePages, strings.TrimPrefix(threePages, "<!DOCTYPE html>"), strings.Replace(threePages, "<body>", "", 1), strings.Replace(threePages, "<body>", "<body class='x'\n>", 1)} {
		pdf, doc := pdfOf(t, page, o)
		text := textOf(t, pdf)
		require.Len(t, text, 3, page)
		assert.Contains(t, text[0], "Harbour 1/3 2026-05-31")
		assert.Contains(t, text[2], "Harbour 3/3")
		assert.Contains(t, text[1], "foot")
		assert.NotContains(t, text[1], "one")
		assert.Equal(t, "Notes", doc.Title)
	}
	_, doc := pdfOf(t, "<!DOCTYPE html><html><body>\n<p style='colour: red'>x", o)
	require.Len(t, doc.Findings, 1)
	assert.Equal(t, 2, doc.Findings[0].Line, "the lines stay what they are")
}

func TestRulesInTheMargins(t *testing.T) {
	lines := func(o Options) int {
		o.Paper = "A6"
		pdf, _ := pdfOf(t, "<p>x", o)
		contents := tool(t, pdf, "qpdf", "--qdf", "--object-streams=disable", "FILE", "-")
		return len(regexp.MustCompile(` 0\.6[67] re`).FindAllString(contents, -1)) // as high as half a point
	}
	none := lines(Options{Header: "a | b | c", Footer: "f"})
	assert.Greater(t, lines(Options{Header: "a | b | c", HeaderRule: true, Footer: "f"}), none)
	assert.Greater(t, lines(Options{FooterRule: true}), lines(Options{}), "also without text")
}
