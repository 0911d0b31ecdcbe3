import { Button } from "@mantine/core";
import { Link, useSearchParams } from "react-router";

import { type Schema, useCompared } from "../../api/client";
import { count } from "../../ui/count";
import inline from "../../ui/Inline.module.css";
import { Failure, Loading } from "../../ui/States";
import { Value } from "../../ui/Value";
import classes from "./Compare.module.css";

/** What differs between two revisions of a design document, or of the token files, side by side. */
export function Compare() {
  const [search, setSearch] = useSearchParams();
  const number = (key: string) => Math.max(0, Math.floor(Number(search.get(key) ?? 0)) || 0);
  const query = useCompared(search.get("document") ?? undefined, number("before"), number("after"));
  const put = (key: string, value: string) =>
    setSearch(
      (s) => {
        s.set(key, value);
        return s;
      },
      { replace: true },
    );
  const c = query.data;
  const choose = (key: "before" | "after", label: string) => (
    <select aria-label={label} className={inline.field} value={c?.[key]} onChange={(e) => put(key, e.currentTarget.value)}>
      {c?.revisions.map((r) => (
        <option key={r.number} value={r.number}>
          {r.number} · {r.note || "no note"}
        </option>
      ))}
    </select>
  );
  return (
    <div className={classes.view}>
      <header className={classes.head}>
        <h1>{c?.name ?? "Revisions"}</h1>
        {c && (
          <span className={classes.between}>
            revision {choose("before", "Revision before")} beside {choose("after", "Revision after")}
          </span>
        )}
        {c && <strong>{c.differing === 0 ? "Nothing differs" : count(c.differing, "difference")}</strong>}
        <Button component={Link} to="/sources" className={classes.push}>
          To the sources
        </Button>
      </header>
      {query.error && <Failure error={query.error} retry={() => void query.refetch()} />}
      {!c && !query.error && <Loading what="both revisions" />}
      {c?.places.map((p, i) => (
        <Place key={i} place={p} compared={c} />
      ))}
      {c && c.differing > listed(c) && <p className="quiet">and {count(c.differing - listed(c), "difference")} more</p>}
      {c?.differing === 0 && <p className="quiet">The two revisions say the same.</p>}
    </div>
  );
}

const listed = (c: Schema["Compared"]) => c.places.reduce((n, p) => n + (p.rows?.length ?? 0), 0);

function Place({ place, compared }: { place: Schema["ComparedPlace"]; compared: Schema["Compared"] }) {
  return (
    <section className={classes.place} aria-label={place.name || compared.name}>
      <h2>
        {place.name || compared.name} <span className="quiet">{place.kind}</span>
      </h2>
      <table className="grid">
        <thead>
          <tr>
            <th>{place.kind === "group" ? "Token" : "Part"}</th>
            <th>{place.kind === "group" ? "Theme" : "What"}</th>
            <th>Revision {compared.before}</th>
            <th>Revision {compared.after}</th>
          </tr>
        </thead>
        <tbody>
          {place.rows?.map((r, i) => (
            <tr key={i} data-state={r.state}>
              <td>{r.what || <span className="quiet">the {place.kind} itself</span>}</td>
              <td className="mono">{r.property || r.state}</td>
              <Side value={r.before} missing={r.state === "added" ? "not there" : "not said"} gone={r.state === "removed"} />
              <Side value={r.after} missing={r.state === "removed" ? "gone" : "not said"} gone={r.state === "added"} />
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** A side of a row; what came or went as a whole stands without a value of its own. */
function Side({ value, missing, gone }: { value: string; missing: string; gone: boolean }) {
  return (
    <td className={classes.side} title={value || undefined}>
      {value ? <Value value={value} plain /> : <span className="quiet">{gone ? "there" : missing}</span>}
    </td>
  );
}
