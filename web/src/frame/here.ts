import { useLocalStorage } from "@mantine/hooks";
import { useEffect, useEffectEvent, useRef, useState, useSyncExternalStore } from "react";

import { api, type Schema } from "../api/client";
import { nameKey, ownWindow } from "../api/window";

/** Somebody else who is at a component. */
export type Other = Schema["Here"];

/** ms after which somebody who says nothing is gone, and after which one says it again. */
const gone = 40_000;
const again = 15_000;

/** Who is where, by their windows, as they said last. */
class People {
  readonly tab = ownWindow;
  private known = new Map<string, { here: Other; heard: number }>();
  private list: Other[] = [];
  private listeners = new Set<() => void>();
  /** What this window answers when somebody asks. */
  answer: (() => void) | undefined;

  /** Takes what a live event says. */
  hear(text: string, now = Date.now()) {
    const here = JSON.parse(text) as Other;
    if (here.tab === this.tab) return;
    this.known.set(here.tab, { here, heard: now });
    if (here.asks) this.answer?.();
    this.tidy(now);
  }

  tidy(now = Date.now()) {
    for (const [tab, one] of this.known) if (one.here.slug === "" || now - one.heard > gone) this.known.delete(tab);
    const list = [...this.known.values()].map((one) => one.here);
    if (JSON.stringify(list) === JSON.stringify(this.list)) return;
    this.list = list;
    this.listeners.forEach((tell) => tell());
  }

  readonly subscribe = (tell: () => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  readonly all = () => this.list;
}

export const people = new People();

/** What one is shown to others as. */
export const useOwnName = () => useLocalStorage({ key: nameKey, defaultValue: "Somebody", getInitialValueInEffect: false });

/** The others at a component. */
export function useOthers(slug: string): Other[] {
  const all = useSyncExternalStore(people.subscribe, people.all);
  return all.filter((o) => o.slug === slug);
}

/** Says where one is at a component, to all who look at the same project, as long as this window is looked at. */
export function useHere(slug: string) {
  const [name] = useOwnName();
  const [at, setAt] = useState("");
  const asked = useRef(false);
  const say = useEffectEvent((where: string) => {
    if (document.visibilityState === "hidden" && where !== "") return;
    void api.here({ tab: people.tab, name, slug: where, at, asks: asked.current ? undefined : true }).catch(() => undefined); // it is only courtesy
    asked.current = true;
  });
  useEffect(() => {
    const soon = setTimeout(() => say(slug), 150); // not for every row that is passed
    return () => clearTimeout(soon);
  }, [slug, at, name]);
  useEffect(() => {
    people.answer = () => say(slug);
    const beat = setInterval(() => {
      say(slug);
      people.tidy();
    }, again);
    const leave = () => say("");
    window.addEventListener("pagehide", leave);
    return () => {
      people.answer = undefined;
      clearInterval(beat);
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [slug]);
  return setAt;
}
