import { useState } from "react";

import type { Access } from "../../../preview/messages";
import { type Schema, useBehaviour } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { shownCase } from "../../lanes/shown";
import { Glyph } from "../../ui/Glyph";
import { buildAddress } from "../../lanes/address";
import classes from "./Catalogue.module.css";

interface Props {
  bench: Schema["Bench"];
  about: Schema["About"];
  preview: string;
}

const words = (role: string | undefined, name: string | undefined) =>
  role ? `${role}${name ? ` “${name}”` : ""}` : "nothing in particular";

/** What assistive technology is told, as the contract says and as it is measured; what keys do; contrast in every theme. */
export function AccessSheet({ bench, about, preview }: Props) {
  const [measured, setMeasured] = useState<Record<string, Access>>();
  const behaviour = useBehaviour(bench.slug, bench.build).data;
  const first = bench.cases.find((c) => c.default) ?? bench.cases[0];
  const hears = (behaviour?.events ?? []).filter((e) => e.event.name?.startsWith("key"));
  const keys = new Map(about.keys.map((k) => [k.part, k.keys]));
  return (
    <div className={classes.sheet}>
      {first && (
        <div aria-hidden="true" className={classes.unseen}>
          <BuiltFrame
            src={buildAddress(preview, bench.slug, bench.build)}
            title="Measured for assistive technology"
            cases={[shownCase(first, bench.themes[0], 0, 0)]}
            width={Math.ceil(first.width) + 40}
            height={Math.ceil(first.height) + 40}
            onMeasured={(cases) => setMeasured(Object.fromEntries((cases[0]?.parts ?? []).map((p) => [p.part, p.access])))}
          />
        </div>
      )}
      <section aria-label="To assistive technology">
        <h2>
          To assistive technology <span className="quiet">{first ? `${first.name}; measured as it runs here` : "by the contract"}</span>
        </h2>
        <table className="grid">
          <thead>
            <tr>
              <th>No.</th>
              <th>Part</th>
              <th>By the contract</th>
              <th>Measured</th>
              <th>Verdict</th>
              <th>Keys</th>
            </tr>
          </thead>
          <tbody>
            {bench.parts.map((p, i) => {
              const said = measured?.[p.id];
              const level = said && said.role === (p.role ?? "") && (said.name ?? "") === (p.called ?? "");
              return (
                <tr key={p.id}>
                  <td className="mono">{i}</td>
                  <td className="mono" style={{ paddingLeft: 8 + p.depth * 12 }}>
                    {p.name}
                  </td>
                  <td>{words(p.role, p.called)}</td>
                  <td>{said ? words(said.role, said.name) : <span className="quiet">{measured ? "not there" : "…"}</span>}</td>
                  <td>{said && <Glyph verdict={level ? "agree" : "code moved"} drawn={false} />}</td>
                  <td className="mono">{keys.get(p.id)?.join(", ")}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {hears.length > 0 && (
          <p>
            By its behaviour it hears, too: <code>{hears.map((e) => e.words).join(", ")}</code>.
          </p>
        )}
      </section>
      <Contrasts bench={bench} list={about.contrasts} />
    </div>
  );
}

/** The least contrast of each text and telling graphic, a column a theme (WCAG 2.2, 1.4.3 and 1.4.11). */
function Contrasts({ bench, list }: { bench: Schema["Bench"]; list: Schema["ThemeContrast"][] }) {
  const themes = [...new Set(list.map((c) => c.theme))];
  const parts = bench.parts.filter((p) => list.some((c) => c.part === p.id));
  return (
    <section aria-label="Contrast">
      <h2>
        Contrast <span className="quiet">the least of all cases and states, and what is needed</span>
      </h2>
      {parts.length === 0 ? (
        <p className="quiet">Nothing of it stands on an opaque ground of its own: its contrast is the affair of where it stands.</p>
      ) : (
        <table className="grid">
          <thead>
            <tr>
              <th>Part</th>
              {themes.map((t) => (
                <th key={t}>{t}</th>
              ))}
              <th>Needs</th>
            </tr>
          </thead>
          <tbody>
            {parts.map((p) => (
              <tr key={p.id}>
                <td className="mono">{p.name}</td>
                {themes.map((t) => {
                  const one = list.find((c) => c.theme === t && c.part === p.id);
                  return (
                    <td key={t} title={one?.where} className={one?.fails ? classes.warned : undefined}>
                      {one ? <span className="mono">{one.ratio.toFixed(2)}</span> : "–"} {one?.fails && "too little"}
                    </td>
                  );
                })}
                <td className="mono">{list.find((c) => c.part === p.id)?.needs.toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
