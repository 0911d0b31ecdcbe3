import { type Schema, useWidths } from "../api/client";
import { Failure } from "../ui/States";
import classes from "./WidthRail.module.css";

interface Props {
  slug: string;
  build: string;
  shown: Schema["CaseView"];
  part: string | undefined;
  onPart: (part: string | undefined) => void;
}

const marks = [320, 480, 640, 800, 960, 1120, 1280, 1440];
const rem = 16;

/**
 * A ruler of the widths a container may have, with the bands in which the case
 * is in trouble and where a switch point would end them.
 */
export function WidthRail({ slug, build, shown, part, onPart }: Props) {
  const { data, error } = useWidths(slug, build, shown.key);
  if (error) return <Failure error={error} />;
  if (!data) return <div className={classes.rail} aria-busy />;
  const { from, to, sweep } = data;
  const at = (width: number) => `${((width - from) / (to - from)) * 100}%`;
  const bands = sweep.bands.map((b) => ({ ...b, last: b.part.split(" › ").at(-1) ?? b.part }));
  return (
    <section className={classes.rail} aria-label="Widths">
      <h2 className={classes.head}>
        Widths <span className="quiet mono">{`${from} to ${to} px`}</span>
      </h2>
      <div className={classes.ruler} aria-hidden>
        {marks.map((m) => (
          <span key={m} className={classes.mark} style={{ left: at(m) }}>
            {m} <span className="quiet">{m / rem} rem</span>
          </span>
        ))}
        {bands.map((b) => (
          <span
            key={`${b.part} ${b.kind} ${b.from}`}
            className={classes.band}
            data-lit={b.last === part || undefined}
            style={{ left: at(b.from), width: `calc(${at(b.to)} - ${at(b.from)} + 2px)` }}
            onPointerEnter={() => onPart(b.last)}
            onPointerLeave={() => onPart(undefined)}
          />
        ))}
        {sweep.proposals.map((p) => (
          <span key={`${p.part} ${p.at} ${p.why}`} className={classes.switch} style={{ left: at(p.at) }} />
        ))}
      </div>
      {bands.length === 0 ? (
        <p className={classes.calm}>Nothing breaks at any of these widths.</p>
      ) : (
        <ul className={classes.list}>
          {bands.map((b) => (
            <li
              key={`${b.part} ${b.kind} ${b.from}`}
              tabIndex={0}
              onPointerEnter={() => onPart(b.last)}
              onPointerLeave={() => onPart(undefined)}
              onFocus={() => onPart(b.last)}
              onBlur={() => onPart(undefined)}
            >
              <span className="mono">{b.from === b.to ? `${b.from} px` : `${b.from} to ${b.to} px`}</span> <b>{b.last}</b> {b.kind}: {b.reason}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
