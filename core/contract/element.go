package contract

// Elements are those a part may be (HTML Living Standard, 4; SVG 2). What loads,
// embeds or runs something is not among them.
var Elements = []string{
	"div", "span", "p", "section", "article", "header", "footer", "main", "nav", "aside", "figure", "figcaption", "address", "search", "hgroup",
	"h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "li", "dl", "dt", "dd", "strong", "em", "small", "mark", "time", "output", "data", "abbr", "code", "kbd", "blockquote", "q", "cite",
	"button", "a", "label", "fieldset", "legend", "svg",
}
