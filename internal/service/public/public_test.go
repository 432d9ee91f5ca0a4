package public_test

import (
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/public"
)

var issued = public.Verdict{State: public.Genuine, Number: "QL-2026-0046", Issued: time.Date(2026, 5, 31, 9, 0, 0, 0, time.UTC), Pages: 2, SHA256: strings.Repeat("ab", 32)}

func page(t *testing.T, v public.Verdict, languages string) string {
	t.Helper()
	r := httptest.NewRequest(http.MethodGet, "/verify/code", nil)
	r.Header.Set("Accept-Language", languages)
	text, err := public.Page(v, r)
	require.NoError(t, err)
	return string(text)
}

func TestLanguages(t *testing.T) {
	for _, test := range []struct{ accepts, lang, head, day string }{
		{"", "en", "This document is genuine", "31 May 2026"},
		{"de-AT,de;q=0.9", "de", "Dieses Dokument ist echt", "31. Mai 2026"},
		{"fr", "fr", "Ce document est authentique", "31 mai 2026"},
		{"es-MX", "es", "Este documento es auténtico", "31 de mayo de 2026"},
		{"it;q=0.7,ja;q=0.5", "it", "Questo documento è autentico", "31 maggio 2026"},
		{"nl-BE", "nl", "Dit document is echt", "31 mei 2026"},
		{"ja", "en", "This document is genuine", "31 May 2026"},
		{"no header at all;;", "en", "This document is genuine", "31 May 2026"},
	} {
		t.Run(test.accepts, func(t *testing.T) {
			text := page(t, issued, test.accepts)
			assert.Contains(t, text, `<html lang="`+test.lang)
			for _, part := range []string{"<h1>" + test.head + "</h1>", test.day, "QL-2026-0046", issued.SHA256, `class="good"`} {
				assert.Contains(t, text, part)
			}
		})
	}
}

func TestStates(t *testing.T) {
	void := issued
	void.State = public.Void
	assert.Contains(t, page(t, void, "de"), "gilt aber nicht mehr")
	assert.Contains(t, page(t, void, "de"), issued.SHA256)
	unknown := page(t, public.Verdict{}, "fr")
	assert.Contains(t, unknown, "aucun document délivré ici")
	assert.NotContains(t, unknown, "SHA-256")
	assert.Contains(t, page(t, public.Verdict{State: public.Ended, Why: public.DocumentVoid}, "nl"), "Helaas: dit document is ongeldig. Vraag")
	assert.Contains(t, page(t, public.Verdict{State: public.Ended, Why: public.LinkEnded}, "en"), "Sorry: this link does not lead to a document, or has ended. Ask")
	hostile := issued
	hostile.Number = "<script>alert(1)</script>"
	assert.NotContains(t, page(t, hostile, "en"), "<script>alert")
}

// TestNothingStaysEnglish looks for texts of the page that have no translation.
func TestNothingStaysEnglish(t *testing.T) {
	source, err := os.ReadFile("page.html")
	require.NoError(t, err)
	issued := issued
	issued.Signed = []public.Signer{{Name: "Office", Holds: true}, {Name: "Another"}}
	english := page(t, issued, "en")
	list := regexp.MustCompile(`\.Say "([^"]+)"`).FindAllStringSubmatch(string(source), -1)
	require.NotEmpty(t, list)
	for _, m := range list {
		require.Contains(t, english, m[1])
		for _, lang := range []string{"de", "es", "it", "nl"} { // Pages is French, too
			assert.NotContains(t, page(t, issued, lang), ">"+m[1]+"<", lang)
		}
	}
}
