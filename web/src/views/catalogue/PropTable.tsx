import type { Schema } from "../../api/client";
import classes from "./Catalogue.module.css";

interface Props {
  bench: Schema["Bench"];
  effects: Schema["PropEffect"][];
  /** The one that is pointed at, by its id. */
  prop: string | undefined;
  onPoint: (prop: string | undefined) => void;
}

/** Each prop, and what it changes: of which parts what, and in how many cases. */
export function PropTable({ bench, effects, prop, onPoint }: Props) {
  if (bench.props.length === 0) return null;
  const byID = new Map(effects.map((e) => [e.prop, e]));
  const cases = bench.cases.filter((c) => c.new.length === 0).length;
  return (
    <section aria-label="Props">
      <h2>Props, and what each changes</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>Prop</th>
            <th>Takes</th>
            <th>Default</th>
            <th>Changes</th>
            <th>Cases</th>
          </tr>
        </thead>
        <tbody onPointerLeave={() => onPoint(undefined)}>
          {bench.props.map((p) => {
            const effect = byID.get(p.id);
            return (
              <tr key={p.id} className={prop === p.id ? classes.meant : undefined} onPointerEnter={() => onPoint(p.id)}>
                <td className="mono" title={p.purpose}>
                  {p.deprecated ? <del>{p.name}</del> : p.name}
                  {p.required && <span className={classes.warned}> required</span>}
                  {p.deprecated && <div className={classes.warned}>{p.deprecated}</div>}
                </td>
                <td>{p.options.length > 0 ? <code>{p.options.join(" | ")}</code> : p.kind}</td>
                <td className="mono">{written(p.default)}</td>
                <td>
                  {effect?.parts.map((e) => (
                    <div key={e.part}>
                      <code>{e.name}</code> <span className="quiet">{e.what.join(", ")}</span>
                    </div>
                  ))}
                </td>
                <td className={`mono ${classes.whole}`}>{effect && effect.cases > 0 ? `${effect.cases} of ${cases}` : "–"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

const written = (value: unknown) => (value === null || value === undefined ? "–" : typeof value === "object" ? "…" : String(value));
