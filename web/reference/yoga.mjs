// Flex layout by yoga-layout, for tests of Cobrik's own. Standard input:
// {"task", "trees", …}; standard output: JSON. Trees are layout nodes that use
// px, percentages and the properties below.
import { readFileSync } from "node:fs";
import Yoga, { Align, BoxSizing, Direction, Edge, FlexDirection, Gutter, Justify, Wrap } from "yoga-layout";

const config = Yoga.Config.create();
config.setUseWebDefaults(true);
config.setPointScaleFactor(0); // no rounding to whole px

const align = { stretch: Align.Stretch, start: Align.FlexStart, end: Align.FlexEnd, center: Align.Center };
const justify = {
  "flex-start": Justify.FlexStart, "flex-end": Justify.FlexEnd, center: Justify.Center,
  "space-between": Justify.SpaceBetween,
};
const direction = { row: FlexDirection.Row, column: FlexDirection.Column, "row-reverse": FlexDirection.RowReverse, "column-reverse": FlexDirection.ColumnReverse };
const value = (text) => (text.endsWith("%") ? text : parseFloat(text));

const set = {
  display: () => {},
  "box-sizing": (n, v) => n.setBoxSizing(v === "border-box" ? BoxSizing.BorderBox : BoxSizing.ContentBox),
  width: (n, v) => n.setWidth(value(v)),
  height: (n, v) => n.setHeight(value(v)),
  "min-width": (n, v) => n.setMinWidth(value(v)),
  "min-height": (n, v) => n.setMinHeight(value(v)),
  "max-width": (n, v) => n.setMaxWidth(value(v)),
  "flex-direction": (n, v) => n.setFlexDirection(direction[v]),
  "flex-wrap": (n, v) => n.setFlexWrap(v === "wrap" ? Wrap.Wrap : Wrap.NoWrap),
  "flex-grow": (n, v) => n.setFlexGrow(parseFloat(v)),
  "flex-shrink": (n, v) => n.setFlexShrink(parseFloat(v)),
  "flex-basis": (n, v) => n.setFlexBasis(value(v)),
  padding: (n, v) => n.setPadding(Edge.All, value(v)),
  margin: (n, v) => n.setMargin(Edge.All, value(v)),
  gap: (n, v) => n.setGap(Gutter.All, value(v)),
  "justify-content": (n, v) => n.setJustifyContent(justify[v]),
  "align-items": (n, v) => n.setAlignItems(align[v]),
  "align-self": (n, v) => n.setAlignSelf(align[v]),
};

function build(node) {
  const out = Yoga.Node.create(config);
  for (const [property, v] of Object.entries(node.style ?? {})) set[property](out, v);
  (node.children ?? []).forEach((c, i) => out.insertChild(build(c), i));
  return out;
}

function boxes(node, x, y, out) {
  const left = x + node.getComputedLeft(), top = y + node.getComputedTop();
  out.push({ X: left, Y: top, Width: node.getComputedWidth(), Height: node.getComputedHeight() });
  for (let i = 0; i < node.getChildCount(); i++) boxes(node.getChild(i), left, top, out);
  return out;
}

const tasks = {
  // The boxes of each tree's nodes, parents first.
  solve: ({ trees, width }) => trees.map((t) => {
    const root = build(t);
    root.calculateLayout(width, undefined, Direction.LTR);
    const out = boxes(root, 0, 0, []);
    root.freeRecursive();
    return out;
  }),
  // Nanoseconds one layout of each tree takes. Its width changes every time, so
  // that nothing is remembered.
  time: ({ trees, runs }) => trees.map((t) => {
    const root = build(t);
    const lay = (i) => { root.setWidth(800 + (i % 97)); root.calculateLayout(undefined, undefined, Direction.LTR); };
    for (let i = 0; i < 20; i++) lay(i);
    const from = process.hrtime.bigint();
    for (let i = 0; i < runs; i++) lay(i);
    const took = Number(process.hrtime.bigint() - from) / runs;
    root.freeRecursive();
    return took;
  }),
};

const task = JSON.parse(readFileSync(0, "utf8"));
process.stdout.write(JSON.stringify(tasks[task.task](task)));
