/** What a container does with its children, as a small drawing. */
const shapes: Record<string, string> = {
  stack: "M1 1h10v2.6H1zM1 4.7h10v2.6H1zM1 8.4h10V11H1z",
  row: "M1 1h2.6v10H1zM4.7 1h2.6v10H4.7zM8.4 1H11v10H8.4z",
  "wrapping row": "M1 1h4v4H1zM6.5 1h4.5v4H6.5zM1 7h6.5v4H1z",
  split: "M1 1h3v10H1zM5.5 1H11v10H5.5z",
  grid: "M1 1h4.2v4.2H1zM6.8 1H11v4.2H6.8zM1 6.8h4.2V11H1zM6.8 6.8H11V11H6.8z",
  overlay: "M1 4h7v7H1zM5 1h6v6H9V3H5z",
};

export function KindMark({ kind, size = 12 }: { kind: string; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" style={{ flex: "none" }}>
      <path d={shapes[kind] ?? "M2 2h8v8H2zM3.2 3.2v5.6h5.6V3.2z"} fill="currentColor" fillRule="evenodd" />
    </svg>
  );
}
