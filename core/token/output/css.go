package output

import (
	"cobrik/core/css"
	"math/bits"
	"slices"
	"strings"

	"cobrik/core/color"
	"cobrik/core/token"
)

// writeCSS writes custom properties: the default theme on :root, each other
// theme as an override that holds only what differs.
//
// A theme is chosen by attributes, [data-theme="dusk"], on any element, the
// choices for all modifiers on the same one; or on the root by the media query
// its context names, where no attribute speaks. All selectors weigh the same, so
// that the later block wins; blocks come by how many choices they make, and each
// says all that the blocks before it would leave wrong. What rests on an
// override through var() is said again with it: a custom property's references
// are replaced where it is declared.
func writeCSS(f *file, runs []*run, modifiers []token.Modifier) {
	f.printf("/* %s */\n", header)
	if runs[0].output.Register {
		register(f, runs[0])
	}
	s := sheet{runs: runs, modifiers: modifiers, selector: func(s string) string { return s }}
	s.write(f)
}

// writeOneCSS writes one theme alone, on :root: a page loads the file of the theme it has.
func writeOneCSS(f *file, r *run) { writeCSS(f, []*run{r}, nil) }

// sheet is what themes are written as.
type sheet struct {
	runs      []*run
	modifiers []token.Modifier
	wanted    map[string]bool     // paths of tokens; nil for all
	selector  func(string) string // how a selector is written
}

func (s *sheet) write(f *file) {
	runs, modifiers := s.runs, s.modifiers
	standard := s.declared(runs[0])
	s.block(f, ":root", "", standard.list)
	themes := make([]*declarations, len(runs))
	varies := map[string]bool{}
	for i, r := range runs {
		themes[i] = s.declared(r)
		for _, d := range themes[i].list {
			if s, ok := standard.byName[d.name]; !ok || s != d {
				varies[d.name] = true
			}
		}
	}
	if len(runs) > 1 {
		// Whoever chooses starts from the default, in whatever theme it stands.
		var any []string
		for _, m := range modifiers {
			any = append(any, "[data-"+css.Ident(m.Name)+"]")
		}
		again := slices.DeleteFunc(slices.Clone(standard.list), func(d declaration) bool { return !varies[d.name] })
		s.block(f, strings.Join(any, ",\n"), "", again)
	}
	order := make([]int, 0, len(runs))
	for i := 1; i < len(runs); i++ {
		order = append(order, i)
	}
	slices.SortStableFunc(order, func(a, c int) int { return choices(runs[a], runs[0]) - choices(runs[c], runs[0]) })
	for _, i := range order {
		left := map[string]declaration{}
		for name, d := range standard.byName {
			left[name] = d
		}
		for _, j := range order {
			if j != i && within(runs[j].theme, runs[i].theme, runs[0].theme) {
				for _, d := range themes[j].list {
					if s, ok := standard.byName[d.name]; !ok || s != d {
						left[d.name] = d
					}
				}
			}
		}
		var differs []declaration
		for _, d := range themes[i].list {
			if l, ok := left[d.name]; !ok || l != d || standard.byName[d.name] != d {
				differs = append(differs, d)
			}
		}
		s.override(f, runs[i].theme, runs[0].theme, differs)
	}
}

func (s *sheet) declared(r *run) *declarations {
	all := declared(r)
	if s.wanted == nil {
		return all
	}
	out := &declarations{byName: map[string]declaration{}}
	for _, d := range all.list {
		if s.wanted[d.path] {
			out.list = append(out.list, d)
			out.byName[d.name] = d
		}
	}
	return out
}

func (s *sheet) block(f *file, selector, media string, list []declaration) {
	block(f, s.selector(selector), media, list, "")
}

// choices counts where a theme is not the default.
func choices(r, standard *run) int {
	n := 0
	for i, c := range r.theme {
		if standard.theme[i] != c {
			n++
		}
	}
	return n
}

// within tells whether a theme makes some of another's choices, and no others.
func within(part, whole, standard token.Theme) bool {
	for i, c := range part {
		if c != whole[i] && c != standard[i] {
			return false
		}
	}
	return true
}

