package catalogue

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// StepKind names what a use has to follow.
type StepKind string

const (
	ComponentRenamed StepKind = "component renamed"
	PropRenamed      StepKind = "prop renamed"
	PropRemoved      StepKind = "prop removed"
	PropRetyped      StepKind = "prop retyped" // it takes other values
	PropRequired     StepKind = "prop required"
	OptionRenamed    StepKind = "option renamed"
	OptionRemoved    StepKind = "option removed"
	DefaultChanged   StepKind = "default changed"
	ElementRemoved   StepKind = "element removed" // a use can no longer make such an element of it
	PropsApart       StepKind = "props apart"     // two can no longer be given together
)

// MigrationStep is one thing that who uses a component changes in their code, to go from one version to a later one.
type MigrationStep struct {
	Kind       StepKind `json:"kind"`
	What       string   `json:"what"`            // a sentence
	Before     string   `json:"before"`          // a use as it was; empty for any
	After      string   `json:"after"`           // what is written instead; empty where people have to choose
	Mechanical bool     `json:"mechanical"`      // nothing is lost or chosen: a program can do it
	Prop       string   `json:"prop,omitempty"`  // its name in the older version
	Value      string   `json:"value,omitempty"` // of an option or an element, as it was
	To         string   `json:"to,omitempty"`    // the name or the option that takes its place
	Given      any      `json:"given,omitempty"` // of a default: what a use says to stay as it was; of an element: whether it was the one without a word
}

// Migration lists what users of a component change in their code from an older version to a later one, in the order in
// which it is done.
func Migration(old, now *contract.Contract) []MigrationStep {
	m := migration{old: old, now: now}
	for i := range old.Props {
		m.prop(&old.Props[i])
	}
	for _, p := range now.Props {
		if p.Required && old.Prop(p.ID) == nil {
			m.required(p.Name)
		}
	}
	may := append([]string{now.Root.Element}, now.Root.As...)
	for _, element := range append(slices.Clone(old.Root.As), old.Root.Element) {
		if len(old.Root.As) > 0 && !slices.Contains(may, element) {
			m.add(MigrationStep{Kind: ElementRemoved, Value: element, Given: element == old.Root.Element, What: fmt.Sprintf("It is no longer a %s; it is one of %s.", element, strings.Join(may, ", ")), Before: m.use(old.Name, fmt.Sprintf("as=%q", element))})
		}
	}
	for _, p := range now.Props {
		for _, id := range now.ApartFrom(p.ID) {
			if p.ID < id && old.Prop(p.ID) != nil && old.Prop(id) != nil && !slices.Contains(old.ApartFrom(p.ID), id) {
				m.add(MigrationStep{Kind: PropsApart, Prop: old.Prop(p.ID).Name, Value: old.Prop(id).Name, What: fmt.Sprintf("Give %s or %s, not both.", p.Name, now.Prop(id).Name)})
			}
		}
	}
	if old.Name != now.Name {
		m.add(MigrationStep{Kind: ComponentRenamed, To: now.Name, Mechanical: true, What: fmt.Sprintf("%s is called %s.", old.Name, now.Name), Before: m.use(old.Name), After: m.use(now.Name)})
	}
	return m.steps
}

type migration struct {
	old, now *contract.Contract
	steps    []MigrationStep
}

func (m *migration) add(s MigrationStep) { m.steps = append(m.steps, s) }

// use writes a use of a component of a name.
func (m *migration) use(name string, attributes ...string) string {
	return "<" + strings.Join(append([]string{name}, attributes...), " ") + " />"
}

// Attribute writes what a use gives a prop, as JSX has it.
func Attribute(name string, given any) string {
	switch given := given.(type) {
	case bool:
		if given {
			return name
		}
	case string:
		if !strings.ContainsAny(given, "\"\\{}<>&\n") {
			return fmt.Sprintf("%s=%q", name, given)
		}
	}
	return fmt.Sprintf("%s={%s}", name, literal(given))
}

func (m *migration) prop(p *contract.Prop) {
	q := m.now.Prop(p.ID)
	if q == nil {
		what := fmt.Sprintf("%s is gone; leave it out.", p.Name)
		if p.Deprecated != "" {
			what = fmt.Sprintf("%s is gone: %s", p.Name, p.Deprecated)
		}
		m.add(MigrationStep{Kind: PropRemoved, Prop: p.Name, What: what, Before: m.sample(p), After: m.use(m.old.Name)})
		return
	}
	if q.Kind() != p.Kind() {
		m.add(MigrationStep{Kind: PropRetyped, Prop: p.Name, To: q.Name, What: fmt.Sprintf("%s is a %s instead of a %s: it takes %s.", q.Name, q.Kind(), p.Kind(), q.Type.TypeScript()), Before: m.sample(p)})
		return
	}
	if q.Required && !p.Required {
		m.required(p.Name)
	}
	switch was := p.Type.(type) {
	case contract.Choice:
		m.options(p, was.Options, q.Type.(contract.Choice).Options)
	case contract.Icon:
		m.options(p, was.Names(), q.Type.(contract.Icon).Names())
	case contract.Text, contract.Rich, contract.Image, contract.Link, contract.Flag:
	default:
		if slices.ContainsFunc(q.Changes(q.Name, *p), func(c contract.Change) bool { return c.Level == contract.Major }) && p.Kind() != contract.NumberKind || narrower(p, q) {
			m.add(MigrationStep{Kind: PropRetyped, Prop: p.Name, To: q.Name, What: fmt.Sprintf("%s takes other values than before: %s.", q.Name, told(q.Changes(q.Name, *p)))})
		}
	}
	m.initial(p, q)
	if q.Name != p.Name {
		s := MigrationStep{Kind: PropRenamed, Prop: p.Name, To: q.Name, Mechanical: true, What: fmt.Sprintf("%s is called %s.", p.Name, q.Name), Before: m.sample(p)}
		renamed := *p
		renamed.Name = q.Name
		s.After = m.sample(&renamed)
		m.add(s)
	}
}

