package token

import (
	"slices"
	"strings"

	"cobrik/core/color"
)

// Role says what a colour is used as, by the last words of its name or by what
// it is used for.
type Role string

const (
	TextRole   Role = "text"
	GroundRole Role = "ground"
	LineRole   Role = "line" // edges, rings, marks: what is not text (WCAG 2.2, 1.4.11)
)

var roleWords = []struct {
	role  Role
	words []string
}{
	{GroundRole, []string{"ground", "background", "surface", "bg"}},
	{TextRole, []string{"ink", "text", "label", "foreground", "quiet", "muted", "placeholder", "on"}},
	{LineRole, []string{"edge", "line", "border", "ring", "outline", "marker", "fill", "icon"}},
}

// roleOf reads a role off a name: the first word that tells, from the last name
// outward. "tag.sown.ground-strong" is a ground.
func roleOf(path string) Role {
	names := strings.Split(path, ".")
	for i := len(names) - 1; i >= max(0, len(names)-2); i-- {
		for word := range strings.FieldsFuncSeq(kebabWords(names[i]), func(r rune) bool { return r == '-' }) {
			for _, r := range roleWords {
				if slices.Contains(r.words, word) {
					return r.role
				}
			}
		}
	}
	return ""
}

func kebabWords(name string) string { return strings.TrimPrefix(CSSName(name), "--") }

// Contrast is one colour on a ground.
type Contrast struct {
	Text   string  `json:"text" doc:"Path of the text or line token"`
	Ground string  `json:"ground"`
	Ratio  float64 `json:"ratio" doc:"WCAG 2.2, 1 to 21"`
	Meant  bool    `json:"meant" doc:"Their names say that they are used together"`
	Needs  float64 `json:"needs" doc:"4.5 for text (1.4.3), 3 for what is not text (1.4.11)"`
}

// Fails tells whether a pair that is meant together has too little contrast.
func (c Contrast) Fails() bool { return c.Meant && c.Ratio < c.Needs }

// Contrasts is a set's colours for text and lines on its colours for grounds.
type Contrasts struct {
	Texts   []*Token
	Grounds []*Token
	Pairs   []Contrast // for each text, every ground in order
}

// Contrasts computes the matrix of all semantic colours whose role is known.
// used gives the roles in which contracts use a token, by path; they come
// before what its name says. Tokens that others only point at (palettes) are
// left out; so is what comes after the first 300 of either kind.
func (s *Set) Contrasts(used map[string]Role) Contrasts {
	var out Contrasts
	var roles []Role
	type painted struct {
		token *Token
		color color.Color
	}
	var grounds []painted
	for _, t := range s.list {
		if t.Type != "color" || t.Content == nil || t.Deprecated != "" {
			continue
		}
		role, ok := used[t.Path]
		if !ok {
			role = roleOf(t.Path)
		}
		switch c, _ := t.Content.Color(); role {
		case GroundRole:
			if len(grounds) < mostContrasts {
				grounds = append(grounds, painted{t, c})
				out.Grounds = append(out.Grounds, t)
			}
		case TextRole, LineRole:
			if len(out.Texts) < mostContrasts {
				out.Texts = append(out.Texts, t)
				roles = append(roles, role)
			}
		}
	}
	// A ground one can see through lies on the first that one cannot.
	for _, under := range grounds {
		if under.color.Alpha == 1 {
			for i, g := range grounds {
				if g.color.Alpha != 1 {
					grounds[i].color = g.color.Over(under.color)
				}
			}
			break
		}
	}
	for i, t := range out.Texts {
		c, _ := t.Content.Color()
		needs := color.TextAA
		if roles[i] == LineRole {
			needs = color.NonText
		}
		for _, g := range grounds {
			out.Pairs = append(out.Pairs, Contrast{Text: t.Path, Ground: g.token.Path, Ratio: color.Contrast(c, g.color),
				Meant: meant(t.Path, g.token.Path), Needs: needs})
		}
	}
	return out
}

// mostContrasts bounds the matrix, which grows with both its sides.
const mostContrasts = 300

// meant tells whether a text and a ground are used together: they stand in one
// group, or the text in a group around the ground's. Of several grounds and
// inks, those go together that share a word ("strong", "hover" is of any).
func meant(text, ground string) bool {
	tg, tn := split(text)
	gg, gn := split(ground)
	if tg != gg && !strings.HasPrefix(gg, tg+".") || strings.Contains(tn, "disabled") {
		return false
	}
	tw, gw := qualifiers(tn), qualifiers(gn)
	if len(tw) == 0 {
		return !slices.Contains(gw, "strong")
	}
	for _, w := range tw {
		if !slices.Contains(gw, w) {
			return !slices.Contains([]string{"strong", "inverse"}, w)
		}
	}
	return true
}

// qualifiers are a name's words that do not tell the role.
func qualifiers(name string) []string {
	var out []string
	for word := range strings.FieldsFuncSeq(kebabWords(name), func(r rune) bool { return r == '-' }) {
		if roleOf(word) == "" {
			out = append(out, word)
		}
	}
	return out
}
