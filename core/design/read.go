package design

import (
	"fmt"
	"slices"
	"strings"

	"github.com/go-json-experiment/json"

	"cobrik/core/color"
	"cobrik/core/problem"
	"cobrik/docs/formats"
)

// Limits of a document that is read from outside. A layer takes two levels of
// JSON, so layers may be nested about 250 deep.
var Limits = problem.Limits{Bytes: 32 << 20, Depth: 512}

// MaxLayers is the most layers a document may hold.
const MaxLayers = 200_000

var schema = problem.MustCompile("cobrik.design-1.json", formats.DesignDocument)

// Read reads a design document and lists everything wrong with it: syntax,
// schema, ids given twice, axes and variants that do not fit, references to
// families that are not there, colours that cannot be read. The document is nil
// when there is an error.
func Read(file string, text []byte) (*Document, problem.List) {
	if !schema.Accepts(text, Limits) { // then say all that is wrong
		if found := problem.CheckJSON(file, text, Limits); found != nil {
			return nil, found
		}
		if found := schema.Validate(file, text); found != nil {
			return nil, found
		}
	}
	doc, err := Decode(text)
	if err != nil {
		return nil, problem.List{{File: file, Rule: "design-read", Severity: problem.Error, Message: err.Error()}}
	}
	c := checker{doc: doc, ids: map[string]string{}}
	c.document()
	found := c.found.Locate(file, text)
	if found.Failed() {
		return nil, found
	}
	return doc, found
}

// Decode reads the text of a document that Read has taken before. It checks
// nothing again.
func Decode(text []byte) (*Document, error) {
	doc := new(Document)
	if err := json.Unmarshal(text, doc); err != nil {
		return nil, fmt.Errorf("design document: %w", err)
	}
	doc.findAssets()
	return doc, nil
}

// findAssets gives every image the asset it shows.
func (d *Document) findAssets() {
	if len(d.Assets) == 0 {
		return
	}
	d.EachLayer(func(l *Layer) {
		if l.Image != nil {
			l.Image.Shown = d.Asset(l.Image.Asset)
		}
	})
}

type checker struct {
	doc    *Document
	ids    map[string]string
	layers int
	found  problem.List
}

func (c *checker) document() {
	for i, a := range c.doc.Assets {
		c.id(a.ID, fmt.Sprintf("/assets/%d", i))
	}
	for i, p := range c.doc.Pages {
		at := fmt.Sprintf("/pages/%d", i)
		c.id(p.ID, at)
		c.color(p.Background, at+"/background")
		for j, l := range p.Layers {
			c.layer(l, fmt.Sprintf("%s/layers/%d", at, j))
		}
	}
	names := map[string]bool{}
	for i, f := range c.doc.Families {
		at := fmt.Sprintf("/families/%d", i)
		c.id(f.ID, at)
		if names[f.Name] {
			c.found.Errorf("family-name", at+"/name", "give each family its own name", "two families are named %q", f.Name)
		}
		names[f.Name] = true
		c.family(f, at)
	}
	if c.layers > MaxLayers {
		c.found.Errorf("design-size", "", "split the document", "the document holds %d layers; at most %d are read", c.layers, MaxLayers)
	}
}

func (c *checker) id(id, at string) {
	if first, taken := c.ids[id]; taken {
		c.found.Errorf("id-unique", at+"/id", "give every page, family, variant and layer its own id", "the id %q is already used at %s", id, first)
		return
	}
	c.ids[id] = at
}

func (c *checker) family(f *Family, at string) {
	axes := map[string][]string{}
	for i, a := range f.Axes {
		here := fmt.Sprintf("%s/axes/%d", at, i)
		if axes[a.Name] != nil {
			c.found.Errorf("axis-name", here+"/name", "give each axis its own name", "two axes are named %q", a.Name)
		}
		axes[a.Name] = a.Values
		if !slices.Contains(a.Values, a.Default) {
			c.found.Errorf("axis-default", here+"/default", "name one of "+strings.Join(a.Values, ", "), "the default %q is not a value of the axis %q", a.Default, a.Name)
		}
	}
	drawn := map[string]string{}
	for i, v := range f.Variants {
		here := fmt.Sprintf("%s/variants/%d", at, i)
		c.id(v.ID, here)
		var key strings.Builder
		for _, a := range f.Axes {
			value, ok := v.Choices[a.Name]
			switch {
			case !ok:
				c.found.Errorf("variant-choices", here+"/choices", "say a value for every axis", "the variant %s has no value for the axis %q", v.ID, a.Name)
			case !slices.Contains(a.Values, value):
				c.found.Errorf("variant-choices", here+"/choices/"+problem.Token(a.Name), "use one of "+strings.Join(a.Values, ", "), "%q is not a value of the axis %q", value, a.Name)
			}
			key.WriteString(value + "\x00")
		}
		for name := range v.Choices {
			if axes[name] == nil {
				c.found.Errorf("variant-choices", here+"/choices/"+problem.Token(name), "add the axis, or remove the choice", "the family has no axis %q", name)
			}
		}
		if first, taken := drawn[key.String()]; taken {
			c.found.Errorf("variant-twice", here, "remove one, or change its choices", "%s and %s are drawn for the same choices", first, v.ID)
		}
		drawn[key.String()] = v.ID
		c.layer(v.Root, here+"/root")
	}
	if !c.found.Failed() && f.Default() == nil {
		c.found.Errorf("variant-default", at+"/variants", "draw it: the other variants are read as differences from it", "the default variant of %s is not drawn", f.Name)
	}
}

