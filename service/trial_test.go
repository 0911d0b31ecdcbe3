package service_test

import (
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit/compile"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/sheet"
	"cobrik/core/trial"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// withCard gives a service in which the crop tag and the plot card are released.
func withCard(t *testing.T) *service.Service {
	t.Helper()
	s := drafted(t)
	for _, slug := range []string{"crop-tag", "plot-card"} {
		require.NoError(t, story.Release(t.Context(), s, slug, 1, "Plots", "", "Seen"))
	}
	return s
}

// page begins a page with an outline.
func page(t *testing.T, s *service.Service, outline string) service.TrialPage {
	t.Helper()
	p, err := s.AddTrial(t.Context(), "Beds")
	require.NoError(t, err)
	p, err = s.EditTrial(t.Context(), p.Slug, p.Revision, outline, "")
	require.NoError(t, err)
	return p
}

func errorsOf(p service.TrialPage) (out []string) {
	for _, f := range p.Problems {
		if f.Severity == problem.Error {
			out = append(out, f.Message)
		}
	}
	return out
}

func TestAPageIsEditedUndoneAndDoneAgain(t *testing.T) {
	s := withCard(t)
	p := page(t, s, "stack\n  PlotCard\n")
	assert.Equal(t, "edited", p.Undoes)
	_, err := s.EditTrial(t.Context(), p.Slug, p.Revision-1, "stack\n", "")
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "an edit is lost under another")
	then, err := s.UndoTrial(t.Context(), p.Slug, p.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, "stack gap=16px\n", then.Outline)
	asked, err := s.BuildTrial(t.Context(), p.Slug, "", p.Build)
	require.NoError(t, err)
	assert.Equal(t, p.Build, asked.Build, "a frame that asks for what was typed last is told that it is out of date")
	assert.Equal(t, "edited", then.Redoes)
	again, err := s.UndoTrial(t.Context(), p.Slug, then.Revision, store.Forward)
	require.NoError(t, err)
	assert.Equal(t, p.Outline, again.Outline)
	assert.Equal(t, p.Build, again.Build, "the same page is compiled as another")
	_, err = s.UndoTrial(t.Context(), p.Slug, again.Revision, store.Forward)
	assert.Equal(t, service.Invalid, failure(t, err).Kind, "there is more to be done again than was undone")
	for _, typed := range []string{"stack\n  Plot\n", "stack\n  PlotCard\n  p\n", "stack\n  PlotCard\n  p \"a\"\n"} {
		again, err = s.EditTrial(t.Context(), p.Slug, again.Revision, typed, "row 3")
		require.NoError(t, err)
	}
	again, err = s.UndoTrial(t.Context(), p.Slug, again.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, p.Outline, again.Outline, "what is typed in a row is undone letter by letter")
	_, err = s.AddTrial(t.Context(), "beds")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.AddTrial(t.Context(), " ! ")
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	require.NoError(t, s.RemoveTrial(t.Context(), p.Slug))
	_, err = s.Trial(t.Context(), p.Slug)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

func TestAPageUsesTheVersionThatIsPinned(t *testing.T) {
	s := withCard(t)
	p := page(t, s, "PlotCard\n")
	require.Len(t, p.Uses, 1)
	assert.Equal(t, "1.0.0", p.Uses[0].Pinned, "what is used for the first time is at its newest release")
	assert.False(t, p.Uses[0].Moved)
	before, err := s.BuildTrial(t.Context(), p.Slug, "", "")
	require.NoError(t, err)
	require.Empty(t, before.Problems)
	assert.Equal(t, p.Build, before.Build)

	amended(t, s, "plot-card", sheet.Edit{Do: "set", On: "props/holder", Cell: "name", Text: "keeper"})

	now, err := s.Trial(t.Context(), p.Slug)
	require.NoError(t, err)
	assert.Equal(t, p.Build, now.Build, "a page whose version is pinned changes with the component at work")
	assert.True(t, now.Uses[0].Moved)
	update, err := s.UpdateTrial(t.Context(), p.Slug, "plot-card", "")
	require.NoError(t, err)
	assert.Empty(t, update.Breaks, "nothing is given to what is called otherwise")

	p, err = s.EditTrial(t.Context(), p.Slug, now.Revision, "PlotCard holder=Ines\n", "")
	require.NoError(t, err)
	require.Empty(t, errorsOf(p))
	update, err = s.UpdateTrial(t.Context(), p.Slug, "plot-card", "")
	require.NoError(t, err)
	require.Len(t, update.Breaks, 1, "a release that breaks a page is not seen before it is made")
	assert.Contains(t, update.Breaks[0].Message, "no prop holder")
	plan, err := s.PlanRelease(t.Context(), "plot-card")
	require.NoError(t, err)
	require.Len(t, plan.Trials, 1)
	assert.Equal(t, "Beds", plan.Trials[0].Name)
	assert.Len(t, plan.Trials[0].Breaks, 1)
	changed, err := s.BuildTrial(t.Context(), p.Slug, "plot-card@", "")
	require.NoError(t, err)
	assert.Equal(t, update.Build, changed.Build, "before and after are the same picture")

	pinned, err := s.PinTrial(t.Context(), p.Slug, p.Revision, "plot-card", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"PlotCard has no prop holder"}, errorsOf(pinned))
	back, err := s.PinTrial(t.Context(), p.Slug, pinned.Revision, "plot-card", "1.0.0")
	require.NoError(t, err)
	assert.Empty(t, errorsOf(back))
	assert.Equal(t, p.Build, back.Build)
	_, err = s.PinTrial(t.Context(), p.Slug, back.Revision, "plot-card", "7.0.0")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

func TestTheDesignsPagesAreTakenOverAtOnce(t *testing.T) {
	s := withCard(t)
	taken, err := s.TakeTrials(t.Context(), demo.Document, nil)
	require.NoError(t, err)
	var names []string
	for _, p := range taken {
		names = append(names, p.Name)
		one, err := s.Trial(t.Context(), p.Slug)
		require.NoError(t, err)
		assert.Empty(t, errorsOf(one), "%s is taken over with rows that cannot be shown:\n%s", p.Name, one.Outline)
		built, err := s.BuildTrial(t.Context(), p.Slug, "", "")
		require.NoError(t, err)
		assert.Empty(t, built.Problems, p.Name)
	}
	assert.Contains(t, names, "Plots")
	assert.NotContains(t, names, "Plots, narrow", "two drawings of a page are two pages")
	_, err = s.TakeTrials(t.Context(), demo.Document, nil)
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	list, err := s.Trials(t.Context())
	require.NoError(t, err)
	assert.Len(t, list, len(taken))
	entries, err := s.Entries(t.Context())
	require.NoError(t, err)
	for _, e := range entries {
		if e.Name == "PlotCard" {
			assert.GreaterOrEqual(t, e.Trials, 6, "the catalogue does not know of uses on trial pages")
		}
	}
	about, err := s.About(t.Context(), "plot-card")
	require.NoError(t, err)
	assert.Contains(t, about.Trials, service.TrialUses{Slug: "plots", Name: "Plots", Uses: 6})
	plots, err := s.Trial(t.Context(), "plots")
	require.NoError(t, err)
	assert.Equal(t, []float64{1440, 390}, plots.Widths)
	drawn, err := s.TrialDrawn(t.Context(), "plots", plots.Drawn[1].Page)
	require.NoError(t, err)
	assert.Equal(t, 390.0, drawn.Width)
	_, err = s.CompareTrial(t.Context(), "plots", "another", plots.Drawn[0].Page, nil)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "what was measured of another page is held to the drawing")
	compared, err := s.CompareTrial(t.Context(), "plots", plots.Build, plots.Drawn[0].Page, []trial.Built{{Key: "h1", Box: design.Rect{X: 120, Y: 96, Width: 1200, Height: 40}, Text: "Plots"}})
	require.NoError(t, err)
	assert.Equal(t, 1, compared.Pieces)
	assert.Equal(t, 8, compared.Drawn)
}

