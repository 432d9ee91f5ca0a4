// Package orientation knows how characters stand in vertical lines.
package orientation

import "unicode"

// Upright tells whether a character keeps its posture in a vertical line of mixed orientation, by itself or in a form
// that its font has for that (Unicode Standard Annex 50). Others lie on their side.
func Upright(r rune) bool { return unicode.Is(upright, r) }
