package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/content"
	"cobrik/core/emit"
	"cobrik/core/trial"
	"cobrik/service"
	"cobrik/store"
)

// trials is what pages on trial ask, and what they are filled with.
func trials(api huma.API, s *service.Service) {
	get(api, "trials", "/trial", func(ctx context.Context, _ *none) ([]service.TrialEntry, error) { return s.Trials(ctx) })
	type begun struct {
		Body struct {
			Name string `json:"name" maxLength:"80"`
		}
	}
	post(api, "addTrial", "/trial", func(ctx context.Context, in *begun) (service.TrialPage, error) { return s.AddTrial(ctx, in.Body.Name) })
	type taken struct {
		Body struct {
			Document string   `json:"document" maxLength:"120"`
			Pages    []string `json:"pages,omitempty" maxItems:"500" doc:"Ids of pages of the design; all when there are none"`
		}
	}
	post(api, "takeTrials", "/trial/take", func(ctx context.Context, in *taken) ([]service.TakenPage, error) {
		return s.TakeTrials(ctx, in.Body.Document, in.Body.Pages)
	})
	get(api, "trialPage", "/trial/pages/{slug}", func(ctx context.Context, in *slugged) (service.TrialPage, error) { return s.Trial(ctx, in.Slug) })
	type edited struct {
		SlugPath
		Body struct {
			Revision int    `json:"revision"`
			Outline  string `json:"outline" maxLength:"2097152"`
			Step     string `json:"step,omitempty" maxLength:"200" doc:"What was done, in a few words"`
		}
	}
	post(api, "editTrial", "/trial/pages/{slug}", func(ctx context.Context, in *edited) (service.TrialPage, error) {
		return s.EditTrial(ctx, in.Slug, in.Body.Revision, in.Body.Outline, in.Body.Step)
	})
	type pinned struct {
		SlugPath
		Body struct {
			Revision  int    `json:"revision"`
			Component string `json:"component" maxLength:"100" doc:"Its slug"`
			Version   string `json:"version" maxLength:"60" doc:"Empty for the component as it is at work"`
		}
	}
	post(api, "pinTrial", "/trial/pages/{slug}/pin", func(ctx context.Context, in *pinned) (service.TrialPage, error) {
		return s.PinTrial(ctx, in.Slug, in.Body.Revision, in.Body.Component, in.Body.Version)
	})
	type updated struct {
		SlugPath
		Component string `query:"component" required:"true" maxLength:"100"`
		Version   string `query:"version" maxLength:"60"`
	}
	get(api, "updateTrial", "/trial/pages/{slug}/update", func(ctx context.Context, in *updated) (service.TrialUpdate, error) {
		return s.UpdateTrial(ctx, in.Slug, in.Component, in.Version)
	})
	type revised struct {
		SlugPath
		Body struct {
			Revision int `json:"revision"`
		}
	}
	post(api, "undoTrial", "/trial/pages/{slug}/undo", func(ctx context.Context, in *revised) (service.TrialPage, error) {
		return s.UndoTrial(ctx, in.Slug, in.Body.Revision, store.Backward)
	})
	post(api, "redoTrial", "/trial/pages/{slug}/redo", func(ctx context.Context, in *revised) (service.TrialPage, error) {
		return s.UndoTrial(ctx, in.Slug, in.Body.Revision, store.Forward)
	})
	type looked struct {
		SlugPath
		Body struct {
			Widths []float64 `json:"widths" maxItems:"6" doc:"px"`
		}
	}
	post(api, "lookTrial", "/trial/pages/{slug}/widths", func(ctx context.Context, in *looked) (service.TrialPage, error) {
		return s.LookTrial(ctx, in.Slug, in.Body.Widths)
	})
	post(api, "removeTrial", "/trial/pages/{slug}/remove", func(ctx context.Context, in *slugged) (none, error) { return none{}, s.RemoveTrial(ctx, in.Slug) })
	type drawn struct {
		SlugPath
		Page string `query:"page" required:"true" maxLength:"200"`
	}
	get(api, "trialDrawn", "/trial/pages/{slug}/drawn", func(ctx context.Context, in *drawn) (service.DrawnPicture, error) {
		return s.TrialDrawn(ctx, in.Slug, in.Page)
	})
	type compared struct {
		SlugPath
		Body struct {
			Build string        `json:"build" maxLength:"60"`
			Page  string        `json:"page" maxLength:"200"`
			Built []trial.Built `json:"built" maxItems:"20000"`
		}
	}
	post(api, "compareTrial", "/trial/pages/{slug}/compare", func(ctx context.Context, in *compared) (trial.PageComparison, error) {
		return s.CompareTrial(ctx, in.Slug, in.Body.Build, in.Body.Page, in.Body.Built)
	})
	type completed struct {
		SlugPath
		Body struct {
			Outline string `json:"outline" maxLength:"2097152"`
			Line    int    `json:"line" doc:"From 1"`
			Typed   string `json:"typed" maxLength:"100000" doc:"Of the row, up to the cursor"`
		}
	}
	post(api, "completeTrial", "/trial/pages/{slug}/complete", func(ctx context.Context, in *completed) ([]trial.RowCompletion, error) {
		return s.CompleteTrial(ctx, in.Slug, in.Body.Outline, in.Body.Line, in.Body.Typed)
	})
	get(api, "trialFiles", "/trial/pages/{slug}/files", func(ctx context.Context, in *slugged) ([]emit.File, error) { return s.TrialFiles(ctx, in.Slug) })
	records(api, s)
}

// records is what pages are filled with.
func records(api huma.API, s *service.Service) {
	get(api, "content", "/content", func(ctx context.Context, _ *none) (service.ContentView, error) { return s.Content(ctx) })
	type put struct {
		File    string `query:"file" required:"true" minLength:"1" maxLength:"300" doc:"Name of the file: *.csv, *.json, or *.schema.json"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	handle(api, huma.Operation{OperationID: "putContent", Method: http.MethodPost, Path: "/content", MaxBodyBytes: int64(content.Limits.Bytes) + 1<<20, Summary: "Keep a file of records, or its schema"},
		func(ctx context.Context, in *put) (service.ContentView, error) {
			return s.PutContent(ctx, in.File, in.RawBody)
		})
	type named struct {
		Body struct {
			Name string `json:"name" maxLength:"300"`
		}
	}
	post(api, "removeContent", "/content/remove", func(ctx context.Context, in *named) (service.ContentView, error) {
		return s.RemoveContent(ctx, in.Body.Name)
	})
	post(api, "fetchContent", "/content/fetch", func(ctx context.Context, in *named) (service.ContentView, error) {
		return s.FetchContent(ctx, in.Body.Name)
	})
	type some struct {
		Name string `query:"name" required:"true" maxLength:"300"`
		From int    `query:"from"`
	}
	get(api, "records", "/content/records", func(ctx context.Context, in *some) (service.ContentRecords, error) {
		return s.Records(ctx, in.Name, in.From)
	})
}
