package service

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/drift"
	"cobrik/core/ledger"
	"cobrik/core/source"
)

// Drifted is all that moved, in both lanes.
type Drifted struct {
	Hash        string         `json:"hash" doc:"The commit that was read; empty for none"`
	Causes      []drift.Cause  `json:"causes" doc:"Those that wait first, then those that explain most"`
	Precedences []Winner       `json:"precedences"`
	Due         []drift.Due    `json:"due" doc:"What they decide, once it is carried out"`
	Read        map[string]int `json:"read" doc:"Revisions of the contracts, by slug; decisions carry them"`
}

// Winner is one, and who made it.
type Winner struct {
	drift.Precedence
	By string `json:"by"`
}

func designMoves(c standingOf) []drift.Moved {
	out := make([]drift.Moved, 0, len(c.moves))
	for _, m := range c.moves {
		one := drift.Moved{Component: c.Slug, Of: c.Name, Lane: drift.Design, Key: m.Key, Side: string(m.Side), Facet: m.Facet, Kind: string(m.Kind), Property: m.Property,
			From: m.From.Words(), To: m.To.Words(), Said: m.Said(), Cases: m.Cases, Bump: cmp.Or(m.Bump, contract.None), Open: !m.Kept && !m.Asked, Takable: true}
		if m.Side == ledger.ContractSide {
			one.From, one.To = one.To, one.From
		}
		out = append(out, one)
	}
	return out
}

func codeMoves(c CodeComponent) []drift.Moved {
	out := make([]drift.Moved, 0, len(c.Moves))
	for _, m := range c.Moves {
		one := drift.Moved{Component: c.Slug, Of: c.Name, Lane: drift.Code, Key: m.Key, Side: string(m.Side), Facet: m.Facet(), Kind: string(m.Kind), Property: m.About.Property,
			From: m.Base, To: m.Code, Said: m.Said, Bump: cmp.Or(m.Bump, contract.None), Open: m.Outcome == "" && m.Side != source.ContractSide, Takable: m.Takable}
		if m.Side == source.ContractSide {
			one.To = m.Contract
		}
		out = append(out, one)
	}
	return out
}

// moved lists all that moved, and the commit that was read. A repository that is not there keeps nobody from the design's.
func (s *Service) moved(ctx context.Context) (moves []drift.Moved, read map[string]int, hash string, err error) {
	all, err := s.standingsNow(ctx)
	if err != nil {
		return nil, nil, "", err
	}
	read = map[string]int{}
	for _, c := range all {
		read[c.Slug] = c.Revision
		if !c.gone {
			moves = append(moves, designMoves(c)...)
		}
	}
	code, err := s.Code(ctx)
	var down *Failure
	if err != nil && !errors.As(err, &down) {
		return nil, nil, "", err
	}
	for _, c := range code.Components {
		moves = append(moves, codeMoves(c)...)
	}
	return moves, read, code.Hash, nil
}

// Drift lists what moved by its causes, with the precedences there are and what they decide.
func (s *Service) Drift(ctx context.Context) (Drifted, error) {
	moves, read, hash, err := s.moved(ctx)
	if err != nil {
		return Drifted{}, err
	}
	rows, err := s.store.Precedences(ctx)
	out := Drifted{Hash: hash, Read: read, Causes: drift.Causes(moves), Precedences: []Winner{}}
	var precedences []drift.Precedence
	for _, r := range rows {
		one := drift.Precedence{Facet: css.Facet(r.Facet), Wins: r.Wins}
		precedences = append(precedences, one)
		out.Precedences = append(out.Precedences, Winner{one, r.Actor})
	}
	out.Due = drift.Reach(precedences, moves)
	return out, err
}

func (s *Service) precedences(ctx context.Context) (out []drift.Precedence, err error) {
	rows, err := s.store.Precedences(ctx)
	for _, r := range rows {
		out = append(out, drift.Precedence{Facet: css.Facet(r.Facet), Wins: r.Wins})
	}
	return out, err
}

// PrecedenceReach lists what a precedence would decide, before it is made.
func (s *Service) PrecedenceReach(ctx context.Context, r drift.Precedence) ([]drift.Due, error) {
	moves, _, _, err := s.moved(ctx)
	return drift.Reach([]drift.Precedence{r}, moves), err
}

// SetPrecedence says who wins where a facet moved; without a winner nobody does any more. Nothing is decided before it is carried out.
func (s *Service) SetPrecedence(ctx context.Context, r drift.Precedence) error {
	return s.store.PutPrecedence(ctx, string(r.Facet), r.Wins)
}

