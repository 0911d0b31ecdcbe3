package source

import (
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// Said tells a move in a sentence: what it is about, and what each side says.
func (m Move) Said() string {
	where, when := m.place()
	switch m.Kind {
	case PropAdded, PropRemoved:
		if m.Contract == "" {
			return "the code has " + where + ", the contract has not"
		}
		return "the contract has " + where + ", the code has not"
	case OptionAdded, OptionRemoved:
		option := strings.TrimPrefix(m.About.Property, optionOf)
		if m.Contract == "" {
			return "the code has the option " + option + " of " + where + ", the contract has not"
		}
		return "the contract has the option " + option + " of " + where + ", the code has not"
	case OptionRenamed:
		return "the option " + m.Contract + " of " + where + " is " + m.Code + " in the code"
	case PropRenamed:
		return "the prop " + m.Contract + " is " + m.Code + " in the code"
	case PropRetyped:
		return where + " is of the type " + m.Code + " in the code, " + m.Contract + " in the contract"
	case PartAdded, PartRemoved:
		if m.Contract == "" {
			return "the code has the part " + where + " " + m.Code + ", the contract has not"
		}
		return "the contract has the part " + where + " " + m.Contract + ", the code has not"
	case PartMoved:
		return "the part " + where + " is " + m.Code + " in the code, " + m.Contract + " in the contract"
	case PartRenamed:
		return "the class of " + where + " is " + orNothing(m.Code) + " in the code, " + orNothing(m.Contract) + " in the contract"
	case OrderMoved:
		return "what stands in " + where + " is in another order: " + m.Code + " in the code, " + m.Contract + " in the contract"
	case CodeMoved:
		what := strings.TrimPrefix(m.About.Property, codeOf)
		if where != "" {
			what += " of " + where
		}
		return "a piece of code that no contract holds is otherwise: " + what
	}
	return strings.TrimPrefix(where+" · ", " · ") + m.About.Property + when + ": " + orNothing(m.Code) + " in the code, " + orNothing(m.Contract) + " in the contract"
}

func orNothing(text string) string {
	if text == "" {
		return "nothing"
	}
	return text
}

// When gives the condition a move is said under in words, empty for always.
func (m Move) When() string {
	w, err := contract.ParseWhen(m.About.When)
	if err != nil || m.About.When == "" {
		return ""
	}
	return w.String()
}

// Told tells in a sentence what the code says once it is written again.
func (m Move) Told() string {
	where, when := m.place()
	option := strings.TrimPrefix(m.About.Property, optionOf)
	switch m.Kind {
	case PropAdded, PropRemoved, PartAdded, PartRemoved:
		if m.Kind == PartAdded || m.Kind == PartRemoved {
			where = "the part " + where
		}
		return map[bool]string{true: where + " goes", false: where + " comes"}[m.Contract == ""]
	case OptionAdded, OptionRemoved:
		return map[bool]string{true: "the option " + option + " of " + where + " goes", false: "the option " + option + " of " + where + " comes"}[m.Contract == ""]
	case OptionRenamed:
		return "the option " + m.Code + " of " + where + " is " + m.Contract
	case PropRetyped:
		return where + " is of the type " + m.Contract
	case PropRenamed, PartRenamed:
		return where + " is named " + orNothing(m.Contract)
	case PartMoved:
		return "the part " + where + " stands " + m.Contract
	case OrderMoved:
		return "what stands in " + where + " is in the order " + m.Contract
	case CodeMoved:
		return strings.TrimPrefix(m.About.Property, codeOf) + " as it was written"
	}
	return strings.TrimPrefix(where+" · ", " · ") + m.About.Property + when + " is " + orNothing(m.Contract) + " instead of " + orNothing(m.Code)
}

// Facet tells what a move is about, in the words of the ledger; behaviour for a piece that no contract holds.
func (m Move) Facet() css.Facet {
	switch {
	case m.Kind == CodeMoved:
		return "behaviour"
	case m.About.Kind == OfProp:
		return "props"
	case m.Kind != ValueMoved:
		return "shape"
	}
	property, ok := css.PropertyNamed(m.About.Property)
	switch {
	case ok:
		return property.Facet
	case strings.HasPrefix(m.About.Property, "attribute ") || m.About.Property == "element":
		return "access"
	case m.About.Property == "content":
		return "content"
	}
	return "shape"
}

// place tells what a move is about, and under which condition, as both begin in a sentence.
func (m Move) place() (where, when string) {
	where = m.Name
	if m.About.Kind == OfProp {
		where = "the prop " + m.Name
	}
	if words := m.When(); words != "" {
		when = " · " + words
	}
	return where, when
}
