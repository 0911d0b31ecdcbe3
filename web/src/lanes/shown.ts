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

/** A case as a preview frame is told to show it in what it is looked at in; the size of text is the frame's. */
export function lookedCase(one: Schema["Looked"], themes: Schema["LookTheme"][], x: number, y: number): ShownCase {
  const shown = shownCase(one, themes.find((t) => t.name === one.look.theme) ?? themes[0], x, y);
  return one.look.direction ? { ...shown, attributes: { ...shown.attributes, dir: one.look.direction } } : shown;
}

/** Percent of the size of text that a case is looked at with. */
export const textOf = (look: Schema["Look"]) => look.text ?? 100;

/** Whether something is looked at otherwise than it is by itself, themes aside. */
export const isOtherwise = (look: Schema["Look"]) =>
  look.state !== undefined || look.direction !== undefined || textOf(look) !== 100 || look.width !== undefined;
