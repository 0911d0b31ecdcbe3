// Package react writes a contract as a React component in TypeScript, with a
// CSS module and the custom properties it needs.
package react

import (
	"bytes"
	"cobrik/core/css"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	sheet "cobrik/core/emit/css"
	"cobrik/core/token"
	"cobrik/core/token/platform"
)

// Options of what is written around the component.
type Options struct {
	Version string // of the package; empty is 0.0.0
}

// Emit writes the component's files, the entry point first. The same contract
// and tokens give the same bytes.
func Emit(c *contract.Contract, tokens *token.Set, o Options) []emit.File {
	return []emit.File{
		{Path: c.Name + ".tsx", Content: component(c)},
		{Path: c.Name + ".module.css", Content: sheet.Module(c)},
		{Path: "tokens.css", Content: tokensFile(c, tokens)},
		{Path: "index.ts", Content: index(c)},
		{Path: "package.json", Content: packageFile(c, o)},
		{Path: "tsconfig.json", Content: tsconfig},
		{Path: c.Name + ".module.css.d.ts", Content: sheet.Declarations(c)},
	}
}

func tokensFile(c *contract.Contract, tokens *token.Set) string {
	paths := c.Tokens()
	if len(paths) == 0 {
		return "/* This component refers to no tokens. */\n"
	}
	return platform.Sheet(tokens, paths...)
}

func index(c *contract.Contract) string {
	types := []string{c.Name + "Props"}
	for _, p := range c.Props {
		if p.Kind == contract.Choice {
			types = append(types, c.Name+emit.Pascal(p.Name))
		}
	}
	return fmt.Sprintf("import \"./tokens.css\";\n\nexport { %s } from \"./%s\";\nexport type { %s } from \"./%s\";\n",
		c.Name, c.Name, strings.Join(types, ", "), c.Name)
}

func packageFile(c *contract.Contract, o Options) string {
	version := o.Version
	if version == "" {
		version = "0.0.0"
	}
	type peers struct {
		React string `json:"react"`
	}
	return indented(struct {
		Name        string            `json:"name"`
		Version     string            `json:"version"`
		Description string            `json:"description,omitempty"`
		Type        string            `json:"type"`
		SideEffects []string          `json:"sideEffects"`
		Exports     map[string]string `json:"exports"`
		Peers       peers             `json:"peerDependencies"`
	}{emit.Kebab(c.Name), version, c.Purpose, "module", []string{"*.css"}, map[string]string{".": "./index.ts"}, peers{">=19"}})
}

func indented(v any) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(v); err != nil {
		panic(err) // plain structs always encode
	}
	return b.String()
}

const tsconfig = `{
  "compilerOptions": {
    "target": "ES2022",
    "module": "ESNext",
    "moduleResolution": "bundler",
    "jsx": "react-jsx",
    "lib": ["ES2022", "DOM"],
    "strict": true,
    "noUncheckedIndexedAccess": true,
    "verbatimModuleSyntax": true,
    "skipLibCheck": true,
    "noEmit": true
  },
  "include": ["*.ts", "*.tsx"]
}
`

// maxLine is where a line is broken into several.
const maxLine = 100

func component(c *contract.Contract) string {
	w := writer{contract: c, names: emit.Classes(c)}
	w.line("import type { ComponentPropsWithRef } from \"react\";")
	w.line("")
	w.line("import styles from \"./%s.module.css\";", c.Name)
	w.line("")
	w.types()
	w.props()
	w.classTables()
	w.function()
	return w.b.String()
}

type writer struct {
	b        strings.Builder
	contract *contract.Contract
	names    *emit.ClassNames
}

func (w *writer) line(format string, args ...any) {
	fmt.Fprintf(&w.b, format+"\n", args...)
}

func (w *writer) types() {
	any := false
	for _, p := range w.contract.Props {
		if p.Kind != contract.Choice {
			continue
		}
		any = true
		options := make([]string, len(p.Options))
		for i, o := range p.Options {
			options[i] = quote(o)
		}
		w.line("export type %s%s = %s;", w.contract.Name, emit.Pascal(p.Name), strings.Join(options, " | "))
	}
	if any {
		w.line("")
	}
}

func (w *writer) typeOf(p contract.Prop) string {
	switch p.Kind {
	case contract.Choice:
		return w.contract.Name + emit.Pascal(p.Name)
	case contract.Flag:
		return "boolean"
	}
	return "string"
}

func literal(p contract.Prop) string {
	if p.Kind == contract.Flag {
		return string(p.Default)
	}
	return quote(string(p.Default))
}

