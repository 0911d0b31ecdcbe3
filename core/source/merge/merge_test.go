package merge_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/source/merge"
)

const sheetBase = `.root {
  display: flex;
  padding-inline: 8px;
  color: var(--ink);
}

.label {
  font-size: 12px;
}
`

const codeBase = `import type { ComponentPropsWithRef } from "react";

import styles from "./Tag.module.css";

export type TagTone = "calm" | "loud";

export interface TagProps extends Omit<ComponentPropsWithRef<"span">, "children"> {
  /**
   * The tone of the tag.
   * @default "calm"
   */
  tone?: TagTone;
  /**
   * The text of the label.
   * @default "Growing"
   */
  label?: string;
}

const toneClass: Partial<Record<TagTone, string>> = { loud: styles.toneLoud };

/** Says a word. */
export function Tag({ tone = "calm", label = "Growing", className, ...rest }: TagProps) {
  const classes = [styles.root, toneClass[tone], className];
  return (
    <span {...rest} className={classes.filter(Boolean).join(" ")}>
      <span className={styles.label}>{label}</span>
    </span>
  );
}
`

func changed(t *testing.T, text string, pairs ...string) string {
	t.Helper()
	for i := 0; i < len(pairs); i += 2 {
		require.Contains(t, text, pairs[i])
		text = strings.Replace(text, pairs[i], pairs[i+1], 1)
	}
	return text
}

// A table of what both sides may do to one file, each held to the file that a person would want.
func TestBothSidesAreInTheMerge(t *testing.T) {
	for _, c := range []struct {
		what, file, base, ours, theirs, want string
		conflicts                            []string
	}{
		{"values of one rule", "a.css", sheetBase, changed(t, sheetBase, "padding-inline: 8px", "padding-inline: 10px"), changed(t, sheetBase, "var(--ink)", "red"),
			changed(t, sheetBase, "padding-inline: 8px", "padding-inline: 10px", "var(--ink)", "red"), nil},
		{"a comment stays, and so do spaces", "a.css", sheetBase, changed(t, sheetBase, "font-size: 12px", "font-size: 13px"), changed(t, sheetBase, "  font-size: 12px;", "    /* small */  font-size:12px ;"),
			changed(t, sheetBase, "  font-size: 12px;", "    /* small */  font-size:13px ;"), nil},
		{"both add to one rule", "a.css", sheetBase, changed(t, sheetBase, "  color", "  gap: 4px;\n  color"), changed(t, sheetBase, "  color", "  margin: 1px;\n  color"),
			changed(t, sheetBase, "  color", "  gap: 4px;\n  margin: 1px;\n  color"), nil},
		{"a rule goes, another changes", "a.css", sheetBase, changed(t, sheetBase, "\n.label {\n  font-size: 12px;\n}\n", ""), changed(t, sheetBase, "flex", "grid"),
			changed(t, sheetBase, "\n.label {\n  font-size: 12px;\n}\n", "", "flex", "grid"), nil},
		{"a rule comes at the end of each", "a.css", sheetBase, sheetBase + "\n.ours {\n  top: 0;\n}\n", sheetBase + "\n.theirs {\n  top: 1px;\n}\n",
			sheetBase + "\n.ours {\n  top: 0;\n}\n\n.theirs {\n  top: 1px;\n}\n", nil},
		{"one value, two ways", "a.css", sheetBase, changed(t, sheetBase, "8px", "10px"), changed(t, sheetBase, "8px", "12px"),
			changed(t, sheetBase, "  padding-inline: 8px;\n", "  padding-inline: <<<<<<<"), []string{".root › padding-inline"}},
		{"one value, the same way", "a.css", sheetBase, changed(t, sheetBase, "8px", "10px"), changed(t, sheetBase, "8px", "10px", "flex", "grid"), changed(t, sheetBase, "8px", "10px", "flex", "grid"), nil},
		{"one takes out what the other changes", "a.css", sheetBase, changed(t, sheetBase, "  color: var(--ink);\n", ""), changed(t, sheetBase, "var(--ink)", "red"), "", []string{".root › color"}},
		{"the last declaration has no semicolon", "a.css", ".a { top: 0 }\n", ".a { top: 0; left: 0 }\n", ".a { top: 1px }\n", ".a { top: 1px; left: 0 }\n", nil},
		{"a prop comes, an attribute comes", "Tag.tsx", codeBase, changed(t, codeBase, "  label?: string;\n", "  label?: string;\n  wide?: boolean;\n", `label = "Growing",`, `label = "Growing", wide = false,`), changed(t, codeBase, "<span {...rest}", "<span role=\"status\" {...rest}"),
			changed(t, codeBase, "  label?: string;\n", "  label?: string;\n  wide?: boolean;\n", `label = "Growing",`, `label = "Growing", wide = false,`, "<span {...rest}", "<span role=\"status\" {...rest}"), nil},
		{"an option on each side", "Tag.tsx", codeBase, changed(t, codeBase, `"calm" | "loud"`, `"calm" | "loud" | "ripe"`), changed(t, codeBase, `"calm" | "loud"`, `"shy" | "calm" | "loud"`), changed(t, codeBase, `"calm" | "loud"`, `"shy" | "calm" | "loud" | "ripe"`), nil},
		{"a default, a statement, an import", "Tag.tsx", codeBase, changed(t, codeBase, `@default "Growing"`, `@default "Ripe"`, `label = "Growing"`, `label = "Ripe"`),
			changed(t, codeBase, "\nimport styles", "\nimport { track } from \"./track\";\nimport styles", "  return (", "  // told to the shed\n  track(label);\n  return ("),
			changed(t, codeBase, `@default "Growing"`, `@default "Ripe"`, `label = "Growing"`, `label = "Ripe"`, "\nimport styles", "\nimport { track } from \"./track\";\nimport styles", "  return (", "  // told to the shed\n  track(label);\n  return ("), nil},
		{"a child beside a child", "Tag.tsx", codeBase, changed(t, codeBase, "      <span className={styles.label}>", "      <i className={styles.dot} />\n      <span className={styles.label}>"), changed(t, codeBase, "{label}</span>", "{label}</span>\n      <b>!</b>"),
			changed(t, codeBase, "      <span className={styles.label}>", "      <i className={styles.dot} />\n      <span className={styles.label}>", "{label}</span>", "{label}</span>\n      <b>!</b>"), nil},
		{"one element, two ways", "Tag.tsx", codeBase, changed(t, codeBase, "<span className={styles.label}>{label}</span>", "<b className={styles.label}>{label}</b>"), changed(t, codeBase, "<span className={styles.label}>{label}</span>", "<em className={styles.label}>{label}</em>"), "", []string{"Tag"}},
	} {
		t.Run(c.what, func(t *testing.T) {
			r := merge.Merge(c.file, []byte(c.base), []byte(c.ours), []byte(c.theirs), nil)
			keys := []string{}
			for _, k := range r.Conflicts {
				keys = append(keys, k.Key)
			}
			if c.conflicts == nil {
				assert.Empty(t, keys)
				assert.Equal(t, c.want, r.Text)
				return
			}
			require.NotEmpty(t, r.Conflicts, "what both changed is not told:\n%s", r.Text)
			assert.Contains(t, strings.Join(keys, "\n"), c.conflicts[0])
			assert.Contains(t, r.Text, "<<<<<<< contract\n")
			assert.Contains(t, r.Text, ">>>>>>> file\n")
			for side, text := range map[merge.Side]string{merge.Ours: c.ours, merge.Theirs: c.theirs} {
				choose := map[string]merge.Side{}
				for _, k := range r.Conflicts {
					choose[k.Key] = side
				}
				assert.Equal(t, text, merge.Merge(c.file, []byte(c.base), []byte(c.ours), []byte(c.theirs), choose).Text, "%s is chosen", side)
			}
		})
	}
}

