package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/demo"
	"cobrik/demo/story"
	"cobrik/service"
)

// Takes the pictures of docs/screenshots; make screenshots sets the folder.
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("COBRIK_SCREENSHOTS")
	if dir == "" {
		t.Skip("COBRIK_SCREENSHOTS names no folder")
	}
	a := startApp(t)
	p := openPage(t, a)
	shoot := func(name, path, ready string) {
		if path != "" {
			p.open(path)
		}
		p.sees(ready)
		p.until("rest", `(() => {
			const idle = document.querySelector("footer [aria-live]")?.textContent === "Idle" && !document.querySelector(".mantine-Loader-root");
			window.calm = idle ? (window.calm ?? 0) + 1 : 0;
			return window.calm > 15;
		})()`)
		ctx, cancel := stepTime(p)
		defer cancel()
		picture, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), picture, 0o644))
	}
	ctx := t.Context()
	for _, subject := range []string{"design", "code"} { // the past begins with the demo's
		require.NoError(t, a.service.SetWatch(ctx, subject, 0))
	}
	names := map[string]string{"crop-tag": "CropTag", "tool-row": "ToolRow"}
	for _, family := range []string{"crop-tag", "tool-row"} {
		_, err := a.service.Draft(ctx, "furrow", family)
		require.NoError(t, err)
		p.open("/bench/" + family)
		p.until("its measurement", `document.querySelector("footer").innerText.includes("`+names[family]+`:")`)
		require.NoError(t, story.Release(ctx, a.service, family, 1, map[string]string{"crop-tag": "Small things", "tool-row": "Tool shed"}[family], "", "known"))
	}
	shoot("code", "/bench/crop-tag/code", "export function CropTag")
	_, err := a.service.Draft(ctx, "furrow", "plot-card")
	require.NoError(t, err)
	require.NoError(t, a.service.PublishNext(ctx, "furrow"))
	_, err = a.service.Fetch(ctx)
	require.NoError(t, err)
	shoot("survey", "/survey?page=open-day", "ProgrammeRow")
	shoot("sources", "/sources", "Revision 2")
	shoot("compare", "/sources/compare?document=furrow", "differences")
	shoot("tokens", "/tokens?token=tag.growing.ink", "by reference to leaf.700")
	shoot("outputs", "/tokens?show=outputs&token=card.pad", "--card-pad: var(--space-4);")
	shoot("bench", "/bench/crop-tag", "to decide")
	p.open("/bench/crop-tag?facet=contract&on=parts/root/padding-inline")
	p.until("the value", `document.activeElement?.dataset?.cell === "parts/root/padding-inline value"`)
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("{space")
	p.until("what could follow", `document.querySelector("[role=option]")`)
	p.fill("[role=combobox]", "", "{space.6}")
	p.until("pictures before and as typed", `document.querySelectorAll("[aria-label='As typed'] iframe").length === 2`)
	shoot("contract", "", "look otherwise")
	shoot("checks", "/bench/tool-row?facet=checks", "no token is")
	shoot("catalogue", "/catalogue", "Small things")
	p.open("/catalogue/crop-tag")
	p.sees("Says in a word")
	p.until("the specimen", `document.querySelector("[data-mark=dimension]")`)
	p.focusOn("[aria-label=Use] button", "strong")
	shoot("component", "", "1.0.0")
	for file, text := range demo.Icons() {
		_, err = a.service.TakeIcon(ctx, file, text)
		require.NoError(t, err)
	}
	bench, err := a.service.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = a.service.Edit(ctx, "crop-tag", bench.Revision, []service.ValueEdit{{Part: "icon", Property: "opacity", Value: "0.9"}})
	require.NoError(t, err)
	shoot("board", "/bench/crop-tag?board=1", "from 1.0.0")
	require.NoError(t, story.Code(ctx, a.service, filepath.Join(t.TempDir(), "hollowbeck-app.git")))
	require.NoError(t, story.Weeks(ctx, a.service))
	shoot("drift", "/sync/drift", "components are level")
	p.open("/sync")
	p.sees("The contract moved")
	p.click("button", "Take all from the design")
	shoot("sync", "", "minor, from")
	_, err = a.service.DraftLayers(ctx, "furrow", []string{"plots-card-15"}, "BedCard")
	require.NoError(t, err)
	p.open("/bench/bed-card?facet=layout")
	p.click("[data-part-row] td", "root")
	shoot("layout", "", "could also be read as")
	lampThatRuns(t, a)
	does, err := a.service.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	reads := func(at float64, text string) service.Happens {
		return service.Happens{At: at, Expect: &contract.Expected{Part: "label", Is: contract.TextSaid, Value: text}}
	}
	_, err = a.service.KeepScenario(t.Context(), "pump-lamp", does.Revision, "runs dry by itself", service.Instance{Happens: []service.Happens{{Event: behaviour.Event{Kind: behaviour.Press, Part: "root"}}, reads(0, "Running"), reads(9000, "Draining"), reads(13_000, "Still")}})
	require.NoError(t, err)
	p.open("/bench/pump-lamp?facet=behaviour")
	p.until("instances in time", `document.querySelectorAll("[aria-label='Time line'] [data-tone]").length === 6`)
	p.until("the drawing", `document.querySelectorAll("[data-brick]").length === 3`)
	p.until("what happens to the first", `(() => { document.querySelector("[aria-label='Time line'] [role=slider]").focus(); return true })()`)
	p.press(kb.ArrowRight, chromedp.KeyModifiers(8))
	p.press(kb.ArrowRight, chromedp.KeyModifiers(8))
	p.key("Enter")
	p.until("the press", `document.querySelector("[aria-label^='Take back']")`)
	p.press(".")
	shoot("behaviour", "", "explored whole")
	for _, file := range demo.ContentFiles {
		_, err := a.service.PutContent(ctx, file, demo.Content(file))
		require.NoError(t, err)
	}
	_, err = a.service.TakeTrials(ctx, "furrow", []string{"plots"})
	require.NoError(t, err)
	shoot("trial", "/trial/plots?row=9", "Against the drawing")
	shoot("start", "/", "Where things stand")
	p.click("button", "Dark theme")
	shoot("bench-dark", "/bench/crop-tag?all=1", "padding-inline")
}
