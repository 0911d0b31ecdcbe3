package survey

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/color"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/token"
)

// Doubt is something that is unclear, or will make the work harder.
type Doubt struct {
	ID      string   `json:"id"` // its rule and layer, the same in every reading
	Rule    string   `json:"rule"`
	Layer   string   `json:"layer"`            // id of the one layer, or of the first
	Layers  []string `json:"layers"`           // ids of all that it is about
	Page    string   `json:"page,omitempty"`   // id of the page it is on
	Family  string   `json:"family,omitempty"` // id of the family it is in, where that is no page
	Message string   `json:"message"`
}

// Where names the page or the family that a doubt is about; nothing where the document has neither.
func (d Doubt) Where(doc *design.Document) string {
	for _, p := range doc.Pages {
		if p.ID == d.Page {
			return p.Name
		}
	}
	if f := doc.Family(d.Family); f != nil {
		return f.Name
	}
	return ""
}

// DoubtRule is a rule that doubts come of.
type DoubtRule struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Why   string `json:"why"` // it matters
	Fix   string `json:"fix"`
}

// DoubtRules lists all of them, in the order in which doubts are told. They are common practice, no source.
var DoubtRules = []DoubtRule{
	{"copy-lost", "Copies that are no uses", "A change of the family does not reach them.", "Replace them by uses of the family, or say that they are something else."},
	{"use-overridden", "Uses that are another thing", "What hides or changes most of a family is not what the family says.", "Draw it as a variant, or as a family of its own."},
	{"variants-unlike", "Variants that do not correspond", "One component cannot be made of layers that are not the same in every variant.", "Give all variants the same layers; hide what one of them does not show."},
	{"state-missing", "States that are not drawn", "What is used by pointer and keys has a focus to be seen, and may be disabled.", "Draw the states, or say that the ready-made ones will do."},
	{"width-missing", "Pages drawn at one width", "What happens in less room is left to whoever builds it.", "Draw the page narrow, too."},
	{"layer-name", "Layers that nobody has named", "Names become those of parts and props.", "Name them after what they are for."},
	{"name-twice", "Names that stand twice", "Overrides and variants find layers by their names.", "Give each its own name."},
	{"layer-hidden", "Hidden leftovers", "What is hidden everywhere is in nobody's way, and in the contract all the same.", "Remove it, or show it in a variant."},
	{"layer-outside", "Layers outside of what holds them", "They are cut off, or make pages scroll.", "Move them in, or let what holds them clip or grow."},
	{"placed-in-flow", "Placed layers among flow", "They keep their place while all else moves, and lie over it.", "Let them flow, or say that they are meant to overlap."},
	{"group-as-container", "Groups that would make better containers", "A group does not say what happens when a text gets longer.", "Give it a flow with a gap."},
	{"value-off-scale", "Values that are used once, off the scale", "They are most often slips, and no theme reaches them.", "Use the nearest token, or make one."},
	{"colors-near", "Colours that are nearly the same", "Nobody sees the difference, and each has to be kept.", "Use one of them."},
	{"text-unstyled", "Texts without a style", "Texts with a style change with it; these stay behind.", "Bind their type to tokens, as the others are."},
	{"text-sizes", "Texts of one purpose in several sizes", "Readers tell purposes by size.", "Set them alike, or name them apart."},
	{"picture-export", "Pictures without an export hint", "A drawing of many paths is written out as that many paths.", "Say that it becomes one picture."},
}

// doubter collects doubts.
type doubter struct {
	o      *outline
	tokens *token.Set
	off    map[string]bool
	out    []Doubt
}

// at says where layers are.
type at struct{ page, family string }

func (d *doubter) add(rule string, where at, layers []string, format string, args ...any) {
	if d.off[rule] || len(layers) == 0 {
		return
	}
	d.out = append(d.out, Doubt{ID: rule + ":" + layers[0], Rule: rule, Layer: layers[0], Layers: layers, Page: where.page, Family: where.family, Message: fmt.Sprintf(format, args...)})
}

