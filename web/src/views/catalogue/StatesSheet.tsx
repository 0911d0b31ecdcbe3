import { type Schema, useBehaviour } from "../../api/client";
import { Away } from "../../ui/Away";
import { count } from "../../ui/count";
import { buildAddress } from "../../lanes/address";
import classes from "./Catalogue.module.css";
import { Cells } from "./Cells";

/** Every state it can be in, in every theme; what leads from one to another; the scenarios it is held to. */
export function StatesSheet({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const behaviour = useBehaviour(bench.slug, bench.build).data;
  const first = bench.cases.find((c) => c.default) ?? bench.cases[0];
  const states = ["", ...bench.states];
  return (
    <div className={classes.sheet}>
      {first ? (
        <section aria-label="States">
          <h2>
            States{" "}
            <span className="quiet">
              {bench.states.length === 0 ? "it looks the same in all" : `${bench.states.length}, held in each`}; {first.name}
            </span>
          </h2>
          <div className={classes.scroll} tabIndex={0} role="group" aria-label="States in every theme">
            <Cells
              src={buildAddress(preview, bench.slug, bench.build)}
              title="States, running"
              columns={states.length}
              cells={bench.themes.flatMap((theme) =>
                states.map((state) => ({
                  key: `${theme.name} ${state}`,
                  name: `${state || "at rest"}${bench.themes.length > 1 ? `, ${theme.name}` : ""}`,
                  case: first,
                  theme,
                  states: state ? [state] : [],
                })),
              )}
            />
          </div>
        </section>
      ) : (
        <p className="quiet">It has no case to show in a state.</p>
      )}
      <section aria-label="Behaviour">
        <h2>Behaviour</h2>
        {!behaviour?.has ? (
          <p className="quiet">It does nothing by itself. The specimen is used in place with “Use it”.</p>
        ) : (
          <>
            <ul className={classes.sentences}>
              {behaviour.ways.map((w) => (
                <li key={`${w.from} ${w.to} ${w.words}`}>
                  <code>{w.from}</code> → <code>{w.to}</code> <span className="quiet">{w.words}</span>
                </li>
              ))}
            </ul>
            <p>
              <Away to={`/bench/${bench.slug}?facet=behaviour`}>Its states are drawn on the bench, and on the time line</Away>
            </p>
          </>
        )}
      </section>
      {behaviour && behaviour.scenarios.length > 0 && (
        <section aria-label="Scenarios">
          <h2>
            Scenarios <span className="quiet">{count(behaviour.scenarios.length, "course")} of events it is held to</span>
          </h2>
          <ul className={classes.sentences}>
            {behaviour.scenarios.map((s) => (
              <li key={s.name}>
                {s.name} <span className={s.holds ? "quiet" : classes.warned}>{s.holds ? "holds" : "does not hold"}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
