package tag

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLanguages(t *testing.T) {
	for text, want := range map[string]string{
		"en": "en", "en_US": "en-US", " de-CH ": "de-CH", "zh-Hant_TW": "zh-Hant-TW", "sr-Latn": "sr-Latn", "x-quay": "x-quay", "xx-QQ": "xx-QQ",
		"": "", "  ": "", "english language": "", "en-": "", "12": "", "German": "", "deutsch": "",
	} {
		assert.Equal(t, want, Language(text), "%q", text)
	}
}
