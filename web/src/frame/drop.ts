import { useState } from "react";

import { ApiError, api, type Schema, useWrite } from "../api/client";
import { say } from "../ui/say";

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
