package contract

// Env is the world a contract is resolved in. The zero value is the defaults in a
// room as wide as can be.
type Env struct {
	Props      Values             // by prop id; what is not given has its default
	States     []string           // those the component is in: hover, expanded …
	Kept       map[string]any     // what its behaviour keeps, by name; what is left out is as it begins
	Container  float64            // px of the container's width; 0 is wider than any rule asks
	Containers map[string]float64 // px of those of a name around it; 0 as above
	Viewport   float64            // px of the viewport's width; 0 is wider than any rule asks
	Theme      map[string]string  // choices of the resolver document: modifier to context
	Direction  string             // ltr or rtl; ltr when empty
	RootFont   float64            // px of 1rem; 0 is css.RootFontSize
}

// At gives the environment in a container of a width, px.
func (e Env) At(container float64) Env {
	e.Container = container
	return e
}

// EnvOf gives an environment of prop values and nothing else.
func EnvOf(props Values) Env { return Env{Props: props} }
