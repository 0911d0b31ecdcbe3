import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

/** Reads again what is shown when anybody changes anything, in this or another window. */
export function useEvents() {
  const queries = useQueryClient();
  useEffect(() => {
    const source = new EventSource("/api/events");
    let waiting: ReturnType<typeof setTimeout> | undefined;
    source.addEventListener("message", (event: MessageEvent<string>) => {
      if (event.data === "measured") {
        void queries.invalidateQueries({ queryKey: ["project"] });
        return;
      }
      clearTimeout(waiting);
      waiting = setTimeout(() => void queries.invalidateQueries(), 80);
    });
    return () => {
      clearTimeout(waiting);
      source.close();
    };
  }, [queries]);
}
