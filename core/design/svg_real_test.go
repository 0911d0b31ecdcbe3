package design

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
)

// drawing is a file and how it is drawn again.
type drawing struct {
	name, text, again string
	width, height     float64
	report            string
}

// drawnAgain imports a file and draws what became of it; false when it cannot be read.
func drawnAgain(name string, text []byte) (drawing, error) {
	doc, found := ImportSVG(name, text, font.Shipped())
	if doc == nil {
		return drawing{}, found.Err()
	}
	page := doc.Pages[0]
	return drawing{name, string(text), doc.DrawPage(page), page.Width, page.Height, strings.Join(strings.Fields(found.Error()), " ")}, nil
}

// differing gives the part of the pixels, 0 to 1, in which Chromium shows two pictures otherwise, soft edges aside: a
// pixel counts when a channel of it, over white, differs by more than an eighth of its range, and lies as far outside of
// what the other picture shows within one pixel of it. The longer side is drawn with 240 pixels. It is -1 where the first is
// no picture, 2 where the second alone is none.
func differing(t *testing.T, ctx context.Context, drawings []drawing) []float64 {
	t.Helper()
	type pair struct {
		A, B          string
		Width, Height int
	}
	var out []float64
	for part := range slices.Chunk(drawings, 100) {
		pairs := make([]pair, len(part))
		for i, d := range part {
			scale := 240 / max(d.width, d.height)
			pairs[i] = pair{d.text, d.again, max(1, int(d.width*scale)), max(1, int(d.height*scale))}
		}
		quoted, err := json.Marshal(pairs)
		require.NoError(t, err)
		got, err := chromedp.Run(ctx, chromedp.Evaluate[[]float64](`(async () => {
			const draw = async (svg, w, h) => {
				const image = new Image(), url = URL.createObjectURL(new Blob([svg], { type: "image/svg+xml" }));
				image.src = url;
				try { await image.decode() } catch { return undefined }
				const canvas = new OffscreenCanvas(w, h).getContext("2d", { willReadFrequently: true });
				canvas.fillStyle = "#fff";
				canvas.fillRect(0, 0, w, h);
				canvas.drawImage(image, 0, 0, w, h);
				URL.revokeObjectURL(url);
				return canvas.getImageData(0, 0, w, h).data;
			};
			const far = (a, i, b, j) => Math.abs(a[i] - b[j]) > 32 || Math.abs(a[i + 1] - b[j + 1]) > 32 || Math.abs(a[i + 2] - b[j + 2]) > 32;
			const between = (a, b, x, y, w, h) => {
				for (let c = 0; c < 3; c++) {
					let low = 255, high = 0;
					for (let v = Math.max(0, y - 1); v <= Math.min(h - 1, y + 1); v++) for (let u = Math.max(0, x - 1); u <= Math.min(w - 1, x + 1); u++) {
						const n = b[4 * (v * w + u) + c];
						low = Math.min(low, n); high = Math.max(high, n);
					}
					const n = a[4 * (y * w + x) + c];
					if (n < low - 32 || n > high + 32) return false;
				}
				return true;
			};
			const out = [];
			for (const { A, B, Width: w, Height: h } of `+string(quoted)+`) {
				const a = await draw(A, w, h), b = await draw(B, w, h);
				if (!a || !b) { out.push(a ? 2 : -1); continue }
				let count = 0;
				for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) {
					const i = 4 * (y * w + x);
					if (far(a, i, b, i) && !(between(a, b, x, y, w, h) && between(b, a, x, y, w, h))) count++;
				}
				out.push(count / (w * h));
			}
			return out })()`, chromedp.EvalAwaitPromise))
		require.NoError(t, err)
		out = append(out, got...)
	}
	return out
}

