package contract

// Given writes values as a use of the component gives them, by the props' names: what is
// left out has its default. Rich text, which is code in a use, is {"rich": blocks}.
func (c *Contract) Given(values Values) map[string]any { return given(c.Props, values) }

func given(props []Prop, values Values) map[string]any {
	out := map[string]any{}
	for _, p := range props {
		switch v := values[p.ID].(type) {
		case nil:
		case RichValue:
			out[p.Name] = map[string]any{"rich": v}
		case ListValue:
			items := make([]map[string]any, len(v))
			for i, item := range v {
				items[i] = given(p.Type.(List).Items, item)
			}
			out[p.Name] = items
		default:
			out[p.Name] = v
		}
	}
	return out
}
