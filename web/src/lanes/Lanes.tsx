import { useElementSize } from "@mantine/hooks";
import { type PointerEvent, type ReactNode, useState } from "react";

import type { Box, Failed, MeasuredCase } from "../../preview/messages";
import type { Schema } from "../api/client";
import { Picture } from "../ui/Picture";
import { BuiltFrame } from "./BuiltFrame";
import classes from "./lanes.module.css";
import { shownCase } from "./shown";

interface Props {
  shown: Schema["CaseView"];
  theme: Schema["LookTheme"] | undefined;
  src: string;
  /** Measured boxes by part; empty until measured. */
  built: Record<string, Box>;
  /** What is measured of the running code at another width than drawn. */
  onMeasured?: (boxes: Record<string, Box>) => void;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  failure?: ReactNode;
  onFailed: (failure: Failed) => void;
}

/** Room around the picture, in its own px, so that what sticks out shows. */
const room = 12;

/**
 * Pictures of one case side by side on one scale: as drawn, the difference, and
 * the running code. Pointing at a part outlines it in every lane.
 */
export function Lanes({ shown, theme, src, built, onMeasured, part, onPart, failure, onFailed }: Props) {
  const { ref, width: stage } = useElementSize();
  const reach = reachOf(shown.boxes);
  const width = Math.max(shown.container, shown.width, reach.width, shown.container ? (built.root?.width ?? 0) : 0) + 2 * room;
  const height = Math.max(shown.height, reach.height, shown.container ? (built.root?.height ?? 0) : 0) + 2 * room;
  const fit = Math.min((stage - 8) / width, 176 / height);
  const scale = fit >= 1 ? Math.min(6, Math.floor(fit)) : Math.max(0.1, Math.floor(fit * 20) / 20);
  const drawnSize = `${round(shown.width)} × ${round(shown.height)} px${shown.container ? ", laid out anew" : ""}`;
  const builtRoot = built.root;
  const running = (measured?: (cases: MeasuredCase[]) => void) => (
    <BuiltFrame
      src={src}
      title={`${shown.name}, running`}
      cases={[shownCase(shown, theme, room, room)]}
      width={width}
      height={height}
      scale={scale}
      onMeasured={measured}
      onFailed={onFailed}
    />
  );
  const measured = (cases: MeasuredCase[]) => {
    const one = cases.find((c) => c.case === shown.key);
    if (one) onMeasured?.(Object.fromEntries(one.parts.map((p) => [p.part, p.box])));
  };
  const edge = shown.container > 0 && (
    <div className={classes.container} style={{ left: room * scale, width: shown.container * scale }} aria-hidden="true" />
  );
  const drawn = (
    <div className={classes.drawn} style={{ left: room * scale, top: room * scale }}>
      <Picture svg={shown.picture} label={`${shown.name}, as drawn`} width={shown.width} height={shown.height} scale={scale} open />
    </div>
  );
  const hits = { part, onPart, scale };
  const size = { width: width * scale, height: height * scale };
  return (
    <div className={classes.lanes}>
      <section className={classes.lane} aria-label="Design">
        <LaneHead name="Design" note={drawnSize} scale={scale} />
        <div className={classes.stage} ref={ref}>
          <div className={classes.sheet} style={size}>
            {edge}
            {drawn}
            <Outlines boxes={shown.boxes} {...hits} />
          </div>
        </div>
      </section>
      <section className={classes.lane} aria-label="Difference">
        <LaneHead name="Difference" note="point into it to wipe" />
        <div className={`${classes.stage} ${classes.dark}`}>
          {shown.new.length > 0 ? <NotYet shown={shown} /> : <Wipe size={size} drawn={drawn} frame={running()} />}
        </div>
      </section>
      <section className={classes.lane} aria-label="Built">
        <LaneHead name="Built" note={builtRoot ? `${round(builtRoot.width)} × ${round(builtRoot.height)} px` : "not measured"} />
        <div className={classes.stage}>
          {failure ??
            (shown.new.length > 0 ? (
              <NotYet shown={shown} />
            ) : (
              <div className={classes.sheet} style={size}>
                {edge}
                {running(measured)}
                <Outlines boxes={built} {...hits} />
              </div>
            ))}
        </div>
      </section>
    </div>
  );
}

