import { NativeSelect } from "@mantine/core";

import { api, type Schema, useWatches, useWrite } from "../../api/client";
import classes from "./Sources.module.css";

const often = [
  { value: "0", label: "never by itself" },
  { value: "10", label: "every 10 seconds" },
  { value: "60", label: "every minute" },
  { value: "300", label: "every 5 minutes" },
  { value: "3600", label: "every hour" },
];

/** How often something outside is asked whether it moved, and what came of it. */
export function Watched({ subject, who }: { subject: Schema["WatchView"]["subject"]; who: string }) {
  const watch = useWatches().data?.find((w) => w.subject === subject);
  const set = useWrite((every: number) => api.setWatch(subject, every));
  if (!watch) return null;
  const other = often.some((o) => Number(o.value) === watch.every)
    ? []
    : [{ value: String(watch.every), label: `every ${watch.every} seconds` }];
  return (
    <p className={`${classes.hint} ${classes.watched}`}>
      <label>
        {who} is asked{" "}
        <NativeSelect
          size="xs"
          aria-label={`How often ${who} is asked`}
          data={[...often, ...other]}
          value={String(watch.every)}
          disabled={set.isPending}
          onChange={(e) => set.mutate(Number(e.currentTarget.value))}
        />
      </label>
      <span className="quiet">
        {watch.running && "It is being asked now."}
        {!watch.running &&
          watch.failed > 0 &&
          `It did not answer ${watch.failed === 1 ? "the last time" : `${watch.failed} times in a row`}. `}
        {!watch.running && watch.failed > 0 && watch.next && `It is asked again ${new Date(watch.next).toLocaleTimeString()}.`}
      </span>
    </p>
  );
}
