package server

import (
	"context"
	"mime"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/design"
	"cobrik/service"
)

// DocumentPath names a design document.
type DocumentPath struct {
	ID string `path:"id" maxLength:"120"`
}

// download is a file to keep.
type download struct {
	Disposition string `header:"Content-Disposition"`
	Type        string `header:"Content-Type"`
	Body        []byte
}

func downloadOf(f service.SourceText, err error) (*download, error) {
	if err != nil {
		return nil, trouble(err)
	}
	return &download{mime.FormatMediaType("attachment", map[string]string{"filename": f.Name}), "application/json", f.Text}, nil
}

// sourceEdits keeps sources in order: names, removal, replacing, files to keep, what differs.
func sourceEdits(api huma.API, s *service.Service) {
	type called struct {
		DocumentPath
		Body struct {
			Name string `json:"name" maxLength:"500" doc:"As it names itself when empty"`
		}
	}
	post(api, "callDocument", "/sources/{id}/name", func(ctx context.Context, in *called) (none, error) {
		return none{}, s.CallDocument(ctx, in.ID, in.Body.Name)
	})
	get(api, "documentRests", "/sources/{id}/rests", func(ctx context.Context, in *DocumentPath) (service.Rests, error) { return s.DocumentRests(ctx, in.ID) })
	post(api, "removeDocument", "/sources/{id}/remove", func(ctx context.Context, in *DocumentPath) (none, error) {
		return none{}, s.RemoveDocument(ctx, in.ID)
	})
	post(api, "restoreDocument", "/sources/{id}/restore", func(ctx context.Context, in *DocumentPath) (none, error) {
		return none{}, s.RestoreDocument(ctx, in.ID)
	})
	type replace struct {
		DocumentPath
		File    string `query:"file" maxLength:"300" doc:"Name of the file"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	handle(api, huma.Operation{OperationID: "replaceDocument", Method: http.MethodPost, Path: "/sources/{id}/replace", MaxBodyBytes: int64(design.Limits.Bytes) + 1<<20,
		Summary: "Keep a file as a document's next revision"},
		func(ctx context.Context, in *replace) (service.Dropped, error) {
			return s.ReplaceDocument(ctx, in.ID, in.File, in.RawBody)
		})
	type revision struct {
		DocumentPath
		Number int `path:"number" minimum:"1"`
	}
	huma.Register(api, huma.Operation{OperationID: "documentText", Method: http.MethodGet, Path: "/sources/{id}/revisions/{number}", Summary: "A revision as a file"},
		func(ctx context.Context, in *revision) (*download, error) {
			return downloadOf(s.DocumentText(ctx, in.ID, in.Number))
		})
	type between struct {
		DocumentPath
		Before int `query:"before" minimum:"0" doc:"The one before the other when 0"`
		After  int `query:"after" minimum:"0" doc:"The newest when 0"`
	}
	get(api, "compareDocument", "/sources/{id}/compare", func(ctx context.Context, in *between) (service.Compared, error) {
		return s.CompareDocument(ctx, in.ID, in.Before, in.After)
	})

	type file struct {
		Name string `query:"name" maxLength:"300"`
	}
	get(api, "tokenFileRests", "/tokens/files/rests", func(ctx context.Context, in *file) (service.Rests, error) { return s.TokenFileRests(ctx, in.Name) })
	huma.Register(api, huma.Operation{OperationID: "tokenFileText", Method: http.MethodGet, Path: "/tokens/files/text", Summary: "A token file"},
		func(ctx context.Context, in *file) (*download, error) {
			return downloadOf(s.TokenFileText(ctx, in.Name))
		})
	type removeFile struct {
		Body struct {
			Revision int    `json:"revision"`
			Name     string `json:"name" maxLength:"300"`
		}
	}
	post(api, "removeTokenFile", "/tokens/files/remove", func(ctx context.Context, in *removeFile) (service.TokenRevision, error) {
		return s.RemoveTokenFile(ctx, in.Body.Revision, in.Body.Name)
	})
	type renameFile struct {
		Body struct {
			Revision int    `json:"revision"`
			Name     string `json:"name" maxLength:"300"`
			To       string `json:"to" maxLength:"300"`
		}
	}
	post(api, "renameTokenFile", "/tokens/files/rename", func(ctx context.Context, in *renameFile) (service.TokenRevision, error) {
		return s.RenameTokenFile(ctx, in.Body.Revision, in.Body.Name, in.Body.To)
	})
	type betweenTokens struct {
		Before int `query:"before" minimum:"0"`
		After  int `query:"after" minimum:"0"`
	}
	get(api, "compareTokens", "/tokens/compare", func(ctx context.Context, in *betweenTokens) (service.Compared, error) {
		return s.CompareTokens(ctx, in.Before, in.After)
	})
}
