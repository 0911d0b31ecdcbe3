package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/service"
)

// catalogued is what the catalogue asks: the list, what is like what, releases, reviews.
func catalogued(api huma.API, s *service.Service) {
	get(api, "components", "/components", func(ctx context.Context, _ *none) ([]service.Entry, error) { return s.Entries(ctx) })
	get(api, "drawn", "/components/{slug}/drawn", func(ctx context.Context, in *slugged) (service.DrawnPicture, error) { return s.Drawn(ctx, in.Slug) })
	type searched struct {
		Words string `query:"words" maxLength:"200" doc:"All of which a component has in some place; everything for none"`
	}
	get(api, "search", "/catalogue", func(ctx context.Context, in *searched) ([]service.CatalogueHit, error) {
		return s.Search(ctx, in.Words)
	})
	type like struct {
		Body struct {
			File     string   `json:"file,omitempty" maxLength:"200" doc:"The name of a file of a drawing, or"`
			Text     string   `json:"text,omitempty" maxLength:"8000000" doc:"with what is in it"`
			Document string   `json:"document,omitempty" maxLength:"120" doc:"a design document"`
			Layers   []string `json:"layers,omitempty" maxItems:"500" doc:"and layers of a page, read as one drawing"`
		}
	}
	post(api, "like", "/catalogue/like", func(ctx context.Context, in *like) (service.Like, error) {
		if in.Body.Document != "" {
			return s.LikeLayers(ctx, in.Body.Document, in.Body.Layers)
		}
		return s.LikeDrawing(ctx, in.Body.File, []byte(in.Body.Text))
	})
	get(api, "about", "/components/{slug}/about", func(ctx context.Context, in *slugged) (service.About, error) { return s.About(ctx, in.Slug) })
	get(api, "library", "/library", func(ctx context.Context, _ *none) (service.LibraryView, error) { return s.Library(ctx) })
	type library struct {
		Body struct {
			Version string `json:"version" maxLength:"60" doc:"What it was shown to be"`
			Note    string `json:"note" maxLength:"20000" doc:"The changelog, CommonMark; as proposed when empty"`
		}
	}
	post(api, "releaseLibrary", "/library", func(ctx context.Context, in *library) (service.LibraryView, error) {
		return s.ReleaseLibrary(ctx, in.Body.Version, in.Body.Note)
	})
	releases(api, s)
	reviews(api, s)
}

func releases(api huma.API, s *service.Service) {
	get(api, "releases", "/components/{slug}/releases", func(ctx context.Context, in *slugged) ([]service.ReleaseView, error) { return s.Releases(ctx, in.Slug) })
	get(api, "planRelease", "/components/{slug}/release", func(ctx context.Context, in *slugged) (service.ReleasePlan, error) {
		return s.PlanRelease(ctx, in.Slug)
	})
	type release struct {
		SlugPath
		Body struct {
			Revision int    `json:"revision"`
			Shelf    string `json:"shelf" maxLength:"120"`
			Note     string `json:"note" maxLength:"20000" doc:"The changelog, CommonMark; as proposed when empty"`
		}
	}
	post(api, "release", "/components/{slug}/release", func(ctx context.Context, in *release) (service.ReleasePlan, error) {
		return s.Release(ctx, in.Slug, in.Body.Revision, in.Body.Shelf, in.Body.Note)
	})
	type upgrade struct {
		SlugPath
		From string `query:"from" required:"true" maxLength:"60"`
		To   string `query:"to" required:"true" maxLength:"60"`
	}
	get(api, "upgrade", "/components/{slug}/upgrade", func(ctx context.Context, in *upgrade) (service.Upgrade, error) {
		return s.Upgrade(ctx, in.Slug, in.From, in.To)
	})
}

func reviews(api huma.API, s *service.Service) {
	get(api, "review", "/components/{slug}/review", func(ctx context.Context, in *slugged) (service.Review, error) { return s.Review(ctx, in.Slug) })
	type asked struct {
		SlugPath
		Body struct {
			Note string `json:"note" maxLength:"2000" doc:"What is to be looked at"`
		}
	}
	post(api, "askReview", "/components/{slug}/review", func(ctx context.Context, in *asked) (service.Review, error) {
		return s.AskReview(ctx, in.Slug, in.Body.Note)
	})
	post(api, "endReview", "/components/{slug}/review/end", func(ctx context.Context, in *slugged) (service.Review, error) { return s.EndReview(ctx, in.Slug) })
	type approved struct {
		SlugPath
		Body struct {
			Revision int `json:"revision" doc:"Of the contract, as it was looked at"`
		}
	}
	post(api, "approve", "/components/{slug}/review/approve", func(ctx context.Context, in *approved) (service.Review, error) {
		return s.Approve(ctx, in.Slug, in.Body.Revision)
	})
	type comment struct {
		SlugPath
		Body service.NewComment
	}
	post(api, "comment", "/components/{slug}/comments", func(ctx context.Context, in *comment) (service.Review, error) {
		return s.Comment(ctx, in.Slug, in.Body)
	})
	type resolved struct {
		SlugPath
		Body struct {
			ID       int64 `json:"id"`
			Resolved bool  `json:"resolved"`
		}
	}
	post(api, "resolveComment", "/components/{slug}/comments/resolve", func(ctx context.Context, in *resolved) (service.Review, error) {
		return s.ResolveComment(ctx, in.Slug, in.Body.ID, in.Body.Resolved)
	})
	type approval struct {
		Body struct {
			On bool `json:"on"`
		}
	}
	post(api, "askApproval", "/approval", func(ctx context.Context, in *approval) (none, error) { return none{}, s.AskApproval(ctx, in.Body.On) })
}
