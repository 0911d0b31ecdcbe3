import { useElementSize } from "@mantine/hooks";
import { useCallback, useEffect, useEffectEvent, useMemo, useState } from "react";

import type { Box, Failed, MeasuredCase, ShownCase } from "../../../preview/messages";
import { type Schema, useTrialDrawn } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { Sheet, Ticks } from "../../marks/Marks";
import { across, type Tops, topsOf } from "./scrolling";
import classes from "./Trial.module.css";

export interface Look {
  theme?: Schema["LookTheme"];
  direction?: string;
  text?: number;
}

interface Props {
  name: string;
  /** The address of the page's build, and what is rendered in it. */
  src: string;
  props: Record<string, unknown>;
  pieces: readonly Schema["TrialPiece"][];
  widths: readonly number[];
  drawn: readonly Schema["TrialDrawing"][];
  /** Slug of the page whose drawings stand beside it; none without them. */
  beside?: string;
  look: Look;
  /** Rows whose pieces are marked, from 0; or every piece. */
  marked?: { from: number; to: number } | "each";
  acts: boolean;
  /** The piece that is brought into view where it is not. */
  reveal?: string;
  /** What is said of a width, under its head. */
  note: (width: number) => React.ReactNode;
  onMeasured: (width: number, src: string, cases: MeasuredCase[]) => void;
  onPoint: (line: number) => void;
  onFailed: (failure: Failed) => void;
}

const gap = 14;

/** A page at several widths side by side, each a frame of that width; all are scrolled to the same place of the page. */
export function Frames(p: Props) {
  const { ref, width: room, height } = useElementSize();
  const [scrolled, setScrolled] = useState<{ key: string; top: number }>({ key: "", top: 0 });
  const [places, setPlaces] = useState<Record<string, Tops>>({});
  const put = useCallback((key: string, tops: Tops) => setPlaces((now) => ({ ...now, [key]: tops })), []);
  const lanes = p.widths.flatMap((width) => {
    const drawing = p.drawn.find((d) => d.width === width);
    return [
      ...(p.beside && drawing ? [{ key: `drawn ${width}`, width, drawing }] : []),
      { key: `built ${width}`, width, drawing: undefined },
    ];
  });
  const sum = lanes.reduce((n, l) => n + l.width, 0);
  const scale = Math.min(1, Math.max(0.05, (room - gap * (lanes.length - 1)) / Math.max(1, sum)));
  const head = 24;
  const tall = Math.max(120, Math.floor((height - head) / scale));
  const topOf = (key: string) => {
    if (scrolled.key === key) return scrolled.top;
    const from = places[scrolled.key];
    const to = places[key];
    return from && to ? across(scrolled.top, from, to) : scrolled.top;
  };
  const scroll = (key: string, top: number) => setScrolled({ key, top: Math.max(0, Math.min(top, places[key]?.most ?? top)) });
  // What is to be seen is brought into view where there is most to scroll; the others follow.
  const longest = lanes.reduce(
    (most, l) => (!l.drawing && (places[l.key]?.most ?? -1) > (places[most]?.most ?? -1) ? l.key : most),
    lanes.find((l) => !l.drawing)?.key ?? "",
  );
  const piece = p.reveal === undefined ? undefined : places[longest]?.tops[p.reveal];
  const [revealed, setRevealed] = useState("");
  const wanted = piece === undefined ? revealed : `${longest} ${p.reveal} ${piece}`;
  if (piece !== undefined && wanted !== revealed) {
    setRevealed(wanted); // once: who scrolls on is let go on
    if (piece < topOf(longest) || piece > topOf(longest) + tall - 40) scroll(longest, piece - tall / 4);
  }
  return (
    <div ref={ref} className={classes.frames}>
      {room > 0 &&
        lanes.map((l) => (
          <section
            key={l.key}
            className={classes.lane}
            style={{ width: l.width * scale }}
            aria-label={l.drawing ? `Drawn, ${l.width} px` : `${l.width} px`}
          >
            <header style={{ height: head }}>
              <span className="mono">{l.width}</span> {l.drawing ? <span className="quiet">drawn</span> : p.note(l.width)}
            </header>
            <div className={classes.stage} style={{ height: tall * scale }}>
              {l.drawing ? (
                <Drawing
                  slug={p.beside!}
                  drawing={l.drawing}
                  scale={scale}
                  top={topOf(l.key)}
                  onScroll={(by) => scroll(l.key, topOf(l.key) + by)}
                  onShown={(most) => put(l.key, { tops: {}, most: Math.max(0, most - tall) })}
                />
              ) : (
                <PageFrame
                  {...p}
                  width={l.width}
                  height={tall}
                  scale={scale}
                  top={topOf(l.key)}
                  onTops={(tops) => put(l.key, tops)}
                  onScrolled={(top, most) => {
                    put(l.key, { tops: places[l.key]?.tops ?? {}, most });
                    setScrolled({ key: l.key, top });
                  }}
                />
              )}
            </div>
          </section>
        ))}
    </div>
  );
}

