package behaviour

// Op is what an expression is: number, text, flag, name, call, "unary -", "unary !", or an operator between two others.
func (e *Expr) Op() string { return e.op }

// Args are the expressions it is made of.
func (e *Expr) Args() []*Expr { return e.args }

// Value is what a number, a text or a flag says.
func (e *Expr) Value() any { return e.val }

// Name is that of a name, or of what is called.
func (e *Expr) Name() string { return e.name }

// Conjuncts gives the expressions that all have to hold for one to.
func (e *Expr) Conjuncts() []*Expr {
	if e.op == "&&" {
		return append(e.args[0].Conjuncts(), e.args[1].Conjuncts()...)
	}
	return []*Expr{e}
}

// Constant tells whether an expression asks for nothing.
func (e *Expr) Constant() bool {
	if e.op == "name" || e.op == "call" && e.name == "In" {
		return false
	}
	for _, a := range e.args {
		if !a.Constant() {
			return false
		}
	}
	return true
}

// Kind tells what an expression gives: number, string or boolean, names as others have it; empty for what cannot be told.
func (e *Expr) Kind(of func(name string) string) string {
	switch e.op {
	case "number":
		return "number"
	case "text":
		return "string"
	case "flag", "&&", "||", "unary !", "==", "!=", "<", "<=", ">", ">=":
		return "boolean"
	case "name":
		return of(e.name)
	case "call":
		switch e.name {
		case "In":
			return "boolean"
		case "String":
			return "string"
		}
	case "+":
		if e.args[0].Kind(of) == "string" {
			return "string"
		}
	}
	return "number"
}
