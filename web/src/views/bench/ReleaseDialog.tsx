import { Autocomplete, Button, Modal, Textarea, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useEntries, useReleasePlan, useWrite } from "../../api/client";
import { Changes } from "../../ui/Changes";
import { Failure, Query } from "../../ui/States";
import { Steps } from "../../ui/Steps";
import { count } from "../../ui/count";
import { say } from "../../ui/say";
import classes from "./Bench.module.css";

/** Publishes the contract in the catalogue, with the version its changes ask for. */
export function ReleaseDialog({ bench, close }: { bench: Schema["Bench"]; close: () => void }) {
  const plan = useReleasePlan(bench.slug, bench.revision);
  return (
    <Modal opened onClose={close} size="lg" title={`Release ${bench.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <Query query={plan} what="what changed">
        {(p) => <Plan key={`${p.version} ${p.changelog}`} bench={bench} plan={p} close={close} />}
      </Query>
    </Modal>
  );
}

function Plan({ bench, plan: p, close }: { bench: Schema["Bench"]; plan: Schema["ReleasePlan"]; close: () => void }) {
  const navigate = useNavigate();
  const shelves = [...new Set((useEntries().data ?? []).map((e) => e.shelf).filter(Boolean))];
  const [shelf, setShelf] = useState(bench.shelf);
  const [note, setNote] = useState(p.changelog);
  const release = useWrite(
    () => api.release(bench.slug, { revision: bench.revision, shelf, note }),
    (done) => {
      say(`${bench.name} ${done.version}`, "Released into the catalogue.");
      close();
      void navigate(`/catalogue/${bench.slug}`);
    },
  );
  return (
    <form
      className={classes.dialog}
      onSubmit={(e) => {
        e.preventDefault();
        release.mutate(undefined);
      }}
    >
      {p.level === "none" ? (
        <p>Nothing changed since {p.version}: there is nothing to release.</p>
      ) : (
        <>
          <div className={classes.version}>
            {bench.version && <span className="quiet">{bench.version} →</span>} {p.version}
            <span className="quiet">{p.first ? "first release" : p.level}</span>
          </div>
          {p.why && (
            <p className="quiet">
              It is {p.level} because {p.why}.
            </p>
          )}
          <p className={classes.touches}>{touched(p)}</p>
          {p.trials.some((t) => t.breaks.length > 0) && (
            <section className={classes.fails} aria-label="Pages on trial that it breaks">
              {p.trials
                .filter((t) => t.breaks.length > 0)
                .map((t) => (
                  <p key={t.slug}>
                    It breaks <Link to={`/trial/${t.slug}/releases`}>{t.name}</Link>: {t.breaks.map((b) => b.message).join("; ")}.
                  </p>
                ))}
            </section>
          )}
          {p.changes.length > 0 && <Changes list={p.changes} />}
          <Steps list={p.steps} title="What its users change" />
          {p.replays > 0 && !p.open.some((f) => f.rule === "scenario") && <p>{count(p.replays, "scenario holds", "scenarios hold")}.</p>}
          {p.open.length > 0 && <Open slug={bench.slug} list={p.open} />}
          {p.approval && <p className={classes.fails}>{p.approval}</p>}
          <Autocomplete label="Shelf" data-autofocus value={shelf} onChange={setShelf} data={shelves} required />
          <Textarea
            label="Changelog for its users"
            description="Written from what changed; yours to edit"
            rows={6}
            resize="vertical"
            value={note}
            onChange={(e) => setNote(e.currentTarget.value)}
          />
        </>
      )}
      {release.error && <Failure error={release.error} />}
      <div className={classes.actions}>
        <Button onClick={close}>Cancel</Button>
        <Button
          type="submit"
          variant="filled"
          disabled={p.level === "none" || p.open.length > 0 || p.approval !== "" || shelf.trim() === ""}
          loading={release.isPending}
        >
          Release {p.version}
        </Button>
      </div>
    </form>
  );
}

/** What a release reaches, in a sentence. */
function touched(p: Schema["ReleasePlan"]): string {
  const uses = p.pages.reduce((n, page) => n + page.uses, 0);
  const said = [
    !p.first && `${count(p.cases, "case looks", "cases look")} otherwise`,
    p.usedBy.length > 0
      ? `${count(p.usedBy.length, "component is", "components are")} made of it (${p.usedBy.join(", ")})`
      : "no component is made of it",
    p.trials.length > 0 &&
      `${p.trials.map((t) => `${t.changed} of ${count(t.uses, "use")} on trial page ${t.name}`).join(", ")} look otherwise`,
    uses > 0 ? `${count(uses, "use")} on ${p.pages.map((page) => page.name).join(", ")}` : "no page of the design uses it",
  ].filter(Boolean);
  return `${said.join("; ")}.`;
}

/** Findings that keep it from being released, to be set aside here with a reason. */
function Open({ slug, list }: { slug: string; list: Schema["Checked"][] }) {
  const [reason, setReason] = useState("");
  const aside = useWrite(() =>
    api.setAside(
      slug,
      list.map((f) => f.key),
      reason.trim(),
    ),
  );
  return (
    <section className={classes.fails} aria-label="What keeps it from being released">
      <ul>
        {list.map((f) => (
          <li key={f.key}>{f.message}</li>
        ))}
      </ul>
      <div className={classes.aside}>
        <TextInput
          size="xs"
          aria-label={`Why ${list.length === 1 ? "this is" : "these are"} set aside`}
          placeholder="Mend it among the checks, or say why it is set aside"
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
        />
        <Button size="compact-sm" disabled={reason.trim() === ""} loading={aside.isPending} onClick={() => aside.mutate(undefined)}>
          Set {list.length === 1 ? "it" : `all ${list.length}`} aside
        </Button>
      </div>
      {aside.error && <Failure error={aside.error} />}
    </section>
  );
}
