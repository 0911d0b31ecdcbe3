import { Button } from "@mantine/core";
import { useEffect, useEffectEvent, useState } from "react";

import type { Box } from "../../../../preview/messages";
import { type Schema, useEffectOf, useScale } from "../../../api/client";
import { BuiltFrame } from "../../../lanes/BuiltFrame";
import { shownCase } from "../../../lanes/shown";
import { Reach } from "../../../ui/Reach";
import { Failure } from "../../../ui/States";
import { count } from "../../../ui/count";
import classes from "./Beside.module.css";
import type { Cursor } from "./state";

interface Props {
  bench: Schema["Bench"];
  src: string;
  cursor: Cursor;
  trying: Schema["Edit"] | undefined;
  tried: Schema["Tried"] | undefined;
  failed: Error | null | undefined;
  /** It waits to be kept, or left. */
  pending: boolean;
  onKeep: () => void;
  onLeave: () => void;
}

/** Beside the sheet: what an edit would do, where a value comes to bear, and what scales. */
export function Beside({ bench, src, cursor, trying, tried, failed, pending, onKeep, onLeave }: Props) {
  const declared = cursor.on.split("/").length === 3 ? cursor.on : undefined;
  const shown = bench.cases.find((c) => c.default) ?? bench.cases[0];
  return (
    <aside className={classes.beside} aria-label="What it does">
      {trying ? (
        <section aria-label="As typed" aria-live="polite">
          <h2>{pending ? "This would be done" : "As typed"}</h2>
          {failed && (pending ? <Failure error={failed} /> : <p className="quiet">{failed.message}</p>)}
          {tried && (
            <>
              <Pictures bench={bench} src={src} tried={tried} />
              <p>
                <Reach tried={tried} />
              </p>
              {tried.taken.length > 0 && (
                <p>
                  <b>Goes along:</b> {tried.taken.join("; ")}.
                </p>
              )}
              <ul className={classes.changes}>
                {tried.changes.map((c) => (
                  <li key={c.text}>
                    <span className="quiet">{c.level}</span> {c.text}
                  </li>
                ))}
              </ul>
            </>
          )}
          {pending && (
            <p className={classes.keep}>
              <Button variant="filled" disabled={!tried} onClick={onKeep}>
                Do it <kbd>Enter</kbd>
              </Button>
              <Button onClick={onLeave}>
                Leave it <kbd>Esc</kbd>
              </Button>
            </p>
          )}
        </section>
      ) : (
        shown && (
          <section aria-label="As it is">
            <h2>
              As it is <span className="quiet">{shown.name}</span>
            </h2>
            <Live bench={bench} src={src} cases={[shown]} />
          </section>
        )
      )}
      {declared && !trying && <Bearing slug={bench.slug} build={bench.build} on={declared} />}
      <Scales bench={bench} />
    </aside>
  );
}

function Pictures({ bench, src, tried }: { bench: Schema["Bench"]; src: string; tried: Schema["Tried"] }) {
  // Both on one scale: that of the larger.
  const [fits, setFits] = useState<Record<string, number>>({});
  const atMost = Math.min(1, ...Object.values(fits));
  const fit = (of: string) => (scale: number) => setFits((was) => (was[of] === scale ? was : { ...was, [of]: scale }));
  if (tried.after.length === 0) return null;
  return (
    <div className={classes.pictures}>
      <span className="quiet">before</span>
      <Live bench={bench} src={src} cases={tried.before} atMost={atMost} onFit={fit("before")} />
      <span className={classes.after}>as typed</span>
      <Live bench={bench} src={`${src}?typed=${tried.typed}`} cases={tried.after} atMost={atMost} onFit={fit("after")} />
    </div>
  );
}

const room = 12;
const most = { width: 380, height: 150 };

