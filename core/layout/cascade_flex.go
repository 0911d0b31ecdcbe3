package layout

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// setAlignment reads the properties of CSS Box Alignment 3.
func (c *cascade) setAlignment(property, value string) (known bool, err error) {
	s := c.style
	type target struct {
		at   *align
		safe *bool
	}
	targets := map[string]target{
		"justify-content": {&s.justifyContent, &s.safeJustify}, "align-content": {&s.alignContent, &s.safeAlign},
		"justify-items": {&s.justifyItems, &s.safeItems[0]}, "align-items": {&s.alignItems, &s.safeItems[1]},
		"justify-self": {&s.justifySelf, &s.safeJustifySelf}, "align-self": {&s.alignSelf, &s.safeSelf},
	}
	if t, ok := targets[property]; ok {
		safe := strings.HasPrefix(value, "safe ")
		word := strings.TrimPrefix(strings.TrimPrefix(value, "safe "), "unsafe ")
		a, ok := alignments[word]
		if !ok {
			return true, fmt.Errorf("%q is no value of %s", value, property)
		}
		*t.at, *t.safe = a, safe
		return true, nil
	}
	if suffix, ok := strings.CutPrefix(property, "place-"); ok && (suffix == "content" || suffix == "items" || suffix == "self") {
		words := strings.Fields(value)
		if len(words) == 0 || len(words) > 2 {
			return true, fmt.Errorf("%q has not one or two values", value)
		}
		if _, err := c.setAlignment("align-"+suffix, words[0]); err != nil {
			return true, err
		}
		return c.setAlignment("justify-"+suffix, words[len(words)-1])
	}
	return false, nil
}

// setFlex reads the properties of CSS Flexbox 1.
func (c *cascade) setFlex(property, value string) error {
	s := c.style
	factor := func(v string) (float64, error) {
		f, err := strconv.ParseFloat(v, 64)
		if err != nil || f < 0 || isNaN(f) || math.IsInf(f, 0) {
			return 0, fmt.Errorf("%q is no flex factor of 0 or more", v)
		}
		return f, nil
	}
	var err error
	switch property {
	case "flex-flow":
		for _, w := range strings.Fields(value) {
			p := "flex-direction"
			if strings.Contains(w, "wrap") {
				p = "flex-wrap"
			}
			if err := c.setFlex(p, w); err != nil {
				return err
			}
		}
	case "flex-direction":
		if !slices.Contains([]string{"row", "row-reverse", "column", "column-reverse"}, value) {
			return fmt.Errorf("%q is no direction", value)
		}
		s.flexColumn, s.flexBack = strings.HasPrefix(value, "column"), strings.HasSuffix(value, "reverse")
	case "flex-wrap":
		if !slices.Contains([]string{"nowrap", "wrap", "wrap-reverse"}, value) {
			return fmt.Errorf("%q is no flex-wrap", value)
		}
		s.wrap, s.wrapBack = value != "nowrap", value == "wrap-reverse"
	case "flex-grow":
		s.grow, err = factor(value)
	case "flex-shrink":
		s.shrink, err = factor(value)
	case "flex-basis":
		s.basis, err = c.size(value, "auto content")
	case "flex":
		return c.flex(value, factor)
	}
	return err
}

// flex reads the shorthand (CSS Flexbox 1, 7.1).
func (c *cascade) flex(value string, factor func(string) (float64, error)) error {
	s := c.style
	switch value {
	case "none":
		s.grow, s.shrink, s.basis = 0, 0, length{}
		return nil
	case "auto":
		s.grow, s.shrink, s.basis = 1, 1, length{}
		return nil
	}
	// Left out, the basis is 0%, which is content in what has no size: as
	// browsers do, not as 7.1.1 says.
	s.grow, s.shrink, s.basis = 1, 1, share(math.SmallestNonzeroFloat64, 0)
	numbers, bases := 0, 0
	words := split(value, ' ')
	for _, w := range words {
		if f, err := factor(w); err == nil && numbers < 2 {
			if numbers == 0 {
				s.grow = f
			} else {
				s.shrink = f
			}
			numbers++
			continue
		}
		l, err := c.size(w, "auto content")
		if err != nil {
			return err
		}
		s.basis = l
		bases++
	}
	if numbers+bases == 0 || bases > 1 {
		return fmt.Errorf("%q is no flex", value)
	}
	return nil
}
