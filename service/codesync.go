package service

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/drift"
	"cobrik/core/problem"
	"cobrik/core/source"
	"cobrik/gitrepo"
	"cobrik/store"
)

// CodeView is what the code says otherwise than the contracts.
type CodeView struct {
	Target     bool            `json:"target" doc:"There is a repository that was read"`
	Hash       string          `json:"hash" doc:"The commit that was read; a decision carries it"`
	Components []CodeComponent `json:"components" doc:"Those whose code moved, is missing or cannot be read"`
	InStep     int             `json:"inStep" doc:"Components whose code says what their contracts say"`
	Unknown    []CodeUnknown   `json:"unknown" doc:"Components of the code that have no contract"`
	Tokens     CodeTokens      `json:"tokens"`
	Shared     int             `json:"shared" doc:"Files that components share (tokens, icons, pictures) and that are otherwise than they would be written"`
}

// CodeUnknown is a component of the code without a contract.
type CodeUnknown struct {
	Name string `json:"name"`
	File string `json:"file"`
	Why  string `json:"why" doc:"It is not read; empty for one that is"`
}

// CodeComponent is what the code of one component says.
type CodeComponent struct {
	Slug     string          `json:"slug"`
	Name     string          `json:"name"`
	Revision int             `json:"revision" doc:"Of the contract; a decision carries it"`
	File     string          `json:"file" doc:"From the repository's root"`
	State    string          `json:"state" enum:"moved,missing,not read"`
	By       *gitrepo.Commit `json:"by,omitempty" doc:"That last changed its files"`
	Moves    []CodeMove      `json:"moves"`
	Unread   problem.List    `json:"unread" doc:"What of the code could not be read"`
	Waiting  int             `json:"waiting" doc:"Moves of the code that nobody decided yet"`
	ToWrite  int             `json:"toWrite" doc:"Moves that a branch would write"`
}

// CodeMove is a move, with what was decided of it.
type CodeMove struct {
	source.Move
	Said    string    `json:"said" doc:"In a sentence"`
	When    string    `json:"when" doc:"The condition it is said under, in words"`
	Outcome string    `json:"outcome" enum:",back,left,asked"`
	Reason  string    `json:"reason"`
	By      string    `json:"by" doc:"Who decided"`
	Merged  string    `json:"merged,omitempty" doc:"A value that has what both changed, where there is one"`
	Takable bool      `json:"takable" doc:"A contract can hold it"`
	Due     drift.Way `json:"due,omitempty" enum:"take,back" doc:"What a precedence makes of it, once it is carried out"`
}

// CodeDecision says what becomes of moves of the code, by their keys.
type CodeDecision struct {
	Revision int      `json:"revision" doc:"Contract revision that was read"`
	Hash     string   `json:"hash" doc:"Commit that was read"`
	Take     []string `json:"take,omitempty" doc:"The contract is to say what the code says"`
	Back     []string `json:"back,omitempty" doc:"The code is to say what the contract says"`
	Leave    []string `json:"leave,omitempty" doc:"They may differ, for a reason"`
	Ask      []string `json:"ask,omitempty" doc:"The designer is asked"`
	Merge    []string `json:"merge,omitempty" doc:"Of what both moved: the contract is to have what each changed, and the code to follow"`
	Clear    []string `json:"clear,omitempty" doc:"Nothing is decided any more"`
	Reason   string   `json:"reason,omitempty" maxLength:"1000"`
	Together
}

// Code lists what the code says otherwise.
func (s *Service) Code(ctx context.Context) (CodeView, error) {
	out := CodeView{Components: []CodeComponent{}, Unknown: []CodeUnknown{}, Tokens: CodeTokens{List: []CodeToken{}, Unread: problem.List{}}}
	side, ok, err := s.codeNow(ctx)
	if err != nil || !ok {
		return out, err
	}
	out.Target, out.Hash = true, side.hash
	decided, err := s.store.CodeDecisions(ctx)
	if err != nil {
		return out, err
	}
	precedences, err := s.precedences(ctx)
	if err != nil {
		return out, err
	}
	for _, c := range side.all {
		if c.state() == inStep {
			out.InStep++
			continue
		}
		one := s.codeComponentView(side, c, decided)
		ruled := map[string]drift.Way{}
		for _, r := range drift.Reach(precedences, codeMoves(one)) {
			ruled[r.Key] = r.Way
		}
		for i := range one.Moves {
			one.Moves[i].Due = ruled[one.Moves[i].Key]
		}
		out.Components = append(out.Components, one)
	}
	if out.Tokens, err = s.codeTokens(ctx, side); err != nil {
		return out, err
	}
	shared, err := s.shared(side, nil, nil)
	if err != nil {
		return out, err
	}
	if shared != nil {
		out.Shared = len(shared.Files)
	}
	for _, one := range side.unknown {
		out.Unknown = append(out.Unknown, CodeUnknown{one.Name, path.Join(side.target.Folder, one.File), one.Why})
	}
	return out, nil
}

