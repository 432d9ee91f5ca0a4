package tag

import (
	"errors"
	"strings"

	"golang.org/x/text/language"
)

// Language is the tag of a language as files tell it (BCP 47): what systems write as en_US is en-US. It is empty for
// what is no tag.
func Language(text string) string {
	if text = strings.ReplaceAll(strings.TrimSpace(text), "_", "-"); text == "" {
		return ""
	}
	var unknown language.ValueError // well-formed, though nobody has registered it
	if _, err := language.Raw.Parse(text); err != nil && !errors.As(err, &unknown) {
		return ""
	}
	return text
}
