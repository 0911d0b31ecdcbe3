import { Link } from "react-router";

import { useCode } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Bench.module.css";

/** The way to what the repository's code says otherwise of the component. */
export function MovedInCode({ slug }: { slug: string }) {
  const waiting = useCode().data?.components.find((c) => c.slug === slug)?.waiting ?? 0;
  if (waiting === 0) return null;
  return (
    <Link to={`/sync#code-${slug}`} className={classes.waits}>
      {count(waiting, "move")} of the code
    </Link>
  );
}
