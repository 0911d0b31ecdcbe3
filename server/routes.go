package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/service"
	"cobrik/store"
)

type (
	none          struct{}
	answer[T any] struct{ Body T }
	slugged       struct{ SlugPath }
	SlugPath      struct {
		Slug string `path:"slug" maxLength:"100"`
	}
)

// get registers a reading operation.
func get[I, T any](api huma.API, id, path string, do func(context.Context, *I) (T, error)) {
	handle(api, huma.Operation{OperationID: id, Method: http.MethodGet, Path: path}, do)
}

// post registers a writing operation.
func post[I, T any](api huma.API, id, path string, do func(context.Context, *I) (T, error)) {
	handle(api, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, MaxBodyBytes: 8 << 20}, do)
}

func handle[I, T any](api huma.API, o huma.Operation, do func(context.Context, *I) (T, error)) {
	o.Errors = []int{http.StatusUnprocessableEntity, http.StatusNotFound, http.StatusConflict}
	huma.Register(api, o, func(ctx context.Context, in *I) (*answer[T], error) {
		out, err := do(ctx, in)
		if err != nil {
			t := trouble(err)
			if t.Status == http.StatusServiceUnavailable {
				return nil, huma.ErrorWithHeaders(t, http.Header{"Retry-After": {retryAfter}})
			}
			return nil, t
		}
		return &answer[T]{out}, nil
	})
}

func register(api huma.API, s *service.Service, o Options) {
	get(api, "project", "/project", func(ctx context.Context, _ *none) (service.Project, error) {
		p, err := s.Project(ctx)
		p.Preview = o.Preview + "/c/" + p.Address
		return p, err
	})
	sources(api, s)
	components(api, s)
	contracts(api, s)
	tokens(api, s)
	get(api, "sync", "/sync", func(ctx context.Context, _ *none) ([]service.SyncComponent, error) { return s.Sync(ctx) })
}

