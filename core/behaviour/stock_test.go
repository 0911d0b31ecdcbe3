package behaviour_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

func stock(t testing.TB, name string, c behaviour.Choices) *behaviour.Chart {
	t.Helper()
	s := behaviour.StockNamed(name)
	require.NotNil(t, s, name)
	chart, found := behaviour.Compile(s.Make(c))
	require.Empty(t, found)
	return chart
}

// Every stock machine, in all its choices, has nothing wrong with it that a check finds, is explored whole, and is written and read again as it is.
func TestStockMachinesAreSound(t *testing.T) {
	for _, s := range behaviour.Stocks {
		for i, c := range []behaviour.Choices{{}, {Items: 2, Always: true, Open: 1, Vertical: true, Mixed: true, Outside: true}, {Items: 5, Several: true, Open: 2}, {Items: 1}, {Names: []string{"idle", "running", "draining"}, Times: []float64{500, 2000, 300}}} {
			if c.Items == 1 && s.Name != "panels" && s.Name != "disclosure" {
				continue // one of one is no choice
			}
			t.Run(fmt.Sprint(s.Name, i), func(t *testing.T) {
				chart := stock(t, s.Name, c)
				o := behaviour.Options{}
				switch s.Name {
				case "timed cycle":
					o.Env = contract.EnvOf(contract.Values{"paused": contract.FlagValue(false)})
					o.Props = map[string][]contract.Value{"paused": {contract.FlagValue(true), contract.FlagValue(false)}}
				case "loading":
					o.Env = contract.EnvOf(contract.Values{"status": contract.OptionValue("waiting")})
					for _, status := range []string{"waiting", "shown", "failed", "empty"} {
						o.Props = map[string][]contract.Value{"status": append(o.Props["status"], contract.OptionValue(status))}
					}
				case "slider", "range":
					o.Most = 400 // all values of both are many
				}
				r := chart.Check(o)
				if o.Most == 0 {
					assert.True(t, r.Whole, "%d explored", r.Explored)
				}
				for _, f := range r.Findings {
					assert.Fail(t, f.Message, "%+v", f)
				}
				again, found := behaviour.ReadSCXML(chart.Machine.SCXML())
				require.Empty(t, found)
				assert.JSONEq(t, written(t, chart.Machine), written(t, again))
			})
		}
	}
}

