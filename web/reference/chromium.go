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

// started opens a browser with an empty page.
func started(t testing.TB) (ctx context.Context, stop func()) {
	t.Helper()
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox, chromedp.DisableGPU, chromedp.Flag("disable-quic", true),
		chromedp.Flag("enable-blink-features", "ComputedAccessibilityInfo")) // elements tell their role and name in the accessibility tree
	for attempt := 1; ; attempt++ {
		allocator, end := chromedp.NewExecAllocator(context.Background(), options...)
		ctx, cancel := chromedp.NewContext(allocator)
		err := chromedp.Do(ctx, chromedp.EmulateViewport(1600, 800), chromedp.Navigate("data:text/html,<!DOCTYPE html><body>"))
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
	NeedChromium(t)
	ctx, stop := started(t)
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
