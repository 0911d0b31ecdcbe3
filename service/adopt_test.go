package service_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/service"
)

// byHand puts files into the repository, as a developer does.
func byHand(t *testing.T, work string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		at := filepath.Join(work, "src/components", name)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o600))
	}
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "By hand")
	git(t, work, "push", "-q", "origin", "HEAD:main")
}

const handTag = `import styles from "./CropTag.module.css";

export interface CropTagProps {
  /** What it says */
  label?: string;
  size?: "s" | "m" | "l";
  tone?: "sown" | "growing" | "ripe";
  strong?: boolean;
}

export function CropTag({ label = "Growing", size = "m", tone = "growing", strong = false }: CropTagProps) {
  return (
    <span className={[styles.root, styles[size], styles[tone], strong && styles.strong].filter(Boolean).join(" ")}>
      <span className={styles.label}>{label}</span>
    </span>
  );
}
`

const handSheet = `.root { display: inline-flex; align-items: center; padding-inline: 8px; border-radius: 4px; }
.s { padding-inline: 6px; }
.l { padding-inline: 10px; }
.label { font-weight: 500; }
`

// A component that somebody wrote becomes a contract: held against its family, with what is unsure and not read told; its code is in step from then on.
func TestAComponentOfOnesOwnIsAdopted(t *testing.T) {
	s := seeded(t, demoHost(t))
	bare, work := repositoryOf(t)
	byHand(t, work, map[string]string{"CropTag/CropTag.tsx": handTag, "CropTag/CropTag.module.css": handSheet,
		"Sign.tsx": "export function Sign({ words }: { words: string }) {\n  return <strong onClick={() => alert(words)}>{words}</strong>;\n}\n"})
	targeted(t, s, bare)
	view, err := s.Code(t.Context())
	require.NoError(t, err)
	require.Len(t, view.Unknown, 2)

	plan, err := s.PlanAdopt(t.Context(), service.AdoptRequest{Name: "CropTag"})
	require.NoError(t, err)
	require.Empty(t, plan.Wrong)
	require.NotEmpty(t, plan.Families)
	assert.Equal(t, "CropTag", plan.Families[0].Name, "the family of its name comes first")
	assert.ElementsMatch(t, []string{"label", "size", "tone", "strong"}, plan.Props)
	assert.Equal(t, 2, plan.Parts)
	assert.Equal(t, []string{"src/components/CropTag/CropTag.module.css"}, plan.Sheets)
	assert.Empty(t, plan.Moves, "without a drawing nothing is held against it")

	request := service.AdoptRequest{Name: "CropTag", Hash: view.Hash, Document: plan.Families[0].Document, Family: plan.Families[0].ID}
	plan, err = s.PlanAdopt(t.Context(), request)
	require.NoError(t, err)
	moves := strings.Join(plan.Moves, "\n")
	assert.Contains(t, moves, "root · padding-inline · size = l: 10px → {space.3}")
	assert.NotContains(t, moves, "size = m: 8px", "8px is what the drawing's token comes to")
	assert.Contains(t, moves, "part added: Icon", "the drawing has an icon")
	renamed := strings.NewReplacer("styles.label", "styles.words", ".label", ".words")
	byHand(t, work, map[string]string{"CropTag/CropTag.tsx": renamed.Replace(handTag), "CropTag/CropTag.module.css": renamed.Replace(handSheet)})
	_, err = s.ReadTarget(t.Context())
	require.NoError(t, err)
	request.Hash = ""
	plan, err = s.PlanAdopt(t.Context(), request)
	require.NoError(t, err)
	assert.NotContains(t, strings.Join(plan.Moves, "\n"), "part removed", "a part of another name is the drawing's")
	assert.NotContains(t, strings.Join(plan.Moves, "\n"), "Label", "nothing of it came or went")
	made, err := s.AdoptCode(t.Context(), request)
	require.NoError(t, err)
	assert.Equal(t, "crop-tag", made.Slug)
	c, found := syncOf(t, s, "crop-tag")
	assert.Len(t, c.Moves, len(plan.Moves), "as it was planned")
	assert.NotContains(t, found, "tone", "its options are the drawing's")
	assert.Nil(t, codeOf(t, s, "crop-tag"), "its code is in step")

	// a family that no contract can be drafted of is no dead end: it is told why, and another can be chosen
	signs, err := os.ReadFile("../demo/furrow/gate-signs.design.json")
	require.NoError(t, err)
	_, err = s.Drop(t.Context(), "gate-signs.design.json", signs)
	require.NoError(t, err)
	plan, err = s.PlanAdopt(t.Context(), service.AdoptRequest{Name: "Sign", Document: "gate-signs", Family: "gate-sign"})
	require.NoError(t, err)
	assert.NotEmpty(t, plan.Wrong)
	assert.NotEmpty(t, plan.Families)
	_, err = s.AdoptCode(t.Context(), service.AdoptRequest{Name: "Sign", Document: "gate-signs", Family: "gate-sign"})
	require.Error(t, err)

	// without a drawing, and with a handler that no contract holds
	plan, err = s.PlanAdopt(t.Context(), service.AdoptRequest{Name: "Sign"})
	require.NoError(t, err)
	require.NotEmpty(t, plan.Unread, "%+v", plan)
	assert.Equal(t, "src/components/Sign.tsx", plan.Unread[0].File)
	_, err = s.AdoptCode(t.Context(), service.AdoptRequest{Name: "Sign"})
	require.NoError(t, err)
	view, err = s.Code(t.Context())
	require.NoError(t, err)
	assert.Empty(t, view.Unknown)
	require.NotNil(t, view.Components)
	for _, one := range view.Components {
		assert.Zero(t, one.ToWrite, "nothing of it is written over: %+v", one)
	}
	_, err = s.AdoptCode(t.Context(), service.AdoptRequest{Name: "Sign"})
	assert.Contains(t, failure(t, err).Message, "no component")
	_, err = s.PlanAdopt(t.Context(), service.AdoptRequest{Name: "Sign", Hash: "elsewhere"})
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
}
