package react_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/evanw/esbuild/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/behaviour/behaviourtest"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// entry runs components as people's own pages do, strictly: it renders them on a server, takes that over, and keeps all that React complains of. Timers of a tenth of a second and
// more go by a clock that the test sets.
const entry = `
import { StrictMode, createElement, useState } from "react";
import { createRoot, hydrateRoot } from "react-dom/client";
import { renderToString } from "react-dom/server.browser";
import { flushSync } from "react-dom";
import * as all from "./index";

window.complaints = [];
for (const kind of ["error", "warn"]) console[kind] = (...said) => window.complaints.push(said.map(String).join(" ").slice(0, 400));
window.told = [];
const timers = new Map(); let now = 0, ids = 1e6;
const [set, clear] = [window.setTimeout.bind(window), window.clearTimeout.bind(window)];
window.setTimeout = (f, ms, ...rest) => { if (!(ms >= 100)) return set(f, ms, ...rest); timers.set(++ids, { f, due: now + ms }); return ids; };
window.clearTimeout = (id) => { timers.delete(id) || clear(id); };
window.wait = (ms) => {
  const until = now + ms;
  for (;;) {
    const next = [...timers].filter(([, t]) => t.due <= until).sort((a, b) => a[1].due - b[1].due)[0];
    if (!next) break;
    now = next[1].due; timers.delete(next[0]);
    flushSync(next[1].f);
  }
  now = until;
};
let root;
window.mount = (name, props, direction, events) => {
  root?.unmount();
  document.body.replaceChildren();
  document.documentElement.lang = "en"; document.title = name;
  const stage = document.createElement("main");
  stage.dir = direction || "ltr";
  document.body.append(stage, Object.assign(document.createElement("p"), { id: "beside", textContent: "beside" }));
  const given = { ...props };
  for (const e of events) given[e] = (...said) => window.told.push([e, ...said]);
  const page = () => createElement(StrictMode, null, createElement(Page, { name, given }));
  stage.innerHTML = renderToString(page());
  return new Promise((done) => { flushSync(() => { root = hydrateRoot(stage, page(), { onRecoverableError: (e) => window.complaints.push(String(e)) }); }); set(done, 30); });
};
window.mountAll = (name, list) => {
  root?.unmount();
  document.body.replaceChildren();
  const stage = document.createElement("main");
  document.body.append(stage);
  root = createRoot(stage);
  flushSync(() => root.render(createElement(StrictMode, null, list.map((props, i) => createElement(all[name], { key: i, ...props })))));
};
function Page({ name, given }) {
  const [props, setProps] = useState(given);
  window.give = (more) => flushSync(() => setProps((p) => ({ ...p, ...more })));
  return createElement(all[name], props);
}
window.part = (path) => path.slice(1).reduce((e, i) => e?.children[i], document.querySelector("main").children[path[0] ?? 0]);
`

// page is a browser with emitted components in it.
type browser struct {
	t   testing.TB
	ctx context.Context
}

func openComponents(t testing.TB, contracts []*contract.Contract) browser {
	t.Helper()
	return openComponentsAs(t, "development", react.Options{}, contracts)
}