/** How far parts reach from the root's top left corner: an overlay sticks out of it. */
export function reachOf(boxes: Record<string, Box>) {
  let [width, height] = [0, 0];
  for (const b of Object.values(boxes)) [width, height] = [Math.max(width, b.x + b.width), Math.max(height, b.y + b.height)];
  return { width, height };
}

function LaneHead({ name, note, scale }: { name: string; note: string; scale?: number }) {
  return (
    <h2 className={classes.head}>
      {name} <span className="quiet mono">{note}</span>
      {scale !== undefined && scale !== 1 && <span className={`quiet mono ${classes.scale}`}>drawn {scale}×</span>}
    </h2>
  );
}

function NotYet({ shown }: { shown: Schema["CaseView"] }) {
  return <p className={classes.notYet}>Drawn, but not in the contract yet: {shown.new.join(", ")}. Decide in Sync.</p>;
}

/** One picture over the other: equal pixels are black; pointing wipes from drawn (left) to built (right). */
function Wipe({ size, drawn, frame }: { size: { width: number; height: number }; drawn: ReactNode; frame: ReactNode }) {
  const [at, setAt] = useState<number>();
  const follow = (e: PointerEvent<HTMLDivElement>) => setAt(e.clientX - e.currentTarget.getBoundingClientRect().left);
  return (
    <div
      className={`${classes.sheet} ${at === undefined ? classes.marked : ""}`}
      style={size}
      onPointerMove={follow}
      onPointerLeave={() => setAt(undefined)}
    >
      <div
        className={`${classes.layer} ${classes.paper}`}
        style={at === undefined ? undefined : { clipPath: `inset(0 ${size.width - at}px 0 0)` }}
      >
        {drawn}
      </div>
      <div
        className={`${classes.layer} ${classes.paper} ${at === undefined ? classes.difference : ""}`}
        style={at === undefined ? undefined : { clipPath: `inset(0 0 0 ${at}px)` }}
      >
        {frame}
      </div>
      {at !== undefined && <div className={classes.edge} style={{ left: at }} />}
      <div className={classes.layer} />
    </div>
  );
}

function Outlines({
  boxes,
  part,
  onPart,
  scale,
}: {
  boxes: Record<string, Box>;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  scale: number;
}) {
  const root = boxes.root;
  const chosen = part === undefined ? undefined : boxes[part];
  const place = (b: Box) => ({ left: (b.x + room) * scale, top: (b.y + room) * scale, width: b.width * scale, height: b.height * scale });
  return (
    <div className={classes.layer} onPointerLeave={() => onPart(undefined)}>
      {Object.entries(boxes).map(([name, box]) => (
        <div key={name} className={classes.hit} style={place(box)} onPointerEnter={() => onPart(name)} data-part={name} />
      ))}
      {chosen && (
        <>
          <div className={classes.outline} style={place(chosen)} />
          <span
            className={classes.size}
            style={{ left: (chosen.x + room) * scale, top: ((root ?? chosen).y + (root ?? chosen).height + room) * scale + 3 }}
          >
            {round(chosen.width)} × {round(chosen.height)}
          </span>
          {root && part !== "root" && <Distances box={chosen} root={root} scale={scale} />}
        </>
      )}
    </div>
  );
}

/** Dimension lines from a part to the root's edges. */
function Distances({ box, root, scale }: { box: Box; root: Box; scale: number }) {
  const left = box.x;
  const top = box.y;
  const right = root.width - box.x - box.width;
  const bottom = root.height - box.y - box.height;
  const middleX = (box.x + box.width / 2 + room) * scale;
  const middleY = (box.y + box.height / 2 + room) * scale;
  return (
    <>
      {left > 0.01 && <Dimension across value={left} style={{ left: room * scale, top: middleY, width: left * scale }} />}
      {right > 0.01 && (
        <Dimension across value={right} style={{ left: (box.x + box.width + room) * scale, top: middleY, width: right * scale }} />
      )}
      {top > 0.01 && <Dimension value={top} style={{ left: middleX, top: room * scale, height: top * scale }} />}
      {bottom > 0.01 && (
        <Dimension value={bottom} style={{ left: middleX, top: (box.y + box.height + room) * scale, height: bottom * scale }} />
      )}
    </>
  );
}

function Dimension({ value, across, style }: { value: number; across?: boolean; style: React.CSSProperties }) {
  return (
    <div className={across ? classes.across : classes.down} style={style}>
      <span>{round(value)}</span>
    </div>
  );
}

function round(n: number) {
  return Math.round(n * 100) / 100;
}
