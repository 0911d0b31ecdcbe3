package service_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/source/merge"
	"cobrik/gitrepo"
	"cobrik/service"
	"cobrik/store"
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

// repositoryOf is a bare repository and a developer's clone of it, with a first commit.
func repositoryOf(t *testing.T) (bare, work string) {
	t.Helper()
	bare, work = filepath.Join(t.TempDir(), "shed.git"), filepath.Join(t.TempDir(), "shed")
	git(t, t.TempDir(), "init", "-q", "--bare", "-b", "main", bare)
	git(t, t.TempDir(), "clone", "-q", bare, work)
	require.NoError(t, os.WriteFile(filepath.Join(work, "README.md"), []byte("The app.\n"), 0o644))
	git(t, work, "checkout", "-qb", "main")
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "First")
	git(t, work, "push", "-q", "origin", "main")
	return bare, work
}

// develop changes a file as a developer does, and pushes it.
func develop(t *testing.T, work, name, old, now string) {
	t.Helper()
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	text, err := os.ReadFile(filepath.Join(work, name))
	require.NoError(t, err)
	require.Contains(t, string(text), old)
	require.NoError(t, os.WriteFile(filepath.Join(work, name), []byte(strings.Replace(string(text), old, now, 1)), 0o644))
	git(t, work, "commit", "-qam", "By hand: "+name)
	git(t, work, "push", "-q", "origin", "HEAD:main")
}

func codeOf(t *testing.T, s *service.Service, slug string) *service.CodeComponent {
	t.Helper()
	view, err := s.Code(context.Background())
	require.NoError(t, err)
	for i := range view.Components {
		if view.Components[i].Slug == slug {
			return &view.Components[i]
		}
	}
	return nil
}

func keysOf(moves []service.CodeMove) (out []string) {
	for _, m := range moves {
		out = append(out, m.Key)
	}
	return out
}

