import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

/**
 * Reads again what is shown when anybody changes anything, in this or another
 * window. Only a window that is looked at listens: a browser opens six
 * connections to a server at most, and each listener takes one.
 */
export function useEvents() {
  const queries = useQueryClient();
  useEffect(() => {
    let source: EventSource | undefined;
    let waiting: ReturnType<typeof setTimeout> | undefined;
    const heard = (event: MessageEvent<string>) => {
      if (event.data === "measured") {
        void queries.invalidateQueries({ queryKey: ["project"] });
        return;
      }
      clearTimeout(waiting);
      waiting = setTimeout(() => void queries.invalidateQueries(), 80);
    };
    const close = () => {
      source?.close();
      source = undefined;
    };
    const follow = () => {
      if (document.visibilityState === "hidden") return close();
      if (source) return;
      source = new EventSource("/api/events");
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
