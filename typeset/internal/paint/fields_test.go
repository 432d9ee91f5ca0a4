package paint

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/typeset/internal/display"
	"oliveledger/typeset/internal/markup"
)

// What a control asks for, and what it is called to those who cannot see its place.
func TestControls(t *testing.T) {
	options := [][2]string{{"1", "one"}, {"two", "two"}, {"three", "three"}}
	const list = "<option value=1>one<option>two<option>three"
	const chosen = "<option value=1 selected>one<option>two<option selected>three"
	for html, want := range map[string]display.Field{
		"<input name=a value=b maxlength=9 required>":               {Name: "a", Value: "b", Label: "a", MaxLength: 9, Required: true},
		"<input id=a readonly maxlength=x>":                         {Name: "a", Label: "a", ReadOnly: true},
		"<input disabled>":                                          {ReadOnly: true},
		"<input type=Password name=p value=secret>":                 {Name: "p", Label: "p", Password: true},
		"<input type=checkbox name=c checked title=Tick>":           {Kind: display.CheckField, Name: "c", Label: "Tick", Checked: true},
		"<label>Sort <input type=radio name=r value=Off></label>":   {Kind: display.RadioField, Name: "r", Value: "Off", Label: "Sort"},
		"<textarea name=t>\nlong\ntext</textarea>":                  {Name: "t", Value: "long\ntext", Label: "t", Multiline: true},
		"<label>Size <select>" + list + "</select> of boat</label>": {Kind: display.ChoiceField, Label: "Size of boat", Options: options, Chosen: []int{0}},
		"<select aria-label=S>" + chosen + "</select>":              {Kind: display.ChoiceField, Label: "S", Options: options, Chosen: []int{2}},
		"<select multiple title=M>" + chosen + "</select>":          {Kind: display.ChoiceField, Label: "M", Options: options, Chosen: []int{0, 2}, List: true, Several: true},
		"<select size=2>" + list + "</select>":                      {Kind: display.ChoiceField, Options: options, List: true},
		"<select size=1></select>":                                  {Kind: display.ChoiceField},
		"<input id=x name=n><label for=y>no</label><label for=x>For <b>x</b><textarea>not this</textarea></label>": {Name: "n", Label: "For x"},
	} {
		doc, err := markup.ParseHTML([]byte("<body>" + html))
		require.NoError(t, err)
		n := doc.Find("input")
		for _, name := range []string{"select", "textarea"} {
			if n == nil {
				n = doc.Find(name)
			}
		}
		got, ok := control(n)
		require.True(t, ok, html)
		got.Label = label(n, got.Name)
		assert.Equal(t, want, got, html)
	}
	for _, html := range []string{"<input type=submit>", "<input type=hidden>", "<input type=range>", "<p>"} {
		doc, err := markup.ParseHTML([]byte("<body>" + html))
		require.NoError(t, err)
		_, ok := control(doc.Find("body").First)
		assert.False(t, ok, html)
	}
}