// Three people change one component: the design, the code and the contract. All of it is seen, decided, written to a branch, and level again.
func TestCodeIsReadDecidedAndWritten(t *testing.T) {
	ctx := context.Background()
	s := drafted(t)
	bare, work := repositoryOf(t)
	view, err := s.SetTarget(ctx, service.TargetEdit{Path: bare, Folder: "src/components", Author: "Furrow", Email: "furrow@hollowbeck.invalid"})
	require.NoError(t, err)
	require.Empty(t, view.Problem)
	assert.Equal(t, "First", view.Commit.Message)
	require.NotNil(t, codeOf(t, s, "crop-tag"))
	assert.Equal(t, "missing", codeOf(t, s, "crop-tag").State)

	// what is not there yet is written, a commit a component
	plan, err := s.PlanWrite(ctx, service.WriteRequest{})
	require.NoError(t, err)
	require.Empty(t, plan.Blocked)
	done, err := s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Forward: true})
	require.NoError(t, err)
	assert.True(t, done.Forward)
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	assert.Equal(t, "Furrow", git(t, work, "log", "-1", "--format=%an"))
	assert.Contains(t, git(t, work, "log", "--format=%s"), "CropTag: the component is written")
	git(t, bare, "fsck", "--strict", "--no-dangling")
	code, err := s.Code(ctx)
	require.NoError(t, err)
	assert.Empty(t, code.Components, "what was just written is not level")
	assert.Positive(t, code.InStep)

	// a developer changes three things
	develop(t, work, "src/components/CropTag/CropTag.tsx", `label = "Growing",`, `label = "Sprouting",`)
	develop(t, work, "src/components/CropTag/CropTag.module.css", "display: inline-flex;", "display: inline-flex;\n  opacity: 0.9; /* softer */")
	develop(t, work, "src/components/CropTag/CropTag.tsx", "  return (", "  // told by hand\n  return (")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	tag := codeOf(t, s, "crop-tag")
	require.NotNil(t, tag, "the developer's commit is not seen")
	assert.Equal(t, "Ruth", tag.By.Author)
	require.Len(t, tag.Moves, 2, "%v", keysOf(tag.Moves))
	assert.Equal(t, 2, tag.Waiting)
	label := slices.IndexFunc(tag.Moves, func(m service.CodeMove) bool { return m.About.Property == "default" })
	softer := slices.IndexFunc(tag.Moves, func(m service.CodeMove) bool { return m.About.Property == "opacity" })
	assert.Equal(t, "src/components/CropTag/CropTag.module.css", tag.Moves[softer].At.File)

	// one is taken, one is put back
	read, err := s.Code(ctx)
	require.NoError(t, err)
	edited, err := s.DecideCode(ctx, "crop-tag", service.CodeDecision{Revision: tag.Revision, Hash: read.Hash, Take: []string{tag.Moves[label].Key}, Back: []string{tag.Moves[softer].Key}})
	require.NoError(t, err)
	assert.Equal(t, tag.Revision+1, edited.Revision)
	tag = codeOf(t, s, "crop-tag")
	require.Len(t, tag.Moves, 1)
	assert.Equal(t, "back", tag.Moves[0].Outcome)
	assert.Equal(t, 0, tag.Waiting)
	assert.Equal(t, 1, tag.ToWrite)

	// an edit of the contract meets another of the code at the same value
	_, err = s.Edit(ctx, "crop-tag", edited.Revision, []service.ValueEdit{{Part: "root", Property: "gap", Value: "7px"}})
	require.NoError(t, err)
	develop(t, work, "src/components/CropTag/CropTag.module.css", "gap: var(--space-1);", "gap: 9px;")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	tag = codeOf(t, s, "crop-tag")
	at := slices.IndexFunc(tag.Moves, func(m service.CodeMove) bool { return m.About.Property == "gap" })
	require.GreaterOrEqual(t, at, 0, "%v", keysOf(tag.Moves))
	assert.EqualValues(t, "several", tag.Moves[at].Side)
	assert.Equal(t, []string{"{space.1}", "7px", "9px"}, []string{tag.Moves[at].Base, tag.Moves[at].Contract, tag.Moves[at].Code})
	_, err = s.DecideCode(ctx, "crop-tag", service.CodeDecision{Revision: tag.Revision, Back: []string{tag.Moves[at].Key}})
	require.NoError(t, err)

	// the branch holds both, and the developer's comment
	plan, err = s.PlanWrite(ctx, service.WriteRequest{})
	require.NoError(t, err)
	choose := map[string]merge.Side{}
	for _, c := range plan.Components {
		for _, k := range c.Conflicts {
			choose[k.File+" "+k.Key] = merge.Ours
		}
	}
	done, err = s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Branch: "cobrik/level", Choose: choose})
	require.NoError(t, err)
	git(t, work, "fetch", "-q", "origin")
	css := git(t, work, "show", "origin/cobrik/level:src/components/CropTag/CropTag.module.css")
	assert.Contains(t, css, "gap: 7px;")
	assert.NotContains(t, css, "opacity: 0.9")
	tsx := git(t, work, "show", "origin/cobrik/level:src/components/CropTag/CropTag.tsx")
	assert.Contains(t, tsx, "// told by hand")
	assert.Contains(t, tsx, `"Sprouting"`)
	assert.Equal(t, git(t, bare, "rev-parse", "main"), read2(t, s).Hash, "the target's own branch is moved")

	// merged by the developer, it is level again
	git(t, work, "merge", "-q", "--ff-only", "origin/cobrik/level")
	git(t, work, "push", "-q", "origin", "HEAD:main")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	assert.Nil(t, codeOf(t, s, "crop-tag"), "it is not level: %v", codeOf(t, s, "crop-tag"))
}

// levelled is a project whose components were written to a repository, and a developer's clone of it.
func levelled(t *testing.T) (s *service.Service, bare, work string) {
	t.Helper()
	s = drafted(t)
	bare, work = repositoryOf(t)
	targeted(t, s, bare)
	plan, err := s.PlanWrite(t.Context(), service.WriteRequest{})
	require.NoError(t, err)
	_, err = s.Write(t.Context(), service.WriteRequest{Hash: plan.Hash, Forward: true})
	require.NoError(t, err)
	return s, bare, work
}