// WayChosen is what is to become of one move.
type WayChosen struct {
	Component string     `json:"component" doc:"Its slug"`
	Lane      drift.Lane `json:"lane" enum:"design,code"`
	Key       string     `json:"key"`
	Way       drift.Way  `json:"way" enum:"take,keep,ask,back,leave,merge,clear"`
}

// PressRequest decides moves of several components at once.
type PressRequest struct {
	Hash    string         `json:"hash" doc:"The commit that was read"`
	Read    map[string]int `json:"read" doc:"Revisions of the contracts that were read, by slug"`
	Choices []WayChosen    `json:"choices" minItems:"1" maxItems:"20000"`
	Ruled   bool           `json:"ruled,omitempty" doc:"They are what precedences decide"`
	Reason  string         `json:"reason,omitempty" maxLength:"1000"`
}

// Pressed is what came, or would come, of it for one component.
type Pressed struct {
	Component string   `json:"component"`
	Of        string   `json:"of" doc:"Its name"`
	Outcome   *Outcome `json:"outcome,omitempty" doc:"What it does; none where it could not be"`
	Problem   string   `json:"problem" doc:"Why nothing was decided of it; empty for what was"`
}

// PlanPress works out what a decision of several components would do.
func (s *Service) PlanPress(ctx context.Context, r PressRequest) ([]Pressed, error) {
	return s.press(ctx, r, func(slug string, lane drift.Lane, design Decision, code CodeDecision) (Outcome, error) {
		if lane == drift.Design {
			return s.PlanDecision(ctx, slug, design)
		}
		return s.PlanCode(ctx, slug, code)
	})
}

// Press decides moves of several components. Each component is one transaction: what could not be decided of one keeps nothing from the others, and
// is told.
func (s *Service) Press(ctx context.Context, r PressRequest) ([]Pressed, error) {
	number, err := s.store.Press(ctx)
	if err != nil {
		return nil, err
	}
	return s.press(ctx, r, func(slug string, lane drift.Lane, design Decision, code CodeDecision) (Outcome, error) {
		if lane == drift.Design {
			design.Press = number
			return s.Decide(ctx, slug, design)
		}
		code.Press = number
		out, err := s.PlanCode(ctx, slug, code)
		if err != nil {
			return out, err
		}
		edited, err := s.DecideCode(ctx, slug, code)
		out.Contract = edited.Revision
		return out, err
	})
}

// press takes choices apart by component and lane. What the first lane does to a contract the second builds on.
func (s *Service) press(ctx context.Context, r PressRequest, do func(slug string, lane drift.Lane, design Decision, code CodeDecision) (Outcome, error)) ([]Pressed, error) {
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	name := map[string]string{}
	for _, h := range heads {
		name[h.Slug] = h.Name
	}
	type place struct {
		slug string
		lane drift.Lane
	}
	var places []place
	of := map[place]map[drift.Way][]string{}
	for _, c := range r.Choices {
		at := place{c.Component, c.Lane}
		if of[at] == nil {
			of[at] = map[drift.Way][]string{}
			places = append(places, at)
		}
		of[at][c.Way] = append(of[at][c.Way], c.Key)
	}
	slices.SortStableFunc(places, func(a, b place) int {
		return cmp.Or(strings.Compare(a.slug, b.slug), strings.Compare(string(b.lane), string(a.lane)))
	})
	out := []Pressed{}
	revision := map[string]int{}
	for _, at := range places {
		ways := of[at]
		read := cmp.Or(revision[at.slug], r.Read[at.slug])
		together := Together{}
		if r.Ruled {
			for _, keys := range ways {
				together.Ruled = append(together.Ruled, keys...)
			}
		}
		one := Pressed{Component: at.slug, Of: cmp.Or(name[at.slug], at.slug)}
		did, err := do(at.slug, at.lane,
			Decision{Revision: read, Take: ways[drift.Take], Keep: ways[drift.Keep], Ask: ways[drift.Ask], Merge: ways[drift.Merge], Reason: r.Reason, Together: together},
			CodeDecision{Revision: read, Hash: r.Hash, Take: ways[drift.Take], Back: ways[drift.Back], Leave: ways[drift.Leave], Ask: ways[drift.Ask], Merge: ways[drift.Merge], Clear: ways[drift.Clear], Reason: r.Reason, Together: together})
		var failure *Failure
		switch {
		case errors.As(err, &failure):
			one.Problem = failure.Message
		case err != nil:
			return out, err
		default:
			one.Outcome = &did
			revision[at.slug] = did.Contract
		}
		out = append(out, one)
	}
	return out, nil
}

// byPrecedence marks what precedences decided.
func byPrecedence(list []drift.Decided, ruled []string) {
	for i := range list {
		list[i].Foregone = slices.Contains(ruled, list[i].Key)
	}
}
