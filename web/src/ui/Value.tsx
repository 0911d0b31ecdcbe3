import classes from "./Value.module.css";

const color = /^(#[0-9a-f]{3,8}|(color|rgb|hsl|hwb|lab|lch|oklab|oklch)\(.*\))$/i;
const length = /^(\d+(?:\.\d+)?)px$/;

/** A value in mono, with its picture: a swatch for a colour, a bar for a length; in brief, its expression alone. */
export function Value({ value, expression, plain, brief }: { value: string; expression?: string; plain?: boolean; brief?: boolean }) {
  const bar = length.exec(value);
  return (
    <span className={classes.value} title={expression ? `${expression} = ${value}` : value}>
      {color.test(value) && <Swatch color={value} />}
      {bar && !plain && <span className={classes.bar} style={{ width: Math.min(24, Math.max(1, Number(bar[1]))) }} aria-hidden="true" />}
      <span className={classes.text}>{expression ?? value}</span>
      {expression && expression !== value && !brief && <span className={classes.resolved}>{value}</span>}
    </span>
  );
}

/** A colour over a checkerboard. */
export function Swatch({ color: shown, large }: { color: string; large?: boolean }) {
  return (
    <span className={`${classes.swatch} ${large ? classes.large : ""}`} aria-hidden="true">
      <span style={{ background: shown }} />
    </span>
  );
}
