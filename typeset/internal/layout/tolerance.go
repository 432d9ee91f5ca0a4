package layout

// rounding is by how much in px two lengths that ought to be the same may differ, as sums of fractions do.
const rounding = 0.01

// atMost tells whether length a is no more than b, but for what rounding adds. It is false where one is not known.
func atMost(a, b float64) bool { return a <= b+rounding }

// exceeds tells whether length a is more than b by what rounding does not explain. It is false where one is not known.
func exceeds(a, b float64) bool { return a > b+rounding }
