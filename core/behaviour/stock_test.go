package behaviour_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/behaviour/behaviourtest"
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
	for _, c := range behaviourtest.Practices {
		t.Run(c.Stock, func(t *testing.T) {
			chart := stock(t, c.Stock, c.Choices)
			env := contract.Env{Direction: c.Direction}
			cfg, effects := chart.Start(env)
			require.Empty(t, effects)
			for _, step := range strings.Split(c.Steps, " | ") {
				event, holds, _ := strings.Cut(step, ": ")
				if prop, set := strings.CutPrefix(event, "set "); set {
					name, value, _ := strings.Cut(prop, " ")
					given := contract.Value(contract.OptionValue(value))
					if value == "true" || value == "false" {
						given = contract.FlagValue(value == "true")
					}
					env.Props = env.Props.With(contract.Values{name: given})
					cfg, _ = chart.Step(cfg, env, behaviour.Event{Kind: behaviour.Changed, Name: name}, nil)
				} else if ms, wait := strings.CutPrefix(event, "wait "); wait {
					var n float64
					_, err := fmt.Sscan(ms, &n)
					require.NoError(t, err)
					cfg, _ = chart.Advance(cfg, env, cfg.Now+n)
				} else {
					cfg, _ = chart.Step(cfg, env, behaviour.ParseEvent(event), nil)
				}
				says := map[string]string{}
				for _, s := range chart.Says(cfg, env) {
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