func TestAPageIsCode(t *testing.T) {
	s := withCard(t)
	_, err := s.PutContent(t.Context(), "plots.csv", []byte("number,crop\n41,Beans\n"))
	require.NoError(t, err)
	p := page(t, s, "each plot of plots.csv\n  PlotCard title=\"Plot {number}\" holder={plot.crop}\n")
	require.Empty(t, errorsOf(p))
	files, err := s.TrialFiles(t.Context(), p.Slug)
	require.NoError(t, err)
	text := map[string]string{}
	for _, f := range files {
		text[f.Path] = f.Content
	}
	_, err = s.PutContent(t.Context(), "plots.csv", []byte("number,crop\n41,Beans\n12,Leeks\n"))
	require.NoError(t, err)
	two, err := s.Trial(t.Context(), p.Slug)
	require.NoError(t, err)
	require.Len(t, two.Pieces, 2)
	assert.Equal(t, "plots.csv", two.Pieces[1].Source)
	assert.Equal(t, []int{0, 1}, []int{two.Pieces[0].Record, two.Pieces[1].Record}, "a record leads to another's place on the page")
	assert.Contains(t, text["BedsPage.tsx"], "plots.map(")
	assert.Contains(t, text["BedsPage.filled.tsx"], `{ title: "Plot 41", crop: "Beans" }`)
	assert.Contains(t, text, "PlotCard/PlotCard.tsx")
	_, bad := compile.React(files)
	assert.Empty(t, bad)
}

