package style

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// effect tells what declarations make of a paragraph's style: the fields that differ from
// those of a paragraph without them, "nothing" when none does, and "refused" when they are
// told to be wrong.
func effect(t *testing.T, declarations string) string {
	t.Helper()
	return effectAfter(t, "", declarations)
}

// effectAfter is effect for a paragraph that has other declarations already.
func effectAfter(t *testing.T, before, declarations string) string {
	t.Helper()
	page, sheet := "<!DOCTYPE html><p id=x>x</p>", "p { "+before+" }"
	plain := styled(t, page, sheet)
	styled, told := styledAndTold(t, page, sheet+" #x { "+declarations+" }")
	var list []string
	for _, part := range [][2]any{{plain.Inherited, styled.Inherited}, {plain.Own, styled.Own}} {
		differences(&list, "", reflect.ValueOf(part[0]), reflect.ValueOf(part[1]))
	}
	if len(told) > 0 {
		list = append(list, "refused")
	}
	if len(list) == 0 {
		return "nothing"
	}
	return strings.Join(list, " ")
}

// sides are the names of four values that stand around a box.
var sides = []string{"top", "right", "bottom", "left"}

// differences lists what of to is another than in from.
func differences(list *[]string, name string, from, to reflect.Value) {
	switch {
	case said(from) == said(to):
	case to.Kind() == reflect.Struct && !isValue(to):
		for i := range to.NumField() {
			f := to.Type().Field(i)
			under := name + "." + f.Name
			if f.Anonymous {
				under = name
			}
			if f.IsExported() {
				differences(list, under, from.Field(i), to.Field(i))
			}
		}
	case to.Kind() == reflect.Array && to.Len() == 4:
		for i := range 4 {
			differences(list, name+"."+sides[i], from.Index(i), to.Index(i))
		}
	default:
		*list = append(*list, strings.TrimPrefix(name, ".")+"="+said(to))
	}
}

// isValue tells the structs that are one value.
func isValue(v reflect.Value) bool {
	switch v.Interface().(type) {
	case Size, LP, Color, Align, Shadow, Track, GridLine, PageSize, VerticalAlign, Place, LineHeight, ListType, Paint:
		return true
	}
	return false
}

// number writes a number as short as four digits after the point allow.
func number(v float64) string {
	if math.IsInf(v, 0) || math.IsNaN(v) {
		return fmt.Sprint(v)
	}
	return strconv.FormatFloat(math.Round(v*1e4)/1e4, 'f', -1, 64)
}

// said writes a value in short.
func said(v reflect.Value) string {
	switch x := v.Interface().(type) {
	case Keyword:
		if x == 0 {
			return "0"
		}
		return x.String()
	case Color:
		return saidColor(x)
	case LP:
		return saidLength(x)
	case Size:
		return saidSize(x)
	case VerticalAlign:
		if x.Kind == Length {
			return saidLength(x.LP)
		}
		return x.Kind.String()
	case LineHeight:
		return [...]string{"normal", number(x.V), number(x.V) + "px"}[x.Kind]
	}
	switch v.Kind() {
	case reflect.Float64, reflect.Float32:
		return number(v.Float())
	case reflect.String:
		return strconv.Quote(v.String())
	case reflect.Pointer:
		if v.IsNil() {
			return "nil"
		}
		return said(v.Elem())
	case reflect.Slice, reflect.Array:
		list := make([]string, v.Len())
		for i := range list {
			list[i] = said(v.Index(i))
		}
		return "[" + strings.Join(list, " ") + "]"
	case reflect.Map:
		var list []string
		for _, k := range v.MapKeys() {
			list = append(list, fmt.Sprintf("%v:%s", k, said(v.MapIndex(k))))
		}
		slices.Sort(list)
		return "{" + strings.Join(list, " ") + "}"
	case reflect.Struct:
		var list []string
		for i := range v.NumField() {
			f := v.Type().Field(i)
			if f.IsExported() && !v.Field(i).IsZero() && v.Field(i).Kind() != reflect.Func {
				list = append(list, f.Name+":"+said(v.Field(i)))
			}
		}
		return "{" + strings.Join(list, " ") + "}"
	case reflect.Func:
		return "func"
	}
	return fmt.Sprint(v.Interface())
}

// saidColor writes a colour as its components, in hexadecimal where they are of sRGB.
func saidColor(c Color) string {
	if c.late != nil {
		return "of-currentcolor"
	}
	s := fmt.Sprintf("%v(%s %s %s %s", c.Space, number(float64(c.C[0])), number(float64(c.C[1])), number(float64(c.C[2])), number(float64(c.C[3])))
	if c.Space == 0 && c.C[3] == 0 {
		s = "#"
		for _, v := range c.C[:3] {
			s += fmt.Sprintf("%02x", int(math.Round(float64(v)*255)))
		}
		if c.A != 1 {
			s += "/" + number(float64(c.A))
		}
		return s
	}
	return s + "/" + number(float64(c.A)) + ")"
}

// saidLength writes a length, a percentage, or their sum; of other functions of percentages
// what they give for 100 px and 200 px.
func saidLength(l LP) string {
	switch {
	case l.Fn != nil:
		return fmt.Sprintf("fn(%s %s)", number(l.Of(100)), number(l.Of(200)))
	case l.Pct != 0 && l.Px != 0:
		return number(l.Pct) + "%+" + number(l.Px)
	case l.Pct != 0 || l.Rel:
		return number(l.Pct) + "%"
	}
	return number(l.Px)
}

func saidSize(s Size) string {
	out := s.Kind.String()
	if s.Kind == Length {
		out = saidLength(s.LP)
	}
	if s.Limited {
		out = "fit-content(" + saidLength(s.LP) + ")"
	}
	if s.Through != nil {
		out += fmt.Sprintf(" through(%s)", number(s.Through(10, 100)))
	}
	return out
}

// valueCase is a declaration and its effect.
type valueCase struct{ declaration, want string }

// testValues holds the effect of each declaration, one at a time.
func testValues(t *testing.T, cases []valueCase) {
	seen := map[string]bool{}
	for _, c := range cases {
		require.False(t, seen[c.declaration], "%s stands here twice", c.declaration)
		seen[c.declaration] = true
		assert.Equal(t, c.want, effect(t, c.declaration), c.declaration)
	}
}
