import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useContainers, useWrite } from "../../api/client";
import { LayoutPicture } from "../../lanes/LayoutPicture";
import { Failure, Query } from "../../ui/States";
import { CuttingList } from "../../lanes/CuttingList";
import classes from "./Survey.module.css";

interface Props {
  document: string;
  layers: string[];
  /** What the page says of the one layer. */
  item: Schema["PageItem"] | undefined;
  back: () => void;
}

/** A drawing without flow, or several layers as one, read into containers, and the one action that makes a contract of it. */
export function LooseDrawing({ document, layers, item, back }: Props) {
  const read = useContainers(document, layers);
  const label = item?.name ?? `${layers.length} layers as one drawing`;
  const navigate = useNavigate();
  const [part, setPart] = useState("root");
  const [name, setName] = useState(!item || item.unnamed ? "" : pascal(item.name));
  const draft = useWrite(
    () => api.draft({ document, layers, name: name.trim() }),
    (made) => void navigate(`/bench/${made.slug}?facet=layout`),
  );
  return (
    <article className={classes.loose} aria-label={label}>
      <header className={classes.looseHead}>
        <button type="button" className={classes.plain} onClick={back}>
          Back to the page
        </button>
        {item?.component ? (
          <Button component={Link} to={`/bench/${item.component}?facet=layout`}>
            On the bench
          </Button>
        ) : (
          <form
            className={classes.draft}
            onSubmit={(e) => {
              e.preventDefault();
              draft.mutate(undefined);
            }}
          >
            <TextInput
              size="xs"
              aria-label="Name of the component"
              placeholder="Name the component"
              value={name}
              onChange={(e) => setName(e.currentTarget.value)}
            />
            <Button type="submit" variant="filled" loading={draft.isPending} disabled={name.trim() === "" || !read.data}>
              Draft a contract
            </Button>
          </form>
        )}
      </header>
      {draft.error && <Failure error={draft.error} />}
      <Query query={read} what="the containers">
        {(view) => (
          <>
            <div className={classes.reading}>
              <LayoutPicture view={view} label={`${label}, as drawn`} part={part} onPart={setPart} />
            </div>
            {view.notes.length > 0 && (
              <ul className={classes.notes} aria-label="What could not be read">
                {view.notes.map((n) => (
                  <li key={n}>{n}</li>
                ))}
              </ul>
            )}
            <CuttingList view={view} part={part} onPart={setPart} />
          </>
        )}
      </Query>
    </article>
  );
}

/** A layer's name as a component's: "Top bar" is TopBar. */
function pascal(name: string) {
  return name
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean)
    .map((w) => w[0]?.toUpperCase() + w.slice(1))
    .join("");
}