func sources(api huma.API, s *service.Service) {
	get(api, "sources", "/sources", func(ctx context.Context, _ *none) (service.Sources, error) { return s.Sources(ctx) })
	type drop struct {
		File    string `query:"file" required:"true" minLength:"1" maxLength:"300" doc:"Name of the file"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	handle(api, huma.Operation{OperationID: "drop", Method: http.MethodPost, Path: "/sources", MaxBodyBytes: int64(design.Limits.Bytes) + 1<<20,
		Summary: "Keep a design document or a token file"},
		func(ctx context.Context, in *drop) (service.Dropped, error) { return s.Drop(ctx, in.File, in.RawBody) })
	post(api, "fetch", "/host/fetch", func(ctx context.Context, _ *none) (service.Fetched, error) { return s.Fetch(ctx) })
	post(api, "publishNext", "/host/{id}/publish", func(ctx context.Context, in *DocumentPath) (none, error) {
		return none{}, s.PublishNext(ctx, in.ID)
	})
	sourceEdits(api, s)
	icons(api, s)
	presence(api, s)
	surveys(api, s)
}

// themed names a component and a theme that it is looked at in.
type themed struct {
	SlugPath
	Theme string `query:"theme" maxLength:"200" doc:"Name of a theme; the default's when empty"`
}

func components(api huma.API, s *service.Service) {
	type found struct {
		Words string `query:"words" maxLength:"200" doc:"What a name, or that of what it belongs to, holds; every word"`
	}
	get(api, "find", "/find", func(ctx context.Context, in *found) ([]service.Hit, error) { return s.Find(ctx, in.Words) })
	get(api, "primitives", "/primitives", func(ctx context.Context, _ *none) ([]service.Primitive, error) { return s.Primitives(ctx) })
	type draft struct {
		Body struct {
			Document string   `json:"document" maxLength:"120"`
			Family   string   `json:"family,omitempty" maxLength:"120" doc:"A family, or"`
			Layers   []string `json:"layers,omitempty" maxItems:"500" doc:"layers of a page, several read as one drawing"`
			Name     string   `json:"name,omitempty" maxLength:"80" doc:"Of the component; the drawing's when empty"`
		}
	}
	post(api, "draft", "/components", func(ctx context.Context, in *draft) (service.Drafted, error) {
		if len(in.Body.Layers) > 0 {
			return s.DraftLayers(ctx, in.Body.Document, in.Body.Layers, in.Body.Name)
		}
		return s.Draft(ctx, in.Body.Document, in.Body.Family)
	})
	get(api, "starts", "/starts", func(ctx context.Context, _ *none) ([]service.StartView, error) { return s.Starts(ctx) })
	type begin struct {
		Body struct {
			Name  string `json:"name" maxLength:"80" doc:"Of the component"`
			Start string `json:"start" maxLength:"40" doc:"Key of a ready-made start: blank for none"`
		}
	}
	post(api, "begin", "/starts", func(ctx context.Context, in *begin) (service.Drafted, error) {
		return s.Begin(ctx, in.Body.Name, in.Body.Start)
	})
	get(api, "bench", "/components/{slug}", func(ctx context.Context, in *themed) (service.Bench, error) { return s.Bench(ctx, in.Slug, in.Theme) })
	get(api, "files", "/components/{slug}/files", func(ctx context.Context, in *slugged) ([]emit.File, error) { return s.Listing(ctx, in.Slug) })
	type trace struct {
		SlugPath
		Body struct {
			Build string `json:"build" maxLength:"100"`
			Stack string `json:"stack" maxLength:"20000"`
		}
	}
	type specimen struct {
		SlugPath
		Body struct {
			Props map[string]any `json:"props" doc:"As a use gives them"`
		}
	}
	post(api, "places", "/components/{slug}/places", func(ctx context.Context, in *specimen) (map[string][]int, error) {
		return s.PlacesOf(ctx, in.Slug, in.Body.Props)
	})
	post(api, "trace", "/components/{slug}/trace", func(ctx context.Context, in *trace) (service.Traced, error) {
		return s.Trace(ctx, in.Slug, in.Body.Build, in.Body.Stack)
	})
}

func contracts(api huma.API, s *service.Service) {
	get(api, "ledger", "/components/{slug}/ledger", func(ctx context.Context, in *themed) (service.LedgerView, error) {
		return s.Ledger(ctx, in.Slug, in.Theme)
	})
	type swept struct {
		SlugPath
		Case string `query:"case" maxLength:"1000"`
	}
	get(api, "widths", "/components/{slug}/widths", func(ctx context.Context, in *swept) (service.Widths, error) { return s.Widths(ctx, in.Slug, in.Case) })
	get(api, "stress", "/components/{slug}/stress", func(ctx context.Context, in *swept) ([]service.Looked, error) {
		return s.Stress(ctx, in.Slug, in.Case)
	})
	type looked struct {
		SlugPath
		Theme     string  `query:"theme" maxLength:"200" doc:"Name of a theme; as each case says when empty, as all that follows"`
		State     string  `query:"state" maxLength:"40"`
		Direction string  `query:"direction" maxLength:"3" doc:"ltr or rtl"`
		Text      float64 `query:"text" maximum:"400" doc:"Percent of the size of text"`
		Width     float64 `query:"width" maximum:"20000" doc:"px of the container"`
	}
	get(api, "board", "/components/{slug}/board", func(ctx context.Context, in *looked) (service.Board, error) {
		return s.Board(ctx, in.Slug, contract.Look{Theme: in.Theme, State: in.State, Direction: in.Direction, Text: in.Text, Width: in.Width})
	})
	type saved struct {
		SlugPath
		Body struct {
			Case string        `json:"case" maxLength:"1000" doc:"Key of the case that is shown"`
			Name string        `json:"name" maxLength:"120"`
			Look contract.Look `json:"look" doc:"What is pinned"`
		}
	}
	post(api, "saveCase", "/components/{slug}/cases", func(ctx context.Context, in *saved) (service.SavedAs, error) {
		return s.SaveCase(ctx, in.Slug, in.Body.Case, in.Body.Name, in.Body.Look)
	})
	type laid struct {
		SlugPath
		Case  string  `query:"case" maxLength:"1000"`
		Width float64 `query:"width" minimum:"0" maximum:"20000" doc:"px of the container; as drawn when 0"`
		Theme string  `query:"theme" maxLength:"200" doc:"Name of a theme; the default's when empty"`
	}
	get(api, "layout", "/components/{slug}/layout", func(ctx context.Context, in *laid) (service.LayoutView, error) {
		return s.Layout(ctx, in.Slug, in.Case, in.Width)
	})
	get(api, "caseAt", "/components/{slug}/case", func(ctx context.Context, in *laid) (service.CaseView, error) {
		return s.CaseAt(ctx, in.Slug, in.Case, in.Theme, in.Width)
	})
	type arrange struct {
		SlugPath
		Body service.Arrange
	}
	post(api, "arrange", "/components/{slug}/arrange", func(ctx context.Context, in *arrange) (service.Edited, error) {
		return s.Arrange(ctx, in.Slug, in.Body)
	})
	type reading struct {
		SlugPath
		Body struct {
			Revision int    `json:"revision"`
			Key      string `json:"key" maxLength:"300"`
			Kind     string `json:"kind" maxLength:"80"`
		}
	}
	post(api, "reading", "/components/{slug}/reading", func(ctx context.Context, in *reading) (service.Edited, error) {
		return s.Reading(ctx, in.Slug, in.Body.Revision, in.Body.Key, in.Body.Kind)
	})
	type move struct {
		SlugPath
		Body struct {
			Revision int     `json:"revision"`
			From     float64 `json:"from" minimum:"1" maximum:"20000"`
			To       float64 `json:"to" minimum:"0" maximum:"20000" doc:"0 removes it"`
		}
	}
	post(api, "moveSwitch", "/components/{slug}/switch", func(ctx context.Context, in *move) (service.Edited, error) {
		return s.MoveSwitch(ctx, in.Slug, in.Body.Revision, in.Body.From, in.Body.To)
	})
	type measured struct {
		SlugPath
		Body struct {
			Build string               `json:"build" maxLength:"100"`
			Theme string               `json:"theme,omitempty" maxLength:"200" doc:"Whose ledger is answered"`
			Cases []ledger.Measurement `json:"cases" maxItems:"5000"`
		}
	}
	post(api, "measured", "/components/{slug}/ledger", func(ctx context.Context, in *measured) (service.LedgerView, error) {
		return s.Measured(ctx, in.Slug, in.Body.Build, in.Body.Theme, in.Body.Cases)
	})
	type edit struct {
		SlugPath
		Body struct {
			Revision int                 `json:"revision"`
			Edits    []service.ValueEdit `json:"edits" minItems:"1" maxItems:"200"`
		}
	}
	post(api, "edit", "/components/{slug}/edit", func(ctx context.Context, in *edit) (service.Edited, error) {
		return s.Edit(ctx, in.Slug, in.Body.Revision, in.Body.Edits)
	})
	sheets(api, s)
	behaviours(api, s)
	catalogued(api, s)
	trials(api, s)
	targets(api, s)
	drifting(api, s)
	type step struct {
		SlugPath
		Body struct {
			Revision int  `json:"revision"`
			Redo     bool `json:"redo"`
		}
	}
	post(api, "step", "/components/{slug}/step", func(ctx context.Context, in *step) (service.Edited, error) {
		return s.Undo(ctx, in.Slug, in.Body.Revision, store.Direction(in.Body.Redo))
	})
	type valuesOf struct {
		SlugPath
		Part     string `query:"part" maxLength:"80"`
		Property string `query:"property" maxLength:"80"`
	}
	get(api, "values", "/components/{slug}/values", func(ctx context.Context, in *valuesOf) (service.Values, error) {
		return s.ValuesOf(ctx, in.Slug, in.Part, in.Property)
	})
	type decide struct {
		SlugPath
		Body service.Decision
	}
	post(api, "previewDecision", "/components/{slug}/decide/preview", func(ctx context.Context, in *decide) (service.Outcome, error) {
		return s.PlanDecision(ctx, in.Slug, in.Body)
	})
	post(api, "decide", "/components/{slug}/decide", func(ctx context.Context, in *decide) (service.Outcome, error) {
		return s.Decide(ctx, in.Slug, in.Body)
	})
}

func sheets(api huma.API, s *service.Service) {
	get(api, "sheet", "/components/{slug}/sheet", func(ctx context.Context, in *slugged) (service.SheetView, error) { return s.Sheet(ctx, in.Slug) })
	type amend struct {
		SlugPath
		Body struct {
			Revision int        `json:"revision"`
			Edit     sheet.Edit `json:"edit"`
		}
	}
	post(api, "amend", "/components/{slug}/sheet", func(ctx context.Context, in *amend) (service.Amended, error) {
		return s.Amend(ctx, in.Slug, in.Body.Revision, in.Body.Edit)
	})
	type try struct {
		SlugPath
		Theme string `query:"theme" maxLength:"200" doc:"Name of a theme; the default's when empty"`
		Body  sheet.Edit
	}
	post(api, "tryEdit", "/components/{slug}/sheet/try", func(ctx context.Context, in *try) (service.Tried, error) {
		return s.Try(ctx, in.Slug, in.Body, in.Theme)
	})
	get(api, "checks", "/components/{slug}/checks", func(ctx context.Context, in *slugged) (service.Checks, error) { return s.Checks(ctx, in.Slug) })
	type aside struct {
		SlugPath
		Body struct {
			Keys   []string `json:"keys" maxItems:"500" doc:"Of the findings"`
			Reason string   `json:"reason" maxLength:"500" doc:"Empty lets them stand again"`
		}
	}
	post(api, "setAside", "/components/{slug}/checks", func(ctx context.Context, in *aside) (service.Checks, error) {
		return s.SetAside(ctx, in.Slug, in.Body.Reason, in.Body.Keys...)
	})
	type declared struct {
		SlugPath
		On string `query:"on" maxLength:"300" doc:"Address of a declaration"`
	}
	get(api, "effect", "/components/{slug}/sheet/effect", func(ctx context.Context, in *declared) (sheet.Effect, error) {
		return s.Effect(ctx, in.Slug, in.On)
	})
	type chosen struct {
		SlugPath
		Prop string `query:"prop" maxLength:"80" doc:"Id of a choice"`
	}
	get(api, "scale", "/components/{slug}/sheet/scale", func(ctx context.Context, in *chosen) (sheet.Scale, error) {
		return s.Scale(ctx, in.Slug, in.Prop)
	})
	type ask struct {
		SlugPath
		Body sheet.Ask
	}
	post(api, "complete", "/components/{slug}/sheet/complete", func(ctx context.Context, in *ask) ([]sheet.Completion, error) {
		return s.Complete(ctx, in.Slug, in.Body)
	})
}
