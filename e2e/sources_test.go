package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Sources are kept in order by keyboard and pointer: a design is renamed, compared with what
// it was, kept as a file, removed with what hangs on it said, and put back; a token file is
// renamed, and one that others need stays.
func TestSourcesAreKeptInOrder(t *testing.T) {
	p := tokensApp(t)
	ctx := t.Context()
	require.NoError(t, p.app.service.PublishNext(ctx, "furrow"))
	_, err := p.app.service.Fetch(ctx)
	require.NoError(t, err)
	more := func(name, item string) {
		t.Helper()
		p.click("button", "More for "+name)
		p.click("[role=menuitem]", item)
		p.until("the menu to close", `!document.querySelector("[role=menu]")`)
	}
	p.open("/sources")
	p.sees("Revision 2")
	more("Furrow", "Rename…")
	p.axe("a source's new name")
	p.fill("[role=dialog] input", "", "Plot book")
	p.press(enter)
	p.until("its new name", `document.querySelector("main h2").textContent === "Plot book" && document.querySelector("footer").innerText.includes("Plot book revision 2")`)

	p.click("a", "Compare with 1")
	p.until("what differs", `document.querySelectorAll("tr[data-state]").length > 5`)
	p.sees("CropTag family")
	p.axe("two revisions")
	p.choose("Revision after", "1")
	p.sees("Nothing differs")
	p.open("/sources/compare")
	p.sees("Token files")

	p.open("/sources")
	p.sees("Compare with 1")
	text := evaluate[string](p, `fetch([...document.querySelectorAll("a[download]")].find((a) => a.href.endsWith("/revisions/1")).href).then(async (r) => r.headers.get("Content-Disposition") + (await r.text()).slice(0, 40))`)
	assert.Contains(t, text, "attachment; filename=furrow-1.design.json")
	assert.Contains(t, text, `"cobrik.design/1"`)

	more("Plot book", "Remove…")
	p.sees("1 component is drawn from it.")
	p.axe("what hangs on a source")
	p.click("[role=dialog] button", "Remove")
	p.sees("Put back")
	p.axe("a removed source")
	p.open("/bench/crop-tag")
	p.sees("Its design was removed and can be put back at Sources.")
	p.open("/sources")
	p.click("button", "Put back")
	p.sees("Compare with 1")

	more("dusk.tokens.json", "Rename…")
	p.fill("[role=dialog] input", "", "evening.tokens.json")
	p.press(enter)
	p.sees("evening.tokens.json")
	more("core.tokens.json", "Remove…")
	p.sees("It cannot be removed: others need it.")
	p.click("[role=dialog] button", "Cancel")

	// A drawing of one's own, replaced by another file.
	svg := func(name, width string) string {
		file := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(file, []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect id="bed" width="`+width+`" height="10" fill="#a33"/></svg>`), 0o644))
		return file
	}
	p.do(chromedp.SetUploadFiles("input[aria-label='Choose files']", []string{svg("bed.svg", "10")}))
	p.until("the drawing", `[...document.querySelectorAll("main h2")].some((h) => h.textContent === "bed")`)
	p.do(chromedp.SetUploadFiles("input[aria-label='A file in place of bed']", []string{svg("other.svg", "14")}))
	p.until("its next revision", `document.querySelector("section[aria-label=bed]").innerText.includes("Revision 2")`)
}
