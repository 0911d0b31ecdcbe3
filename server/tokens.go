package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/token/platform"
	"cobrik/service"
	"cobrik/store"
)

func tokens(api huma.API, s *service.Service) {
	get(api, "tokens", "/tokens", func(ctx context.Context, _ *none) (service.TokensView, error) { return s.Tokens(ctx) })
	type path struct {
		Path string `query:"path" maxLength:"300"`
	}
	get(api, "token", "/tokens/one", func(ctx context.Context, in *path) (service.TokenDetail, error) { return s.Token(ctx, in.Path) })
	get(api, "contrasts", "/tokens/contrasts", func(ctx context.Context, _ *none) ([]service.ContrastView, error) { return s.Contrasts(ctx) })
	get(api, "offScale", "/tokens/scale", func(ctx context.Context, _ *none) ([]service.RawValue, error) { return s.OffScale(ctx) })
	type bindRaw struct {
		Body struct {
			Scale string `json:"scale" maxLength:"40"`
			Value string `json:"value" maxLength:"100"`
			Token string `json:"token" maxLength:"300"`
		}
	}
	post(api, "bindRaw", "/tokens/scale", func(ctx context.Context, in *bindRaw) (service.BindResult, error) {
		return s.BindRaw(ctx, in.Body.Scale, in.Body.Value, in.Body.Token)
	})
	type tokenEdit struct {
		Body struct {
			Revision int                 `json:"revision"`
			Edits    []service.TokenEdit `json:"edits" minItems:"1" maxItems:"200"`
		}
	}
	post(api, "previewTokens", "/tokens/preview", func(ctx context.Context, in *tokenEdit) (service.Impact, error) {
		return s.PreviewTokens(ctx, in.Body.Edits)
	})
	post(api, "editTokens", "/tokens", func(ctx context.Context, in *tokenEdit) (service.TokenRevision, error) {
		return s.EditTokens(ctx, in.Body.Revision, in.Body.Edits)
	})
	type tokenStep struct {
		Body struct {
			Revision int  `json:"revision"`
			Redo     bool `json:"redo"`
		}
	}
	post(api, "stepTokens", "/tokens/step", func(ctx context.Context, in *tokenStep) (service.TokenRevision, error) {
		return s.UndoTokens(ctx, in.Body.Revision, store.Direction(in.Body.Redo))
	})
	get(api, "platforms", "/tokens/platforms", func(ctx context.Context, _ *none) (service.PlatformsView, error) { return s.Platforms(ctx) })
	type buildTokens struct {
		Body struct {
			Platform platform.Platform `json:"platform"`
			Path     string            `json:"path" maxLength:"300" doc:"Token to show step by step; empty for none"`
		}
	}
	post(api, "buildTokens", "/tokens/platforms/build", func(ctx context.Context, in *buildTokens) (service.BuiltTokens, error) {
		return s.BuildTokens(ctx, in.Body.Platform, in.Body.Path)
	})
	type savePlatform struct {
		Body struct {
			Revision int               `json:"revision"`
			Platform platform.Platform `json:"platform"`
		}
	}
	post(api, "savePlatform", "/tokens/platforms", func(ctx context.Context, in *savePlatform) (service.TokenRevision, error) {
		return s.SavePlatform(ctx, in.Body.Revision, in.Body.Platform)
	})
	type forgetPlatform struct {
		Name string `path:"name" maxLength:"60"`
		Body struct {
			Revision int `json:"revision"`
		}
	}
	post(api, "forgetPlatform", "/tokens/platforms/{name}/forget", func(ctx context.Context, in *forgetPlatform) (service.TokenRevision, error) {
		return s.ForgetPlatform(ctx, in.Body.Revision, in.Name)
	})
}
