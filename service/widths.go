package service

import (
	"cobrik/core/draft"
	"context"
	"fmt"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/layout"
)

// Widths says where a case of a component breaks: from the contract laid out by
// the solver, without a browser.
type Widths struct {
	Case      string           `json:"case"`
	From      float64          `json:"from" doc:"px the sweep began at"`
	To        float64          `json:"to"`
	Bands     []layout.Band    `json:"bands" doc:"Widths in which a part is in trouble"`
	Proposals []SwitchProposal `json:"proposals" doc:"Switch points that would end a band, each once"`
	Points    []SwitchPoint    `json:"points" doc:"Switch points the contract has, narrowest first"`
}

// SwitchProposal is a switch point the sweep proposes, with what can be done there.
type SwitchProposal struct {
	At    float64  `json:"at" doc:"px: from here on the present arrangement holds"`
	Of    string   `json:"of" doc:"Id of the part in trouble"`
	Part  string   `json:"part" doc:"Id of the container to arrange otherwise below"`
	Name  string   `json:"name" doc:"Its name"`
	Why   string   `json:"why"`
	Kinds []string `json:"kinds" doc:"What it can be below; none where the component has no container's width to follow"`
}

// SwitchPoint is a width at which the contract changes its arrangement.
type SwitchPoint struct {
	At    float64  `json:"at" doc:"px; below it the parts are laid out otherwise"`
	Parts []string `json:"parts" doc:"Their names"`
}

// Widths runs a case through all widths; the default case when none is named.
func (s *Service) Widths(ctx context.Context, slug, key string) (Widths, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Widths{}, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return Widths{}, err
	}
	return recalled(&s.memo, fmt.Sprintf("widths %s %s %d %s", slug, w.build, w.design, key), func() (Widths, error) { return s.widths(w, k, key) })
}

func (s *Service) widths(w *component, k draft.Case, key string) (Widths, error) {
	tree := w.contract.Boxes(k.Env(), w.tokens)
	out := Widths{Case: key, From: 160, To: 1600}
	swept, problems := layout.Sweep(tree, layout.SweepOptions{Options: layout.Options{Fonts: s.fonts}, From: out.From, To: out.To, Drawn: k.Variant.Root.Bounds.Width})
	if swept == nil {
		return Widths{}, invalid(problems, "%s cannot be laid out.", w.contract.Name)
	}
	out.Bands = swept.Bands
	for i := range out.Bands {
		out.Bands[i].Node = contract.PartOf(out.Bands[i].Node)
	}
	said := map[layout.Band]bool{} // of items once
	out.Bands = slices.DeleteFunc(out.Bands, func(b layout.Band) bool {
		b.Part, b.Reason = "", ""
		again := said[b]
		said[b] = true
		return again
	})
	out.Proposals = s.proposals(w, k, swept.Proposals)
	out.Points = []SwitchPoint{}
	for _, at := range w.contract.SwitchPoints() {
		p := SwitchPoint{At: at, Parts: []string{}}
		for _, r := range w.contract.Rules {
			if name := w.contract.Part(r.Part).Name; r.When.Below() == at && !slices.Contains(p.Parts, name) {
				p.Parts = append(p.Parts, name)
			}
		}
		out.Points = append(out.Points, p)
	}
	return out, nil
}

// narrower are the kinds a container can be where it has too little width.
var narrower = map[string][]string{
	layout.Row: {layout.Wrap, layout.Stack}, layout.Wrap: {layout.Stack}, layout.Split: {layout.Stack}, layout.Grid: {layout.Stack},
}

// proposals turns what a sweep proposes into edits: of the innermost container that
// lays parts side by side.
func (s *Service) proposals(w *component, k draft.Case, found []layout.Proposal) []SwitchProposal {
	out := []SwitchProposal{}
	for _, p := range found {
		tree := w.resolved(k, p.At-1)
		one := SwitchProposal{At: p.At, Of: contract.PartOf(p.Node), Why: p.Why}
		for _, r := range tree.PathTo(contract.PartOf(p.Node)) {
			if kinds := narrower[r.Arrangement(nil).Kind]; kinds != nil {
				one.Part, one.Kinds = r.Part.ID, kinds
			} else if one.Part == "" {
				one.Part = r.Part.ID
			}
		}
		if one.Kinds == nil { // what is too wide is in it
			one.Kinds = []string{}
			if r := s.widestRow(tree, one.Part, p.At-1); r != nil {
				one.Part, one.Kinds = r.Part.ID, narrower[r.Arrangement(nil).Kind]
			}
		}
		if w.contract.Root.Style["width"] != "100%" {
			one.Kinds = []string{}
		}
		if p := w.contract.Part(one.Part); p != nil {
			one.Name = p.Name
		}
		if !slices.ContainsFunc(out, func(p SwitchProposal) bool { return p.At == one.At && p.Of == one.Of }) {
			out = append(out, one)
		}
	}
	return out
}

// widestRow finds the widest child of a part that lays parts side by side; nil
// when there is none.
func (s *Service) widestRow(tree *contract.Resolved, part string, width float64) (widest *contract.Resolved) {
	solved, _ := layout.Solve(tree.Boxes(), layout.Options{Width: width, Fonts: s.fonts})
	r := tree.Find(part)
	if solved == nil || r == nil {
		return nil
	}
	most := 0.0
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		for _, c := range n.Children {
			if child := tree.Find(contract.PartOf(c.Name)); child != nil && n.Name == part && c.Box.Width > most && narrower[child.Arrangement(nil).Kind] != nil {
				widest, most = child, c.Box.Width
			}
			walk(c)
		}
	}
	walk(solved)
	return widest
}