// doubts reads what is unclear in a document, rule by rule.
func (o *outline) doubts(r *Reading, tokens *token.Set, off map[string]bool) []Doubt {
	d := &doubter{o: o, tokens: tokens, off: off, out: []Doubt{}}
	d.copies(r)
	d.families()
	d.widths(r)
	binds, flows := false, false
	o.doc.EachLayer(func(l *design.Layer) {
		binds = binds || l.Text != nil && styledByToken(l)
		flows = flows || l.Flow != nil
	})
	for i, p := range o.doc.Pages {
		if !o.goOn("doubts", 0.77, 0.85, i, len(o.doc.Pages)) {
			return nil
		}
		for _, l := range p.Layers {
			d.layer(l, nil, at{page: p.ID}, flows)
			if b := l.Bounds; b.X < -slack || b.Y < -slack || b.X+b.Width > p.Width+slack || b.Y+b.Height > p.Height+slack {
				d.add("layer-outside", at{page: p.ID}, []string{l.ID}, "%s reaches beyond the page %s.", quoted(l), p.Name)
			}
		}
	}
	for _, f := range o.doc.Families {
		for _, v := range f.Variants {
			if v == f.Default() {
				d.layer(v.Root, nil, at{family: f.ID}, flows)
			}
		}
	}
	if !o.goOn("doubts", 0.85, 1, 0, 1) {
		return nil
	}
	d.scales()
	d.colors()
	d.texts(binds)
	rank := map[string]int{}
	for i, r := range DoubtRules {
		rank[r.ID] = i
	}
	slices.SortStableFunc(d.out, func(a, b Doubt) int { return rank[a.Rule] - rank[b.Rule] })
	seen := map[string]int{}
	for i := range d.out { // two of one rule may begin with the same layer
		id := d.out[i].ID
		if seen[id]++; seen[id] > 1 {
			d.out[i].ID = fmt.Sprintf("%s:%d", id, seen[id])
		}
	}
	return d.out
}

func quoted(l *design.Layer) string { return "“" + l.Name + "”" }

// copies doubts what repeats a family without being a use, and uses that are hardly any.
func (d *doubter) copies(r *Reading) {
	for _, f := range r.Finds {
		if f.Kind != Copies {
			continue
		}
		var ids []string
		for _, m := range f.Members {
			ids = append(ids, m.ID)
		}
		d.add("copy-lost", at{page: f.Members[0].Page, family: f.Members[0].Family}, ids, "%s drawn like the family %s without being %s.", times(len(ids), "layer is", "layers are"), d.o.doc.Family(f.Family).Name, times2(len(ids), "a use of it", "uses of it"))
	}
	for _, f := range r.Families {
		for _, u := range f.Uses {
			if u.Other {
				d.add("use-overridden", at{page: u.Page, family: u.Family}, []string{u.Layer}, "A use of %s hides or replaces %d of its %d layers.", f.Name, u.Replaced, u.Layers)
			}
		}
	}
}

func times(n int, one, several string) string {
	return fmt.Sprintf("%d %s", n, times2(n, one, several))
}

func times2(n int, one, several string) string {
	if n == 1 {
		return one
	}
	return several
}

// interactive are words in the names of what is used by pointer and keys.
var interactive = []string{"button", "link", "tab", "field", "input", "select", "checkbox", "radio", "switch", "toggle", "slider", "menu", "disclosure"}

// families doubts variants that do not correspond, layers that none of them shows, and states that are missing.
func (d *doubter) families() {
	for _, f := range d.o.doc.Families {
		where := at{family: f.ID}
		for _, p := range draft.Unlike(f) {
			d.add("variants-unlike", where, []string{p.Layer}, "%s", p.Message)
		}
		d.hiddenEverywhere(f, where)
		words := draft.Role(&design.Layer{Name: f.Name})
		if !slices.ContainsFunc(interactive, func(w string) bool { return strings.Contains(words, w) }) || len(f.Variants) == 0 {
			continue
		}
		drawn := map[string]bool{}
		for _, a := range f.Axes {
			for _, v := range a.Values {
				drawn[draft.StateWord(v)] = true
			}
		}
		var missing []string
		for _, word := range []string{"focus", "disabled"} {
			if !drawn[draft.StateWord(word)] && !(word == "disabled" && strings.Contains(words, "link")) {
				missing = append(missing, word)
			}
		}
		if len(missing) > 0 {
			d.add("state-missing", where, []string{f.Variants[0].Root.ID}, "%s is not drawn in the %s %s.", f.Name, times2(len(missing), "state", "states"), strings.Join(missing, " and "))
		}
	}
}

