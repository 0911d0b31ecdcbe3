package story

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/sheet"
	"cobrik/demo"
	"cobrik/service"
)

// unfolds is how a panel is shown and hidden.
const unfolds = "transition height {motion.time.calm} {motion.curve.settle}"

// behaving are the families that do something by themselves: what is drawn of their states is what they look like in them.
var behaving = []struct {
	family string
	states string            // the prop whose options are drawn for states; empty for none
	press  map[string]string // parts by the option that their press leads to
	edits  []sheet.Edit
	words  string // empty for what follows from the options
	after  []sheet.Edit
	kept   map[string][]service.Happens // scenarios by name
}{
	{family: "pump-lamp", states: "status", edits: []sheet.Edit{{Do: "set", On: "parts/root", Cell: "element", Text: "button"}}, words: `machine PumpLamp
begins as status says
expects running, then draining, then still
state still
  on press of root: to running, tell onStart
  text of label is 'Still'
  aria-pressed of root is false
state running
  after 9000 ms: to draining
  text of label is 'Running'
  aria-pressed of root is true
state draining
  after 4000 ms: to still
  text of label is 'Draining'
  aria-pressed of root is false
`, kept: map[string][]service.Happens{
		"runs dry by itself": {press(0, "root"), expect(0, "label", contract.TextSaid, "Running"), expect(0, "root", "aria-pressed", "true"), expect(0, "", contract.IsTold, "onStart"),
			expect(9000, "label", contract.TextSaid, "Draining"), expect(13000, "label", contract.TextSaid, "Still")},
		"a press while it runs changes nothing": {press(0, "root"), press(4000, "root"), expect(4000, "label", contract.TextSaid, "Running"), expect(9000, "label", contract.TextSaid, "Draining")},
	}},
	{family: "bed-meter", states: "moisture", edits: []sheet.Edit{{Do: "set", On: "parts/marker", Cell: "element", Text: "div role=slider tabindex=0 aria-labelledby=#label aria-valuemin=0 aria-valuemax=100"}}, words: `machine BedMeter
begins as moisture says
keeps level, at first 55
on dragged of marker: to chosen, level becomes round(event * 100), tell onLevel with level
on key ArrowRight of marker: to chosen, level becomes min(level + 1, 100), tell onLevel with level
on key ArrowUp of marker: to chosen, level becomes min(level + 1, 100), tell onLevel with level
on key ArrowLeft of marker: to chosen, level becomes max(level - 1, 0), tell onLevel with level
on key ArrowDown of marker: to chosen, level becomes max(level - 1, 0), tell onLevel with level
on key Home of marker: to chosen, level becomes 0, tell onLevel with level
on key End of marker: to chosen, level becomes 100, tell onLevel with level
state moist
  aria-valuenow of marker is 55
state dry
  on key ArrowRight of marker: to chosen, level becomes 21, tell onLevel with level
  on key ArrowUp of marker: to chosen, level becomes 21, tell onLevel with level
  on key ArrowLeft of marker: to chosen, level becomes 19, tell onLevel with level
  on key ArrowDown of marker: to chosen, level becomes 19, tell onLevel with level
  aria-valuenow of marker is 20
state wet
  on key ArrowRight of marker: to chosen, level becomes 91, tell onLevel with level
  on key ArrowUp of marker: to chosen, level becomes 91, tell onLevel with level
  on key ArrowLeft of marker: to chosen, level becomes 89, tell onLevel with level
  on key ArrowDown of marker: to chosen, level becomes 89, tell onLevel with level
  aria-valuenow of marker is 90
state chosen
  aria-valuenow of marker is level
  share of fill is level / 100
  start of marker is level / 100
  text of reading is String(level) + ' %'
`, after: []sheet.Edit{{Do: "add", On: "parts/marker", Cell: "value", Text: "when state chosen: margin-inline -2px"}}, kept: map[string][]service.Happens{
		"the marker is dragged": {{At: 0, Event: behaviour.Event{Kind: behaviour.Dragged, Part: "marker"}, Value: 0.25}, expect(0, "marker", "aria-valuenow", "25"), expect(0, "fill", "share", "0.25"), expect(0, "reading", contract.TextSaid, "25 %"), expect(0, "", contract.IsTold, "onLevel 25")},
		"keys move it by one":   {key(0, "ArrowRight", "marker"), expect(0, "marker", "aria-valuenow", "56"), key(100, "End", "marker"), key(200, "ArrowUp", "marker"), expect(200, "marker", "aria-valuenow", "100")},
	}},
	{family: "season-panels", states: "open", press: map[string]string{"spring": "springTitle", "summer": "summerTitle", "autumn": "autumnTitle", "winter": "winterTitle"}, after: []sheet.Edit{ // each unfolds
		{Do: "add", On: "parts/springNote", Cell: "value", Text: unfolds}, {Do: "add", On: "parts/summerNote", Cell: "value", Text: unfolds}, {Do: "add", On: "parts/autumnNote", Cell: "value", Text: unfolds}, {Do: "add", On: "parts/winterNote", Cell: "value", Text: unfolds},
	}},
	{family: "member-menu", states: "expanded", edits: []sheet.Edit{ // it opens above the page, on whichever side there is room
		{Do: "set", On: "parts/triggerButton", Cell: "element", Text: "button aria-controls=#navigation"}, {Do: "set", On: "parts/navigation", Cell: "element", Text: "nav popover=manual"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "position-area bottom span-right"}, {Do: "add", On: "parts/navigation", Cell: "value", Text: "position-try-fallbacks flip-block, flip-inline, flip-block flip-inline"}, {Do: "add", On: "parts/navigation", Cell: "value", Text: "margin-block {space.2}"},
	}, words: `machine MemberMenu
begins as expanded says
hidden of navigation is true
aria-expanded of triggerButton is false
state rest
  on press of triggerButton: to expanded, tell onToggle with true
state expanded
  on press of triggerButton: to rest, tell onToggle with false
  on key Escape: to rest, tell onToggle with false, focus triggerButton
  on outside-press of navigation: to rest, tell onToggle with false
  hidden of navigation is false
  aria-expanded of triggerButton is true
`, kept: map[string][]service.Happens{
		"Escape closes it": {press(0, "triggerButton"), expect(0, "navigation", contract.IsShown, ""), key(100, "Escape", ""), expect(100, "navigation", contract.IsHidden, ""), expect(100, "triggerButton", contract.IsFocused, ""),
			expect(100, "", contract.IsTold, "onToggle false")},
		"a press beside it closes it": {press(0, "triggerButton"), {At: 100, Event: behaviour.Event{Kind: behaviour.OutsidePress, Part: "navigation"}}, expect(100, "triggerButton", "aria-expanded", "false")},
	}},
	{family: "page-shell", edits: []sheet.Edit{{Do: "set", On: "parts/menuButton", Cell: "element", Text: "button aria-controls=#navigation"}}, words: `machine PageShell
aria-expanded of menuButton is false
state shut
  on press of menuButton: to shown
state shown
  on press of menuButton: to shut
  on key Escape: to shut, focus menuButton
  aria-expanded of menuButton is true
`, after: []sheet.Edit{ // the menu opens below the bar where it is narrow
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: display block"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: position absolute"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: top 100%"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: left 0px"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: width 100%"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: padding-inline {space.4}"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: padding-block {space.3}"},
		{Do: "add", On: "parts/navigation", Cell: "value", Text: "when container < 915px and state shown: background-color {nav.ground}"},
		{Do: "add", On: "parts/links", Cell: "value", Text: "when container < 915px and state shown: flex-wrap wrap"},
		{Do: "add", On: "parts/header", Cell: "value", Text: "when container < 915px and state shown: position relative"},
	}},
}