// What each pattern of the ARIA Authoring Practices Guide (W3C, 2024) asks of keys, attributes and focus, step by step: an event, then what holds after it.
func TestStockMachinesFollowTheirPractice(t *testing.T) {
	for _, c := range []struct {
		stock   string
		choices behaviour.Choices
		env     contract.Env
		steps   string // event: state; part attribute=value; focus part
	}{
		{"toggle button", behaviour.Choices{}, contract.Env{}, "press.button: pressed, button aria-pressed=true | press.button: released, button aria-pressed=false"},                                                                                                  // Button, Toggle button
		{"disclosure", behaviour.Choices{}, contract.Env{}, "press.button: open, button aria-expanded=true, panel hidden=false | press.button: closed, button aria-expanded=false, panel hidden=true"},                                                                 // Disclosure, States
		{"panels", behaviour.Choices{}, contract.Env{}, "press.header2: open2, header2 aria-expanded=true, panel2 hidden=false, panel1 hidden=true | press.header3: open3, header2 aria-expanded=false, panel2 hidden=true | press.header3: none, panel3 hidden=true"}, // Accordion, one at a time
		{"panels", behaviour.Choices{Always: true, Open: 2}, contract.Env{}, "press.header2: open2, header2 aria-disabled=true, header1 aria-disabled=false | press.header1: open1, header1 aria-disabled=true, panel1 hidden=false"},                                  // aria-disabled where a panel cannot be collapsed
		{"panels", behaviour.Choices{Several: true}, contract.Env{}, "press.header1: open1 | press.header3: open1 open3, panel1 hidden=false, panel3 hidden=false, panel2 hidden=true | press.header1: open3, panel1 hidden=true"},                                     //
		{"panels", behaviour.Choices{}, contract.Env{}, "key.ArrowDown.header1: focus header2 | key.ArrowDown.header3: focus header1 | key.ArrowUp.header1: focus header3 | key.Home.header3: focus header1 | key.End.header1: focus header3"},                         // Keyboard Interaction
		{"tabs", behaviour.Choices{}, contract.Env{}, "key.ArrowRight.tab1: at2, focus tab2, tab2 aria-selected=true, tab1 aria-selected=false, tab2 tabindex=0, tab1 tabindex=-1, panel2 hidden=false, panel1 hidden=true | key.ArrowLeft.tab2: at1, focus tab1 | key.ArrowLeft.tab1: at3, focus tab3 | key.ArrowRight.tab3: at1, focus tab1 | key.End.tab1: at3, focus tab3 | key.Home.tab3: at1, focus tab1 | press.tab2: at2"},
		{"tabs", behaviour.Choices{Vertical: true}, contract.Env{}, "key.ArrowRight.tab1: at1 | key.ArrowDown.tab1: at2, focus tab2 | key.ArrowUp.tab2: at1, focus tab1"}, // aria-orientation vertical
		{"menu button", behaviour.Choices{}, contract.Env{}, "press.button: item1, focus item1, button aria-expanded=true, menu hidden=false | key.Escape.item1: closed, focus button, button aria-expanded=false, menu hidden=true | key.ArrowDown.button: item1, focus item1 | key.ArrowDown.item1: item2, focus item2 | key.End.item2: item3, focus item3 | key.ArrowDown.item3: item1, focus item1 | key.ArrowUp.item1: item3, focus item3 | key.Home.item3: item1, focus item1 | press.item1: closed, focus button"},
		{"menu button", behaviour.Choices{}, contract.Env{}, "key.ArrowUp.button: item3, focus item3 | outside-press.menu: closed | press.button: item1 | focus-out.menu: closed"},                                                                                                   // ArrowUp opens at the last (optional)
		{"dialog", behaviour.Choices{}, contract.Env{}, "press.opener: open, focus first, dialog aria-modal=true, dialog hidden=false | outside-press.dialog: open | key.Escape: closed, focus opener, dialog hidden=true | press.opener: open | press.close: closed, focus opener"}, // Dialog (Modal), Keyboard Interaction
		{"dialog", behaviour.Choices{Outside: true}, contract.Env{}, "press.opener: open | outside-press.dialog: closed, focus opener"},
		{"slider", behaviour.Choices{}, contract.Env{}, "key.ArrowRight.handle: handle aria-valuenow=1 | key.ArrowUp.handle: handle aria-valuenow=2 | key.ArrowLeft.handle: handle aria-valuenow=1 | key.PageUp.handle: handle aria-valuenow=11, fill share=0.11 | key.PageDown.handle: handle aria-valuenow=1 | key.ArrowDown.handle: handle aria-valuenow=0 | key.ArrowDown.handle: handle aria-valuenow=0 | key.End.handle: handle aria-valuenow=100, handle aria-valuemin=0, handle aria-valuemax=100 | key.ArrowRight.handle: handle aria-valuenow=100 | key.Home.handle: handle aria-valuenow=0"},
		{"slider", behaviour.Choices{Vertical: true}, contract.Env{Direction: "rtl"}, "key.ArrowLeft.handle: handle aria-valuenow=1, handle aria-orientation=vertical | key.ArrowRight.handle: handle aria-valuenow=0 | key.ArrowUp.handle: handle aria-valuenow=1"},
		{"range", behaviour.Choices{}, contract.Env{}, "key.End.low: low aria-valuenow=100, high aria-valuemin=100 | key.Home.high: high aria-valuenow=100 | key.Home.low: low aria-valuenow=0 | key.PageDown.high: high aria-valuenow=90, low aria-valuemax=90, fill share=0.9 | key.PageUp.low: low aria-valuenow=10, fill start=0.1"}, // Slider (Multi-Thumb): each limits the other
		{"checkbox", behaviour.Choices{}, contract.Env{}, "press.box: checked, box aria-checked=true | key.Space.box: unchecked, box aria-checked=false"},
		{"checkbox", behaviour.Choices{Mixed: true}, contract.Env{}, "key.Space.box: checked | key.Space.box: unchecked | key.Space.box: checked"},
		{"radio group", behaviour.Choices{}, contract.Env{}, "key.Space.radio1: at1, radio1 aria-checked=true | key.ArrowDown.radio1: at2, focus radio2, radio2 aria-checked=true, radio1 aria-checked=false, radio2 tabindex=0, radio1 tabindex=-1 | key.ArrowRight.radio2: at3 | key.ArrowRight.radio3: at1 | key.ArrowUp.radio1: at3, focus radio3 | key.ArrowLeft.radio3: at2"},
		{"switch", behaviour.Choices{}, contract.Env{}, "press.button: on, button aria-checked=true | press.button: off, button aria-checked=false"},
		{"tooltip", behaviour.Choices{}, contract.Env{}, "focus-in.trigger: shown, tip hidden=false | key.Escape: hidden, tip hidden=true | focus-in.trigger: shown | focus-out.trigger: hidden | pointer-in.trigger: tip hidden=true | wait 499: tip hidden=true | wait 1: shown, tip hidden=false | pointer-out.trigger: hidden | pointer-in.trigger: hidden | pointer-out.trigger: hidden | wait 900: hidden"},
		{"timed cycle", behaviour.Choices{}, contract.EnvOf(contract.Values{}), "wait 2999: stop | wait 1: go, root data-state=go | set paused true: held | wait 9000: held | set paused false: go | wait 4000: slow | wait 1000: stop"},
		{"loading", behaviour.Choices{}, contract.Env{}, "set status failed: failed, trouble hidden=false, root aria-busy=false | press.retry: waiting, placeholder hidden=false, root aria-busy=true | set status shown: shown, content hidden=false, placeholder hidden=true | set status waiting: waiting | set status empty: empty, nothing hidden=false"},
		{"carousel", behaviour.Choices{}, contract.Env{}, "wait 5000: slide2, slide2 hidden=false, slide1 hidden=true, slides aria-live=off | pointer-in.slides: held, slides aria-live=polite | wait 20000: slide2 | pointer-out.slides: playing | wait 5000: slide3 | press.pause: paused, pause aria-pressed=true | wait 20000: slide3 | press.next: slide1 | press.before: slide3 | press.pause: playing | wait 5000: slide1"}, // Carousel, rotation stops on hover and focus
	} {
		t.Run(c.stock, func(t *testing.T) {
			chart := stock(t, c.stock, c.choices)
			cfg, effects := chart.Start(c.env)
			require.Empty(t, effects)
			for _, step := range strings.Split(c.steps, " | ") {
				event, holds, _ := strings.Cut(step, ": ")
				if prop, set := strings.CutPrefix(event, "set "); set {
					name, value, _ := strings.Cut(prop, " ")
					given := contract.Value(contract.OptionValue(value))
					if value == "true" || value == "false" {
						given = contract.FlagValue(value == "true")
					}
					c.env.Props = c.env.Props.With(contract.Values{name: given})
					cfg, _ = chart.Step(cfg, c.env, behaviour.Event{Kind: behaviour.Changed, Name: name}, nil)
				} else if ms, wait := strings.CutPrefix(event, "wait "); wait {
					var n float64
					_, err := fmt.Sscan(ms, &n)
					require.NoError(t, err)
					cfg, _ = chart.Advance(cfg, c.env, cfg.Now+n)
				} else {
					cfg, _ = chart.Step(cfg, c.env, behaviour.ParseEvent(event), nil)
				}
				says := map[string]string{}
				for _, s := range chart.Says(cfg, c.env) {
					says[s.Part+" "+s.Name] = fmt.Sprint(s.Value)
				}
				for _, one := range strings.Split(holds, ", ") {
					switch attribute, value, isSet := strings.Cut(one, "="); {
					case isSet:
						assert.Equal(t, value, says[attribute], "%s after %s", attribute, event)
					case strings.HasPrefix(one, "focus "):
						assert.Equal(t, strings.TrimPrefix(one, "focus "), cfg.Focus, "the focus after %s", event)
					default:
						for _, state := range strings.Fields(one) {
							assert.True(t, cfg.In(state), "after %s it is in %v, not in %s", event, cfg.Active, state)
						}
					}
				}
			}
		})
	}
}

