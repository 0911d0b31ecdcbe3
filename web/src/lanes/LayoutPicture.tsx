import { useElementSize } from "@mantine/hooks";

import type { Schema } from "../api/client";
import { type Place, placed } from "../marks/geometry";
import { Dimensions, fitted, Measured, Mortar, Numbers, Sheet, Size, Ticks } from "../marks/Marks";
import { Picture } from "../ui/Picture";
import classes from "./LayoutPicture.module.css";

interface Props {
  view: Schema["LayoutView"];
  label: string;
  part: string | undefined;
  onPart: (part: string) => void;
  /** The chosen container's room was pointed out: what of it that is made by. */
  onStrip?: (strip: Schema["Strip"]) => void;
}

/** The design's picture as a working drawing: numbered parts, the room in and between them as mortar. */
export function LayoutPicture({ view, label, part, onPart, onStrip }: Props) {
  const { ref, width: across, height: down } = useElementSize();
  const stage = { width: across, height: down };
  const root = view.parts[0]?.box ?? { x: 0, y: 0, width: view.size.width, height: view.size.height };
  const place = fitted(Math.max(view.size.width, root.width), Math.max(view.size.height, root.height), stage);
  const chosen = view.parts.find((p) => p.id === part);
  const named = (id: string) => view.parts.find((p) => p.id === id)?.name ?? id;
  const rooms = view.strips.map((s) => ({
    key: stripKey(s),
    kind: s.kind,
    box: placed(s.rect, place),
    lit: s.part === part,
    title: `${named(s.part)}: ${s.kind} ${s.side}, ${Math.round(s.size * 100) / 100} px`,
  }));
  return (
    <div className={classes.stage} ref={ref}>
      {across > 0 && (
        <>
          <div className={classes.at} style={{ left: place.x, top: place.y }}>
            <Picture svg={view.picture} label={label} width={view.size.width} height={view.size.height} scale={place.scale} />
          </div>
          {view.parts.map((p) => {
            const { x, y, width, height } = placed(p.box, place);
            return (
              <div
                key={p.id}
                className={classes.box}
                style={{ left: x, top: y, width, height }}
                onClick={() => onPart(p.id)}
                data-part={p.id}
              />
            );
          })}
          <Sheet {...stage}>
            <Mortar
              rooms={rooms}
              onPick={(key) => {
                const strip = view.strips.find((s) => stripKey(s) === key);
                if (strip) onStrip?.(strip);
              }}
            />
            <Ticks box={placed(root, place)} chosen={chosen?.id === view.parts[0]?.id} />
            <Numbers
              parts={view.parts.slice(1).map((p, i) => ({ key: p.id, number: i + 1, box: placed(p.box, place) }))}
              root={placed(root, place)}
              chosen={part}
              sheet={stage}
            />
            {chosen && chosen !== view.parts[0] ? (
              <>
                <Ticks box={placed(chosen.box, place)} chosen />
                <Measured box={chosen.box} root={root} place={place} />
              </>
            ) : (
              <Size root={root} place={place} />
            )}
            {view.strips
              .filter((s) => s.part === part)
              .map((s) => (
                <Room key={stripKey(s)} strip={s} place={place} />
              ))}
          </Sheet>
        </>
      )}
    </div>
  );
}

const stripKey = (s: Schema["Strip"]) => `${s.part} ${s.side} ${s.rect.x} ${s.rect.y}`;

/** How much room there is, on a drafting line through it. */
function Room({ strip, place }: { strip: Schema["Strip"]; place: Place }) {
  const { x, y, width, height } = placed(strip.rect, place);
  if (strip.size === 0) return null;
  const across = strip.side === "left" || strip.side === "right" || strip.side === "across";
  return across ? (
    <Dimensions spans={[{ from: x, to: x + width, px: strip.size }]} at={y + height / 2} />
  ) : (
    <Dimensions spans={[{ from: y, to: y + height, px: strip.size }]} at={x + width * 0.7} down />
  );
}
