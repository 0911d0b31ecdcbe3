import { Anchor, NativeSelect } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { operations, type Schema, useDriftReport } from "../../api/client";
import { count } from "../../ui/count";
import { Query } from "../../ui/States";
import classes from "./Sync.module.css";

/** How far design, contract and code agree, from day to day. */
export function OverTime() {
  const [from, setFrom] = useState<string>();
  const [to, setTo] = useState<string>();
  const whole = useDriftReport(undefined, undefined);
  const report = useDriftReport(from, to);
  const query = new URLSearchParams({ ...(from && { from }), ...(to && { to }) });
  const file = (as: string) => `${operations}/drift/file?${new URLSearchParams([...query, ["as", as]]).toString()}`;
  return (
    <Query query={report} what="how far all agree">
      {(r) => (
        <div className={classes.view}>
          <div className={classes.search}>
            <When label="From" way={whole.data?.way ?? r.way} value={from ?? r.from.at} choose={setFrom} />
            <When label="To" way={whole.data?.way ?? r.way} value={to ?? r.to.at} choose={setTo} />
            <span className="quiet">Report</span>
            {["html", "md", "json"].map((as) => (
              <Anchor key={as} href={file(as)} download={`drift.${as}`}>
                {as.toUpperCase()}
              </Anchor>
            ))}
          </div>
          <section className={classes.component} aria-label="Over time">
            <header className={classes.head}>
              <h2>
                {r.level[1]} of {count(r.to.components.length, "component is", "components are")} level
              </h2>
              <span className="quiet">
                {r.level[0]} of {r.from.components.length} were · {count(r.open[1] ?? 0, "move waits", "moves wait")}, {r.open[0]} did
              </span>
            </header>
            <img
              className={classes.plot}
              src={`${file("svg")}&at=${r.to.id}`}
              alt="Moves that wait, over time; the table below has the numbers"
            />
          </section>
          <section className={classes.component} aria-label="Components">
            <Components report={r} />
          </section>
        </div>
      )}
    </Query>
  );
}

function When(props: { label: string; way: Schema["Count"][]; value: string; choose: (at: string) => void }) {
  const { label, way, value, choose } = props;
  return (
    <NativeSelect
      size="xs"
      label={label}
      value={value}
      onChange={(e) => choose(e.currentTarget.value)}
      data={way.map((c) => ({
        value: c.at,
        label: `${new Date(c.at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}: ${c.why}`,
      }))}
    />
  );
}

const columns: { name: string; of: (s: Schema["Stand"]) => number }[] = [
  { name: "Facts", of: (s) => s.facts },
  { name: "Design moved", of: (s) => s.design },
  { name: "Contract moved", of: (s) => s.contract },
  { name: "Code moved", of: (s) => s.code },
  { name: "Both", of: (s) => s.several },
  { name: "Apart for a reason", of: (s) => s.apart },
];

const waits = (s: Schema["Stand"]) => s.design + s.contract + s.code + s.several;

function Components({ report: r }: { report: Schema["Report"] }) {
  const before = new Map(r.from.components.map((c) => [c.slug, c]));
  return (
    <table className={`grid ${classes.numbers}`}>
      <thead>
        <tr>
          <th>Component</th>
          <th>Release</th>
          {columns.map((c) => (
            <th key={c.name}>{c.name}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {[...r.to.components]
          .sort((a, b) => waits(b) - waits(a))
          .map((c) => {
            const was = before.get(c.slug);
            return (
              <tr key={c.slug}>
                <td>
                  <Link to={`/bench/${c.slug}`}>{c.name}</Link>
                </td>
                <td className="quiet">{c.version ? `${c.version}${c.released ? "" : ", changed since"}` : "draft"}</td>
                {columns.map(({ name, of }) => (
                  <td key={name} className={was && of(was) !== of(c) ? classes.moved : of(c) === 0 ? "quiet" : undefined}>
                    {of(c)}
                    {was && of(was) !== of(c) && <span className="quiet"> was {of(was)}</span>}
                  </td>
                ))}
              </tr>
            );
          })}
      </tbody>
    </table>
  );
}
