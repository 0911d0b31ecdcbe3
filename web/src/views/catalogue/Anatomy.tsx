import type { Schema } from "../../api/client";
import classes from "./Catalogue.module.css";

interface Props {
  parts: Schema["PartView"][];
  meant: string[];
  onPart: (part: string | undefined) => void;
}

/** The parts by the specimen's numbers: what each is, and what changes it. */
export function Anatomy({ parts, meant, onPart }: Props) {
  return (
    <section className={classes.anatomy} aria-label="Anatomy">
      <h2>Anatomy, and what each prop changes</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>No.</th>
            <th>Part</th>
            <th>Element</th>
            <th>To assistive technology</th>
            <th>Changed by</th>
          </tr>
        </thead>
        <tbody onPointerLeave={() => onPart(undefined)}>
          {parts.map((p, i) => (
            <tr key={p.id} className={meant.includes(p.id) ? classes.meant : undefined} onPointerEnter={() => onPart(p.id)}>
              <td className="mono">{i}</td>
              <td className="mono" style={{ paddingLeft: 8 + p.depth * 12 }}>
                {p.name}
              </td>
              <td className="mono">{p.element}</td>
              <td>{p.role ? `${p.role}${p.called ? ` “${p.called}”` : ""}` : <span className="quiet">–</span>}</td>
              <td>
                {p.changed.map((c) => (
                  <div key={c.by}>
                    <code>{c.by}</code> <span className="quiet">{c.what.join(", ")}</span>
                  </div>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
