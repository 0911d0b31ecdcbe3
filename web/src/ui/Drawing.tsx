import type { Schema } from "../api/client";

/** A small drawing in the colour of the text around. */
export function Drawing({ of, size }: { of: Schema["Vector"]; size: number }) {
  return (
    <svg width={size} height={size} viewBox={of.viewBox?.join(" ")} fill="currentColor" aria-hidden="true">
      {of.paths?.map((p, i) => (
        <path
          key={i}
          d={p.d}
          fill={p.fill}
          fillRule={p.rule as "evenodd" | undefined}
          stroke={p.stroke?.color}
          strokeWidth={p.stroke?.width}
          strokeLinecap={p.stroke?.cap as "round" | undefined}
          strokeLinejoin={p.stroke?.join as "round" | undefined}
          strokeMiterlimit={p.stroke?.miter}
          strokeDasharray={p.stroke?.dash}
          strokeDashoffset={p.stroke?.dashOffset}
        />
      ))}
    </svg>
  );
}
