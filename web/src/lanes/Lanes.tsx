import { useElementSize } from "@mantine/hooks";
import type { ReactNode } from "react";

import type { Box, Failed, MeasuredCase } from "../../preview/messages";
import type { Schema } from "../api/client";
import { type Place, placed, rounded } from "../marks/geometry";
import { fitted, Measured, Numbers, Sheet, Size, Ticks } from "../marks/Marks";
import { Picture } from "../ui/Picture";
import { BuiltFrame } from "./BuiltFrame";
import { Difference } from "./Difference";
import classes from "./lanes.module.css";
import { lookedCase, shownCase, textOf } from "./shown";

interface Props {
  shown: Schema["CaseView"];
  /** What the running code is looked at in, where that is not as it is drawn. */
  looked?: Schema["Looked"];
  themes: Schema["LookTheme"][];
  theme: Schema["LookTheme"] | undefined;
  src: string;
  next?: string;
  /** The component's parts; their numbers are their places, the root's 0. */
  parts: Schema["PartView"][];
  /** Measured boxes by part; empty until measured. */
  built: Record<string, Box>;
  /** What is measured of the running code at another width than drawn. */
  onMeasured?: (boxes: Record<string, Box>) => void;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  failure?: ReactNode;
  onFailed: (failure: Failed) => void;
  /** Whose code runs, where the repository has the component, too. */
  side?: { repository: boolean; choose: (repository: boolean) => void };
}

/** Room around the picture, in its own px, so that what sticks out shows. */
export const room = 12;

/**
 * Pictures of one case side by side on one scale: as drawn, the difference, and
 * the running code. Pointing at a part marks it in every lane, with its dimensions.
 */
export function Lanes({ shown, looked, themes, theme, src, next, parts, built, onMeasured, part, onPart, failure, onFailed, side }: Props) {
  const { ref, width: stageWidth, height: stageHeight } = useElementSize();
  const stage = { width: stageWidth, height: stageHeight };
  const undrawn = shown.picture === ""; // it began without a drawing: there is the built side alone
  const reach = reachOf(undrawn ? built : shown.boxes);
  const free = shown.container > 0 || looked !== undefined; // it need not be as large as it is drawn
  const container = looked?.container ?? shown.container;
  const width = Math.max(container, shown.width, reach.width, free ? (built.root?.width ?? 0) : 0);
  const height = Math.max(shown.height, reach.height, free ? (built.root?.height ?? 0) : 0);
  const place = fitted(width, height, stage);
  const drawnSize = `${rounded(shown.width)} × ${rounded(shown.height)} px${shown.container ? ", laid out anew" : ""}`;
  const builtRoot = built.root;
  const numbers = Object.fromEntries(parts.map((p, i) => [p.id, i]));
  const chosen = parts.find((p) => p.id === part);
  const and = chosen ? ` · ${numbers[chosen.id]} ${chosen.name}` : "";
  const frame = (
    <BuiltFrame
      src={src}
      next={next}
      title={`${shown.name}, running`}
      cases={[looked ? lookedCase(looked, themes, room, room) : shownCase(shown, theme, room, room)]}
      text={looked && textOf(looked.look)}
      width={width + 2 * room}
      height={height + 2 * room}
      scale={place.scale}
      onMeasured={(cases: MeasuredCase[]) => {
        const one = cases.find((c) => c.case === shown.key);
        if (one) onMeasured?.(Object.fromEntries(one.parts.map((p) => [p.part, p.box])));
      }}
      onFailed={onFailed}
    />
  );
  const edge = container > 0 && (
    <div className={classes.container} style={{ left: place.x, width: container * place.scale }} aria-hidden="true" />
  );
  const drawn = (
    <At place={place}>
      <Picture svg={shown.picture} label={`${shown.name}, as drawn`} width={shown.width} height={shown.height} scale={place.scale} open />
    </At>
  );
  const marks = { part, onPart, place, stage };
  return (
    <div className={classes.lanes} data-undrawn={undrawn || undefined}>
      {!undrawn && (
        <>
          <section className={classes.lane} aria-label="Design">
            <LaneHead name="Design" note={drawnSize + and} scale={place.scale} />
            <div className={classes.stage} ref={ref}>
              {edge}
              {drawn}
              <Marks boxes={shown.boxes} numbers={numbers} {...marks} />
            </div>
          </section>
          {looked ? (
            <section className={classes.lane} aria-label="Difference">
              <LaneHead name="Difference" note="" />
              <div className={classes.stage}>
                <p className={classes.notYet}>It is drawn in nothing of what is pinned: there is nothing to compare.</p>
              </div>
            </section>
          ) : (
            <Difference
              shown={shown}
              theme={theme}
              src={src}
              place={place}
              width={width}
              height={height}
              drawn={drawn}
              built={built}
              failed={!!failure}
            />
          )}
        </>
      )}
      <section className={classes.lane} aria-label="Built">
        <LaneHead name="Built" note={builtRoot ? `${rounded(builtRoot.width)} × ${rounded(builtRoot.height)} px` + and : "not measured"}>
          {side && (
            <span className={classes.sides} role="group" aria-label="Whose code runs">
              {[false, true].map((repository) => (
                <button
                  key={String(repository)}
                  type="button"
                  aria-pressed={side.repository === repository}
                  onClick={() => side.choose(repository)}
                >
                  {repository ? "repository" : "contract"}
                </button>
              ))}
            </span>
          )}
        </LaneHead>
        <div className={classes.stage} ref={undrawn ? ref : undefined}>
          {failure ??
            (shown.new.length > 0 ? (
              <NotYet shown={shown} />
            ) : (
              <>
                {edge}
                <At place={place} out={room}>
                  {frame}
                </At>
                <Marks boxes={built} numbers={undrawn ? numbers : undefined} {...marks} />
              </>
            ))}
        </div>
      </section>
    </div>
  );
}

