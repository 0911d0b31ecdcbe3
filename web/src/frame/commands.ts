import { useEffect, useRef } from "react";

/** Something to do from anywhere. */
export interface Command {
  label: string;
  what: string;
  run: () => void;
}

const held = new Set<{ current: readonly Command[] }>();

/** Offers what a view can do among all that is found, for as long as it is shown. */
export function useCommands(commands: readonly Command[]) {
  const own = useRef(commands);
  useEffect(() => {
    own.current = commands;
  });
  useEffect(() => {
    held.add(own);
    return () => void held.delete(own);
  }, []);
}

/** What the views that are shown offer. */
export const commandsOfViews = (): Command[] => [...held].flatMap((c) => c.current);
