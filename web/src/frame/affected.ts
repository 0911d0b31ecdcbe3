/** A query's key, or how it begins. */
export type Key = readonly string[];

/** What lists and the frame say of components. */
const standings: Key[] = [["project"], ["components"], ["sync"], ["target"], ["drift"]];

/**
 * The queries that a change, told by its subject, can have answered otherwise; undefined for all
 * of them. Nothing else is asked again.
 */
export function affected(subject: string): Key[] | undefined {
  const [kind, slug] = subject.split(" ");
  switch (kind) {
    case "measured":
      return [["project"], ["components"]];
    case "component":
      // Tokens and the survey say which components there are and what they use.
      return slug ? [["component", slug], ...standings, ["survey"], ["tokens"], ["trial"]] : undefined;
    case "components":
      return [["component"], ...standings, ["tokens"], ["trial"]];
    case "target":
      return [["target"], ["project"], ["sync"], ["drift"]];
    case "drift":
      return [["drift", "report"]];
    case "watch":
      return [["watches"]];
    case "trial":
      return [["trial"], ["project"], ["components"]];
    case "survey":
      return [["survey"]];
    case "library":
      return [["components", "library"]];
    case "project":
      return [["project"], ["component"]];
    case "icons":
      return [["icons"]];
    case "tokens":
      return [["tokens"], ["sources"], ["component"], ...standings, ["trial"]];
    case "sources":
      return [["sources"], ["survey"], ["component"], ...standings, ["tokens", "scale"], ["tokens", "one"], ["trial"]];
  }
  return undefined;
}
