package contract_test

import (
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"

	"cobrik/core/contract"
)

func TestWordsOfNames(t *testing.T) {
	for name, want := range map[string][]string{
		"CropTag": {"crop", "tag"}, "crop tag 2": {"crop", "tag", "2"}, "SVGFile": {"svg", "file"}, "plotID": {"plot", "id"}, "Group 14": {"group", "14"}, "2xl": {"2xl"}, "bed/row#2": {"bed", "row", "2"},
		"Größe": {"größe"}, "GRÖSSE": {"grösse"}, "Straße Nord": {"straße", "nord"}, "サイズ大": {"サイズ大"}, "Crop タグ": {"crop", "タグ"}, "साइज़": {"साइज़"}, "x²": {"x2"}, "ﬁne": {"fine"}, "①": {"1"},
		"": nil, "  ": nil, "🌱": nil, "--": nil, "_a_": {"a"}, "don't": {"don", "t"}, "\u0301x": {"x"},
	} {
		assert.Equal(t, want, contract.Words(name), "%q", name)
	}
}

func TestIdentifiers(t *testing.T) {
	for name, want := range map[string]string{
		"Crop tag": "cropTag", "2xl": "choice2xl", "3d": "choice3d", "Größe": "größe", "Größe der Karte": "größeDerKarte", "サイズ": "サイズ", "!!!": "choice", "": "choice", "Delete": "delete",
		"Due note": "dueNote", "URL": "url", "élan Vital": "élanVital", "İstanbul": "istanbul",
	} {
		assert.Equal(t, want, contract.Identifier(name, "choice"), "%q", name)
	}
	for name, want := range map[string]string{
		"crop tag": "CropTag", "größe": "Größe", "カード": "カード", "3d card": "Untitled3dCard", "": "Untitled", "component": "ComponentComponent", "Boolean": "BooleanComponent", "record": "RecordComponent", "react": "ReactComponent", "ĸra": "Untitledĸra",
	} {
		assert.Equal(t, want, contract.ComponentName(name), "%q", name)
	}
	for value, want := range map[string]string{
		"Extra large": "extra-large", "2XL": "2xl", "m": "m", "Größe 2": "größe-2", "+": "option-2b", "🌱": "option-f09f8cb1", "constructor": "constructor-option", "true": "true", "大": "大",
	} {
		assert.Equal(t, want, contract.OptionOf(value), "%q", value)
	}
}

// ECMA-262, 12.7 (IdentifierName) by Unicode's own classes; the same text is an identifier
// of CSS (CSS Syntax 3, 4.3.9).
var identifierName = regexp.MustCompile(`^[\p{L}\p{Nl}][\p{L}\p{Nl}\p{Nd}\p{Mn}\p{Mc}\p{Pc}]*$`)

func FuzzIdentifier(f *testing.F) {
	for _, seed := range []string{"Crop tag", "Größe", "サイズ", "2xl", "*/", "a\x00b", "\xff", strings.Repeat("x ", 100), "ﷺ", "𝒳", "ǅ"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, name string) {
		for _, got := range []string{contract.Identifier(name, "part"), contract.ComponentName(name)} {
			if !identifierName.MatchString(got) || len(got) > 60 || !utf8.ValidString(got) {
				t.Fatalf("%q becomes %q", name, got)
			}
		}
		if option := contract.OptionOf(name); option == "" || contract.IsReserved(option) || !utf8.ValidString(option) {
			t.Fatalf("%q becomes the option %q", name, option)
		}
		if again := contract.Identifier(contract.Identifier(name, "part"), "part"); !identifierName.MatchString(again) {
			t.Fatalf("%q", again)
		}
	})
}

func TestFreeNames(t *testing.T) {
	taken := map[string]bool{"size": true, "sizeProp": true, "sizeProp2": true}
	has := func(name string) bool { return taken[name] }
	assert.Equal(t, "tone", contract.Free("tone", "Prop", has))
	assert.Equal(t, "sizeProp3", contract.Free("size", "Prop", has))
	assert.Equal(t, "size2", contract.Free("size", "", has))
}