/** Cases beside each other, running. */
function Live({
  bench,
  src,
  cases,
  atMost = 1,
  onFit,
}: {
  bench: Schema["Bench"];
  src: string;
  cases: Schema["CaseView"][];
  /** The scale of what stands beside. */
  atMost?: number;
  /** Hears at which scale it fits. */
  onFit?: (scale: number) => void;
}) {
  const theme = bench.themes.find((t) => t.name === bench.theme);
  // What runs may be larger than what was drawn.
  const [measured, setMeasured] = useState<Record<string, Box>>({});
  const sizes = cases.map((c) => ({
    width: Math.ceil(Math.max(c.width, measured[c.key]?.width ?? 0)),
    height: Math.ceil(Math.max(c.height, measured[c.key]?.height ?? 0)),
  }));
  const places = cases.map((_, i) => sizes.slice(0, i).reduce((x, s) => x + s.width + 2 * room, room));
  const width = sizes.reduce((x, s) => x + s.width + 2 * room, 0);
  const height = Math.max(...sizes.map((s) => s.height)) + 2 * room;
  const own = Math.min(1, most.width / width, most.height / height);
  const scale = Math.min(own, atMost);
  const tell = useEffectEvent((fit: number) => onFit?.(fit));
  useEffect(() => tell(own), [own]);
  return (
    <div className={classes.live} style={{ width: width * scale, height: height * scale }}>
      <BuiltFrame
        src={src}
        title={`${cases.map((c) => c.name).join(", ")}, running`}
        cases={cases.map((c, i) => shownCase(c, theme, places[i]!, room))}
        width={width}
        height={height}
        scale={scale}
        onMeasured={(all) =>
          setMeasured(Object.fromEntries(all.flatMap((c) => c.parts.filter((p) => p.part === "root").map((p) => [c.case, p.box]))))
        }
      />
    </div>
  );
}

/** Where a declaration comes to bear, where it loses, and what it wins over. */
function Bearing({ slug, build, on }: { slug: string; build: string; on: string }) {
  const effect = useEffectOf(slug, build, on).data;
  if (!effect) return null;
  return (
    <section aria-label="Where it comes to bear">
      <h2>Where it comes to bear</h2>
      <p title={effect.holds.join("\n")}>
        {effect.holds.length === effect.cases && effect.cases > 0
          ? `In all ${count(effect.cases, "case")}.`
          : effect.holds.length === 0
            ? "In no case."
            : `In ${effect.holds.length} of ${count(effect.cases, "case")}.`}
      </p>
      <ul className={classes.changes}>
        {effect.loses.map((r) => (
          <li key={r.on} title={r.in.join("\n")}>
            <span className="quiet">loses in {r.in.length} to</span> {r.when && `when ${r.when}: `}
            <code>{r.text}</code>
          </li>
        ))}
        {effect.overrides.map((r) => (
          <li key={r.on}>
            <span className="quiet">wins over</span> {r.when && `when ${r.when}: `}
            <code>{r.text}</code>
          </li>
        ))}
        {effect.inherited && (
          <li>
            <span className="quiet">wins over what is inherited from</span> {effect.inherited}
          </li>
        )}
      </ul>
    </section>
  );
}

/** What lengths become over the options of a choice. */
function Scales({ bench }: { bench: Schema["Bench"] }) {
  const choices = bench.props.filter((p) => p.kind === "choice");
  const [picked, pick] = useState<string>();
  const prop = choices.find((p) => p.id === picked) ?? choices.find((p) => /size/i.test(p.name)) ?? choices[0];
  const scale = useScale(bench.slug, bench.build, prop?.id).data;
  if (!prop || !scale) return null;
  return (
    <section aria-label="What scales">
      <h2>
        What scales with{" "}
        {choices.length > 1 ? (
          <select aria-label="Choice" className={classes.choice} value={prop.id} onChange={(e) => pick(e.currentTarget.value)}>
            {choices.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        ) : (
          prop.name
        )}{" "}
        <span className="quiet">computed, px</span>
      </h2>
      {scale.rows.length === 0 ? (
        <p className="quiet">No part says a length.</p>
      ) : (
        <div className={classes.scroll} tabIndex={0} role="region" aria-label="Lengths">
          <table className="grid">
            <thead>
              <tr>
                <th scope="col">Part · property</th>
                {scale.options.map((o) => (
                  <th key={o} scope="col">
                    {o}
                  </th>
                ))}
                <th scope="col">In</th>
                <th scope="col">How</th>
              </tr>
            </thead>
            <tbody>
              {scale.rows.map((r) => (
                <tr key={`${r.part} ${r.property}`} title={r.text}>
                  <td className="mono">
                    {r.name} · {r.property}
                  </td>
                  {r.px.map((px, i) => (
                    <td key={i} className="mono">
                      {px}
                    </td>
                  ))}
                  <td className="mono">{r.unit}</td>
                  <td className={r.how === "stays" ? "quiet" : undefined}>{r.how}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