// Stock machines wait for all keys that their roles ask for; one that does not wait for one of them is told.
func TestKeysOfRoles(t *testing.T) {
	parts := map[string]map[string]string{
		"tabs": {"tab1": "tab", "tab3": "tab"}, "menu button": {"item1": "menuitem", "item2": "menuitem"}, "dialog": {"dialog": "dialog"}, "slider": {"handle": "slider"}, "range": {"low": "slider", "high": "slider"},
		"checkbox": {"box": "checkbox"}, "radio group": {"radio1": "radio"}, "tooltip": {"tip": "tooltip"},
	}
	roles := map[string]bool{}
	for name, of := range parts {
		o := behaviour.Options{Roles: of, Most: 300}
		m := behaviour.StockNamed(name).Make(behaviour.Choices{})
		missing := func() (out []string) {
			chart, found := behaviour.Compile(m)
			require.Empty(t, found)
			for _, f := range chart.Check(o).Findings {
				if f.Rule == "keys-missing" {
					out = append(out, f.Message)
				}
			}
			return out
		}
		assert.Empty(t, missing(), name)
		for part, role := range of {
			roles[role] = true
			for _, keys := range behaviour.RoleKeys[role] {
				m = behaviour.StockNamed(name).Make(behaviour.Choices{})
				m.Root.Walk(func(s, _ *behaviour.State) {
					for i := range s.On {
						if e := &s.On[i].Event; e.Kind == behaviour.Key && slices.Contains(keys, e.Name) && (e.Part == part || e.Part == "") {
							e.Name = "F1"
						}
					}
				})
				got := missing()
				if assert.NotEmpty(t, got, "%s without %v", name, keys) {
					assert.Contains(t, strings.Join(got, "; "), fmt.Sprintf("%s is a %s, and nothing waits for %s at it", part, role, strings.Join(keys, " or ")))
				}
			}
		}
	}
	for role := range behaviour.RoleKeys {
		assert.True(t, roles[role], "no stock machine has a %s", role)
	}
}

