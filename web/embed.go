// Package web embeds the built front end: dist/app is the application,
// dist/preview what the preview origin serves around a component, dist/site what a
// catalogue without a server loads.
package web

import (
	"embed"
	"errors"
	"io/fs"
)

//go:embed all:dist
var Dist embed.FS

// Built tells what to do when the front end is not built in; nil when it is.
func Built() error {
	for _, name := range []string{"dist/app/index.html", "dist/preview/runner.js", "dist/site/site.js"} {
		if _, err := fs.Stat(Dist, name); err != nil {
			return errors.New("the front end is not built in: run make web, then build the program again")
		}
	}
	return nil
}
