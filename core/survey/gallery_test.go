package survey_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/survey"
)

var (
	svgOpen = regexp.MustCompile(`(?s)^.*?<svg[^>]*?>`)
	viewBox = regexp.MustCompile(`viewBox="([-\d.]+)[ ,]+([-\d.]+)[ ,]+([\d.]+)[ ,]+([\d.]+)"`)
	someID  = regexp.MustCompile(`(\bid="|url\(#|href="#)`)
)

// gallery lays the pictures of files out in a grid, each in a group of its own.
func gallery(files []string, cell float64, across int) string {
	var b strings.Builder
	rows := (len(files) + across - 1) / across
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="%g" height="%g">`, float64(across)*(cell+24)+24, float64(rows)*(cell+24)+24)
	for i, text := range files {
		box := viewBox.FindStringSubmatch(text)
		if box == nil {
			continue
		}
		inner := strings.TrimSuffix(strings.TrimSpace(svgOpen.ReplaceAllString(text, "")), "</svg>")
		inner = someID.ReplaceAllString(inner, fmt.Sprintf("${1}p%d-", i))
		attributes := svgOpen.FindString(text)
		attributes = attributes[strings.LastIndex(attributes, "<svg")+4 : len(attributes)-1]
		keep := ""
		for _, name := range []string{"fill", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin"} {
			if m := regexp.MustCompile(`\s` + name + `="[^"]*"`).FindString(attributes); m != "" {
				keep += m
			}
		}
		var w, h float64
		fmt.Sscan(box[3], &w)
		fmt.Sscan(box[4], &h)
		scale := cell / max(w, h)
		fmt.Fprintf(&b, `<g id="picture-%d" transform="translate(%g %g) scale(%g) translate(%s %s)"%s>%s</g>`, i,
			24+float64(i%across)*(cell+24)+(cell-w*scale)/2, 24+float64(i/across)*(cell+24)+(cell-h*scale)/2, scale, "-"+strings.TrimPrefix(box[1], "-"), "-"+strings.TrimPrefix(box[2], "-"), keep, inner)
	}
	b.WriteString("</svg>")
	return b.String()
}

// When this fails, pictures that stand in a gallery are told as a heap of paths, or some of them are left out.
func TestGalleriesOfPicturesAreFoundWhole(t *testing.T) {
	for name, c := range map[string]struct {
		pattern string
		cell    float64
	}{
		"icons of lines":    {"@tabler/icons/icons/outline/*.svg", 24},
		"icons of areas":    {"bootstrap-icons/icons/*.svg", 32},
		"flags in circles":  {"circle-flags/flags/*.svg", 64},
		"pictures of skies": {"@meteocons/svg/fill/*.svg", 96},
		"illustrations":     {"undraw-svg/svgs/*.svg", 200},
	} {
		t.Run(name, func(t *testing.T) {
			files, err := filepath.Glob("../../web/node_modules/" + c.pattern)
			require.NoError(t, err)
			require.Greater(t, len(files), 30, "make web installs them")
			r := rand.New(rand.NewPCG(15, 1))
			whole, galleries := 0, 8
			for range galleries {
				var texts []string
				for _, i := range r.Perm(len(files))[:24] {
					text, err := os.ReadFile(files[i])
					require.NoError(t, err)
					texts = append(texts, string(text))
				}
				doc, found := design.ImportSVG("gallery.svg", []byte(gallery(texts, c.cell, 6)), font.Shipped())
				require.NotNil(t, doc, found)
				there := map[string]bool{}
				for _, l := range doc.Pages[0].Layers {
					there[l.ID] = strings.HasPrefix(l.ID, "picture-")
				}
				got := survey.Read(doc, survey.Options{})
				i := slices.IndexFunc(got.Finds, func(f survey.Find) bool {
					n := 0
					for _, m := range f.Members {
						if there[m.ID] {
							n++
						}
					}
					return n == len(there) && n == len(f.Members)
				})
				if i >= 0 {
					whole++
				} else if os.Getenv("DBG_WRONG") != "" {
					for _, f := range got.Finds {
						t.Log(f.ID, f.Kind, len(f.Members))
					}
					t.Log(len(there))
				}
			}
			assert.Equal(t, galleries, whole)
		})
	}
}
