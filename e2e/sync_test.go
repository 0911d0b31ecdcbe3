package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/service"
)

// git runs the git program, as a developer does.
func git(t *testing.T, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Ruth", "GIT_AUTHOR_EMAIL=ruth@hollowbeck.invalid", "GIT_COMMITTER_NAME=Ruth", "GIT_COMMITTER_EMAIL=ruth@hollowbeck.invalid", "GIT_CONFIG_NOSYSTEM=1", "HOME="+t.TempDir())
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "git %v: %s", args, out)
	return strings.TrimSpace(string(out))
}

// withCode gives the application a repository that its one component is written to, and a developer's clone of it.
func withCode(t *testing.T, a *app) (work string) {
	t.Helper()
	bare, work := filepath.Join(t.TempDir(), "shed.git"), filepath.Join(t.TempDir(), "shed")
	git(t, t.TempDir(), "init", "-q", "--bare", "-b", "main", bare)
	git(t, t.TempDir(), "clone", "-q", bare, work)
	require.NoError(t, os.WriteFile(filepath.Join(work, "README.md"), []byte("The app.\n"), 0o600))
	git(t, work, "checkout", "-qb", "main")
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "First")
	git(t, work, "push", "-q", "origin", "main")
	ctx := t.Context()
	_, err := a.service.Draft(ctx, "furrow", "crop-tag")
	require.NoError(t, err)
	_, err = a.service.SetTarget(ctx, service.TargetEdit{Path: bare, Folder: "src/components", Tokens: "tokens", Author: "Furrow", Email: "furrow@hollowbeck.invalid"})
	require.NoError(t, err)
	plan, err := a.service.PlanWrite(ctx, service.WriteRequest{})
	require.NoError(t, err)
	_, err = a.service.Write(ctx, service.WriteRequest{Hash: plan.Hash, Forward: true})
	require.NoError(t, err)
	return work
}

// edited changes a file as a developer does, and pushes it.
func edited(t *testing.T, work, name, old, now string) {
	t.Helper()
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	at := filepath.Join(work, name)
	text, err := os.ReadFile(at)
	require.NoError(t, err)
	require.Contains(t, string(text), old)
	require.NoError(t, os.WriteFile(at, []byte(strings.Replace(string(text), old, now, 1)), 0o600))
	git(t, work, "commit", "-qam", "By hand: "+name)
	git(t, work, "push", "-q", "origin", "HEAD:main")
}

// decides presses a key at the code's move of the default until it stands: what was decided before may still be read, and takes it away.
func decides(p *page, key, label string) {
	p.t.Helper()
	p.until(label+" to be chosen", `(() => {
		const row = [...document.querySelectorAll("#code-crop-tag tr[data-move]")].find((r) => r.innerText.includes("default"));
		const chosen = [...(row?.querySelectorAll("button[aria-pressed=true]") ?? [])].some((b) => b.textContent === "`+label+`");
		if (row && !chosen) row.dispatchEvent(new KeyboardEvent("keydown", { key: "`+key+`", bubbles: true }));
		return chosen;
	})()`)
}

