package reference

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
)

// Faces is a style sheet of the shipped fonts, without those of rarer letters.
func Faces() string {
	var b strings.Builder
	for _, f := range font.Files {
		if !strings.Contains(f.Name, "latin-ext") {
			fmt.Fprintf(&b, "@font-face{font-family:'%s';font-weight:100 900;src:url(data:font/woff2;base64,%s)}", f.Family, base64.StdEncoding.EncodeToString(f.Read()))
		}
	}
	return b.String()
}

// InChromium gives what an expression says of a page with its fonts loaded.
func InChromium[T any](t testing.TB, sheet, body, expression string) (out T) {
	OnPage(t, sheet, body, func(ctx context.Context) {
		var err error
		out, err = chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
		require.NoError(t, err)
	})
	return out
}

// starts are how often a browser is asked to start: where many do at once, one may give up before it listens.
const starts = 3

// Browser opens headless Chromium, with further options, and takes first steps in it; it ends with the test.
func Browser(t testing.TB, options []chromedp.ExecAllocatorOption, first ...chromedp.Action[chromedp.Void]) context.Context {
	t.Helper()
	ctx, stop := started(t, options, first...)
	t.Cleanup(stop)
	return ctx
}

func started(t testing.TB, options []chromedp.ExecAllocatorOption, first ...chromedp.Action[chromedp.Void]) (ctx context.Context, stop func()) {
	t.Helper()
	NeedChromium(t)
	all := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox, chromedp.DisableGPU, chromedp.Flag("disable-quic", true))
	for attempt := 1; ; attempt++ {
		allocator, end := chromedp.NewExecAllocator(context.Background(), append(all, options...)...)
		ctx, cancel := chromedp.NewContext(allocator)
		// The browser lives as long as the context of the first step: it has no time limit.
		err := chromedp.Do(ctx, first...)
		if err == nil {
			return ctx, func() { cancel(); end() }
		}
		cancel()
		end()
		if attempt == starts || !strings.Contains(err.Error(), "failed to start") {
			require.NoError(t, err)
		}
	}
}

// OnPage opens a page in headless Chromium, with its fonts loaded.
func OnPage(t testing.TB, sheet, body string, ask func(ctx context.Context)) {
	t.Helper()
	// Elements tell their role and name in the accessibility tree.
	ctx, stop := started(t, []chromedp.ExecAllocatorOption{chromedp.Flag("enable-blink-features", "ComputedAccessibilityInfo")},
		chromedp.EmulateViewport(1600, 800), chromedp.Navigate("data:text/html,<!DOCTYPE html><body>"))
	defer stop()
	quote := func(s string) string {
		text, err := json.Marshal(s)
		require.NoError(t, err)
		return string(text)
	}
	_, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`(async () => {
		document.head.append(Object.assign(document.createElement("style"), { textContent: `+quote(sheet)+` }));
		for (const f of document.fonts) await f.load();
		document.body.innerHTML = `+quote(body)+`;
		return true;
	})()`, chromedp.EvalAwaitPromise))
	require.NoError(t, err)
	ask(ctx)
}
