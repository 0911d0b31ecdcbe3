import { Button } from "@mantine/core";
import { Link } from "react-router";

import { useEntries } from "../../api/client";
import { Begin } from "./Begin";
import { count } from "../../ui/count";
import { Drawn } from "../../ui/Drawn";
import { Standing } from "../../ui/Standing";
import { Empty, Query } from "../../ui/States";
import classes from "./Bench.module.css";

/** All components at work. */
export function BenchList() {
  const entries = useEntries();
  return (
    <Query query={entries} what="the components">
      {(list) =>
        list.length === 0 ? (
          <>
            <Empty
              title="The bench is empty"
              action={
                <Button component={Link} to="/survey" variant="filled">
                  Draft one in the survey
                </Button>
              }
            >
              A component comes here when its contract is drafted from a family of the design, or begun without a drawing.
            </Empty>
            <div className={classes.list}>
              <Begin />
            </div>
          </>
        ) : (
          <div className={classes.list}>
            <h1>Bench</h1>
            <Begin />
            <ul className={classes.cards}>
              {list.map((e) => (
                <li key={e.slug}>
                  <Link className={classes.card} to={`/bench/${e.slug}`}>
                    <span className={classes.sheet}>
                      {e.drawn ? (
                        <Drawn entry={e} scale={Math.min(2, 240 / Math.max(1, e.width))} />
                      ) : (
                        <span className={classes.undrawn}>begun without a drawing</span>
                      )}
                    </span>
                    <span className={classes.words}>
                      <strong>{e.name}</strong>
                      <span className="quiet">
                        {e.version ? `released ${e.version}` : "draft"} · {count(e.cases, "case")}
                      </span>
                      <Standing entry={e} />
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
            <p className={classes.begin}>
              <Link to="/icons">Icons of the library</Link>
            </p>
          </div>
        )
      }
    </Query>
  );
}