func openComponentsAs(t testing.TB, mode string, o react.Options, contracts []*contract.Contract) browser {
	t.Helper()
	modules, err := filepath.Abs("../../../web")
	require.NoError(t, err)
	if _, err := os.Stat(filepath.Join(modules, "node_modules", "react-dom")); err != nil && os.Getenv("COBRIK_REFERENCES") != "required" {
		t.Skip("left out: it needs what make web installs")
	}
	files := append(react.Library("practice", contracts, output.PropertiesOf(token.Empty()), o), emit.File{Path: "entry.jsx", Content: entry})
	dir := t.TempDir()
	for _, f := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, f.Path)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, f.Path), []byte(f.Content), 0o600))
	}
	built := api.Build(api.BuildOptions{
		EntryPoints: []string{filepath.Join(dir, "entry.jsx")}, Bundle: true, Outdir: "out", Format: api.FormatIIFE, JSX: api.JSXAutomatic, NodePaths: []string{filepath.Join(modules, "node_modules")},
		Define: map[string]string{"process.env.NODE_ENV": quoted(t, mode)}, LogLevel: api.LogLevelSilent,
	})
	require.Empty(t, built.Errors)
	b := browser{t, reference.Browser(t, nil, chromedp.EmulateViewport(900, 700), chromedp.Navigate("data:text/html,<!DOCTYPE html><title>practice</title><body>"))}
	axe, err := os.ReadFile(filepath.Join(modules, "node_modules", "axe-core", "axe.min.js"))
	require.NoError(t, err)
	for _, f := range built.OutputFiles {
		switch filepath.Ext(f.Path) {
		case ".js":
			evaluate[bool](b, string(f.Contents)+"; true")
		case ".css":
			evaluate[bool](b, "document.head.append(Object.assign(document.createElement('style'), { textContent: "+quoted(t, string(f.Contents))+" })); true")
		}
	}
	evaluate[bool](b, string(axe)+"; true")
	return b
}

func quoted(t testing.TB, v any) string {
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

func evaluate[T any](b browser, script string) T {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, 20*time.Second)
	defer cancel()
	out, err := chromedp.Run(ctx, chromedp.Evaluate[T](script, chromedp.EvalAwaitPromise))
	require.NoError(b.t, err)
	return out
}

// mounted is a component on the page, with where its parts are.
type mounted struct {
	browser
	c     *contract.Contract
	paths map[string][]int
}

func (b browser) mount(c *contract.Contract, direction string) mounted {
	events := []string{}
	for _, p := range c.Props {
		if p.Kind() == contract.EventKind {
			events = append(events, p.Name)
		}
	}
	require.NoError(b.t, chromedp.Do(b.ctx, chromedp.MouseEvent("mouseMoved", 880, 680))) // away from all that comes
	evaluate[any](b, fmt.Sprintf("mount(%s, {}, %s, %s)", quoted(b.t, c.Name), quoted(b.t, direction), quoted(b.t, events)))
	return mounted{b, c, ir.Lower(c).Paths(contract.Values{})}
}

// part is the expression of a part's element.
func (m mounted) part(id string) string {
	path, there := m.paths[id]
	require.True(m.t, there, "%s has no part %s", m.c.Name, id)
	return "part(" + quoted(m.t, append([]int{0}, path...)) + ")"
}

func (m mounted) do(actions ...chromedp.Action[chromedp.Void]) {
	m.t.Helper()
	ctx, cancel := context.WithTimeout(m.ctx, 20*time.Second)
	defer cancel()
	require.NoError(m.t, chromedp.Do(ctx, actions...))
}

func (m mounted) middle(of string) (x, y float64) {
	at := evaluate[[2]float64](m.browser, "(() => { const b = "+of+".getBoundingClientRect(); return [b.x + Math.min(b.width, 60) / 2, b.y + b.height / 2] })()")
	return at[0], at[1]
}

var pressedKeys = map[string]string{"ArrowDown": kb.ArrowDown, "ArrowUp": kb.ArrowUp, "ArrowLeft": kb.ArrowLeft, "ArrowRight": kb.ArrowRight, "Home": kb.Home, "End": kb.End, "PageUp": kb.PageUp, "PageDown": kb.PageDown, "Escape": kb.Escape, "Space": " ", "Enter": kb.Enter, "x": "x"}

