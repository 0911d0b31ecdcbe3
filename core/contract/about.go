package contract

import (
	"fmt"
	"slices"
	"strings"
)

// Deprecation says why a component is not to be used any longer, and what is used instead.
type Deprecation struct {
	Why     string `json:"why,omitempty"`
	Instead string `json:"instead,omitempty"` // name of the component
}

// String says it in a sentence.
func (d Deprecation) String() string {
	out := strings.TrimSpace(d.Why)
	if out != "" && !strings.ContainsAny(out[len(out)-1:], ".!?…") {
		out += "."
	}
	if d.Instead != "" {
		out = strings.TrimSpace(out + " Use " + d.Instead + " instead.")
	}
	if out == "" {
		return "It is not to be used any longer."
	}
	return out
}

// Reference is something to read of the component elsewhere.
type Reference struct {
	Text    string `json:"text"`
	Address string `json:"address"`
}

// about checks what is said of the component as a whole.
func (k *checker) about() {
	if d := k.c.Deprecated; d != nil && d.Instead == k.c.Name {
		k.found.Errorf("deprecated-instead", "/deprecated/instead", "name another component", "%s cannot be used instead of itself", k.c.Name)
	}
	for i, r := range k.c.Links {
		if err := checkAddress(r.Address); err != nil {
			k.found.Errorf("link-address", fmt.Sprintf("/links/%d/address", i), "use an address that a link may lead to", "%v", err)
		}
	}
	if err := k.c.Notes.flaw(); err != nil {
		k.found.Errorf("notes", "/notes", "write it otherwise", "%v", err)
	}
}

// AboutChanges lists what users of a component are told when other things are said of it as a whole than in an older contract.
func (c *Contract) AboutChanges(old *Contract) (out []Change) {
	now := c
	switch {
	case now.Deprecated != nil && (old.Deprecated == nil || *old.Deprecated != *now.Deprecated):
		out = append(out, change(Minor, "it is deprecated: %s", now.Deprecated))
	case now.Deprecated == nil && old.Deprecated != nil:
		out = append(out, change(Minor, "it is no longer deprecated"))
	}
	said := func(c *Contract) []any { return []any{c.Purpose, c.Do, c.Dont, c.Owner, c.Links, c.Notes} }
	for i, what := range []string{"its purpose is told otherwise", "what it is meant for is told otherwise", "what it is not meant for is told otherwise", "its owner is another", "what to read of it is another", "the notes on it are others"} {
		if fmt.Sprint(said(old)[i]) != fmt.Sprint(said(now)[i]) {
			out = append(out, change(Patch, "%s", what))
		}
	}
	return out
}

func cloneAbout(out *Contract, c *Contract) {
	out.Do, out.Dont, out.Links = slices.Clone(c.Do), slices.Clone(c.Dont), slices.Clone(c.Links)
	if c.Deprecated != nil {
		d := *c.Deprecated
		out.Deprecated = &d
	}
}
