package merge

import (
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"oliveledger/record"
)

// readSchema compiles the template's JSON Schema (2020-12). It may refer to
// other files of the folder, and to nothing else.
func (t *Template) readSchema(files fs.FS) error {
	if t.Manifest.Schema == "" {
		return nil
	}
	c := jsonschema.NewCompiler()
	c.DefaultDraft(jsonschema.Draft2020)
	c.AssertFormat()
	c.UseLoader(schemaFiles{files})
	s, err := c.Compile("olive:///" + t.Manifest.Schema)
	if err != nil {
		return fmt.Errorf("the schema %s is not valid: %w", t.Manifest.Schema, err)
	}
	t.schema = s
	return nil
}

// schemaFiles loads schemas from a template's folder.
type schemaFiles struct{ files fs.FS }

func (l schemaFiles) Load(url string) (any, error) {
	name, ok := strings.CutPrefix(url, "olive:///")
	if !ok {
		return nil, fmt.Errorf("%s is not in the template's folder", url)
	}
	f, err := l.files.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return jsonschema.UnmarshalJSON(f)
}

// meant suggests, for properties that are missing, those of the record that may be meant.
func meant(e *jsonschema.ValidationError, data map[string]any) string {
	required, ok := e.ErrorKind.(*kind.Required)
	if !ok {
		return ""
	}
	var at any = data
	for _, step := range e.InstanceLocation {
		switch x := at.(type) {
		case map[string]any:
			at = x[step]
		case []any:
			if i, err := strconv.Atoi(step); err == nil && i >= 0 && i < len(x) {
				at = x[i]
			}
		}
	}
	fields, _ := at.(map[string]any)
	var found []string
	for _, name := range required.Missing {
		if other := closest(fields, name); other != "" {
			found = append(found, strconv.Quote(other))
		}
		if name == "records" {
			found = append(found, "all records at once, as --as-one gives them")
		}
	}
	if len(found) == 0 {
		return ""
	}
	return " (did you mean " + strings.Join(found, ", ") + "?)"
}

// kinds are the types of JSON Schema in words.
var kinds = map[string]string{"array": "a list", "object": "a record", "string": "text", "number": "a number", "integer": "a whole number", "boolean": "true or false", "null": "nothing"}

// breach says in words, after what it is about, what does not suit a schema.
func breach(e jsonschema.ErrorKind, p *message.Printer) string {
	switch k := e.(type) {
	case *kind.Type:
		var want []string
		for _, name := range k.Want {
			want = append(want, kinds[name])
		}
		return " is " + kinds[k.Got] + ", and should be " + strings.Join(want, " or ")
	case *kind.Required:
		return " lacks “" + strings.Join(k.Missing, "”, “") + "”"
	case *kind.Format:
		like := ""
		if k.Want == "date" {
			like = ", such as 2026-05-31"
		}
		return fmt.Sprintf(": “%v” is no %s%s", k.Got, k.Want, like)
	}
	return ": " + e.LocalizedString(p)
}

// mostBreaches bounds how many breaches of a schema one message tells.
const mostBreaches = 5

// Check holds a record against the template's schema.
func (t *Template) Check(r record.Record) error {
	if t.schema == nil {
		return nil
	}
	data := completed(r.Data, t.given)
	err := t.schema.Validate(data)
	var v *jsonschema.ValidationError
	if !errors.As(err, &v) {
		return err
	}
	var list []string
	p := message.NewPrinter(language.English)
	var walk func(e *jsonschema.ValidationError)
	walk = func(e *jsonschema.ValidationError) {
		if len(e.Causes) == 0 {
			where := "the record"
			if len(e.InstanceLocation) > 0 {
				where = "the field “" + strings.Join(e.InstanceLocation, ".") + "”"
			}
			list = append(list, where+breach(e.ErrorKind, p)+meant(e, data))
		}
		for _, c := range e.Causes {
			walk(c)
		}
	}
	walk(v)
	more := ""
	if n := len(list); n > mostBreaches {
		list, more = list[:mostBreaches], fmt.Sprintf("; and %d more", n-mostBreaches)
	}
	return fmt.Errorf("%s does not keep to %s: %s%s", r.Name(), t.Manifest.Schema, strings.Join(list, "; "), more)
}
