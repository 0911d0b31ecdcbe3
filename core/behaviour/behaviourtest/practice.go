// Package behaviourtest says what the patterns of the ARIA Authoring Practices Guide (W3C, 2024) ask of stock machines, for tests of the machines and of what is emitted of them.
package behaviourtest

import "cobrik/core/behaviour"

// Practice is what a pattern asks of keys, attributes and focus, step by step.
type Practice struct {
	Stock     string
	Choices   behaviour.Choices
	Direction string // of the text: ltr when empty
	// Steps are divided by |: an event, "wait" with ms, or "set" with a prop and its value; then what holds after it: a state, "part attribute=value" or "focus part".
	Steps string
}

// Practices are those of all stock machines; for a timed cycle and for loading there is no pattern.
var Practices = []Practice{
	{"toggle button", behaviour.Choices{}, "", "press.button: pressed, button aria-pressed=true | press.button: released, button aria-pressed=false"},                                                                                                  // Button, Toggle button
	{"disclosure", behaviour.Choices{}, "", "press.button: open, button aria-expanded=true, panel hidden=false | press.button: closed, button aria-expanded=false, panel hidden=true"},                                                                 // Disclosure, States
	{"panels", behaviour.Choices{}, "", "press.header2: open2, header2 aria-expanded=true, panel2 hidden=false, panel1 hidden=true | press.header3: open3, header2 aria-expanded=false, panel2 hidden=true | press.header3: none, panel3 hidden=true"}, // Accordion, one at a time
	{"panels", behaviour.Choices{Always: true, Open: 2}, "", "press.header2: open2, header2 aria-disabled=true, header1 aria-disabled=false | press.header1: open1, header1 aria-disabled=true, panel1 hidden=false"},                                  // aria-disabled where a panel cannot be collapsed
	{"panels", behaviour.Choices{Several: true}, "", "press.header1: open1 | press.header3: open1 open3, panel1 hidden=false, panel3 hidden=false, panel2 hidden=true | press.header1: open3, panel1 hidden=true"},                                     //
	{"panels", behaviour.Choices{}, "", "key.ArrowDown.header1: focus header2 | key.ArrowDown.header3: focus header1 | key.ArrowUp.header1: focus header3 | key.Home.header3: focus header1 | key.End.header1: focus header3"},                         // Keyboard Interaction
	{"tabs", behaviour.Choices{}, "", "key.ArrowRight.tab1: at2, focus tab2, tab2 aria-selected=true, tab1 aria-selected=false, tab2 tabindex=0, tab1 tabindex=-1, panel2 hidden=false, panel1 hidden=true | key.ArrowLeft.tab2: at1, focus tab1 | key.ArrowLeft.tab1: at3, focus tab3 | key.ArrowRight.tab3: at1, focus tab1 | key.End.tab1: at3, focus tab3 | key.Home.tab3: at1, focus tab1 | press.tab2: at2"},
	{"tabs", behaviour.Choices{Vertical: true}, "", "key.ArrowRight.tab1: at1 | key.ArrowDown.tab1: at2, focus tab2 | key.ArrowUp.tab2: at1, focus tab1"}, // aria-orientation vertical
	{"menu button", behaviour.Choices{}, "", "press.button: item1, focus item1, button aria-expanded=true, menu hidden=false | key.Escape.item1: closed, focus button, button aria-expanded=false, menu hidden=true | key.ArrowDown.button: item1, focus item1 | key.ArrowDown.item1: item2, focus item2 | key.End.item2: item3, focus item3 | key.ArrowDown.item3: item1, focus item1 | key.ArrowUp.item1: item3, focus item3 | key.Home.item3: item1, focus item1 | press.item1: closed, focus button"},
	{"menu button", behaviour.Choices{}, "", "key.ArrowUp.button: item3, focus item3 | outside-press.menu: closed | press.button: item1 | focus-out.menu: closed | press.button: item1, button aria-expanded=true | press.button: closed, button aria-expanded=false, focus button"}, // ArrowUp opens at the last (optional)
	{"dialog", behaviour.Choices{}, "", "press.opener: open, focus first, dialog aria-modal=true, dialog hidden=false | outside-press.dialog: open | key.Escape: closed, focus opener, dialog hidden=true | press.opener: open | press.close: closed, focus opener"},                 // Dialog (Modal), Keyboard Interaction
	{"dialog", behaviour.Choices{Outside: true}, "", "press.opener: open | outside-press.dialog: closed, focus opener"},
	{"slider", behaviour.Choices{}, "", "key.ArrowRight.handle: handle aria-valuenow=1 | key.ArrowUp.handle: handle aria-valuenow=2 | key.ArrowLeft.handle: handle aria-valuenow=1 | key.PageUp.handle: handle aria-valuenow=11, fill share=0.11, fill start=0, handle start=0.11 | key.PageDown.handle: handle aria-valuenow=1 | key.ArrowDown.handle: handle aria-valuenow=0 | key.ArrowDown.handle: handle aria-valuenow=0 | key.End.handle: handle aria-valuenow=100, handle aria-valuemin=0, handle aria-valuemax=100 | key.ArrowRight.handle: handle aria-valuenow=100 | key.Home.handle: handle aria-valuenow=0"},
	{"slider", behaviour.Choices{Vertical: true}, "rtl", "key.ArrowLeft.handle: handle aria-valuenow=1, handle aria-orientation=vertical | key.ArrowRight.handle: handle aria-valuenow=0 | key.ArrowUp.handle: handle aria-valuenow=1, fill rise=0.01, handle foot=0.01"},
	{"range", behaviour.Choices{}, "", "key.End.low: low aria-valuenow=100, high aria-valuemin=100 | key.Home.high: high aria-valuenow=100 | key.Home.low: low aria-valuenow=0 | key.PageDown.high: high aria-valuenow=90, low aria-valuemax=90, fill share=0.9, high start=0.9 | key.PageUp.low: low aria-valuenow=10, fill start=0.1"}, // Slider (Multi-Thumb): each limits the other
	{"checkbox", behaviour.Choices{}, "", "press.box: checked, box aria-checked=true | key.Space.box: unchecked, box aria-checked=false"},
	{"checkbox", behaviour.Choices{Mixed: true}, "", "key.Space.box: checked | key.Space.box: unchecked | key.Space.box: checked"},
	{"radio group", behaviour.Choices{}, "", "key.Space.radio1: at1, radio1 aria-checked=true | key.ArrowDown.radio1: at2, focus radio2, radio2 aria-checked=true, radio1 aria-checked=false, radio2 tabindex=0, radio1 tabindex=-1 | key.ArrowRight.radio2: at3 | key.ArrowRight.radio3: at1 | key.ArrowUp.radio1: at3, focus radio3 | key.ArrowLeft.radio3: at2"},
	{"switch", behaviour.Choices{}, "", "press.button: on, button aria-checked=true | press.button: off, button aria-checked=false"},
	{"tooltip", behaviour.Choices{}, "", "focus-in.trigger: shown, tip hidden=false | key.Escape: hidden, tip hidden=true | focus-in.trigger: shown | focus-out.trigger: hidden | pointer-in.trigger: tip hidden=true | wait 499: tip hidden=true | wait 1: shown, tip hidden=false | pointer-out.trigger: hidden | pointer-in.trigger: hidden | pointer-out.trigger: hidden | wait 900: hidden"},
	{"timed cycle", behaviour.Choices{}, "", "wait 2999: stop | wait 1: go, root data-state=go | set paused true: held | wait 9000: held | set paused false: go | wait 4000: slow | wait 1000: stop"},
	{"loading", behaviour.Choices{}, "", "set status failed: failed, trouble hidden=false, root aria-busy=false | press.retry: waiting, placeholder hidden=false, root aria-busy=true | set status shown: shown, content hidden=false, placeholder hidden=true | set status waiting: waiting | set status empty: empty, nothing hidden=false"},
	{"carousel", behaviour.Choices{}, "", "wait 5000: slide2, slide2 hidden=false, slide1 hidden=true, slides aria-live=off | pointer-in.slides: held, slides aria-live=polite | wait 20000: slide2 | pointer-out.slides: playing | wait 5000: slide3 | press.pause: paused, pause aria-pressed=true | wait 20000: slide3 | press.next: slide1 | press.before: slide3 | press.pause: playing | wait 5000: slide1"}, // Carousel, rotation stops on hover and focus
}
