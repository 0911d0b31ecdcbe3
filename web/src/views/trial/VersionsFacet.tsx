import type { Schema } from "../../api/client";
import { depthOf } from "./outline";
import classes from "./Trial.module.css";

interface Props {
  page: Schema["TrialPage"];
  lines: string[];
  onRow: (at: number) => void;
}

/** What is there at which widths: every place with versions, its widths as a ruler, what no version is for and what several are. */
export function VersionsFacet({ page, lines, onRow }: Props) {
  const changes = lines.flatMap((line, at) => (/^\s*(in \S+ )?(below|from) /.test(line) ? [{ at, line: line.trim() }] : []));
  const versions = new Set(page.groups.flatMap((g) => g.versions.map((v) => v.line)));
  const others = changes.filter((c) => !versions.has(c.at + 1));
  return (
    <div className={classes.versions}>
      <h2>Versions for widths</h2>
      {page.groups.length === 0 && (
        <p className="quiet">
          Nothing has versions: all of it is there at every width. To give a place two, put the rows of each into <code>below 640</code> and{" "}
          <code>from 640</code>.
        </p>
      )}
      {page.groups.map((g) => (
        <Group key={`${g.line} ${g.in}`} group={g} around={g.line > 0 ? (lines[g.line - 1] ?? "").trim() : page.name} onRow={onRow} />
      ))}
      <h2>What is otherwise at some widths</h2>
      {others.length === 0 && <p className="quiet">No row is otherwise at some width.</p>}
      <ul className={classes.changes}>
        {others.map((c) => (
          <li key={c.at}>
            <button type="button" onClick={() => onRow(c.at)}>
              <span className="mono">{c.line}</span> <span className="quiet">{(lines[holder(lines, c.at)] ?? "").trim()}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The row that a row stands in. */
function holder(lines: string[], at: number): number {
  for (let i = at - 1; i >= 0; i--) if (depthOf(lines[i]!) < depthOf(lines[at]!)) return i;
  return at;
}

function Group({ group, around, onRow }: { group: Schema["VersionGroup"]; around: string; onRow: (at: number) => void }) {
  const ends = group.versions.flatMap((v) => [v.from, v.below]).filter((n) => n > 0);
  const widest = Math.max(480, ...ends) * 1.25;
  const of = group.in === "" ? "the viewport" : group.in === "container" ? "the container around it" : `the container ${group.in}`;
  const place = (s: { from: number; below: number }) => ({
    left: `${(s.from / widest) * 100}%`,
    width: `${(((s.below || widest) - s.from) / widest) * 100}%`,
  });
  const whole = group.gaps.length === 0 && group.overlaps.length === 0;
  return (
    <section className={classes.group} aria-label={`Versions in ${around}`}>
      <header>
        <span className="mono">{around}</span> <span className="quiet">by the width of {of}</span>
        <span className={whole ? classes.level : classes.moved}>{whole ? "every width once" : "not every width once"}</span>
      </header>
      <div className={classes.ruler}>
        {group.versions.map((v) => (
          <button key={v.line} type="button" style={place(v)} onClick={() => onRow(v.line - 1)} title={words(v)}>
            <span>{v.what || "nothing, on purpose"}</span>
            <span className="mono">{words(v)}</span>
          </button>
        ))}
        {group.gaps.map((s) => (
          <span key={`gap ${s.from}`} className={classes.hole} style={place(s)} title={`No version: ${words(s)}`} />
        ))}
      </div>
      {group.gaps.map((s) => (
        <p key={`gap ${s.from}`} className={classes.moved}>
          No version is for widths {words(s)}.
        </p>
      ))}
      {group.overlaps.map((s) => (
        <p key={`over ${s.from}`} className={classes.moved}>
          Several versions are for widths {words(s)}.
        </p>
      ))}
    </section>
  );
}

function words({ from, below }: { from: number; below: number }): string {
  if (below === 0) return `from ${from} px on`;
  return from === 0 ? `below ${below} px` : `${from} to ${below} px`;
}