func targeted(t *testing.T, s *service.Service, repository string) {
	t.Helper()
	_, err := s.SetTarget(t.Context(), service.TargetEdit{Path: repository, Folder: "src/components", Author: "Furrow", Email: "furrow@hollowbeck.invalid"})
	require.NoError(t, err)
}

// moved gives the move of a component's code that is about a property.
func moved(t *testing.T, s *service.Service, property string) (service.CodeComponent, service.CodeMove) {
	t.Helper()
	tag := codeOf(t, s, "crop-tag")
	require.NotNil(t, tag)
	at := slices.IndexFunc(tag.Moves, func(m service.CodeMove) bool { return m.About.Property == property })
	require.GreaterOrEqual(t, at, 0, "%v", keysOf(tag.Moves))
	return *tag, tag.Moves[at]
}

const tagSheet = "src/components/CropTag/CropTag.module.css"

// A write that the program did not live to end is ended by whoever reads next: the branch comes to be, is known to be there, or is left where others moved it.
func TestAWriteThatBrokeOffIsEnded(t *testing.T) {
	ctx := t.Context()
	s, db := seededIn(t)
	_, err := s.Draft(ctx, "furrow", "crop-tag")
	require.NoError(t, err)
	bare, work := repositoryOf(t)
	targeted(t, s, bare)
	repo, err := gitrepo.Open(bare)
	require.NoError(t, err)
	head := git(t, bare, "rev-parse", "main")
	hash, err := repo.Build(head, []gitrepo.Change{{Files: map[string][]byte{"a.css": []byte(".a {}\n")}, Message: "a"}}, gitrepo.Author{Name: "Furrow", Email: "furrow@hollowbeck.invalid"}, time.Unix(0, 0))
	require.NoError(t, err)
	for _, w := range []store.TargetWrite{{Branch: "cobrik/unmoved", Hash: hash}, {Branch: "cobrik/moved", Hash: hash}, {Branch: "main", Started: head, Hash: hash}} {
		_, err := db.BeginWrite(ctx, w, []string{"crop-tag"})
		require.NoError(t, err)
	}
	require.NoError(t, repo.Move("cobrik/moved", "", hash))
	develop(t, work, "README.md", "The app.", "The other app.")
	theirs := git(t, bare, "rev-parse", "main")

	view, err := s.ReadTarget(ctx)
	require.NoError(t, err)
	states := map[string]string{}
	for _, w := range view.Writes {
		states[w.Branch] = w.State
	}
	assert.Equal(t, map[string]string{"cobrik/unmoved": "done", "cobrik/moved": "done", "main": "gone"}, states)
	assert.Equal(t, hash, git(t, bare, "rev-parse", "cobrik/unmoved"))
	assert.Equal(t, theirs, git(t, bare, "rev-parse", "main"), "what others pushed is gone")
}

// The patch is what the branch would hold: git applies it to what a developer has.
func TestThePatchIsAppliedByGit(t *testing.T) {
	ctx := t.Context()
	s, bare, work := levelled(t)
	view, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(ctx, "crop-tag", view.Revision, []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.8"}})
	require.NoError(t, err)
	before := git(t, bare, "for-each-ref")
	patch, err := s.WritePatch(ctx, service.WriteRequest{})
	require.NoError(t, err)
	assert.Equal(t, before, git(t, bare, "for-each-ref"), "a patch moved a branch")
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	file := filepath.Join(t.TempDir(), "cobrik.patch")
	require.NoError(t, os.WriteFile(file, patch.Text, 0o644))
	git(t, work, "apply", file)
	git(t, work, "commit", "-qam", "Applied")
	_, err = s.Write(ctx, service.WriteRequest{Branch: "cobrik/same"})
	require.NoError(t, err)
	assert.Equal(t, git(t, bare, "rev-parse", "cobrik/same^{tree}"), git(t, work, "rev-parse", "HEAD^{tree}"), "the patch and the branch are not the same")
}

// What was read is what is decided and written: whoever read an older commit is told so, and nothing is done.
func TestWhatMovedSinceItWasReadIsNotDecidedOrWritten(t *testing.T) {
	ctx := t.Context()
	s, bare, work := levelled(t)
	view, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(ctx, "crop-tag", view.Revision, []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.8"}})
	require.NoError(t, err)
	develop(t, work, tagSheet, "gap: var(--space-1);", "gap: 9px;")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	tag, gap := moved(t, s, "gap")
	old := read2(t, s).Hash

	develop(t, work, tagSheet, "gap: 9px;", "gap: 10px;")
	_, err = s.Write(ctx, service.WriteRequest{Hash: old, Branch: "cobrik/late"})
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "a branch was made of a commit that is no longer the newest")
	assert.Empty(t, git(t, bare, "branch", "--list", "cobrik/late"))
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	_, err = s.DecideCode(ctx, "crop-tag", service.CodeDecision{Revision: tag.Revision, Hash: old, Back: []string{gap.Key}})
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "a commit was decided that nobody read")
}

