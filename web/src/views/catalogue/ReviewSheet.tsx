import { Button, Checkbox, Textarea, TextInput } from "@mantine/core";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useReview, useWrite } from "../../api/client";
import { Rich } from "../../ui/Rich";
import { Failure, Query } from "../../ui/States";
import { count } from "../../ui/count";
import { say } from "../../ui/say";
import classes from "./Catalogue.module.css";
import { Version } from "./Version";

interface Props {
  bench: Schema["Bench"];
  preview: string;
  theme: Schema["LookTheme"] | undefined;
}

type Place = Pick<Schema["NewComment"], "place" | "key" | "words">;

/** What changed since the newest release, fact by fact and case by case, and what people say of it. */
export function ReviewSheet({ bench, preview, theme }: Props) {
  const review = useReview(bench.slug);
  const [at, setAt] = useState<Place>({ place: "component", key: "", words: bench.name });
  return (
    <Query query={review} what="the review">
      {(r) => {
        const of = (place: string, key: string) => r.comments.filter((c) => c.place === place && c.key === key && !c.resolved).length;
        const differing = r.cases.filter((c) => c.differs);
        const speak = (next: Place) => {
          setAt(next);
          document.querySelector<HTMLElement>("[data-says]")?.focus();
        };
        return (
          <div className={classes.review}>
            <div className={classes.sheet}>
              <Asked bench={bench} review={r} />
              <section aria-label="Facts that changed">
                <h2>
                  Facts{" "}
                  <span className="quiet">
                    {r.release ? `${count(r.changes.length, "fact")} changed since ${r.release}` : "not released yet: all of it is new"}
                  </span>
                </h2>
                {r.changes.length > 0 && (
                  <table className="grid">
                    <tbody>
                      {r.changes.map((c) => {
                        const key = c.key ?? c.text;
                        return (
                          <tr key={key}>
                            <td className="quiet">{c.level}</td>
                            <td>{c.text}</td>
                            <td>
                              <Speak n={of("fact", key)} onSpeak={() => speak({ place: "fact", key, words: c.text })} what={c.text} />
                            </td>
                          </tr>
                        );
                      })}
                    </tbody>
                  </table>
                )}
              </section>
              <section aria-label="Cases">
                <h2>
                  Cases{" "}
                  <span className="quiet">
                    {r.release
                      ? `${differing.length} of ${count(r.cases.length, "case")} ${differing.length === 1 ? "looks" : "look"} otherwise`
                      : count(r.cases.length, "case")}
                  </span>
                </h2>
                <ul className={classes.pairs}>
                  {(r.release ? differing : r.cases).slice(0, mostPairs).map((c) => (
                    <li key={c.key}>
                      <div className={classes.versions}>
                        {r.release && c.released && (
                          <Version slug={bench.slug} version={r.release} shown={c} props={c.released} theme={theme} preview={preview} />
                        )}
                        <Version slug={bench.slug} build={bench.build} shown={c} theme={theme} preview={preview} />
                      </div>
                      <Link to={`/bench/${bench.slug}?case=${encodeURIComponent(c.key)}`}>{c.name}</Link>{" "}
                      {r.release && !c.released && <span className={classes.warned}>new</span>}{" "}
                      <Speak n={of("case", c.key)} onSpeak={() => speak({ place: "case", key: c.key, words: c.name })} what={c.name} />
                    </li>
                  ))}
                </ul>
                {(r.release ? differing : r.cases).length > mostPairs && (
                  <p>
                    <Link to={`/bench/${bench.slug}?board=1`}>All of them at once, on the bench</Link>
                  </p>
                )}
              </section>
              <section aria-label="Parts">
                <h2>Parts</h2>
                <p className={classes.partList}>
                  {bench.parts.map((p) => (
                    <span key={p.id}>
                      <code>{p.name}</code>{" "}
                      <Speak
                        n={of("part", p.id)}
                        onSpeak={() => speak({ place: "part", key: p.id, words: `the part ${p.name}` })}
                        what={p.name}
                      />
                    </span>
                  ))}
                </p>
              </section>
            </div>
            <Comments bench={bench} list={r.comments} at={at} onWhole={() => setAt({ place: "component", key: "", words: bench.name })} />
          </div>
        );
      }}
    </Query>
  );
}

/** How many cases are shown before and since, each in frames of its own. */
const mostPairs = 12;

function Speak({ n, onSpeak, what }: { n: number; onSpeak: () => void; what: string }) {
  return (
    <button type="button" className={classes.back} onClick={onSpeak} aria-label={`Comment on ${what}${n > 0 ? `, ${n} open` : ""}`}>
      {n > 0 ? count(n, "comment") : "comment"}
    </button>
  );
}

