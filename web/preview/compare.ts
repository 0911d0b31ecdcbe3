// Pictures of what runs and of what was drawn, laid over each other pixel by pixel. The running part is
// written into an SVG image as it stands: scripts of another origin may read what they paint themselves.
import hanken from "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2?inline";
import hankenExt from "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-ext-wght-normal.woff2?inline";
import mono from "@fontsource-variable/jetbrains-mono/files/jetbrains-mono-latin-wght-normal.woff2?inline";

import { differing } from "./differing";
import type { Against, Compared } from "./messages";

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
  const rules = [...document.styleSheets].flatMap((s) => [...s.cssRules]);
  const fonts = faces(rules);
  const looks = rules.filter((r) => !(r instanceof CSSFontFaceRule)).map((r) => r.cssText);
  const html = new XMLSerializer().serializeToString(stand);
  const built = `<foreignObject width="${width}" height="${height}">${html}</foreignObject>`;
  const drawn = against.svg.replace("<svg ", `<svg x="${against.x}" y="${against.y}" overflow="visible" `);
  const [a, b] = await Promise.all([painted(drawn, fonts, width, height), painted(built, [fonts, ...looks].join("\n"), width, height)]);
  const mask = differing(a, b);
  let count = 0;
  for (const one of mask) count += one;
  return { case: against.case, pixels: Math.round(count / (sharp * sharp)), sharp, width: a.width, height: a.height, mask: mask.buffer };
}

async function painted(inside: string, css: string, width: number, height: number): Promise<ImageData> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width * sharp}" height="${height * sharp}" viewBox="0 0 ${width} ${height}"><style><![CDATA[${css.replaceAll("]]>", "")}]]></style>${inside}</svg>`;
  const image = new Image();
  image.src = "data:image/svg+xml;charset=utf-8," + encodeURIComponent(svg);
  await image.decode();
  const canvas = new OffscreenCanvas(Math.ceil(width * sharp), Math.ceil(height * sharp));
  const ink = canvas.getContext("2d", { willReadFrequently: true })!;
  ink.fillStyle = "#fdfcfa"; // the paper of the lanes
  ink.fillRect(0, 0, canvas.width, canvas.height);
  ink.drawImage(image, 0, 0);
  return ink.getImageData(0, 0, canvas.width, canvas.height);
}
