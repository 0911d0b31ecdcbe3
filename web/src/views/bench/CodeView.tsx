import { Link, useParams } from "react-router";

import { useBench } from "../../api/client";
import { Files } from "../../ui/Files";

/** The emitted files: to read, to copy, to take away. */
export function CodeView() {
  const { slug = "" } = useParams();
  const primitive = useBench(slug).data?.status === "primitive";
  return (
    <Files
      slug={slug}
      title={(name) => (
        <h1>
          <Link to={`/${primitive ? "catalogue" : "bench"}/${slug}`}>{name}</Link> in code
        </h1>
      )}
    />
  );
}
