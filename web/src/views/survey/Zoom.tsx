import classes from "./Stage.module.css";

/** The keys of a sheet, for the pointer. */
export function Zoom({ scale, smaller, reset, larger }: { scale: number; smaller: () => void; reset: () => void; larger: () => void }) {
  return (
    <div className={classes.zoom} onPointerDown={(e) => e.stopPropagation()} onPointerUp={(e) => e.stopPropagation()}>
      <button type="button" aria-label="Smaller" onClick={smaller}>
        −
      </button>
      <button type="button" aria-label={`${Math.round(scale * 100)} %: fit the page`} onClick={reset}>
        {Math.round(scale * 100)} %
      </button>
      <button type="button" aria-label="Larger" onClick={larger}>
        +
      </button>
    </div>
  );
}
