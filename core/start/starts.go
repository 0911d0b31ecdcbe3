package start

import "cobrik/core/contract"

func (m maker) blank() *contract.Contract {
	return made("Blank", "", part("root", "div", nil), nil)
}

func (m maker) button() *contract.Contract {
	root := with(part("root", "button", style{
		"display": "inline-flex", "align-items": "center", "justify-content": "center", "gap": "0.5em", "padding-block": "0.5em", "padding-inline": "1em", "border-width": "1px", "border-style": "solid",
		"border-color": m.firmGround, "border-radius": "0.25em", "background-color": m.firmGround, "color": m.firmInk, "font-size": "1rem", "line-height": "1.5", "cursor": "pointer", "min-height": "24px",
	}, shows(part("icon", "span", style{"display": "inline-flex", "flex": "none"}), contract.SlotOf{Prop: "icon"}), shows(part("label", "span", nil), contract.TextOf{Prop: "label"})), "type", text("button"))
	with(root, "disabled", of("disabled"))
	return made("Button", "Something to press.", root, []contract.Prop{
		prop("label", "What happens when it is pressed", contract.Text{Initial: "Press here", Longest: 40}),
		prop("size", "How large it stands", contract.Choice{Options: []string{"s", "m", "l"}, Initial: "m"}),
		prop("emphasis", "How much it calls", contract.Choice{Options: []string{"firm", "plain"}, Initial: "firm"}),
		prop("icon", "A sign beside the words", contract.Slot{}),
		prop("reversed", "The sign stands behind the words", contract.Flag{}),
		prop("disabled", "It cannot be pressed now", contract.Flag{}),
		event("onPress", "It was pressed", "click", "root"),
	},
		rule("root", style{"font-size": "0.875rem"}, is("size", "s")),
		rule("root", style{"font-size": "1.25rem"}, is("size", "l")),
		rule("root", style{"background-color": m.ground, "color": m.ink, "border-color": m.line}, is("emphasis", "plain")),
		rule("root", style{"flex-direction": "row-reverse"}, on("reversed")),
		rule("root", style{"opacity": "0.85"}, contract.InState{State: "hover"}),
		rule("root", style{"outline": "2px solid " + m.ink, "outline-offset": "2px"}, contract.InState{State: "focus-visible"}),
		rule("root", style{"opacity": "0.5", "cursor": "not-allowed"}, contract.InState{State: "disabled"}),
	)
}

func (m maker) tag() *contract.Contract {
	root := shows(part("root", "span", style{"display": "inline-block", "padding-block": m.room(2), "padding-inline": m.room(8), "border-width": "1px", "border-style": "solid", "border-color": m.line,
		"border-radius": "0.25em", "background-color": m.ground, "color": m.ink, "font-size": "0.875rem", "line-height": "1.25", "white-space": "nowrap"}), contract.TextOf{Prop: "label"})
	return made("Tag", "Says in a word what something is.", root, []contract.Prop{
		prop("label", "The word", contract.Text{Initial: "New", Longest: 24}),
		prop("strong", "It matters now", contract.Flag{}),
	}, rule("root", style{"background-color": m.firmGround, "color": m.firmInk, "border-color": m.firmGround}, on("strong")))
}

func (m maker) card() *contract.Contract {
	root := part("root", "article", style{"display": "flex", "flex-direction": "column", "width": "100%", "overflow": "hidden", "box-sizing": "border-box", "border-width": "1px", "border-style": "solid",
		"border-color": m.line, "border-radius": "8px", "background-color": m.ground, "color": m.ink},
		shows(part("picture", "img", style{"width": "100%", "height": "160px", "object-fit": "cover"}), contract.ImageOf{Prop: "picture"}),
		part("body", "div", style{"display": "flex", "flex-direction": "column", "gap": m.room(8), "padding-block": m.room(16), "padding-inline": m.room(16)},
			shows(part("title", "h3", style{"font-size": "1.125rem", "line-height": "1.3", "font-weight": "600"}), contract.TextOf{Prop: "title"}),
			shows(part("text", "p", style{"font-size": "1rem", "line-height": "1.5"}), contract.TextOf{Prop: "text"}),
			when(shows(part("foot", "div", style{"display": "flex", "gap": m.room(8), "justify-content": "flex-start"}), contract.SlotOf{Prop: "actions"}), on("showActions"))))
	root.Children[1].Children[0].Level = "level"
	two, six, three := 2.0, 6.0, 3.0
	return made("Card", "One thing among others of its kind, with a picture.", root, []contract.Prop{
		prop("title", "What it is", contract.Text{Initial: "Title of the card", Longest: 60}),
		prop("level", "Level of the heading, as the page needs it", contract.Number{Initial: &three, Least: &two, Most: &six, Step: 1}),
		prop("text", "What one should know of it", contract.Text{Initial: "A sentence or two that says what this is about."}),
		prop("picture", "What it looks like", contract.Image{Aspect: 16.0 / 9}),
		prop("showActions", "There is something to do", contract.Flag{Initial: true}),
		prop("actions", "What one can do with it", contract.Slot{}),
	})
}

