package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/service"
)

// DocumentQuery names a design document.
type DocumentQuery struct {
	Document string `query:"document" required:"true" maxLength:"120"`
}

// surveys reads designs, and makes components of what is found in them.
func surveys(api huma.API, s *service.Service) {
	get(api, "surveys", "/survey", func(ctx context.Context, _ *none) ([]service.Survey, error) { return s.Surveys(ctx) })
	type page struct {
		DocumentQuery
		Page string `query:"page" required:"true" maxLength:"120"`
	}
	get(api, "surveyPage", "/survey/page", func(ctx context.Context, in *page) (service.DrawnPage, error) {
		return s.Page(ctx, in.Document, in.Page)
	})
	type find struct {
		DocumentQuery
		Find string `query:"find" required:"true" maxLength:"200"`
	}
	get(api, "openFind", "/survey/find", func(ctx context.Context, in *find) (service.OpenFind, error) {
		return s.OpenFind(ctx, in.Document, in.Find)
	})
	type loose struct {
		DocumentQuery
		Layer []string `query:"layer,explode" required:"true" minItems:"1" maxItems:"500" doc:"Ids; several are read as one drawing"`
	}
	get(api, "containers", "/survey/containers", func(ctx context.Context, in *loose) (service.LayoutView, error) {
		return s.Containers(ctx, in.Document, in.Layer)
	})
	type findDraft struct{ Body service.FindDraft }
	post(api, "draftFind", "/survey/find", func(ctx context.Context, in *findDraft) (service.Drafted, error) { return s.DraftFind(ctx, in.Body) })
	type uses struct {
		Body struct {
			Document  string   `json:"document" maxLength:"120"`
			Find      string   `json:"find" maxLength:"200"`
			Component string   `json:"component" maxLength:"200" doc:"Slug of the component that its copies are uses of"`
			Left      []string `json:"left,omitempty" maxItems:"5000" doc:"Ids of copies that are none"`
		}
	}
	post(api, "takeAsUses", "/survey/uses", func(ctx context.Context, in *uses) (none, error) {
		return none{}, s.TakeAsUses(ctx, in.Body.Document, in.Body.Find, in.Body.Component, in.Body.Left)
	})
	type marked struct {
		Body struct {
			Document string   `json:"document" maxLength:"120"`
			Layers   []string `json:"layers" minItems:"1" maxItems:"500" doc:"Ids, of one container"`
			One      bool     `json:"one" doc:"They are one thing"`
		}
	}
	post(api, "markAsOne", "/survey/marked", func(ctx context.Context, in *marked) (none, error) {
		return none{}, s.MarkAsOne(ctx, in.Body.Document, in.Body.Layers, in.Body.One)
	})
	type copied struct {
		Body struct {
			Document string   `json:"document" maxLength:"120"`
			Find     string   `json:"find" maxLength:"200" doc:"That they are a copy of; empty to take that back"`
			Layers   []string `json:"layers" minItems:"1" maxItems:"500" doc:"Ids, of one container"`
		}
	}
	post(api, "addCopy", "/survey/copy", func(ctx context.Context, in *copied) (none, error) {
		if in.Body.Find == "" {
			return none{}, s.LeaveCopy(ctx, in.Body.Document, in.Body.Layers)
		}
		return none{}, s.AddCopy(ctx, in.Body.Document, in.Body.Find, in.Body.Layers)
	})
	type doubt struct {
		Body struct {
			Document string `json:"document" maxLength:"120"`
			Doubt    string `json:"doubt" maxLength:"200"`
			Outcome  string `json:"outcome" enum:",aside,asked" doc:"Set aside, or put to the designer; empty to let it stand"`
			Reason   string `json:"reason,omitempty" maxLength:"2000" doc:"Why it is set aside, or what is asked"`
		}
	}
	post(api, "sayOfDoubt", "/survey/doubt", func(ctx context.Context, in *doubt) (none, error) {
		return none{}, s.SayOfDoubt(ctx, in.Body.Document, in.Body.Doubt, in.Body.Outcome, in.Body.Reason)
	})
	type rule struct {
		Body struct {
			Rule string `json:"rule" maxLength:"40"`
			Off  bool   `json:"off"`
		}
	}
	post(api, "switchRule", "/survey/rule", func(ctx context.Context, in *rule) (none, error) {
		return none{}, s.SwitchRule(ctx, in.Body.Rule, in.Body.Off)
	})
	type plan struct {
		Body struct {
			Name   string `json:"name" maxLength:"80" doc:"Of a component that no drawing shows yet"`
			Wanted bool   `json:"wanted"`
		}
	}
	post(api, "plan", "/survey/plan", func(ctx context.Context, in *plan) (none, error) {
		return none{}, s.Plan(ctx, in.Body.Name, in.Body.Wanted)
	})
	type level struct {
		Body struct {
			Document string `json:"document" maxLength:"120"`
			Level    int    `json:"level" minimum:"0"`
		}
	}
	post(api, "draftLevel", "/survey/level", func(ctx context.Context, in *level) ([]service.Drafted, error) {
		return s.DraftLevel(ctx, in.Body.Document, in.Body.Level)
	})
	get(api, "readings", "/survey/readings", func(ctx context.Context, _ *none) ([]service.UnderWay, error) { return s.Readings(ctx) })
	type stopped struct {
		Body struct {
			Document string `json:"document" maxLength:"120"`
			Revision int    `json:"revision" minimum:"1"`
			Stop     bool   `json:"stop" doc:"Otherwise it is begun again"`
		}
	}
	post(api, "stopReading", "/survey/reading", func(ctx context.Context, in *stopped) (none, error) {
		return none{}, s.StopReading(ctx, in.Body.Document, in.Body.Revision, in.Body.Stop)
	})
	type questions struct {
		DocumentQuery
		Markdown bool `query:"markdown" doc:"Markdown instead of HTML"`
	}
	huma.Register(api, huma.Operation{OperationID: "questions", Method: http.MethodGet, Path: "/survey/questions", Summary: "The questions to the designer as one page", Errors: []int{http.StatusNotFound}},
		func(ctx context.Context, in *questions) (*download, error) {
			f, err := s.Questions(ctx, in.Document, in.Markdown)
			out, err := downloadOf(f, err)
			if out != nil {
				out.Type = "text/html; charset=utf-8"
				if in.Markdown {
					out.Type = "text/markdown; charset=utf-8"
				}
			}
			return out, err
		})
}
