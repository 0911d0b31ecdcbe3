import { useEffect, useEffectEvent, useRef, useState } from "react";

import type {
  Against,
  Compared,
  Failed,
  FromFrame,
  Heard,
  Load,
  MeasuredCase,
  Painted,
  Pointed,
  Scroll,
  Scrolled,
  Show,
  ShownCase,
} from "../../preview/messages";
import { isStatic } from "../ui/static";
import classes from "./lanes.module.css";

interface Props {
  /** Address of the build on the preview origin. */
  src: string;
  /** Address of the build that will be asked for next, to be fetched already. */
  next?: string;
  title: string;
  cases: ShownCase[];
  measure?: string[];
  /** A drawing that the first case is laid over. */
  against?: Against;
  /** Percent of the size of text. */
  text?: number;
  /** A picture of it is wanted. */
  paint?: boolean;
  width: number;
  height: number;
  scale?: number;
  /** A press points at a part. */
  point?: boolean;
  /** It is a page, which scrolls in its frame; how far it is to be, px from its top, and whether its words are measured as they are seen. */
  page?: { top: number; seen: boolean };
  onHeard?: (heard: Heard) => void;
  onPointed?: (pointed: Pointed) => void;
  onScrolled?: (scrolled: Scrolled) => void;
  onMeasured?: (cases: MeasuredCase[]) => void;
  onCompared?: (compared: Compared) => void;
  onPainted?: (painted: Painted) => void;
  onFailed?: (failure: Failed) => void;
}

const nothing: string[] = [];

/**
 * The emitted code, compiled and running, in a sandbox of its own origin. It is
 * told what to show by messages and answers with what it measured.
 */
export function BuiltFrame({
  src,
  next,
  title,
  cases,
  measure = nothing,
  against,
  text,
  paint = false,
  width,
  height,
  scale = 1,
  point,
  page,
  onHeard,
  onPointed,
  onScrolled,
  onMeasured,
  onCompared,
  onPainted,
  onFailed,
}: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  // The page of the first build stays: others are loaded into it.
  const [first] = useState(src);
  const [alive, setAlive] = useState(false);
  const [ready, setReady] = useState("");
  const asked = useRef(src);
  const sent = useRef(""); // what it was told to show together with a build
  const show = JSON.stringify({
    kind: "show",
    cases,
    measure,
    against,
    text,
    point,
    page: page ? true : undefined,
    seen: page?.seen,
    paint: paint ? { width, height } : undefined,
  } satisfies Show);

  const hear = useEffectEvent((event: MessageEvent<FromFrame>) => {
    if (event.source !== frame.current?.contentWindow) return;
    const said = event.data;
    if (said.kind === "alive") setAlive(true);
    else if (said.kind === "ready") setReady(said.src ?? first);
    else if (said.kind === "failed") onFailed?.(said);
    else if (said.kind === "heard") onHeard?.(said);
    else if (said.kind === "pointed") onPointed?.(said);
    else if (said.kind === "scrolled") onScrolled?.(said);
    else if ((said.of ?? first) !== src)
      return; // of a build that is gone
    else if (said.kind === "measured") onMeasured?.(said.cases);
    else if (said.kind === "compared") onCompared?.(said);
    else if (said.kind === "painted") onPainted?.(said);
  });
  useEffect(() => {
    const listen = (event: MessageEvent<FromFrame>) => hear(event);
    window.addEventListener("message", listen);
    return () => window.removeEventListener("message", listen);
  }, []);

  useEffect(() => {
    if (!alive || asked.current === src) return;
    asked.current = src;
    sent.current = show;
    frame.current?.contentWindow?.postMessage({ kind: "load", src, show: JSON.parse(show) as Show } satisfies Load, "*");
  }, [alive, src, show]);

  useEffect(() => {
    if (alive && next !== undefined && next !== asked.current)
      frame.current?.contentWindow?.postMessage({ kind: "prepare", src: next } satisfies Load, "*");
  }, [alive, next]);

  useEffect(() => {
    // A sandboxed frame has no origin that could be named; this holds nothing secret.
    if (ready !== src) return;
    const told = sent.current === show;
    sent.current = "";
    if (!told) frame.current?.contentWindow?.postMessage(JSON.parse(show), "*");
  }, [ready, src, show]);

  const top = page?.top;
  useEffect(() => {
    if (top !== undefined && ready !== "") frame.current?.contentWindow?.postMessage({ kind: "scroll", top } satisfies Scroll, "*");
  }, [top, ready]);

  return (
    <iframe
      ref={frame}
      className={classes.frame}
      src={first}
      title={title}
      sandbox={isStatic ? undefined : "allow-scripts"}
      tabIndex={-1}
      style={{ width, height, transform: scale === 1 ? undefined : `scale(${scale})` }}
    />
  );
}
