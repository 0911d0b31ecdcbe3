package e2e

import (
	"context"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/server"
	"cobrik/service"
)

// tampered puts a line in front of the component's return statement.
func tampered(line string, last *service.Built) builds {
	return altered("  return (\n", "  "+line+"\n  return (\n", last)
}

// altered replaces some of the code of components.
func altered(old, by string, last *service.Built) builds {
	var mu sync.Mutex
	return func(s *service.Service) server.Builder {
		return func(ctx context.Context, _, slug string, _ service.Wanted) (service.Built, error) {
			b, err := s.Build(ctx, slug)
			var files []emit.File
			for _, f := range b.Files {
				if strings.HasSuffix(f.Path, ".tsx") && !strings.HasPrefix(f.Path, "icons/") {
					f.Content = strings.Replace(f.Content, old, by, 1)
				}
				files = append(files, f)
			}
			b.Files = files
			b.Bundle, b.Problems = compile.React(files)
			mu.Lock()
			defer mu.Unlock()
			*last = b
			return b, err
		}
	}
}

func openTampered(t *testing.T, line string) (*page, *service.Built) {
	t.Helper()
	var last service.Built
	a := startApp(t, tampered(line, &last))
	_, err := a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/bench")
	p.sees("CropTag")
	evaluate[bool](p, `(() => { window.addEventListener("message", (e) => { if (e.data.kind === "failed") window.failure = e.data }); return true })()`)
	p.click("main a", "")
	p.until("the bench", `location.pathname === "/hollowbeck/bench/crop-tag"`)
	return p, &last
}

func TestAnErrorIsShownInItsLaneWithItsLine(t *testing.T) {
	p, built := openTampered(t, `if (tone === "ripe") throw new Error("frost in the bed");`)
	p.sees("The component does not run.")
	p.sees("Error: frost in the bed")
	p.until("the page to go on", `document.querySelector("section[aria-label=Ledger]") && document.querySelector("section[aria-label=Design] svg")`)
	p.sees("the built side is not measured")
	p.axe("Bench, with an error")
	stack := evaluate[string](p, "window.failure.stack")
	at, err := built.Trace(stack)
	require.NoError(t, err)
	assert.Equal(t, "CropTag.tsx", at.File, stack)
	assert.Equal(t, `if (tone === "ripe") throw new Error("frost in the bed");`, at.Source, "the line named is another one")
}

// What runs in the preview is code from a design: it must not reach the API,
// the application's page, its cookies or its storage.
func TestWhatRunsInThePreviewReachesNothing(t *testing.T) {
	p, _ := openTampered(t, strings.ReplaceAll(`
		const reached: string[] = [];
		const attempt = (name: string, act: () => unknown) => { try { act(); reached.push(name); } catch {} };
		attempt("the page", () => window.parent.document.body);
		attempt("cookies", () => document.cookie);
		attempt("storage", () => window.localStorage.length);
		attempt("the address", () => window.top!.location.href);
		attempt("evaluation", () => new Function("return 1")());
		void Promise.allSettled([fetch(document.referrer + "/api/projects/hollowbeck/project"), fetch("APP/api/projects/hollowbeck/project"), fetch("/runtime/runner.js"), import(["data:text/javascript", "1"].join())]).then((all) => {
			reached.push(...all.flatMap((one, i) => (one.status === "fulfilled" ? ["request " + i] : [])));
			throw new Error("reached: [" + reached.join(", ") + "]");
		});`, "\n", " "))
	p.sees("reached: [")
	said := evaluate[string](p, "window.failure.message")
	assert.Equal(t, "Error: reached: []", said)
}
