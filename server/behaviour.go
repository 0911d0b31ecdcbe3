package server

import (
	"cmp"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/behaviour"
	"cobrik/service"
)

func behaviours(api huma.API, s *service.Service) {
	get(api, "behaviour", "/components/{slug}/behaviour", func(ctx context.Context, in *slugged) (service.BehaviourView, error) {
		return s.Behaviour(ctx, in.Slug)
	})
	type words struct {
		SlugPath
		Body struct {
			Revision int    `json:"revision"`
			Text     string `json:"text" maxLength:"2000000" doc:"In words, or SCXML 1.0; empty for none"`
		}
	}
	post(api, "behave", "/components/{slug}/behaviour", func(ctx context.Context, in *words) (service.Edited, error) {
		return s.Behave(ctx, in.Slug, in.Body.Revision, in.Body.Text)
	})
	type redrawn struct {
		SlugPath
		Body struct {
			Revision int              `json:"revision"`
			Redraw   behaviour.Redraw `json:"redraw"`
		}
	}
	post(api, "redraw", "/components/{slug}/behaviour/redraw", func(ctx context.Context, in *redrawn) (service.Edited, error) {
		return s.Redraw(ctx, in.Slug, in.Body.Revision, in.Body.Redraw)
	})
	type tried struct {
		SlugPath
		Body struct {
			Text string `json:"text" maxLength:"2000000" doc:"In words, or SCXML 1.0; empty for none"`
		}
	}
	post(api, "tryBehaviour", "/components/{slug}/behaviour/try", func(ctx context.Context, in *tried) (service.BehaviourView, error) {
		return s.TryBehaviour(ctx, in.Slug, in.Body.Text)
	})
	type adopted struct {
		SlugPath
		Body struct {
			Revision int               `json:"revision"`
			Stock    string            `json:"stock,omitempty" maxLength:"80"`
			States   string            `json:"states,omitempty" maxLength:"200" doc:"Instead of a stock machine: name of the prop whose options are states"`
			Leads    behaviour.Leads   `json:"leads,omitempty" enum:"itself,both,prop" doc:"Of states: who leads from one to another, the component, the prop, or both"`
			Items    int               `json:"items,omitempty" minimum:"0" maximum:"50"`
			Several  bool              `json:"several,omitempty"`
			Always   bool              `json:"always,omitempty"`
			Open     int               `json:"open,omitempty" minimum:"0" maximum:"50"`
			Vertical bool              `json:"vertical,omitempty"`
			Mixed    bool              `json:"mixed,omitempty"`
			Outside  bool              `json:"outside,omitempty"`
			Names    []string          `json:"names,omitempty" maxItems:"50"`
			Times    []float64         `json:"times,omitempty" maxItems:"50"`
			Takes    map[string]string `json:"takes,omitempty" doc:"Ids of the component's parts by the names of the machine's, those left out are added; or by the options that their press leads to"`
		}
	}
	post(api, "adopt", "/components/{slug}/behaviour/stock", func(ctx context.Context, in *adopted) (service.Edited, error) {
		b := in.Body
		if b.States != "" {
			return s.AdoptStates(ctx, in.Slug, b.Revision, b.States, b.Times, b.Takes, cmp.Or(b.Leads, behaviour.ByItself))
		}
		choices := behaviour.Choices{Items: b.Items, Several: b.Several, Always: b.Always, Open: b.Open, Vertical: b.Vertical, Mixed: b.Mixed, Outside: b.Outside, Names: b.Names, Times: b.Times}
		return s.Adopt(ctx, in.Slug, b.Revision, b.Stock, choices, b.Takes)
	})
	type run struct {
		SlugPath
		Body struct {
			Instances []service.Instance `json:"instances" maxItems:"50"`
			Until     float64            `json:"until" minimum:"0" maximum:"86400000" doc:"ms"`
		}
	}
	post(api, "runBehaviour", "/components/{slug}/behaviour/run", func(ctx context.Context, in *run) ([]service.Course, error) {
		return s.Run(ctx, in.Slug, in.Body.Instances, in.Body.Until)
	})
	post(api, "placeholder", "/components/{slug}/placeholder", func(ctx context.Context, in *slugged) (service.Drafted, error) {
		return s.Placeholder(ctx, in.Slug)
	})
	type seen struct {
		SlugPath
		Body struct {
			Instance service.Instance `json:"instance"`
			At       float64          `json:"at" minimum:"0" maximum:"86400000" doc:"ms"`
			Part     string           `json:"part" maxLength:"200" doc:"Its id"`
		}
	}
	post(api, "seen", "/components/{slug}/behaviour/seen", func(ctx context.Context, in *seen) ([]service.SeenView, error) {
		return s.Seen(ctx, in.Slug, in.Body.Instance, in.Body.At, in.Body.Part)
	})
	type kept struct {
		SlugPath
		Body struct {
			Revision int              `json:"revision"`
			Name     string           `json:"name" maxLength:"120"`
			Instance service.Instance `json:"instance"`
		}
	}
	post(api, "keepScenario", "/components/{slug}/scenarios", func(ctx context.Context, in *kept) (service.Edited, error) {
		return s.KeepScenario(ctx, in.Slug, in.Body.Revision, in.Body.Name, in.Body.Instance)
	})
	type dropped struct {
		SlugPath
		Body struct {
			Revision int    `json:"revision"`
			Name     string `json:"name" maxLength:"120"`
		}
	}
	post(api, "dropScenario", "/components/{slug}/scenarios/drop", func(ctx context.Context, in *dropped) (service.Edited, error) {
		return s.DropScenario(ctx, in.Slug, in.Body.Revision, in.Body.Name)
	})
}
