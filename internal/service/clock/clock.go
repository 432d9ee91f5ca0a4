// Package clock gives the time of this machine to what the service keeps and shows. What several machines reckon
// with together, as the leases of their workers, goes by the database's clock instead.
package clock

import "time"

// ahead is how far this program's clock is off, such as "90s" or "-1h". Only trials set it, when they link a
// program: no option and no environment changes the time of a service.
var ahead = "0s"

var shift = func() time.Duration {
	d, err := time.ParseDuration(ahead)
	if err != nil {
		panic("clock.ahead: " + err.Error())
	}
	return d
}()

// Now is the time in UTC.
func Now() time.Time { return time.Now().Add(shift).UTC() }
