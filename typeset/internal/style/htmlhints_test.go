package style

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestAttributesThatAreStyle holds what attributes of HTML and SVG make of an element's style
// (HTML, §15.3 and §15.4; SVG 2, §6.6): what differs from the element without them.
func TestAttributesThatAreStyle(t *testing.T) {
	for _, c := range []struct{ html, plain, want string }{
		{"<p id=x align=center>", "<p id=x>", "TextAlign=center"},
		{"<p id=x align=RIGHT>", "<p id=x>", "TextAlign=right"},
		{"<p id=x align=middle>", "<p id=x>", ""},
		{"<div id=x align=center>", "<div id=x>", "TextAlign=-webkit-center"},
		{"<div id=x align=middle>", "<div id=x>", "TextAlign=-webkit-center"},
		{"<div id=x align=right>", "<div id=x>", "TextAlign=-webkit-right"},
		{"<div id=x align=Left>", "<div id=x>", "TextAlign=-webkit-left"},
		{"<div id=x align=justify>", "<div id=x>", "TextAlign=justify"},
		{"<div id=x align=justify>", "<div id=x>", "TextAlign=justify"},
		{"<p id=x dir=rtl>", "<p id=x>", "Direction=rtl"},
		{"<p id=x dir=auto>אב", "<p id=x>אב", "Direction=rtl"},
		{"<p id=x dir=up>", "<p id=x>", ""},
		{"<table id=x align=center>", "<table id=x>", "Margin.right=auto Margin.left=auto"},
		{"<table id=x align=left>", "<table id=x>", "Float=left"},
		{"<table id=x width=50%>", "<table id=x>", "Width=50%"},
		{"<table id=x width=120>", "<table id=x>", "Width=120"},
		{"<table id=x width=0>", "<table id=x>", ""},
		{"<table id=x width=12.5px>", "<table id=x>", "Width=12.5"},
		{"<table id=x width=abc>", "<table id=x>", ""},
		{"<table id=x height=40>", "<table id=x>", "Height=40"},
		{"<table id=x border>", "<table id=x>", "Border.top.Width=1 Border.top.Style=outset Border.right.Width=1 Border.right.Style=outset Border.bottom.Width=1 Border.bottom.Style=outset Border.left.Width=1 Border.left.Style=outset"},
		{"<table id=x border=3>", "<table id=x>", "Border.top.Width=3 Border.top.Style=outset Border.right.Width=3 Border.right.Style=outset Border.bottom.Width=3 Border.bottom.Style=outset Border.left.Width=3 Border.left.Style=outset"},
		{"<table id=x border=0>", "<table id=x>", ""},
		{"<table id=x border=2 bordercolor=red>", "<table id=x>", "Border.top.Width=2 Border.top.Style=solid Border.top.Color=#ff0000 Border.right.Width=2 Border.right.Style=solid Border.right.Color=#ff0000 Border.bottom.Width=2 Border.bottom.Style=solid Border.bottom.Color=#ff0000 Border.left.Width=2 Border.left.Style=solid Border.left.Color=#ff0000"},
		{"<table id=x cellspacing=4>", "<table id=x>", "BorderSpacing=[4 4]"},
		{"<table id=x rules=all>", "<table id=x>", "BorderCollapse=collapse"},
		{"<table id=x frame=hsides>", "<table id=x>", "Border.top.Width=1 Border.top.Style=outset Border.right.Style=hidden Border.bottom.Width=1 Border.bottom.Style=outset Border.left.Style=hidden"},
		{"<table id=x border=2 frame=lhs>", "<table id=x>", "Border.top.Style=hidden Border.right.Style=hidden Border.bottom.Style=hidden Border.left.Width=2 Border.left.Style=outset"},
		{"<table id=x frame=void border=1>", "<table id=x>", "Border.top.Style=hidden Border.right.Style=hidden Border.bottom.Style=hidden Border.left.Style=hidden"},
		{"<table rules=all><td id=x>", "<table><td id=x>", "BorderCollapse=collapse Border.top.Width=1 Border.top.Style=solid Border.right.Width=1 Border.right.Style=solid Border.bottom.Width=1 Border.bottom.Style=solid Border.left.Width=1 Border.left.Style=solid"},
		{"<table rules=cols border=1><td id=x>", "<table><td id=x>", "BorderCollapse=collapse Border.right.Width=1 Border.right.Style=solid Border.left.Width=1 Border.left.Style=solid"},
		{"<table rules=rows><tr id=x>", "<table><tr id=x>", "BorderCollapse=collapse Border.top.Width=1 Border.top.Style=solid Border.bottom.Width=1 Border.bottom.Style=solid"},
		{"<table rules=rows><td id=x>", "<table><td id=x>", "BorderCollapse=collapse"},
		{"<table rules=groups><tbody id=x>", "<table><tbody id=x>", "BorderCollapse=collapse Border.top.Width=1 Border.top.Style=solid Border.bottom.Width=1 Border.bottom.Style=solid"},
		{"<table rules=groups><colgroup id=x>", "<table><colgroup id=x>", "BorderCollapse=collapse Border.right.Width=1 Border.right.Style=solid Border.left.Width=1 Border.left.Style=solid"},
		{"<table rules=none border=1><td id=x>", "<table><td id=x>", "BorderCollapse=collapse"},
		{"<table id=x rules=some>", "<table id=x>", ""},
		{"<table id=x bgcolor=#abc>", "<table id=x>", "BackgroundColor=#aabbcc"},
		{"<table id=x bgcolor=ffcc00>", "<table id=x>", "BackgroundColor=#ffcc00"},
		{"<table id=x bgcolor=nonsense>", "<table id=x>", ""},
		{"<table id=x background=a.png>", "<table id=x>", "Background.Images=[{URL:\"/a.png\"}]"},
		{"<table cellpadding=6><td id=x>", "<table><td id=x>", "Padding.top=6 Padding.right=6 Padding.bottom=6 Padding.left=6"},
		{"<table border=2><td id=x>", "<table><td id=x>", "Border.top.Width=1 Border.top.Style=inset Border.right.Width=1 Border.right.Style=inset Border.bottom.Width=1 Border.bottom.Style=inset Border.left.Width=1 Border.left.Style=inset"},
		{"<table border=0><td id=x>", "<table><td id=x>", ""},
		{"<table border=1 bordercolor=red><td id=x>", "<table><td id=x>", "Border.top.Width=1 Border.top.Style=solid Border.top.Color=#ff0000 Border.right.Width=1 Border.right.Style=solid Border.right.Color=#ff0000 Border.bottom.Width=1 Border.bottom.Style=solid Border.bottom.Color=#ff0000 Border.left.Width=1 Border.left.Style=solid Border.left.Color=#ff0000"},
		{"<table><td id=x nowrap>", "<table><td id=x>", "Wrap=nowrap"},
		{"<table><td id=x align=center>", "<table><td id=x>", "TextAlign=-webkit-center"},
		{"<table><td id=x align=right>", "<table><td id=x>", "TextAlign=-webkit-right"},
		{"<table><td id=x align=right valign=bottom>", "<table><td id=x>", "TextAlign=-webkit-right VerticalAlign=bottom"},
		{"<table><td id=x valign=baseline>", "<table><td id=x>", "VerticalAlign=baseline"},
		{"<table><td id=x width=30 height=20>", "<table><td id=x>", "Width=30 Height=20"},
		{"<table><th id=x bgcolor=lime>", "<table><th id=x>", "BackgroundColor=#00ff00"},
		{"<table><tr id=x align=right>", "<table><tr id=x>", "TextAlign=-webkit-right"},
		{"<table><col id=x width=25%>", "<table><col id=x>", "Width=25%"},
		{"<table><tbody id=x valign=top>", "<table><tbody id=x>", "VerticalAlign=top"},
		{"<table><caption id=x align=bottom>", "<table><caption id=x>", "CaptionSide=bottom"},
		{"<img id=x width=30>", "<img id=x>", "Width=30"},
		{"<img id=x width=30 height=60>", "<img id=x>", "Width=30 Height=60 AspectRatio.Ratio=0.5 AspectRatio.Auto=true"},
		{"<img id=x width=50% height=60>", "<img id=x>", "Width=50% Height=60"},
		{"<img id=x hspace=4 vspace=5>", "<img id=x>", "Margin.top=5 Margin.right=4 Margin.bottom=5 Margin.left=4"},
		{"<img id=x border=2>", "<img id=x>", "Border.top.Width=2 Border.top.Style=solid Border.right.Width=2 Border.right.Style=solid Border.bottom.Width=2 Border.bottom.Style=solid Border.left.Width=2 Border.left.Style=solid"},
		{"<img id=x border=0>", "<img id=x>", ""},
		{"<img id=x align=left>", "<img id=x>", "Display.Outer=block Float=left WasInline=true"},
		{"<img id=x align=middle>", "<img id=x>", "VerticalAlign=middle"},
		{"<img id=x align=bottom>", "<img id=x>", ""},
		{"<iframe id=x width=30 height=60>", "<iframe id=x>", "Width=30 Height=60"},
		{"<video id=x width=30 height=60>", "<video id=x>", "Width=30 Height=60 AspectRatio.Ratio=0.5 AspectRatio.Auto=true"},
		{"<input id=x width=30>", "<input id=x>", ""},
		{"<input id=x type=image width=30 align=right>", "<input id=x type=image>", "Display.Outer=block Float=right Width=30 WasInline=true"},
		{"<input id=x type=color value=#ff0000>", "<input id=x>", "Width=50 Height=27 Padding.top=4 Padding.right=4 Padding.bottom=4 Padding.left=4 BoxSizing=border-box Background.Clip=[content-box] BackgroundColor=#ff0000"},
		{"<font id=x color=red>", "<font id=x>", "Color=#ff0000"},
		{"<font id=x size=1>", "<font id=x>", "FontSize=10 SizeKeyword=2"},
		{"<font id=x size=5>", "<font id=x>", "FontSize=24 SizeKeyword=6"},
		{"<font id=x size=9>", "<font id=x>", "FontSize=48 SizeKeyword=8"},
		{"<font id=x size=+1>", "<font id=x>", "FontSize=18 SizeKeyword=5"},
		{"<font id=x size=-1>", "<font id=x>", "FontSize=13 SizeKeyword=3"},
		{"<font id=x size=big>", "<font id=x>", ""},
		{"<font id=x face='Arial, serif'>", "<font id=x>", "Families=[\"Arial\" \"serif\"]"},
		{"<hr id=x size=1>", "<hr id=x>", "Border.bottom.Width=0"},
		{"<hr id=x size=8>", "<hr id=x>", "Height=6"},
		{"<hr id=x size=8 noshade>", "<hr id=x>", "Border.top.Width=4 Border.top.Style=solid Border.right.Width=4 Border.right.Style=solid Border.bottom.Width=4 Border.bottom.Style=solid Border.left.Width=4 Border.left.Style=solid"},
		{"<hr id=x color=red>", "<hr id=x>", "Color=#ff0000 Border.top.Style=solid Border.right.Style=solid Border.bottom.Style=solid Border.left.Style=solid"},
		{"<hr id=x align=left width=40%>", "<hr id=x>", "Width=40% Margin.left=0"},
		{"<hr id=x align=right>", "<hr id=x>", "Margin.right=0"},
		{"<hr id=x size=x>", "<hr id=x>", ""},
		{"<br id=x clear=all>", "<br id=x>", "Clear=both"},
		{"<br id=x clear=left>", "<br id=x>", "Clear=left"},
		{"<br id=x clear=none>", "<br id=x>", ""},
		{"<ol id=x type=a>", "<ol id=x>", "ListType={Name:\"lower-alpha\"}"},
		{"<ol id=x type=I>", "<ol id=x>", "ListType={Name:\"upper-roman\"}"},
		{"<ol id=x type=x>", "<ol id=x>", ""},
		{"<ul id=x type=square>", "<ul id=x>", "ListType={Name:\"square\"}"},
		{"<ol id=x start=5>", "<ol id=x>", "CounterReset=[{Name:\"list-item\" Value:4 HasValue:true}]"},
		{"<ol id=x start=x>", "<ol id=x>", ""},
		{"<ol id=x reversed>", "<ol id=x>", "CounterReset=[{Name:\"list-item\" Reversed:true}]"},
		{"<ol id=x reversed start=3>", "<ol id=x>", "CounterReset=[{Name:\"list-item\" Value:4 HasValue:true Reversed:true}]"},
		{"<ol><li id=x value=7>", "<ol><li id=x>", "CounterSet=[{Name:\"list-item\" Value:7 HasValue:true}]"},
		{"<ol><li id=x type=i>", "<ol><li id=x>", "ListType={Name:\"lower-roman\"}"},
		{"<svg id=x width=30 height=20>", "<svg id=x>", "Width=30 Height=20"},
		{"<svg><rect id=x fill=red stroke-width=3>", "<svg><rect id=x>", "Fill={Color:#ff0000} StrokeWidth=3"},
		{"<svg><text id=x font-size=12 letter-spacing='2 3'>", "<svg><text id=x>", "FontSize=12 SizeAbsolute=true SizeKeyword=0"},
		{"<svg><g id=x transform-origin='5 6'>", "<svg><g id=x>", "TransformOrigin=[5 6 0]"},
		{"<svg><rect id=x width=30>", "<svg><rect id=x>", ""},
		{"<svg><g id=x opacity=.5 display=none>", "<svg><g id=x>", "Display.Outer=none Opacity=0.5"},
	} {
		plain, with := styled(t, "<!DOCTYPE html>"+c.plain, ""), styled(t, "<!DOCTYPE html>"+c.html, "")
		var list []string
		for _, part := range [][2]any{{plain.Inherited, with.Inherited}, {plain.Own, with.Own}} {
			differences(&list, "", reflect.ValueOf(part[0]), reflect.ValueOf(part[1]))
		}
		got := strings.Join(list, " ")
		assert.Equal(t, c.want, got, c.html)
	}
}

// TestMarginsOfTheBody are those of its attributes, as browsers read them.
func TestMarginsOfTheBody(t *testing.T) {
	for attributes, want := range map[string]string{
		"topmargin=3": "3 8 3 8", "leftmargin=3": "8 3 8 3", "rightmargin=4": "8 4 8 8", "bottommargin=4": "8 8 4 8", "marginwidth=5 marginheight=6": "6 5 6 5", "topmargin=x": "8 8 8 8",
	} {
		s := styled(t, "<!DOCTYPE html><body id=x "+attributes+">", "")
		var list []string
		for _, m := range s.Margin {
			list = append(list, saidSize(m))
		}
		assert.Equal(t, want, strings.Join(list, " "), attributes)
	}
}
