package main_test

import (
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// git runs the git program, as teams do.
func git(t *testing.T, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Ines", "GIT_AUTHOR_EMAIL=ines@hollowbeck.invalid", "GIT_COMMITTER_NAME=Ines", "GIT_COMMITTER_EMAIL=ines@hollowbeck.invalid", "GIT_CONFIG_NOSYSTEM=1", "HOME="+t.TempDir())
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "git %v: %s", args, out)
	return string(out)
}

// code runs a command and gives what it exits with.
func code(t *testing.T, args ...string) (stdout, stderr string, exit int) {
	t.Helper()
	var out, errs strings.Builder
	cmd := exec.Command(binary, args...)
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	var failed *exec.ExitError
	if errors.As(err, &failed) {
		return out.String(), errs.String(), failed.ExitCode()
	}
	require.NoError(t, err)
	return out.String(), errs.String(), 0
}

func writeFile(t *testing.T, dir, name, text string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
}

func replaceIn(t *testing.T, dir, name, old, now string) {
	t.Helper()
	text, err := os.ReadFile(filepath.Join(dir, name))
	require.NoError(t, err)
	require.Contains(t, string(text), old)
	writeFile(t, dir, name, strings.Replace(string(text), old, now, 1))
}

// shed is a git repository in which all sides agree.
func shed(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	for _, name := range []string{"core.tokens.json", "semantic.tokens.json"} {
		text, err := os.ReadFile(furrow + name)
		require.NoError(t, err)
		writeFile(t, dir, "tokens/"+name, string(text))
	}
	text, err := os.ReadFile(furrow + "furrow-2.design.json")
	require.NoError(t, err)
	writeFile(t, dir, "furrow.design.json", string(text))
	writeFile(t, dir, "cobrik.json", `{ "format": "cobrik.project/1", "tokens": { "files": ["tokens/core.tokens.json", "tokens/semantic.tokens.json"], "out": "build", "outputs": [{ "file": "tokens.css", "language": "css" }] },
  "contracts": ["contracts"], "designs": ["furrow.design.json"], "code": { "folder": "src" } }`)
	for _, family := range []string{"CropTag", "PlotCard"} {
		_, errs, ok := run(t, "contract", "draft", filepath.Join(dir, "furrow.design.json"), "--family", family, "--project", filepath.Join(dir, "cobrik.json"), "--out", filepath.Join(dir, "contracts"))
		require.True(t, ok, errs)
	}
	_, errs, _ := code(t, "check", "--dir", dir, "--fix")
	require.Contains(t, errs, "written: src/CropTag/CropTag.tsx")
	git(t, dir, "init", "-q", "-b", "main")
	git(t, dir, "add", "-A")
	git(t, dir, "commit", "-qm", "All agrees")
	return dir
}

func TestCheckOfARepository(t *testing.T) {
	dir := shed(t)
	check := func(args ...string) (string, string, int) {
		return code(t, append([]string{"check", "--dir", dir}, args...)...)
	}
	out, errs, exit := check("--fail-on", "error")
	require.Equal(t, 0, exit, "%s%s", out, errs)
	assert.Empty(t, git(t, dir, "status", "--porcelain"), "looking changes something")

	replaceIn(t, dir, "src/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad)", "padding-inline: 14px")
	out, _, exit = check()
	assert.Equal(t, 2, exit)
	assert.Contains(t, out, "src/PlotCard/PlotCard.module.css")
	assert.Contains(t, out, "14px in the code, {card.pad} in the contract")

	lines, _, _ := check("--format", "lines")
	assert.Regexp(t, `(?m)^src/PlotCard/PlotCard\.module\.css:\d+:\d+: error: `, lines, "an editor does not find the place")
	log, _, _ := check("--format", "sarif")
	var sarif struct {
		Version string
		Runs    []struct {
			Results []struct{ RuleID string }
		}
	}
	require.NoError(t, json.Unmarshal([]byte(log), &sarif))
	assert.Equal(t, "2.1.0", sarif.Version)
	junit, _, _ := check("--format", "junit")
	var suite struct {
		Tests    int `xml:"tests,attr"`
		Failures int `xml:"failures,attr"`
		Cases    []struct {
			Name    string    `xml:"name,attr"`
			Failure *struct{} `xml:"failure"`
		} `xml:"testcase"`
	}
	require.NoError(t, xml.Unmarshal([]byte(junit), &suite))
	assert.Equal(t, len(suite.Cases), suite.Tests)
	assert.Positive(t, suite.Failures)
	assert.Greater(t, suite.Tests, suite.Failures, "contracts that nothing is wrong with are no cases")
	text, _, _ := check("--format", "json")
	var list []map[string]any
	require.NoError(t, json.Unmarshal([]byte(text), &list))
	assert.NotEmpty(t, list)

	_, errs, _ = check("--fix")
	assert.Contains(t, errs, "written: src/PlotCard/PlotCard.module.css")
	assert.Empty(t, git(t, dir, "status", "--porcelain"), "what is mended is not as it was")

	_, errs, exit = check("--format", "nonsense")
	assert.Equal(t, 3, exit)
	assert.Contains(t, errs, "--format takes table, lines, sarif, junit, json")
	out, _, exit = code(t, "check", "--dir", t.TempDir())
	assert.Equal(t, 2, exit)
	assert.Contains(t, out, "there is no cobrik.json here")
}