func press(at float64, part string) service.Happens {
	return service.Happens{At: at, Event: behaviour.Event{Kind: behaviour.Press, Part: part}}
}

func key(at float64, name, part string) service.Happens {
	return service.Happens{At: at, Event: behaviour.Event{Kind: behaviour.Key, Name: name, Part: part}}
}

func expect(at float64, part, is, value string) service.Happens {
	return service.Happens{At: at, Expect: &contract.Expected{Part: part, Is: is, Value: value}}
}

// behave gives a component what its family does; nothing for one that does nothing by itself. It gives the revision.
func behave(ctx context.Context, s *service.Service, family, slug string) (int, error) {
	revision := 1
	for _, b := range behaving {
		if b.family != family {
			continue
		}
		if b.states != "" {
			done, err := s.AdoptStates(ctx, slug, revision, b.states, nil, b.press, behaviour.WithProp)
			if err != nil {
				return 0, fmt.Errorf("the states of %s: %w", slug, err)
			}
			revision = done.Revision
		}
		edit := func(list []sheet.Edit) error {
			for _, e := range list {
				done, err := s.Amend(ctx, slug, revision, e)
				if err != nil {
					return fmt.Errorf("%s of %s: %w", e.On, slug, err)
				}
				revision = done.Revision
			}
			return nil
		}
		if err := edit(b.edits); err != nil {
			return 0, err
		}
		if b.words != "" {
			done, err := s.Behave(ctx, slug, revision, b.words)
			if err != nil {
				return 0, fmt.Errorf("what %s does: %w", slug, err)
			}
			revision = done.Revision
		}
		if err := edit(b.after); err != nil {
			return 0, err
		}
		for _, name := range slices.Sorted(maps.Keys(b.kept)) {
			done, err := s.KeepScenario(ctx, slug, revision, name, service.Instance{Happens: b.kept[name]})
			if err != nil {
				return 0, fmt.Errorf("the scenario %q of %s: %w", name, slug, err)
			}
			revision = done.Revision
		}
	}
	return revision, nil
}

// drafted drafts the families that do something and are not released yet.
func drafted(ctx context.Context, s *service.Service) error {
	for _, b := range behaving {
		if slices.ContainsFunc(released, func(r release) bool { return r.family == b.family }) {
			continue
		}
		made, err := s.Draft(ctx, demo.Document, b.family)
		if err != nil {
			return fmt.Errorf("drafting %s: %w", b.family, err)
		}
		if _, err := behave(ctx, s, b.family, made.Slug); err != nil {
			return err
		}
	}
	if _, err := s.Placeholder(ctx, "plot-card"); err != nil {
		return fmt.Errorf("what keeps the room of a plot card: %w", err)
	}
	return nil
}
