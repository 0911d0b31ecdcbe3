import { useElementSize } from "@mantine/hooks";

import type { Schema } from "../api/client";
import { KindMark } from "../ui/KindMark";
import { Picture } from "../ui/Picture";
import classes from "./LayoutPicture.module.css";

interface Props {
  view: Schema["LayoutView"];
  label: string;
  part: string | undefined;
  onPart: (part: string) => void;
  /** A strip was pointed out: what of which container it is made by. */
  onStrip?: (strip: Schema["Strip"], at: HTMLElement) => void;
}

const room = 20;

/**
 * The design's picture with the containers on it: outlined by kind, gaps and
 * paddings as measured strips.
 */
export function LayoutPicture({ view, label, part, onPart, onStrip }: Props) {
  const { ref, width: stage, height: high } = useElementSize();
  const root = view.parts[0]?.box ?? { x: 0, y: 0, width: view.size.width, height: view.size.height };
  const width = Math.max(view.size.width, root.width);
  const height = Math.max(view.size.height, root.height);
  const fit = Math.min((stage - 2 * room) / width, (high - 2 * room) / height);
  const scale = fit >= 1 ? Math.min(6, Math.floor(fit * 2) / 2) : Math.max(0.05, fit);
  const place = (b: { x: number; y: number; width: number; height: number }) => ({
    left: b.x * scale,
    top: b.y * scale,
    width: b.width * scale,
    height: b.height * scale,
  });
  const chosen = view.parts.find((p) => p.id === part);
  return (
    <div className={classes.stage} ref={ref}>
      {stage > 0 && (
        <div className={classes.sheet} style={{ width: width * scale, height: height * scale }}>
          <Picture svg={view.picture} label={label} width={view.size.width} height={view.size.height} scale={scale} />
          <div className={classes.over}>
            {view.parts.map((p) => (
              <div
                key={p.id}
                className={classes.box}
                data-kind={p.kind === "leaf" ? undefined : p.kind}
                data-chosen={p.id === part || undefined}
                style={place(p.box)}
                onClick={() => onPart(p.id)}
                data-part={p.id}
              />
            ))}
            {view.strips.map((s) => (
              <Strip
                key={`${s.part} ${s.side} ${s.rect.x} ${s.rect.y}`}
                strip={s}
                name={view.parts.find((p) => p.id === s.part)?.name ?? s.part}
                scale={scale}
                lit={s.part === part}
                style={place(s.rect)}
                onStrip={onStrip}
                onPart={onPart}
              />
            ))}
            {chosen && chosen.kind !== "leaf" && (
              <span className={classes.name} style={{ left: chosen.box.x * scale, top: chosen.box.y * scale }}>
                <KindMark kind={chosen.kind ?? "leaf"} size={10} /> {chosen.name}
              </span>
            )}
          </div>
        </div>
      )}
    </div>
  );
}

function Strip({
  strip,
  name,
  scale,
  lit,
  style,
  onStrip,
  onPart,
}: {
  strip: Schema["Strip"];
  /** The container's. */
  name: string;
  scale: number;
  lit: boolean;
  style: React.CSSProperties;
  onStrip?: Props["onStrip"];
  onPart: Props["onPart"];
}) {
  const size = Math.round(strip.size * 100) / 100;
  const thin = Math.abs(strip.size) * scale < 13;
  return (
    <div
      className={classes.strip}
      data-kind={strip.kind}
      data-lit={lit || undefined}
      style={style}
      title={`${name}: ${strip.kind} ${strip.side}, ${size} px`}
      onClick={(e) => (lit && onStrip ? onStrip(strip, e.currentTarget) : onPart(strip.part))}
    >
      {lit && (
        <span className={classes.number} data-thin={thin || undefined}>
          {size}
        </span>
      )}
    </div>
  );
}
