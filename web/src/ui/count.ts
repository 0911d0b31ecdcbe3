/** A number and its noun, which agrees with it: "1 value", "2 values". */
export function count(n: number, one: string, many = `${one}s`): string {
  return `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
}
