import { useMemo } from "react";

/**
 * An SVG that the server drew from a design document. It is put into the page,
 * not into an image, so that it can use the page's fonts; all text in it was
 * escaped when it was written.
 */
export function Picture({
  svg,
  label,
  scale = 1,
  width,
  height,
  open = false,
}: {
  svg: string;
  label: string;
  scale?: number;
  width: number;
  height: number;
  /** What sticks out of it shows. */
  open?: boolean;
}) {
  const html = useMemo(() => ({ __html: svg }), [svg]);
  return (
    <div role="img" aria-label={label} style={{ width: width * scale, height: height * scale, overflow: open ? "visible" : "hidden" }}>
      <div
        style={{ width, height, transform: `scale(${scale})`, transformOrigin: "0 0" }}
        aria-hidden="true"
        dangerouslySetInnerHTML={html}
      />
    </div>
  );
}
