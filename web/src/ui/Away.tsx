import type { ReactNode } from "react";
import { Link } from "react-router";

import { isStatic } from "./static";

/** A link out of the catalogue, to where work is done; words alone in a catalogue without a server. */
export function Away({ to, className, children }: { to: string; className?: string; children: ReactNode }) {
  if (isStatic) return <span className={className}>{children}</span>;
  return (
    <Link to={to} className={className}>
      {children}
    </Link>
  );
}
