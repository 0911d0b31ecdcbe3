package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/token/output"
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
	get(api, "outputs", "/tokens/outputs", func(ctx context.Context, _ *none) (service.OutputsView, error) { return s.Outputs(ctx) })
	type buildTokens struct {
		Body struct {
			Output output.Output `json:"output"`
			Was    string        `json:"was" maxLength:"500" doc:"File of the output it takes the place of; empty for a new one"`
			Path   string        `json:"path" maxLength:"300" doc:"Token whose way is shown; empty for none"`
		}
	}
	post(api, "buildTokens", "/tokens/outputs/build", func(ctx context.Context, in *buildTokens) (service.BuiltTokens, error) {
		return s.BuildTokens(ctx, in.Body.Output, in.Body.Was, in.Body.Path)
	})
	type saveOutput struct {
		Body struct {
			Revision int           `json:"revision"`
			Was      string        `json:"was" maxLength:"500" doc:"File of the output it takes the place of; empty for a new one"`
			Output   output.Output `json:"output"`
		}
	}
	post(api, "saveOutput", "/tokens/outputs", func(ctx context.Context, in *saveOutput) (service.TokenRevision, error) {
		return s.SaveOutput(ctx, in.Body.Revision, in.Body.Was, in.Body.Output)
	})
	type removeOutput struct {
		Body struct {
			Revision int    `json:"revision"`
			File     string `json:"file" maxLength:"500"`
		}
	}
	post(api, "removeOutput", "/tokens/outputs/remove", func(ctx context.Context, in *removeOutput) (service.TokenRevision, error) {
		return s.RemoveOutput(ctx, in.Body.Revision, in.Body.File)
	})
	type restoreOutputs struct {
		Body struct {
			Revision int `json:"revision"`
		}
	}
	post(api, "restoreOutputs", "/tokens/outputs/restore", func(ctx context.Context, in *restoreOutputs) (service.TokenRevision, error) {
		return s.RestoreOutputs(ctx, in.Body.Revision)
	})
}
