package react

import (
	"encoding/base64"
	"net/url"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
)

// assets are what a library's components share beside tokens.
type assets struct {
	icons
	pictures
}

func assetsOf(contracts []*contract.Contract) assets {
	modules := lowered(contracts)
	return assets{iconsOf(modules), picturesOf(modules)}
}

// files writes the icons and the pictures.
func (a assets) files() []emit.File { return append(a.icons.files(), a.pictures.files()...) }

// pictures are the picture files of a library: the name of the file, without its ending, by the
// address that holds the picture.
type pictures map[string]string

// file is the name of a picture's file.
func (p pictures) file(source string) string {
	if strings.HasPrefix(source, pngAddress) {
		return p[source] + ".png"
	}
	return p[source] + ".svg"
}

// content is what stands in a picture's file.
func content(source string) string {
	if text, ok := strings.CutPrefix(source, pngAddress); ok {
		if file, err := base64.StdEncoding.DecodeString(text); err == nil {
			return string(file)
		}
		return "" // a picture that nobody can see, there as here
	}
	text := strings.TrimPrefix(source, svgAddress)
	if drawn, err := url.PathUnescape(text); err == nil {
		text = drawn
	}
	return text + "\n"
}

// What the address of a flattened picture begins with.
const (
	svgAddress = "data:image/svg+xml,"
	pngAddress = "data:image/png;base64,"
)

// pictureOf gives the address of the picture an element shows for ever; empty for none.
func pictureOf(e *ir.Element) string {
	if e.Tag != "img" {
		return ""
	}
	for _, a := range e.Attributes {
		if a.Name == "src" && (strings.HasPrefix(a.Value, svgAddress) || strings.HasPrefix(a.Value, pngAddress)) {
			return a.Value
		}
	}
	return ""
}

// picturesOf gathers the pictures of modules, each named after the part that shows it first.
func picturesOf(modules []*ir.Module) pictures {
	out := pictures{}
	for _, m := range modules {
		ir.Walk(m.Root, func(e *ir.Element) {
			if source := pictureOf(e); source != "" && out[source] == "" {
				out[source] = contract.Free(emit.Kebab(m.Name)+"-"+emit.Kebab(e.Part), "", func(name string) bool {
					for _, taken := range out {
						if taken == name {
							return true
						}
					}
					return false
				})
			}
		})
	}
	return out
}

// shown lists the addresses of the pictures that a module shows, each once.
func (p pictures) shown(m *ir.Module) (out []string) {
	ir.Walk(m.Root, func(e *ir.Element) {
		if source := pictureOf(e); source != "" && !slices.Contains(out, source) {
			out = append(out, source)
		}
	})
	return out
}

func (p pictures) files() (out []emit.File) {
	for source := range p {
		out = append(out, emit.File{Path: "pictures/" + p.file(source), Content: content(source)})
	}
	slices.SortFunc(out, func(a, b emit.File) int { return strings.Compare(a.Path, b.Path) })
	if out != nil {
		out = append(out, emit.File{Path: "pictures.d.ts", Content: pictureTypes})
	}
	return out
}

// pictureTypes says what importing a picture gives: its address, as bundlers give it.
const pictureTypes = `declare module "*.svg" {
  const address: string;
  export default address;
}

declare module "*.png" {
  const address: string;
  export default address;
}
`
