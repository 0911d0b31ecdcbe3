package main

import (
	"bytes"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/emit"
	"cobrik/core/publish"
	"cobrik/core/token"
	"cobrik/service"
	"cobrik/web"
)

func catalogueCommand() *cobra.Command {
	root := &cobra.Command{Use: "catalogue", Short: "Work with a catalogue"}
	var source designTokens
	var contracts []string
	var out, lock, name string
	build := &cobra.Command{
		Use:   "build",
		Short: "Write the whole catalogue as pages that need no server",
		Long: `Reads contracts (cobrik.contract/1), or folders of them, and tokens, and writes the catalogue as a folder of pages: they
are opened as files or served from anywhere, ask for nothing outside of it, and are searched without a server. Every
component runs in them. Versions and shelves come from a lock (cobrik.library/1), which a released library brings as
library.json; it is found beside the contracts, or in the folder above. The same input gives the same bytes.`,
		Example: "  cobrik catalogue build --contracts contracts --tokens core.tokens.json --tokens semantic.tokens.json --out public",
		Args:    cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := web.Built(); err != nil {
				return err
			}
			read, err := source.read(cmd)
			if err != nil {
				return err
			}
			files, err := readContracts(contracts, read.set)
			if err != nil {
				return err
			}
			locked, err := lockOf(lock, contracts)
			if err != nil {
				return err
			}
			site := service.Static{Name: name, Version: locked.Version, Tokens: read.texts}
			if text, err := os.ReadFile(source.project); err == nil { // it was read, and found good
				site.Tokens = append(site.Tokens, token.File{Name: service.ProjectFile, Text: text})
			}
			if name == "" {
				site.Name = locked.Name
			}
			if site.Name == "" {
				site.Name = "Catalogue"
			}
			for _, f := range files {
				if err := tell(cmd, f.found); err != nil {
					return err
				}
				c := publish.Component{Contract: f.contract}
				if i := slices.IndexFunc(locked.Components, func(l publish.LockedComponent) bool { return l.Name == f.contract.Name }); i >= 0 {
					c.Version, c.Shelf = locked.Components[i].Version, locked.Components[i].Shelf
				}
				site.Components = append(site.Components, c)
			}
			slices.SortFunc(site.Components, func(a, b publish.Component) int { return strings.Compare(a.Contract.Name, b.Contract.Name) })
			pages, err := site.Files(cmd.Context())
			if err != nil {
				return err
			}
			assets, err := siteAssets()
			if err != nil {
				return err
			}
			return write(cmd, out, append(pages, assets...))
		},
	}
	source.add(build)
	build.Flags().StringSliceVar(&contracts, "contracts", []string{"contracts"}, "contracts, or folders of them")
	build.Flags().StringVar(&out, "out", "", "folder to write into")
	build.Flags().StringVar(&lock, "lock", "", "lock `FILE` that says versions and shelves; found beside the contracts without")
	build.Flags().StringVar(&name, "name", "", "name of the catalogue; the library's without")
	if err := build.MarkFlagRequired("out"); err != nil {
		panic(err) // it was just declared
	}
	root.AddCommand(build)
	return root
}

// lockOf reads a lock; nothing where none is named and none is found.
func lockOf(name string, contracts []string) (publish.Lock, error) {
	names := []string{name}
	if name == "" {
		names = nil
		for _, c := range contracts {
			names = append(names, filepath.Join(c, "library.json"), filepath.Join(filepath.Dir(c), "library.json"))
		}
	}
	for _, file := range names {
		text, err := os.ReadFile(file)
		if err != nil && name == "" {
			continue // there is none, or what was named is a file, and no folder to look in
		}
		if err != nil {
			return publish.Lock{}, err
		}
		if name == "" && !bytes.Contains(text[:min(len(text), 4096)], []byte(publish.LockFormat)) {
			continue
		}
		out, found := publish.ReadLock(file, text)
		return out, failure(found)
	}
	return publish.Lock{}, nil
}

// siteAssets are what every page of a catalogue loads.
func siteAssets() ([]emit.File, error) {
	var out []emit.File
	for _, file := range []string{"runner.css", "runner.js", "site.css", "site.js"} {
		text, err := fs.ReadFile(web.Dist, "dist/site/"+file)
		if err != nil {
			return nil, err
		}
		out = append(out, emit.File{Path: "assets/" + file, Content: string(text)})
	}
	return append(out, emit.File{Path: "assets/page.css", Content: pageSheet}), nil
}

// pageSheet dresses the pages that are read without a script.
const pageSheet = `:root { color-scheme: light dark; }
body { margin: 0; background: light-dark(#f4efe7, #1b1917); color: light-dark(#29241e, #ece5db); font: 15px/1.5 system-ui, sans-serif; }
main { max-width: 60rem; margin: 0 auto; padding: 1rem; }
a { color: light-dark(#8a3a22, #e09a80); }
.quiet { color: light-dark(#655b4f, #ada294); }
table { border-collapse: collapse; width: 100%; }
th, td { padding: 0.25rem 0.75rem 0.25rem 0; border-bottom: 1px solid light-dark(#d3c8b7, #3c3630); text-align: start; vertical-align: top; font-weight: inherit; }
`