func (m maker) listRow() *contract.Contract {
	root := part("root", "div", style{"display": "flex", "align-items": "center", "gap": m.room(12), "padding-block": m.room(8), "padding-inline": m.room(12), "width": "100%", "box-sizing": "border-box",
		"background-color": m.ground, "color": m.ink, "font-size": "1rem", "line-height": "1.5"},
		shows(part("lead", "span", style{"display": "inline-flex", "flex": "none"}), contract.SlotOf{Prop: "lead"}),
		shows(part("label", "span", style{"flex": "1 1 0%", "min-width": "0"}), contract.TextOf{Prop: "label"}),
		when(shows(part("count", "span", style{"flex": "none"}), contract.TextOf{Prop: "count"}), contract.PropSet{Prop: "count", Set: true}))
	three := 3.0
	countProp := prop("count", "How many there are", contract.Number{})
	countProp.Example = contract.NumberValue(three)
	return made("ListRow", "One line of a list.", root, []contract.Prop{
		prop("label", "What the line is of", contract.Text{Initial: "A line of a list"}),
		prop("lead", "A sign before it", contract.Slot{}),
		countProp,
		prop("strong", "It is new", contract.Flag{}),
	}, rule("label", style{"font-weight": "600"}, on("strong")))
}

func (m maker) field() *contract.Contract {
	input := part("input", "input", style{"width": "100%", "min-height": "40px", "box-sizing": "border-box", "padding-block": m.room(8), "padding-inline": m.room(12), "border-width": "1px", "border-style": "solid", "border-color": m.line,
		"border-radius": "4px", "background-color": m.ground, "color": m.ink, "font-size": "1rem", "line-height": "1.5"})
	with(with(with(with(with(input, "type", text("text")), "name", of("name")), "placeholder", of("placeholder")), "required", of("required")), "disabled", of("disabled"))
	with(with(input, "aria-describedby", at("hint")), "aria-invalid", of("invalid"))
	root := part("root", "div", style{"display": "flex", "flex-direction": "column", "gap": m.room(4), "width": "100%", "color": m.ink, "background-color": m.ground},
		with(shows(part("label", "label", style{"font-size": "1rem", "line-height": "1.5", "font-weight": "600"}), contract.TextOf{Prop: "label"}), "for", at("input")),
		input,
		shows(part("hint", "p", style{"font-size": "0.875rem", "line-height": "1.4"}), contract.TextOf{Prop: "hint"}))
	return made("Field", "A line to be filled in, with its label.", root, []contract.Prop{
		prop("label", "What is asked for", contract.Text{Initial: "What is asked for"}),
		prop("name", "Under which it is sent", contract.Text{Initial: "field"}),
		prop("placeholder", "An example of what is expected", contract.Text{Initial: ""}),
		prop("hint", "What helps to fill it in, or what is wrong", contract.Text{Initial: "What helps to fill it in"}),
		prop("required", "It has to be filled in", contract.Flag{}),
		prop("invalid", "What was filled in is wrong", contract.Flag{}),
		prop("disabled", "It cannot be filled in now", contract.Flag{}),
		event("onChange", "It was changed", "change", "input"),
	},
		rule("input", style{"border-width": "2px"}, contract.InState{State: "invalid"}),
		rule("input", style{"opacity": "0.5"}, contract.InState{State: "disabled"}))
}

func (m maker) notice() *contract.Contract {
	root := part("root", "section", style{"display": "flex", "flex-direction": "column", "gap": m.room(4), "padding-block": m.room(12), "padding-inline": m.room(16), "width": "100%", "box-sizing": "border-box",
		"border-width": "1px 1px 1px 4px", "border-style": "solid", "border-color": m.line, "background-color": m.ground, "color": m.ink},
		shows(part("title", "h3", style{"font-size": "1rem", "line-height": "1.5", "font-weight": "600"}), contract.TextOf{Prop: "title"}),
		shows(part("body", "div", style{"font-size": "1rem", "line-height": "1.5"}), contract.SlotOf{Prop: "children"}))
	with(root, "aria-labelledby", at("title"))
	return made("Notice", "Tells of something that people should know.", root, []contract.Prop{
		prop("title", "What it is about", contract.Text{Initial: "What happened"}),
		prop("tone", "How grave it is", contract.Choice{Options: []string{"plain", "grave"}, Initial: "plain"}),
		prop("children", "What to do about it", contract.Slot{}),
	}, rule("root", style{"border-color": m.firmGround}, is("tone", "grave")))
}

