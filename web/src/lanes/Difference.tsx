import { type PointerEvent, type ReactNode, useEffect, useRef, useState } from "react";

import type { Box, Compared } from "../../preview/messages";
import type { Schema } from "../api/client";
import type { Place } from "../marks/geometry";
import { rounded } from "../marks/geometry";
import { BuiltFrame } from "./BuiltFrame";
import { At, LaneHead, NotYet, room } from "./Lanes";
import classes from "./lanes.module.css";
import { shownCase } from "./shown";

interface Props {
  shown: Schema["CaseView"];
  theme: Schema["LookTheme"] | undefined;
  src: string;
  place: Place;
  /** Of the picture, px. */
  width: number;
  height: number;
  drawn: ReactNode;
  built: Record<string, Box>;
  /** The component does not run. */
  failed: boolean;
}

/**
 * The design in faint grey, brick where pixels of the running code differ; pointing wipes from drawn (left) to
 * built (right).
 */
export function Difference({ shown, theme, src, place, width, height, drawn, built, failed }: Props) {
  const [at, setAt] = useState<number>();
  const [found, setFound] = useState<Compared>();
  const asked = `${src} ${theme?.name ?? ""} ${shown.key} ${shown.container}`;
  const [compared, setCompared] = useState("");
  const current = compared === asked && !failed ? found : undefined;
  const follow = (e: PointerEvent<HTMLDivElement>) => setAt(e.clientX - e.currentTarget.getBoundingClientRect().left);
  const wiping = at !== undefined;
  return (
    <section className={classes.lane} aria-label="Difference">
      <LaneHead
        name="Difference"
        note={shown.new.length > 0 || failed ? "" : current ? words(current.pixels, shown.boxes, built) : "comparing …"}
      />
      {shown.new.length > 0 ? (
        <div className={classes.stage}>
          <NotYet shown={shown} />
        </div>
      ) : (
        <div
          className={classes.stage}
          onPointerMove={follow}
          onPointerLeave={() => setAt(undefined)}
          title="Point into it to wipe from drawn to built"
        >
          <div
            className={wiping ? classes.layer : `${classes.layer} ${classes.faint}`}
            style={wiping ? { clipPath: `inset(0 calc(100% - ${at}px) 0 0)` } : undefined}
          >
            {drawn}
          </div>
          <div className={classes.layer} style={wiping ? { clipPath: `inset(0 0 0 ${at}px)` } : { visibility: "hidden" }}>
            <At place={place} out={room}>
              <BuiltFrame
                src={src}
                title={`${shown.name}, running, to be compared`}
                cases={[shownCase(shown, theme, room, room)]}
                against={{ case: shown.key, svg: shown.picture, x: room, y: room, width: width + 2 * room, height: height + 2 * room }}
                width={width + 2 * room}
                height={height + 2 * room}
                scale={place.scale}
                onCompared={(c) => {
                  if (c.case !== shown.key) return;
                  setFound(c);
                  setCompared(asked);
                }}
              />
            </At>
          </div>
          {!wiping && current && current.pixels > 0 && (
            <At place={place} out={room}>
              <Mask compared={current} scale={place.scale} />
            </At>
          )}
          {wiping && <div className={classes.edge} style={{ left: at }} />}
          <div className={classes.layer} />
        </div>
      )}
    </section>
  );
}

/** "14 pixels differ, by at most 3 px": how far an edge of a part is from where it is drawn. */
function words(pixels: number, drawn: Record<string, Box>, built: Record<string, Box>) {
  if (pixels === 0) return "no pixel differs";
  let far = 0;
  for (const [part, d] of Object.entries(drawn)) {
    const b = built[part];
    if (!b) continue;
    far = Math.max(
      far,
      Math.abs(b.x - d.x),
      Math.abs(b.y - d.y),
      Math.abs(b.x + b.width - d.x - d.width),
      Math.abs(b.y + b.height - d.y - d.height),
    );
  }
  const count = pixels === 1 ? "1 pixel differs" : `${pixels} pixels differ`;
  return far >= 0.5 ? `${count}, by at most ${rounded(far)} px` : count;
}

/** Brick where pixels differ. */
function Mask({ compared, scale }: { compared: Compared; scale: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const ink = canvas.current?.getContext("2d");
    if (!ink) return;
    const image = ink.createImageData(compared.width, compared.height);
    new Uint8Array(compared.mask).forEach((one, i) => one && image.data.fill(255, 4 * i, 4 * i + 4));
    ink.putImageData(image, 0, 0);
    ink.globalCompositeOperation = "source-in"; // the theme's own brick where there was anything
    ink.fillStyle = getComputedStyle(ink.canvas).color;
    ink.fillRect(0, 0, compared.width, compared.height);
    ink.globalCompositeOperation = "source-over";
  }, [compared]);
  return (
    <canvas
      ref={canvas}
      className={classes.mask}
      width={compared.width}
      height={compared.height}
      style={{ transform: `scale(${scale / compared.sharp})` }}
      aria-hidden="true"
    />
  );
}