// native are attributes that React gives every element, or buttons; a prop of
// the same name takes their place.
var native = []string{"about", "accessKey", "autoFocus", "color", "content", "dir", "disabled", "draggable", "form", "hidden", "id", "inert", "is", "lang",
	"name", "nonce", "popover", "prefix", "property", "rel", "resource", "results", "rev", "role", "slot", "tabIndex", "title", "translate", "type", "value"}

func (w *writer) props() {
	omitted := []string{quote("children")}
	for _, p := range w.contract.Props {
		if slices.Contains(native, p.Name) || w.contract.Root.Element == "svg" {
			omitted = append(omitted, quote(p.Name))
		}
	}
	w.line("export interface %sProps extends Omit<ComponentPropsWithRef<%s>, %s> {", w.contract.Name, quote(w.contract.Root.Element), strings.Join(omitted, " | "))
	for _, p := range w.contract.Props {
		w.line("  /**")
		w.line("   * %s", comment(emit.Purpose(w.contract, p)))
		w.line("   * @default %s", comment(literal(p)))
		w.line("   */")
		w.line("  %s?: %s;", p.Name, w.typeOf(p))
	}
	w.line("}")
	w.line("")
}

func (w *writer) classTables() {
	written := false
	for _, p := range w.contract.Props {
		if p.Kind != contract.Choice {
			continue
		}
		var entries []string
		for _, o := range p.Options {
			if class := w.names.Value(p.Name, contract.Value(o)); class != "" {
				key := o
				if contract.Identifier(o, "") != o {
					key = quote(o)
				}
				entries = append(entries, fmt.Sprintf("%s: styles.%s", key, class))
			}
		}
		if len(entries) == 0 {
			continue
		}
		written = true
		kind := fmt.Sprintf("Record<%s, string>", w.typeOf(p))
		if len(entries) < len(p.Options) {
			kind = "Partial<" + kind + ">"
		}
		head := fmt.Sprintf("const %sClass: %s = {", p.Name, kind)
		if one := head + " " + strings.Join(entries, ", ") + " };"; len(one) <= maxLine {
			w.line("%s", one)
			continue
		}
		w.line("%s", head)
		for _, e := range entries {
			w.line("  %s,", e)
		}
		w.line("};")
	}
	if written {
		w.line("")
	}
}

func (w *writer) function() {
	c := w.contract
	if c.Purpose != "" {
		w.line("/** %s */", comment(c.Purpose))
	}
	var params []string
	for _, p := range c.Props {
		params = append(params, p.Name+" = "+literal(p))
	}
	params = append(params, "className", "...rest")
	head := fmt.Sprintf("export function %s({ %s }: %sProps) {", c.Name, strings.Join(params, ", "), c.Name)
	if len(head) <= maxLine {
		w.line("%s", head)
	} else {
		w.line("export function %s({", c.Name)
		for i, p := range params {
			if i == len(params)-1 {
				w.line("  %s", p)
			} else {
				w.line("  %s,", p)
			}
		}
		w.line("}: %sProps) {", c.Name)
	}
	classes := append([]string{"styles." + w.names.Part(c.Root.Name)}, w.conditionClasses()...)
	classes = append(classes, "className")
	if one := fmt.Sprintf("  const classes = [%s];", strings.Join(classes, ", ")); len(one) <= maxLine {
		w.line("%s", one)
	} else {
		w.line("  const classes = [")
		for _, class := range classes {
			w.line("    %s,", class)
		}
		w.line("  ];")
	}
	w.line("  return (")
	attributes := "{...rest} className={classes.filter(Boolean).join(\" \")}"
	if c.Root.Element == "button" {
		attributes = "type=\"button\" " + attributes
	}
	if around := w.names.Container(); around != "" {
		w.line("    <div className={styles.%s}>", around)
		w.part(c.Root, attributes, "      ")
		w.line("    </div>")
	} else {
		w.part(c.Root, attributes, "    ")
	}
	w.line("  );")
	w.line("}")
}

func (w *writer) conditionClasses() []string {
	var out []string
	for _, p := range w.contract.Props {
		switch on, off := w.names.Value(p.Name, "true"), w.names.Value(p.Name, "false"); {
		case p.Kind == contract.Choice:
			for _, o := range p.Options {
				if w.names.Value(p.Name, contract.Value(o)) != "" {
					out = append(out, fmt.Sprintf("%sClass[%s]", p.Name, p.Name))
					break
				}
			}
		case on != "" && off != "":
			out = append(out, fmt.Sprintf("%s ? styles.%s : styles.%s", p.Name, on, off))
		case on != "":
			out = append(out, fmt.Sprintf("%s && styles.%s", p.Name, on))
		case off != "":
			out = append(out, fmt.Sprintf("!%s && styles.%s", p.Name, off))
		}
	}
	return out
}

