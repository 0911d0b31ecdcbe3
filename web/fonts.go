package web

import (
	"fmt"
	"sync"

	"cobrik/core/font"
)

// Fonts gives the fonts components are shown in, for measuring text without a
// browser. The library is made once.
var Fonts = sync.OnceValues(func() (*font.Library, error) {
	library := new(font.Library)
	for _, f := range []struct{ family, file string }{
		{"Hanken Grotesk", "hanken-grotesk-latin-wght-normal.woff2"},
		{"Hanken Grotesk", "hanken-grotesk-latin-ext-wght-normal.woff2"},
		{"JetBrains Mono", "jetbrains-mono-latin-wght-normal.woff2"},
	} {
		file, err := Dist.ReadFile("dist/preview/" + f.file)
		if err != nil {
			return nil, fmt.Errorf("the fonts are not built in: %w", err)
		}
		if err := library.Add(f.family, file); err != nil {
			return nil, err
		}
	}
	return library, nil
})