// A drag moves the handle to a share of the track, on steps, within its limits.
func TestASliderIsDragged(t *testing.T) {
	m := behaviour.StockNamed("slider").Make(behaviour.Choices{})
	m.Values[0].Initial, m.Values[1].Initial, m.Values[2].Initial = 10.0, 20.0, 2.5
	chart, found := behaviour.Compile(m)
	require.Empty(t, found)
	cfg, _ := chart.Start(contract.Env{})
	for share, want := range map[float64]float64{0: 10, 0.26: 12.5, 0.49: 15, 1: 20, 7: 20, -2: 10} {
		cfg, effects := chart.Step(cfg, contract.Env{}, behaviour.Event{Kind: behaviour.Dragged, Part: "handle"}, share)
		assert.Equal(t, want, cfg.Values["value"], share)
		assert.Equal(t, []behaviour.Effect{{Tell: "onChange", With: want}}, effects)
	}
}

// A cycle begins where whoever uses it says, and each by itself.
func TestACycleBeginsWhereItIsTold(t *testing.T) {
	chart := stock(t, "timed cycle", behaviour.Choices{Names: []string{"idle", "running", "draining"}, Times: []float64{500, 2000, 300}})
	chart.Machine.Values = nil // begin is a prop
	for _, name := range []string{"idle", "running", "draining"} {
		cfg, effects := chart.Start(contract.EnvOf(contract.Values{"begin": contract.OptionValue(name)}))
		assert.Empty(t, effects)
		assert.True(t, cfg.In(name), "%v", cfg.Active)
	}
	o := behaviour.Options{Env: contract.EnvOf(contract.Values{"begin": contract.OptionValue("idle")}), Order: []string{"idle", "running", "draining", "idle"}}
	for _, f := range chart.Check(o).Findings {
		assert.NotEqual(t, "order-other", f.Rule, f.Message)
	}
}

func BenchmarkCheckOfTheLargestStockMachine(b *testing.B) {
	chart, _ := behaviour.Compile(behaviour.StockNamed("panels").Make(behaviour.Choices{Items: 8, Several: true}))
	explored := 0
	for b.Loop() {
		explored = chart.Check(behaviour.Options{}).Explored
	}
	b.ReportMetric(float64(explored), "configurations")
}

func BenchmarkStep(b *testing.B) {
	chart, _ := behaviour.Compile(behaviour.StockNamed("panels").Make(behaviour.Choices{Items: 4}))
	cfg, _ := chart.Start(contract.Env{})
	press := behaviour.ParseEvent("press.header2")
	for b.Loop() {
		cfg, _ = chart.Step(cfg, contract.Env{}, press, nil)
	}
}
