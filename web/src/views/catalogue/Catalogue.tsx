import { Button } from "@mantine/core";
import { Link, useNavigate } from "react-router";

import { type Schema, useEntries, usePrimitives } from "../../api/client";
import { count } from "../../ui/count";
import { ListHead, useFind } from "../../ui/ListHead";
import { Picture } from "../../ui/Picture";
import { Empty, Query } from "../../ui/States";
import { Standing } from "../../ui/Standing";
import classes from "./Catalogue.module.css";

/** The published list. */
export function Catalogue() {
  const entries = useEntries();
  const { find, setFind, matches } = useFind();
  return (
    <Query query={entries} what="the catalogue">
      {(list) => {
        const released = list.filter((e) => e.status === "released");
        if (released.length === 0) {
          return (
            <div className={classes.view}>
              <Empty
                title="Nothing is released yet"
                action={
                  <Button component={Link} to="/bench" variant="filled">
                    To the bench
                  </Button>
                }
              >
                A component is listed here once it is released from the bench, for the team to find.
              </Empty>
              <Primitives matches={matches} />
            </div>
          );
        }
        const shown = released.filter((e) => matches(`${e.name} ${e.purpose} ${e.shelf} ${e.props.join(" ")}`));
        return (
          <div className={classes.view}>
            <ListHead title="Catalogue" placeholder="Find by name, purpose, prop" find={find} setFind={setFind}>
              {shown.length} of {count(released.length, "component")}
            </ListHead>
            <table className={`grid ${classes.table}`}>
              <thead>
                <tr>
                  <th>Picture</th>
                  <th>Component</th>
                  <th>Version</th>
                  <th>Standing</th>
                  <th>Uses in the design</th>
                </tr>
              </thead>
              {onShelves(shown).map(([shelf, entries]) => (
                <tbody key={shelf}>
                  <tr className={classes.shelf}>
                    <th colSpan={5} scope="rowgroup">
                      {shelf}
                    </th>
                  </tr>
                  {entries.map((e) => (
                    <Row key={e.slug} entry={e} />
                  ))}
                </tbody>
              ))}
            </table>
            {shown.length === 0 && <p className="quiet">No released component has that in its name, purpose or props.</p>}
            <Primitives matches={matches} />
          </div>
        );
      }}
    </Query>
  );
}

/** Components by the shelf they stand on, shelves and components by name. */
function onShelves(list: Schema["Entry"][]): [string, Schema["Entry"][]][] {
  const shelves = new Map<string, Schema["Entry"][]>();
  for (const e of list) shelves.set(e.shelf, [...(shelves.get(e.shelf) ?? []), e]);
  for (const entries of shelves.values()) entries.sort((a, b) => a.name.localeCompare(b.name));
  return [...shelves].sort(([a], [b]) => a.localeCompare(b));
}

/** What every page is laid out with; it comes with the tokens, and nobody releases it. */
function Primitives({ matches }: { matches: (text: string) => boolean }) {
  const primitives = usePrimitives().data ?? [];
  const shown = primitives.filter((p) => matches(`${p.name} ${p.purpose} ${p.props.join(" ")}`));
  if (shown.length === 0) return null;
  return (
    <section className={classes.primitives} aria-label="Layout primitives">
      <h2>Layout primitives</h2>
      <table className={`grid ${classes.table}`}>
        <thead>
          <tr>
            <th>Component</th>
            <th>Purpose</th>
            <th>Props</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((p) => (
            <tr key={p.slug}>
              <td>
                <Link to={`/catalogue/${p.slug}`}>{p.name}</Link>
              </td>
              <td>{p.purpose}</td>
              <td className="mono">{p.props.join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({ entry: e }: { entry: Schema["Entry"] }) {
  const navigate = useNavigate();
  return (
    <tr className={classes.row} onClick={() => void navigate(`/catalogue/${e.slug}`)}>
      <td>
        <span className={classes.small}>
          <Picture
            svg={e.picture}
            label={`${e.name}, as drawn`}
            width={e.width}
            height={e.height}
            scale={Math.min(1.5, 180 / Math.max(1, e.width))}
          />
        </span>
      </td>
      <td>
        <Link to={`/catalogue/${e.slug}`}>{e.name}</Link>
        <div className="quiet">{e.purpose}</div>
      </td>
      <td className="mono">{e.version}</td>
      <td>
        <Standing entry={e} />
      </td>
      <td>{e.uses}</td>
    </tr>
  );
}
