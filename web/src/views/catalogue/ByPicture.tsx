import { useRef } from "react";
import { Link } from "react-router";

import { type Schema, useLike } from "../../api/client";
import { LivePicture } from "../../lanes/LivePicture";
import { count } from "../../ui/count";
import { Picture } from "../../ui/Picture";
import { Query } from "../../ui/States";
import classes from "./Catalogue.module.css";

/** What is looked for: layers of a design document, or a file. */
export type Drawing = { document: string; layers: string[] } | { file: string; text: string };

interface Props {
  drawing: Drawing | undefined;
  onTake: (file: File) => void;
  onClose: () => void;
  entries: Schema["Entry"][];
  preview: string | undefined;
}

const cell = { width: 150, height: 72 };

/** Finds components by a picture: a drawing that is dropped, or layers that were marked in the survey. */
export function ByPicture({ drawing, onTake, onClose, entries, preview }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const like = useLike(drawing);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept=".svg,image/svg+xml,.json"
        aria-label="A drawing"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (file) onTake(file);
        }}
      />
      {!drawing && (
        <span className={classes.byPicture}>
          By picture: drop a drawing,{" "}
          <button type="button" className={classes.back} onClick={() => input.current?.click()}>
            pick a file
          </button>{" "}
          or <Link to="/survey">mark layers</Link>
        </span>
      )}
      {drawing && (
        <section className={classes.like} aria-label="By picture">
          <Query query={like} what="the drawing">
            {({ drawn, name, hits }) => (
              <>
                <figure className={classes.sought}>
                  <Picture
                    svg={drawn.picture}
                    label={name}
                    width={drawn.width}
                    height={drawn.height}
                    scale={Math.min(1, cell.width / Math.max(1, drawn.width), cell.height / Math.max(1, drawn.height))}
                  />
                  <figcaption>{name}</figcaption>
                </figure>
                <ol aria-label="Components that it is like">
                  {hits.map((h) => {
                    const entry = entries.find((e) => e.slug === h.slug);
                    return (
                      <li key={h.slug}>
                        <Link to={`/catalogue/${h.slug}`}>
                          {entry && preview && <LivePicture entry={entry} preview={preview} {...cell} />}
                          <strong>{h.name}</strong> <span className="mono">{h.likeness.toFixed(2)}</span>
                        </Link>
                        <span className="quiet" title={h.missing.join(", ")}>
                          {count(h.matches, "piece")} alike
                          {h.missing.length > 0 && `, ${h.missing.length} only there`}
                          {h.extra > 0 && `, ${h.extra} only here`}
                        </span>
                      </li>
                    );
                  })}
                </ol>
                {hits.length === 0 && <p className="quiet">No component is like it. It can be drafted where it was drawn.</p>}
              </>
            )}
          </Query>
          <button type="button" className={classes.back} onClick={onClose}>
            Close
          </button>
        </section>
      )}
    </>
  );
}