// A decision of the code wants a reason where the code may differ, is of the code's own moves, and holds while the code says what it said.
func TestADecisionOfTheCodeHoldsForWhatItWasOf(t *testing.T) {
	ctx := t.Context()
	s, _, work := levelled(t)
	view, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(ctx, "crop-tag", view.Revision, []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.8"}})
	require.NoError(t, err)
	develop(t, work, tagSheet, "gap: var(--space-1);", "gap: 9px;")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	tag, gap := moved(t, s, "gap")
	_, opacity := moved(t, s, "opacity")
	for says, d := range map[string]service.CodeDecision{
		"Say why the code may differ": {Revision: tag.Revision, Leave: []string{gap.Key}, Reason: " "},
		"The contract moved":          {Revision: tag.Revision, Back: []string{opacity.Key}},
		"no such move":                {Revision: tag.Revision, Ask: []string{"value nothing"}},
	} {
		_, err := s.DecideCode(ctx, "crop-tag", d)
		f := failure(t, err)
		assert.Equal(t, service.Invalid, f.Kind)
		assert.Contains(t, f.Message, says)
	}

	_, err = s.DecideCode(ctx, "crop-tag", service.CodeDecision{Revision: tag.Revision, Leave: []string{gap.Key}, Reason: "the shed is narrow"})
	require.NoError(t, err)
	tag, gap = moved(t, s, "gap")
	assert.Equal(t, []string{"left", "the shed is narrow"}, []string{gap.Outcome, gap.Reason})
	assert.Zero(t, tag.Waiting)
	develop(t, work, tagSheet, "gap: 9px;", "gap: 10px;")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	tag, gap = moved(t, s, "gap")
	assert.Empty(t, gap.Outcome, "what nobody decided counts as decided")
	assert.Equal(t, 1, tag.Waiting)
}

// Code that was there before the project knew of it differs by its own doing; what the contract says from then on is the contract's move.
func TestCodeThatWasThereBefore(t *testing.T) {
	ctx := t.Context()
	_, bare, work := levelled(t)
	develop(t, work, tagSheet, "gap: var(--space-1);", "gap: 9px;")
	s := drafted(t)
	targeted(t, s, bare)
	tag, gap := moved(t, s, "gap")
	assert.EqualValues(t, "code", gap.Side)
	require.Len(t, tag.Moves, 1, "%v", keysOf(tag.Moves))
	_, err := s.Edit(ctx, "crop-tag", tag.Revision, []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.8"}})
	require.NoError(t, err)
	_, gap = moved(t, s, "gap")
	_, opacity := moved(t, s, "opacity")
	assert.EqualValues(t, "code", gap.Side)
	assert.EqualValues(t, "contract", opacity.Side, "an edit of the contract is taken for the code's")
}

// Where contract and code changed one value and nobody decided it, a write waits until a side is chosen, and holds that side's.
func TestBothChangedOneThingAndASideIsChosen(t *testing.T) {
	ctx := context.Background()
	for side, gap := range map[merge.Side]string{merge.Ours: "gap: 7px;", merge.Theirs: "gap: 9px;"} {
		s, bare, work := levelled(t)
		view, err := s.Bench(ctx, "crop-tag", "")
		require.NoError(t, err)
		_, err = s.Edit(ctx, "crop-tag", view.Revision, []service.ValueEdit{{Part: "root", Property: "gap", Value: "7px"}, {Part: "root", Property: "opacity", Value: "0.8"}})
		require.NoError(t, err)
		develop(t, work, "src/components/CropTag/CropTag.module.css", "gap: var(--space-1);", "gap: 9px;")
		_, err = s.ReadTarget(ctx)
		require.NoError(t, err)

		plan, err := s.PlanWrite(ctx, service.WriteRequest{})
		require.NoError(t, err)
		require.Len(t, plan.Components, 1)
		require.Len(t, plan.Components[0].Conflicts, 1, "what both changed is not told")
		k := plan.Components[0].Conflicts[0]
		assert.Equal(t, "src/components/CropTag/CropTag.module.css", k.File, "the file is not named as in the repository")
		assert.Contains(t, k.Ours, "7px")
		assert.Contains(t, k.Theirs, "9px")
		assert.Equal(t, "1 place waits to be chosen: both sides changed the same thing.", plan.Blocked)
		_, err = s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Branch: "cobrik/unchosen"})
		assert.Equal(t, service.Invalid, failure(t, err).Kind, "a branch was written while both sides stood")
		assert.NotContains(t, git(t, bare, "branch", "--list"), "cobrik/unchosen")

		_, err = s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Branch: "cobrik/chosen", Choose: map[string]merge.Side{k.File + " " + k.Key: side}})
		require.NoError(t, err)
		css := git(t, bare, "show", "cobrik/chosen:src/components/CropTag/CropTag.module.css")
		assert.Contains(t, css, gap, "the side that was chosen is not what was written")
		assert.Contains(t, css, "opacity: 0.8;")
	}
}