// happens lets a step of a practice happen, as people do it.
func (m mounted) happens(step string) {
	m.t.Helper()
	defer func() {
		evaluate[bool](m.browser, "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 0, true))))") // until effects are done, too
	}()
	word, rest, _ := strings.Cut(step, " ")
	switch word {
	case "wait":
		evaluate[bool](m.browser, "wait("+rest+"); true")
		return
	case "set":
		name, value, _ := strings.Cut(rest, " ")
		if value != "true" && value != "false" {
			value = quoted(m.t, value)
		}
		evaluate[bool](m.browser, fmt.Sprintf("give({ %s: %s }); true", name, value))
		return
	}
	switch e := behaviour.ParseEvent(step); e.Kind {
	case behaviour.Press:
		x, y := m.middle(m.part(e.Part))
		m.do(chromedp.MouseClickXY(x, y))
	case behaviour.OutsidePress:
		x, y := m.middle("document.querySelector('#beside')")
		m.do(chromedp.MouseClickXY(x, y))
	case behaviour.Key:
		if e.Part != "" {
			evaluate[bool](m.browser, m.part(e.Part)+".focus(); true")
		}
		m.do(chromedp.KeyEvent(pressedKeys[e.Name]))
	case behaviour.FocusIn:
		evaluate[bool](m.browser, m.part(e.Part)+".focus(); true")
	case behaviour.FocusOut:
		evaluate[bool](m.browser, "document.activeElement.blur(); true")
	case behaviour.PointerIn:
		x, y := m.middle(m.part(e.Part))
		m.do(chromedp.MouseEvent("mouseMoved", x, y))
	case behaviour.PointerOut:
		x, y := m.middle("document.querySelector('#beside')")
		m.do(chromedp.MouseEvent("mouseMoved", x, y))
	default:
		require.Fail(m.t, "nobody does "+step)
	}
}

// said is what the page says of a part, as a machine says it.
func (m mounted) said(part, name string) string {
	e := m.part(part)
	switch property := contract.Shares[name]; {
	case property == "left":
		return evaluate[string](m.browser, "String(Math.round(parseFloat("+e+".style.insetInlineStart) * 100) / 1e4)")
	case property != "":
		return evaluate[string](m.browser, "String(Math.round(parseFloat("+e+".style."+property+") * 100) / 1e4)")
	case name == "hidden":
		return evaluate[string](m.browser, "String("+e+".hasAttribute('hidden') && getComputedStyle("+e+").display === 'none')")
	}
	return evaluate[string](m.browser, "String("+e+".getAttribute("+quoted(m.t, name)+"))")
}

// What is emitted of each stock machine keeps to the ARIA Authoring Practices Guide (W3C, 2024) in a browser: keys, attributes and focus, step by step, rendered on a server first and
// run strictly; nothing that axe-core finds is wrong in any state, and React has nothing to complain of.
func TestEmittedComponentsFollowTheirPractice(t *testing.T) {
	var contracts []*contract.Contract
	for i, p := range behaviourtest.Practices {
		contracts = append(contracts, stocked(t, fmt.Sprint("Practice", i), p.Stock, p.Choices))
	}
	b := openComponents(t, contracts)
	checked := 0
	for i, p := range behaviourtest.Practices {
		m := b.mount(contracts[i], p.Direction)
		for _, step := range strings.Split(p.Steps, " | ") {
			event, holds, _ := strings.Cut(step, ": ")
			m.happens(event)
			for _, one := range strings.Split(holds, ", ") {
				switch attribute, value, isSet := strings.Cut(one, "="); {
				case isSet:
					part, name, _ := strings.Cut(attribute, " ")
					assert.Equal(t, value, m.said(part, name), "%s %d: %s after %s", p.Stock, i, attribute, event)
					checked++
				case strings.HasPrefix(one, "focus "):
					assert.True(t, evaluate[bool](b, "document.activeElement === "+m.part(strings.TrimPrefix(one, "focus "))), "%s %d: the focus is not at %s after %s", p.Stock, i, one, event)
					checked++
				}
			}
			found := evaluate[[]string](b, `axe.run(document.querySelector("main"), { rules: { "color-contrast": { enabled: false }, "region": { enabled: false } } }).then((r) => r.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.html.slice(0, 120)).join(" ")))`)
			assert.Empty(t, found, "%s %d, after %s", p.Stock, i, event)
		}
		complaints := evaluate[[]string](b, "complaints.splice(0)")
		assert.Empty(t, slices.DeleteFunc(complaints, func(said string) bool { return strings.Contains(said, "Download the React DevTools") }), "%s %d", p.Stock, i)
	}
	assert.Greater(t, checked, 100)
}
