import { createElement, Fragment, type ReactNode } from "react";

interface Run {
  text: string;
  strong?: boolean;
  emphasis?: boolean;
  code?: boolean;
  link?: string;
}

interface Block {
  kind?: "paragraph" | "heading" | "item";
  level?: number;
  runs: Run[];
}

/** Props as a use of the component gives them: rich text, {"rich": blocks}, and {"sample": words} are what React renders. */
export function given(props: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(props).map(([name, value]) => [name, valueOf(value)]));
}

function valueOf(value: unknown): unknown {
  if (Array.isArray(value)) return value.map((item) => given(item as Record<string, unknown>));
  if (typeof value === "object" && value !== null && "rich" in value) return rich(value.rich as Block[]);
  if (typeof value === "object" && value !== null && "sample" in value) return <Sample words={value.sample as string[]} />;
  return value;
}

/** Boxes that stand for what a use puts into a slot. */
function Sample({ words }: { words: string[] }) {
  return words.map((word) => (
    <div key={word} className="sample">
      {word}
    </div>
  ));
}

function rich(blocks: Block[]): ReactNode {
  const first = blocks[0];
  if (!first?.kind) return <Runs runs={first?.runs ?? []} />;
  const out: ReactNode[] = [];
  for (let i = 0; i < blocks.length; i++) {
    const block = blocks[i]!;
    if (block.kind !== "item") {
      out.push(createElement(block.kind === "heading" ? `h${block.level}` : "p", { key: i }, <Runs runs={block.runs} />));
      continue;
    }
    const items = [];
    for (; blocks[i]?.kind === "item"; i++) items.push(blocks[i]!);
    out.push(
      <ul key={i}>
        {items.map((item, k) => (
          <li key={k}>
            <Runs runs={item.runs} />
          </li>
        ))}
      </ul>,
    );
    i--;
  }
  return out;
}

function Runs({ runs }: { runs: Run[] }) {
  return runs.map((run, i) => {
    let text: ReactNode = run.text;
    if (run.code) text = <code>{text}</code>;
    if (run.emphasis) text = <em>{text}</em>;
    if (run.strong) text = <strong>{text}</strong>;
    if (run.link) text = <a href={run.link}>{text}</a>;
    return <Fragment key={i}>{text}</Fragment>;
  });
}