// hiddenEverywhere doubts layers that every variant hides.
func (d *doubter) hiddenEverywhere(f *design.Family, where at) {
	base := f.Default()
	if base == nil {
		return
	}
	shown := map[string]bool{}
	for _, v := range f.Variants {
		for _, path := range draft.LayerPaths(v.Root) {
			if l, _ := draft.LayerAt(v.Root, path); !l.Hidden {
				shown[path] = true
			}
		}
	}
	for _, path := range draft.LayerPaths(base.Root) {
		if !shown[path] {
			l, _ := draft.LayerAt(base.Root, path)
			d.add("layer-hidden", where, []string{l.ID}, "%s is hidden in every variant of %s.", quoted(l), f.Name)
		}
	}
}

// widths doubts pages that are drawn at one width, where others are at several.
func (d *doubter) widths(r *Reading) {
	alone := map[string]bool{}
	for _, p := range d.o.doc.Pages {
		alone[p.ID] = true
	}
	for _, w := range r.Widths {
		for _, id := range w.Pages {
			delete(alone, id)
		}
	}
	for _, p := range d.o.doc.Pages {
		if alone[p.ID] && len(p.Layers) > 0 && (p.Width >= leastWide || len(r.Widths) > 0 && p.Width >= leastPaired) {
			d.add("width-missing", at{page: p.ID}, []string{p.Layers[0].ID}, "%s is drawn %s px wide alone.", p.Name, css.FormatNumber(p.Width))
		}
	}
}

// leastWide is from where on a page wants a narrow drawing, px, and leastPaired where other pages have one. slack is how far a layer may stick out, px.
const (
	leastWide   = 1000
	leastPaired = 600
	slack       = 1.5
)

// layer doubts a layer of a page, or of a family's default, and what it holds.
func (d *doubter) layer(l, parent *design.Layer, where at, flows bool) {
	holds := l.Kind == design.Group || l.Kind == design.Box
	if holds && len(l.Children) > 0 && l.HasDefaultName() {
		d.add("layer-name", where, []string{l.ID}, "%s holds %s and has no name of its own.", quoted(l), times(len(l.Children), "layer", "layers"))
	}
	if l.Hidden && where.page != "" {
		d.add("layer-hidden", where, []string{l.ID}, "%s is hidden.", quoted(l))
	}
	if parent != nil && !l.Hidden {
		b, in := l.Bounds, parent.Bounds
		if !l.Pinned() && !parent.Clip && parent.Kind == design.Box && (b.X < -slack || b.Y < -slack || b.X+b.Width > in.Width+slack || b.Y+b.Height > in.Height+slack) {
			d.add("layer-outside", where, []string{l.ID}, "%s reaches beyond %s.", quoted(l), quoted(parent))
		}
		if parent.Flow != nil && l.Pinned() {
			d.add("placed-in-flow", where, []string{l.ID}, "%s is placed in %s, which flows.", quoted(l), quoted(parent))
		}
	}
	if flows && l.Kind == design.Group && l.Flow == nil && len(l.Children) > 1 && !isDrawing(l) && inFlow(l.Children) {
		d.add("group-as-container", where, []string{l.ID}, "%s holds %d layers one after another, and is a group.", quoted(l), len(l.Children))
	}
	if l.Flatten == "" && isDrawing(l) && l.Kind == design.Group && max(l.Bounds.Width, l.Bounds.Height) > largestIcon {
		if n := countPaths(l); n >= manyPaths {
			d.add("picture-export", where, []string{l.ID}, "%s is drawn of %d paths.", quoted(l), n)
		}
	}
	if l.Hidden || isDrawing(l) { // what is not seen is not looked at, and paths need no names
		return
	}
	d.twice(l, where)
	for _, c := range l.Children {
		d.layer(c, l, where, flows)
	}
}

