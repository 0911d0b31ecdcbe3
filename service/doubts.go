package service

import (
	"context"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/survey"
	"cobrik/store"
)

// SurveyDoubt is something that is unclear, and what was said of it.
type SurveyDoubt struct {
	survey.Doubt
	Where   string `json:"where" doc:"Name of the page or the family"`
	Outcome string `json:"outcome" enum:",aside,asked" doc:"Set aside, or put to the designer; empty while it stands"`
	Reason  string `json:"reason"`
}

// SurveyRule is a rule that doubts come of.
type SurveyRule struct {
	survey.DoubtRule
	Off bool `json:"off" doc:"It is not asked in this project"`
}

func doubtsOf(r *surveyed, saidOf []store.Doubted) ([]SurveyDoubt, []SurveyRule) {
	doubts, rules := []SurveyDoubt{}, []SurveyRule{}
	for _, d := range r.reading.Doubts {
		one := SurveyDoubt{Doubt: d, Where: d.Where(r.doc)}
		for _, o := range saidOf {
			if o.Document == r.doc.ID && o.Doubt == d.ID {
				one.Outcome, one.Reason = o.Outcome, o.Reason
			}
		}
		doubts = append(doubts, one)
	}
	for _, rule := range survey.DoubtRules {
		rules = append(rules, SurveyRule{rule, slices.Contains(r.off, rule.ID)})
	}
	return doubts, rules
}

// SayOfDoubt sets a doubt aside for a reason, or puts it to the designer; without an outcome it stands again.
func (s *Service) SayOfDoubt(ctx context.Context, document, doubt, outcome, reason string) error {
	r, err := s.read(ctx, document)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(r.reading.Doubts, func(d survey.Doubt) bool { return d.ID == doubt }) {
		return notFound("There is no doubt %q in %s as it is now.", doubt, r.doc.Name)
	}
	reason = strings.TrimSpace(reason)
	if outcome == "aside" && reason == "" {
		return invalid(nil, "Say why it is set aside.")
	}
	return s.store.SayOfDoubt(ctx, store.Doubted{Document: document, Doubt: doubt, Outcome: outcome, Reason: reason})
}

// SwitchRule switches a rule of doubts off for the project, or on again.
func (s *Service) SwitchRule(ctx context.Context, rule string, off bool) error {
	if !slices.ContainsFunc(survey.DoubtRules, func(r survey.DoubtRule) bool { return r.ID == rule }) {
		return notFound("There is no rule %q.", rule)
	}
	return s.store.SwitchRule(ctx, rule, off)
}

// Plan adds a component that no drawing shows yet to the order, or takes it off.
func (s *Service) Plan(ctx context.Context, name string, wanted bool) error {
	if strings.TrimSpace(name) == "" {
		return invalid(nil, "Name the component.")
	}
	return s.store.Plan(ctx, contract.ComponentName(name), wanted)
}

// Questions writes the doubts of a document that were put to the designer as one page: Markdown or HTML.
func (s *Service) Questions(ctx context.Context, document string, markdown bool) (SourceText, error) {
	r, err := s.read(ctx, document)
	if err != nil {
		return SourceText{}, err
	}
	said, err := s.store.Doubted(ctx)
	if err != nil {
		return SourceText{}, err
	}
	doubts, _ := doubtsOf(r, said)
	var list []survey.Question
	for _, d := range doubts {
		if d.Outcome == "asked" {
			list = append(list, survey.Question{Doubt: d.Doubt, Note: d.Reason})
		}
	}
	if markdown {
		return SourceText{Name: "questions.md", Text: []byte(survey.QuestionsMarkdown(r.doc, list))}, nil
	}
	page, err := survey.QuestionsHTML(r.doc, list)
	return SourceText{Name: "questions.html", Text: []byte(page)}, err
}
