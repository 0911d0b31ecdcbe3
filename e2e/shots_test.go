package e2e

import (
	"context"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"cobrik/web/reference"
)

func js(script string) chromedp.Action[chromedp.Void] {
	return func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		_, err := chromedp.Evaluate[any]("void (" + script + ")")(ctx, t)
		return chromedp.Void{}, err
	}
}

// name|/path|keys separated by space (Enter, Down, text:abc, js:...)
func TestShots(t *testing.T) {
	url := os.Getenv("SHOT_URL")
	if url == "" {
		t.Skip()
	}
	ctx := reference.Browser(t, nil)
	w, h := int64(1280), int64(800)
	if os.Getenv("SHOT_WIDE") != "" {
		w, h = 1920, 1080
	}
	scheme := "light"
	if os.Getenv("SHOT_DARK") != "" {
		scheme = "dark"
	}
	keys := map[string]string{"Enter": kb.Enter, "Down": kb.ArrowDown, "Up": kb.ArrowUp, "Left": kb.ArrowLeft, "Right": kb.ArrowRight, "Esc": kb.Escape, "Del": kb.Delete, "Tab": kb.Tab}
	if err := chromedp.Do(ctx, chromedp.EmulateViewport(w, h), chromedp.Navigate(url), chromedp.Sleep(2*time.Second),
		js(`localStorage.setItem("mantine-color-scheme-value","`+scheme+`")`)); err != nil {
		t.Fatal(err)
	}
	for _, v := range strings.Split(os.Getenv("SHOT_VIEWS"), "\n") {
		f := strings.SplitN(strings.TrimSpace(v), "|", 3)
		if len(f) < 2 {
			continue
		}
		must := func(a ...chromedp.Action[chromedp.Void]) {
			if err := chromedp.Do(ctx, a...); err != nil {
				t.Log(err)
			}
		}
		must(chromedp.Navigate(url+f[1]), chromedp.Sleep(2500*time.Millisecond))
		if len(f) == 3 {
			for _, k := range strings.Split(f[2], " ") {
				switch {
				case k == "":
				case strings.HasPrefix(k, "text:"):
					must(chromedp.KeyEvent(strings.ReplaceAll(k[5:], "_", " ")))
				case strings.HasPrefix(k, "js:"):
					must(js(strings.ReplaceAll(k[3:], "§", " ")))
				case strings.HasPrefix(k, "wait"):
					must(chromedp.Sleep(time.Second))
				case strings.HasPrefix(k, "alt+"):
					must(chromedp.KeyEvent(keys[k[4:]], chromedp.KeyModifiers(1)))
				default:
					must(chromedp.KeyEvent(keys[k]))
				}
				must(chromedp.Sleep(150 * time.Millisecond))
			}
			must(chromedp.Sleep(1200 * time.Millisecond))
		}
		png, _ := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		os.WriteFile("/tmp/shot-"+f[0]+".png", png, 0o644)
	}
}
