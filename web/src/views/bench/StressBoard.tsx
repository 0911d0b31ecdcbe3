import { useElementSize } from "@mantine/hooks";
import { useState } from "react";

import type { Box, Failed } from "../../../preview/messages";
import { type Schema, useStress } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { shownCase } from "../../lanes/shown";
import { Query } from "../../ui/States";
import { count } from "../../ui/count";
import classes from "./StressBoard.module.css";

interface Props {
  bench: Schema["Bench"];
  shown: Schema["CaseView"];
  src: string;
  onFailed: (failure: Failed) => void;
}

const pad = 16;
/** px under a picture: its name, and what is in trouble. */
const foot = 52;

/** One case under what people and data do to it, every one of them running at once, with what breaks. */
export function StressBoard({ bench, shown, ...rest }: Props) {
  const stress = useStress(bench.slug, bench.build, shown.key);
  return (
    <Query query={stress} what="what it should bear">
      {(list) => <Board bench={bench} shown={shown} list={list} {...rest} />}
    </Query>
  );
}

function Board({ bench, shown, src, onFailed, list }: Props & { list: Schema["StressView"][] }) {
  const { ref, width: stage } = useElementSize();
  const [measured, setMeasured] = useState<Record<string, Box>>({});
  const theme = bench.themes.find((t) => t.name === bench.theme);
  const sizes = list.map((c) => ({
    width: Math.ceil(Math.max(c.width, c.container, measured[c.key]?.width ?? 0)),
    height: Math.ceil(Math.max(24, measured[c.key]?.height ?? c.height)),
  }));
  const widest = Math.max(1, ...sizes.map((s) => s.width));
  const scale = stage > 0 ? Math.min(1, (stage - 2 * pad) / widest) : 1;
  const { cells, height } = placed(sizes, scale, stage);
  const troubled = list.filter((c) => c.troubles.length > 0).length;
  return (
    <section className={classes.board} aria-label="Stress">
      <header className={classes.head}>
        <h2>Stress</h2>
        <span className="quiet" role="status">
          {shown.name}:{" "}
          {troubled === 0 ? `nothing breaks in ${count(list.length, "case")}` : `${count(troubled, "case is", "cases are")} in trouble`}
        </span>
      </header>
      <div className={classes.scroll} tabIndex={0} role="region" aria-label="Cases under stress">
        <div ref={ref} className={classes.stage} style={{ height }}>
          {stage > 0 && (
            <BuiltFrame
              src={src}
              title="Cases under stress, running"
              cases={list.map((c, i) => {
                const one = shownCase(c, theme, cells[i]!.x / scale, cells[i]!.y / scale);
                return { ...one, attributes: { ...one.attributes, dir: c.direction } };
              })}
              width={stage / scale}
              height={height / scale}
              scale={scale}
              onMeasured={(all) =>
                setMeasured(Object.fromEntries(all.flatMap((c) => c.parts.filter((p) => p.part === "root").map((p) => [c.case, p.box]))))
              }
              onFailed={onFailed}
            />
          )}
          {list.map((c, i) => (
            <div
              key={c.key}
              data-stress={c.name}
              className={classes.caption}
              style={{ left: cells[i]!.x, top: cells[i]!.y + sizes[i]!.height * scale + 4, width: Math.max(140, sizes[i]!.width * scale) }}
            >
              <span>{c.name}</span>
              {c.troubles.map((t) => (
                <span key={t} className={classes.trouble}>
                  {t}
                </span>
              ))}
            </div>
          ))}
        </div>
      </div>
    </section>
  );
}

/** Places pictures of some sizes in rows, as words in a text. */
function placed(sizes: { width: number; height: number }[], scale: number, stage: number) {
  const cells: { x: number; y: number }[] = [];
  let [x, y, tall] = [pad, pad, 0];
  for (const s of sizes) {
    const wide = Math.max(140, s.width * scale);
    if (x > pad && x + wide > stage - pad) [x, y, tall] = [pad, y + tall + foot, 0];
    cells.push({ x, y });
    x += wide + 2 * pad;
    tall = Math.max(tall, s.height * scale);
  }
  return { cells, height: y + tall + foot };
}
