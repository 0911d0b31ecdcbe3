import { Button, Progress } from "@mantine/core";

import { api, type Schema, useReadings, useWrite } from "../../api/client";
import { say } from "../../ui/say";
import classes from "./ReadingOn.module.css";

/** How far the reading of a long design is, and the way to stop it or begin it again. */
export function ReadingOn({ reading }: { reading: Schema["UnderWay"] }) {
  const { data } = useReadings();
  const now = data?.find((r) => r.document === reading.document && r.revision === reading.revision) ?? reading;
  const stop = useWrite(
    ({ of, stop }: { of: Schema["UnderWay"]; stop: boolean }) => api.stopReading(of.document, of.revision, stop),
    (_, { stop }) => say(stop ? "Stopped" : "Begun again", stop ? "What was read before stays." : "The design is read in the background."),
  );
  const on = now.state === "waiting" || now.state === "running";
  const share = Math.round(now.share * 100);
  return (
    <section className={classes.reading} aria-label="Reading">
      <p>
        {now.state === "waiting" && "Waits to be read."}
        {now.state === "running" && (
          <>
            Being read: {now.step || "layers"}, <span className="tabular">{share} %</span>
          </>
        )}
        {now.state === "stopped" && "The reading was stopped."}
        {now.state === "failed" && `The reading failed: ${now.trouble}`}{" "}
        <span className="quiet">
          {now.earlier || reading.earlier ? "What you see was read before the last changes." : "The pages can be looked at meanwhile."}
        </span>
      </p>
      <Button size="xs" variant="default" loading={stop.isPending} onClick={() => stop.mutate({ of: now, stop: on })}>
        {on ? "Stop" : "Read again"}
      </Button>
      {on && <Progress className={classes.bar} value={share} aria-label="Read so far" size={6} radius={0} transitionDuration={300} />}
    </section>
  );
}
