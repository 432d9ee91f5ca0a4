package pdf

import (
	"math"
	"strconv"

	"oliveledger/typeset/internal/display"
)

// num writes a number with at most four places: a colour, a length in pt or px, a share.
func num(v float64) string { return string(appendNum(nil, v)) }

func appendNum(b []byte, v float64) []byte { return appendFixed(b, v, ordinaryPlaces) }

// ordinaryPlaces are those of numbers that are not made larger or smaller.
const ordinaryPlaces = 4

// mostPlaces are the decimal places that readers take; more than they keep in a float are lost.
const mostPlaces = 10

var powers = [mostPlaces + 1]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10}

// rounded is a number as it is written with so many places.
func rounded(v float64, places int) float64 { return math.Round(v*powers[places]) / powers[places] }

// appendFixed writes a number with at most so many decimal places, and none that are zero
// at its end (§7.3.3 knows no exponents).
func appendFixed(b []byte, v float64, places int) []byte {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		v = 0
	}
	r := math.Round(v * powers[places])
	if math.Abs(r) > 1e15 {
		r = math.Copysign(1e15, r)
	}
	n := int64(r)
	if n < 0 {
		b = append(b, '-')
		n = -n
	}
	for ; places > 0 && n%10 == 0; places-- {
		n /= 10
	}
	unit := int64(powers[places])
	b = strconv.AppendInt(b, n/unit, 10)
	if places == 0 {
		return b
	}
	b = append(b, '.')
	n %= unit
	for unit /= 10; unit > 0; unit /= 10 {
		b = append(b, byte('0'+n/unit%10))
	}
	return b
}

// paperPlaces are the places of a length in pt that paper can show: its last half is 2 µm.
const paperPlaces = 2

// placesFor are the decimal places that lengths need in a space which leads to the page, in
// pt, by a matrix: more where they are made larger, fewer where they are made smaller.
func placesFor(m display.Matrix) int {
	scale := math.Max(math.Hypot(m[0], m[1]), math.Hypot(m[2], m[3]))
	if !(scale > 0) {
		return paperPlaces
	}
	return int(math.Min(math.Max(paperPlaces+math.Ceil(math.Log10(scale)), 0), mostPlaces))
}

// appendMatrix writes a matrix. What multiplies coordinates keeps eight digits that count,
// so that a drawing of a hundred thousand units ends where it should.
func appendMatrix(b []byte, m display.Matrix) []byte {
	for i, v := range m {
		if i > 0 {
			b = append(b, ' ')
		}
		places := ordinaryPlaces
		if i < 4 && !math.IsNaN(v) {
			places = int(math.Min(math.Max(7-math.Floor(math.Log10(math.Abs(v))), ordinaryPlaces), mostPlaces))
		}
		b = appendFixed(b, v, places)
	}
	return b
}
