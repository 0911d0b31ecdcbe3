package contract

// Winner gives the place of the rule that says a part's property in an environment, and -1 for
// the part's own style; false when neither says it.
func (c *Contract) Winner(part, property string, env Env) (rule int, said bool) {
	env.Props = c.Defaults().With(env.Props)
	env = c.inStates(env)
	for i := len(c.Rules) - 1; i >= 0; i-- {
		if r := c.Rules[i]; r.Part == part && r.Set[property] != "" && r.When.Holds(env) {
			return i, true
		}
	}
	p := c.Part(part)
	return -1, p != nil && p.Style[property] != ""
}

// HoldsIn tells whether a condition of the contract holds in an environment, with the states that
// flags put it in.
func (c *Contract) HoldsIn(w When, env Env) bool {
	env.Props = c.Defaults().With(env.Props)
	return w.Holds(c.inStates(env))
}
