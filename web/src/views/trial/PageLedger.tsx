import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Trial.module.css";

/** How a page is otherwise than drawn, a row a difference: what is drawn, what is there. What follows from another stands back. */
export function PageLedger({
  compared,
  chosen,
  onPoint,
}: {
  compared: Schema["PageComparison"][];
  chosen: number;
  onPoint: (line: number) => void;
}) {
  const level = compared.filter((c) => c.counted === 0);
  const rows = compared.flatMap((c) => c.differences.map((d) => ({ ...d, width: c.width })));
  return (
    <section className={classes.ledger} aria-label="Against the drawing">
      <header>
        <strong>Against the drawing</strong>
        <span className="quiet">
          {compared.map((c) => `${c.width}: ${c.pieces} of ${c.drawn} there`).join(" · ")}
          {level.length > 0 && ` · level at ${level.map((c) => c.width).join(" and ")}`}
        </span>
      </header>
      {rows.length > 0 && (
        <div className={classes.ledgerRows} tabIndex={0} role="region" aria-label="Differences">
          <table>
            <thead>
              <tr>
                <th scope="col">Width</th>
                <th scope="col">What</th>
                <th scope="col">Differs in</th>
                <th scope="col">Design</th>
                <th scope="col">Built</th>
                <th scope="col">Why</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((d, i) => (
                <tr
                  key={i}
                  data-follows={d.follows !== "" || undefined}
                  data-chosen={(d.line > 0 && d.line - 1 === chosen) || undefined}
                  onClick={() => d.line > 0 && onPoint(d.line - 1)}
                >
                  <td className="mono">{d.width}</td>
                  <td>{d.line > 0 ? <button type="button">{d.name}</button> : d.name}</td>
                  <td>{kinds[d.kind]}</td>
                  <td className="mono">{d.drawn || "–"}</td>
                  <td className="mono">{d.built || "–"}</td>
                  <td className="quiet">{d.follows ? `follows ${d.follows}` : ""}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

const kinds: Record<Schema["PageDifference"]["kind"], string> = {
  missing: "not on the page",
  gap: "a gap",
  extra: "not drawn",
  order: "order",
  place: "place",
  size: "size",
  words: "words",
};

/** What is said of a width in the head of its frame. */
export function levelOf(c: Schema["PageComparison"] | undefined): { text: string; moved: boolean } | undefined {
  if (!c) return undefined;
  return c.counted === 0 ? { text: "level with the drawing", moved: false } : { text: `${count(c.counted, "difference")}`, moved: true };
}