/** Who asked for it, who approved it, and what can be done next. */
function Asked({ bench, review: r }: { bench: Schema["Bench"]; review: Schema["Review"] }) {
  const [note, setNote] = useState("");
  const ask = useWrite(() => api.askReview(bench.slug, note.trim()));
  const end = useWrite(() => api.endReview(bench.slug));
  const approve = useWrite(
    () => api.approve(bench.slug, r.revision),
    () => say(bench.name, "Approved."),
  );
  const approval = useWrite((on: boolean) => api.askApproval(on));
  const error = ask.error ?? end.error ?? approve.error ?? approval.error;
  return (
    <section aria-label="Review" className={classes.asked}>
      {r.asked ? (
        <>
          <p>
            {r.asked.by} asked for it, {new Date(r.asked.at).toLocaleString()}.{r.asked.note && ` “${r.asked.note}”`}{" "}
            {r.asked.approver && (
              <strong>{r.asked.approved ? `Approved by ${r.asked.approver}.` : `Changed since ${r.asked.approver} approved it.`}</strong>
            )}
          </p>
          <Button size="compact-sm" loading={end.isPending} onClick={() => end.mutate(undefined)}>
            Take it out of review
          </Button>
          <Button
            size="compact-sm"
            variant="filled"
            disabled={r.asked.approved}
            loading={approve.isPending}
            onClick={() => approve.mutate(undefined)}
          >
            Approve
          </Button>
        </>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            ask.mutate(undefined);
          }}
        >
          <TextInput
            size="xs"
            aria-label="What is to be looked at"
            placeholder="What is to be looked at"
            value={note}
            onChange={(e) => setNote(e.currentTarget.value)}
          />
          <Button type="submit" size="compact-sm" variant="filled" loading={ask.isPending}>
            Put it up for review
          </Button>
        </form>
      )}
      <Checkbox
        size="xs"
        checked={r.approval}
        onChange={(e) => approval.mutate(e.currentTarget.checked)}
        label="Somebody else has to approve a release, in this project"
      />
      {error && <Failure error={error} />}
    </section>
  );
}

function Comments({ bench, list, at, onWhole }: { bench: Schema["Bench"]; list: Schema["CommentView"][]; at: Place; onWhole: () => void }) {
  const [body, setBody] = useState("");
  const add = useWrite(
    () => api.comment(bench.slug, { ...at, body }),
    () => setBody(""),
  );
  const open = list.filter((c) => !c.resolved);
  const done = list.filter((c) => c.resolved);
  return (
    <section aria-label="Comments" className={classes.comments}>
      <h2>
        Comments <span className="quiet">{open.length === 0 ? "none open" : `${open.length} open`}</span>
      </h2>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate(undefined);
        }}
      >
        <Textarea data-says rows={3} label={`On ${at.words}`} value={body} onChange={(e) => setBody(e.currentTarget.value)} />
        {at.place !== "component" && (
          <button type="button" className={classes.back} onClick={onWhole}>
            Rather on all of it
          </button>
        )}
        <Button type="submit" size="compact-sm" disabled={body.trim() === ""} loading={add.isPending}>
          Say it
        </Button>
        {add.error && <Failure error={add.error} />}
      </form>
      <ol>
        {open.map((c) => (
          <Comment key={c.id} slug={bench.slug} comment={c} />
        ))}
      </ol>
      {done.length > 0 && (
        <details>
          <summary>{count(done.length, "comment")} dealt with</summary>
          <ol>
            {done.map((c) => (
              <Comment key={c.id} slug={bench.slug} comment={c} />
            ))}
          </ol>
        </details>
      )}
    </section>
  );
}

function Comment({ slug, comment: c }: { slug: string; comment: Schema["CommentView"] }) {
  const resolve = useWrite(() => api.resolveComment(slug, c.id, !c.resolved));
  const told: ReactNode = c.place === "component" ? null : <>, on {c.words}</>;
  return (
    <li>
      <span className="quiet">
        {c.by}, {new Date(c.at).toLocaleString()}
        {told}
      </span>
      <Rich blocks={c.told} />
      <button type="button" className={classes.back} disabled={resolve.isPending} onClick={() => resolve.mutate(undefined)}>
        {c.resolved ? `Open again (${c.resolver} dealt with it)` : "Dealt with"}
      </button>
      {resolve.error && <Failure error={resolve.error} />}
    </li>
  );
}
