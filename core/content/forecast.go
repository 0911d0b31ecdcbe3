package content

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Warning is something that goes wrong with records that are given to a component, told before it does.
type Warning struct {
	Prop    string `json:"prop"` // its name
	Field   string `json:"field" doc:"Its path; empty for none"`
	Loss    Loss   `json:"loss"`
	Message string `json:"message"` // a sentence
	Records []int  `json:"records"` // from 0
	Severe  bool   `json:"severe" doc:"A use is not what it should be: something required is missing, or what is given is lost"`
}

// Bindings say where each prop of a component, by its id, has its value from.
type Bindings map[string]Binding

// Forecast tells what goes wrong when records are given to a component, each thing once a prop, in the order of the props. A
// field that no record has is told, too.
func Forecast(c *contract.Contract, bindings Bindings, s *Source) []Warning {
	out := []Warning{}
	if len(s.Records) == 0 {
		return append(out, Warning{Loss: MissingLoss, Message: fmt.Sprintf("%s holds no record: nothing is there to be shown.", s.Name), Records: []int{}, Severe: true})
	}
	for _, p := range c.Props {
		b, bound := bindings[p.ID]
		if !bound {
			if p.Required && p.Kind() != contract.SlotKind && p.Kind() != contract.EventKind {
				out = append(out, Warning{Prop: p.Name, Loss: MissingLoss, Message: fmt.Sprintf("%s has to be given, and nothing is.", p.Name), Records: all(len(s.Records)), Severe: true})
			}
			continue
		}
		out = append(out, forecast(p, b, s)...)
	}
	return out
}

