import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useContainers, useWrite } from "../../api/client";
import { LayoutPicture } from "../../lanes/LayoutPicture";
import { Failure, Query } from "../../ui/States";
import { CuttingList } from "../../lanes/CuttingList";
import classes from "./Survey.module.css";

/** A drawing without flow, read into containers, and the one action that makes a contract of it. */
export function LooseDrawing({ document, item, back }: { document: string; item: Schema["PageItem"]; back: () => void }) {
  const read = useContainers(document, item.id);
  const navigate = useNavigate();
  const [part, setPart] = useState("root");
  const [name, setName] = useState(item.unnamed ? "" : pascal(item.name));
  const draft = useWrite(
    () => api.draft({ document, layer: item.id, name: name.trim() }),
    (made) => void navigate(`/bench/${made.slug}?facet=layout`),
  );
  return (
    <article className={classes.loose} aria-label={item.name}>
      <header className={classes.looseHead}>
        <button type="button" className={classes.more} onClick={back}>
          Back to the page
        </button>
        {item.component ? (
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
              <LayoutPicture view={view} label={`${item.name}, as drawn`} part={part} onPart={setPart} />
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
