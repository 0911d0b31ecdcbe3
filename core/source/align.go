package source

import (
	"cmp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// Renamed is something that has another name in the code than in the contract, and is taken for the same.
type Renamed struct {
	What     string  `json:"what"`     // part or prop
	ID       string  `json:"id"`       // in the contract
	From     string  `json:"from"`     // its name there
	To       string  `json:"to"`       // and in the code
	Likeness float64 `json:"likeness"` // from 0 to 1
}

// Align gives parts and props that are read the ids that they have in a contract: by their names, else by
// where they stand and what they hold. What goes by another name is listed; its fact says so.
func (r *Reading) Align(known *contract.Contract) []Renamed {
	a := alignment{read: r.Contract, known: known, parts: map[string]string{}, props: map[string]string{}, classes: classNames(known)}
	a.alignProps()
	a.alignParts()
	a.rewrite(r)
	return a.renamed
}

type alignment struct {
	read, known  *contract.Contract
	parts, props map[string]string // ids in the contract, by those that were read
	classes      map[string]string // of the contract's parts, by id
	renamed      []Renamed
}

// classNames gives the class that each part of a contract has in its code; none for those without one.
func classNames(c *contract.Contract) map[string]string {
	out := map[string]string{}
	ir.WalkNodes(ir.Lower(c).Root, func(n ir.Node) {
		part, classes := "", []ir.Class(nil)
		switch n := n.(type) {
		case *ir.Element:
			part, classes = n.Part, n.Classes
			if n.Root && len(classes) > 0 {
				classes = classes[:1]
			}
		case *ir.Use:
			part, classes = n.Part, n.Classes
		}
		for _, k := range classes {
			if k.Prop == "" && k.While == nil && part != "" && out[part] == "" {
				out[part] = k.Name
			}
		}
	})
	return out
}

func (a *alignment) alignProps() {
	taken := map[string]bool{}
	var left []*contract.Prop
	for i := range a.read.Props {
		p := &a.read.Props[i]
		at := slices.IndexFunc(a.known.Props, func(q contract.Prop) bool { return q.Name == p.Name })
		if at < 0 {
			left = append(left, p)
			continue
		}
		q := &a.known.Props[at]
		a.props[p.ID], taken[q.ID] = q.ID, true
		if list, ok := p.Type.(contract.List); ok {
			if old, ok := q.Type.(contract.List); ok {
				for _, item := range list.Items {
					for _, was := range old.Items {
						if was.Name == item.Name {
							a.props[p.ID+"."+item.ID] = q.ID + "." + was.ID
						}
					}
				}
			}
		}
	}
	uses := map[*contract.Contract]map[string]string{a.read: usesOf(a.read), a.known: usesOf(a.known)}
	for _, p := range left { // one of a kind that does the same things
		best, score := -1, 0.0
		for i := range a.known.Props {
			q := &a.known.Props[i]
			if taken[q.ID] || slices.ContainsFunc(a.read.Props, func(o contract.Prop) bool { return o.Name == q.Name }) || q.Type.TypeScript() != p.Type.TypeScript() {
				continue
			}
			s := 0.5
			if contract.Equal(q.Default(), p.Default()) && p.Default() != nil {
				s += 0.25
			}
			if use := uses[a.known][q.ID]; use != "" && use == uses[a.read][p.ID] {
				s += 0.25
			}
			if s > score {
				best, score = i, s
			}
		}
		if best >= 0 && score >= 0.75 {
			q := &a.known.Props[best]
			a.props[p.ID], taken[q.ID] = q.ID, true
			a.renamed = append(a.renamed, Renamed{"prop", q.ID, q.Name, p.Name, score})
		}
	}
}

// usesOf tells in a word what each prop is used for: the part that shows it, by its id, or an attribute of one.
func usesOf(c *contract.Contract) map[string]string {
	out := map[string]string{}
	c.Walk(func(p, _ *contract.Part) {
		switch content := p.Content.(type) {
		case contract.TextOf:
			out[content.Prop] = "content of " + p.ID
		case contract.SlotOf:
			out[content.Prop] = "content of " + p.ID
		case contract.ImageOf:
			out[content.Prop] = "content of " + p.ID
		}
		for name, at := range p.Attributes {
			if at.Prop != "" {
				out[at.Prop] = name + " of " + p.ID
			}
		}
		for _, t := range p.ShownWhen.Terms() {
			if id := contract.PropOf(t); id != "" && out[id] == "" {
				out[id] = "shows " + p.ID
			}
		}
	})
	return out
}

func (a *alignment) alignParts() {
	byClass := map[string]*contract.Part{}
	a.known.Walk(func(p, _ *contract.Part) {
		if class := a.classes[p.ID]; class != "" {
			byClass[class] = p
		}
	})
	taken := map[string]bool{}
	pair := func(p, q *contract.Part) {
		a.parts[p.ID], taken[q.ID] = q.ID, true
	}
	pair(a.read.Root, a.known.Root)
	a.read.Walk(func(p, up *contract.Part) {
		if q := byClass[p.Name]; up != nil && q != nil && !taken[q.ID] && kindOf(p) == kindOf(q) {
			pair(p, q)
		}
	})
	var walk func(p *contract.Part)
	walk = func(p *contract.Part) {
		if q := a.known.Part(a.parts[p.ID]); a.parts[p.ID] != "" && q != nil {
			a.children(p, q, taken, pair)
		}
		for _, c := range p.Children {
			walk(c)
		}
	}
	walk(a.read.Root)
	ids := map[string]bool{}
	for _, id := range a.parts {
		ids[id] = true
	}
	a.read.Walk(func(p, _ *contract.Part) { // what is new has an id of its own
		if a.parts[p.ID] == "" {
			id := contract.Free(p.ID, "New", func(name string) bool { return ids[name] || a.known.Part(name) != nil })
			ids[id] = true
			a.parts[p.ID] = id
		}
	})
}

func kindOf(p *contract.Part) string {
	if u := p.Use(); u != nil {
		return "use " + u.Component
	}
	switch p.Content.(type) {
	case *contract.Vector, contract.IconOf:
		return "drawing"
	case contract.ImageOf, contract.Picture:
		return "image"
	}
	return "element"
}

// children pairs what stands in two parts that are the same, the likest first.
func (a *alignment) children(p, q *contract.Part, taken map[string]bool, pair func(p, q *contract.Part)) {
	type candidate struct {
		p, q  *contract.Part
		score float64
		apart int
	}
	var list []candidate
	for i, c := range p.Children {
		if a.parts[c.ID] != "" {
			continue
		}
		for k, d := range q.Children {
			if s := a.likeness(c, d); !taken[d.ID] && s >= 0.5 {
				list = append(list, candidate{c, d, s, max(i-k, k-i)})
			}
		}
	}
	slices.SortStableFunc(list, func(x, y candidate) int { return cmp.Or(cmp.Compare(y.score, x.score), x.apart-y.apart) })
	for _, one := range list {
		if a.parts[one.p.ID] != "" || taken[one.q.ID] {
			continue
		}
		pair(one.p, one.q)
		if class := a.classes[one.q.ID]; class != "" && class != one.p.Name {
			a.renamed = append(a.renamed, Renamed{"part", one.q.ID, one.q.Name, one.p.Name, one.score})
		}
	}
}

// likeness tells how like two parts are, from 0 to 1: what they are, what they show, and what stands in them.
func (a *alignment) likeness(p, q *contract.Part) float64 {
	if kindOf(p) != kindOf(q) {
		return 0
	}
	score := 0.4
	if p.Element == q.Element {
		score += 0.2
	}
	if a.shows(p) == shows(q, func(id string) string { return id }) {
		score += 0.3
	}
	if len(p.Children) == len(q.Children) {
		score += 0.1
	}
	return score
}

func (a *alignment) shows(p *contract.Part) string {
	return shows(p, func(id string) string {
		if to := a.props[id]; to != "" {
			return to
		}
		return id
	})
}

func shows(p *contract.Part, prop func(string) string) string {
	switch content := p.Content.(type) {
	case contract.TextOf:
		return "{" + prop(content.Prop)
	case contract.SlotOf:
		return "{" + prop(content.Prop)
	case contract.ImageOf:
		return "{" + prop(content.Prop)
	case contract.IconOf:
		return "{" + prop(content.Prop)
	case contract.FixedText:
		return content.Text
	case *contract.Vector:
		return drawingText(content)
	}
	return ""
}

// rewrite gives everything its id in the contract.
func (a *alignment) rewrite(r *Reading) {
	c := r.Contract
	prop := func(id string) string {
		if to := a.props[id]; to != "" {
			return to
		}
		if list, item, ok := strings.Cut(id, "."); ok && a.props[list] != "" {
			return a.props[list] + "." + item
		}
		return id
	}
	part := func(id string) string {
		if to := a.parts[id]; to != "" {
			return to
		}
		return id
	}
	when := func(w contract.When) contract.When {
		var terms []contract.Term
		for _, t := range w.Terms() {
			switch is := t.(type) {
			case contract.PropIs:
				is.Prop = prop(is.Prop)
				t = is
			case contract.NumberIs:
				is.Prop = prop(is.Prop)
				t = is
			case contract.PropSet:
				is.Prop = prop(is.Prop)
				t = is
			}
			terms = append(terms, t)
		}
		return contract.Of(terms...)
	}
	a.rewriteKeys(r, part, prop, when)
	for i := range c.Props {
		p := &c.Props[i]
		if list, ok := p.Type.(contract.List); ok {
			for k := range list.Items {
				_, list.Items[k].ID, _ = strings.Cut(prop(p.ID+"."+list.Items[k].ID), ".")
			}
		}
		p.ID, p.Part = prop(p.ID), part(p.Part)
	}
	for _, group := range c.Apart {
		for i := range group {
			group[i] = prop(group[i])
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		p.ID = part(p.ID)
		p.ShownWhen = when(p.ShownWhen)
		if p.Repeat != "" {
			p.Repeat = prop(p.Repeat)
		}
		if p.Level != "" {
			p.Level = prop(p.Level)
		}
		for name, at := range p.Attributes {
			if at.Prop != "" {
				at.Prop = prop(at.Prop)
			}
			if at.Part != "" {
				at.Part = part(at.Part)
			}
			p.Attributes[name] = at
		}
		switch content := p.Content.(type) {
		case contract.TextOf:
			p.Content = contract.TextOf{Prop: prop(content.Prop)}
		case contract.SlotOf:
			p.Content = contract.SlotOf{Prop: prop(content.Prop)}
		case contract.ImageOf:
			p.Content = contract.ImageOf{Prop: prop(content.Prop)}
		case contract.IconOf:
			p.Content = contract.IconOf{Prop: prop(content.Prop)}
		case *contract.Use:
			for id, g := range content.Given {
				if g.Prop != "" {
					g.Prop = prop(g.Prop)
				}
				for i := range g.Parts {
					g.Parts[i] = part(g.Parts[i])
				}
				for i := range g.Cases {
					g.Cases[i].When = when(g.Cases[i].When)
				}
				content.Given[id] = g
			}
		}
	})
	for i := range c.Rules {
		c.Rules[i].Part, c.Rules[i].When = part(c.Rules[i].Part), when(c.Rules[i].When)
	}
}

// rewriteKeys gives the keys of places and doubts the ids, too.
func (a *alignment) rewriteKeys(r *Reading, part, prop func(string) string, when func(contract.When) contract.When) {
	key := func(s Subject) Subject {
		switch s.Kind {
		case OfPart:
			s.ID = part(s.ID)
		case OfProp:
			s.ID = prop(s.ID)
		}
		if w, err := contract.ParseWhen(s.When); err == nil && s.When != "" {
			s.When = when(w).Key()
		}
		return s
	}
	r.Places, r.Unsure, r.code, r.classes = rekeyed(r.Places, key), rekeyed(r.Unsure, key), rekeyed(r.code, key), rekeyed(r.classes, part)
}

// rekeyed gives the values of a map under other keys.
func rekeyed[K comparable, V any](of map[K]V, key func(K) K) map[K]V {
	out := make(map[K]V, len(of))
	for old, v := range of {
		out[key(old)] = v
	}
	return out
}
