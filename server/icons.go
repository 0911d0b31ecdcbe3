package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/service"
)

// mostIcon bounds the bytes of a file that is given for an icon.
const mostIcon = 2 << 20

// icons keeps the library's icons.
func icons(api huma.API, s *service.Service) {
	get(api, "icons", "/icons", func(ctx context.Context, _ *struct{}) ([]service.IconView, error) { return s.Icons(ctx) })
	type iconFile struct {
		File    string `query:"file" required:"true" minLength:"1" maxLength:"300" doc:"Name of the file"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	handle(api, huma.Operation{OperationID: "takeIcon", Method: http.MethodPost, Path: "/icons", MaxBodyBytes: mostIcon, Summary: "Keep an SVG file as an icon of the library"},
		func(ctx context.Context, in *iconFile) (service.TakenIcon, error) {
			return s.TakeIcon(ctx, in.File, in.RawBody)
		})
	type IconPath struct {
		Name string `path:"name" maxLength:"200"`
	}
	type iconEdit struct {
		IconPath
		Body struct {
			Name  string `json:"name" maxLength:"200"`
			Words string `json:"words" maxLength:"2000" doc:"To be found by"`
		}
	}
	post(api, "editIcon", "/icons/{name}", func(ctx context.Context, in *iconEdit) (none, error) {
		return none{}, s.EditIcon(ctx, in.Name, in.Body.Name, in.Body.Words)
	})
	post(api, "removeIcon", "/icons/{name}/remove", func(ctx context.Context, in *IconPath) (none, error) {
		return none{}, s.RemoveIcon(ctx, in.Name, true)
	})
	post(api, "restoreIcon", "/icons/{name}/restore", func(ctx context.Context, in *IconPath) (none, error) {
		return none{}, s.RemoveIcon(ctx, in.Name, false)
	})
}
