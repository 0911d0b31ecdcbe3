import type { Schema } from "../api/client";
import { count } from "./count";

/** How far an edit reaches, in words. */
export function Reach({ tried }: { tried: Schema["Tried"] }) {
  return (
    <>
      {tried.cases === 0 ? "No case looks otherwise" : `${count(tried.cases, "case looks", "cases look")} otherwise`}
      {tried.reaches.length > 0 && (
        <>
          {" "}
          <span className="quiet">here, and</span> {tried.reaches.join(", ")} <span className="quiet">follow</span>
        </>
      )}
      .
    </>
  );
}
