import { Button, Modal, NativeSelect } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, type Schema, useAdoptPlan, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure, Problems, Query } from "../../ui/States";
import { say } from "../../ui/say";
import classes from "./Sync.module.css";

/** Components that people wrote and that have no contract. */
export function Unknown({ list, hash }: { list: Schema["CodeUnknown"][]; hash: string }) {
  const [adopting, setAdopting] = useState<string>();
  return (
    <section className={classes.component} aria-label="Without a contract">
      <header className={classes.head}>
        <h3>Without a contract</h3>
        <span className="quiet">{count(list.length, "component")} that people wrote</span>
      </header>
      <ul className={classes.causes}>
        {list.map((u) => (
          <li key={`${u.file} ${u.name}`}>
            <span className={classes.cause}>
              <strong>{u.name}</strong> <span className="mono quiet">{u.file}</span>
              {u.why && <span className={`quiet ${classes.where}`}>{u.why}</span>}
            </span>
            {!u.why && <Button onClick={() => setAdopting(u.name)}>Make a contract…</Button>}
          </li>
        ))}
      </ul>
      {adopting && <Adopt name={adopting} hash={hash} close={() => setAdopting(undefined)} />}
    </section>
  );
}

/** What a contract of such a component would say, before it is made. */
function Adopt({ name, hash, close }: { name: string; hash: string; close: () => void }) {
  const [of, setOf] = useState<string>();
  const first = useAdoptPlan({ name, hash });
  // The family of its name is what people mean; another can be chosen, or none.
  const same = first.data?.families[0];
  const chosen = of ?? (same && same.name.toLowerCase() === name.toLowerCase() ? `${same.document} ${same.id}` : "");
  const [document = "", family = ""] = chosen.split(" ");
  const request = { name, hash, document, family };
  const plan = useAdoptPlan(request);
  const navigate = useNavigate();
  const make = useWrite(
    () => api.adoptCode(request),
    (made) => {
      say(name, "It has a contract now.");
      close();
      void navigate(`/bench/${made.slug}`);
    },
  );
  return (
    <Modal opened onClose={close} title={`A contract of ${name}`} size="xl" closeButtonProps={{ "aria-label": "Close" }}>
      <Query query={plan} what="the component">
        {(p) => (
          <div className={classes.adopt}>
            <p>
              <span className="mono">{p.file}</span>
              {p.sheets.length > 0 && <span className="mono quiet"> and {p.sheets.join(", ")}</span>}
            </p>
            <NativeSelect
              size="xs"
              label="Held against"
              value={chosen}
              onChange={(e) => setOf(e.currentTarget.value)}
              data={[{ value: "", label: "no drawing" }, ...p.families.map((f) => ({ value: `${f.document} ${f.id}`, label: f.name }))]}
            />
            <p>
              {count(p.facts, "fact")} of {count(p.parts, "part")}
              {p.props.length > 0 && (
                <>
                  {" "}
                  and the props <span className="mono">{p.props.join(", ")}</span>
                </>
              )}
              .
            </p>
            <Told title="Not read: no contract holds it" list={p.unread.map((u) => `${u.file}:${u.line} ${u.message}`)} />
            <Told title="Not sure" list={p.unsure.map((u) => `${u.what}: ${u.why}`)} />
            <Told
              title="Taken for the same as in the drawing"
              list={p.renamed.map((r) => `${r.to} in the code is ${r.from} (likeness ${r.likeness.toFixed(2)})`)}
            />
            <Told title="The drawing says otherwise" list={p.moves} />
            {p.wrong.length > 0 && <Problems list={p.wrong} />}
            <div className={classes.finish}>
              <Button onClick={close}>Cancel</Button>
              <Button variant="filled" disabled={p.wrong.length > 0} loading={make.isPending} onClick={() => make.mutate(undefined)}>
                Make the contract
              </Button>
            </div>
            {make.error && <Failure error={make.error} />}
          </div>
        )}
      </Query>
    </Modal>
  );
}

function Told({ title, list }: { title: string; list: string[] }) {
  if (list.length === 0) return null;
  return (
    <details open={list.length <= 6}>
      <summary>
        {title} <span className="quiet">{list.length}</span>
      </summary>
      <ul>
        {list.map((text) => (
          <li key={text} className="mono">
            {text}
          </li>
        ))}
      </ul>
    </details>
  );
}
