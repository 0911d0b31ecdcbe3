package service

import (
	"context"
	"regexp"
	"strconv"
	"strings"

	"github.com/go-sourcemap/sourcemap"
)

// Traced is where an error was thrown, in the emitted source.
type Traced struct {
	File   string `json:"file" doc:"Empty when the place is not in the component's own source"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	Source string `json:"source" doc:"The line's text"`
}

var frame = regexp.MustCompile(`component\.js:(\d+):(\d+)`)

// Trace finds the line of a component's emitted source that a browser's stack
// trace names, through the compiled bundle's source map.
func (s *Service) Trace(ctx context.Context, slug, build, stack string) (Traced, error) {
	b, err := s.Build(ctx, slug)
	if err != nil || b.Build != build || b.Bundle.Map == "" {
		return Traced{}, err
	}
	return b.Trace(stack)
}

// Trace finds the first line of the emitted source in a browser's stack trace.
func (b Built) Trace(stack string) (Traced, error) {
	m, err := sourcemap.Parse("", []byte(b.Bundle.Map))
	if err != nil {
		return Traced{}, err
	}
	for _, at := range frame.FindAllStringSubmatch(stack, -1) {
		line, _ := strconv.Atoi(at[1])
		column, _ := strconv.Atoi(at[2])
		source, _, n, c, ok := m.Source(line, max(0, column-1))
		if !ok {
			continue
		}
		for _, f := range b.Files {
			if strings.HasSuffix(source, f.Path) {
				lines := strings.Split(f.Content, "\n")
				if n >= 1 && n <= len(lines) {
					return Traced{f.Path, n, c + 1, strings.TrimSpace(lines[n-1])}, nil
				}
			}
		}
	}
	return Traced{}, nil
}
