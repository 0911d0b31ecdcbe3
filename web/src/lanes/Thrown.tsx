import { useQuery } from "@tanstack/react-query";

import type { Failed } from "../../preview/messages";
import { api } from "../api/client";
import classes from "./lanes.module.css";

/** What the component threw, in its lane, with the line of the emitted source. */
export function Thrown({ slug, build, failure }: { slug: string; build: string; failure: Failed }) {
  const { data: traced } = useQuery({
    queryKey: ["trace", slug, build, failure.stack],
    queryFn: () => api.trace(slug, build, failure.stack ?? ""),
    enabled: !!failure.stack,
  });
  const file = failure.file ?? traced?.file;
  const line = failure.line ?? traced?.line;
  return (
    <div className={classes.failed} role="alert">
      <strong>The component does not run.</strong>
      <div>{failure.message}</div>
      {file && (
        <pre tabIndex={0} aria-label="Source">
          {file}:{line}
          {traced?.source ? `\n${traced.source}` : ""}
        </pre>
      )}
    </div>
  );
}
