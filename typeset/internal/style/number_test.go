package style

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
)

func TestNumberPatterns(t *testing.T) {
	for _, c := range []struct{ v, pattern, want string }{
		{"1234567.891", "#,##0.00", "1,234,567.89"},
		{"1234.5", "#.##0,00 €", "1.234,50 €"},
		{"1234.5", "# ##0,00", "1 234,50"},
		{"0", "#,##0.00", "0.00"},
		{"-12.345", "0.00", "−12.35"},
		{"12", "0.##", "12"},
		{"12.3", "0.##", "12.3"},
		{"999", "#,##0", "999"},
		{"1000", "$#,##0", "$1,000"},
		{"-0.001", "0.00", "0.00"},
		{"5", "000", "005"},
		{"7", "EUR ", "EUR 7"},
	} {
		assert.Equal(t, c.want, Number(decimal.RequireFromString(c.v), c.pattern), "%s as %s", c.v, c.pattern)
	}
}