// manyPaths is from how many paths on a drawing is better one picture.
const manyPaths = 12

func countPaths(l *design.Layer) (n int) {
	l.Walk(func(c *design.Layer, _, _ float64) {
		if c.Vector != nil {
			n += len(c.Vector.Paths)
		}
	})
	return n
}

// twice doubts names that several layers of one container have which are not alike.
func (d *doubter) twice(l *design.Layer, where at) {
	named := map[string][]*design.Layer{}
	for _, c := range l.Children {
		if !c.HasDefaultName() && c.Kind != design.Instance && !(c.Text != nil && c.Text.Content == c.Name) {
			named[c.Name] = append(named[c.Name], c)
		}
	}
	for _, c := range l.Children {
		of := named[c.Name]
		if len(of) < 2 || of[0] != c {
			continue
		}
		var ids []string
		unlike := false
		for _, o := range of {
			ids = append(ids, o.ID)
			unlike = unlike || o.Kind != c.Kind || len(o.Children) != len(c.Children)
		}
		if unlike {
			d.add("name-twice", where, ids, "%d unlike layers in %s are named %s.", len(ids), quoted(l), quoted(c))
		}
	}
}

// inFlow tells whether layers stand one after another in a row or a column.
func inFlow(list []*design.Layer) bool {
	row, column := true, true
	for i, c := range list {
		if c.Hidden || c.Kind == design.Vector {
			return false
		}
		for _, o := range list[:i] {
			row = row && (c.Bounds.X >= o.Bounds.X+o.Bounds.Width-slack || o.Bounds.X >= c.Bounds.X+c.Bounds.Width-slack)
			column = column && (c.Bounds.Y >= o.Bounds.Y+o.Bounds.Height-slack || o.Bounds.Y >= c.Bounds.Y+c.Bounds.Height-slack)
		}
	}
	return row || column
}

// scales doubts values that are used once and are no token's.
func (d *doubter) scales() {
	if d.tokens == nil || len(d.tokens.All()) == 0 {
		return
	}
	for _, raw := range OffScale(d.o.doc, d.tokens) {
		if len(raw.Uses) != 1 || raw.Nearest == nil || raw.Distance == 0 {
			continue
		}
		use := raw.Uses[0]
		d.add("value-off-scale", d.where(use.Layer), []string{use.Layer}, "%s of “%s” is %s; the nearest token, %s, is %s.", use.Property, use.Name, raw.Value, raw.Nearest.Path, raw.Nearest.Value)
	}
}

// where finds the page or the family that a layer is in.
func (d *doubter) where(layer string) at {
	if d.o.places == nil {
		d.o.places = map[string]at{}
		put := func(l *design.Layer, where at) {
			l.Walk(func(c *design.Layer, _, _ float64) { d.o.places[c.ID] = where })
		}
		for _, p := range d.o.doc.Pages {
			for _, l := range p.Layers {
				put(l, at{page: p.ID})
			}
		}
		for _, f := range d.o.doc.Families {
			for _, v := range f.Variants {
				put(v.Root, at{family: f.ID})
			}
		}
	}
	return d.o.places[layer]
}

// nearlySame is up to which CIEDE2000 two colours are taken for one; mostColors bounds those that are compared with each other.
const (
	nearlySame = 2.0
	mostColors = 400
)