func (m maker) disclosure() *contract.Contract {
	root := part("root", "details", style{"width": "100%", "box-sizing": "border-box", "border-width": "1px", "border-style": "solid", "border-color": m.line, "border-radius": "4px", "background-color": m.ground, "color": m.ink},
		shows(part("summary", "summary", style{"padding-block": m.room(8), "padding-inline": m.room(12), "font-size": "1rem", "line-height": "1.5", "font-weight": "600", "cursor": "pointer"}), contract.TextOf{Prop: "summary"}),
		shows(part("body", "div", style{"padding-block": m.room(8), "padding-inline": m.room(12)}), contract.SlotOf{Prop: "children"}))
	with(root, "open", of("open"))
	return made("Disclosure", "Shows more when it is asked to.", root, []contract.Prop{
		prop("summary", "What there is more of", contract.Text{Initial: "What there is more of"}),
		prop("open", "It shows all", contract.Flag{}),
		prop("children", "What is shown then", contract.Slot{}),
		event("onToggle", "It was opened or closed", "toggle", "root"),
	})
}

func (m maker) dialog() *contract.Contract {
	root := part("root", "section", style{"display": "flex", "flex-direction": "column", "gap": m.room(16), "padding-block": m.room(24), "padding-inline": m.room(24), "width": "100%", "max-width": "32rem", "box-sizing": "border-box",
		"border-width": "1px", "border-style": "solid", "border-color": m.line, "border-radius": "8px", "background-color": m.ground, "color": m.ink},
		shows(part("title", "h2", style{"font-size": "1.25rem", "line-height": "1.3", "font-weight": "600"}), contract.TextOf{Prop: "title"}),
		shows(part("body", "div", style{"font-size": "1rem", "line-height": "1.5"}), contract.SlotOf{Prop: "children"}),
		shows(part("actions", "div", style{"display": "flex", "flex-wrap": "wrap", "gap": m.room(8), "justify-content": "flex-end"}), contract.SlotOf{Prop: "actions"}))
	with(with(with(root, "role", text("dialog")), "aria-modal", text("true")), "aria-labelledby", at("title"))
	return made("Dialog", "Asks for an answer before anything else.", root, []contract.Prop{
		prop("title", "What is asked", contract.Text{Initial: "What is asked"}),
		prop("children", "What one should know to answer", contract.Slot{}),
		prop("actions", "The answers", contract.Slot{}),
	})
}

func (m maker) menu() *contract.Contract {
	link := shows(with(part("link", "a", style{"display": "block", "padding-block": m.room(8), "padding-inline": m.room(12), "color": m.ink, "font-size": "1rem", "line-height": "1.5"}), "href", of("links.href")), contract.TextOf{Prop: "links.label"})
	item := part("item", "li", nil, link)
	item.Repeat = "links"
	root := with(part("root", "nav", style{"width": "100%", "background-color": m.ground, "color": m.ink}, part("list", "ul", style{"display": "flex", "flex-direction": "column", "padding-block": "0", "padding-inline": "0"}, item)), "aria-label", of("label"))
	href := prop("href", "Where it leads", contract.Link{Initial: "#"})
	links := prop("links", "Where one can go", contract.List{Items: []contract.Prop{prop("label", "What is there", contract.Text{Initial: "A place to go"}), href}})
	links.Example = contract.ListValue{{"label": contract.TextValue("First place"), "href": contract.LinkValue("#first")}, {"label": contract.TextValue("Second place"), "href": contract.LinkValue("#second")}}
	return made("Menu", "Leads to places.", root, []contract.Prop{
		prop("label", "What the places have in common; it is not shown", contract.Text{Initial: "Places"}), links,
	}, rule("link", style{"background-color": m.firmGround, "color": m.firmInk}, contract.InState{State: "hover"}))
}

func (m maker) pageShell() *contract.Contract {
	root := part("root", "div", style{"display": "flex", "flex-direction": "column", "width": "100%", "min-height": "100%", "background-color": m.ground, "color": m.ink},
		shows(part("header", "header", style{"padding-block": m.room(16), "padding-inline": m.room(24), "border-width": "0 0 1px", "border-style": "solid", "border-color": m.line}), contract.SlotOf{Prop: "header"}),
		part("middle", "div", style{"display": "flex", "flex": "1 1 0%", "flex-direction": "row", "gap": m.room(24), "padding-block": m.room(24), "padding-inline": m.room(24)},
			shows(part("main", "main", style{"flex": "3 1 0%", "min-width": "0"}), contract.SlotOf{Prop: "children"}),
			when(shows(part("side", "aside", style{"flex": "1 1 0%", "min-width": "0"}), contract.SlotOf{Prop: "side"}), on("withSide"))),
		shows(part("footer", "footer", style{"padding-block": m.room(16), "padding-inline": m.room(24), "border-width": "1px 0 0", "border-style": "solid", "border-color": m.line}), contract.SlotOf{Prop: "footer"}))
	return made("PageShell", "What is around every page.", root, []contract.Prop{
		prop("header", "What stands over every page", contract.Slot{}),
		prop("children", "The page", contract.Slot{}),
		prop("side", "What stands beside it", contract.Slot{}),
		prop("withSide", "There is something beside the page", contract.Flag{Initial: true}),
		prop("footer", "What stands under every page", contract.Slot{}),
	}, rule("middle", style{"flex-direction": "column"}, contract.BelowWidth(640).Terms()...))
}
