package layout

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// maxTracks bounds a template and the lines an item may name, as browsers do.
const maxTracks = 1000

// setGrid reads the properties of CSS Grid 2.
func (c *cascade) setGrid(property, value string) (known bool, err error) {
	s := c.style
	grid := func() *gridStyle {
		if s.grid == nil {
			s.grid = &gridStyle{}
		}
		return s.grid
	}
	switch property {
	case "grid-template-columns", "grid-template-rows":
		list, err := c.trackList(value)
		if err != nil {
			return true, err
		}
		if property == "grid-template-columns" {
			grid().tracks[0] = list
		} else {
			grid().tracks[1] = list
		}
	case "grid-template":
		parts := split(value, '/')
		if value == "none" {
			parts = []string{"none", "none"}
		}
		if len(parts) != 2 {
			return true, fmt.Errorf("%q is not rows / columns", value)
		}
		if _, err := c.setGrid("grid-template-rows", parts[0]); err != nil {
			return true, err
		}
		return c.setGrid("grid-template-columns", parts[1])
	case "grid-auto-columns", "grid-auto-rows":
		var tracks []track
		for _, w := range split(value, ' ') {
			t, err := c.track(w)
			if err != nil {
				return true, err
			}
			tracks = append(tracks, t)
		}
		if property == "grid-auto-columns" {
			grid().autos[0] = tracks
		} else {
			grid().autos[1] = tracks
		}
	case "grid-auto-flow":
		for _, w := range strings.Fields(value) {
			switch w {
			case "row":
			case "column":
				grid().byCol = true
			case "dense":
				grid().dense = true
			default:
				return true, fmt.Errorf("%q is no grid-auto-flow", value)
			}
		}
	case "grid-column-start", "grid-column-end", "grid-row-start", "grid-row-end":
		line, span, err := readLine(value)
		if err != nil {
			return true, err
		}
		p := &s.place[0]
		if strings.Contains(property, "row") {
			p = &s.place[1]
		}
		if strings.HasSuffix(property, "start") {
			p.start, p.startSpan = line, span
		} else {
			p.end, p.endSpan = line, span
		}
	case "grid-column", "grid-row", "grid-area":
		parts := split(value, '/')
		names := []string{property + "-start", property + "-end"}
		if property == "grid-area" {
			names = []string{"grid-row-start", "grid-column-start", "grid-row-end", "grid-column-end"}
		}
		if len(parts) > len(names) {
			return true, fmt.Errorf("%q has too many values", value)
		}
		for i, name := range names {
			v := "auto"
			if i < len(parts) {
				v = parts[i]
			}
			if _, err := c.setGrid(name, v); err != nil {
				return true, err
			}
		}
	default:
		return false, nil
	}
	return true, nil
}

// readLine reads a grid line: auto, a number, or a span (CSS Grid 2, 8.3).
// Named lines are not known.
func readLine(value string) (line, span int, err error) {
	if value == "auto" {
		return 0, 0, nil
	}
	words := strings.Fields(value)
	number := func(w string) (int, error) {
		n, err := strconv.Atoi(w)
		if err != nil || n == 0 {
			return 0, fmt.Errorf("%q is no grid line: a number other than 0, span and a number, or auto", value)
		}
		return max(-maxTracks, min(maxTracks, n)), nil
	}
	switch {
	case len(words) == 1:
		line, err = number(words[0])
	case len(words) == 2 && (words[0] == "span" || words[1] == "span"):
		if words[1] == "span" {
			words[1] = words[0]
		}
		if span, err = number(words[1]); err == nil && span < 0 {
			err = fmt.Errorf("%q is a span below 1", value)
		}
	default:
		err = fmt.Errorf("%q is no grid line", value)
	}
	return line, span, err
}

func (c *cascade) trackList(value string) (trackList, error) {
	var out trackList
	if value == "none" {
		return out, nil
	}
	seen := false
	for _, w := range split(value, ' ') {
		if strings.HasPrefix(w, "[") {
			return out, fmt.Errorf("named lines are not laid out here: %q", w)
		}
		var tracks []track
		if inner, ok := strings.CutPrefix(w, "repeat("); ok && strings.HasSuffix(w, ")") {
			parts := split(strings.TrimSuffix(inner, ")"), ',')
			if len(parts) < 2 {
				return out, fmt.Errorf("%q is no repetition", w)
			}
			var repeated []track
			for _, part := range split(strings.Join(parts[1:], ","), ' ') {
				t, err := c.track(part)
				if err != nil {
					return out, err
				}
				repeated = append(repeated, t)
			}
			if len(repeated) == 0 {
				return out, fmt.Errorf("%q repeats nothing", w)
			}
			if parts[0] == "auto-fill" || parts[0] == "auto-fit" {
				if seen {
					return out, fmt.Errorf("%q has two automatic repetitions", value)
				}
				for _, t := range repeated {
					if t.min.kind != fixed && t.max.kind != fixed {
						return out, fmt.Errorf("%q needs a fixed size in every repeated track", w)
					}
				}
				seen, out.repeat, out.fit = true, repeated, parts[0] == "auto-fit"
				continue
			}
			n, err := strconv.Atoi(parts[0])
			if err != nil || n < 1 {
				return out, fmt.Errorf("%q does not say how often", w)
			}
			for range min(n, maxTracks) {
				tracks = append(tracks, repeated...)
			}
		} else {
			t, err := c.track(w)
			if err != nil {
				return out, err
			}
			tracks = []track{t}
		}
		if seen {
			out.after = append(out.after, tracks...)
		} else {
			out.before = append(out.before, tracks...)
		}
		if len(out.before)+len(out.after) > maxTracks {
			return out, fmt.Errorf("more than %d tracks", maxTracks)
		}
	}
	return out, nil
}

func (c *cascade) track(value string) (track, error) {
	if inner, ok := strings.CutPrefix(value, "minmax("); ok && strings.HasSuffix(value, ")") {
		parts := split(strings.TrimSuffix(inner, ")"), ',')
		if len(parts) != 2 {
			return track{}, fmt.Errorf("%q has not two values", value)
		}
		low, err := c.breadth(parts[0])
		if err != nil {
			return track{}, err
		}
		if low.kind == fraction {
			return track{}, fmt.Errorf("%q has a minimum in fr", value)
		}
		high, err := c.breadth(parts[1])
		return track{low, high}, err
	}
	if inner, ok := strings.CutPrefix(value, "fit-content("); ok && strings.HasSuffix(value, ")") {
		limit, err := c.size(strings.TrimSuffix(inner, ")"), "")
		if err == nil && limit.kind != fixed {
			err = fmt.Errorf("%q has no limit", value)
		}
		limit.kind = fitContent
		return track{length{kind: auto}, limit}, err
	}
	b, err := c.breadth(value)
	if b.kind == fraction { // a flexible track has an automatic minimum (CSS Grid 2, 7.2.1)
		return track{length{kind: auto}, b}, err
	}
	return track{b, b}, err
}

func (c *cascade) breadth(value string) (length, error) {
	if number, ok := strings.CutSuffix(value, "fr"); ok {
		f, err := strconv.ParseFloat(number, 64)
		if err != nil || f < 0 || math.IsInf(f, 0) || isNaN(f) {
			return length{}, fmt.Errorf("%q is no share of 0 or more", value)
		}
		return length{kind: fraction, px: f}, nil
	}
	l, err := c.size(value, "auto")
	if err == nil && l.kind == fitContent {
		err = fmt.Errorf("%q is no track size", value)
	}
	return l, err
}
