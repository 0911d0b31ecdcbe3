package repository

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/css"
	sheet "cobrik/core/emit/css"
	"cobrik/core/font"
	"cobrik/core/source"
	"cobrik/core/source/syntax"
	"cobrik/core/token/output"
)

// Fix mends what is mechanical, and gives the files that are otherwise then: contracts by what a review mends by itself, files that tokens are written
// to, code that is not there, and values of style sheets that stand alone in their declarations. Nothing else of code is touched:
// which side is right is for people to say.
func (r *Repository) Fix(fonts *font.Library) Files {
	out := Files{}
	set := func(name string, text []byte) {
		if !bytes.Equal(r.Files[name], text) {
			out[name] = text
		}
	}
	options := check.Options{Themes: r.checkThemes(), Fonts: fonts}
	for _, c := range r.Contracts {
		mended := c.Clone()
		contract.NewLinker(func(name string) *contract.Contract {
			for _, other := range r.Contracts {
				if other.Name == name {
					return other.Contract
				}
			}
			return nil
		}).Link(mended)
		if n := check.Mend(mended, options); n > 0 {
			if found := mended.Check(r.Tokens); !found.Failed() {
				set(c.File, mended.JSON())
			}
		}
	}
	for _, o := range r.Project.Tokens.Outputs {
		files, found := output.Build(&o, r.Library, r.Themes)
		if found.Failed() {
			continue
		}
		for _, f := range files {
			set(path.Join(r.Project.Tokens.Out, f.Name), f.Text)
		}
	}
	if r.Project.Code == nil {
		return out
	}
	r.fixCode(set)
	return out
}

func (r *Repository) fixCode(set func(name string, text []byte)) {
	folder := r.Project.Code.Folder
	s := r.sides()
	named := map[string]source.Named{}
	for _, one := range s.is.Components() {
		named[one.Name] = one
	}
	whole := false // some component is written anew, and what all share with it
	for _, c := range r.Contracts {
		file, there := fileOf(c.Name, named, s.files)
		if !there {
			whole = true
			for _, f := range s.written {
				if strings.HasPrefix(f.Path, c.Name+"/") {
					set(path.Join(folder, f.Path), []byte(f.Content))
				}
			}
			continue
		}
		v, _ := s.versions(c.Contract, file)
		if v.Code == nil {
			continue
		}
		changed := map[string][]byte{}
		for _, m := range v.Moves() {
			r.fixValue(m, folder, changed)
		}
		for name, text := range changed {
			set(name, text)
		}
	}
	if whole {
		for _, f := range s.written {
			shared := !strings.Contains(f.Path, "/") || strings.HasPrefix(f.Path, "icons/") || strings.HasPrefix(f.Path, "pictures/")
			if name := path.Join(folder, f.Path); shared && r.Files[name] == nil {
				set(name, []byte(f.Content))
			}
		}
	}
}

// fixValue writes the contract's value into the declaration that says another, where it says that one alone.
func (r *Repository) fixValue(m source.Move, folder string, changed map[string][]byte) {
	if m.Kind != source.ValueMoved || m.About.Kind != source.OfPart || m.Contract == "" || m.Code == "" || m.At == nil || path.Ext(m.At.File) != ".css" {
		return
	}
	if _, known := css.PropertyNamed(m.About.Property); !known {
		return
	}
	name := path.Join(folder, m.At.File)
	text := changed[name]
	if text == nil {
		text = slices.Clone(r.Files[name])
	}
	tree, found := syntax.CSS(name, text)
	if tree == nil || found.Failed() {
		return
	}
	tree.Root.Walk(func(n *syntax.Node) bool {
		if n.Kind != syntax.Declaration || n.Child("property").Text() != m.About.Property {
			return true
		}
		if _, line, column := n.Place(); line != m.At.Line || column != m.At.Column {
			return true
		}
		value := n.Child("value")
		changed[name] = slices.Concat(text[:value.From], []byte(sheet.Value(m.Contract, r.Properties)), text[value.To:])
		return false
	})
}
