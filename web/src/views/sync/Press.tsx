import { Button, TextInput } from "@mantine/core";
import { useState } from "react";

import { api, type Schema, usePressPlan, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure, Query } from "../../ui/States";
import { say } from "../../ui/say";
import { Touches } from "./Touches";
import classes from "./Sync.module.css";

const wants = ["leave", "ask", "keep"];

/** What a decision of several components does, before it is done. */
export function Press(props: { request: Schema["PressRequest"]; done: () => void; again: () => void }) {
  const { request, done, again } = props;
  const [reason, setReason] = useState("");
  const plan = usePressPlan(request);
  const write = useWrite(
    () => api.press({ ...request, reason }),
    (list) => {
      const failed = list.filter((p) => p.problem);
      say("Sync", failed.length === 0 ? "Decided." : `Decided, but for ${failed.map((p) => p.of).join(", ")}: ${failed[0]?.problem}`);
      done();
    },
  );
  const needed = request.choices.some((c) => c.way === "leave");
  return (
    <Query query={plan} what="what it would do">
      {(list) => (
        <>
          <ul className={classes.touched}>
            {list.map((p) => (
              <li key={`${p.of} ${p.outcome?.contract}`}>
                <strong>{p.of}</strong>{" "}
                {p.problem ? (
                  <span className={classes.problem}>{p.problem}</span>
                ) : (
                  p.outcome && (
                    <>
                      <span className="quiet">
                        {p.outcome.level === "none" ? "no new version" : p.outcome.level}
                        {p.outcome.from && p.outcome.level !== "none" && ` (${p.outcome.from} → ${p.outcome.version})`},{" "}
                        {count(p.outcome.cases, "case looks", "cases look")} different
                      </span>
                      <Touches outcome={p.outcome} />
                    </>
                  )
                )}
              </li>
            ))}
          </ul>
          <div className={classes.finish}>
            {request.choices.some((c) => wants.includes(c.way)) && (
              <TextInput
                size="xs"
                label="Why"
                value={reason}
                onChange={(e) => setReason(e.currentTarget.value)}
                maxLength={1000}
                required={needed}
              />
            )}
            <Button onClick={again}>Not now</Button>
            <Button
              variant="filled"
              loading={write.isPending}
              disabled={list.every((p) => p.problem !== "") || (needed && reason.trim() === "")}
              onClick={() => write.mutate(undefined)}
            >
              Decide {count(request.choices.length, "move")}
            </Button>
          </div>
          {write.error && <Failure error={write.error} />}
        </>
      )}
    </Query>
  );
}
