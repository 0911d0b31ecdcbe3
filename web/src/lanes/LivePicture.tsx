import { useEffect, useState } from "react";

import type { Box } from "../../preview/messages";
import type { Schema } from "../api/client";
import { Drawn } from "../ui/Drawn";
import { buildAddress } from "./address";
import { BuiltFrame } from "./BuiltFrame";
import classes from "./lanes.module.css";

interface Props {
  entry: Schema["Entry"];
  preview: string;
  /** The room there is, px. */
  width: number;
  height: number;
}

/** ms that a picture is in sight before it runs: nothing is loaded for what is passed. */
const rest = 180;

/** A component running, small; as drawn until it does. */
export function LivePicture({ entry: e, preview, width, height }: Props) {
  const [awake, setAwake] = useState(false);
  const [root, setRoot] = useState<Box>();
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const soon = setTimeout(() => setAwake(true), rest);
    return () => clearTimeout(soon);
  }, []);
  const scale = Math.min(1, width / Math.max(1, root?.width ?? e.width), height / Math.max(1, root?.height ?? e.height));
  const shown = { key: "live", props: e.shown, paths: { root: [] }, x: 0, y: 0, width: e.fills ? e.width : undefined };
  return (
    <span className={classes.live} style={{ width, height }}>
      {!root && e.drawn && <Drawn entry={e} scale={scale} />}
      {failed && <span className="quiet">does not run</span>}
      {awake && !failed && (
        <span
          aria-hidden="true"
          className={classes.running}
          style={{
            width: (root?.width ?? e.width) * scale,
            height: (root?.height ?? e.height) * scale,
            visibility: root ? undefined : "hidden",
          }}
        >
          <BuiltFrame
            src={buildAddress(preview, e.slug, e.build)}
            title={`${e.name}, running`}
            cases={[shown]}
            width={Math.ceil(root?.width ?? e.width)}
            height={Math.ceil(root?.height ?? e.height)}
            scale={scale}
            onMeasured={(cases) => setRoot(cases[0]?.parts.find((p) => p.part === "root")?.box)}
            onFailed={() => setFailed(true)}
          />
        </span>
      )}
    </span>
  );
}
