// An outline as lines of text: what is done to a row is done to all that stands in it.

export interface Edited {
  lines: string[];
  /** The row that is chosen afterwards, from 0. */
  at: number;
}

const step = "  ";

export const linesOf = (outline: string) => outline.replace(/\n$/, "").split("\n");
export const textOf = (lines: readonly string[]) => `${lines.join("\n")}\n`;

/** How deep a row stands. */
export const depthOf = (line: string) => Math.floor((line.length - line.trimStart().length) / step.length);

/** The row behind the last that stands in a row. */
export function endOf(lines: readonly string[], at: number): number {
  const depth = depthOf(lines[at] ?? "");
  let end = at + 1;
  while (end < lines.length && (depthOf(lines[end]!) > depth || lines[end]!.trim() === "")) end++;
  return end;
}

/** The row that a row stands in; -1 for none. */
export function parentOf(lines: readonly string[], at: number): number {
  const depth = depthOf(lines[at] ?? "");
  for (let i = at - 1; i >= 0; i--) if (depthOf(lines[i]!) < depth) return i;
  return -1;
}

/** The row before that stands beside a row; -1 for none. */
function before(lines: readonly string[], at: number): number {
  const depth = depthOf(lines[at]!);
  for (let i = at - 1; i >= 0; i--) {
    if (depthOf(lines[i]!) < depth) return -1;
    if (depthOf(lines[i]!) === depth) return i;
  }
  return -1;
}

/** Moves a row over the one beside it. */
export function move(lines: readonly string[], at: number, by: 1 | -1): Edited {
  const same = { lines: [...lines], at };
  if (by < 0) {
    const over = before(lines, at);
    if (over < 0) return same;
    const end = endOf(lines, at);
    return { lines: [...lines.slice(0, over), ...lines.slice(at, end), ...lines.slice(over, at), ...lines.slice(end)], at: over };
  }
  const next = endOf(lines, at);
  if (next >= lines.length || depthOf(lines[next]!) !== depthOf(lines[at]!)) return same;
  const end = endOf(lines, next);
  return {
    lines: [...lines.slice(0, at), ...lines.slice(next, end), ...lines.slice(at, next), ...lines.slice(end)],
    at: at + end - next,
  };
}

/** Puts a row into the one above it, or out of the one around it. */
export function nest(lines: readonly string[], at: number, by: 1 | -1): Edited {
  const depth = depthOf(lines[at]!);
  const fits = by > 0 ? at > 0 && depth <= depthOf(lines[at - 1]!) : depth > 0;
  if (!fits) return { lines: [...lines], at };
  const end = endOf(lines, at);
  if (by > 0) return { lines: lines.map((l, i) => (i >= at && i < end ? step + l : l)), at };
  // What stands behind it in the same row would fall into it: it goes behind that.
  const around = parentOf(lines, at);
  const behind = endOf(lines, around);
  const own = lines.slice(at, end).map((l) => l.slice(step.length));
  const rest = [...lines.slice(0, at), ...lines.slice(end, behind)];
  return { lines: [...rest, ...own, ...lines.slice(behind)], at: rest.length };
}

/** An empty row below: in a row that holds others, as the first of them. */
export function insert(lines: readonly string[], at: number): Edited {
  const next = lines[at + 1];
  const depth = next !== undefined && depthOf(next) > depthOf(lines[at]!) ? depthOf(next) : depthOf(lines[at] ?? "");
  return { lines: [...lines.slice(0, at + 1), step.repeat(depth), ...lines.slice(at + 1)], at: at + 1 };
}

export function duplicate(lines: readonly string[], at: number): Edited {
  const end = endOf(lines, at);
  return { lines: [...lines.slice(0, end), ...lines.slice(at, end), ...lines.slice(end)], at: end };
}

/** Puts a row around another. */
export function wrap(lines: readonly string[], at: number, head = "stack"): Edited {
  const end = endOf(lines, at);
  const around = step.repeat(depthOf(lines[at]!)) + head;
  return { lines: [...lines.slice(0, at), around, ...lines.slice(at, end).map((l) => step + l), ...lines.slice(end)], at };
}

export function remove(lines: readonly string[], at: number): Edited {
  const left = [...lines.slice(0, at), ...lines.slice(endOf(lines, at))];
  return { lines: left.length > 0 ? left : [""], at: Math.max(0, Math.min(at, left.length - 1)) };
}

/** Puts another text in a row's place, its depth kept. */
export function retype(lines: readonly string[], at: number, text: string): string[] {
  return lines.map((l, i) => (i === at ? step.repeat(depthOf(l)) + text.trim() : l));
}

/** The rows, from 0, that stand in a row, itself among them. */
export function rowsIn(lines: readonly string[], at: number): { from: number; to: number } {
  return { from: at, to: endOf(lines, at) - 1 };
}

export interface Word {
  kind: "head" | "text" | "field" | "name" | "note" | "plain";
  text: string;
}

/** A row in words, to be set apart. */
export function wordsOf(line: string): Word[] {
  const body = line.trimStart();
  if (body.startsWith("--")) return [{ kind: "note", text: body }];
  const out: Word[] = [];
  const parts = /"(?:[^"\\]|\\.)*"?|\{[^}]*\}?|\s+|[^\s"{=]+=?|=/g;
  for (const [text] of body.matchAll(parts)) {
    if (out.length === 0) out.push({ kind: "head", text });
    else if (text.startsWith('"')) out.push({ kind: "text", text });
    else if (text.startsWith("{")) out.push({ kind: "field", text });
    else if (text.endsWith("=")) out.push({ kind: "name", text });
    else out.push({ kind: "plain", text });
  }
  return out;
}