// narrower tells whether a number takes less than it did.
func narrower(p, q *contract.Prop) bool {
	n, ok := p.Type.(contract.Number)
	if !ok {
		return false
	}
	now := q.Type.(contract.Number)
	now.Initial = n.Initial // told by itself
	return slices.ContainsFunc(now.Changes(q.Name, n), func(c contract.Change) bool { return c.Level == contract.Major })
}

func told(changes []contract.Change) string {
	var out []string
	for _, c := range changes {
		if c.Level == contract.Major {
			out = append(out, c.Text)
		}
	}
	return strings.Join(out, "; ")
}

func (m *migration) required(name string) {
	m.add(MigrationStep{Kind: PropRequired, Prop: name, What: fmt.Sprintf("Every use has to give %s.", name), Before: m.use(m.old.Name)})
}

// sample writes a use that gives a prop.
func (m *migration) sample(p *contract.Prop) string {
	for _, v := range p.Samples() {
		if v == nil || p.Kind() == contract.ListKind || p.Kind() == contract.RichKind || p.Kind() == contract.ImageKind {
			break
		}
		if v != contract.FlagValue(false) {
			return m.use(m.old.Name, Attribute(p.Name, given(v)))
		}
	}
	return m.use(m.old.Name, p.Name+"={…}")
}

// given is a value as a use gives it.
func given(v contract.Value) any {
	switch v := v.(type) {
	case contract.FlagValue:
		return bool(v)
	case contract.NumberValue:
		return float64(v)
	case nil:
		return nil
	}
	return v.String()
}

// options tells of options that are gone; one whose rules another has taken over, word for word, is called otherwise.
func (m *migration) options(p *contract.Prop, was, is []string) {
	var fresh []string
	for _, o := range is {
		if !slices.Contains(was, o) {
			fresh = append(fresh, o)
		}
	}
	for _, o := range was {
		if slices.Contains(is, o) {
			continue
		}
		step := MigrationStep{Kind: OptionRemoved, Prop: p.Name, Value: o, Before: m.use(m.old.Name, Attribute(p.Name, o))}
		step.What = fmt.Sprintf("%s no longer takes %s; it takes %s.", p.Name, o, strings.Join(is, ", "))
		if to := m.sameOption(p, o, fresh); to != "" {
			step = MigrationStep{Kind: OptionRenamed, Prop: p.Name, Value: o, To: to, Mechanical: true, What: fmt.Sprintf("The option %s of %s is called %s.", o, p.Name, to),
				Before: step.Before, After: m.use(m.old.Name, Attribute(p.Name, to))}
		}
		m.add(step)
	}
}

// sameOption finds the new option that does what one that is gone did; empty for none, or where several do.
func (m *migration) sameOption(p *contract.Prop, gone string, fresh []string) string {
	did := effects(m.old, p, gone)
	var same []string
	for _, o := range fresh {
		if is := effects(m.now, m.now.Prop(p.ID), o); did != "" && is == did {
			same = append(same, o)
		}
	}
	if len(same) != 1 {
		return ""
	}
	return same[0]
}

// effects writes all that a contract says under an option, the option's own name aside; of an icon, how it is drawn.
func effects(c *contract.Contract, p *contract.Prop, option string) string {
	if icon, ok := p.Type.(contract.Icon); ok {
		if v := icon.Named(option); v != nil {
			return fmt.Sprint(*v)
		}
		return ""
	}
	is := contract.OptionValue(option)
	var out []string
	for _, site := range c.ValueSites() {
		if site.When.Prop(p.ID) == is {
			out = append(out, fmt.Sprintf("%s %s %s: %s", site.Part, site.When.WithoutProp(p.ID).Key(), site.Property, site.Value))
		}
	}
	if p.Default() == is {
		out = append(out, "default")
	}
	c.Walk(func(part, _ *contract.Part) {
		if part.ShownWhen.Prop(p.ID) == is {
			out = append(out, part.ID+" shown "+part.ShownWhen.WithoutProp(p.ID).Key())
		}
	})
	slices.Sort(out)
	return strings.Join(out, "\n")
}

// initial tells what a use says to stay as it was, when another default is given where it says nothing. Texts are told as
// such: what a use does not say is not its own.
func (m *migration) initial(p, q *contract.Prop) {
	was, is := p.Default(), q.Default()
	if p.Kind() == contract.TextKind || p.Kind() == contract.RichKind || q.Required || contract.Equal(was, is) || was == nil {
		return
	}
	if to := m.renamedTo(p.Name, was.String()); to != "" {
		if to == is.String() {
			return // the default got another name
		}
		was = contract.OptionValue(to)
	} else if !q.Type.Takes(was) {
		return // it was told of as such
	}
	m.add(MigrationStep{Kind: DefaultChanged, Prop: p.Name, To: q.Name, Given: given(was), Mechanical: true, What: fmt.Sprintf("%s is %s where a use does not say it, and was %s.", q.Name, saidOr(is), was),
		Before: m.use(m.old.Name), After: m.use(m.old.Name, Attribute(q.Name, given(was)))})
}

func saidOr(v contract.Value) string {
	if v == nil {
		return "none"
	}
	return v.String()
}

func (m *migration) renamedTo(prop, option string) string {
	for _, s := range m.steps {
		if s.Kind == OptionRenamed && s.Prop == prop && s.Value == option {
			return s.To
		}
	}
	return ""
}
