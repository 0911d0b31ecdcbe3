package service_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/service"
)

// What runs beside the contract's code is the repository's own, at the commit that was read; what it needs and is not there is told.
func TestTheRepositorysCodeIsCompiled(t *testing.T) {
	s, _, work := levelled(t)
	develop(t, work, "src/components/CropTag/CropTag.tsx", `label = "Growing"`, `label = "Sprouting"`)
	_, err := s.ReadTarget(t.Context())
	require.NoError(t, err)
	view, err := s.Code(t.Context())
	require.NoError(t, err)
	b, err := s.BuildCode(t.Context(), "crop-tag", view.Hash)
	require.NoError(t, err)
	require.Empty(t, b.Problems)
	assert.Contains(t, b.Bundle.JS, "Sprouting")
	assert.Contains(t, b.Bundle.CSS, "--space-2:", "with the repository's tokens")
	assert.Contains(t, b.Script(), `cobrikComponent["CropTag"]`)
	own, err := s.Build(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.NotContains(t, own.Bundle.JS, "Sprouting")
	_, err = s.BuildCode(t.Context(), "crop-tag", "elsewhere")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)

	byHand(t, work, map[string]string{"CropTag/CropTag.tsx": "import clsx from \"clsx\";\n\nexport default function CropTag() {\n  return <span className={clsx(\"a\")}>Tag</span>;\n}\n"})
	_, err = s.ReadTarget(t.Context())
	require.NoError(t, err)
	b, err = s.BuildCode(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	require.True(t, b.Problems.Failed())
	assert.Contains(t, b.Problems[0].Message, "clsx")
	assert.Equal(t, 1, b.Problems[0].Line)

	byHand(t, work, map[string]string{"CropTag/CropTag.tsx": "export default function CropTag() {\n  return <span>Tag</span>;\n}\n"})
	_, err = s.ReadTarget(t.Context())
	require.NoError(t, err)
	b, err = s.BuildCode(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Empty(t, b.Problems)
	assert.Contains(t, b.Bundle.JS, "?? CropTag", "a default export is the component, too")
}

// The catalogue says of each component how the repository has it.
func TestTheListSaysWhatIsInCode(t *testing.T) {
	s, _, work := levelled(t)
	states := func() map[string][2]any {
		list, err := s.Entries(t.Context())
		require.NoError(t, err)
		out := map[string][2]any{}
		for _, e := range list {
			out[e.Slug] = [2]any{e.InCode, e.InCodeWait}
		}
		return out
	}
	assert.Equal(t, map[string][2]any{"crop-tag": {"in step", 0}, "plot-card": {"in step", 0}}, states())
	develop(t, work, "src/components/CropTag/CropTag.tsx", `label = "Growing"`, `label = "Sprouting"`)
	_, err := s.ReadTarget(t.Context())
	require.NoError(t, err)
	_, err = s.Draft(t.Context(), "furrow", "tool-row")
	require.NoError(t, err)
	now := states()
	assert.Equal(t, [2]any{"moved", 1}, now["crop-tag"])
	assert.Equal(t, [2]any{"missing", 0}, now["tool-row"])
	alone := drafted(t)
	list, err := alone.Entries(t.Context())
	require.NoError(t, err)
	assert.Empty(t, list[0].InCode, "nobody said where the code is")
}
