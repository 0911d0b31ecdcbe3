import { Button, Modal, NativeSelect } from "@mantine/core";
import { useState } from "react";

import { api, type Schema, useDrift, usePrecedenceReach, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure } from "../../ui/States";
import { say } from "../../ui/say";
import { Press } from "./Press";
import classes from "./Sync.module.css";

type Facet = Schema["Precedence"]["facet"];
type Winner = Schema["Precedence"]["wins"];

const facets: { facet: Facet; what: string }[] = [
  { facet: "shape", what: "parts, their order and drawings" },
  { facet: "props", what: "props, options, defaults" },
  { facet: "size", what: "widths, heights" },
  { facet: "space", what: "gaps, paddings, placing" },
  { facet: "paint", what: "colours, borders, shadows" },
  { facet: "type", what: "fonts, sizes, lines" },
  { facet: "content", what: "texts that are drawn" },
  { facet: "behaviour", what: "code that no contract holds" },
  { facet: "access", what: "elements, attributes, roles" },
];

const winners: { value: Winner; label: string }[] = [
  { value: "", label: "each is decided" },
  { value: "design", label: "the design wins" },
  { value: "contract", label: "the contract wins" },
  { value: "code", label: "the code wins" },
];

/** Who is to win where a facet moved on one side alone, and what that decides now. */
export function WhoWins() {
  const drift = useDrift().data;
  const [open, setOpen] = useState(false);
  const [carrying, setCarrying] = useState(false);
  if (!drift) return null;
  return (
    <span className={classes.who}>
      {drift.precedences.length > 0 && (
        <span>{drift.precedences.map((p) => `${p.facet}: ${winners.find((w) => w.value === p.wins)?.label}`).join(" · ")}</span>
      )}
      {drift.due.length > 0 && <Button onClick={() => setCarrying(true)}>Carry out {drift.due.length}…</Button>}
      <Button onClick={() => setOpen(true)}>Who wins…</Button>
      <Modal opened={open} onClose={() => setOpen(false)} title="Who wins" size="lg" closeButtonProps={{ "aria-label": "Close" }}>
        <p className={classes.hint}>
          Where one side alone moved, whoever wins has its way; what both moved is always decided by people. Nothing is decided before
          somebody carries it out.
        </p>
        <table className={`grid ${classes.winners}`}>
          <thead>
            <tr>
              <th>Facet</th>
              <th>Who wins</th>
              <th>Decides now</th>
            </tr>
          </thead>
          <tbody>
            {facets.map((f) => (
              <Row key={f.facet} {...f} now={drift.precedences.find((p) => p.facet === f.facet)} />
            ))}
          </tbody>
        </table>
      </Modal>
      <Modal
        opened={carrying}
        onClose={() => setCarrying(false)}
        title="What is decided by who wins"
        size="xl"
        closeButtonProps={{ "aria-label": "Close" }}
      >
        <Press
          request={{
            hash: drift.hash,
            read: drift.read,
            choices: drift.due.map((d) => ({ component: d.component, lane: d.lane, key: d.key, way: d.way })),
            ruled: true,
          }}
          done={() => setCarrying(false)}
          again={() => setCarrying(false)}
        />
      </Modal>
    </span>
  );
}

/** One facet: what another winner would decide is shown before it is said. */
function Row({ facet, what, now }: { facet: Facet; what: string; now: Schema["Winner"] | undefined }) {
  const [wins, setWins] = useState<Winner>(now?.wins ?? "");
  const reach = usePrecedenceReach({ facet, wins });
  const write = useWrite(
    () => api.setPrecedence({ facet, wins }),
    () => say("Who wins", `${facet}: ${winners.find((w) => w.value === wins)?.label}.`),
  );
  const list = wins === "" ? [] : (reach.data ?? []);
  const of = [...new Set(list.map((d) => d.of))];
  return (
    <tr>
      <td>
        <strong>{facet}</strong> <span className="quiet">{what}</span>
      </td>
      <td>
        <NativeSelect
          size="xs"
          aria-label={`Who wins in ${facet}`}
          data={winners}
          value={wins}
          onChange={(e) => setWins(e.currentTarget.value as Winner)}
        />
      </td>
      <td>
        {list.length > 0 ? (
          <span title={of.join(", ")}>
            {count(list.length, "move")} of {of.length > 2 ? count(of.length, "component") : of.join(", ")}
          </span>
        ) : (
          <span className="quiet">{wins === "" ? "" : "none"}</span>
        )}{" "}
        {wins !== (now?.wins ?? "") && (
          <Button loading={write.isPending} onClick={() => write.mutate(undefined)}>
            Say so
          </Button>
        )}
        {write.error && <Failure error={write.error} />}
      </td>
    </tr>
  );
}
