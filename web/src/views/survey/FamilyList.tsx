import { Button } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { ApiError, api, type Schema, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Picture } from "../../ui/Picture";
import { Failure } from "../../ui/States";
import classes from "./Survey.module.css";
import { type ListProps, useWords } from "./Words";

/** The families of a document, with their variants and where they are used. */
export function FamilyList({ survey: s, page, here, lit, picked, onLit, onPick }: ListProps) {
  const words = useWords(s.families.length, "Find among the families", "Name, purpose or axis");
  if (s.families.length === 0) return <p className={classes.nothing}>The document holds no families: every drawing in it stands alone.</p>;
  const list = s.families
    .map((f, i) => ({ f, number: i + 1 }))
    .filter(({ f }) => !here || f.uses.some((u) => u.page === page))
    .filter(({ f }) => words.matches([f.name, f.description, ...f.axes.map((a) => a.name)]));
  return (
    <>
      {words.field}
      {list.map(({ f, number }) => (
        <Family
          key={f.id}
          document={s.document}
          family={f}
          number={number}
          lit={f.id === lit || f.id === picked}
          onLit={onLit}
          onPick={() =>
            onPick(
              f.id === picked ? undefined : f.id,
              f.uses.flatMap((u) => u.page ?? []),
            )
          }
        />
      ))}
      {list.length === 0 && <p className={classes.nothing}>{here ? "None of them is used on this page." : "None of them says so."}</p>}
    </>
  );
}

interface FamilyProps {
  document: string;
  family: Schema["SurveyFamily"];
  number: number;
  lit: boolean;
  onLit: (group: string | undefined) => void;
  onPick: () => void;
}

function Family({ document, family: f, number, lit, onLit, onPick }: FamilyProps) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const draft = useWrite(
    () => api.draft({ document, family: f.id }),
    (made) => void navigate(`/bench/${made.slug}`),
  );
  const most = 6;
  const shown = open ? f.variants : f.variants.slice(0, most);
  const scale = Math.min(1, 130 / Math.max(1, ...f.variants.map((v) => Math.max(v.width, v.height))));
  const taken = draft.error instanceof ApiError && draft.error.trouble.status === 409;
  const others = f.uses.filter((u) => u.other).length;
  return (
    <article
      className={classes.family}
      aria-label={f.name}
      data-lit={lit || undefined}
      onPointerEnter={() => onLit(f.id)}
      onPointerLeave={() => onLit(undefined)}
    >
      <header className={classes.familyHead}>
        <div>
          <h2>
            <span className={classes.number}>{number}</span> {f.name}
          </h2>
          <span className="quiet">
            {f.description}{" "}
            {f.uses.length > 0 ? (
              <button type="button" className={classes.plain} onClick={onPick}>
                {count(f.uses.length, "use")}
              </button>
            ) : (
              "Not used"
            )}
            {others > 0 && `, ${others} of them hardly ${others === 1 ? "one" : "any"}`}.
          </span>
        </div>
        {f.component ? (
          <Button component={Link} to={`/bench/${f.component}`}>
            On the bench
          </Button>
        ) : (
          <Button variant="filled" loading={draft.isPending} onClick={() => draft.mutate(undefined)}>
            Draft a contract
          </Button>
        )}
      </header>
      {draft.error && !taken && <Failure error={draft.error} />}
      <dl className={classes.axes}>
        {f.axes.map((a) => (
          <div key={a.name}>
            <dt>{a.name}</dt>
            <dd>
              {a.values.map((v) => (
                <code
                  key={v}
                  className={v === a.default ? classes.byDefault : undefined}
                  title={v === a.default ? "the default" : undefined}
                >
                  {v}
                </code>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      <ul className={classes.variants}>
        {shown.map((v) => (
          <li key={v.id}>
            <Picture svg={v.picture} label={`${f.name}, ${v.choices.join(", ")}`} width={v.width} height={v.height} scale={scale} />
            <span className={classes.choices}>{v.choices.join(" · ")}</span>
          </li>
        ))}
      </ul>
      {f.variants.length > most && (
        <button type="button" className={classes.plain} onClick={() => setOpen(!open)} aria-expanded={open}>
          {open ? "Fewer" : `All ${f.variants.length} variants`}
        </button>
      )}
    </article>
  );
}