// colors doubts colours that are nearly another one which is used more.
func (d *doubter) colors() {
	type used struct {
		value  string
		color  color.Color
		count  int
		layers []string // that are bound to no token
	}
	var all []*used
	by := map[string]*used{}
	read := map[string]*used{} // by how they are written; nil for what is no colour
	d.o.doc.EachLayer(func(l *design.Layer) {
		look := func(v string, properties ...string) {
			u, known := read[v]
			if !known {
				if c, err := color.Parse(v); err == nil {
					if by[c.Key()] == nil {
						by[c.Key()] = &used{value: v, color: c}
						all = append(all, by[c.Key()])
					}
					u = by[c.Key()]
				}
				read[v] = u
			}
			if u == nil {
				return
			}
			if u.count++; !slices.ContainsFunc(properties, func(p string) bool { return l.Tokens[p] != "" }) {
				u.layers = append(u.layers, l.ID) // what is bound is meant
			}
		}
		look(l.Fill, "color", "background-color", "fill")
		if l.Stroke != nil {
			look(l.Stroke.Color, "border-color")
		}
	})
	slices.SortStableFunc(all, func(a, b *used) int { return b.count - a.count })
	all = all[:min(len(all), mostColors)]
	for i, c := range all {
		for _, o := range all[:i] {
			if e := color.Difference(c.color, o.color); len(c.layers) > 0 && c.color.Alpha == o.color.Alpha && e > 0 && e <= nearlySame {
				d.add("colors-near", d.where(c.layers[0]), c.layers, "%s is nearly %s, which is used %s: they are %.1f apart (CIEDE2000).", c.value, o.value, times(o.count, "time", "times"), e)
				break
			}
		}
	}
}

// texts doubts texts without a style where others have one, and those of one purpose that are set in another size than nearly all of it.
func (d *doubter) texts(binds bool) {
	unstyled := map[setting][]string{}
	var settings []setting
	type purpose struct{ role string }
	sizes := map[purpose]map[float64][]string{}
	var purposes []purpose
	for _, p := range d.o.doc.Pages {
		for _, top := range p.Layers {
			top.Walk(func(l *design.Layer, _, _ float64) {
				if l.Text == nil || l.Hidden {
					return
				}
				if k := (setting{l.Text.FontSize, l.Text.FontWeight, l.Text.Style}); binds && !styledByToken(l) {
					if unstyled[k] == nil {
						settings = append(settings, k)
					}
					unstyled[k] = append(unstyled[k], l.ID)
				}
				if role := draft.Role(l); role != "" {
					k := purpose{role}
					if sizes[k] == nil {
						sizes[k] = map[float64][]string{}
						purposes = append(purposes, k)
					}
					sizes[k][l.Text.FontSize] = append(sizes[k][l.Text.FontSize], l.ID)
				}
			})
		}
	}
	for _, k := range settings {
		d.add("text-unstyled", d.where(unstyled[k][0]), unstyled[k], "%s set in %s px at weight %s without a style.", times(len(unstyled[k]), "text is", "texts are"), css.FormatNumber(k.size), css.FormatNumber(k.weight))
	}
	for _, k := range purposes {
		total, usual := 0, 0.0
		for size, ids := range sizes[k] {
			total += len(ids)
			if len(ids) > len(sizes[k][usual]) || len(ids) == len(sizes[k][usual]) && size < usual {
				usual = size
			}
		}
		var others []float64
		for size := range sizes[k] {
			if size != usual && math.Abs(size-usual) <= 0.25*usual {
				others = append(others, size)
			}
		}
		slices.SortFunc(others, cmp.Compare)
		for _, size := range others {
			if ids := sizes[k][size]; 3*len(sizes[k][usual]) >= 2*total {
				d.add("text-sizes", d.where(ids[0]), ids, "%s named “%s” set in %s px; the other %d in %s px.", times(len(ids), "text is", "texts are"), k.role, css.FormatNumber(size), len(sizes[k][usual]), css.FormatNumber(usual))
			}
		}
	}
}

// setting is how a text is set.
type setting struct {
	size, weight float64
	style        string
}

// styledByToken tells whether the type of a text is bound to a token.
func styledByToken(l *design.Layer) bool {
	return l.Tokens["font-size"] != "" || l.Tokens["font"] != "" || l.Tokens["line-height"] != ""
}
