package typeset

import (
	"bytes"
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Links to places that nothing names are told once, where the first of them stands.
func TestLostLinks(t *testing.T) {
	for _, untagged := range []bool{false, true} {
		var out bytes.Buffer
		doc, err := Set(context.Background(), []byte(`<!doctype html><html lang=en><title>t</title><h1 id=one>One</h1><a name=old></a><p id="café">
<a href="#one">1</a> <a href="#old">2</a> <a href="#caf%C3%A9">3</a> <a href="#café">4</a> <a href="#">5</a> <a href="#TOP">6</a> <a href="https://quay.example/#far">7</a> <a>8</a>
<a href="#gone">9</a> <a href=" #gone">10</a> <a href="#100%">11</a> <a href="#One">12</a>`), Options{Name: "page.html", Untagged: untagged}, &out)
		require.NoError(t, err)
		var told []string
		for _, f := range doc.Findings {
			if f.Code == "link-lost" {
				told = append(told, f.String())
			}
		}
		assert.Equal(t, []string{
			"warning: page.html:3:1: the link to “#gone” leads nowhere: no element has that id — give its target id=\"gone\"",
			"warning: page.html:3:47: the link to “#100%” leads nowhere: no element has that id — give its target id=\"100%\"",
			"warning: page.html:3:70: the link to “#One” leads nowhere: no element has that id — give its target id=\"One\"",
		}, told)
	}
}
