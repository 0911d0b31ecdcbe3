import { useEffect, useEffectEvent, useState } from "react";

import { ApiError, api, type Schema, useWrite } from "../api/client";
import { say } from "../ui/say";

/** Hears files that are dropped anywhere in the window; tells whether some are over it. */
export function useFilesOver(take: (files: File[]) => void): boolean {
  const [over, setOver] = useState(false);
  const land = useEffectEvent((files: FileList | undefined) => take([...(files ?? [])]));
  useEffect(() => {
    let depth = 0;
    const withFiles = (e: DragEvent) => e.dataTransfer?.types.includes("Files");
    const enter = (e: DragEvent) => {
      if (withFiles(e) && ++depth === 1) setOver(true);
    };
    const leave = () => {
      if (--depth <= 0) {
        depth = 0;
        setOver(false);
      }
    };
    const move = (e: DragEvent) => {
      if (withFiles(e)) e.preventDefault();
    };
    const drop = (e: DragEvent) => {
      if (!withFiles(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      land(e.dataTransfer?.files);
    };
    window.addEventListener("dragenter", enter);
    window.addEventListener("dragleave", leave);
    window.addEventListener("dragover", move);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("dragenter", enter);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("dragover", move);
      window.removeEventListener("drop", drop);
    };
  }, []);
  return over;
}

type Take = (file: File) => Promise<Schema["Dropped"]>;

/** Gives files to the server one by one and says what became of each. */
export function useDrop() {
  const [refused, setRefused] = useState<{ file: string; error: Error }[]>([]);
  const write = useWrite(({ file, take }: { file: File; take: Take }) => take(file));
  const drop = async (files: Iterable<File>, take: Take = api.drop) => {
    setRefused([]);
    for (const file of files) {
      try {
        const taken = await write.mutateAsync({ file, take });
        say(
          taken.name,
          taken.restored
            ? `It is back, at revision ${taken.revision}.`
            : taken.added
              ? `Taken as ${taken.kind === "design" ? `revision ${taken.revision} of the design` : "a token file"}.`
              : "It is the same as what is here.",
        );
      } catch (error) {
        const known = error instanceof ApiError ? error : new Error("The file could not be read.");
        setRefused((list) => [...list, { file: file.name, error: known }]);
      }
    }
  };
  return { drop, refused, forget: () => setRefused([]), busy: write.isPending };
}
