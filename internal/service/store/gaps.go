package store

import (
	"fmt"
	"maps"
	"slices"
)

// verifySeries looks for numbers that no document has, and for counters that do not stand where the
// numbers end.
func (s *Store) verifySeries() (faults []Fault, err error) {
	var list []Series
	if err := s.db.Order("name").Find(&list).Error; err != nil {
		return nil, err
	}
	for _, x := range list {
		given, err := s.given(&x)
		if err != nil {
			return nil, err
		}
		faults = append(faults, x.faults(given)...)
	}
	return faults, nil
}

// places are numbers of one year: a bit for each.
type places []uint64

func (p *places) add(n int) {
	for len(*p) <= n/64 {
		*p = append(*p, 0)
	}
	(*p)[n/64] |= 1 << (n % 64)
}

func (p places) has(n int) bool { return n/64 < len(p) && p[n/64]>>(n%64)&1 == 1 }

// ends gives the first and the last place; 0 when there is none.
func (p places) ends() (first, last int) {
	for n := range len(p) * 64 {
		if p.has(n) {
			if first == 0 {
				first = n
			}
			last = n
		}
	}
	return first, last
}

// mostPlace is the highest number that is looked at; a bit is kept for each below.
const mostPlace = 1 << 30

// given finds the numbers that a series has given, by years: those of documents, those that are drawn
// for documents to come, and those that were passed over on purpose.
func (s *Store) given(x *Series) (map[int]*places, error) {
	out := map[int]*places{}
	add := func(year, place int) {
		if out[year] == nil {
			out[year] = &places{}
		}
		out[year].add(place)
	}
	rows, err := s.db.Raw("SELECT number FROM documents WHERE series = ? AND number IS NOT NULL UNION ALL SELECT number FROM drawn_numbers WHERE series = ?", x.Name, x.Name).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	read := x.reader()
	for rows.Next() {
		var number string
		if err := rows.Scan(&number); err != nil {
			return nil, err
		}
		if year, place, ok := read(number); ok && place < mostPlace {
			add(year, place)
		}
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	var passed []Passed
	if err := s.db.Where("series = ?", x.Name).Find(&passed).Error; err != nil {
		return nil, err
	}
	for _, p := range passed {
		for n := p.First; n <= p.Last && n < mostPlace; n++ {
			add(p.Year, n)
		}
	}
	return out, nil
}

// faults tells what is missing among the numbers that a series has given.
func (s *Series) faults(given map[int]*places) (faults []Fault) {
	tell := func(format string, args ...any) {
		faults = append(faults, Fault{Message: fmt.Sprintf("series %s: ", s.Name) + fmt.Sprintf(format, args...)})
	}
	for _, year := range slices.Sorted(maps.Keys(given)) {
		first, last := given[year].ends()
		for n := first; n <= last; n++ {
			if given[year].has(n) {
				continue
			}
			from := n
			for ; !given[year].has(n); n++ {
			}
			if from == n-1 {
				tell("the number %s is missing: no document has it", numbered(s.Pattern, year, from))
			} else {
				tell("the numbers %s to %s are missing: no documents have them", numbered(s.Pattern, year, from), numbered(s.Pattern, year, n-1))
			}
		}
		if year == s.counted() && last != s.Next-1 {
			tell("the last number given is %s, but the next would be %s: the counter has been changed", numbered(s.Pattern, year, last), numbered(s.Pattern, year, s.Next))
		}
	}
	if given[s.counted()] == nil && s.Next > 1 && len(given) > 0 {
		tell("no number of this year is given, but the next would be %s: the counter has been changed", numbered(s.Pattern, s.counted(), s.Next))
	}
	return faults
}
