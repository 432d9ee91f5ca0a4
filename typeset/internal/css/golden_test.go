package css

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oliveledger/internal/golden"
)

// TestWholeSheet reads a style sheet with all kinds of rules, right ones and wrong ones, and
// compares what is read with what is written beside it. To see what a change does, run with
// -update and look at the difference.
func TestWholeSheet(t *testing.T) {
	text, err := os.ReadFile("testdata/sheet.css")
	require.NoError(t, err)
	sheet := ParseSheet("sheet.css", string(text))
	var out strings.Builder
	for _, f := range sheet.Bad {
		line, column := sheet.Line(f.Pos)
		fmt.Fprintf(&out, "flaw %d:%d %s\n", line, column, f.What)
	}
	writeRules(&out, sheet, sheet.Rules, "")
	golden.Compare(t, "testdata/sheet.txt", out.String())
}

// writeRules lists rules with their selectors and declarations, those of a rule in the order
// in which they stand.
func writeRules(out *strings.Builder, sheet *Sheet, rules []Rule, indent string) {
	for _, r := range rules {
		line, column := sheet.Line(r.Pos)
		fmt.Fprintf(out, "%s%d:%d @%s “%s” body=%t\n", indent, line, column, r.At, Text(r.Prelude), r.HasBody)
		if r.At == "" {
			nested := indent != ""
			list, err := ParseSelectors(r.Prelude, nested, nested)
			for _, s := range list {
				fmt.Fprintf(out, "%s  = %s\n", indent, selectorText(s))
			}
			if err != nil {
				fmt.Fprintf(out, "%s  ! %v\n", indent, err)
			}
			if err := CheckSelectors(r.Prelude); err != nil {
				fmt.Fprintf(out, "%s  ? %v\n", indent, err)
			}
		}
		k := 0
		decls := func(end int) {
			for ; k < end; k++ {
				d := r.Decls[k]
				line, column := sheet.Line(d.Pos)
				fmt.Fprintf(out, "%s  %d:%d %s: “%s” important=%t %s\n", indent, line, column, d.Name, Text(d.Value), d.Important, kinds(d.Value))
			}
		}
		for i := range r.Rules {
			decls(r.DeclsBefore[i])
			writeRules(out, sheet, r.Rules[i:i+1], indent+"    ")
		}
		decls(len(r.Decls))
	}
}

// kinds lists the kinds of tokens, with what numbers are.
func kinds(list []Token) string {
	var words []string
	for _, t := range Words(list) {
		w := fmt.Sprint(t.Kind)
		if t.Kind == Number || t.Kind == Percentage || t.Kind == Dimension {
			w += fmt.Sprintf("(%g %s id=%t)", t.Num, t.Unit, t.ID)
		}
		if len(t.Args) > 0 {
			w += "[" + kinds(t.Args) + "]"
		}
		words = append(words, w)
	}
	return strings.Join(words, " ")
}

// selectorText writes all that a selector asks for.
func selectorText(s Selector) string {
	var b strings.Builder
	for _, c := range s.Compounds {
		fmt.Fprintf(&b, "{%q %s|%s(%s)", c.Comb, c.NS, c.Tag, c.Raw)
		for _, test := range c.Tests {
			fmt.Fprintf(&b, " %d %s %q op=%q flag=%q n=%d+%d %q", test.Kind, test.Name, test.Value, test.Op, test.Flag, test.A, test.B, test.Idents)
			for _, in := range test.List {
				b.WriteString(" (" + selectorText(in) + ")")
			}
		}
		b.WriteString("}")
	}
	return fmt.Sprintf("%s pseudo=%s(%s) relative=%t specificity=%v", b.String(), s.Pseudo, Text(s.PseudoArg), s.Relative, s.Specificity)
}
