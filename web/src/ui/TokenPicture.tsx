import classes from "./TokenPicture.module.css";
import { Swatch } from "./Value";

const number = /-?\d*\.?\d+/g;

/** A token's value as a picture: what its type is for, at a glance. */
export function TokenPicture({ type, value, large }: { type: string; value: string; large?: boolean }) {
  const size = large ? classes.large : "";
  switch (value === "" ? "" : type) {
    case "color":
      return <Swatch color={value} large={large} />;
    case "dimension":
      return <Bar px={Number.parseFloat(value) * (value.endsWith("rem") ? 16 : 1)} most={large ? 240 : 40} />;
    case "duration":
      return <Bar px={(Number.parseFloat(value) * (value.endsWith("ms") ? 1 : 1000)) / 12} most={large ? 240 : 40} dotted />;
    case "fontFamily":
      return <Sample style={{ fontFamily: value }}>Ag</Sample>;
    case "fontWeight":
      return <Sample style={{ fontWeight: Number(value) }}>Ag</Sample>;
    case "typography":
      return large ? (
        <span className={classes.line} style={{ font: value }} aria-hidden="true">
          Sown in April, ripe in June
        </span>
      ) : (
        <span
          className={classes.sample}
          style={{ font: value, fontSize: `min(18px, ${/[\d.]+(px|rem)/.exec(value)?.[0] ?? "14px"})`, lineHeight: "20px" }}
          aria-hidden="true"
        >
          Ag
        </span>
      );
    case "cubicBezier":
    case "transition":
      return <Curve numbers={(/cubic-bezier\(([^)]*)\)/.exec(value)?.[1] ?? "0,0,1,1").match(number)?.map(Number) ?? []} large={large} />;
    case "shadow":
      return (
        <span className={`${classes.stage} ${size}`} aria-hidden="true">
          <span className={classes.card} style={{ boxShadow: value }} />
        </span>
      );
    case "gradient":
      return <span className={`${classes.box} ${size}`} style={{ backgroundImage: value.replace("(", "(90deg, ") }} aria-hidden="true" />;
    case "border":
      return <span className={`${classes.box} ${classes.onStage} ${size}`} style={{ border: value }} aria-hidden="true" />;
    case "strokeStyle":
      return <span className={`${classes.stroke} ${size}`} style={{ borderTopStyle: value as "solid" }} aria-hidden="true" />;
  }
  return null;
}

/** A length, drawn to scale; one that does not fit is broken off. */
function Bar({ px, most, dotted }: { px: number; most: number; dotted?: boolean }) {
  const width = Math.min(most, Math.max(px < 0 ? 2 : 0, Math.abs(px)));
  return (
    <span
      className={`${classes.bar} ${dotted ? classes.dotted : ""} ${Math.abs(px) > most ? classes.cut : ""} ${px < 0 ? classes.negative : ""}`}
      style={{ width }}
      aria-hidden="true"
    />
  );
}

function Sample({ style, children }: { style: React.CSSProperties; children: string }) {
  return (
    <span className={classes.sample} style={style} aria-hidden="true">
      {children}
    </span>
  );
}

/** An easing's progress over time, from 0 to 1 both ways, with room for what goes past. */
function Curve({ numbers, large }: { numbers: number[]; large?: boolean }) {
  const [x1 = 0, y1 = 0, x2 = 1, y2 = 1] = numbers;
  const side = large ? 64 : 20;
  return (
    <svg className={classes.curve} width={side} height={side} viewBox="-0.1 -0.3 1.2 1.6" aria-hidden="true">
      <path d="M0 1H1M0 0H1" className={classes.axis} />
      <path d={`M0 1C${x1} ${1 - y1} ${x2} ${1 - y2} 1 0`} />
    </svg>
  );
}
