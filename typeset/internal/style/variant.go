package style

// variantKey names a style that is made from another in one way.
type variantKey struct {
	of *Style
	as any
}

// Variant is the style that derive makes from s. as names the way it is made, and
// is comparable; who asks again gets the same style, in later documents too, so
// that what is computed under it is found again.
func (r *Resolver) Variant(s *Style, as any, derive func() *Style) *Style {
	styles := r.variants
	if s.measured {
		styles = r.measuredVariants
	}
	key := variantKey{s, as}
	v := styles[key]
	if v == nil {
		v = derive()
		v.measured = s.measured
		styles[key] = v
		r.count++
	}
	return v
}

// Anonymous is the style of an anonymous box under s.
func (r *Resolver) Anonymous(s *Style, d Display) *Style {
	return r.Variant(s, d, func() *Style { return Anonymous(s, d) })
}

// Displayed is s with another display.
func (r *Resolver) Displayed(s *Style, d Display) *Style {
	type displayed Display
	return r.Variant(s, displayed(d), func() *Style {
		v := *s
		v.Display = d
		return &v
	})
}