func TestASideThatChangedNothingGivesWay(t *testing.T) {
	odd := changed(t, codeBase, "  return (", "\n\n   return   (") + "// the end\n"
	for _, file := range []string{"a.tsx", "a.css", "a.md"} {
		assert.Equal(t, odd, merge.Merge(file, []byte(codeBase), []byte(codeBase), []byte(odd), nil).Text)
		assert.Equal(t, odd, merge.Merge(file, []byte(codeBase), []byte(odd), []byte(codeBase), nil).Text)
		assert.Equal(t, odd, merge.Merge(file, []byte(codeBase), []byte(odd), []byte(odd), nil).Text)
	}
	r := merge.Merge("a.md", []byte("a\n"), []byte("b\n"), []byte("c\n"), nil)
	require.Len(t, r.Conflicts, 1, "a file of no syntax that is known is merged in silence")
	assert.Equal(t, "<<<<<<< contract\nb\n=======\nc\n>>>>>>> file\n", r.Text)
}

// A file that somebody left half written is not taken apart by a guess: both versions stand whole, and a side is chosen.
func TestAFileThatIsNotReadIsNotTakenApart(t *testing.T) {
	ours := changed(t, codeBase, `label = "Growing"`, `label = "Ripe"`)
	broken := changed(t, codeBase, "/** Says a word. */", "const half = ;\n/** Says two words. */")
	for _, files := range [][3]string{{codeBase, ours, broken}, {codeBase, broken, ours}, {broken, ours, codeBase}} {
		out := merge.Merge("Tag.tsx", []byte(files[0]), []byte(files[1]), []byte(files[2]), nil)
		require.Len(t, out.Conflicts, 1)
		k := out.Conflicts[0]
		assert.Equal(t, "file", k.Key)
		assert.Contains(t, k.What, "not read whole")
		assert.Equal(t, []string{files[1], files[2]}, []string{k.Ours, k.Theirs})
		out = merge.Merge("Tag.tsx", []byte(files[0]), []byte(files[1]), []byte(files[2]), map[string]merge.Side{"file": merge.Theirs})
		assert.Equal(t, files[2], out.Text)
	}
	assert.Len(t, merge.Edits("Tag.tsx", []byte(codeBase), []byte(broken)), 1)
}
