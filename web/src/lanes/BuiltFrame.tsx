import { useEffect, useEffectEvent, useRef, useState } from "react";

import type { Against, Compared, Failed, FromFrame, MeasuredCase, Show, ShownCase } from "../../preview/messages";
import classes from "./lanes.module.css";

interface Props {
  /** Address of the build on the preview origin. */
  src: string;
  title: string;
  cases: ShownCase[];
  measure?: string[];
  /** A drawing that the first case is laid over. */
  against?: Against;
  width: number;
  height: number;
  scale?: number;
  onMeasured?: (cases: MeasuredCase[]) => void;
  onCompared?: (compared: Compared) => void;
  onFailed?: (failure: Failed) => void;
}

const nothing: string[] = [];

/**
 * The emitted code, compiled and running, in a sandbox of its own origin. It is
 * told what to show by messages and answers with what it measured.
 */
export function BuiltFrame({
  src,
  title,
  cases,
  measure = nothing,
  against,
  width,
  height,
  scale = 1,
  onMeasured,
  onCompared,
  onFailed,
}: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [ready, setReady] = useState("");
  const show = JSON.stringify({ kind: "show", cases, measure, against } satisfies Show);

  const hear = useEffectEvent((event: MessageEvent<FromFrame>) => {
    if (event.source !== frame.current?.contentWindow) return;
    const said = event.data;
    if (said.kind === "ready") setReady(src);
    else if (said.kind === "measured") onMeasured?.(said.cases);
    else if (said.kind === "compared") onCompared?.(said);
    else if (said.kind === "failed") onFailed?.(said);
  });
  useEffect(() => {
    const listen = (event: MessageEvent<FromFrame>) => hear(event);
    window.addEventListener("message", listen);
    return () => window.removeEventListener("message", listen);
  }, []);

  useEffect(() => {
    // A sandboxed frame has no origin that could be named; this holds nothing secret.
    if (ready === src) frame.current?.contentWindow?.postMessage(JSON.parse(show), "*");
  }, [ready, src, show]);

  return (
    <iframe
      ref={frame}
      key={src}
      className={classes.frame}
      src={src}
      title={title}
      sandbox="allow-scripts"
      tabIndex={-1}
      style={{ width, height, transform: scale === 1 ? undefined : `scale(${scale})` }}
    />
  );
}
