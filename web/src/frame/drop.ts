import { useState } from "react";

import { ApiError, api, useWrite } from "../api/client";
import { say } from "../ui/say";

/** Gives files to the server one by one and says what became of each. */
export function useDrop() {
  const [refused, setRefused] = useState<{ file: string; error: Error }[]>([]);
  const write = useWrite(api.drop);
  const drop = async (files: Iterable<File>) => {
    setRefused([]);
    for (const file of files) {
      try {
        const taken = await write.mutateAsync(file);
        say(
          taken.name,
          taken.added
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
