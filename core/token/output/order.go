package output

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/css"
	"cobrik/core/token"
)

// item is one value on its way to a file: a token, or a part of one that was
// taken apart.
type item struct {
	token  *token.Token
	part   string   // "fontSize", "2.color"; empty for a whole token
	words  []string // what its name is made of
	name   string
	value  *token.Value
	beside bool // it stands beside the whole token that it is a part of
}

// key names an item among all of a set's.
func key(path, part string) string { return path + parting + part }

// parting stands in no path.
const parting = "\x00"

// step is one thing that is done to every item it concerns; the others it leaves as they are.
type step struct {
	says  string // "in rem, root 16 px"
	apply func(item item) []item
}

func (s step) all(items []item) []item {
	var out []item
	for _, i := range items {
		out = append(out, s.apply(i)...)
	}
	return out
}

// steps gives what an output does to its tokens, in the one order that is right:
//
//   - references are followed first, so that everything after sees what is written out;
//   - composites come apart before anything is named or counted, since their parts have
//     names and lengths of their own;
//   - lengths are rounded as px, and only then divided by the root size: rounding rem
//     would make 12 px of 0.75 rem a whole 1 rem;
//   - names come last, when all that needs one is there.
//
// What the language itself makes of a name (two hyphens, a dollar sign) is the writer's.
func (o *Output) steps() []step {
	var out []step
	add := func(says string, apply func(item item) []item) { out = append(out, step{says, apply}) }
	if o.wants("references") == "followed" {
		add("references followed", func(i item) []item {
			i.value = i.value.Flat()
			return []item{i}
		})
	}
	if o.wants("composites") == "parts" {
		add("in parts", inParts)
	} else {
		add("letter spacing beside", withLetterSpacing)
	}
	root := "root " + css.FormatNumber(o.root()) + " px"
	if o.Whole {
		add("in whole px, "+root, measures(func(m token.Measure) token.Measure {
			switch m.Unit {
			case "px":
				m.Number = math.Round(m.Number)
			case "rem":
				m.Number = token.Computed(math.Round(m.Number*o.root()) / o.root())
			}
			return m
		}))
	}
	switch o.wants("lengths") {
	case "px":
		add("in px, "+root, converted("rem", "px", func(n float64) float64 { return n * o.root() }))
	case "rem":
		add("in rem, "+root, converted("px", "rem", func(n float64) float64 { return n / o.root() }))
	}
	if form := o.wants("colors"); form != "written" {
		add("as "+form, colors(form))
	}
	switch o.wants("durations") {
	case "ms":
		add("in ms", converted("s", "ms", func(n float64) float64 { return n * 1000 }))
	case "s":
		add("in s", converted("ms", "s", func(n float64) float64 { return n / 1000 }))
	}
	add("named", func(i item) []item {
		i.name = o.joined(i.words)
		return []item{i}
	})
	return out
}

// joined makes a name of its words.
func (o *Output) joined(words []string) string {
	if prefix := strings.TrimRight(o.Prefix, "-_"); prefix != "" {
		words = append([]string{prefix}, words...)
	}
	switch o.wants("names") {
	case "underscores":
		return snake(words)
	case "capitals":
		return camel(words)
	case "large":
		return strings.ToUpper(snake(words))
	case "path":
		return strings.Join(words, ".")
	}
	return kebab(words)
}

func mapped(i item, change func(*token.Value) *token.Value) []item {
	i.value = i.value.Map(change)
	return []item{i}
}

func measures(change func(token.Measure) token.Measure) func(item) []item {
	return func(i item) []item {
		return mapped(i, func(v *token.Value) *token.Value {
			if m, ok := v.Literal.(token.Measure); ok {
				v.Literal = change(m)
			}
			return v
		})
	}
}

func converted(from, to string, change func(float64) float64) func(item) []item {
	return measures(func(m token.Measure) token.Measure {
		if m.Unit == from {
			return token.Measure{Number: token.Computed(change(m.Number)), Unit: to}
		}
		return m
	})
}

func colors(form string) func(item) []item {
	return func(i item) []item {
		return mapped(i, func(v *token.Value) *token.Value {
			if _, ok := v.Literal.(color.Color); ok {
				v.Form = form
			}
			return v
		})
	}
}

// inParts takes composites apart. A part of a composite that is an alias refers
// to that part of what it points at.
func inParts(i item) []item {
	if slices.Contains([]string{"border", "transition", "shadow", "gradient", "typography"}, i.value.Type) {
		return piecesOf(i, i.value, "", "")
	}
	return []item{i}
}

// withLetterSpacing puts letter spacing beside typography that stays whole: CSS's font
// has no room for it (CSS Fonts 4, 2.7).
func withLetterSpacing(i item) []item {
	out := []item{i}
	if i.value.Type == "typography" {
		for _, part := range piecesOf(i, i.value, "", "") {
			if part.part == "letterSpacing" {
				part.beside = true
				out = append(out, part)
			}
		}
	}
	return out
}

// piecesOf takes one value apart. below is the token that v stands for a part of,
// rel that part's name; both are empty while v is said here.
func piecesOf(i item, v *token.Value, below, rel string) []item {
	if v.To != nil && !strings.Contains(v.Alias, parting) {
		below, rel = v.Alias, ""
	}
	end := v.End()
	var out []item
	each := func(name string, piece *token.Value) {
		one := i
		one.part = dotted(i.part, name)
		one.words = append(slices.Clone(i.words), name)
		one.value = piece
		if below != "" {
			one.value = token.Reference(piece.Type, key(below, dotted(rel, name)), piece)
		}
		if piece.End().Parts != nil && piece.Type != "strokeStyle" {
			out = append(out, piecesOf(one, one.value, below, dotted(rel, name))...)
			return
		}
		out = append(out, one)
	}
	for _, p := range end.Parts {
		each(p.Name, p.Value)
	}
	for n, piece := range end.Items {
		each(strconv.Itoa(n+1), piece)
	}
	return out
}

func dotted(part, name string) string { return strings.TrimPrefix(part+"."+name, ".") }
