package react_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// A handle is taken hold of within 24 by 24 px however small it is drawn (WCAG 2.2, 2.5.8), and follows the pointer: from left to right, from right to left, and from below.
func TestAHandleIsDragged(t *testing.T) {
	thin := func(c *contract.Contract) *contract.Contract {
		s := c.Part("handle").Style
		s["width"], s["height"] = "4px", "4px"
		if s["margin-inline"] != "" {
			s["margin-inline"] = "-2px"
		}
		return c
	}
	flat, standing, two := thin(stocked(t, "Flat", "slider", behaviour.Choices{})), thin(stocked(t, "Standing", "slider", behaviour.Choices{Vertical: true})), stocked(t, "Two", "range", behaviour.Choices{})
	b := openComponents(t, []*contract.Contract{flat, standing, two})
	for _, k := range []struct {
		c         *contract.Contract
		direction string
		part      string
		x, y      float64 // of the track, where the handle is dragged to
		says      string
	}{
		{flat, "ltr", "handle", 0.75, 0.5, "75"}, {flat, "rtl", "handle", 0.75, 0.5, "25"}, {flat, "ltr", "handle", 4, 9, "100"}, {flat, "ltr", "handle", -2, 0.5, "0"},
		{standing, "ltr", "handle", 0.5, 0.25, "75"}, {two, "ltr", "low", 0.25, 0.5, "25"}, {two, "ltr", "high", 0.5, 0.5, "50"},
	} {
		m := b.mount(k.c, k.direction)
		box := func(of string) [4]float64 {
			return evaluate[[4]float64](b, "(() => { const b = "+of+".getBoundingClientRect(); return [b.x, b.y, b.width, b.height] })()")
		}
		track, handle := box(m.part("track")), box(m.part(k.part))
		beside := map[string]float64{"ltr": 10, "rtl": -10}[k.direction]
		x, y := handle[0]+handle[2]/2+beside, handle[1]+handle[3]/2+10 // beside what is drawn, within 24 px
		assert.Equal(t, "none", evaluate[string](b, "getComputedStyle("+m.part(k.part)+").touchAction"), "a finger scrolls the page instead")
		assert.True(t, evaluate[bool](b, fmt.Sprintf("document.elementFromPoint(%v, %v) === %s", x, y, m.part(k.part))), "%s is missed by who aims well", k.part)
		m.do(chromedp.MouseEvent("mouseMoved", x, y), chromedp.MouseEvent("mousePressed", x, y, chromedp.ButtonType("left"), chromedp.ClickCount(1)),
			chromedp.MouseEvent("mouseMoved", track[0]+track[2]*k.x, track[1]+track[3]*k.y, chromedp.ButtonType("left")))
		m.do(chromedp.MouseEvent("mouseReleased", track[0]+track[2]*k.x, track[1]+track[3]*k.y, chromedp.ButtonType("left"), chromedp.ClickCount(1)))
		assert.Equal(t, k.says, m.said(k.part, "aria-valuenow"), "%s %s to %v, %v", k.c.Name, k.direction, k.x, k.y)
		at := box(m.part(k.part))
		share := min(max(k.x, 0), 1)
		if k.c == standing {
			assert.InDelta(t, track[1]+1+(track[3]-2)*k.y, at[1]+at[3]/2, 0.5, "the handle stands elsewhere")
		} else {
			assert.InDelta(t, track[0]+1+(track[2]-2)*share, at[0]+at[2]/2, 0.5, "the handle stands elsewhere, %s", k.direction)
		}
		m.do(chromedp.MouseEvent("mouseMoved", track[0], track[1]))
		assert.Equal(t, k.says, m.said(k.part, "aria-valuenow"), "it follows after it was let go")
	}
}

// What only some states say of a place is said in them alone, in code as in the machine.
func TestSharesOfSomeStates(t *testing.T) {
	part := func(id, element string, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Children: children}
	}
	c := &contract.Contract{Format: contract.Format, Name: "Gauge", Props: []contract.Prop{}, Root: part("root", "div", part("fill", "div"), part("more", "button"))}
	c.Part("more").Content = contract.FixedText{Text: "More"}
	m, found := behaviour.ParseText("machine Gauge\nkeeps level, at first 0.25\nstate drawn\n  on press of more: to chosen\nstate chosen\n  on press of more: to half, level becomes level * 2\n  share of fill is level\n  start of fill is 0.1\nstate half\n  share of fill is level * 0.5\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	b := openComponents(t, []*contract.Contract{c})
	at := b.mount(c, "ltr")
	style := func() string { return evaluate[string](b, at.part("fill")+".getAttribute('style') ?? ''") }
	assert.Equal(t, "", style())
	at.happens("press.more")
	assert.Equal(t, "width: 25%; inset-inline-start: 10%;", style())
	at.happens("press.more")
	assert.Equal(t, "width: 25%;", style())
}

// A slider of the platform's is dragged, and moved by keys, as the platform does it; the state says where it stands, in tests, too.
func TestASliderOfThePlatform(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Level", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "level", Name: "level", Element: "input", Attributes: map[string]contract.Attribute{"type": {Text: "range"}, "min": {Text: "10"}, "max": {Text: "50"}, "aria-label": {Text: "Level"}}},
		{ID: "says", Name: "says", Element: "output", Content: contract.FixedText{Text: "20"}},
	}}}
	m, found := behaviour.ParseText("machine Level\nkeeps at, at first 20\non dragged of level: to moved, at becomes round(event * 40 + 10), tell onLevel with at\nvalue of level is String(at)\ntext of says is String(at)\nstate still\nstate moved\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	behaviour.Tell(c)
	checked := c.Check(nil)
	require.NoError(t, checked.Err())
	scenario, err := behaviour.Record(c, "moves", nil, []behaviour.Moment{{Happening: behaviour.Happening{At: 10, Event: behaviour.Event{Kind: behaviour.Dragged, Part: "level"}, Data: 0.75}}, {Happening: behaviour.Happening{At: 20}, Expect: &contract.Expected{Part: "says", Is: "text", Value: "40"}},
		{Happening: behaviour.Happening{At: 20}, Expect: &contract.Expected{Part: "level", Is: "value", Value: "40"}}}, nil)
	require.NoError(t, err)
	c.KeepScenario(scenario)
	files := react.Library("level", []*contract.Contract{c}, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	assertLinted(t, files)
	for _, r := range vitest(t, files) {
		assert.True(t, r.Passed, "%s: %s", r.Name, r.Says)
	}
	b := openComponents(t, []*contract.Contract{c})
	at := b.mount(c, "ltr")
	says := func() string { return evaluate[string](b, at.part("says")+".textContent") }
	assert.Equal(t, "20", says())
	box := evaluate[[4]float64](b, "(() => { const b = "+at.part("level")+".getBoundingClientRect(); return [b.x, b.y, b.width, b.height] })()")
	at.do(chromedp.MouseClickXY(box[0]+box[2]/2, box[1]+box[3]/2))
	assert.Equal(t, "30", says(), "half way from 10 to 50")
	at.do(chromedp.KeyEvent(pressedKeys["ArrowRight"]))
	assert.Equal(t, "31", says())
	at.do(chromedp.KeyEvent(pressedKeys["End"]))
	assert.Equal(t, "50", says())
	assert.Equal(t, "50", evaluate[string](b, at.part("level")+".value"))
}