// realFiles are SVG files of packages of the registry, so many of each.
func realFiles(t *testing.T, count int) map[string][]string {
	t.Helper()
	patterns := map[string]string{
		"icons of lines":    "@tabler/icons/icons/outline/*.svg",
		"icons of areas":    "bootstrap-icons/icons/*.svg",
		"flags":             "flag-icons/flags/*/*.svg",
		"flags in circles":  "circle-flags/flags/*.svg",
		"pictures of skies": "@meteocons/svg/*/*.svg",
		"illustrations":     "undraw-svg/svgs/*.svg",
	}
	root := "../../web/node_modules"
	out := map[string][]string{}
	if dir := os.Getenv("COBRIK_SVG_DIR"); dir != "" { // a folder of packages of one's own
		entries, err := os.ReadDir(dir)
		require.NoError(t, err)
		for _, e := range entries {
			var files []string
			require.NoError(t, filepath.WalkDir(filepath.Join(dir, e.Name()), func(path string, _ os.DirEntry, err error) error {
				if strings.HasSuffix(path, ".svg") {
					files = append(files, path)
				}
				return err
			}))
			out[e.Name()] = files
		}
	} else {
		for name, pattern := range patterns {
			files, err := filepath.Glob(filepath.Join(root, pattern))
			require.NoError(t, err)
			require.Greater(t, len(files), 20, "the files of %s are not where they were: make web installs them", name)
			out[name] = files
		}
	}
	for name, files := range out {
		slices.Sort(files)
		r := rand.New(rand.NewPCG(14, 1))
		r.Shuffle(len(files), func(i, j int) { files[i], files[j] = files[j], files[i] })
		out[name] = files[:min(len(files), count)]
	}
	return out
}

// Files of icon and illustration packages are drawn again as Chromium draws them; what is not, is told.
func TestRealFilesAreDrawnAgain(t *testing.T) {
	count := 15
	if n, err := strconv.Atoi(os.Getenv("COBRIK_SVG_FILES")); err == nil {
		count = n
	}
	ctx := openBrowser(t)
	var all []drawing
	var of []string
	sets := realFiles(t, count)
	names := make([]string, 0, len(sets))
	for name := range sets {
		names = append(names, name)
	}
	slices.Sort(names)
	refused := 0
	for _, name := range names {
		for _, file := range sets[name] {
			text, err := os.ReadFile(file)
			require.NoError(t, err)
			d, err := drawnAgain(file, text)
			if err != nil {
				refused++
				t.Logf("refused: %v", err)
				continue
			}
			all, of = append(all, d), append(of, name)
		}
	}
	right, silent := 0, 0
	type tally struct{ right, wrong, silent, told int }
	by := map[string]*tally{}
	type wrong struct {
		part float64
		d    drawing
	}
	var worst []wrong
	for i, part := range differing(t, ctx, all) {
		one := by[of[i]]
		if one == nil {
			one = &tally{}
			by[of[i]] = one
		}
		if all[i].report != "" {
			one.told++
		}
		switch {
		case part < 0: // Chromium does not show the file, either
		case part <= 0.01:
			right++
			one.right++
		default:
			one.wrong++
			worst = append(worst, wrong{part, all[i]})
			if all[i].report == "" {
				silent++
				one.silent++
			}
		}
	}
	slices.SortFunc(worst, func(a, b wrong) int { return int((b.part - a.part) * 1e6) })
	for _, name := range names {
		if one := by[name]; one != nil {
			t.Logf("%-40s right %4d  wrong %4d  of these silent %4d  with a report %4d", name, one.right, one.wrong, one.silent, one.told)
		}
	}
	t.Logf("all: %d of %d right, %d wrong in silence, %d refused", right, len(all), silent, refused)
	for _, w := range worst[:min(len(worst), 40)] {
		t.Logf("%5.1f %% %s: %s", 100*w.part, w.d.name, w.d.report[:min(len(w.d.report), 300)])
	}
	if dir := os.Getenv("COBRIK_SVG_OUT"); dir != "" {
		for i, w := range worst[:min(len(worst), 40)] {
			base := filepath.Join(dir, fmt.Sprintf("%02d", i))
			require.NoError(t, os.WriteFile(base+"-a.svg", []byte(w.d.text), 0o644))
			require.NoError(t, os.WriteFile(base+"-b.svg", []byte(w.d.again), 0o644))
		}
	}
	assert.Zero(t, silent, "files are drawn wrong, and nobody is told")
	assert.Greater(t, float64(right), 0.97*float64(len(all)))
}
