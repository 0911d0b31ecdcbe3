package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// SVG files that are dropped become icons of the library, told what was changed, and a component picks one by how it
// looks, by keyboard.
func TestIconsAreDroppedAndPicked(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/icons")
	p.sees("No icon yet")
	p.axe("No icons")
	drop := func(files string) {
		t.Helper()
		evaluate[bool](p, fmt.Sprintf(`(() => {
			const all = new DataTransfer();
			for (const [name, text] of Object.entries(%s)) all.items.add(new File([text], name));
			const e = new DragEvent("drop", { dataTransfer: all, bubbles: true, cancelable: true });
			return !window.dispatchEvent(e);
		})()`, files))
	}
	drop(`{"barrow.svg": '<svg viewBox="0 0 24 24"><title>Wheelbarrow</title><rect width="9" height="9" fill="#c33"/></svg>',
		"hose.svg": '<svg viewBox="0 0 24 24" fill="none" stroke="currentColor"><path mask="url(#m)" d="M2 2C9 22 15 2 22 22"/></svg>',
		"note.svg": '<svg viewBox="0 0 24 24"><script>alert(1)</script></svg>'}`)
	p.until("what was changed", `[...document.querySelectorAll("[aria-label='What became of the files'] li")].map((e) => e.innerText).join("|").includes("note.svg not taken")`)
	said := evaluate[string](p, `document.querySelector("[aria-label='What became of the files']").innerText`)
	assert.Contains(t, said, "its one colour, #cc3333, is the text’s")
	assert.Contains(t, said, "not as in the file: path: mask is not kept")
	assert.Contains(t, said, "note.svg not taken")
	p.until("two icons", `document.querySelectorAll("tr[data-icon]").length === 2`)
	p.axe("Icons")
	p.press(kb.Tab) // on, and around to it
	p.focusOn("input[type=search]", "")
	p.press("wheel")
	p.until("the one that is meant", `document.querySelectorAll("tr[data-icon]").length === 1`)
	p.press(kb.ArrowDown)
	p.press(enter)
	p.until("its name's field", `document.activeElement?.getAttribute("aria-label") === "Name of barrow"`)
	p.press("wheelbarrow")
	p.press(enter)
	p.until("its new name", `document.activeElement?.dataset?.icon === "wheelbarrow"`)

	// Picked on a sheet: the completion shows it.
	p.begin("ShedSign", "")
	p.goTo("parts/root name")
	p.key("i")
	p.until("a field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("mark svg wh")
	p.until("the icon offered, as it looks", `document.querySelector("[role=option] svg path")`)
	p.press(kb.Tab)
	p.until("it taken", `document.activeElement.value === "mark svg wheelbarrow"`)
	p.press(enter)
	p.until("the part", `document.querySelector("[data-cell='parts/mark shows']")?.innerText === "drawing"`)
	p.does("props new", "n", "sign icon hose wheelbarrow")
	p.set("parts/mark shows", "{sign}")
	bench, err := a.service.Bench(t.Context(), "shed-sign", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"hose", "wheelbarrow"}, bench.Props[0].Options)
	// As large as the text, and drawn.
	p.open("/bench/shed-sign")
	p.until("it measured", `document.querySelector("section[aria-label=Built] h2")?.innerText.match(/[\d.]+ × [\d.]+ px/)`)
	p.open("/icons")
	p.until("where it is shown", `document.querySelector("tr[data-icon=wheelbarrow]")?.innerText.includes("ShedSign")`)
	require.NoError(t, chromedp.Do(p.ctx, chromedp.EmulateViewport(1920, 1200)))
	p.axe("Icons, wide")
}
