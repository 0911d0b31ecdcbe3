// What ECMAScript makes of expressions over n, word and on, for core/behaviour's tests; null for what is no finite number, text or flag.
const { cases } = JSON.parse(await new Response(process.stdin).text());
const { min, max, round, floor, abs } = Math;
const run = new Function("text", "n", "word", "on", "min", "max", "round", "floor", "abs", "return eval(text)");
const out = cases.map(({ text, n, word, on }) => {
  const v = run(text, n, word, on, min, max, round, floor, abs);
  return typeof v === "number" && !Number.isFinite(v) ? null : v;
});
process.stdout.write(JSON.stringify(out));