func TestRecordsAreKeptAndHeldToTheirSchema(t *testing.T) {
	s := withCard(t)
	for file, want := range map[string]string{"a.txt": "neither CSV nor JSON", "a.json": "cannot be read", "gone.schema.json": "no such source yet"} {
		_, err := s.PutContent(t.Context(), file, []byte("{"))
		assert.Contains(t, failure(t, err).Message, want, file)
	}
	_, err := s.PutContent(t.Context(), "notes.json", []byte(`[{"title":"A"},{"body":"B"}]`))
	require.NoError(t, err)
	v, err := s.PutContent(t.Context(), "notes.schema.json", []byte(`{"items":{"required":["title"]}}`))
	require.NoError(t, err)
	require.Len(t, v.Sources, 1)
	assert.True(t, v.Sources[0].Schema)
	require.Len(t, v.Sources[0].Problems, 1, "a record that is not as the schema has it is not told")
	assert.Equal(t, "/1", v.Sources[0].Problems[0].Pointer)
	_, err = s.PutContent(t.Context(), "notes.schema.json", []byte(`{"type": 4}`))
	assert.Contains(t, failure(t, err).Message, "no JSON Schema")
	p := page(t, s, "each note of notes.json\n  p {note.title}\n")
	assert.Equal(t, []string{"notes.json"}, p.Sources)
	v, err = s.PutContent(t.Context(), "notes.json", []byte(`[{"title":"A"}]`))
	require.NoError(t, err)
	assert.True(t, v.Sources[0].Schema, "a new file takes the schema away")
	assert.Equal(t, []string{"Beds"}, v.Sources[0].Pages)
	now, err := s.Trial(t.Context(), p.Slug)
	require.NoError(t, err)
	assert.Equal(t, p.Build, now.Build, "other records are other code")
	assert.Len(t, now.Props["notes"], 1, "the page shows the records of before")
	records, err := s.Records(t.Context(), "notes.json", 0)
	require.NoError(t, err)
	assert.Equal(t, []map[string]any{{"title": "A"}}, records.Records)
	_, err = s.RemoveContent(t.Context(), "notes.json")
	require.NoError(t, err)
	now, err = s.Trial(t.Context(), p.Slug)
	require.NoError(t, err)
	assert.Equal(t, []string{"there is no source notes.json"}, errorsOf(now))
}