func (s *Service) codeComponentView(side *codeSide, c *codeComponent, decided []store.CodeDecision) CodeComponent {
	out := CodeComponent{Slug: c.row.Slug, Name: c.row.Name, Revision: c.row.Revision, State: c.state(), Moves: []CodeMove{}, Unread: append(problem.List{}, c.unread...)}
	if c.there {
		out.File = path.Join(side.target.Folder, c.file)
		names := []string{out.File}
		if c.versions.Code != nil {
			for _, sheet := range c.versions.Code.Sheets {
				names = append(names, path.Join(side.target.Folder, sheet))
			}
		}
		if last, err := recalled(&s.memo, "last "+side.hash+" "+strings.Join(names, " "), func() (*gitrepo.Commit, error) { return side.repo.Last(side.hash, names...) }); err == nil {
			out.By = last
		}
	}
	for i := range out.Unread {
		out.Unread[i].File = path.Join(side.target.Folder, out.Unread[i].File)
	}
	for _, m := range c.moves {
		one := CodeMove{Move: m, Said: m.Said(), When: m.When(), Takable: m.Kind != source.CodeMoved && m.Code != source.BrowsersOwn}
		if m.Side == source.SeveralSides && m.Kind == source.ValueMoved && m.About.Kind == source.OfPart {
			one.Merged, _ = merged(side, m)
		}
		if d := decisionOf(c, m, decided); d != nil {
			one.Outcome, one.Reason, one.By = d.Outcome, d.Reason, d.Actor
		}
		if m.At != nil {
			at := *m.At
			at.File = path.Join(side.target.Folder, at.File)
			one.At = &at
		}
		switch {
		case m.Side == source.ContractSide || one.Outcome == "back":
			out.ToWrite++
		case one.Outcome == "":
			out.Waiting++
		}
		out.Moves = append(out.Moves, one)
	}
	if !c.there {
		out.ToWrite = 1
	}
	return out
}

// merged gives the value that has what both changed of a part's property.
func merged(side *codeSide, m source.Move) (string, bool) {
	said := func(text string) css.Said {
		return css.Said{Text: text, Value: contract.ResolveTokens(text, side.lib.tokens())}
	}
	return css.Merge(m.About.Property, said(m.Base), said(m.Contract), said(m.Code))
}

// decisionOf gives what was decided of a move while the code said what it says now; nil for nothing.
func decisionOf(c *codeComponent, m source.Move, decided []store.CodeDecision) *store.CodeDecision {
	for i, d := range decided {
		if d.Component == c.row.ID && d.Move == m.Key && d.Said == m.Code {
			return &decided[i]
		}
	}
	return nil
}

// codeOf finds a component's code as it was read by whoever decides.
func (s *Service) codeOf(ctx context.Context, slug, hash string) (*codeSide, *codeComponent, error) {
	side, ok, err := s.codeNow(ctx)
	if err != nil {
		return nil, nil, err
	}
	if !ok {
		return nil, nil, invalid(nil, "No code was read yet. Say in Sources where it is.")
	}
	if hash != "" && hash != side.hash {
		return nil, nil, &Failure{Kind: Conflict, Message: fmt.Sprintf("The code moved to commit %.7s since you read %.7s. Read it again.", side.hash, hash)}
	}
	for _, c := range side.all {
		if c.row.Slug == slug {
			return side, c, nil
		}
	}
	return nil, nil, notFound("There is no component %q.", slug)
}

// codeDecided is a decision of a component's code, worked out but not yet kept.
type codeDecided struct {
	w       *component
	taken   *contract.Contract // nil where nothing is taken
	list    []store.CodeDecision
	decided []drift.Decided
	commit  string
}

