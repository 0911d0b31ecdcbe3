package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/service"
)

// targets is where the code is, what it says, and what is written to it.
func targets(api huma.API, s *service.Service) {
	get(api, "target", "/target", func(ctx context.Context, _ *none) (service.TargetView, error) { return s.Target(ctx) })
	type set struct{ Body service.TargetEdit }
	post(api, "setTarget", "/target", func(ctx context.Context, in *set) (service.TargetView, error) { return s.SetTarget(ctx, in.Body) })
	post(api, "readTarget", "/target/read", func(ctx context.Context, _ *none) (service.TargetView, error) { return s.ReadTarget(ctx) })
	get(api, "code", "/code", func(ctx context.Context, _ *none) (service.CodeView, error) { return s.Code(ctx) })
	type decided struct {
		SlugPath
		Body service.CodeDecision
	}
	post(api, "decideCode", "/code/components/{slug}", func(ctx context.Context, in *decided) (service.Edited, error) {
		return s.DecideCode(ctx, in.Slug, in.Body)
	})
	post(api, "planCode", "/code/components/{slug}/plan", func(ctx context.Context, in *decided) (service.Outcome, error) {
		return s.PlanCode(ctx, in.Slug, in.Body)
	})
	type adopted struct{ Body service.AdoptRequest }
	post(api, "planAdopt", "/code/adopt/plan", func(ctx context.Context, in *adopted) (service.AdoptPlan, error) { return s.PlanAdopt(ctx, in.Body) })
	post(api, "adoptCode", "/code/adopt", func(ctx context.Context, in *adopted) (service.Drafted, error) { return s.AdoptCode(ctx, in.Body) })
	type tokens struct{ Body service.TokenDecisionRequest }
	post(api, "decideCodeTokens", "/code/tokens", func(ctx context.Context, in *tokens) (service.TokenRevision, error) {
		return s.DecideTokens(ctx, in.Body)
	})
	type asked struct{ Body service.WriteRequest }
	post(api, "planWrite", "/code/plan", func(ctx context.Context, in *asked) (service.WritePlan, error) { return s.PlanWrite(ctx, in.Body) })
	post(api, "writeCode", "/code/write", func(ctx context.Context, in *asked) (service.Written, error) { return s.Write(ctx, in.Body) })
	huma.Register(api, huma.Operation{OperationID: "codePatch", Method: http.MethodPost, Path: "/code/patch", Summary: "What a branch would hold, as a patch"},
		func(ctx context.Context, in *asked) (*download, error) { return downloadOf(s.WritePatch(ctx, in.Body)) })
}
