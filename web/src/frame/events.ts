import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { operations } from "../api/client";
import { ownWindow } from "../api/window";
import { affected } from "./affected";
import { people } from "./here";

/**
 * Reads again what a change touches when anybody makes one, in this or another
 * window. Only a window that is looked at listens: a browser opens six
 * connections to a server at most, and each listener takes one.
 */
export function useEvents() {
  const queries = useQueryClient();
  useEffect(() => {
    let source: EventSource | undefined;
    let waiting: ReturnType<typeof setTimeout> | undefined;
    // Changes that come together are asked for once.
    const subjects = new Set<string>();
    const ask = () => {
      const keys = [...subjects].map(affected);
      subjects.clear();
      if (keys.includes(undefined)) return void queries.invalidateQueries();
      for (const queryKey of keys.flatMap((k) => k ?? [])) void queries.invalidateQueries({ queryKey });
    };
    const heard = (event: MessageEvent<string>) => {
      if (event.data.startsWith("here ")) return people.hear(event.data.slice(5));
      const [subject = "", by] = event.data.split(" by ");
      // What this window changed it reads again as soon as that is through; but not what it measured.
      if (by === ownWindow && subject !== "measured") return;
      subjects.add(subject);
      clearTimeout(waiting);
      waiting = setTimeout(ask, 80);
    };
    const close = () => {
      source?.close();
      source = undefined;
    };
    const follow = () => {
      if (document.visibilityState === "hidden") return close();
      if (source) return;
      source = new EventSource(`${operations}/events`);
      source.addEventListener("message", heard);
      // What changed while nobody listened is read once the connection stands.
      source.addEventListener("open", () => void queries.invalidateQueries());
    };
    follow();
    document.addEventListener("visibilitychange", follow);
    window.addEventListener("pagehide", close);
    window.addEventListener("pageshow", follow);
    return () => {
      document.removeEventListener("visibilitychange", follow);
      window.removeEventListener("pagehide", close);
      window.removeEventListener("pageshow", follow);
      clearTimeout(waiting);
      close();
    };
  }, [queries]);
}
