import type { ShownCase } from "../../preview/messages";
import type { Schema } from "../api/client";

/** A case as a preview frame is told to show it, with its container at x, y. */
export function shownCase(one: Schema["CaseView"], x: number, y: number): ShownCase {
  return {
    key: one.key,
    props: one.props,
    states: one.states,
    paths: one.paths,
    x,
    y,
    width: one.container || (one.fills ? one.width : undefined),
  };
}
