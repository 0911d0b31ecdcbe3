import { useInViewport } from "@mantine/hooks";

import { type Schema, useDrawn } from "../api/client";
import { Picture } from "./Picture";

interface Props {
  entry: Schema["Entry"];
  scale: number;
}

/** A component as the design draws it, read once it is in sight. */
export function Drawn({ entry: e, scale }: Props) {
  const { ref, inViewport } = useInViewport();
  const drawn = useDrawn(e.slug, e.build, inViewport && e.drawn).data;
  return (
    <span ref={ref} style={{ display: "block", width: e.width * scale, height: e.height * scale }}>
      {drawn && <Picture svg={drawn.picture} label={`${e.name}, as drawn`} width={drawn.width} height={drawn.height} scale={scale} />}
    </span>
  );
}
