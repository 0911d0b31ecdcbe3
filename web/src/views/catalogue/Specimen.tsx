import { useElementSize } from "@mantine/hooks";
import { useState } from "react";

import type { Box, Failed, MeasuredCase } from "../../../preview/messages";
import { type Schema, usePlaces } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { Thrown } from "../../lanes/Thrown";
import { placed } from "../../marks/geometry";
import { fitted, Measured, Numbers, Sheet, Size, Ticks } from "../../marks/Marks";
import { buildAddress } from "../../lanes/address";
import classes from "./Catalogue.module.css";
import type { Values } from "./UseLine";

interface Props {
  bench: Schema["Bench"];
  preview: string;
  values: Values;
  theme: Schema["LookTheme"] | undefined;
  /** The parts that are meant: one that was pointed at, or all that a prop changes. */
  meant: string[];
  onPart: (part: string | undefined) => void;
}

/** The room a layout primitive lays its content out in, px. */
const primitiveRoom = 480;
/** Room around the component in its frame, px: what sticks out of it shows. */
const room = 12;

/** The component running, large and numbered. */
export function Specimen({ bench, preview, values, theme, meant, onPart }: Props) {
  const { ref, width, height } = useElementSize();
  const stage = { width, height };
  const [boxes, setBoxes] = useState<Record<string, Box>>({});
  const [failure, setFailure] = useState<Failed>();
  const [used, setUsed] = useState(false);
  const places = usePlaces(bench.slug, bench.build, values).data;
  const primitive = bench.status === "primitive";
  const stretched = bench.cases.find((c) => c.fills);
  const root = boxes.root;
  const place = fitted(Math.max(1, root?.width ?? 1), Math.max(1, root?.height ?? 1), stage);
  const scale = Math.min(place.scale, 4);
  const at = root ? { scale, x: (width - root.width * scale) / 2, y: (height - root.height * scale) / 2 } : { scale: 1, x: 0, y: 0 };
  const shown = {
    key: "live",
    theme: theme?.name,
    attributes: theme?.attributes,
    props: values,
    paths: { root: [], ...places },
    // In use it may grow: it stands where it stood, in a frame as large as the sheet.
    x: used ? at.x / at.scale : room,
    y: used ? at.y / at.scale : room,
    width: stretched?.width ?? (primitive ? primitiveRoom : undefined),
    block: primitive,
    live: used || undefined,
  };
  const measured = (cases: MeasuredCase[]) => used || setBoxes(Object.fromEntries((cases[0]?.parts ?? []).map((p) => [p.part, p.box])));
  const numbered = bench.parts.flatMap((p, i) => {
    const box = boxes[p.id];
    return box && i > 0 ? [{ key: p.id, number: i, box: placed(box, at) }] : [];
  });
  return (
    <div className={classes.stage} ref={ref}>
      {failure ? (
        <Thrown slug={bench.slug} build={bench.build} failure={failure} />
      ) : (
        <>
          <div
            className={classes.at}
            style={
              used
                ? { left: 0, top: 0 }
                : { left: at.x - room * at.scale, top: at.y - room * at.scale, visibility: root ? undefined : "hidden" }
            }
          >
            <BuiltFrame
              src={buildAddress(preview, bench.slug, bench.build)}
              title={`${bench.name}, running`}
              cases={[shown]}
              width={used ? width / at.scale : Math.ceil(root?.width ?? 1) + 2 * room}
              height={used ? height / at.scale : Math.ceil(root?.height ?? 1) + 2 * room}
              scale={at.scale}
              onMeasured={measured}
              onFailed={setFailure}
            />
          </div>
          <button type="button" className={classes.useIt} aria-pressed={used} onClick={() => setUsed(!used)}>
            {used ? "Point at parts" : "Use it"}
          </button>
          <div className={classes.hits} hidden={used} onPointerLeave={() => onPart(undefined)}>
            {bench.parts.map((p) => {
              const box = boxes[p.id];
              if (!box) return null;
              const { x, y, width: across, height: down } = placed(box, at);
              return (
                <div
                  key={p.id}
                  className={classes.hit}
                  style={{ left: x, top: y, width: across, height: down }}
                  onPointerEnter={() => onPart(p.id)}
                />
              );
            })}
          </div>
          {root && width > 0 && !used && (
            <Sheet {...stage}>
              {!meant.includes("root") && <Ticks box={placed(root, at)} />}
              <Numbers parts={numbered} root={placed(root, at)} chosen={meant[0]} sheet={stage} />
              {meant.map((part) => {
                const box = boxes[part];
                return box && <Ticks key={part} box={placed(box, at)} chosen />;
              })}
              {meant.length === 1 && boxes[meant[0]!] ? (
                <Measured box={boxes[meant[0]!]!} root={root} place={at} />
              ) : (
                <Size root={root} place={at} />
              )}
            </Sheet>
          )}
        </>
      )}
    </div>
  );
}
