package design

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
)

// When this fails, an element of a file goes by another id than its own, so that what is said of it cannot be found in the file.
func TestElementsKeepTheirOwnIDs(t *testing.T) {
	doc, found := ImportSVG("a.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="99" height="99"><rect width="9" height="9"/><rect id="rect" x="20" width="9" height="9"/><text y="50">a</text><text id="text-2" y="70">b</text><text y="90">c</text></svg>`), font.Shipped())
	require.NotNil(t, doc, found)
	var ids []string
	doc.EachLayer(func(l *Layer) { ids = append(ids, l.ID) })
	assert.Equal(t, []string{"rect-2", "rect", "text", "text-2", "text-3"}, ids)
}
