package reference

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// InChromium gives what an expression says of a page with its fonts loaded.
func InChromium[T any](t testing.TB, sheet, body, expression string) (out T) {
	OnPage(t, sheet, body, func(ctx context.Context) {
		var err error
		out, err = chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
		require.NoError(t, err)
	})
	return out
}

// OnPage opens a page in headless Chromium, with its fonts loaded.
func OnPage(t testing.TB, sheet, body string, ask func(ctx context.Context)) {
	t.Helper()
	NeedChromium(t)
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox, chromedp.DisableGPU, chromedp.Flag("disable-quic", true),
		chromedp.Flag("enable-blink-features", "ComputedAccessibilityInfo")) // elements tell their role and name in the accessibility tree
	allocator, stop := chromedp.NewExecAllocator(context.Background(), options...)
	defer stop()
	ctx, cancel := chromedp.NewContext(allocator)
	defer cancel()
	quote := func(s string) string {
		text, err := json.Marshal(s)
		require.NoError(t, err)
		return string(text)
	}
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1600, 800), chromedp.Navigate("data:text/html,<!DOCTYPE html><body>")))
	_, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`(async () => {
		document.head.append(Object.assign(document.createElement("style"), { textContent: `+quote(sheet)+` }));
		for (const f of document.fonts) await f.load();
		document.body.innerHTML = `+quote(body)+`;
		return true;
	})()`, chromedp.EvalAwaitPromise))
	require.NoError(t, err)
	ask(ctx)
}
