package main_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const lampFile = `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" name="lamp">
<state id="still"><onentry><send id="1" event="t" delay="1s"/></onentry><transition event="t" target="draining"/></state>
<state id="running"><transition event="press.lamp" target="still"/></state>
<state id="draining"><onentry><send id="3" event="t" delay="500ms"/></onentry><transition event="t" target="still"/></state></scxml>`

// When this fails, a machine with a state that nobody reaches passes, or cannot be told where its order is another.
func TestMachineOfAFile(t *testing.T) {
	file := filepath.Join(t.TempDir(), "lamp.scxml")
	require.NoError(t, os.WriteFile(file, []byte(lampFile), 0o600))
	out, _, ok := run(t, "machine", file, "--styled", "still,running,draining", "--order", "still,running,draining")
	assert.False(t, ok, "it exits as if nothing had been found")
	assert.Contains(t, out, "state still\n  after 1000 ms: to draining")
	assert.Contains(t, out, "state running\n  on press of lamp: to still")
	assert.Contains(t, out, "nothing leads to running")
	assert.Contains(t, out, "after still comes draining; running was expected")
	assert.Contains(t, out, "wait 1000 ms")

	out, _, _ = run(t, "machine", file, "--json", "--styled", "still,running,draining")
	var got struct {
		Name     string
		Root     struct{ States []struct{ ID string } }
		Findings []struct{ Rule, State string }
		Whole    bool
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "lamp", got.Name)
	assert.Len(t, got.Root.States, 3)
	assert.Equal(t, []struct{ Rule, State string }{{"state-unreachable", "running"}}, got.Findings)

	require.NoError(t, os.WriteFile(file, []byte(`<scxml xmlns="http://www.w3.org/2005/07/scxml"><state id="a"><transition event="e" target="nowhere"/></state></scxml>`), 0o600))
	_, errs, ok := run(t, "machine", file)
	assert.False(t, ok)
	assert.Contains(t, errs, `lamp.scxml:1:48: a transition leads to "nowhere", which is not there; name one that is there`)
}

// Stock machines are written as files that are read again.
func TestStockMachinesAreWritten(t *testing.T) {
	out, _, ok := run(t, "machine", "--stock", "tabs", "--items", "4", "--scxml")
	require.True(t, ok)
	file := filepath.Join(t.TempDir(), "tabs.scxml")
	require.NoError(t, os.WriteFile(file, []byte(out), 0o600))
	out, _, ok = run(t, "machine", file)
	assert.True(t, ok, out)
	assert.Contains(t, out, "there are no others; 0 things found")
	assert.Contains(t, out, "on key ArrowRight of tab4: to at1, focus tab1")
	words := filepath.Join(t.TempDir(), "lamp.machine")
	require.NoError(t, os.WriteFile(words, []byte("machine lamp\nstate still\n  on press: to running\n  note of lamp is 'still'\nstate running\n  on press: to still\n  note of lamp is 'on'\n"), 0o600))
	out, _, ok = run(t, "machine", words, "--scxml")
	require.True(t, ok)
	assert.Contains(t, out, `<transition event="press" target="running"/>`)
	require.NoError(t, os.WriteFile(words, []byte("machine lamp\nstate still\n  on tap: to still\n"), 0o600))
	_, errs, ok := run(t, "machine", words)
	assert.False(t, ok)
	assert.Contains(t, errs, `lamp.machine: line 3: there is no event "tap"`)
	_, errs, ok = run(t, "machine", "--stock", "nothing")
	assert.False(t, ok)
	assert.Contains(t, errs, `there is no stock machine "nothing"`)
	_, errs, ok = run(t, "machine", "--stock", "slider", "--roles", "handle=slyder")
	assert.False(t, ok)
	assert.Contains(t, errs, `handle is called a "slyder"`)
	_, errs, ok = run(t, "machine", "--stock", "tabs", "--styled", "at9")
	assert.False(t, ok)
	assert.Contains(t, errs, `there is no state "at9"`)
	_, errs, ok = run(t, "machine")
	assert.False(t, ok)
	assert.Contains(t, errs, "name a file")
}

// A contract is given a behaviour, and its code runs it; what the contract does not have is refused.
func TestAContractThatBehaves(t *testing.T) {
	dir := t.TempDir()
	file := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	tokens := file("t.json", `{"run":{"$type":"duration","$value":{"value":2,"unit":"s"}}}`)
	lamp := file("lamp.json", `{"format":"cobrik.contract/1","name":"Lamp","props":[],"root":{"id":"r1","name":"bulb","element":"button","fixedText":"Lamp","style":{"min-height":"24px","min-width":"24px"}}}`)
	_, errs, ok := run(t, "machine", file("bad.machine", "machine lamp\nstate off\n  on press of wire: to off\n"), "--into", lamp)
	assert.False(t, ok)
	assert.Contains(t, errs, `there is no part "wire"`)
	out, errs, ok := run(t, "machine", file("lamp.machine", "machine lamp\nstate off\n  on press of bulb: to on, tell onLight\n  aria-pressed of bulb is false\nstate on\n  after {run}: to off\n  aria-pressed of bulb is true\n"), "--into", lamp)
	require.True(t, ok, errs)
	behaving := file("behaving.json", out)
	out, _, ok = run(t, "contract", "check", behaving, "--tokens", tokens)
	assert.True(t, ok, out)
	code := filepath.Join(dir, "code")
	_, errs, ok = run(t, "emit", behaving, "--tokens", tokens, "--out", code)
	require.True(t, ok, errs)
	hook, err := os.ReadFile(filepath.Join(code, "useLamp.ts"))
	require.NoError(t, err)
	assert.Contains(t, string(hook), `setTimeout(() => send("time of on"), 2000)`, "a time is not as long as its duration")
	component, err := os.ReadFile(filepath.Join(code, "Lamp.tsx"))
	require.NoError(t, err)
	assert.Contains(t, string(component), `aria-pressed={state.at === "on"}`)
	assert.Contains(t, string(component), `send("press of bulb")`)
	out, _, ok = run(t, "contract", "check", behaving, "--tokens", file("none.json", `{"gap":{"$type":"number","$value":1}}`))
	assert.False(t, ok, "a time that is no duration passes")
	assert.Contains(t, out, "{run}")
}
