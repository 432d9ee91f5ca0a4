package store

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"oliveledger/internal/service/clock"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Series gives documents numbers without gaps.
type Series struct {
	ID        uint64    `gorm:"primaryKey" json:"id"`
	Name      string    `json:"name"`     // of the series
	Pattern   string    `json:"pattern"`  // such as QL-{year}-{number:4}
	Next      int       `json:"next"`     // the number that comes next
	Year      int       `json:"year"`     // that Next counts in; of patterns with {year}
	Approval  bool      `json:"approval"` // its documents wait to be approved before they get a number
	Revision  int       `json:"revision"`
	CreatedAt time.Time `json:"created"`
}

var seriesField = regexp.MustCompile(`\{([a-z]+)(?::(\d))?\}`)

// CheckPattern tells what is wrong with a pattern of numbers.
func CheckPattern(pattern string) error {
	numbers := 0
	for _, m := range seriesField.FindAllStringSubmatch(pattern, -1) {
		switch m[1] {
		case "number":
			numbers++
		case "year":
		default:
			return fmt.Errorf("the pattern %q has the field {%s}; there are {number}, {number:4} and {year}", pattern, m[1])
		}
	}
	if rest := seriesField.ReplaceAllString(pattern, ""); strings.ContainsAny(rest, "{}") {
		return fmt.Errorf("the pattern %q has a brace that belongs to no field; there are {number}, {number:4} and {year}", pattern)
	}
	if numbers != 1 {
		return fmt.Errorf("the pattern %q needs {number} once, such as QL-{year}-{number:4}", pattern)
	}
	return nil
}

// turn begins a new year, when the pattern counts in years. A clock that is behind begins none: the year that has
// begun goes on, as its numbers are given already.
func (s *Series) turn(year int) {
	if !strings.Contains(s.Pattern, "{year") {
		s.Year = year
	} else if year > s.Year {
		s.Year, s.Next = year, 1
	}
}

// counted is the year that the next number counts in; 0 when the pattern has none.
func (s *Series) counted() int {
	if strings.Contains(s.Pattern, "{year") {
		return s.Year
	}
	return 0
}

// reader takes numbers of the series apart: into the year that they count in and their place there.
// Those of another pattern, which the series had before, are none.
func (s *Series) reader() func(number string) (year, place int, ok bool) {
	var at []string
	expr, last := "^", 0
	for _, m := range seriesField.FindAllStringSubmatchIndex(s.Pattern, -1) {
		expr += regexp.QuoteMeta(s.Pattern[last:m[0]]) + `(\d+)`
		at, last = append(at, s.Pattern[m[2]:m[3]]), m[1]
	}
	form := regexp.MustCompile(expr + regexp.QuoteMeta(s.Pattern[last:]) + "$")
	return func(number string) (year, place int, ok bool) {
		m := form.FindStringSubmatch(number)
		for i, name := range at {
			if m == nil {
				return 0, 0, false
			}
			v, err := strconv.Atoi(m[i+1])
			if err != nil {
				return 0, 0, false
			}
			if name == "year" {
				year = v
			} else {
				place = v
			}
		}
		return year, place, numbered(s.Pattern, year, place) == number
	}
}

// numbered puts a number and its year into a pattern.
func numbered(pattern string, year, number int) string {
	return seriesField.ReplaceAllStringFunc(pattern, func(f string) string {
		m := seriesField.FindStringSubmatch(f)
		v := number
		if m[1] == "year" {
			v = year
		}
		width, _ := strconv.Atoi(m[2])
		return fmt.Sprintf("%0*d", width, v)
	})
}

// SeriesList lists the number series.
func (s *Store) SeriesList(p Page) ([]Series, int64, error) {
	return listOf[Series](s.db, p, "name", "created_at")
}

// Series finds one by its number.
func (s *Store) Series(id uint64) (x Series, err error) { return x, s.db.First(&x, id).Error }

// SeriesNamed finds one by its name.
func (s *Store) SeriesNamed(name string) (x Series, err error) {
	return x, s.db.Where("name = ?", name).First(&x).Error
}

// AddSeries keeps a new series.
func (s *Store) AddSeries(x *Series) error {
	x.Revision, x.Year = 1, clock.Now().Year()
	return s.atomically(func(tx *gorm.DB) error {
		x.ID = 0
		if err := tx.Create(x).Error; err != nil {
			return err
		}
		return x.pass(tx, 1)
	})
}

// pass notes the numbers from one on that are left out, as the next one was set by hand.
func (x *Series) pass(tx *gorm.DB, from int) error {
	if x.Next <= from {
		return nil
	}
	return tx.Create(&Passed{Series: x.Name, Year: x.counted(), First: from, Last: x.Next - 1, At: clock.Now()}).Error
}

// SaveSeries keeps another pattern or next number of a series. A number that
// has been given cannot be given again.
func (s *Store) SaveSeries(id uint64, read int, pattern string, next int, approval *bool) (x Series, err error) {
	err = s.atomically(func(tx *gorm.DB) error {
		x = Series{}
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&x, id).Error; err != nil {
			return err
		}
		if pattern != "" {
			x.Pattern = pattern
		}
		if approval != nil {
			x.Approval = *approval
		}
		if next > 0 {
			if next < x.Next {
				return refuse("the series %s has given numbers up to %d; the next cannot be %d", x.Name, x.Next-1, next)
			}
			from := x.Next
			x.Next = next
			if err := x.pass(tx, from); err != nil {
				return err
			}
		}
		return edited(tx, &x, &x.Revision, read)
	})
	return x, err
}
