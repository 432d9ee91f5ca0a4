package style

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
	"oliveledger/typeset/internal/css"
)

// triedValues are tried on every property, besides every keyword: each notation that some property takes, in a
// form that only few take, and forms that are nearly right.
var triedValues = strings.Split(strings.TrimSpace(`
0
1
2
-1
1.5
400
1001
3px
-3px
1.5em
0.5in
2lh
10vw
25%
-25%
150%
calc(10px + 5%)
calc(2 * 3)
min(10px, 5%)
45deg
0.5turn
2s
2dppx
2fr
"a"
"a" "b"
url(a.png)
red
#123
rgb(10 20 30 / 50%)
currentcolor
transparent
foo
foo bar
--x
linear-gradient(red, blue)
repeating-radial-gradient(circle at 10px, red, blue 20px)
image-set(url(a.png) 1x, url(b.png) 2x)
attr(data-x)
counter(a)
counters(a, ".") "b"
translate(1px, 25%) scale(2)
rotate(45deg)
matrix(1, 2, 3, 4, 5, 6)
blur(2px) opacity(50%)
drop-shadow(1px 2px 3px red)
inset(1px 25% round 2px)
circle(5px at left 3px top)
polygon(evenodd, 0 0, 10px 0, 5px 25%)
path("M0 0L1 1")
minmax(10px, 1fr)
repeat(2, 1fr 3px)
repeat(auto-fill, 10px)
fit-content(20%)
3px 4px
3px 4px 5px
3px 4px 5px 6px
3px 4px 5px 6px 7px
3px 25%
auto 3px
3px auto
none 3px
3px none
0 0
1 2
1 2 3
1 1 3px
2 auto
3px / 4px
3px 4px / 5px 6px 7px
1 / 2
a / b
span 2
span 2 / 3
a 2 / span b
1 / 2 / 3 / 4
3px, 4px
1, 2
red, blue
red blue
red 3px
1px solid red
solid red 1px
thick double
2px dashed
solid
solid dotted
center 3px
left 3px top 4px
right 25% bottom 4px
top left
left left
left top 3px
url(a.png) no-repeat
url(a.png) repeat-x center / 3px 25% fixed padding-box red
url(a.png), linear-gradient(red, blue)
url(a.png) 30% fill / 3px / 1px round
url(a.png) 3 4, pointer
round space
repeat no-repeat, space
contain, 3px auto
a 1
a 1 b -2
a, b
reversed(a) 3
"a" 1
"wght" 400
"smcp", "liga" off
12px/1.5 serif
italic bold 12px/2 "A B", serif
condensed small-caps 12px serif
bold serif
A B, serif
underline red
underline overline wavy red 2px
from-font
2px from-font
dotted underline
over left
under
filled dot
open sesame
1px 2px red
inset 1px 2px 3px 4px red, 5px 6px
1px 2px
row wrap
column nowrap
wrap-reverse column
column dense
row column
safe center
unsafe end
first baseline
last baseline
space-between center
start end
legacy left
2 1 10px
1 auto
none 1
inline flex
block grid
block flow-root list-item
inline ruby
flow-root inline
A4 landscape
landscape A5
3in 4in
B5 3in
[a] 1fr [b c] minmax(3px, 1fr)
[a] 1fr / auto
"a b" "c d"
"a b" "c"
"a b" 10px "c d" / 1fr 2fr
none / 1fr
auto-flow 3px / 1fr
1fr / auto-flow dense 3px
subgrid [a] / subgrid
"a" counter(b, lower-roman) open-quote / "c"
target-counter(attr(href), page)
leader(".") string(s, last)
element(h, first)
running(h)
s "a" content(text)
s content(before) counter(a)
"«" "»" "‹" "›"
3px hanging each-line
each-line 25%
weight style
normal 3px
jis78 ruby
stylistic(a) small-caps
trim-start allow-end
3px balance
2 3px
3px 2
2 drop
1.5 2
both edges
block inline
inline-size style
size layout
x mandatory
strict 3px
layout 10px
block-start inline-end
border-box fill-box
circle(5px) border-box
element(#a)
text cap alphabetic
trim-both cap alphabetic
strip
ignore
allow-flip
lr tb
light dark
only light
crop cross
recto
p auto
chapter
isolate-override plaintext
each 3px, foo
`), "\n")

// Every property takes the values that are meant for it, and no others. The file has a line for what properties make of values, and
// the values that come to that; "*" stands for the value itself. What is refused is not there.
func TestEveryValueOfEveryProperty(t *testing.T) {
	names := slices.AppendSeq(slices.Collect(maps.Keys(byName)), maps.Keys(shorthands))
	names = slices.DeleteFunc(names, func(n string) bool { return strings.HasPrefix(n, "-") && !strings.HasPrefix(n, "-olive-") })
	slices.Sort(names)
	keywords := slices.DeleteFunc(slices.Clone(keywordNames[:]), func(k string) bool { return k == "" || k[0] == '-' })
	some := []string{"none", "auto", "normal", "span", "bold", "disc", "revert"}
	var out strings.Builder
	for _, name := range names {
		var lines []string // what comes of values, in the order in which it comes up first
		with, tried := map[string][]string{}, map[string]bool{}
		values := keywords
		if taken(t, name, "foo") { // any word is a name
			values = some
		}
		for _, value := range slices.Concat(values, triedValues) {
			if tried[value] || !taken(t, name, value) {
				continue
			}
			tried[value] = true
			what := effectAfter(t, "border: solid; outline: solid; column-rule: solid", name+": "+value) // without a style, these have no width
			for _, written := range []string{value, strings.Trim(value, `px"`)} {
				what = strings.ReplaceAll(what, "="+written+" ", "=* ")
				if rest, ok := strings.CutSuffix(what, "="+written); ok {
					what = rest + "=*"
				}
			}
			if with[what] == nil {
				lines = append(lines, what)
			}
			more := ""
			if taken(t, name, value+" foo") {
				more = " …" // and goes on
			}
			with[what] = append(with[what], value+more)
		}
		for _, what := range lines {
			fmt.Fprintf(&out, "%s → %s: %s\n", name, what, strings.Join(with[what], " | "))
		}
	}
	golden.Compare(t, "testdata/values.txt", out.String())
}

// An alias takes what the property takes that it stands for.
func TestAliases(t *testing.T) {
	for alias, name := range aliases {
		require.True(t, byName[name] != nil || shorthands[name] != nil, "%s stands for %s, which is none", alias, name)
		for _, value := range triedValues {
			require.Equal(t, taken(t, name, value), taken(t, alias, value), "%s: %s", alias, value)
		}
	}
}

// taken tells whether a property takes a value.
func taken(t *testing.T, name, value string) bool {
	t.Helper()
	decls := css.ParseDeclarations(name + ":" + value)
	require.Len(t, decls, 1, value)
	_, bad := ParseSheet("test.css", "", "").longhands(decls[0], nil)
	return bad == nil
}
