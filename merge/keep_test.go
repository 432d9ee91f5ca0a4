package merge

import (
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestPeriods(t *testing.T) {
	from := time.Date(2026, 2, 28, 12, 0, 0, 0, time.UTC)
	for p, want := range map[Period]string{"10 years": "2036-02-28", "1 year": "2027-02-28", "6 months": "2026-08-28", "90 days": "2026-05-29"} {
		assert.NoError(t, p.Check())
		assert.Equal(t, want, p.End(from).Format(time.DateOnly), p)
	}
	assert.NoError(t, Period("").Check())
	assert.True(t, Period("").End(from).IsZero(), "for ever")
	for _, wrong := range []Period{"10", "ten years", "0 days", "-1 years", "5 weeks", "99999 years"} {
		assert.ErrorContains(t, wrong.Check(), "10 years, 6 months or 90 days", wrong)
	}
	_, err := Open("card", fstest.MapFS{"page.html": {Data: []byte("x")}, "template.yaml": {Data: []byte("keep: long\n")}})
	assert.ErrorContains(t, err, `keep: "long"`)
}