// override writes a theme's block for attributes, and for each way in which a
// media query may stand for some of them.
func (s *sheet) override(f *file, theme, standard token.Theme, list []declaration) {
	modifiers := s.modifiers
	if len(list) == 0 {
		return
	}
	var chosen []int
	unasked := uint(0) // of chosen: those with a media query
	for i, c := range theme {
		if c != standard[i] {
			if modifiers[i].Media[c.Context] != "" {
				unasked |= 1 << len(chosen)
			}
			chosen = append(chosen, i)
		}
	}
	for asked := uint(0); asked < 1<<len(chosen); asked++ {
		if asked&^unasked != 0 {
			continue
		}
		selectors, media := []string{}, []string{}
		for k, i := range chosen {
			if asked&(1<<k) != 0 {
				media = append(media, modifiers[i].Media[theme[i].Context])
				selectors = append(selectors, ":not([data-"+css.Ident(theme[i].Modifier)+"])")
			} else {
				selectors = append(selectors, attribute(theme[i]))
			}
		}
		selector := selectors[0]
		if bits.OnesCount(asked) > 0 {
			selector = ":root:where(" + strings.Join(selectors, "") + ")"
		} else if len(selectors) > 1 {
			selector += ":where(" + strings.Join(selectors[1:], "") + ")"
		}
		query := ""
		if len(media) > 0 {
			query = "@media " + strings.Join(media, " and ")
		}
		s.block(f, selector, query, list)
	}
}

func attribute(c token.Choice) string {
	return "[data-" + css.Ident(c.Modifier) + "=" + css.Quote(c.Context) + "]"
}

// declaration is one custom property: what is written, what it comes to, and
// how a screen that shows more than sRGB is told.
type declaration struct{ path, name, text, flat, wide, note string }

type declarations struct {
	list   []declaration
	byName map[string]declaration
}

// declared gives what a theme declares, in the order of its tokens.
func declared(r *run) *declarations {
	r.once.Do(func() { r.declared = declare(r) })
	return r.declared
}

func declare(r *run) *declarations {
	out := &declarations{byName: map[string]declaration{}}
	w := token.Writer{Reference: func(alias string) string {
		if i := r.referred(alias); i != nil {
			return "var(" + property(i.name) + ")"
		}
		return ""
	}}
	for _, i := range r.items {
		d := declaration{path: i.token.Path, name: property(i.name), text: w.CSS(i.value), flat: token.Writer{Wide: true}.CSS(i.value)}
		if said := comment(i.token.Deprecated); said == "deprecated" {
			d.note = " /* deprecated */"
		} else if said != "" {
			d.note = " /* deprecated: " + said + " */"
		}
		wide := w
		wide.Wide = true
		if s := wide.CSS(i.value); s != d.text {
			d.wide = s
		}
		out.list = append(out.list, d)
		out.byName[d.name] = d
	}
	return out
}

// wideScreens holds where the browser knows colours beyond sRGB.
const wideScreens = "@supports (color: color(display-p3 1 1 1))"

func block(f *file, selector, media string, list []declaration, indent string) {
	if len(list) == 0 {
		return
	}
	if media != "" {
		f.printf("%s {\n", media)
		defer f.printf("}\n")
		indent += "  "
	}
	f.printf("%s%s {\n", indent, selector)
	wide := false
	for _, d := range list {
		f.token(d.path)
		f.printf("%s  %s: %s;%s\n", indent, d.name, d.text, d.note)
		wide = wide || d.wide != ""
	}
	f.printf("%s}\n", indent)
	if !wide {
		return
	}
	f.printf("%s%s {\n%s  %s {\n", indent, wideScreens, indent, selector)
	for _, d := range list {
		if d.wide != "" {
			f.token(d.path)
			f.printf("%s    %s: %s;\n", indent, d.name, d.wide)
		}
	}
	f.printf("%s  }\n%s}\n", indent, indent)
}

// property makes a name a custom property's.
func property(name string) string { return "--" + css.Ident(name) }

// register writes @property rules (CSS Properties and Values 1, 2). An initial
// value may not depend on anything: no references, no rem.
func register(f *file, r *run) {
	syntaxes := map[string]string{"color": "<color>", "dimension": "<length>", "number": "<number>", "duration": "<time>", "fontWeight": "<number>"}
	for _, i := range r.items {
		syntax, known := syntaxes[i.value.Type]
		if !known {
			continue
		}
		v := i.value.Flat()
		if m, ok := v.Literal.(token.Measure); ok && m.Unit == "rem" {
			v.Literal = token.Measure{Number: m.Number * r.output.root(), Unit: "px"}
		}
		if c, ok := v.Literal.(color.Color); ok && v.Form == "" {
			v.Literal = c.Mapped(color.SRGB)
		}
		f.printf("@property %s {\n  syntax: \"%s\";\n  inherits: true;\n  initial-value: %s;\n}\n", property(i.name), syntax, v.CSS())
	}
}
