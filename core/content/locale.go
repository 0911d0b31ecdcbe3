package content

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-playground/locales"
	"github.com/go-playground/locales/cs"
	"github.com/go-playground/locales/da"
	"github.com/go-playground/locales/de"
	"github.com/go-playground/locales/de_AT"
	"github.com/go-playground/locales/de_CH"
	"github.com/go-playground/locales/el"
	"github.com/go-playground/locales/en"
	"github.com/go-playground/locales/en_GB"
	"github.com/go-playground/locales/es"
	"github.com/go-playground/locales/fr"
	"github.com/go-playground/locales/it"
	"github.com/go-playground/locales/ja"
	"github.com/go-playground/locales/nl"
	"github.com/go-playground/locales/pl"
	"github.com/go-playground/locales/pt"
	"github.com/go-playground/locales/sv"
	"github.com/go-playground/locales/tr"
	"github.com/go-playground/locales/uk"
	"github.com/go-playground/locales/zh"
)

// known are the languages that numbers and dates are written in (CLDR), by their tags (BCP 47).
var known = map[string]locales.Translator{
	"cs": cs.New(), "da": da.New(), "de": de.New(), "de-AT": de_AT.New(), "de-CH": de_CH.New(), "el": el.New(), "en": en.New(), "en-GB": en_GB.New(), "es": es.New(), "fr": fr.New(),
	"it": it.New(), "ja": ja.New(), "nl": nl.New(), "pl": pl.New(), "pt": pt.New(), "sv": sv.New(), "tr": tr.New(), "uk": uk.New(), "zh": zh.New(),
}

// Locales lists the tags of the languages that numbers and dates are written in.
func Locales() []string {
	out := make([]string, 0, len(known))
	for tag := range known {
		out = append(out, tag)
	}
	slices.Sort(out)
	return out
}

// localeOf finds a language by its tag, or by its first part; English as a last resort.
func localeOf(tag string) locales.Translator {
	for {
		if l, ok := known[tag]; ok {
			return l
		}
		i := strings.LastIndex(tag, "-")
		if i < 0 {
			return known["en"]
		}
		tag = tag[:i]
	}
}

// mostDigits bounds the digits behind the point that a number is written with.
const mostDigits = 20

// FormatNumber writes a number in a language, with the digits behind the point that it has.
func FormatNumber(v float64, tag string) string {
	digits := 0
	if _, after, ok := strings.Cut(strconv.FormatFloat(math.Abs(v), 'f', -1, 64), "."); ok {
		digits = min(len(after), mostDigits)
	}
	return localeOf(tag).FmtNumber(v, uint64(digits))
}

// DateStyles are how much of a day is written: as CLDR names them.
var DateStyles = []string{"short", "medium", "long", "full"}

// FormatDay writes a day in a language, long when the style is none of DateStyles.
func FormatDay(d Day, tag, style string) string {
	t := time.Date(d.Year, time.Month(d.Month), d.Day, 0, 0, 0, 0, time.UTC)
	l := localeOf(tag)
	switch style {
	case "short":
		return l.FmtDateShort(t)
	case "medium":
		return l.FmtDateMedium(t)
	case "full":
		return l.FmtDateFull(t)
	}
	return l.FmtDateLong(t)
}
