package publish_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/contract"
	"cobrik/core/publish"
)

// Semantic Versioning 2.0.0, 6 to 8, over what a library holds.
func TestALibraryRisesWithWhatIsInIt(t *testing.T) {
	of := func(name, version string, props ...contract.Prop) publish.Component {
		return publish.Component{Version: version, Contract: &contract.Contract{Format: contract.Format, Name: name, Root: &contract.Part{ID: "root", Name: "root", Element: "p"}, Props: props}}
	}
	flag := contract.Prop{ID: "loud", Name: "loud", Type: contract.Flag{}}
	tag, card := of("CropTag", "1.0.0"), of("PlotCard", "1.0.0")
	purposeful := of("CropTag", "1.0.1")
	purposeful.Contract.Purpose = "Says it."
	for name, k := range map[string]struct {
		old, now []publish.Component
		tokens   publish.TokenChanges
		level    contract.Level
		told     []string
	}{
		"nothing":                 {[]publish.Component{tag}, []publish.Component{tag}, publish.TokenChanges{}, contract.None, nil},
		"one more":                {[]publish.Component{tag}, []publish.Component{tag, card}, publish.TokenChanges{}, contract.Minor, []string{"PlotCard 1.0.0 is added"}},
		"one less":                {[]publish.Component{tag, card}, []publish.Component{tag}, publish.TokenChanges{}, contract.Major, []string{"PlotCard is not in it any longer"}},
		"a prop more":             {[]publish.Component{tag}, []publish.Component{of("CropTag", "1.1.0", flag)}, publish.TokenChanges{}, contract.Minor, []string{"CropTag is 1.1.0 instead of 1.0.0"}},
		"a prop less":             {[]publish.Component{of("CropTag", "1.1.0", flag)}, []publish.Component{of("CropTag", "2.0.0")}, publish.TokenChanges{}, contract.Major, []string{"CropTag is 2.0.0 instead of 1.1.0"}},
		"told otherwise":          {[]publish.Component{tag}, []publish.Component{purposeful}, publish.TokenChanges{}, contract.Patch, []string{"CropTag is 1.0.1 instead of 1.0.0"}},
		"the same again":          {[]publish.Component{tag}, []publish.Component{of("CropTag", "1.0.1")}, publish.TokenChanges{}, contract.Patch, []string{"CropTag is 1.0.1 instead of 1.0.0"}},
		"another name":            {[]publish.Component{tag}, []publish.Component{of("StateTag", "2.0.0")}, publish.TokenChanges{}, contract.Major, []string{"StateTag 2.0.0 is added", "CropTag is not in it any longer"}},
		"tokens":                  {nil, nil, publish.TokenChanges{Added: 2, Removed: 1, Changed: 3}, contract.Major, []string{"1 token is gone", "2 tokens are new", "3 tokens are otherwise"}},
		"a new token":             {nil, nil, publish.TokenChanges{Added: 1}, contract.Minor, []string{"1 token is new"}},
		"a token of other values": {nil, nil, publish.TokenChanges{Changed: 1}, contract.Patch, []string{"1 token is otherwise"}},
	} {
		level, changes := publish.Since(k.old, k.now, k.tokens)
		var told []string
		for _, c := range changes {
			told = append(told, c.Text)
		}
		assert.Equal(t, k.level, level, name)
		assert.Equal(t, k.told, told, name)
	}
}