func TestCheckAgainstARevision(t *testing.T) {
	dir := shed(t)
	out, _, _ := code(t, "check", "--dir", dir, "--base", "main")
	assert.Contains(t, out, "since main: no component changed")
	git(t, dir, "checkout", "-qb", "change")
	replaceIn(t, dir, "contracts/crop-tag.contract.json", `"purpose": "`, `"purpose": "Now: `)
	replaceIn(t, dir, "contracts/crop-tag.contract.json", `"props": [`, `"props": [ { "id": "extra", "name": "extra", "kind": "flag", "default": false },`)
	git(t, dir, "commit", "-qam", "An extra")
	out, _, _ = code(t, "check", "--dir", dir, "--base", "main")
	assert.Contains(t, out, "since main: minor")
	assert.Contains(t, out, "the prop extra is added")
	_, errs, exit := code(t, "check", "--dir", dir, "--base", "nowhere")
	assert.Equal(t, 3, exit)
	assert.Contains(t, errs, "there is no revision nowhere")
	_, errs, exit = code(t, "check", "--dir", func() string {
		bare := t.TempDir()
		writeFile(t, bare, "cobrik.json", `{"format":"cobrik.project/1","tokens":{}}`)
		return bare
	}(), "--base", "main")
	assert.Equal(t, 3, exit)
	assert.Contains(t, errs, "in no git repository")
}

// Nothing outside of the repository is read or written, and what is too much is said.
func TestHostileRepositories(t *testing.T) {
	outside := t.TempDir()
	writeFile(t, outside, "Secret.tsx", "export function Secret() { return <p>secret</p>; }\n")
	writeFile(t, outside, "secret.json", `{ "format": "cobrik.contract/1", "secret": "do not tell" }`)

	t.Run("links that lead out", func(t *testing.T) {
		dir := shed(t)
		require.NoError(t, os.Symlink(outside, filepath.Join(dir, "src", "linked")))
		require.NoError(t, os.Symlink(filepath.Join(outside, "Secret.tsx"), filepath.Join(dir, "src", "Secret.tsx")))
		require.NoError(t, os.Symlink(filepath.Join(outside, "secret.json"), filepath.Join(dir, "contracts", "secret.json")))
		out, errs, _ := code(t, "check", "--dir", dir)
		assert.NotContains(t, out+errs, "Secret")
		assert.NotContains(t, out+errs, "do not tell")
		require.NoError(t, os.RemoveAll(filepath.Join(dir, "build")))
		require.NoError(t, os.Symlink(outside, filepath.Join(dir, "build"))) // where tokens are written
		_, errs, exit := code(t, "check", "--dir", dir, "--fix")
		assert.NotEqual(t, 0, exit)
		assert.Contains(t, errs, "build/tokens.css is not")
		entries, err := os.ReadDir(outside)
		require.NoError(t, err)
		assert.Len(t, entries, 2, "something was written outside of the repository")
	})
	t.Run("names that lead out", func(t *testing.T) {
		dir := shed(t)
		replaceIn(t, dir, "cobrik.json", `"furrow.design.json"`, fmt.Sprintf("%q", "../"+filepath.Base(outside)+"/secret.json"))
		out, errs, exit := code(t, "check", "--dir", dir)
		assert.NotEqual(t, 0, exit)
		assert.NotContains(t, out+errs, "do not tell")
	})
	t.Run("a submodule", func(t *testing.T) {
		dir, other := shed(t), t.TempDir()
		writeFile(t, other, "Sub.tsx", "export function Sub() { return <p>sub</p>; }\n")
		git(t, other, "init", "-q", "-b", "main")
		git(t, other, "add", "-A")
		git(t, other, "commit", "-qm", "sub")
		git(t, dir, "-c", "protocol.file.allow=always", "submodule", "--quiet", "add", other, "src/sub")
		git(t, dir, "commit", "-qm", "with a submodule")
		_, _, exit := code(t, "check", "--dir", dir, "--base", "main", "--fail-on", "error")
		assert.Equal(t, 0, exit)
	})
	t.Run("bytes that are no text", func(t *testing.T) {
		dir := shed(t)
		writeFile(t, dir, "src/CropTag/CropTag.tsx", "export const \xff\xfe")
		writeFile(t, dir, "src/Nul.tsx", "\x00\x00")
		out, _, exit := code(t, "check", "--dir", dir)
		assert.Equal(t, 2, exit)
		assert.Contains(t, out, "CropTag is not read")
	})
	t.Run("names that differ by case alone", func(t *testing.T) {
		dir := shed(t)
		text, err := os.ReadFile(filepath.Join(dir, "src/CropTag/CropTag.tsx"))
		require.NoError(t, err)
		writeFile(t, dir, "src/croptag/CropTag.tsx", string(text))
		out, _, exit := code(t, "check", "--dir", dir, "--fail-on", "error")
		assert.Equal(t, 2, exit)
		assert.Contains(t, out, "differ by case alone")
	})
	t.Run("too many files", func(t *testing.T) {
		dir := shed(t)
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "src", "many"), 0o755))
		for i := range 100_000 {
			f, err := os.Create(filepath.Join(dir, "src", "many", fmt.Sprintf("f%d.ts", i)))
			require.NoError(t, err)
			require.NoError(t, f.Close())
		}
		_, errs, exit := code(t, "check", "--dir", dir)
		assert.Equal(t, 3, exit)
		assert.Contains(t, errs, "hold more than 20000 files")
	})
	t.Run("a huge file", func(t *testing.T) {
		dir := shed(t)
		f, err := os.Create(filepath.Join(dir, "src", "huge.ts"))
		require.NoError(t, err)
		require.NoError(t, f.Truncate(1<<30))
		require.NoError(t, f.Close())
		_, errs, exit := code(t, "check", "--dir", dir)
		assert.Equal(t, 3, exit)
		assert.Contains(t, errs, "src/huge.ts is larger than")
	})
}

