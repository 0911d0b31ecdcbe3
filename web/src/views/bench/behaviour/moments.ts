import type { Heard } from "../../../../preview/messages";
import type { Schema } from "../../../api/client";

type Happens = Schema["Happens"];

/** What happens to an instance by time; of one time in the order in which it was put there. */
export const put = (list: Happens[], one: Happens): Happens[] => [...list, one].sort((a, b) => a.at - b.at);

/** Kinds of events that are kept though nothing followed of them: people meant them. */
const meant = ["press", "key", "dragged"];

/** What happened until now, with something that was heard: a handle that is dragged on is dragged once. */
export function withHeard(list: Happens[], heard: Heard, events: Schema["EventView"][]): Happens[] {
  const event = events.find((e) => e.words === heard.event)?.event;
  if (!event || (!heard.followed && !meant.includes(event.kind ?? ""))) return list;
  const one: Happens = { at: heard.at, event, value: heard.value };
  const last = list.at(-1);
  const same = event.kind === "dragged" && last !== undefined && sameEvent(last, one);
  return put(same ? list.slice(0, -1) : list, one);
}

const sameEvent = (a: Happens, b: Happens) => JSON.stringify(a.event) === JSON.stringify(b.event);

/** Puts what is expected at a time, or takes it back where it is. */
export function toggled(list: Happens[], at: number, expect: Schema["Expected"]): Happens[] {
  const there = list.findIndex((h) => h.at === at && isExpected(h.expect, expect));
  return there >= 0 ? list.filter((_, i) => i !== there) : put(list, { at, expect });
}

export const isExpected = (a: Schema["Expected"] | undefined, b: Schema["Expected"]) =>
  a !== undefined && a.part === b.part && a.is === b.is && a.value === b.value;

/** What a thing that happens, or is expected, is called. */
export function saidOf(h: Happens, says: string | undefined, events: Schema["EventView"][]): string {
  if (h.expect) return says ?? "something is expected";
  const words = events.find((e) => JSON.stringify(e.event) === JSON.stringify(h.event))?.words ?? "an event";
  return h.value === undefined ? words : `${words}: ${typeof h.value === "string" ? h.value : JSON.stringify(h.value)}`;
}

/** The length of a time line that holds a time, ms: the one there is, or whole seconds beyond it. */
export const long = (until: number, at: number) => (at < until ? until : Math.ceil((at * 1.25) / 1000) * 1000);

/** What an instance is given at a time. */
export const givenAt = (course: Schema["Course"], at: number): Record<string, unknown> =>
  course.props.findLast((p) => p.at <= at)?.props ?? {};