func (s *Service) decideCode(ctx context.Context, slug string, d CodeDecision) (codeDecided, error) {
	var out codeDecided
	side, c, err := s.codeOf(ctx, slug, d.Hash)
	if err != nil {
		return out, err
	}
	out.commit = fmt.Sprintf("%.7s", side.hash)
	byKey := map[string]source.Move{}
	for _, m := range c.moves {
		byKey[m.Key] = m
	}
	outcomes := map[drift.Way]string{drift.Back: "back", drift.Leave: "left", drift.Ask: "asked", drift.Merge: "back", drift.Clear: ""}
	for _, way := range []struct {
		way  drift.Way
		keys []string
	}{{drift.Take, d.Take}, {drift.Back, d.Back}, {drift.Leave, d.Leave}, {drift.Ask, d.Ask}, {drift.Merge, d.Merge}, {drift.Clear, d.Clear}} {
		for _, key := range way.keys {
			m, ok := byKey[key]
			switch {
			case !ok && way.way == drift.Clear:
			case !ok:
				return out, invalid(nil, "There is no such move any more: %s", key)
			case m.Side == source.ContractSide:
				return out, invalid(nil, "The contract moved, not the code: %s is written with the next branch.", key)
			}
			if way.way != drift.Take {
				out.list = append(out.list, store.CodeDecision{Move: key, Outcome: outcomes[way.way], Said: m.Code, Reason: strings.TrimSpace(d.Reason)})
			}
			one := drift.Decided{Key: key, Way: way.way, Said: key, Bump: contract.None}
			if ok {
				one.Said, one.From, one.To, one.Bump = m.Said(), m.Contract, m.Code, m.Bump
			}
			out.decided = append(out.decided, one)
		}
	}
	slices.SortFunc(out.list, func(a, b store.CodeDecision) int { return strings.Compare(a.Move, b.Move) })
	if out.w, err = s.component(ctx, slug); err != nil || len(d.Take)+len(d.Merge) == 0 {
		return out, err
	}
	taken, found := c.versions.Take(c.contract, d.Take)
	if taken == nil {
		return out, invalid(found, "The code's side could not be taken: %s", found[0].Message)
	}
	taken = taken.Clone()
	for _, key := range d.Merge {
		m := byKey[key]
		value, ok := merged(side, m)
		when, err := contract.ParseWhen(m.About.When)
		if err != nil || !ok || m.Side != source.SeveralSides || m.Kind != source.ValueMoved {
			return out, invalid(nil, "There is no value that has what both changed: %s", m.Said())
		}
		taken.SetValue(m.About.ID, m.About.Property, when, value)
	}
	if found := newErrors(out.w.contract.Check(out.w.tokens), taken.Check(out.w.tokens)); found.Failed() {
		return out, invalid(found, "The code's side makes no valid contract: %s", found[0].Message)
	}
	out.taken = taken
	return out, nil
}

// PlanCode works out what a decision of a component's code would do.
func (s *Service) PlanCode(ctx context.Context, slug string, d CodeDecision) (Outcome, error) {
	out, err := s.decideCode(ctx, slug, d)
	if err != nil {
		return Outcome{}, err
	}
	c := out.w.contract
	if out.taken != nil {
		c = out.taken
	}
	plan, err := s.plan(ctx, out.w, c)
	if err != nil {
		return Outcome{}, err
	}
	return s.outcome(ctx, out.w, c, plan)
}

// DecideCode carries a decision of a component's code out, in one: what is taken makes the contract's next revision, the rest is remembered.
func (s *Service) DecideCode(ctx context.Context, slug string, d CodeDecision) (Edited, error) {
	if len(d.Leave) > 0 && strings.TrimSpace(d.Reason) == "" {
		return Edited{}, invalid(nil, "Say why the code may differ from the contract.")
	}
	out, err := s.decideCode(ctx, slug, d)
	if err != nil {
		return Edited{}, err
	}
	if len(out.decided) == 0 {
		return out.w.unedited(), nil
	}
	byPrecedence(out.decided, d.Ruled)
	return s.apply(ctx, out.w, out.taken, store.Edit{Slug: slug, Read: d.Revision, Code: out.list, Note: fmt.Sprintf("%d taken from the code at %s", len(d.Take), out.commit),
		Record: &store.NewRecord{Press: d.Press, Lane: string(drift.Code), Read: "commit " + out.commit, Reason: strings.TrimSpace(d.Reason), Decided: out.decided}})
}