func (c *checker) layer(l *Layer, at string) {
	c.layers++
	c.id(l.ID, at)
	c.color(l.Fill, at+"/fill")
	if l.Stroke != nil {
		c.color(l.Stroke.Color, at+"/stroke/color")
	}
	for i, f := range l.Fills {
		here := fmt.Sprintf("%s/fills/%d", at, i)
		c.color(f.Color, here+"/color")
		if (f.Color == "") == (f.Gradient == nil) {
			c.found.Errorf("fill-kind", here, "give it a color, or a gradient", "a fill of %s is a colour or a gradient, and one of them", l.ID)
		}
		if f.Gradient == nil {
			continue
		}
		before := 0.0
		for j, s := range f.Gradient.Stops {
			c.color(s.Color, fmt.Sprintf("%s/gradient/stops/%d/color", here, j))
			if s.At < before {
				c.found.Errorf("gradient-stops", fmt.Sprintf("%s/gradient/stops/%d/at", here, j), "give the stops in their order", "a stop of %s stands before the one it follows", l.ID)
			}
			before = s.At
		}
	}
	for i, s := range l.Shadows {
		c.color(s.Color, fmt.Sprintf("%s/shadows/%d/color", at, i))
	}
	if l.Image != nil && c.doc.Asset(l.Image.Asset) == nil {
		c.found.Errorf("image-asset", at+"/image/asset", "name the id of one of the document's assets", "there is no asset %q", l.Image.Asset)
	}
	if l.Text != nil && l.Text.Runs != nil {
		var whole strings.Builder
		for _, r := range l.Text.Runs {
			whole.WriteString(r.Text)
		}
		if whole.String() != l.Text.Content {
			c.found.Errorf("text-runs", at+"/text/runs", "cut the content into runs, and leave nothing out", "the runs of %s are not its content", l.ID)
		}
	}
	if m := l.Limits; m.MaxWidth > 0 && m.MinWidth > m.MaxWidth || m.MaxHeight > 0 && m.MinHeight > m.MaxHeight {
		c.found.Errorf("layer-limits", at+"/limits", "give a least size that is smaller", "the least size of %s is larger than its largest", l.ID)
	}
	if l.Vector != nil {
		for i, p := range l.Vector.Paths {
			if p.Fill != "none" {
				c.color(p.Fill, fmt.Sprintf("%s/vector/paths/%d/fill", at, i))
			}
			c.color(p.Stroke.Color, fmt.Sprintf("%s/vector/paths/%d/stroke/color", at, i))
		}
	}
	if l.Instance != nil {
		for i, o := range l.Instance.Overrides {
			if o.Asset != "" && c.doc.Asset(o.Asset) == nil {
				c.found.Errorf("image-asset", fmt.Sprintf("%s/instance/overrides/%d/asset", at, i), "name the id of one of the document's assets", "there is no asset %q", o.Asset)
			}
		}
	}
	if l.Kind == Instance {
		family := c.doc.Family(l.Instance.Family)
		if family == nil {
			c.found.Errorf("instance-family", at+"/instance/family", "name the id of a family of this document", "there is no family %q", l.Instance.Family)
		} else if family.Variant(l.Instance.Choices) == nil {
			c.found.Warnf("instance-choices", at+"/instance/choices", "draw that variant, or choose one that is drawn", "no variant of %s is drawn for these choices", family.Name)
		}
	}
	if len(l.Children) > 0 && l.Kind != Group && l.Kind != Box {
		c.found.Errorf("layer-children", at+"/children", "make it a box or a group", "a %s layer has no children", l.Kind)
	}
	for i, child := range l.Children {
		c.layer(child, fmt.Sprintf("%s/children/%d", at, i))
	}
}

func (c *checker) color(s, at string) {
	if s == "" {
		return
	}
	if _, err := color.Parse(s); err != nil {
		c.found.Errorf("color", at, "", "%s", err)
	}
}
