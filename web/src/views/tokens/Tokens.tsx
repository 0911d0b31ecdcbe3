import { Button } from "@mantine/core";
import { Fragment } from "react";
import { Link } from "react-router";

import { useTokens } from "../../api/client";
import { ListHead, useFind } from "../../ui/ListHead";
import { Empty, Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import classes from "./Tokens.module.css";

/** The tokens by group: what each is, where its value comes from, who uses it. */
export function Tokens() {
  const tokens = useTokens();
  const { find, setFind, matches } = useFind();
  return (
    <Query query={tokens} what="the tokens">
      {(list) => {
        if (list.length === 0) {
          return (
            <Empty
              title="No tokens yet"
              action={
                <Button component={Link} to="/sources" variant="filled">
                  To the sources
                </Button>
              }
            >
              Drop token files in the design-token standard's format.
            </Empty>
          );
        }
        const shown = list.filter((t) => matches(`${t.path} ${t.value} ${t.type} ${t.description}`));
        return (
          <div className={classes.view}>
            <ListHead title="Tokens" placeholder="Find by name, value, type" find={find} setFind={setFind}>
              {shown.length} of {list.length}
            </ListHead>
            <table className="grid">
              <thead>
                <tr>
                  <th>Token</th>
                  <th>Value</th>
                  <th>Through</th>
                  <th>Type</th>
                  <th>Used by</th>
                  <th>What it is for</th>
                </tr>
              </thead>
              <tbody>
                {shown.map((t, i) => (
                  <Fragment key={t.path}>
                    {shown[i - 1]?.group !== t.group && (
                      <tr className={classes.group}>
                        <th colSpan={6} scope="colgroup">
                          {t.group} <span className="quiet mono">{t.file}</span>
                        </th>
                      </tr>
                    )}
                    <tr>
                      <td className="mono" title={t.cssName}>
                        {t.path}
                      </td>
                      <td>{t.value ? <Value value={t.value} /> : <span className="quiet">cannot be resolved</span>}</td>
                      <td className="mono quiet">{t.chain.join(" → ")}</td>
                      <td className="quiet">{t.type}</td>
                      <td>{t.usedBy.join(", ")}</td>
                      <td className="quiet">
                        {t.deprecated && <strong>Deprecated: {t.deprecated}. </strong>}
                        {t.description}
                      </td>
                    </tr>
                  </Fragment>
                ))}
              </tbody>
            </table>
            {shown.length === 0 && <p className="quiet">No token has that in its name, value or type.</p>}
          </div>
        );
      }}
    </Query>
  );
}
