// Pictures of what runs and of what was drawn, laid over each other pixel by pixel. The running part is
// written into an SVG image as it stands: scripts of another origin may read what they paint themselves.
import hanken from "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2?inline";
import hankenExt from "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-ext-wght-normal.woff2?inline";
import mono from "@fontsource-variable/jetbrains-mono/files/jetbrains-mono-latin-wght-normal.woff2?inline";

import { differing } from "./differing";
import type { Against, Compared, Painted } from "./messages";

/** Device px a px: half a px of a soft edge is no difference. */
const sharp = 2;

const files: Record<string, string> = {
  "hanken-grotesk-latin-ext": hankenExt,
  "hanken-grotesk-latin-wght": hanken,
  "jetbrains-mono-latin": mono,
};

/** The frame's own fonts, each with its file in it: an image loads nothing. */
function faces(rules: CSSRule[]) {
  return rules
    .filter((r) => r instanceof CSSFontFaceRule)
    .map((r) =>
      r.cssText.replace(/url\([^)]*\)/, (address) => `url(${Object.entries(files).find(([name]) => address.includes(name))?.[1] ?? ""})`),
    )
    .join("\n");
}

/** Compares what stands in the frame with a drawing whose origin is at x, y of the frame. */
export async function compare(stand: Element, against: Against): Promise<Omit<Compared, "kind">> {
  const { width, height } = against;
  const { fonts, looks } = styles();
  const html = new XMLSerializer().serializeToString(stand);
  const built = `<foreignObject width="${width}" height="${height}">${html}</foreignObject>`;
  const drawn = against.svg.replace("<svg ", `<svg x="${against.x}" y="${against.y}" overflow="visible" `);
  const [a, b] = await Promise.all([painted(drawn, fonts, width, height), painted(built, [fonts, ...looks].join("\n"), width, height)]);
  const mask = differing(a, b);
  let count = 0;
  for (const one of mask) count += one;
  return { case: against.case, pixels: Math.round(count / (sharp * sharp)), sharp, width: a.width, height: a.height, mask: mask.buffer };
}

/** The most pixels of a picture: beyond, it has one a px. */
const mostPixels = 16e6;

/** Paints all that stands in the frame, with text of a size. */
export async function paint(stage: Element, size: { width: number; height: number }, text: number): Promise<Omit<Painted, "kind">> {
  const [width, height] = [Math.ceil(size.width), Math.ceil(size.height)];
  const { fonts, looks } = styles();
  const html = new XMLSerializer().serializeToString(stage);
  const inside = `<foreignObject width="${width}" height="${height}">${html}</foreignObject>`;
  const by = width * height * sharp * sharp > mostPixels ? 1 : sharp;
  const css = [fonts, `:root { font-size: ${text}% }`, ...looks].join("\n");
  const picture = await painted(inside, css, width, height, by);
  return { sharp: by, width: picture.width, height: picture.height, data: picture.data.buffer };
}

/** The frame's style sheets: its fonts, and how things look. */
function styles() {
  const rules = [...document.styleSheets].flatMap((s) => [...s.cssRules]);
  return { fonts: faces(rules), looks: rules.filter((r) => !(r instanceof CSSFontFaceRule)).map((r) => r.cssText) };
}

async function painted(inside: string, css: string, width: number, height: number, by = sharp): Promise<ImageData> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width * by}" height="${height * by}" viewBox="0 0 ${width} ${height}"><style><![CDATA[${css.replaceAll("]]>", "")}]]></style>${inside}</svg>`;
  const image = new Image();
  image.src = "data:image/svg+xml;charset=utf-8," + encodeURIComponent(svg);
  await image.decode();
  const canvas = new OffscreenCanvas(Math.ceil(width * by), Math.ceil(height * by));
  const ink = canvas.getContext("2d", { willReadFrequently: true })!;
  ink.fillStyle = "#fdfcfa"; // the paper of the lanes
  ink.fillRect(0, 0, canvas.width, canvas.height);
  ink.drawImage(image, 0, 0);
  return ink.getImageData(0, 0, canvas.width, canvas.height);
}