/** What stands where a picture's origin is, or so many of its px further out. */
export function At({ place, out = 0, children }: { place: Place; out?: number; children: ReactNode }) {
  return (
    <div className={classes.at} style={{ left: place.x - out * place.scale, top: place.y - out * place.scale }}>
      {children}
    </div>
  );
}

/** How far parts reach from the root's top left corner: an overlay sticks out of it. */
export function reachOf(boxes: Record<string, Box>) {
  let [width, height] = [0, 0];
  for (const b of Object.values(boxes)) [width, height] = [Math.max(width, b.x + b.width), Math.max(height, b.y + b.height)];
  return { width, height };
}

export function LaneHead({ name, note, scale, children }: { name: string; note: string; scale?: number; children?: ReactNode }) {
  return (
    <h2 className={classes.head}>
      {name} <span className="quiet mono">{note}</span>
      {scale !== undefined && scale !== 1 && <span className={`quiet mono ${classes.scale}`}>on one scale, {scale}</span>}
      {children}
    </h2>
  );
}

export function NotYet({ shown }: { shown: Schema["CaseView"] }) {
  return <p className={classes.notYet}>Drawn, but not in the contract yet: {shown.new.join(", ")}. Decide in Sync.</p>;
}

/** A picture's parts, which hear the pointer, and the marks of those that are meant. */
function Marks({
  boxes,
  numbers,
  part,
  onPart,
  place,
  stage,
}: {
  boxes: Record<string, Box>;
  numbers?: Record<string, number>;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  place: Place;
  stage: { width: number; height: number };
}) {
  const root = boxes.root;
  const chosen = part === undefined ? undefined : boxes[part];
  const numbered = Object.entries(boxes).flatMap(([key, box]) => {
    const number = numbers?.[key];
    return number ? [{ key, number, box: placed(box, place) }] : [];
  });
  return (
    <>
      <div className={classes.layer} onPointerLeave={() => onPart(undefined)}>
        {Object.entries(boxes).map(([name, box]) => {
          const { x, y, width, height } = placed(box, place);
          return (
            <div
              key={name}
              className={classes.hit}
              style={{ left: x, top: y, width, height }}
              onPointerEnter={() => onPart(name)}
              data-part={name}
            />
          );
        })}
      </div>
      {root && stage.width > 0 && (
        <Sheet {...stage}>
          <Ticks box={placed(root, place)} chosen={part === "root"} />
          <Numbers parts={numbered} root={placed(root, place)} chosen={part} sheet={stage} />
          {chosen && part !== "root" ? (
            <>
              <Ticks box={placed(chosen, place)} chosen />
              <Measured box={chosen} root={root} place={place} />
            </>
          ) : (
            <Size root={root} place={place} />
          )}
        </Sheet>
      )}
    </>
  );
}