function Drawing({
  slug,
  drawing,
  scale,
  top,
  onScroll,
  onShown,
}: {
  slug: string;
  drawing: Schema["TrialDrawing"];
  scale: number;
  top: number;
  onScroll: (by: number) => void;
  onShown: (height: number) => void;
}) {
  const { data } = useTrialDrawn(slug, drawing.page);
  const html = useMemo(() => ({ __html: data?.picture ?? "" }), [data]);
  const tall = data?.height;
  const tell = useEffectEvent(onShown);
  useEffect(() => {
    if (tall !== undefined) tell(tall);
  }, [tall]);
  return (
    <div
      className={classes.drawing}
      style={{ width: drawing.width, height: drawing.height, transform: `scale(${scale}) translateY(${-top}px)` }}
      onWheel={(e) => onScroll(e.deltaY / scale)}
      role="img"
      aria-label={`${drawing.name} as drawn`}
      dangerouslySetInnerHTML={html}
    />
  );
}

interface FrameProps extends Props {
  width: number;
  height: number;
  scale: number;
  top: number;
  onTops: (tops: Tops) => void;
  onScrolled: (top: number, most: number) => void;
}

function PageFrame({
  drawn,
  name,
  src,
  props,
  pieces,
  width,
  height,
  scale,
  top,
  look,
  marked,
  acts,
  onMeasured,
  onPoint,
  onFailed,
  onTops,
  onScrolled,
}: FrameProps) {
  const [boxes, setBoxes] = useState<Record<string, Box>>({});
  const paths = useMemo(() => Object.fromEntries(pieces.map((p) => [p.key, p.path])), [pieces]);
  const cases = useMemo<ShownCase[]>(
    () => [
      {
        key: "page",
        props,
        paths,
        x: 0,
        y: 0,
        width,
        block: true,
        live: true,
        theme: look.theme?.name,
        attributes: { ...look.theme?.attributes, ...(look.direction ? { dir: look.direction } : {}) },
      },
    ],
    [props, paths, width, look.theme, look.direction],
  );
  const lines = new Map(pieces.map((p) => [p.key, p.line]));
  const marks = marked ? markedBoxes(pieces, boxes, marked) : [];
  return (
    <>
      <BuiltFrame
        src={src}
        title={`${name} at ${width} px`}
        cases={cases}
        text={look.text}
        width={width}
        height={height}
        scale={scale}
        point={!acts}
        page={{ top, seen: drawn.some((d) => d.width === width) }}
        onMeasured={(measured) => {
          const parts = measured[0]?.parts ?? [];
          setBoxes(Object.fromEntries(parts.map((part) => [part.part, part.box])));
          onTops(topsOf(parts, height));
          onMeasured(width, src, measured);
        }}
        onPointed={(pointed) => {
          const line = lines.get(pointed.parts[0] ?? "");
          if (line) onPoint(line - 1);
        }}
        onScrolled={(s) => onScrolled(s.top, s.most)}
        onFailed={onFailed}
      />
      <Sheet width={width * scale} height={height * scale}>
        {marks.map((box, i) => (
          <Ticks
            key={i}
            chosen
            haloed
            box={{ x: box.x * scale, y: (box.y - top) * scale, width: box.width * scale, height: box.height * scale }}
          />
        ))}
      </Sheet>
    </>
  );
}

/** What is marked of a row: each place it is at, where it is something to look at; else all that stands in it, as one. */
function markedBoxes(
  pieces: readonly Schema["TrialPiece"][],
  boxes: Record<string, Box>,
  rows: { from: number; to: number } | "each",
): Box[] {
  const there = (list: readonly Schema["TrialPiece"][]) => list.flatMap((p) => (boxes[p.key]?.width ? [boxes[p.key]!] : []));
  if (rows === "each") return there(pieces).slice(0, mostMarked);
  const own = there(pieces.filter((p) => p.line - 1 === rows.from));
  if (own.length > 0) return own.slice(0, mostMarked);
  const inside = there(pieces.filter((p) => p.line - 1 >= rows.from && p.line - 1 <= rows.to));
  if (inside.length === 0) return [];
  const x = Math.min(...inside.map((b) => b.x));
  const y = Math.min(...inside.map((b) => b.y));
  const right = Math.max(...inside.map((b) => b.x + b.width));
  const bottom = Math.max(...inside.map((b) => b.y + b.height));
  return [{ x, y, width: right - x, height: bottom - y }];
}

/** More marks than these tell nothing. */
const mostMarked = 60;
