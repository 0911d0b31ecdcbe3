// Package web embeds the built front end: dist/app is the application,
// dist/preview what the preview origin serves around a component.
package web

import "embed"

//go:embed all:dist
var Dist embed.FS
