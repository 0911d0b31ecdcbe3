package design

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
)

// feature is one thing that an SVG file may do; what is told when it is not drawn as it was, in a word or two.
type feature struct{ name, svg, told string }

// smallPNG is a picture of four colours, as an address that holds it.
func smallPNG() string {
	m := image.NewNRGBA(image.Rect(0, 0, 40, 20))
	for y := range 20 {
		for x := range 40 {
			m.Set(x, y, color.NRGBA{uint8(100 + 150*(x/20)), uint8(100 + 100*(y/10)), 60, 255})
		}
	}
	var b bytes.Buffer
	_ = png.Encode(&b, m) // into memory
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes())
}

func features() []feature {
	grad := `<linearGradient id="g"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient>`
	radial := `<radialGradient id="r"><stop stop-color="#fc3"/><stop offset="1" stop-color="#137"/></radialGradient>`
	star := `M50 5L61 38H95L68 58L78 91L50 71L22 91L32 58L5 38H39Z`
	out := []feature{
		// Paint.
		{"currentColor without a colour", `<path d="M10 10h60v60z" fill="currentColor"/><path d="M10 90h80" stroke="currentColor" stroke-width="6"/>`, ""},
		{"currentColor of a group", `<g color="#383"><path d="M10 10h60v60z" fill="currentColor"/></g>`, ""},
		{"fill-rule", `<path fill-rule="evenodd" d="` + star + `M30 30h40v40h-40z"/>`, ""},
		{"fill-rule from a style", `<style>path{fill-rule:evenodd}</style><path d="` + star + `M30 30h40v40h-40z"/>`, ""},
		{"clip-rule", `<clipPath id="c"><path clip-rule="evenodd" d="M0 0h100v100H0zM30 30h40v40H30z"/></clipPath><rect width="100" height="100" fill="#383" clip-path="url(#c)"/>`, ""},
		{"colours", `<rect width="30" height="30" fill="rgb(20% 60% 30%)"/><rect x="30" width="30" height="30" fill="hsl(200 80% 40%)"/><rect x="60" width="30" height="30" fill="rebeccapurple"/><rect y="40" width="90" height="30" fill="#c338"/>`, ""},
		{"opacities", `<rect width="60" height="60" fill="#c33" fill-opacity="50%"/><rect x="30" y="30" width="60" height="60" fill="#33c" opacity=".4"/>`, ""},
		{"opacity of a group", `<g opacity=".5"><circle cx="40" cy="40" r="30" fill="#c33"/><circle cx="60" cy="60" r="30" fill="#33c"/></g>`, ""},
		{"a fill that is missing", `<rect width="50" height="50" fill="url(#none) #383"/>`, ""},
		{"a fill that is missing, with no other", `<rect x="50" y="50" width="50" height="50" fill="url(#none)"/>`, "refers to nothing"},
		// Strokes.
		{"dashes", `<path d="M5 20h90M5 50h90" stroke="#222" stroke-width="6" stroke-dasharray="12 6 3" stroke-dashoffset="5"/>`, ""},
		{"dashes of a circle", `<circle cx="50" cy="50" r="40" fill="none" stroke="#222" stroke-width="8" stroke-dasharray="30 20"/>`, ""},
		{"dashes of a rect", `<rect x="10" y="10" width="70" height="60" rx="20" fill="none" stroke="#222" stroke-width="8" stroke-dasharray="30 20"/>`, ""},
		{"dashes and a length of the path", `<path pathLength="10" d="M5 50C30 0 60 100 95 50" fill="none" stroke="#222" stroke-width="8" stroke-dasharray="1 1"/>`, ""},
		{"dashes that are scaled", `<g transform="scale(2)"><path d="M5 20h40" stroke="#222" stroke-width="6" stroke-dasharray="4 3"/></g>`, ""},
		{"dashes in percent", `<path d="M5 20h90" stroke="#222" stroke-width="6" stroke-dasharray="10% 5%"/>`, ""},
		{"caps", `<g stroke="#222" stroke-width="12"><path d="M20 20h60" stroke-linecap="round"/><path d="M20 50h60" stroke-linecap="square"/><line x1="20" y1="80" x2="80" y2="80" stroke-linecap="round"/></g>`, ""},
		{"caps of zero length", `<g stroke="#222" stroke-width="20"><path d="M25 25h0" stroke-linecap="round"/><path d="M75 25h0" stroke-linecap="square"/><path d="M25 75z" stroke-linecap="round"/><line x1="75" y1="75" x2="75" y2="75" stroke-linecap="round"/></g>`, ""},
		{"joins", `<g stroke="#222" stroke-width="14" fill="none"><path d="M10 40L30 10L50 40"/><path d="M50 90L70 60L90 90" stroke-linejoin="round"/><path d="M10 90L30 60L50 90" stroke-linejoin="bevel"/></g>`, ""},
		{"miterlimit", `<g stroke="#222" stroke-width="10" fill="none"><path d="M30 90L40 30L50 90" stroke-miterlimit="20"/><path d="M60 90L75 60L90 90" stroke-miterlimit="1"/></g>`, ""},
		{"a box with round joins", `<rect x="20" y="20" width="60" height="50" fill="#fc3" stroke="#222" stroke-width="16" stroke-linejoin="round"/>`, ""},
		{"a box with bevelled joins", `<rect x="20" y="20" width="60" height="50" fill="#fc3" stroke="#222" stroke-width="16" stroke-linejoin="bevel"/>`, ""},
		{"a stroke that is seen through", `<rect x="20" y="20" width="60" height="50" fill="#fc3" stroke="#222" stroke-width="16" stroke-opacity=".5"/>`, ""},
		{"a stroke wider than its box", `<rect x="45" y="45" width="10" height="10" stroke="#222" stroke-width="60"/>`, ""},
		{"paint-order", `<path d="` + star + `" fill="#fc3" stroke="#222" stroke-width="14" paint-order="stroke"/>`, ""},
		{"paint-order of a box", `<rect x="20" y="20" width="60" height="50" fill="#fc3" stroke="#222" stroke-width="16" paint-order="stroke"/>`, ""},
		{"a stroke that is stretched", `<g transform="scale(4 1)"><path d="M5 20l15 60" stroke="#222" stroke-width="5"/></g>`, ""},
		{"a stroke in percent", `<path d="M5 50h90" stroke="#222" stroke-width="10%"/>`, ""},
		{"a gradient as a stroke", grad + `<path d="M10 50C30 0 60 100 90 50" fill="none" stroke="url(#g)" stroke-width="12"/>`, ""},
		// Shapes.
		{"unlike radii", `<rect x="10" y="10" width="80" height="60" rx="30" ry="10" fill="#383"/>`, ""},
		{"one radius", `<rect x="10" y="10" width="80" height="60" ry="20" fill="#383"/>`, ""},
		{"radii in percent", `<rect x="10" y="10" width="80" height="60" rx="25%" ry="25%" fill="#383"/>`, ""},
		{"a radius larger than the box", `<rect x="10" y="10" width="80" height="40" rx="99" fill="#383"/>`, ""},
		{"percentages", `<rect x="10%" y="10%" width="50%" height="30%" fill="#383"/><circle cx="70%" cy="70%" r="20%" fill="#c33"/><line x1="0%" y1="100%" x2="100%" y2="0%" stroke="#222" stroke-width="3"/>`, ""},
		{"units", `<rect x="2mm" y="0.2cm" width="4em" height="1in" font-size="10" fill="#383"/>`, ""},
		{"an ellipse of one radius", `<ellipse cx="50" cy="50" rx="30" fill="#383"/>`, ""},
		{"polygons", `<polygon points="10,10 90,20 50,90" fill="#383"/><polyline points="5 95 40 60 60 95" fill="none" stroke="#222" stroke-width="4"/>`, ""},
		{"a path that breaks off", `<path d="M10 10h60v60z M20 X" fill="#383"/>`, "path data is wrong"},
		{"arcs with joined flags", `<path d="M10 50a40 40 0 1180 0a40 40 0 01-80 0z" fill="#383"/>`, ""},
		{"curves of all kinds", `<path d="M5 50q20-45 40 0t40 0M5 80c10-30 30-30 40 0s30 30 40 0" fill="none" stroke="#222" stroke-width="4"/>`, ""},
		{"a negative size", `<rect width="-20" height="20"/><rect width="30" height="30" fill="#383"/>`, "negative"},
		// Style.
		{"geometry in a style sheet", `<style>rect{x:20px;y:10px;width:60px;height:50px;rx:8px;fill:#383}circle{cx:50px;cy:80px;r:15px}</style><rect/><circle/>`, ""},
		{"a path in a style sheet", `<style>path{d:path("M10 10h60v60z")}</style><path/>`, ""},
		{"a transform in a style sheet", `<style>rect{transform:translate(20px,10px) rotate(20deg);fill:#383}</style><rect width="40" height="40"/>`, ""},
		{"a transform about the middle", `<style>rect{transform:rotate(45deg);transform-origin:50px 50px;fill:#383}</style><rect x="30" y="30" width="40" height="40"/>`, ""},
		{"a transform about its own middle", `<style>path{transform:rotate(30deg) scale(.8);transform-origin:center;transform-box:fill-box;fill:#383}</style><path d="M50 20h40v60z"/>`, ""},
		{"a transform about the middle in percent", `<rect x="30" y="30" width="40" height="30" fill="#383" transform="rotate(30)" transform-origin="50% 50%"/>`, ""},
		{"important", `<style>rect{fill:#383!important}.a{fill:#c33}</style><rect class="a" width="60" height="60" style="fill:#33c"/>`, ""},
		{"weight", `<style>#a{fill:#383}.b{fill:#c33}rect{fill:#33c}</style><rect id="a" class="b" width="50" height="50"/><rect class="b" x="50" width="50" height="50"/><rect y="50" width="50" height="50" fill="#fc3"/>`, ""},
		{"parts of selectors", `<style>g rect{fill:#383}g>.b{fill:#c33}rect[width="20"]{fill:#33c}</style><g><g><rect width="50" height="50"/></g><rect class="b" x="50" width="50" height="50"/></g><rect y="60" width="20" height="30"/>`, ""},
		{"a child that is none", `<style>svg>rect{fill:#c33}g>rect{fill:#383}</style><g><a><rect width="50" height="50"/></a></g><rect x="50" y="50" width="40" height="40"/>`, ""},
		{"selectors that are not read", `<style>rect:nth-child(3){fill:#c33}</style><rect width="50" height="50"/><rect y="50" width="50" height="50"/>`, "is not followed"},
		{"inherit and initial", `<g fill="#c33" stroke="#222" stroke-width="6"><rect x="10" y="10" width="30" height="30" fill="inherit" stroke="initial"/><rect x="50" y="50" width="40" height="40" style="fill:unset"/></g>`, ""},
		{"custom properties", `<style>:root{--ink:#383}rect{fill:var(--ink)}circle{fill:var(--none, #c33)}</style><rect width="50" height="50"/><circle cx="70" cy="70" r="20"/>`, ""},
		{"visible in what is hidden", `<g visibility="hidden"><rect width="50" height="50"/><rect x="50" y="50" width="40" height="40" fill="#383" visibility="visible"/></g>`, ""},
		{"not displayed", `<g display="none"><rect width="50" height="50"/></g><rect x="50" y="50" width="40" height="40" style="display:none"/><circle cx="30" cy="30" r="20" fill="#383"/>`, ""},
		{"a style in two pieces", `<style>rect{fill:#383}<!-- -->circle{fill:#c33}</style><rect width="50" height="50"/><circle cx="70" cy="70" r="20"/>`, ""},
		{"a style in a section", `<style><![CDATA[rect{fill:#383}]]></style><rect width="50" height="50"/>`, ""},
		// Transforms.
		{"turned and mirrored", `<g transform="translate(50 50) scale(-1 1) rotate(20)"><rect x="-30" y="-10" width="60" height="20" rx="6" fill="#383"/><path d="M-30 20h60l-30 20z" fill="#c33"/></g>`, ""},
		{"skewed", `<rect x="10" y="10" width="60" height="40" rx="8" transform="skewX(20)" fill="#383"/>`, ""},
		{"turned by a right angle", `<rect x="10" y="-80" width="60" height="40" rx="8" transform="rotate(90)" fill="#383" stroke="#222" stroke-width="4"/>`, ""},
		{"stretched", `<g transform="scale(2 .5)"><rect x="5" y="20" width="30" height="60" rx="8" fill="#383"/><circle cx="25" cy="140" r="20" fill="#c33"/></g>`, ""},
		{"flattened to nothing", `<g transform="scale(0 1)"><rect width="50" height="50"/></g><rect width="30" height="30" fill="#383"/>`, ""},
		// Uses.
		{"a use of a group", `<defs><g id="s"><rect width="20" height="20" fill="#383"/><circle cx="30" cy="10" r="8"/></g></defs><use href="#s" x="10" y="10"/><use href="#s" x="10" y="50" transform="rotate(20 30 60)"/>`, ""},
		{"what a use hands down", `<defs><circle id="s" r="20"/></defs><use href="#s" x="30" y="30" fill="#383"/><g stroke="#c33" stroke-width="6"><use href="#s" x="70" y="70" fill="none"/></g>`, ""},
		{"a symbol in sizes", `<symbol id="s" viewBox="0 0 10 10"><path d="M0 0h10v10z" fill="#383"/></symbol><use href="#s" width="20" height="20"/><use href="#s" x="30" y="30" width="60" height="60"/>`, ""},
		{"a symbol in another proportion", `<symbol id="s" viewBox="0 0 10 10"><path d="M0 0h10v10z" fill="#383"/></symbol><use href="#s" width="80" height="30"/><use href="#s" y="40" width="20" height="60"/>`, ""},
		{"a symbol that is stretched", `<symbol id="s" viewBox="0 0 10 10" preserveAspectRatio="none"><path d="M0 0h10v10z" fill="#383"/></symbol><use href="#s" width="80" height="30"/>`, ""},
		{"a symbol in colours", `<symbol id="s" viewBox="0 0 10 10"><path d="M0 0h10v10z"/></symbol><use href="#s" width="40" height="40" fill="#383"/><use href="#s" x="50" y="50" width="40" height="40" fill="#c33"/>`, ""},
		{"a symbol that is turned", `<symbol id="s" viewBox="0 0 10 10"><path d="M0 0h10v10z" fill="#383"/></symbol><use href="#s" width="40" height="40" transform="rotate(30 50 50) translate(20 10)"/><use href="#s" width="40" height="40" transform="translate(95 50) scale(-1 1)"/>`, ""},
		{"a symbol that is cut off", `<symbol id="s" viewBox="0 0 10 10"><circle cx="8" cy="8" r="6" fill="#383"/></symbol><use href="#s" width="60" height="60"/>`, ""},
		{"a symbol that shows beyond itself", `<symbol id="s" viewBox="0 0 10 10" overflow="visible"><circle cx="8" cy="8" r="6" fill="#383"/></symbol><use href="#s" width="60" height="60"/>`, ""},
		{"a symbol without a size", `<symbol id="s"><rect width="50%" height="50%" fill="#383"/></symbol><use href="#s"/>`, ""},
		{"a use of a use", `<defs><rect id="a" width="20" height="20"/><use id="b" href="#a" x="20" fill="#383"/></defs><use href="#b" y="30"/>`, ""},
		{"xlink", `<defs><rect id="a" width="20" height="20" fill="#383"/></defs><use xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="#a" x="40" y="30"/>`, ""},
		{"an svg within", `<svg x="20" y="20" width="50" height="30" viewBox="0 0 10 10"><rect x="-20" y="2" width="50" height="6" fill="#383"/></svg>`, ""},
		{"an svg within that cuts off", `<svg x="20" y="20" width="50" height="50"><circle cx="50" cy="50" r="30" fill="#383"/></svg>`, ""},
		{"percentages within", `<svg x="20" y="20" width="50" height="50" viewBox="0 0 200 100"><rect width="50%" height="50%" fill="#383"/></svg>`, ""},
		{"a switch", `<switch><rect systemLanguage="xx" width="90" height="90"/><circle cx="50" cy="50" r="30" fill="#383"/><rect width="20" height="20"/></switch>`, ""},
		// Gradients.
		{"a linear gradient on a box", grad + `<rect x="10" y="10" width="80" height="40" fill="url(#g)"/>`, ""},
		{"a linear gradient downwards", `<linearGradient id="g" x2="0" y2="1"><stop offset=".2" stop-color="#c33"/><stop offset=".9" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="60" rx="12" fill="url(#g)"/>`, ""},
		{"a linear gradient across a corner", `<linearGradient id="g" x2="1" y2="1"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="30" fill="url(#g)"/>`, ""},
		{"a linear gradient in the drawing's units", `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="20" y1="10" x2="60" y2="80"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)"/>`, ""},
		{"a gradient that is turned", `<linearGradient id="g" gradientTransform="rotate(40)"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)"/>`, ""},
		{"a gradient that begins outside", `<linearGradient id="g" x1="-50%" x2="150%"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)" stroke="#222" stroke-width="6"/>`, ""},
		{"a gradient that repeats", `<linearGradient id="g" x2="20%" spreadMethod="repeat"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)"/>`, ""},
		{"a gradient that fades", `<linearGradient id="g"><stop stop-color="#c33"/><stop offset="1" stop-color="#c33" stop-opacity="0"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)"/>`, ""},
		{"a gradient that fades to another colour", `<linearGradient id="g"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c" stop-opacity="0"/></linearGradient><rect x="10" y="10" width="80" height="60" fill="url(#g)"/>`, ""},
		{"a gradient less opaque", grad + `<rect x="10" y="10" width="80" height="60" fill="url(#g)" fill-opacity=".4"/>`, ""},
		{"a radial gradient", radial + `<circle cx="50" cy="50" r="40" fill="url(#r)"/><rect width="30" height="20" fill="url(#r)"/>`, ""},
		{"a radial gradient from a side", `<radialGradient id="r" fx=".2" fy=".3"><stop stop-color="#fc3"/><stop offset="1" stop-color="#137"/></radialGradient><rect x="10" y="10" width="80" height="60" fill="url(#r)"/>`, ""},
		{"a radial gradient from a circle", `<radialGradient id="r" fr="30%"><stop stop-color="#fc3"/><stop offset="1" stop-color="#137"/></radialGradient><rect x="10" y="10" width="80" height="60" fill="url(#r)"/>`, ""},
		{"a radial gradient in the drawing's units", `<radialGradient id="r" gradientUnits="userSpaceOnUse" cx="30" cy="30" r="50"><stop stop-color="#fc3"/><stop offset="1" stop-color="#137"/></radialGradient><rect x="10" y="10" width="80" height="60" fill="url(#r)"/>`, ""},
		{"a gradient on a path", grad + `<path d="` + star + `" fill="url(#g)"/>`, ""},
		{"a gradient on a box that is turned", grad + `<rect x="30" y="20" width="50" height="40" transform="rotate(30 50 50)" fill="url(#g)"/>`, ""},
		{"gradients that refer to others", grad + `<linearGradient id="h" href="#g" x2="0" y2="1"/><radialGradient id="k" href="#h"/><rect width="50" height="50" fill="url(#h)"/><rect x="50" y="50" width="50" height="50" fill="url(#k)"/>`, ""},
		{"colours of stops by class", `<style>.a{stop-color:#c33}.b{stop-color:#33c}</style><linearGradient id="g"><stop class="a"/><stop class="b" offset="1"/></linearGradient><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"currentColor in a stop", `<g color="#c33"><linearGradient id="g"><stop stop-color="currentColor"/><stop offset="1" stop-color="#33c"/></linearGradient></g><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"a gradient of one stop", `<linearGradient id="g"><stop stop-color="#c33"/></linearGradient><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"a gradient without stops", `<linearGradient id="g"/><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"a gradient that is no line", `<linearGradient id="g" x1="1" x2="1"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"hard edges in a gradient", `<linearGradient id="g"><stop offset=".3" stop-color="#c33"/><stop offset=".3" stop-color="#33c"/><stop offset=".6" stop-color="#33c"/><stop offset=".6" stop-color="#383"/></linearGradient><rect width="90" height="60" fill="url(#g)"/>`, ""},
		{"a pattern", `<pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse"><rect width="10" height="10" fill="#383"/></pattern><circle cx="50" cy="50" r="40" fill="url(#p)"/>`, ""},
		// Clips, masks, filters.
		{"a clip of a circle", `<clipPath id="c"><circle cx="50" cy="50" r="30"/></clipPath><g clip-path="url(#c)"><rect width="100" height="50" fill="#383"/><rect y="50" width="100" height="50" fill="#c33"/></g>`, ""},
		{"a clip of a box", `<clipPath id="c"><rect x="20" y="20" width="50" height="40" rx="10"/></clipPath><g clip-path="url(#c)"><circle cx="50" cy="50" r="40" fill="#383"/></g>`, ""},
		{"a clip of a path that is a box", `<clipPath id="c"><path d="M20 20h50v40H20z"/></clipPath><g clip-path="url(#c)"><circle cx="50" cy="50" r="40" fill="#383"/></g>`, ""},
		{"a clip of a star", `<clipPath id="c"><path d="` + star + `"/></clipPath><g clip-path="url(#c)"><rect width="100" height="50" fill="#383"/><rect y="50" width="100" height="50" fill="#c33"/></g>`, ""},
		{"a clip of two shapes", `<clipPath id="c"><circle cx="30" cy="30" r="20"/><circle cx="70" cy="70" r="20"/></clipPath><rect width="100" height="100" fill="#383" clip-path="url(#c)"/>`, ""},
		{"a clip in parts of the box", `<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".4"/></clipPath><rect x="20" y="20" width="60" height="60" fill="#383" clip-path="url(#c)"/>`, ""},
		{"a clip that is moved", `<clipPath id="c" transform="translate(20 10)"><rect width="40" height="40"/></clipPath><rect width="100" height="100" fill="#383" clip-path="url(#c)"/>`, ""},
		{"a clip of a clip", `<clipPath id="d"><rect width="50" height="100"/></clipPath><clipPath id="c" clip-path="url(#d)"><circle cx="50" cy="50" r="30"/></clipPath><rect width="100" height="100" fill="#383" clip-path="url(#c)"/>`, ""},
		{"a clip of nothing", `<clipPath id="c"/><rect width="100" height="100" clip-path="url(#c)"/><rect width="20" height="20" fill="#383"/>`, ""},
		{"a clip that leaves nothing", `<clipPath id="c"><path d="M200 200h30l-9 20z"/></clipPath><rect width="100" height="100" clip-path="url(#c)"/><rect width="20" height="20" fill="#383"/>`, ""},
		{"a filter that shows nothing", `<filter id="f"><feFlood flood-opacity="0"/></filter><rect x="-90" width="60" height="60" filter="url(#f)"/><rect width="20" height="20" fill="#383"/>`, ""},
		{"several filters in CSS", `<rect x="20" y="20" width="50" height="40" fill="#fc3" style="filter:drop-shadow(4px 6px 3px #222) opacity(.5)"/>`, ""},
		{"a clip that is missing", `<rect width="60" height="60" fill="#383" clip-path="url(#c)"/>`, ""},
		{"a clip in CSS", `<rect width="100" height="100" fill="#383" style="clip-path:circle(30px at 50px 50px)"/>`, ""},
		{"a mask of a circle", `<mask id="m"><circle cx="50" cy="50" r="30" fill="#fff"/></mask><g mask="url(#m)"><rect width="100" height="50" fill="#383"/><rect y="50" width="100" height="50" fill="#c33"/></g>`, ""},
		{"a mask that fades", `<mask id="m"><linearGradient id="g"><stop stop-color="#fff"/><stop offset="1"/></linearGradient><rect width="100" height="100" fill="url(#g)"/></mask><rect width="100" height="100" fill="#383" mask="url(#m)"/>`, ""},
		{"a mask of grey", `<mask id="m"><rect width="100" height="100" fill="#888"/></mask><rect x="10" y="10" width="70" height="70" fill="#383" mask="url(#m)"/>`, ""},
		{"a mask by alpha", `<mask id="m" style="mask-type:alpha"><rect x="20" y="20" width="50" height="50" fill="#000"/></mask><rect width="100" height="100" fill="#383" mask="url(#m)"/>`, ""},
		{"a mask that is missing", `<rect width="60" height="60" fill="#383" mask="url(#m)"/>`, ""},
		{"a mask with a hole", `<mask id="m"><rect width="100" height="100" fill="#fff"/><circle cx="50" cy="50" r="20"/></mask><rect width="100" height="100" fill="#383" mask="url(#m)"/>`, ""},
		{"a shadow", `<filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feDropShadow dx="4" dy="6" stdDeviation="3" flood-color="#222" flood-opacity=".6"/></filter><rect x="20" y="20" width="50" height="40" rx="6" fill="#fc3" filter="url(#f)"/>`, ""},
		{"a shadow as programs export it", `<g filter="url(#f)"><rect x="20" y="20" width="50" height="40" rx="6" fill="#fc3"/></g><filter id="f" x="0" y="0" width="100" height="100" filterUnits="userSpaceOnUse" color-interpolation-filters="sRGB"><feFlood flood-opacity="0" result="b"/><feColorMatrix in="SourceAlpha" values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 127 0" result="hard"/><feOffset dy="6"/><feGaussianBlur stdDeviation="4"/><feComposite in2="hard" operator="out"/><feColorMatrix values="0 0 0 0 0.2 0 0 0 0 0.1 0 0 0 0 0.5 0 0 0 0.7 0"/><feBlend in2="b" result="e"/><feBlend in="SourceGraphic" in2="e" result="s"/></filter>`, ""},
		{"a shadow that is merged", `<filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur in="SourceAlpha" stdDeviation="3"/><feOffset dx="4" dy="6" result="o"/><feFlood flood-color="#222" flood-opacity=".6"/><feComposite in2="o" operator="in"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter><rect x="20" y="20" width="50" height="40" fill="#fc3" filter="url(#f)"/>`, ""},
		{"a shadow in CSS", `<rect x="20" y="20" width="50" height="40" fill="#fc3" style="filter:drop-shadow(4px 6px 3px rgb(20 20 20 / .6))"/>`, ""},
		{"a shadow of a star", `<filter id="f"><feDropShadow dx="4" dy="6" stdDeviation="2"/></filter><path d="` + star + `" fill="#fc3" filter="url(#f)"/>`, ""},
		{"a shadow of what is seen through", `<filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feDropShadow dx="12" dy="12" stdDeviation="1"/></filter><rect x="20" y="20" width="50" height="40" fill="#fc3" fill-opacity=".4" filter="url(#f)"/>`, ""},
		{"a blur", `<filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur stdDeviation="5"/></filter><rect x="30" y="30" width="40" height="40" fill="#383" filter="url(#f)"/>`, ""},
		{"a filter of noise", `<filter id="f"><feTurbulence baseFrequency=".05" numOctaves="2"/><feComposite in2="SourceGraphic" operator="in"/></filter><rect x="10" y="10" width="80" height="80" filter="url(#f)"/>`, ""},
		{"a filter that is missing", `<rect width="60" height="60" fill="#383" filter="url(#f)"/>`, ""},
		{"blend modes", `<rect width="70" height="70" fill="#fc3"/><rect x="30" y="30" width="70" height="70" fill="#39c" style="mix-blend-mode:multiply"/><path d="M0 100L50 40L100 100z" fill="#c9c" style="mix-blend-mode:difference"/>`, ""},
		{"markers", `<marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="6" markerHeight="6" orient="auto"><path d="M0 0L10 5L0 10z"/></marker><path d="M20 20L80 50L20 80" fill="none" stroke="#383" stroke-width="3" marker-end="url(#m)" marker-mid="url(#m)"/>`, ""},
		{"markers in one word", `<marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="6" markerHeight="6"><path d="M0 0L10 5L0 10z"/></marker><path d="M20 20L80 50L20 80" fill="none" stroke="#383" stroke-width="3" style="marker:url(#m)"/>`, ""},
		{"markers on what inherits its look", `<marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="6" markerHeight="6"><path d="M0 0L10 5L0 10z"/></marker><g fill="none" stroke="#383" stroke-width="6"><path d="M20 20L80 50L20 80" marker-end="url(#m)"/></g>`, ""},
		{"a clip that inherits its rule", `<g clip-rule="evenodd"><clipPath id="c"><path d="M0 0h100v100H0zM30 30h40v40H30z"/></clipPath></g><rect width="100" height="100" fill="#383" clip-path="url(#c)"/>`, ""},
		{"markers on what is turned about a point", `<marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="6" markerHeight="6"><path d="M0 0L10 5L0 10z"/></marker><path d="M30 40h40" stroke="#383" stroke-width="4" marker-end="url(#m)" transform="rotate(60)" transform-origin="50 40"/>`, ""},
		{"blends that are kept to themselves", `<rect width="100" height="100" fill="#fc3"/><clipPath id="c"><path d="M0 0h90v90z"/></clipPath><g clip-path="url(#c)" style="isolation:isolate;mix-blend-mode:multiply"><rect width="90" height="90" fill="#9cf"/><rect x="40" width="50" height="50" fill="#39c" style="mix-blend-mode:multiply;isolation:isolate"/></g>`, ""},
		// Pictures.
		{"a PNG picture", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="60"/>`, ""},
		{"a picture to a corner", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="80" preserveAspectRatio="xMinYMax"/>`, ""},
		{"a picture that is cut off", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="80" preserveAspectRatio="xMidYMid slice"/>`, ""},
		{"a picture that is cut off at one side", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="80" preserveAspectRatio="xMinYMin slice"/>`, ""},
		{"a picture that is stretched", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="80" preserveAspectRatio="none"/>`, ""},
		{"a picture without a size", `<image href="` + smallPNG() + `" x="10" y="10"/>`, ""},
		{"a picture that is turned", `<image href="` + smallPNG() + `" x="10" y="10" width="80" height="40" transform="rotate(30 50 50)"/>`, ""},
		{"a picture that is skewed", `<image href="` + smallPNG() + `" x="10" y="10" width="60" height="40" transform="skewX(20)"/>`, ""},
		{"a picture that is SVG", `<image href="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 10'%3E%3Ccircle cx='5' cy='5' r='4' fill='%23383'/%3E%3C/svg%3E" width="80" height="60"/>`, ""},
		{"a picture from elsewhere", `<image href="https://example.org/a.png" width="80" height="60"/>`, "never fetched"},
		{"a clip of a picture", `<clipPath id="c"><circle cx="50" cy="50" r="30"/></clipPath><image href="` + smallPNG() + `" width="100" height="100" preserveAspectRatio="none" clip-path="url(#c)"/>`, ""},
		// What is not drawn, and told.
		{"what is not SVG", `<foreignObject width="90" height="90"><p xmlns="http://www.w3.org/1999/xhtml">words</p></foreignObject>`, "left out"},
		{"what moves", `<rect width="30" height="30" fill="#383"><animate attributeName="x" from="50" to="60" dur="3s"/></rect>`, "stand still"},
	}
	for k := range out {
		out[k].svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">` + out[k].svg + `</svg>`
	}
	whole := func(attributes string) string {
		return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" %s><rect width="50" height="50" fill="#383"/><circle cx="50" cy="25" r="20" fill="#c33"/></svg>`, attributes)
	}
	return append(out,
		feature{"a view box", whole(`width="200" height="100" viewBox="0 0 100 50"`), ""},
		feature{"a view box in the middle", whole(`width="200" height="200" viewBox="0 0 100 50"`), ""},
		feature{"a view box at the end", whole(`width="200" height="200" viewBox="0 0 100 50" preserveAspectRatio="xMaxYMax"`), ""},
		feature{"a view box that is cut off", whole(`width="200" height="200" viewBox="0 0 100 50" preserveAspectRatio="xMinYMin slice"`), ""},
		feature{"a view box that is stretched", whole(`width="200" height="200" viewBox="0 0 100 50" preserveAspectRatio="none"`), ""},
		feature{"a view box from elsewhere", whole(`width="100" height="100" viewBox="-20 -30 120 120"`), ""},
		feature{"a view box alone", whole(`viewBox="0 0 100 50"`), ""},
		feature{"a width alone", whole(`width="200" viewBox="0 0 100 50"`), ""},
		feature{"a height alone", whole(`height="200" viewBox="0 0 100 50"`), ""},
		feature{"a size in percent", whole(`width="100%" height="100%" viewBox="0 0 100 50"`), ""},
		feature{"a stroke that does not scale", `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="240"><g transform="scale(4 2)"><path d="M15 30l20 60" stroke="#222" stroke-width="5" vector-effect="non-scaling-stroke"/></g></svg>`, ""},
		feature{"a ground", whole(`width="100" height="100" style="background:#fde"`), ""},
		feature{"opacity of the whole", whole(`width="100" height="100" opacity=".4"`), ""},
		feature{"the whole turned", whole(`width="100" height="100" transform="rotate(20)"`), ""},
		feature{"the whole in a style", whole(`width="100" height="100" style="transform:scale(.5)"`), ""},
		feature{"a colour of the whole", `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100" fill="#383" stroke="#222" stroke-width="4"><rect x="10" y="10" width="50" height="50"/></svg>`, ""},
		feature{"a prefix", `<s:svg xmlns:s="http://www.w3.org/2000/svg" width="100" height="100"><s:rect width="50" height="50" fill="#383"/><rect width="90" height="90"/></s:svg>`, ""},
		feature{"another encoding", "<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?><svg xmlns=\"http://www.w3.org/2000/svg\" width=\"100\" height=\"100\"><title>gr\xfcn</title><rect width=\"50\" height=\"50\" fill=\"#383\"/></svg>", ""},
	)
}

// Every feature by itself is drawn as Chromium draws the file, or what is lost is told.
func TestEveryFeatureIsDrawnOrTold(t *testing.T) {
	var all []drawing
	var of []feature
	for _, f := range features() {
		d, err := drawnAgain(f.name, []byte(f.svg))
		if !assert.NoError(t, err, f.name) {
			continue
		}
		if f.told != "" {
			assert.Contains(t, d.report, f.told, "%s: a loss that nobody is told of", f.name)
			continue
		}
		assert.Empty(t, d.report, f.name)
		if !strings.Contains(f.svg, "ISO-8859") { // what the page's script is given is Unicode
			all, of = append(all, d), append(of, f)
		}
	}
	for k, part := range differing(t, openBrowser(t), all) {
		assert.True(t, part >= 0 && part <= 0.005, "%s: %.2f %% of the pixels differ\n%s\n%s", of[k].name, 100*part, of[k].svg, all[k].again)
	}
}

// One file gives one document, byte for byte: else nobody could tell whether a drawing changed.
func TestAnImportIsTheSameEveryTime(t *testing.T) {
	for _, f := range append(features(), textFeatures()...) {
		first, _ := ImportSVG("a.svg", []byte(f.svg), font.Shipped())
		want, err := json.Marshal(first)
		require.NoError(t, err)
		for range 3 {
			again, _ := ImportSVG("a.svg", []byte(f.svg), font.Shipped())
			got, err := json.Marshal(again)
			require.NoError(t, err)
			require.Equal(t, string(want), string(got), f.name)
		}
	}
}

// What layers can say becomes layers, with the values that CSS has for it: only the rest is a picture.
func TestWhatBecomesALayer(t *testing.T) {
	look := func(name string) *Layer {
		for _, f := range features() {
			if f.name == name {
				doc, _ := importText(t, f.svg)
				return doc.Pages[0].Layers[len(doc.Pages[0].Layers)-1]
			}
		}
		t.Fatalf("there is no feature %q", name)
		return nil
	}
	l := look("a shadow")
	assert.Equal(t, Box, l.Kind)
	assert.Equal(t, []Shadow{{X: 4, Y: 6, Blur: 6, Color: "#22222299"}}, l.Shadows, "the blur of a box-shadow is twice the deviation (CSS Backgrounds 3, 6.1.1)")
	l = look("a shadow as programs export it")
	assert.Equal(t, []Shadow{{X: 0, Y: 6, Blur: 8, Color: "#331a80b3"}}, l.Shadows)
	l = look("a shadow that is merged")
	assert.Equal(t, []Shadow{{X: 4, Y: 6, Blur: 6, Color: "#22222299"}}, l.Shadows)
	l = look("a shadow in CSS")
	assert.Equal(t, []Shadow{{X: 4, Y: 6, Blur: 6, Color: "#14141499"}}, l.Shadows)
	for _, name := range []string{"a clip of a circle", "a mask of a circle"} {
		l = look(name)
		assert.True(t, l.Clip, name)
		assert.Equal(t, Rect{20, 20, 60, 60}, l.Bounds, name)
		assert.Equal(t, []float64{30}, l.Radius, name)
		assert.Len(t, l.Children, 2, name)
	}
	l = look("a mask by alpha")
	assert.True(t, l.Clip)
	assert.Equal(t, Rect{20, 20, 50, 50}, l.Bounds)
	assert.Equal(t, "cover", look("a picture that is cut off").Image.Fit)
	l = look("a linear gradient downwards")
	assert.Equal(t, []Fill{{Gradient: &Gradient{Kind: "linear", Angle: 180, Stops: []Stop{{At: 0.2, Color: "#cc3333"}, {At: 0.9, Color: "#3333cc"}}}}}, l.Fills)
	l = look("a linear gradient in the drawing's units")
	assert.InDelta(t, 150.2551, l.Fills[0].Gradient.Angle, 0.001)
	l = look("a radial gradient in the drawing's units")
	assert.Equal(t, &[2]float64{0.25, 0.33333}, l.Fills[0].Gradient.Center)
	for _, name := range []string{"a pattern", "a gradient on a path", "a clip of a star", "a mask that fades", "a blur", "markers", "a shadow of a star", "a shadow of what is seen through", "a stroke that is stretched", "a picture that is skewed"} {
		l = look(name)
		assert.Equal(t, Image, l.Kind, name)
		assert.Equal(t, "svg", l.Flatten, name)
	}
	for name, kind := range map[string]Kind{"dashes": Vector, "paint-order": Vector, "unlike radii": Vector, "a PNG picture": Image, "a box with round joins": Box, "turned by a right angle": Box, "a symbol in colours": Instance} {
		l = look(name)
		assert.Equal(t, kind, l.Kind, name)
		assert.Empty(t, l.Flatten, name)
	}
}