// withHost gives a service that asks a content host, and the host.
func withHost(t *testing.T) (*service.Service, *httptest.Server) {
	t.Helper()
	c, err := standin.NewContent(demo.Collections())
	require.NoError(t, err)
	host := httptest.NewServer(c.Handler())
	t.Cleanup(host.Close)
	s := service.New(storetest.Open(t), service.Hosts{Content: host.URL}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	return s, host
}

func switched(t *testing.T, host *httptest.Server, switches string) {
	t.Helper()
	r, err := host.Client().Post(host.URL+"/switches", "application/json", strings.NewReader(switches))
	require.NoError(t, err)
	require.NoError(t, r.Body.Close())
}

func TestACollectionIsFetchedPageByPage(t *testing.T) {
	s, host := withHost(t)
	switched(t, host, `{"page": 7}`)
	v, err := s.FetchContent(t.Context(), "offers")
	require.NoError(t, err)
	require.Len(t, v.Sources, 1)
	assert.Equal(t, 45, v.Sources[0].Records, "not all pages were read")
	assert.Equal(t, "offers", v.Sources[0].Host)
	assert.True(t, v.Offers[1].Taken)

	switched(t, host, `{"fail": 2, "page": 20}`)
	_, err = s.FetchContent(t.Context(), "offers")
	require.NoError(t, err, "an answer that fails once is not asked for again")
	switched(t, host, `{"fail": 1, "page": 20}`)
	_, err = s.FetchContent(t.Context(), "offers")
	f := failure(t, err)
	assert.Equal(t, service.Unavailable, f.Kind)
	assert.Contains(t, f.Message, "content host")
	v, err = s.Content(t.Context())
	require.NoError(t, err)
	assert.NotEmpty(t, v.Trouble)
	assert.Equal(t, 45, v.Sources[0].Records, "what was read before is lost")

	switched(t, host, `{"fail": 0, "leave": ["note"]}`)
	v, err = s.FetchContent(t.Context(), "offers")
	require.NoError(t, err)
	for _, f := range v.Sources[0].Fields {
		assert.NotEqual(t, "note", f.Path)
	}
	_, err = s.FetchContent(t.Context(), "gone")
	assert.Equal(t, service.Unavailable, failure(t, err).Kind)
}

func TestARowGoesOnWithWhatThePageHas(t *testing.T) {
	s := withCard(t)
	p := page(t, s, "stack\n  \n")
	got, err := s.CompleteTrial(t.Context(), p.Slug, p.Outline, 2, "  plo")
	require.NoError(t, err)
	require.NotEmpty(t, got)
	assert.Equal(t, trial.RowCompletion{Text: "  PlotCard ", Label: "PlotCard", Detail: "1.0.0", Kind: "component", Slug: "plot-card"}, got[0])
	got, err = s.CompleteTrial(t.Context(), p.Slug, p.Outline, 2, "  PlotCard to")
	require.NoError(t, err)
	assert.Equal(t, "  PlotCard tone=", got[0].Text)
}

func TestWidthsOfAPageAreBounded(t *testing.T) {
	s := withCard(t)
	p := page(t, s, "stack\n")
	p, err := s.LookTrial(t.Context(), p.Slug, []float64{390, 1024, 390})
	require.NoError(t, err)
	assert.Equal(t, []float64{1024, 390}, p.Widths)
	for _, bad := range [][]float64{{}, {100}, {5000}, {200, 300, 400, 500, 600, 700, 800}} {
		_, err := s.LookTrial(t.Context(), p.Slug, bad)
		assert.Equal(t, service.Invalid, failure(t, err).Kind, "%v", bad)
	}
}

func TestASoleComponentIsNotTakenForAnother(t *testing.T) {
	s := withCard(t)
	p := page(t, s, "Plotcard\nstack\n  PlotCard\n")
	assert.Equal(t, []string{"there is no component Plotcard"}, errorsOf(p), "a component of another name is shown")
	assert.Equal(t, contract.ComponentName("Beds")+"Page", p.Component)
}

func TestAPageMayBeCalledAsAComponentIs(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Begin(t.Context(), "BedsPage", "blank")
	require.NoError(t, err)
	p := page(t, s, "BedsPage\n")
	require.Empty(t, errorsOf(p))
	built, err := s.BuildTrial(t.Context(), p.Slug, "", "")
	require.NoError(t, err)
	assert.Empty(t, built.Problems)
	assert.Equal(t, "BedsPageOnTrial", p.Component)
}
