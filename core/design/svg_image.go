package design

import (
	"bytes"
	"encoding/base64"
	"image"
	"math"
	"net/url"
	"strings"

	"github.com/beevik/etree"
	_ "golang.org/x/image/webp" // pictures in SVG files are WebP, too
)

// pictureKinds are the kinds of pictures that a document may carry.
var pictureKinds = map[string]bool{"image/png": true, "image/jpeg": true, "image/webp": true, "image/gif": true, "image/svg+xml": true}

// readPicture is a picture that was read.
type readPicture struct {
	source string
	w, h   float64
	ok     bool
}

// carriedPicture reads the picture that an image carries in its address (RFC 2397): as it is kept, with its size in px;
// false, told, for one that is not kept.
func (i *importer) carriedPicture(e *etree.Element, href string) (source string, w, h float64, ok bool) {
	one := i.read[e]
	if one == nil {
		one = &readPicture{}
		one.source, one.w, one.h, one.ok = i.readCarried(e, href)
		i.read[e] = one
	}
	return one.source, one.w, one.h, one.ok
}

func (i *importer) readCarried(e *etree.Element, href string) (source string, w, h float64, ok bool) {
	rest, carried := strings.CutPrefix(href, "data:")
	if !carried {
		i.warn(e, "its picture %s is outside of the file, and never fetched", clean(href))
		return "", 0, 0, false
	}
	head, data, _ := strings.Cut(rest, ",")
	parameters := strings.Split(head, ";")
	kind := strings.ToLower(trim(parameters[0]))
	if kind == "image/jpg" {
		kind = "image/jpeg"
	}
	if !pictureKinds[kind] {
		i.warn(e, "its picture is of the kind %s, which is not kept", clean(kind))
		return "", 0, 0, false
	}
	var file []byte
	var err error
	if trim(parameters[len(parameters)-1]) == "base64" {
		if unescaped, wrong := url.PathUnescape(data); wrong == nil {
			data = unescaped
		}
		file, err = base64.RawStdEncoding.DecodeString(strings.TrimRight(strings.Join(strings.Fields(data), ""), "="))
	} else {
		var text string
		text, err = url.PathUnescape(data)
		file = []byte(text)
	}
	if err != nil {
		i.warn(e, "its picture is not whole: %v", err)
		return "", 0, 0, false
	}
	if kind == "image/svg+xml" {
		return i.carriedSVG(e, file)
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil || size.Width <= 0 || size.Height <= 0 {
		i.warn(e, "its picture cannot be read: %v", err)
		return "", 0, 0, false
	}
	if size.Width > 4*MaxPixels/size.Height {
		i.warn(e, "its picture has %d by %d pixels, more than are kept", size.Width, size.Height)
		return "", 0, 0, false
	}
	return "data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(file), float64(size.Width), float64(size.Height), true
}

// carriedSVG cleans an SVG picture that a file carries.
func (i *importer) carriedSVG(e *etree.Element, file []byte) (source string, w, h float64, ok bool) {
	if i.nested >= 2 {
		i.warn(e, "pictures in pictures in pictures are not kept")
		return "", 0, 0, false
	}
	inner, root, found := newImporter(i.file, file, i.fonts)
	if found.Failed() {
		i.warn(e, "its picture cannot be read: %s", found[0].Message)
		return "", 0, 0, false
	}
	inner.nested = i.nested + 1
	at := scope{m: identity, style: inner.styleOf(root, nil)}
	w, h = inner.pageSize(root, &at)
	inner.page = [2]float64{w, h}
	c := &cleaner{importer: inner, inside: map[*etree.Element]bool{}, taken: map[*etree.Element]bool{}}
	c.mark(root)
	var b strings.Builder
	root.RemoveAttr("width")
	root.RemoveAttr("height")
	delete(inner.own, root)
	c.element(&b, root, false, 0)
	if _, has := viewBox(root); !has {
		root.CreateAttr("viewBox", "0 0 "+short(w)+" "+short(h))
		b.Reset()
		c.element(&b, root, false, 0)
	}
	for _, one := range inner.found {
		i.warn(e, "in its picture, %s", one.Message)
	}
	text := strings.Replace(b.String(), "<svg", `<svg xmlns="`+svgNamespace+`" width="`+short(w)+`" height="`+short(h)+`"`, 1)
	return "data:image/svg+xml," + url.PathEscape(text), w, h, true
}

// imageBox is the box of an image in its user units; what it does not say is as large as the picture, in its proportion
// (SVG 2, the image element).
func (i *importer) imageBox(e *etree.Element, at *scope) Rect {
	w, h := i.geometry(e, at, "width", math.NaN()), i.geometry(e, at, "height", math.NaN())
	if math.IsNaN(w) || math.IsNaN(h) {
		_, pw, ph, ok := i.carriedPicture(e, hrefOf(e))
		switch {
		case !ok:
			w, h = given(w, 0), given(h, 0)
		case math.IsNaN(w) && math.IsNaN(h):
			w, h = pw, ph
		case math.IsNaN(w):
			w = h * pw / ph
		default:
			h = w * ph / pw
		}
	}
	return Rect{i.geometry(e, at, "x", 0), i.geometry(e, at, "y", 0), w, h}
}

// image makes an image layer: of the picture that the file carries, or of none.
func (i *importer) image(e *etree.Element, parent, at *scope) *Layer {
	r := i.imageBox(e, at)
	if r.Width <= 0 || r.Height <= 0 {
		return nil
	}
	source, w, h, ok := i.carriedPicture(e, hrefOf(e))
	degrees, turned := at.m.turned()
	if !ok {
		return &Layer{Kind: Image, Alt: labelOf(e), Bounds: tidyRect(at.m.rect(r))}
	}
	square := at.m.square() && at.m.b == 0 && at.m.a > 0 && at.m.d > 0
	if !square && !turned || strings.HasPrefix(at.style["image-rendering"], "pixel") || at.style["image-rendering"] == "crisp-edges" || at.style["image-rendering"] == "optimizeSpeed" {
		return i.picture(e, parent, at)
	}
	// The picture's own box, by how its proportion is kept.
	aspect := e.SelectAttrValue("preserveAspectRatio", "")
	m := fit([4]float64{0, 0, w, h}, r.Width, r.Height, aspect)
	inner := Rect{r.X + m.e, r.Y + m.f, w * m.a, h * m.d}
	content := "fill"
	if !within(inner, r) { // it is cut off
		if centered := math.Abs(inner.X+inner.Width/2-r.X-r.Width/2) < 0.01 && math.Abs(inner.Y+inner.Height/2-r.Y-r.Height/2) < 0.01; !centered {
			return i.picture(e, parent, at)
		}
		content, inner = "cover", r
	}
	l := i.asset(e, source, w, h)
	if l == nil {
		return &Layer{Kind: Image, Alt: labelOf(e), Bounds: tidyRect(at.m.rect(r))}
	}
	l.Image.Fit = content
	b := at.m.rect(inner)
	if !square {
		s := at.m.scale()
		cx, cy := at.m.at(inner.X+inner.Width/2, inner.Y+inner.Height/2)
		b = Rect{cx - inner.Width*s/2, cy - inner.Height*s/2, inner.Width * s, inner.Height * s}
		l.Rotation = tidy(degrees)
	}
	l.Bounds = tidyRect(b)
	return l
}
