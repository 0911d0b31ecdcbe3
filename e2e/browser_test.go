package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"cobrik/web/reference"
)

// page is one browser window. Every step waits for the state it needs and fails
// the test, with what was on the screen, when it does not come.
type page struct {
	t   testing.TB
	ctx context.Context
	app *app
}

// patience bounds the wait for any one state.
const patience = 20 * time.Second

func openPage(t testing.TB, a *app) *page {
	t.Helper()
	ctx := reference.Browser(t, []chromedp.ExecAllocatorOption{
		chromedp.NoFirstRun, chromedp.WindowSize(1280, 800), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true),
	}, chromedp.EmulateViewport(1280, 800))
	return &page{t: t, ctx: ctx, app: a}
}

// stepTime bounds one step.
func stepTime(p *page) (context.Context, context.CancelFunc) {
	return context.WithTimeout(p.ctx, patience)
}

func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := stepTime(p)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.fail("%v", err)
	}
}

// fail ends the test and leaves a picture of the screen behind.
func (p *page) fail(format string, args ...any) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
	defer cancel()
	text, _ := chromedp.Run(ctx, chromedp.Evaluate[string](`location.href + "\n" + document.body.innerText.slice(0, 500)`))
	if picture, err := chromedp.Run(ctx, chromedp.CaptureScreenshot()); err == nil {
		name := filepath.Join(os.TempDir(), "cobrik-"+strings.ReplaceAll(p.t.Name(), "/", "-")+".png")
		if os.WriteFile(name, picture, 0o644) == nil {
			p.t.Logf("the screen: %s", name)
		}
	}
	p.t.Fatalf(format+"\non the screen:\n%s", append(args, text)...)
}

func (p *page) open(path string) {
	p.t.Helper()
	p.do(chromedp.Navigate(p.app.url + "/hollowbeck" + path))
}

func evaluate[T any](p *page, script string) T {
	p.t.Helper()
	ctx, cancel := stepTime(p)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](script, chromedp.EvalAwaitPromise))
	if err != nil {
		p.fail("%s: %v", script, err)
	}
	return v
}

// until waits for a JavaScript expression to be true. It survives navigation.
func (p *page) until(what, expression string) {
	p.t.Helper()
	deadline := time.Now().Add(patience)
	for {
		ctx, cancel := stepTime(p)
		_, err := chromedp.Run(ctx, chromedp.Poll[bool]("!!("+expression+")", chromedp.WithPollingTimeout(time.Until(deadline))))
		cancel()
		if err == nil {
			return
		}
		if time.Now().After(deadline) {
			p.fail("%s did not come: %v", what, err)
		}
	}
}

func quoted(s string) string {
	text, _ := json.Marshal(s)
	return string(text)
}

// sees waits until a text stands in the view.
func (p *page) sees(text string) {
	p.t.Helper()
	p.until(fmt.Sprintf("the text %q", text), fmt.Sprintf("document.body.innerText.includes(%s)", quoted(text)))
}

// element gives an expression for the first visible, enabled element that a
// selector matches and whose text, label or title is the name. An empty name is
// any.
func element(selector, name string) string {
	return fmt.Sprintf(`[...document.querySelectorAll(%s)].find((e) => {
		const names = [e.textContent.trim(), e.getAttribute("aria-label"), e.getAttribute("title")];
		const box = e.getBoundingClientRect();
		return (%s === "" || names.includes(%s)) && !e.disabled && box.width > 0 && getComputedStyle(e).visibility !== "hidden";
	})`, quoted(selector), quoted(name), quoted(name))
}

// click presses the pointer on an element, once it is there, still and not
// covered.
func (p *page) click(selector, name string) {
	p.t.Helper()
	target := element(selector, name)
	p.until(fmt.Sprintf("%s %q to click", selector, name), fmt.Sprintf(`(() => {
		const e = %s;
		if (!e || e.matches(":disabled")) return false; // as people wait for it
		e.scrollIntoView({ block: "nearest", inline: "nearest" });
		const b = e.getBoundingClientRect();
		const still = window.lastBox === JSON.stringify(b);
		window.lastBox = JSON.stringify(b);
		const top = document.elementFromPoint(b.x + b.width / 2, b.y + b.height / 2);
		return still && (e.contains(top) || top?.contains(e));
	})()`, target))
	at := evaluate[[2]float64](p, fmt.Sprintf("(() => { const b = %s.getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()", target))
	p.do(chromedp.MouseClickXY(at[0], at[1]))
}

// fill puts a text into an input in place of what is there.
func (p *page) fill(selector, name, text string) {
	p.t.Helper()
	p.until(selector+" to fill", element(selector, name))
	evaluate[bool](p, fmt.Sprintf("(() => { const e = %s; e.focus(); e.select(); return true })()", element(selector, name)))
	p.press(text)
}

// choose picks an option of a native list by its value; a page cannot open one by a press.
func (p *page) choose(label, value string) {
	p.t.Helper()
	list := element("select", label)
	p.until(label+" to choose "+value, fmt.Sprintf(`[...(%s?.options ?? [])].some((o) => o.value === %s)`, list, quoted(value)))
	evaluate[bool](p, fmt.Sprintf(`(() => { const e = %s; e.focus(); e.value = %s; e.dispatchEvent(new Event("change", { bubbles: true })); return true })()`, list, quoted(value)))
}

// press types keys at what has the focus.
func (p *page) press(keys string, options ...chromedp.KeyOption) {
	p.t.Helper()
	p.do(chromedp.KeyEvent(keys, options...))
}

const enter = kb.Enter

// axe runs axe-core on the view and fails on serious and critical findings.
func (p *page) axe(view string) {
	p.t.Helper()
	p.until(view+" at rest", `document.querySelector("footer [aria-live]")?.textContent === "Idle"`)
	p.accessible(view)
}

// accessible finds no serious fault of a page as it is now.
func (p *page) accessible(view string) {
	p.t.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err)
	evaluate[bool](p, string(source)+"; true")
	found := evaluate[[]string](p, `axe.run({ iframes: false }).then((r) => r.violations.filter((v) => ["serious", "critical"].includes(v.impact))
		.map((v) => v.id + ": " + v.help + " — " + v.nodes.slice(0, 4).map((n) => n.html.slice(0, 160) + " " + (n.any[0]?.message ?? "")).join(" | ")))`)
	require.Empty(p.t, found, "people who use a keyboard or a screen reader are stopped at %s", view)
}
