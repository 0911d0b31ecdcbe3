package survey

import (
	"math"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Reading is what a survey found in a document.
type Reading struct {
	Finds    []Find       `json:"finds"`
	Doubts   []Doubt      `json:"doubts"`
	Families []FamilyUses `json:"families"`
	Widths   []PageWidths `json:"widths"`
	Sections []Section    `json:"sections"`
	Plan     Plan         `json:"plan"`
}

// Options say what a document is held against.
type Options struct {
	Known   Known
	Tokens  *token.Set      // nil for none
	Off     map[string]bool // rules of doubts that are not asked
	Marked  [][]string      // ids of layers, siblings each, that people said are one thing
	Joined  []Joined        // layers that people said are copies of something
	Planned []string        // names of components that no drawing shows yet

	Reached func(Step) bool // told now and then how far it is; the reading ends where this gives false
}

// Step is how far a reading is.
type Step struct {
	Name  string  `json:"name"`  // what is done now
	Share float64 `json:"share"` // of all that there is to do, about, 0 to 1
}

// goOn tells how far a reading is, and whether anybody wants the rest. The shares of the steps were measured on 100,000 layers.
func (o *outline) goOn(name string, from, to float64, done, of int) bool {
	if o.ended || o.reached == nil {
		return !o.ended
	}
	o.ended = !o.reached(Step{name, from + (to-from)*float64(done)/float64(max(1, of))})
	return !o.ended
}

// Read surveys a document: what repeats on its pages and in its families, with the props that tell the copies apart and the components they are like; where families are
// used; which pages draw the same at several widths; what is unclear; what is made of what, in the order in which it can be built.
func Read(doc *design.Document, options Options) Reading {
	out, _ := ReadOn(doc, options)
	return out
}

// ReadOn is Read; false where it was ended on the way, and there is no reading.
func ReadOn(doc *design.Document, options Options) (Reading, bool) {
	o := newOutline(doc, options)
	o.known = o.candidates(options.Known)
	classes := o.classes()
	if o.ended {
		return Reading{}, false
	}
	o.join(classes, options.Joined)
	o.repeated = o.finds(classes)
	out := Reading{Finds: []Find{}}
	taken := map[string]bool{}
	for _, f := range doc.Families {
		taken[contract.ComponentName(f.Name)] = true
	}
	ids, named := map[*found]string{}, map[string]bool{}
	kept := o.repeated[:0]
	for i, f := range o.repeated {
		if !o.goOn("what differs", 0.43, 0.77, i, len(o.repeated)) {
			return Reading{}, false
		}
		pattern := align(f.members, nil)
		near := nearest(o.drawnTree(pattern.model), o.known, ofFind)
		if f.kind == Repeat {
			if f.family = o.familyOf(pattern.model, near); f.family != nil {
				f.kind = Copies
			}
		}
		one := o.describe(f, pattern)
		onPages := 0
		for _, s := range f.members {
			if s.root.page != nil {
				onPages++
			}
		}
		if one.Likeness < leastInFamilies && onPages < 2 {
			for _, s := range f.members {
				s.copyOf = nil
			}
			continue
		}
		kept = append(kept, f)
		one.Nearest = near
		one.ID = contract.Free(one.ID, "", func(id string) bool { return named[id] }) // one layer may stand for two
		ids[f], named[one.ID] = one.ID, true
		if f.inside != nil {
			one.Inside = ids[f.inside]
		}
		if f.family == nil {
			one.Name = contract.Free(one.Name, "", func(n string) bool { return taken[n] })
			taken[one.Name] = true
		}
		out.Finds = append(out.Finds, one)
	}
	o.repeated = kept
	out.Families = o.uses()
	out.Widths = o.widths()
	out.Sections = o.sections()
	out.Doubts = o.doubts(&out, options.Tokens, options.Off)
	if o.ended {
		return Reading{}, false
	}
	out.Plan = o.plan(&out, options.Known, options.Planned)
	return out, true
}

// leastInFamilies is how alike copies have to be that are parts of families, all of them but one: what families are made of is alike more often than what pages are.
const leastInFamilies = 0.9

// describe lays the copies of a find over each other and says how they differ.
func (o *outline) describe(f *found, pattern *spot) Find {
	out := Find{Kind: f.kind, Likeness: 1, Members: []Member{}}
	ids := make([]string, len(f.members))
	var model *Node
	for i, s := range f.members {
		m := Member{ID: s.id(), Box: s.box, Likeness: 1, Made: s.made, Joined: s.joined}
		for _, l := range s.layers() {
			m.Layers = append(m.Layers, l.ID)
		}
		if s.root.page != nil {
			m.Page = s.root.page.ID
		} else {
			m.Family = s.root.family.ID
		}
		if s.exact != pattern.model.exact {
			if model == nil {
				model = o.tree(pattern.model)
			}
			tree := o.tree(s)
			if edits, ok := Distance(model, tree); ok {
				m.Likeness, m.Edits = Likeness(model, tree, edits), edits
			} else { // too large: what it holds itself is compared
				m.Likeness = inCommon(pattern.model, s)
			}
		}
		out.Likeness = min(out.Likeness, m.Likeness)
		ids[i] = m.ID
		out.Members = append(out.Members, m)
	}
	out.ID = out.Kind + ":" + ids[0]
	if out.Props = propose(o.doc, ids, pattern); out.Props == nil {
		out.Props = []Prop{}
	}
	out.Name = o.nameOf(f, pattern)
	if f.family != nil {
		out.Family = f.family.ID
	}
	return out
}

// nameOf proposes a component's name: the family's, what most copies are called, or what they show.
func (o *outline) nameOf(f *found, pattern *spot) string {
	if f.family != nil {
		return contract.ComponentName(f.family.Name)
	}
	count, best := map[string]int{}, ""
	for _, s := range f.members {
		if r := s.role(); r != "" && s.loose == nil { // what lies on a layer does not make that its name
			if count[r]++; count[r] > count[best] {
				best = r
			}
		}
	}
	if best != "" && 2*count[best] >= len(f.members) {
		return contract.ComponentName(best)
	}
	if in := f.members[0].root.family; in != nil && !slices.ContainsFunc(f.members, func(s *shape) bool { return s.root.family != in }) {
		return contract.ComponentName(in.Name + " item")
	}
	m := pattern.model
	texts, pictures := 0, 0
	m.walk(func(s *shape) bool {
		switch s.what {
		case words:
			texts++
		case picture, drawing:
			pictures++
		}
		return true
	})
	shown := o.shownIn(m)
	switch {
	case m.children == nil && m.what == words:
		return "Label"
	case m.children == nil && m.what == drawing && isIcon(m):
		return "Icon"
	case m.children == nil && (m.what == drawing || m.what == picture):
		return "Picture"
	case m.children == nil:
		return "Bar"
	case m.box.Width >= 6*m.box.Height:
		return contract.ComponentName(shown + " row")
	case pictures > 0 && texts > 0 && max(m.box.Width, m.box.Height) > 3*largestIcon, texts > 1:
		return contract.ComponentName(shown + " card")
	}
	return contract.ComponentName(shown + " item")
}

// shownIn names a thing by what it shows: the family it begins with, or what its largest text is called; nothing where neither has a name.
func (o *outline) shownIn(s *shape) (name string) {
	largest := 0.0
	s.walk(func(c *shape) bool {
		switch {
		case c.what == use && largest == 0:
			if f := o.doc.Family(c.layer.Instance.Family); f != nil {
				name, largest = f.Name, math.Inf(1)
			}
		case c.what == words && c.layer.Text.FontSize > largest && c.role() != "":
			name, largest = c.role(), c.layer.Text.FontSize
		}
		return true
	})
	return name
}

// Find finds one by its id; nil for none.
func (r *Reading) Find(id string) *Find {
	i := slices.IndexFunc(r.Finds, func(f Find) bool { return f.ID == id })
	if i < 0 {
		return nil
	}
	return &r.Finds[i]
}
