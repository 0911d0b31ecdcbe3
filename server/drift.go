package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/drift"
	"cobrik/service"
)

// drifting is what moved by its causes, who is to win, what was decided, how far all agree, and what is watched.
func drifting(api huma.API, s *service.Service) {
	get(api, "drift", "/drift", func(ctx context.Context, _ *none) (service.Drifted, error) { return s.Drift(ctx) })
	type pressed struct{ Body service.PressRequest }
	post(api, "planPress", "/drift/plan", func(ctx context.Context, in *pressed) ([]service.Pressed, error) { return s.PlanPress(ctx, in.Body) })
	post(api, "press", "/drift/decide", func(ctx context.Context, in *pressed) ([]service.Pressed, error) { return s.Press(ctx, in.Body) })
	type first struct{ Body drift.Precedence }
	post(api, "precedenceReach", "/drift/precedences/reach", func(ctx context.Context, in *first) ([]drift.Due, error) { return s.PrecedenceReach(ctx, in.Body) })
	post(api, "setPrecedence", "/drift/precedences", func(ctx context.Context, in *first) (none, error) { return none{}, s.SetPrecedence(ctx, in.Body) })

	type move struct {
		SlugPath
		Lane string `query:"lane" enum:"design,code" required:"true"`
		Key  string `query:"key" maxLength:"2000" required:"true"`
	}
	get(api, "moveHistory", "/components/{slug}/history", func(ctx context.Context, in *move) (service.MoveHistory, error) {
		return s.MoveHistory(ctx, in.Slug, drift.Lane(in.Lane), in.Key)
	})
	type words struct {
		Words string `query:"words" maxLength:"300" doc:"Those that have every one; all when empty"`
	}
	get(api, "decisions", "/decisions", func(ctx context.Context, in *words) ([]drift.Ruling, error) { return s.Decisions(ctx, in.Words) })
	type one struct {
		ID int64 `path:"id"`
	}
	post(api, "takeBack", "/decisions/{id}/undo", func(ctx context.Context, in *one) (service.Edited, error) { return s.TakeBack(ctx, in.ID) })
	type reader struct {
		For string `query:"for" enum:"designers,developers" required:"true"`
	}
	huma.Register(api, huma.Operation{OperationID: "changelog", Method: http.MethodGet, Path: "/decisions/changelog", Summary: "What was decided, as a page for designers or developers"},
		func(ctx context.Context, in *reader) (*download, error) {
			return downloadOf(s.Changelog(ctx, drift.Reader(in.For)))
		})
	type times struct {
		From time.Time `query:"from" doc:"From the beginning without one"`
		To   time.Time `query:"to" doc:"Now without one"`
	}
	get(api, "driftReport", "/drift/report", func(ctx context.Context, in *times) (drift.Report, error) {
		return s.DriftReport(ctx, in.From, in.To)
	})
	type file struct {
		times
		As string `query:"as" enum:"html,md,json,svg" default:"html"`
	}
	huma.Register(api, huma.Operation{OperationID: "driftFile", Method: http.MethodGet, Path: "/drift/file", Summary: "A drift report as a file; its plot alone as SVG"},
		func(ctx context.Context, in *file) (*download, error) {
			out, err := downloadOf(s.DriftFile(ctx, in.From, in.To, in.As))
			if out != nil && in.As == "svg" {
				out.Disposition, out.Type = "inline", "image/svg+xml"
			}
			return out, err
		})
	get(api, "watches", "/watches", func(ctx context.Context, _ *none) ([]service.WatchView, error) { return s.Watches(ctx) })
	type watch struct {
		Body struct {
			Subject string `json:"subject" enum:"design,code"`
			Every   int    `json:"every" minimum:"0" maximum:"86400" doc:"Seconds; 0 for never"`
		}
	}
	post(api, "setWatch", "/watches", func(ctx context.Context, in *watch) (none, error) {
		return none{}, s.SetWatch(ctx, in.Body.Subject, in.Body.Every)
	})
}
