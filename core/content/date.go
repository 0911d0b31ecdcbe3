package content

import (
	"regexp"
	"strconv"
)

// dates are those of RFC 3339, 5.6: a full-date, with a time or without; the seconds may be left out, as HTML has it.
var dates = regexp.MustCompile(`^(\d{4})-(\d{2})-(\d{2})(?:[Tt ](\d{2}):(\d{2})(?::(\d{2})(?:\.\d{1,9})?)?(?:[Zz]|[+-]\d{2}:\d{2})?)?$`)

// Day is a day of the Gregorian calendar.
type Day struct{ Year, Month, Day int }

func isDate(s string) bool {
	_, ok := ReadDay(s)
	return ok
}

// ReadDay reads the day of a date as RFC 3339 writes it; its time and offset, where it has them, are not asked.
func ReadDay(s string) (Day, bool) {
	m := dates.FindStringSubmatch(s)
	if m == nil {
		return Day{}, false
	}
	number := func(i int) int {
		n, _ := strconv.Atoi(m[i]) // the pattern has digits there, or nothing
		return n
	}
	d := Day{number(1), number(2), number(3)}
	ok := d.Year > 0 && d.Month >= 1 && d.Month <= 12 && d.Day >= 1 && d.Day <= daysIn(d.Year, d.Month) && number(4) < 24 && number(5) < 60 && number(6) <= 60
	return d, ok
}

func daysIn(year, month int) int {
	switch month {
	case 2:
		if year%4 == 0 && (year%100 != 0 || year%400 == 0) {
			return 29
		}
		return 28
	case 4, 6, 9, 11:
		return 30
	}
	return 31
}
