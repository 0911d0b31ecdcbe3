import type { ShownCase } from "../../preview/messages";
import type { Schema } from "../api/client";

/** A case as a preview frame is told to show it in a theme, with its container at x, y. */
export function shownCase(one: Schema["CaseView"], theme: Schema["LookTheme"] | undefined, x: number, y: number): ShownCase {
  return {
    key: one.key,
    theme: theme?.name,
    attributes: theme?.attributes,
    props: one.props,
    states: one.states,
    paths: one.paths,
    x,
    y,
    width: one.container || (one.fills ? one.width : undefined),
  };
}