// A file that components share is not written over where people changed it: what they added stays, what both say otherwise is chosen.
func TestSharedFilesThatPeopleChangedAreMerged(t *testing.T) {
	ctx := context.Background()
	s, bare, work := levelled(t)
	develop(t, work, "src/components/tokens.css", "--space-1: 4px;", "--space-1: 5px; /* roomier */\n  --shed: 3px;")
	view, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(ctx, "crop-tag", view.Revision, []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.8"}})
	require.NoError(t, err)
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)

	// nothing of the tokens is to be written: the file stays the developer's
	plan, err := s.PlanWrite(ctx, service.WriteRequest{})
	require.NoError(t, err)
	require.Empty(t, plan.Blocked)
	require.Len(t, plan.Components, 1, "what a developer wrote into the tokens would be written over")
	assert.Equal(t, "CropTag", plan.Components[0].Name)

	assert.Zero(t, read2(t, s).Shared)

	// the project's token moves, too
	_, err = s.EditTokens(ctx, number(t, s), []service.TokenEdit{{Kind: "set", Path: "space.1", Text: "6px"}, {Kind: "set", Path: "leaf.700", Text: "#123456"}})
	require.NoError(t, err)
	plan, err = s.PlanWrite(ctx, service.WriteRequest{})
	require.NoError(t, err)
	assert.Equal(t, 1, read2(t, s).Shared, "the code's tokens are old, and nobody is told")
	require.NotEmpty(t, plan.Blocked, "a token that a developer set would be written over")
	choose := map[string]merge.Side{}
	for _, c := range plan.Components {
		for _, k := range c.Conflicts {
			assert.Equal(t, "src/components/tokens.css", k.File)
			assert.Equal(t, []string{"6px", "5px"}, []string{k.Ours, k.Theirs})
			choose[k.File+" "+k.Key] = merge.Ours
		}
	}
	require.Len(t, choose, 1, "%v", choose)
	_, err = s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Branch: "cobrik/tokens", Choose: choose})
	require.NoError(t, err)
	css := git(t, bare, "show", "cobrik/tokens:src/components/tokens.css")
	assert.Contains(t, css, "--space-1: 6px;")
	assert.Contains(t, css, "--leaf-700: #123456;", "another token that moved is not written")
	assert.Contains(t, css, "--shed: 3px;", "what the developer added is gone")
}

func read2(t *testing.T, s *service.Service) service.CodeView {
	t.Helper()
	view, err := s.Code(context.Background())
	require.NoError(t, err)
	return view
}
