import { NativeSelect } from "@mantine/core";
import { useState } from "react";

import { useBench, useProject } from "../../api/client";
import { buildAddress, codeAddress } from "../../lanes/address";
import { Running } from "../../lanes/Running";
import classes from "./Sync.module.css";

/** A case as the contract's code shows it, and as the repository's own does: both running, once they are looked at. */
export function CodePictures({ slug, hash, open }: { slug: string; hash: string; open: boolean }) {
  const [shown, setShown] = useState(open);
  return (
    <details className={classes.pictures} open={open} onToggle={(e) => setShown(e.currentTarget.open)}>
      <summary>Both, running</summary>
      {shown && <Pictures slug={slug} hash={hash} />}
    </details>
  );
}

function Pictures({ slug, hash }: { slug: string; hash: string }) {
  const bench = useBench(slug).data;
  const project = useProject().data;
  const [key, setKey] = useState<string>();
  const [why, setWhy] = useState("");
  if (!bench || !project) return null;
  const shown = bench.cases.find((k) => k.key === key) ?? bench.cases.find((k) => k.default) ?? bench.cases[0];
  if (!shown) return null;
  const theme = bench.themes[0];
  return (
    <div className={classes.both}>
      <NativeSelect
        size="xs"
        aria-label={`Case of ${bench.name}`}
        value={shown.key}
        onChange={(e) => setKey(e.currentTarget.value)}
        data={bench.cases.map((k) => ({ value: k.key, label: k.name }))}
      />
      <Running
        key={`contract ${shown.key}`}
        src={buildAddress(project.preview, slug, bench.build)}
        caption="contract"
        shown={shown}
        theme={theme}
      />
      <Running
        key={`code ${hash} ${shown.key}`}
        src={codeAddress(project.preview, slug, hash)}
        caption="repository"
        shown={shown}
        theme={theme}
        onFailed={setWhy}
      />
      {why && <p className="quiet">{why}</p>}
    </div>
  );
}
