package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/problem"
	"cobrik/store"
)

// IconView is an icon of the library.
type IconView struct {
	Name      string          `json:"name"`
	Words     string          `json:"words" doc:"To be found by"`
	File      string          `json:"file" doc:"That it was read from"`
	Drawing   contract.Vector `json:"drawing"`
	Cleaned   []string        `json:"cleaned" doc:"What of the file was changed, and shows nothing less"`
	Lost      []string        `json:"lost" doc:"What is not as the file has it"`
	UsedBy    []string        `json:"usedBy" doc:"Names of the components that show it as it is"`
	Otherwise []string        `json:"otherwise" doc:"Names of those that show one of its name that is drawn otherwise"`
	Removed   bool            `json:"removed" doc:"It was taken out, and can be put back"`
	Added     time.Time       `json:"added"`
}

// Icons lists the library's icons by name, those that were taken out too.
func (s *Service) Icons(ctx context.Context) ([]IconView, error) {
	rows, err := s.store.Icons(ctx)
	if err != nil {
		return nil, err
	}
	shown, err := s.shownIcons(ctx)
	if err != nil {
		return nil, err
	}
	out := []IconView{}
	for _, r := range rows {
		one := IconView{Name: r.Name, Words: r.Words, File: r.File, Cleaned: r.Cleaned, Lost: r.Lost, UsedBy: []string{}, Otherwise: []string{}, Removed: r.Removed != nil, Added: r.Created}
		if err := json.Unmarshal(r.Drawing, &one.Drawing); err != nil {
			return nil, fmt.Errorf("icon %s: %w", r.Name, err)
		}
		for _, u := range shown {
			switch {
			case sameDrawing(u.Vector, one.Drawing):
				one.UsedBy = appendOnce(one.UsedBy, u.component)
			case u.Name == r.Name:
				one.Otherwise = appendOnce(one.Otherwise, u.component)
			}
		}
		out = append(out, one)
	}
	return out, nil
}

func appendOnce(list []string, one string) []string {
	if slices.Contains(list, one) {
		return list
	}
	return append(list, one)
}

func sameDrawing(a, b contract.Vector) bool {
	return a.ViewBox == b.ViewBox && slices.Equal(a.Paths, b.Paths)
}

// shownIcon is a drawing that a component shows, by the name it has there; of a fixed one, none.
type shownIcon struct {
	contract.NamedIcon
	component string
}

func (s *Service) shownIcons(ctx context.Context) (out []shownIcon, err error) {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		c, err := contractOf(row)
		if err != nil {
			return nil, err
		}
		c.EachProp(func(_ string, p *contract.Prop) {
			if icon, ok := p.Type.(contract.Icon); ok {
				for _, o := range icon.Options {
					out = append(out, shownIcon{o, c.Name})
				}
			}
		})
		c.Walk(func(p, _ *contract.Part) {
			if v := p.Vector(); v != nil {
				out = append(out, shownIcon{contract.NamedIcon{Vector: *v}, c.Name})
			}
		})
	}
	return out, nil
}

// libraryIcon is an icon that components may pick.
type libraryIcon struct {
	contract.NamedIcon
	words string
}

// libraryIcons lists those that were not taken out.
func (s *Service) libraryIcons(ctx context.Context) (out []libraryIcon, err error) {
	rows, err := s.store.Icons(ctx)
	for _, r := range rows {
		if r.Removed != nil {
			continue
		}
		one := libraryIcon{NamedIcon: contract.NamedIcon{Name: r.Name}, words: r.Words}
		if err := json.Unmarshal(r.Drawing, &one.Vector); err != nil {
			return nil, fmt.Errorf("icon %s: %w", r.Name, err)
		}
		out = append(out, one)
	}
	return out, err
}

// TakenIcon is what became of a file that was given for an icon.
type TakenIcon struct {
	Name     string   `json:"name"`
	Added    bool     `json:"added" doc:"False for one that is here already, drawn the same"`
	Replaced bool     `json:"replaced" doc:"It stands in the place of one of its name, which was drawn otherwise"`
	Cleaned  []string `json:"cleaned"`
	Lost     []string `json:"lost"`
}

// TakeIcon reads an SVG file as an icon of the library.
func (s *Service) TakeIcon(ctx context.Context, file string, text []byte) (TakenIcon, error) {
	icon, found := design.ReadIcon(file, text)
	if icon == nil {
		why := found[slices.IndexFunc(found, func(p problem.Problem) bool { return p.Severity == problem.Error })]
		return TakenIcon{}, invalid(found, "%s is no icon: %s", file, sentence(why.Message))
	}
	v := draft.VectorOf(icon.Drawing)
	drawing, err := json.Marshal(v)
	if err != nil {
		return TakenIcon{}, err
	}
	out := TakenIcon{Name: icon.Name, Added: true, Cleaned: append([]string{}, icon.Cleaned...), Lost: []string{}}
	for _, p := range found {
		out.Lost = append(out.Lost, p.Message)
	}
	rows, err := s.store.Icons(ctx)
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		if r.Name != icon.Name || r.Removed != nil {
			continue
		}
		var was contract.Vector
		if err := json.Unmarshal(r.Drawing, &was); err != nil {
			return out, err
		}
		if out.Replaced = !sameDrawing(was, v); !out.Replaced {
			out.Added = false
			return out, nil
		}
	}
	return out, s.store.PutIcons(ctx, store.Icon{Name: icon.Name, Words: icon.Words, File: file, Drawing: drawing, Cleaned: out.Cleaned, Lost: out.Lost})
}

// iconNames are what an icon may be called: words joined by hyphens, letters of any script.
var iconNames = regexp.MustCompile(`^[\p{L}\p{Nd}\p{M}]+(-[\p{L}\p{Nd}\p{M}]+)*$`)

// EditIcon renames an icon, and gives it other words to be found by. What components show of it stays.
func (s *Service) EditIcon(ctx context.Context, name, to, words string) error {
	if to = strings.TrimSpace(to); !iconNames.MatchString(to) || len(to) > 80 || contract.IsReserved(to) {
		return invalid(nil, "An icon is called by words joined by hyphens, as in leaf-outline.")
	}
	err := s.store.EditIcon(ctx, name, to, strings.TrimSpace(words))
	switch {
	case errors.Is(err, store.ErrNotFound):
		return notFound("There is no icon %q.", name)
	case errors.Is(err, store.ErrTaken):
		return &Failure{Kind: Conflict, Message: "There is an icon " + to + " already. Give this one another name."}
	}
	return err
}

// RemoveIcon takes an icon out of the library, or puts it back. Components keep what they show of it.
func (s *Service) RemoveIcon(ctx context.Context, name string, removed bool) error {
	err := s.store.RemoveIcon(ctx, name, removed)
	if errors.Is(err, store.ErrNotFound) {
		return notFound("There is no icon %q.", name)
	}
	return err
}
