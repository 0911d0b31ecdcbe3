import { Button } from "@mantine/core";

import { api, type Schema, useOffScale, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Empty, Failure, Query } from "../../ui/States";
import { say } from "../../ui/say";
import { TokenPicture } from "../../ui/TokenPicture";
import classes from "./OffScale.module.css";

type Raw = Schema["RawValue"];

/** Colours and lengths that layers use without a token: those the scale does not have, and those nobody bound. */
export function OffScale() {
  const raw = useOffScale();
  const bind = useWrite(
    (r: Raw) => api.bindRaw({ scale: r.scale, value: r.value, token: r.nearest }),
    (done, r) =>
      say(
        "Bound",
        `${count(done.values, "value")} in ${count(done.components, "contract")} now ${done.values === 1 ? "refers" : "refer"} to ${r.nearest}.`,
      ),
  );
  return (
    <Query query={raw} what="the design's raw values">
      {(list) => {
        if (list.length === 0) {
          return (
            <Empty title="Nothing off the scale">
              Every colour and length of the design's layers is bound to a token, or there is no design yet.
            </Empty>
          );
        }
        const off = list.filter((r) => r.distance > 0 || !r.nearest);
        const unbound = list.filter((r) => r.distance === 0 && r.nearest);
        return (
          <div className={classes.view}>
            {bind.error && <Failure error={bind.error} />}
            <Values
              title="Off the scale"
              about="no token has this value"
              list={off}
              bind={bind}
              none="Every raw value of the design is one that a token has."
            />
            <Values
              title="On the scale, not bound"
              about="a token has this value, and the layer was not bound to it"
              list={unbound}
              bind={bind}
              none="Nothing is left unbound."
            />
          </div>
        );
      }}
    </Query>
  );
}

interface Props {
  title: string;
  about: string;
  list: Raw[];
  none: string;
  bind: { mutate: (r: Raw) => void; isPending: boolean; variables?: Raw };
}

function Values({ title, about, list, bind, none }: Props) {
  return (
    <section className={classes.section} aria-label={title}>
      <h2>
        {title} <span className="quiet">{list.length ? `${list.length} values: ${about}` : none}</span>
      </h2>
      {list.length > 0 && (
        <table className="grid">
          <thead>
            <tr>
              <th>Value</th>
              <th>As</th>
              <th>Layers</th>
              <th>Nearest token</th>
              <th>Away</th>
              <th>In contracts</th>
            </tr>
          </thead>
          <tbody>
            {list.map((r) => (
              <tr key={`${r.scale} ${r.value}`}>
                <td>
                  <Pictured scale={r.scale} value={r.value} />
                </td>
                <td>{r.scale}</td>
                <td>
                  <details>
                    <summary>
                      {r.count} {r.count === 1 ? "use" : "uses"}
                    </summary>
                    <ul className={classes.uses}>
                      {r.uses.map((u, i) => (
                        <li key={i}>
                          {u.where} › {u.name} <span className="mono quiet">{u.property}</span>
                        </li>
                      ))}
                      {r.count > r.uses.length && <li className="quiet">and {r.count - r.uses.length} more</li>}
                    </ul>
                  </details>
                </td>
                <td>
                  {r.nearest ? (
                    <span className={classes.nearest}>
                      <Pictured scale={r.scale} value={r.at} />
                      <span className="mono quiet">{r.nearest}</span>
                    </span>
                  ) : (
                    <span className="quiet">no token on this scale</span>
                  )}
                </td>
                <td className="mono">{r.distance > 0 ? `${r.distance} ${r.unit}` : ""}</td>
                <td>
                  {r.values > 0 ? (
                    <Button loading={bind.isPending && bind.variables === r} onClick={() => bind.mutate(r)}>
                      Bind {r.values} to {r.nearest}
                    </Button>
                  ) : (
                    <span className="quiet">no contract says it</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Pictured({ scale, value }: { scale: string; value: string }) {
  return (
    <span className={`mono ${classes.pictured}`}>
      <TokenPicture type={scale === "colour" ? "color" : "dimension"} value={value} />
      {value}
    </span>
  );
}
