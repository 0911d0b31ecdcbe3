import { Button } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { type Schema, useTrialUpdate } from "../../api/client";
import { buildAddress } from "../../lanes/address";
import { count } from "../../ui/count";
import { Problems, Query } from "../../ui/States";
import { Frames } from "./Frames";
import classes from "./Trial.module.css";

interface Props {
  page: Schema["TrialPage"];
  preview: string;
  onPin: (component: string, version: string) => void;
}

/** Which version of each component the page uses, which there are besides, and what those would do to the page: before and after. */
export function ReleasesFacet({ page, preview, onPin }: Props) {
  const [open, setOpen] = useState<{ component: string; version: string } | undefined>(() => {
    const first = page.uses.find((u) => u.newest && u.pinned && u.pinned !== u.newest);
    return first && { component: first.slug, version: first.newest };
  });
  return (
    <div className={classes.releases}>
      <section aria-label="What the page uses">
        <h2>What the page uses</h2>
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">Component</th>
              <th scope="col">Used at</th>
              <th scope="col">There is</th>
            </tr>
          </thead>
          <tbody>
            {page.uses.map((u) => (
              <tr key={u.slug}>
                <th scope="row">{u.missing ? u.name : <Link to={`/catalogue/${u.slug}`}>{u.name}</Link>}</th>
                <td className="mono">{u.missing ? <span className={classes.moved}>not there</span> : u.pinned || "at work"}</td>
                <td>
                  {offersOf(u).map((version) => (
                    <Button
                      key={version}
                      variant={open?.component === u.slug && open.version === version ? "filled" : "default"}
                      onClick={() => setOpen({ component: u.slug, version })}
                    >
                      {version || "at work"}
                    </Button>
                  ))}
                  {offersOf(u).length === 0 && <span className="quiet">nothing newer</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {open ? (
        <Update key={`${open.component} ${open.version}`} page={page} preview={preview} of={open} onPin={onPin} />
      ) : (
        <p className="quiet">Choose a version to see what it would do to the page.</p>
      )}
    </div>
  );
}

/** The versions that a use could be at instead: empty for the component at work. */
function offersOf(u: Schema["TrialUse"]): string[] {
  if (u.missing) return [];
  const out = [];
  if (u.newest && u.newest !== u.pinned) out.push(u.newest);
  if (u.pinned && u.moved) out.push("");
  return out;
}

function Update({
  page,
  preview,
  of,
  onPin,
}: {
  page: Schema["TrialPage"];
  preview: string;
  of: { component: string; version: string };
  onPin: Props["onPin"];
}) {
  const update = useTrialUpdate(page.slug, page.revision, of);
  const name = page.uses.find((u) => u.slug === of.component)?.name ?? of.component;
  const before = buildAddress(preview, `page~${page.slug}`, page.build);
  return (
    <Query query={update} what="what it would do">
      {(u) => (
        <section className={classes.update} aria-label={`${name} ${of.version || "at work"}`}>
          <header>
            <h2>
              {name} {u.from || "at work"} → {u.to || "at work"}
            </h2>
            <span className={u.breaks.length > 0 ? classes.moved : "quiet"}>
              {u.breaks.length > 0 ? `breaks the page: ${count(u.breaks.length, "row")}` : "nothing breaks"} ·{" "}
              {count(u.changed.length, "use")} of {u.changed.length + u.same} {u.changed.length === 1 ? "looks" : "look"} otherwise
            </span>
            <Button variant="filled" onClick={() => onPin(of.component, of.version)}>
              Use {of.version || "it at work"} here
            </Button>
          </header>
          {u.breaks.length > 0 && <Problems list={u.breaks} />}
          {u.changed.length > 0 && (
            <div className={classes.scrolls} tabIndex={0} role="region" aria-label="Uses that look otherwise">
              <table>
                <thead>
                  <tr>
                    <th scope="col">Row</th>
                    <th scope="col">Use</th>
                    <th scope="col">What changes</th>
                  </tr>
                </thead>
                <tbody>
                  {u.changed.map((c) => (
                    <tr key={c.key}>
                      <td className="mono">{c.line}</td>
                      <td className="mono">{c.key}</td>
                      <td>
                        {c.what.join("; ")}
                        {c.more > 0 && <span className="quiet"> and {c.more} more</span>}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          <div className={classes.pairOf}>
            {[
              { label: "before", src: before, props: page.props },
              {
                label: "after",
                src: `${buildAddress(preview, `page~${page.slug}`, u.build)}?release=${encodeURIComponent(`${of.component}@${of.version}`)}`,
                props: u.props,
              },
            ].map((side) => (
              <Frames
                key={side.label}
                name={`${page.name}, ${side.label}`}
                src={side.src}
                props={side.props}
                pieces={page.pieces}
                widths={page.widths.slice(0, 1)}
                drawn={[]}
                look={{}}
                acts={false}
                note={() => <span className="quiet">{side.label}</span>}
                onMeasured={() => undefined}
                onPoint={() => undefined}
                onFailed={() => undefined}
              />
            ))}
          </div>
        </section>
      )}
    </Query>
  );
}
