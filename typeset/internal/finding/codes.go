package finding

// Codes are all codes of findings. docs/findings.md says what each means.
var Codes = []string{
	// the template and its records
	"template", "sample", "record", "file-name", "page", "field-unused", "total-differs",
	// what is loaded
	"sheet-missing", "sheet-skipped", "picture-missing", "font-missing", "font-replaced", "script", "details-closed", "nesting", "math-plain",
	// style
	"css-syntax", "css-selector", "css-unsupported", "css-value", "variable-unset", "hyphens-language", "option-wins", "sum-value", "target-missing",
	// text
	"glyph-missing", "face-synthetic", "face-pictures", "control-character", "contrast-low",
	// pages
	"content-wide", "content-fitted", "content-cut", "content-over", "content-off", "picture-coarse", "line-thin", "gap", "heading-alone", "margin-cut", "row-tall", "page-empty", "page-blank", "fit-pages",
	// readers aloud
	"alt-missing", "link-lost", "access-unclaimed",
}
