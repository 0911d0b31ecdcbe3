package web

import (
	"fmt"
	"sync"

	"cobrik/core/font"
)

// FontFiles are the shipped font files within Dist, by family.
var FontFiles = []struct{ Family, Name string }{
	{"Hanken Grotesk", "dist/preview/hanken-grotesk-latin-wght-normal.woff2"},
	{"Hanken Grotesk", "dist/preview/hanken-grotesk-latin-ext-wght-normal.woff2"},
	{"JetBrains Mono", "dist/preview/jetbrains-mono-latin-wght-normal.woff2"},
}

// Fonts gives the fonts components are shown in, for measuring text without a
// browser. The library is made once.
var Fonts = sync.OnceValues(func() (*font.Library, error) {
	library := new(font.Library)
	for _, f := range FontFiles {
		file, err := Dist.ReadFile(f.Name)
		if err != nil {
			return nil, fmt.Errorf("the fonts are not built in: %w", err)
		}
		if err := library.Add(f.Family, file); err != nil {
			return nil, err
		}
	}
	return library, nil
})
