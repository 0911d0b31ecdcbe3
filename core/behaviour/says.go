package behaviour

import "cobrik/core/contract"

// Said is what a machine says of a part just now.
type Said = contract.Said

// Says lists what the states of a running machine say of parts; the innermost, then the last, has the last word.
func (c *Chart) Says(cfg Config, env contract.Env) (out []Said) {
	r := c.begin(cfg, env)
	at := map[[2]string]int{}
	depth := map[[2]string]int{}
	for _, id := range cfg.Active {
		n := c.byID[id]
		for _, s := range n.Sets {
			v, err := c.expr(s.Value).value(r)
			if err != nil {
				continue
			}
			key := [2]string{s.Part, s.Name}
			one := Said{Part: s.Part, Name: s.Name, Value: v, State: id}
			i, known := at[key]
			switch {
			case !known:
				at[key], depth[key] = len(out), n.depth
				out = append(out, one)
			case n.depth >= depth[key]:
				out[i], depth[key] = one, n.depth
			}
		}
	}
	return out
}
