import { useState } from "react";

import type { Box } from "../../../preview/messages";
import type { Schema } from "../../api/client";
import { buildAddress, releaseAddress } from "../../lanes/address";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { shownCase } from "../../lanes/shown";
import classes from "./Catalogue.module.css";

interface Props {
  slug: string;
  /** A version that was released; nothing for the component as it is now. */
  version?: string;
  /** Names the build as it is now. */
  build?: string;
  shown: Schema["CaseView"];
  /** What it is rendered with, where that is not what the case gives now. */
  props?: Record<string, unknown>;
  theme: Schema["LookTheme"] | undefined;
  preview: string;
}

const most = { width: 220, height: 110 };

/** A case as one version of the component shows it, running. */
export function Version({ slug, version, build, shown, props, theme, preview }: Props) {
  const [root, setRoot] = useState<Box>();
  const [failed, setFailed] = useState(false);
  const width = Math.max(1, root?.width ?? shown.width);
  const height = Math.max(1, root?.height ?? shown.height);
  const scale = Math.min(1, most.width / width, most.height / height);
  const src = version ? releaseAddress(preview, slug, version) : buildAddress(preview, slug, build ?? "");
  return (
    <figure className={classes.version}>
      <span className={classes.mount}>
        <span className={classes.stand} style={{ width: width * scale, height: height * scale }}>
          {failed ? (
            "does not show this case"
          ) : (
            <span aria-hidden="true">
              <BuiltFrame
                key={src}
                src={src}
                title={`${shown.name} of ${version ?? "now"}`}
                cases={[{ ...shownCase(shown, theme, 0, 0), props: props ?? shown.props, paths: { root: [] } }]}
                width={Math.ceil(width)}
                height={Math.ceil(height)}
                scale={scale}
                onMeasured={(cases) => setRoot(cases[0]?.parts.find((p) => p.part === "root")?.box)}
                onFailed={() => setFailed(true)}
              />
            </span>
          )}
        </span>
      </span>
      <figcaption>{version ?? "now"}</figcaption>
    </figure>
  );
}
