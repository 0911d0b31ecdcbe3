// Package story brings a project to where the demo begins.
package story

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/token"
	"cobrik/demo"
	"cobrik/service"
	"cobrik/standin"
)

type release struct{ family, shelf, note, aside string }

// released are the demo's components that are in the library when the story begins, by family, with
// their shelves, what their first release said, and why what a review finds in them is set aside.
var released = []release{
	{"crop-tag", "Small things", "How far a crop is, in one word.", "The next drawing has a darker ink for it"},
	{"action-button", "Small things", "", "Loading is seen by its spinner"},
	{"pump-lamp", "Small things", "", "No browser minds it, and the design wants a box"},
	{"plot-card", "Plots", "With its crop tag inside.", "Seen by the crop tag inside"},
	{"bed-meter", "Plots", "", ""},
	{"seed-offer", "Seed swap", "", ""},
	{"tool-row", "Tool shed", "", "Drawn between two steps on purpose"},
}

// Release releases a component after setting aside what its review finds, for a reason.
func Release(ctx context.Context, s *service.Service, slug string, revision int, shelf, note, reason string) error {
	plan, err := s.PlanRelease(ctx, slug)
	if err != nil {
		return err
	}
	var keys []string
	for _, f := range plan.Open {
		keys = append(keys, f.Key)
	}
	if len(keys) > 0 {
		if _, err := s.SetAside(ctx, slug, reason, keys...); err != nil {
			return err
		}
	}
	_, err = s.Release(ctx, slug, revision, shelf, note)
	return err
}

// draft is the family that somebody is at work on.
const draft = "notice-board"

// Begin gives a project without sources the demo's design at its first revision and its tokens. Unless it is to
// be fresh, it is brought into the middle of the story, too: components released, one in draft, and a revision
// of the design that came since, with moves that nobody has decided. A project with sources is left as it is.
func Begin(ctx context.Context, s *service.Service, fresh bool) error {
	before, err := s.Project(ctx)
	if err != nil || before.Sources > 0 {
		return err
	}
	var tokens []token.File
	for _, name := range demo.TokenFiles {
		tokens = append(tokens, token.File{Name: name, Text: demo.Tokens(name)})
	}
	first := demo.Revisions()[0]
	if err := s.Seed(ctx, demo.Project, map[string][]byte{demo.Document + ".design.json": first}, standin.ETag, tokens); err != nil {
		return err
	}
	icons := demo.Icons()
	for _, file := range slices.Sorted(maps.Keys(icons)) {
		if _, err := s.TakeIcon(ctx, file, icons[file]); err != nil {
			return fmt.Errorf("the icon %s: %w", file, err)
		}
	}
	if fresh {
		return nil
	}
	return soFar(ctx, s)
}

func soFar(ctx context.Context, s *service.Service) error {
	for _, r := range released {
		made, err := s.Draft(ctx, demo.Document, r.family)
		if err != nil {
			return fmt.Errorf("drafting %s: %w", r.family, err)
		}
		revision, err := behave(ctx, s, r.family, made.Slug)
		if err != nil {
			return err
		}
		if err := Release(ctx, s, made.Slug, revision, r.shelf, r.note, r.aside); err != nil {
			return fmt.Errorf("releasing %s: %w", r.family, err)
		}
	}
	if _, err := s.Draft(ctx, demo.Document, draft); err != nil {
		return fmt.Errorf("drafting %s: %w", draft, err)
	}
	if err := drafted(ctx, s); err != nil {
		return err
	}
	if err := onTrial(ctx, s); err != nil {
		return err
	}
	name, text := demo.Signs()
	if _, err := s.Drop(ctx, name, text); err != nil {
		return fmt.Errorf("the gate signs: %w", err)
	}
	if err := s.PublishNext(ctx, demo.Document); err != nil {
		return err
	}
	_, err := s.Fetch(ctx)
	return err
}

// noticesOutline is the demo's page of notices: a teaser of two headings and rich text in two columns, below a width in one, and the same
// offer in a wide column and a narrow one.
const noticesOutline = `PageShell
  stack gap={space.8} padding-block="32px 48px"
    h1 "Notices" color={page.ink} font-size=32px font-weight={type.weight.strong} line-height=40px
    -- two headings and the words beside them
    each notice of notices.json
      split shares="1 2" gap={space.6}
        below 640 stack gap={space.3}
        stack gap={space.1}
          p {notice.kicker} color={page.quiet} font-size={type.size.body} line-height=20px
          h2 {notice.title} color={page.ink} font-size={type.size.title} font-weight={type.weight.strong} line-height=28px
        rich {notice.body} color={page.ink} font-size={type.size.body} line-height=22px
    split shares="3 1" gap={space.6}
      below 768 stack gap={space.6}
      stack
        SeedOffer
      stack named=aside
        SeedOffer
`

// onTrial brings the pages on trial to where the demo begins: the drawn Plots page taken over, and one of notices, filled from records.
func onTrial(ctx context.Context, s *service.Service) error {
	for _, file := range demo.ContentFiles {
		if _, err := s.PutContent(ctx, file, demo.Content(file)); err != nil {
			return fmt.Errorf("the records %s: %w", file, err)
		}
	}
	if _, err := s.TakeTrials(ctx, demo.Document, []string{"plots"}); err != nil {
		return fmt.Errorf("taking Plots over: %w", err)
	}
	page, err := s.AddTrial(ctx, "Notices")
	if err != nil {
		return err
	}
	_, err = s.EditTrial(ctx, page.Slug, page.Revision, noticesOutline, "set up")
	return err
}