func TestDiff(t *testing.T) {
	dir := shed(t)
	a := filepath.Join(dir, "contracts", "crop-tag.contract.json")
	text, err := os.ReadFile(a)
	require.NoError(t, err)
	b := filepath.Join(dir, "next.json")
	writeFile(t, dir, "next.json", strings.Replace(string(text), `"purpose": "`, `"purpose": "Now: `, 1))
	out, _, exit := code(t, "diff", a, b)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "CropTag: patch")
	out, _, exit = code(t, "diff", a, a)
	assert.Equal(t, 0, exit)
	assert.Contains(t, out, "CropTag: none")
	out, _, exit = code(t, "diff", furrow+"furrow-1.design.json", furrow+"furrow-2.design.json")
	assert.Equal(t, 1, exit)
	assert.NotEmpty(t, out)
	out, _, _ = code(t, "diff", furrow+"furrow-1.design.json", furrow+"furrow-2.design.json", "--json")
	assert.True(t, json.Valid([]byte(out)))
	_, errs, exit := code(t, "diff", a, furrow+"furrow-1.design.json")
	assert.Equal(t, 1, exit)
	assert.Contains(t, errs, "not of one kind")
}

// The hook that is printed keeps a commit back, and lets one pass that agrees.
func TestTheHookKeepsACommitBack(t *testing.T) {
	dir := shed(t)
	hook, _, exit := code(t, "hook", "pre-commit")
	require.Equal(t, 0, exit)
	file := filepath.Join(dir, ".git", "hooks", "pre-commit")
	require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
	require.NoError(t, os.WriteFile(file, []byte(hook), 0o755))
	commit := func() (string, error) {
		cmd := exec.Command("git", "-c", "user.name=Ines", "-c", "user.email=ines@hollowbeck.invalid", "commit", "-qam", "a change")
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "PATH="+filepath.Dir(binary)+string(os.PathListSeparator)+os.Getenv("PATH"))
		out, err := cmd.CombinedOutput()
		return string(out), err
	}
	replaceIn(t, dir, "src/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad)", "padding-inline: 14px")
	out, err := commit()
	require.Error(t, err, "a commit passes that does not agree")
	assert.Contains(t, out, "src/PlotCard/PlotCard.module.css")
	replaceIn(t, dir, "src/PlotCard/PlotCard.module.css", "padding-inline: 14px", "padding-inline: var(--card-pad) ")
	out, err = commit()
	require.NoError(t, err, out)
	step, _, _ := code(t, "hook", "ci")
	assert.Contains(t, step, "cobrik check --base")
	_, _, exit = code(t, "hook", "nonsense")
	assert.Equal(t, 1, exit)
}