func (w *writer) part(p *contract.Part, attributes, indent string) {
	if p.Show != "" && len(p.Children) == 0 && p.Vector == nil {
		leaf := writer{contract: w.contract, names: w.names}
		leaf.element(p, attributes, "")
		w.line("%s{%s && %s}", indent, p.Show, strings.TrimSpace(leaf.b.String()))
		return
	}
	if p.Show != "" {
		w.line("%s{%s && (", indent, p.Show)
		w.element(p, attributes, indent+"  ")
		w.line("%s)}", indent)
		return
	}
	w.element(p, attributes, indent)
}

func (w *writer) element(p *contract.Part, attributes, indent string) {
	if class := w.names.Part(p.Name); class != "" && attributes == "" {
		attributes = fmt.Sprintf("className={styles.%s}", class)
	}
	if p.Vector != nil {
		attributes = strings.TrimSpace(attributes + " " + vectorAttributes(p))
	}
	open := p.Element
	if attributes != "" {
		open += " " + attributes
	}
	content := ""
	switch {
	case p.Text != "":
		content = "{" + p.Text + "}"
	case p.Content != "":
		content = "{" + quote(p.Content) + "}"
	}
	paths := p.Vector != nil && len(p.Vector.Paths) > 0
	switch {
	case content != "" && len(p.Children) == 0:
		w.line("%s<%s>%s</%s>", indent, open, content, p.Element)
	case !paths && len(p.Children) == 0:
		w.line("%s<%s />", indent, open)
	default:
		w.line("%s<%s>", indent, open)
		if content != "" {
			w.line("%s  %s", indent, content)
		}
		if paths {
			for _, path := range p.Vector.Paths {
				fill := ""
				if path.Fill != "" {
					fill = fmt.Sprintf(" fill=%s", attribute(path.Fill))
				}
				w.line("%s  <path d=%s%s%s />", indent, attribute(path.D), fill, strokeAttributes(path.Stroke))
			}
		}
		for _, child := range p.Children {
			w.part(child, "", indent+"  ")
		}
		w.line("%s</%s>", indent, p.Element)
	}
}

func strokeAttributes(s contract.PathStroke) string {
	if s.Width <= 0 {
		return ""
	}
	out := fmt.Sprintf(" stroke=%s strokeWidth=%s", attribute(s.Color), attribute(css.FormatNumber(s.Width)))
	if s.Cap != "" {
		out += " strokeLinecap=" + attribute(s.Cap)
	}
	if s.Join != "" {
		out += " strokeLinejoin=" + attribute(s.Join)
	}
	return out
}

func vectorAttributes(p *contract.Part) string {
	box := make([]string, 4)
	for i, v := range p.Vector.ViewBox {
		box[i] = css.FormatNumber(v)
	}
	out := fmt.Sprintf("viewBox=%s", attribute(strings.Join(box, " ")))
	if stretched(p) {
		out += " preserveAspectRatio=\"none\""
	}
	if p.Label == "" {
		return out + " aria-hidden=\"true\""
	}
	return out + " role=\"img\" aria-label=" + attribute(p.Label)
}

// stretched tells whether a drawing's box may have another shape than its view
// box: a design stretches it, SVG by itself would leave room (SVG 2, 8.6).
func stretched(p *contract.Part) bool {
	width, height := p.Style["width"], p.Style["height"]
	if width == height && width != "" && width != "100%" {
		return p.Vector.ViewBox[2] != p.Vector.ViewBox[3]
	}
	w, wide := css.Pixels(width)
	h, high := css.Pixels(height)
	return !wide || !high || math.Abs(w*p.Vector.ViewBox[3]-h*p.Vector.ViewBox[2]) > 0.01*h*p.Vector.ViewBox[2]
}

// attribute writes a JSX attribute's value; quotes and braces go through a
// string literal.
func attribute(s string) string {
	if strings.ContainsAny(s, "\"&\\{}<>\n") {
		return "{" + quote(s) + "}"
	}
	return "\"" + s + "\""
}

// quote writes a TypeScript string literal.
func quote(s string) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	_ = e.Encode(s) // a string always encodes
	return strings.TrimSuffix(b.String(), "\n")
}

// comment keeps a text from ending the comment it stands in.
func comment(s string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(s), " "), "*/", "*\\/")
}
