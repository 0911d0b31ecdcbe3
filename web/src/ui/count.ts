/** A number and its noun, which agrees with it: "1 value", "2 values". */
export function count(n: number, one: string, many = `${one}s`): string {
  return `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
}

/** What is found of facts: "22 facts agree", "1 fact agrees", "3 of 22 facts differ". */
export function agreement(differing: number, facts: number): string {
  if (differing === 0) return `${count(facts, "fact")} ${facts === 1 ? "agrees" : "agree"}`;
  return `${differing.toLocaleString("en")} of ${count(facts, "fact")} ${differing === 1 ? "differs" : "differ"}`;
}
