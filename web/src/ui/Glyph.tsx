import type { Schema } from "../api/client";
import classes from "./Glyph.module.css";

export type Verdict = Schema["Fact"]["verdict"];
type Bar = "level" | "moved" | "gone" | "clash";

const bars: Record<string, [Bar, Bar, Bar]> = {
  agree: ["level", "level", "level"],
  "design moved": ["moved", "level", "level"],
  "contract moved": ["level", "moved", "level"],
  "code moved": ["level", "level", "moved"],
  "several moved": ["clash", "clash", "clash"],
  missing: ["gone", "level", "level"],
};

/**
 * Three bars for design, contract, built. Level when they agree; the one that
 * moved stands up; a missing one is a dotted outline; all different is hatched.
 */
export function Glyph({
  verdict,
  measured = true,
  drawn = true,
  size = 14,
}: {
  verdict: string;
  measured?: boolean;
  drawn?: boolean;
  size?: number;
}) {
  const shown: [Bar, Bar, Bar] = [...(bars[verdict] ?? bars.missing)!];
  if (!measured && shown[2] === "level") shown[2] = "gone";
  if (!drawn && shown[0] === "level") shown[0] = "gone";
  return (
    <svg className={classes.glyph} width={size} height={size} viewBox="0 0 14 14" role="img" aria-label={verdict} data-verdict={verdict}>
      {shown.map((bar, i) => {
        const height = bar === "moved" ? 13 : bar === "clash" ? [6, 13, 9][i]! : 6;
        return <rect key={i} className={classes[bar]} x={0.5 + i * 5} y={13.5 - height} width={3} height={height} />;
      })}
      {shown[0] === "clash" && <path className={classes.hatch} d="M0.5 12l3-3M5.5 11l3-3M5.5 7l3-3M10.5 11l3-3" />}
    </svg>
  );
}
