package css

import "strings"

// Said is a value as it is written, and what it comes to once its tokens are resolved.
type Said struct{ Text, Value string }

// Merge puts two changes of a property's value together: each piece of it (a side of a padding, the colour of a shadow) is as whoever changed it
// has it. What comes to the same is no change, however it is written. False where both changed a piece, not alike, or where the pieces do not correspond.
func Merge(property string, base, a, b Said) (string, bool) {
	p, ok := byName[property]
	if !ok {
		return "", false
	}
	var texts, values [3]List
	for i, one := range []Said{base, a, b} {
		var read bool
		if texts[i], read = p.pieces(one.Text); !read {
			return "", false
		}
		if values[i], read = p.pieces(one.Value); !read || len(values[i]) != len(texts[i]) {
			values[i] = texts[i]
		}
	}
	if len(texts[0]) != len(texts[1]) || len(texts[0]) != len(texts[2]) {
		return "", false
	}
	out := make(List, len(texts[0]))
	for i := range out {
		same := func(x, y int) bool { return Equal(texts[x][i], texts[y][i], 0) || Equal(values[x][i], values[y][i], 0) }
		switch {
		case same(1, 0), same(1, 2):
			out[i] = texts[2][i]
			if same(2, 0) {
				out[i] = texts[0][i] // as it was written
			}
		case same(2, 0):
			out[i] = texts[1][i]
		default:
			return "", false
		}
	}
	if p.sides {
		out = shorten(out)
	}
	text := out.String()
	_, err := Parse(property, text)
	return text, err == nil
}

// pieces reads a value as a list, with every side of one that has sides.
func (p *Property) pieces(text string) (List, bool) {
	v, err := Parse(p.Name, text)
	if err != nil {
		return nil, false
	}
	list, many := v.(List)
	if !many {
		list = List{v}
	}
	if p.sides {
		list = everySide(list, strings.HasSuffix(p.takes, "{1,4}"))
	}
	return list, true
}

// everySide writes out the sides that are left out (CSS Backgrounds and Borders 3, 3.1; of two: the second is as the first).
func everySide(list List, four bool) List {
	for len(list) < 2 || four && len(list) < 4 {
		list = append(list[:len(list):len(list)], list[max(0, len(list)-2)])
	}
	return list
}
