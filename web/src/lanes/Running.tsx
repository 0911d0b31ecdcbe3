import { useState } from "react";

import type { Box } from "../../preview/messages";
import type { Schema } from "../api/client";
import { BuiltFrame } from "./BuiltFrame";
import { shownCase } from "./shown";
import classes from "./lanes.module.css";

interface Props {
  /** Where it runs. */
  src: string;
  /** What it is called under it, and by those who do not see it. */
  caption: string;
  shown: Schema["CaseView"];
  /** What it is rendered with, where that is not what the case gives now. */
  props?: Record<string, unknown>;
  theme: Schema["LookTheme"] | undefined;
  /** It is told where it does not show the case. */
  onFailed?: (message: string) => void;
}

const most = { width: 220, height: 110 };

/** A case as some code of the component shows it, running, as large as it is. */
export function Running({ src, caption, shown, props, theme, onFailed }: Props) {
  const [root, setRoot] = useState<Box>();
  const [failed, setFailed] = useState(false);
  const width = Math.max(1, root?.width ?? shown.width);
  const height = Math.max(1, root?.height ?? shown.height);
  const scale = Math.min(1, most.width / width, most.height / height);
  return (
    <figure className={classes.runs}>
      <span className={classes.runsOn}>
        <span className={classes.runsIn} style={{ width: width * scale, height: height * scale }}>
          {failed ? (
            "does not show this case"
          ) : (
            <span aria-hidden="true">
              <BuiltFrame
                key={src}
                src={src}
                title={`${shown.name} of ${caption}`}
                cases={[{ ...shownCase(shown, theme, 0, 0), props: props ?? shown.props, paths: { root: [] } }]}
                width={Math.ceil(width)}
                height={Math.ceil(height)}
                scale={scale}
                onMeasured={(cases) => setRoot(cases[0]?.parts.find((p) => p.part === "root")?.box)}
                onFailed={(f) => {
                  setFailed(true);
                  onFailed?.(f.message);
                }}
              />
            </span>
          )}
        </span>
      </span>
      <figcaption>{caption}</figcaption>
    </figure>
  );
}
