package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/service"
)

// presence passes on where people are.
func presence(api huma.API, s *service.Service) {
	type here struct {
		Body service.Here
	}
	post(api, "here", "/here", func(ctx context.Context, in *here) (none, error) { return none{}, s.TellHere(ctx, in.Body) })
}
