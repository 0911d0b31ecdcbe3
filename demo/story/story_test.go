package story

import (
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// The demo starts in the middle of its story, so that every station has something to show; a fresh one with
// the sources alone. Started again, it is left as it was.
func TestTheDemoStartsInTheMiddleOfItsStory(t *testing.T) {
	begun := func(fresh bool) (*service.Service, service.Project) {
		host, err := standin.NewHost(map[string][][]byte{demo.Document: demo.Revisions()}, "")
		require.NoError(t, err)
		server := httptest.NewServer(host.Handler())
		t.Cleanup(server.Close)
		s := service.New(storetest.Open(t), service.Hosts{Design: server.URL}, font.Shipped())
		require.NoError(t, Begin(t.Context(), s, fresh))
		p, err := s.Project(t.Context())
		require.NoError(t, err)
		return s, p
	}
	s, p := begun(false)
	assert.Equal(t, len(released), p.Catalogue)
	assert.Equal(t, 5, p.Bench)
	assert.Positive(t, p.Sync, "nothing waits for a decision")
	assert.Positive(t, p.Survey, "every family has a component")
	assert.Equal(t, "Furrow revision 2, Gate signs revision 1", p.Design)
	require.NoError(t, Begin(t.Context(), s, false))
	again, err := s.Project(t.Context())
	require.NoError(t, err)
	assert.Equal(t, p, again, "a second start changed it")

	_, p = begun(true)
	assert.Equal(t, [4]int{0, 0, 0, 14}, [4]int{p.Catalogue, p.Bench, p.Sync, p.Survey})
	assert.Equal(t, "Furrow revision 1", p.Design)
}