func all(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

func forecast(p contract.Prop, b Binding, s *Source) (out []Warning) {
	records := map[Loss][]int{}
	what := map[Loss][]string{}
	var order []Loss
	for i, r := range s.Records {
		_, notes := Convert(p, b, r)
		for _, n := range notes {
			if records[n.Loss] == nil {
				order = append(order, n.Loss)
			}
			if last := len(records[n.Loss]) - 1; last < 0 || records[n.Loss][last] != i {
				records[n.Loss] = append(records[n.Loss], i)
			}
			for _, one := range strings.Split(n.What, ", ") {
				if !slices.Contains(what[n.Loss], one) && len(what[n.Loss]) < 6 {
					what[n.Loss] = append(what[n.Loss], one)
				}
			}
		}
	}
	for _, loss := range order {
		w := Warning{Prop: p.Name, Field: b.Field, Loss: loss, Records: records[loss], Severe: loss != SizeLoss && loss != AltLoss}
		n, words := counted(len(w.Records), len(s.Records)), strings.Join(what[loss], ", ")
		switch loss {
		case MissingLoss:
			w.Severe = p.Required
			w.Message = fmt.Sprintf("%s of %s is not there in %s.", words, p.Name, n)
			switch {
			case p.Required:
				w.Message += " It has to be given."
			case p.Default() != nil && contract.IsSet(p.Default()):
				w.Message += fmt.Sprintf(" %s shows its default, “%s”.", p.Name, short(p.Default().String()))
			default:
				w.Message += fmt.Sprintf(" %s is not shown there.", p.Name)
			}
		case MarksLoss:
			w.Message = fmt.Sprintf("%s is plain text, and would lose %s in %s.", p.Name, words, n)
		case BlocksLoss:
			w.Message = fmt.Sprintf("%s stands in a line, and would lose that there are %s in %s.", p.Name, plural(what[loss]), n)
		case ElementLoss:
			w.Message = fmt.Sprintf("%s does not keep %s, in %s.", p.Name, words, n)
		case LengthLoss:
			w.Message = fmt.Sprintf("%s is longer than it may be in %s: %s.", p.Name, n, words)
		case KindLoss:
			w.Message = fmt.Sprintf("%s takes no %s, in %s.", p.Name, words, n)
		case AltLoss:
			w.Message = fmt.Sprintf("%s says nothing in words in %s: who does not see it misses it.", p.Name, n)
		case SizeLoss:
			w.Message = fmt.Sprintf("%s has no size in %s: the page moves while it loads.", p.Name, n)
		}
		out = append(out, w)
	}
	return out
}

func counted(n, of int) string {
	switch {
	case n == of && n == 1:
		return "the one record"
	case n == of:
		return fmt.Sprintf("all %d records", n)
	case n == 1:
		return fmt.Sprintf("1 of %d records", of)
	}
	return fmt.Sprintf("%d of %d records", n, of)
}

func plural(kinds []string) string {
	out := make([]string, len(kinds))
	for i, k := range kinds {
		out[i] = k + "s"
	}
	return strings.Join(out, ", ")
}

// Given gives what a component is used with for a record: the props that have a value of it.
func Given(c *contract.Contract, bindings Bindings, r Record) contract.Values {
	out := contract.Values{}
	for _, p := range c.Props {
		b, ok := bindings[p.ID]
		if !ok {
			continue
		}
		if v, _ := Convert(p, b, r); v != nil {
			out[p.ID] = v
		}
	}
	return out
}

// Propose binds each prop to the field that is called like it, or like a word of the trade for it, and holds what it takes.
// What has no such field is not bound.
func Propose(c *contract.Contract, s *Source) Bindings {
	out := Bindings{}
	taken := map[string]bool{}
	for pass := range 2 { // the same name first
		for _, p := range c.Props {
			if _, ok := out[p.ID]; ok || p.Type.Control() == "none" || p.Kind() == contract.ListKind {
				continue
			}
			for _, f := range s.Fields {
				if taken[f.Path] || !suits(p, f) || !called(p.Name, f.Path, pass == 0) {
					continue
				}
				b := Binding{Field: f.Path}
				if p.Kind() == contract.ImageKind {
					b.Alt = AltOf(f.Path, s)
				}
				out[p.ID], taken[f.Path] = b, true
				break
			}
		}
	}
	return out
}

// alike are words that fields and props are called by for one thing: common practice, no source.
var alike = [][]string{
	{"title", "name", "heading", "headline", "label", "plot"}, {"text", "body", "note", "description", "summary", "content", "message"}, {"picture", "image", "photo", "src", "img"},
	{"href", "link", "url", "address", "to"}, {"tone", "state", "status", "crop", "kind", "type"}, {"count", "number", "amount", "quantity"}, {"holder", "owner", "member", "person", "by"}, {"due", "date", "day", "when"},
}

func called(prop, field string, same bool) bool {
	a, b := contract.Words(prop), contract.Words(field)
	if same {
		return strings.Join(a, "") == strings.Join(b, "") || len(b) > 0 && strings.Join(a, "") == b[len(b)-1]
	}
	for _, group := range alike {
		if slices.ContainsFunc(a, func(w string) bool { return slices.Contains(group, w) }) && slices.ContainsFunc(b, func(w string) bool { return slices.Contains(group, w) }) {
			return true
		}
	}
	return false
}

func suits(p contract.Prop, f Field) bool {
	switch p.Kind() {
	case contract.TextKind:
		return f.Kind != PictureField && f.Kind != ListField
	case contract.RichKind:
		return f.Kind == RichField || f.Kind == TextField
	case contract.NumberKind:
		return f.Kind == NumberField
	case contract.FlagKind:
		return f.Kind == FlagField
	case contract.ImageKind:
		return f.Kind == PictureField
	case contract.LinkKind:
		return f.Kind == LinkField || f.Kind == TextField && strings.HasPrefix(f.Sample, "/")
	case contract.ChoiceKind, contract.IconKind:
		return f.Kind == TextField && len(f.Values) > 0
	}
	return false
}

// AltOf finds the field that says what a picture shows: picture.alt, pictureAlt.
func AltOf(picture string, s *Source) string {
	for _, f := range s.Fields {
		words := strings.Join(contract.Words(f.Path), "")
		if words == strings.Join(contract.Words(picture), "")+"alt" {
			return f.Path
		}
	}
	return ""
}
