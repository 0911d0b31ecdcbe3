import { Link } from "react-router";

import { type Schema, useBench, useProject } from "../../api/client";
import { buildAddress } from "../../lanes/address";
import { Running } from "../../lanes/Running";
import { fitted, Measured, Sheet, Ticks } from "../../marks/Marks";
import { placed } from "../../marks/geometry";
import { Picture } from "../../ui/Picture";
import classes from "./Sync.module.css";

const sheet = { width: 260, height: 170 };

/** A case that a move changes: as the design draws it, with the part that the move is of, and, where few components moved, as the contract's code shows it, running. */
export function MovedSheet({
  component: c,
  move,
  few,
}: {
  component: Schema["SyncComponent"];
  move: Schema["Move"] | undefined;
  few: boolean;
}) {
  const bench = useBench(c.slug).data;
  const preview = useProject().data?.preview;
  const shown = bench && caseOf(bench.cases, move);
  if (!bench || !shown) return <div className={classes.sheet} style={sheet} />;
  const place = fitted(shown.width, shown.height, sheet);
  const root = { x: 0, y: 0, width: shown.width, height: shown.height };
  const part = move?.part ? shown.boxes[move.part] : undefined;
  return (
    <figure className={classes.sheet}>
      <div style={{ ...sheet, position: "relative" }}>
        <div style={{ position: "absolute", left: place.x, top: place.y }}>
          <Picture
            svg={shown.picture}
            label={`${c.name}, ${shown.name}, as the design draws it`}
            width={shown.width}
            height={shown.height}
            scale={place.scale}
            open
          />
        </div>
        <Sheet {...sheet}>
          <Ticks box={placed(root, place)} chosen={part === undefined} />
          {part && <Ticks box={placed(part, place)} chosen />}
          <Measured box={part ?? root} root={root} place={place} />
        </Sheet>
      </div>
      <figcaption>
        <Link to={`/bench/${c.slug}?case=${encodeURIComponent(shown.key)}`}>{shown.name}</Link>
        <span className="quiet">{move?.name ?? ""}</span>
      </figcaption>
      {few && preview && (
        <div className={classes.before}>
          {shown.new.length > 0 ? (
            <span className="quiet">not in the contract yet</span>
          ) : (
            <Running
              key={shown.key}
              src={buildAddress(preview, c.slug, bench.build)}
              caption="contract"
              shown={shown}
              theme={bench.themes[0]}
            />
          )}
        </div>
      )}
    </figure>
  );
}

/** A case that a move changes, one that shows its part if there is any; else the one by default. */
function caseOf(cases: Schema["CaseView"][], move: Schema["Move"] | undefined) {
  const changed = cases.filter((k) => move?.in?.includes(k.key));
  return (
    changed.find((k) => move?.part && k.boxes[move.part]) ??
    changed[0] ??
    cases.find((k) => move?.kind === "option added" && k.new?.some((n) => n.endsWith(`=${move.to.value}`))) ??
    cases.find((k) => k.default)
  );
}
