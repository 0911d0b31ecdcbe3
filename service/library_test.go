package service

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/store"
)

// Whoever hangs up while the tokens of many themes are read does not keep the server at it.
func TestAnOpeningIsCancelled(t *testing.T) {
	var modifiers, order []string
	for k := range 8 {
		modifiers = append(modifiers, fmt.Sprintf(`"m%d":{"default":"a","contexts":{"a":[],"b":[]}}`, k))
		order = append(order, fmt.Sprintf(`{"$ref":"#/modifiers/m%d"}`, k))
	}
	files := []store.TokenFile{
		{Name: "a.tokens.json", Content: []byte(`{"n":{"$type":"number","$value":1}}`)},
		{Name: "a.resolver.json", Content: []byte(`{"version":"2025.10","modifiers":{` + strings.Join(modifiers, ",") + `},"resolutionOrder":[` + strings.Join(order, ",") + `]}`)},
	}
	l, err := openLibrary(t.Context(), store.TokenRevision{}, files)
	assert.NoError(t, err)
	assert.Len(t, l.sets, 256)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = openLibrary(ctx, store.TokenRevision{}, files)
	assert.ErrorIs(t, err, context.Canceled)
}