// Three people move one component: the designer draws a revision, a developer commits, somebody edits the contract. It is seen, decided, written to the repository,
// and level again.
func TestThreePeopleMoveOneComponent(t *testing.T) {
	a := startApp(t)
	work := withCode(t, a)
	p := openPage(t, a)
	ctx := t.Context()
	p.do(chromedp.Navigate(a.url + "/hollowbeck/sync"))
	p.sees("Nothing has moved")
	p.axe("Sync, level")

	// The repository is asked by itself, and the line follows in a window that only looks.
	require.NoError(t, a.service.SetWatch(ctx, "code", 5))
	edited(t, work, "src/components/CropTag/CropTag.tsx", `label = "Growing"`, `label = "Sprouting"`)
	edited(t, work, "tokens/core.tokens.json", `"slow": { "$value": { "value": 420`, `"slow": { "$value": { "value": 480`)
	p.sees("Sprouting")
	p.sees("motion.time.slow")
	p.until("the line to follow", `document.querySelector("nav a[href$='/sync']").innerText.includes("2")`)
	require.NoError(t, a.service.SetWatch(ctx, "code", 0))

	require.NoError(t, a.service.PublishNext(ctx, "furrow"))
	_, err := a.service.Fetch(ctx)
	require.NoError(t, err)
	p.sees("Taken whole, this breaks:")
	bench, err := a.service.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = a.service.Edit(ctx, "crop-tag", bench.Revision, []service.ValueEdit{{Part: "root", Property: "border-radius", Value: "{radius.round}"}})
	require.NoError(t, err)
	p.sees("The contract moved")
	p.axe("Sync, with moves of all")
	p.until("the repository's own code to run", `(() => {
		const frame = document.querySelector("#code-crop-tag iframe[title$='of repository']");
		return frame && frame.style.width !== "" && parseFloat(frame.style.width) > 20 && !document.querySelector("#code-crop-tag").innerText.includes("does not show");
	})()`)

	// Who wins is said once; what it decides is shown, and carried out.
	p.click("button", "Who wins…")
	p.choose("Who wins in space", "design")
	p.sees("1 move of CropTag")
	p.axe("Who wins")
	p.click("button", "Say so")
	p.sees("space: the design wins")
	p.press(kb.Escape)
	p.click("button", "Carry out 1…")
	p.sees("on 4 pages of the design:")
	p.click("button", "Decide 1 move")
	p.until("nothing left to carry out", `![...document.querySelectorAll("button")].some((b) => b.textContent.startsWith("Carry out"))`)

	// By cause: one token explains two facts.
	p.click("nav a", "By cause")
	p.sees("explains 2 moves of CropTag")
	p.axe("Sync by cause")
	p.click("[aria-label='The design moved'] button", "Keep all")
	p.fill("[aria-label=Decide] input", "", "Not before the summer.")
	p.click("button", "Decide 3 moves")
	p.until("the design's moves to be decided", `!document.querySelector("[aria-label=Decide]")`)

	// By component, with keys: the contract's own move is asked of the designer, the code's is taken.
	p.click("nav a", "By component")
	p.until("the contract's move", `[...document.querySelectorAll("tr[data-move]")].some((r) => r.innerText.includes("border-radius"))`)
	p.until("what was kept", `[...document.querySelectorAll("#crop-tag button[aria-pressed=true]")].filter((b) => b.textContent === "Kept").length === 3`)
	p.axe("Sync, decided in part")
	evaluate[bool](p, `([...document.querySelectorAll("#crop-tag tr[data-move]")].find((r) => r.innerText.includes("border-radius")).focus(), true)`)
	p.press("d")
	p.click("#crop-tag button", "Confirm")
	p.until("the designer to be asked", `[...document.querySelectorAll("button[aria-pressed=true]")].some((b) => b.textContent === "Asked")`)
	decides(p, "t", "Take code")
	p.sees("1 taken into the contract")
	p.click("#code-crop-tag button", "Confirm")
	p.until("the code's move to be taken", `![...document.querySelectorAll("#code-crop-tag tr[data-move]")].some((r) => r.innerText.includes("default"))`)
	p.click("#code-tokens button", "Put back")
	p.click("#code-tokens button", "Confirm")
	p.until("the token to be put back", `document.querySelector("#code-tokens button[aria-pressed=true]")?.textContent === "Put back" && !document.querySelector("#code-tokens [class*=confirm]")`)

	// What was decided is found, and undone.
	p.click("nav a", "Decided")
	p.sees("Not before the summer.")
	p.axe("What was decided")
	p.fill("[aria-label='Find in what was decided']", "", "sprouting taken")
	p.until("the one that is looked for", `document.querySelectorAll("[class*=rulings] > li").length === 1`)
	p.click("button", "Undo")
	p.sees("undone")
	code, err := a.service.Code(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, code.Components)
	assert.Positive(t, code.Components[0].Waiting, "undone, it waits again")

	// It is put back instead, and all is written.
	p.click("nav a", "By component")
	decides(p, "b", "Put back")
	p.click("#code-crop-tag button", "Confirm")
	p.until("what is written", `document.querySelector("[aria-label=Branch]")?.innerText.includes("CropTag: 4 facts in step") && document.querySelector("[aria-label=Branch]").innerText.includes("Tokens: 1 change in step")`)
	p.click("[aria-label=Branch] input[type=checkbox]", "")
	p.until("the branch to follow", `document.querySelector("[aria-label=Branch] input[type=checkbox]").checked`)
	p.click("[aria-label=Branch] button", "Write")
	p.until("the code to be level", `!document.querySelector("#code-crop-tag") && !document.querySelector("#code-tokens") && !document.querySelector("[aria-label=Branch]")`)
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	text, err := os.ReadFile(filepath.Join(work, "src/components/CropTag/CropTag.tsx"))
	require.NoError(t, err)
	assert.Contains(t, string(text), `label = "Growing"`)
	sheet, err := os.ReadFile(filepath.Join(work, "src/components/CropTag/CropTag.module.css"))
	require.NoError(t, err)
	assert.Contains(t, string(sheet), "border-radius: var(--radius-round)", "the edit of the contract is written, too")
	tokens, err := os.ReadFile(filepath.Join(work, "tokens/core.tokens.json"))
	require.NoError(t, err)
	assert.Contains(t, string(tokens), `"slow": { "$value": { "value": 420`)
	left, err := a.service.Sync(ctx)
	require.NoError(t, err)
	for _, c := range left {
		assert.Zero(t, c.Waiting, c.Name)
	}

	// How it went, from day to day.
	p.click("nav a", "Over time")
	p.sees("1 of 1 component is level")
	p.until("the plot", `document.querySelector("img[alt^='Moves that wait']")?.naturalWidth > 0`)
	p.axe("Sync over time")
}
