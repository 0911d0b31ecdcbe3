import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { api, type Schema } from "../../api/client";
import { linesOf, textOf } from "./outline";

/**
 * A page's outline while people type in it: shown at once, kept one edit behind the other. What somebody else made of the page
 * meanwhile comes when nothing of one's own is left to be kept.
 */
export function useOutline(page: Schema["TrialPage"]) {
  const queries = useQueryClient();
  const [lines, setLines] = useState(() => linesOf(page.outline));
  const [error, setError] = useState<Error>();
  const latest = useRef(lines);
  const kept = useRef(page.outline);
  const revision = useRef(page.revision);
  const running = useRef(false);
  const waiting = useRef<{ text: string; step: string }>(undefined);

  const take = useCallback(
    (next: Schema["TrialPage"]) => {
      revision.current = next.revision;
      kept.current = next.outline;
      queries.setQueryData(["trial", "page", next.slug], next);
    },
    [queries],
  );
  const flush = useCallback(async () => {
    if (running.current) return;
    running.current = true;
    try {
      while (waiting.current) {
        const { text, step } = waiting.current;
        waiting.current = undefined;
        if (text === kept.current) continue;
        take(await api.editTrial(page.slug, revision.current, text, step));
        setError(undefined);
      }
    } catch (e) {
      setError(e as Error);
      await queries.invalidateQueries({ queryKey: ["trial", "page", page.slug] });
    } finally {
      running.current = false;
    }
    void queries.invalidateQueries({ queryKey: ["trial", "list"] });
  }, [page.slug, queries, take]);

  /** Shows lines, and keeps them: at once, or as soon as what was typed before is kept. */
  const edit = useCallback(
    (next: string[], step: string) => {
      latest.current = next;
      setLines(next);
      waiting.current = { text: textOf(next), step };
      void flush();
    },
    [flush],
  );
  // The server's state, where it is not what was kept from here.
  useEffect(() => {
    if (running.current || waiting.current || page.revision < revision.current) return;
    revision.current = page.revision;
    if (page.outline === kept.current && textOf(latest.current) === page.outline) return;
    kept.current = page.outline;
    latest.current = linesOf(page.outline);
    setLines(latest.current);
  }, [page]);

  /** Does something else to the page, after all that is typed is kept. */
  const then = useCallback(
    async (write: (revision: number) => Promise<Schema["TrialPage"]>) => {
      await flush();
      try {
        const next = await write(revision.current);
        take(next);
        latest.current = linesOf(next.outline);
        setLines(latest.current);
        setError(undefined);
      } catch (e) {
        setError(e as Error);
        await queries.invalidateQueries({ queryKey: ["trial", "page", page.slug] });
      }
      void queries.invalidateQueries({ queryKey: ["trial", "list"] });
    },
    [flush, page.slug, queries, take],
  );
  return { lines, edit, then, error };
}
