package survey

import "cobrik/core/design"

// FamilyUses is a family and where it is used.
type FamilyUses struct {
	ID   string      `json:"id"`
	Name string      `json:"name"`
	Uses []FamilyUse `json:"uses"`
}

// FamilyUse is one use of a family, on a page or in another family.
type FamilyUse struct {
	Layer     string            `json:"layer"`
	Page      string            `json:"page,omitempty"`
	Family    string            `json:"family,omitempty"` // id of the family it is drawn in
	Box       design.Rect       `json:"box"`
	Choices   map[string]string `json:"choices"`
	Overrides int               `json:"overrides"`
	Layers    int               `json:"layers"`   // that the variant shows
	Replaced  int               `json:"replaced"` // of them hidden, or showing another picture
	Other     bool              `json:"other"`    // it replaces so much that it is another thing
}

// uses lists where each family is used, in the order of pages and families.
func (o *outline) uses() []FamilyUses {
	out := make([]FamilyUses, len(o.doc.Families))
	at := map[string]int{}
	for i, f := range o.doc.Families {
		out[i] = FamilyUses{ID: f.ID, Name: f.Name, Uses: []FamilyUse{}}
		at[f.ID] = i
	}
	for _, r := range o.roots {
		if r.variant != nil && r.variant != r.family.Default() {
			continue
		}
		r.top.walk(func(s *shape) bool {
			if s.what != use {
				return true
			}
			i, known := at[s.layer.Instance.Family]
			if !known {
				return true
			}
			one := o.useOf(s)
			if r.page != nil {
				one.Page = r.page.ID
			} else {
				one.Family = r.family.ID
			}
			out[i].Uses = append(out[i].Uses, one)
			return true
		})
	}
	return out
}

// mostReplaced is what share of a variant's layers a use may hide or replace and still be one.
const mostReplaced = 0.5

func (o *outline) useOf(s *shape) FamilyUse {
	in := s.layer.Instance
	out := FamilyUse{Layer: s.layer.ID, Box: s.box, Choices: map[string]string{}, Overrides: len(in.Overrides)}
	f := o.doc.Family(in.Family)
	for _, a := range f.Axes {
		if out.Choices[a.Name] = a.Default; in.Choices[a.Name] != "" {
			out.Choices[a.Name] = in.Choices[a.Name]
		}
	}
	v := f.Variant(in.Choices)
	if v == nil {
		return out
	}
	said := map[string]design.Override{}
	for _, one := range in.Overrides {
		said[one.Layer] = one
	}
	var count func(l *design.Layer, gone bool)
	count = func(l *design.Layer, gone bool) {
		if l.Hidden {
			return
		}
		o := said[l.Name]
		gone = gone || o.Hidden != nil && *o.Hidden
		if len(l.Children) == 0 {
			if out.Layers++; gone || o.Asset != "" {
				out.Replaced++
			}
		}
		for _, c := range l.Children {
			count(c, gone)
		}
	}
	count(v.Root, false)
	out.Other = out.Layers > 1 && float64(out.Replaced) > mostReplaced*float64(out.Layers)
	return out
}
