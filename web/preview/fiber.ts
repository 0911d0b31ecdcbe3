interface Fiber {
  type: unknown;
  memoizedProps: Record<string, unknown> | null;
  return: Fiber | null;
}

/**
 * The texts, numbers and flags that an element's component was given, by prop: of the one that stands right
 * below `around` or an element. React keeps them on its own tree, which it hangs on the element; the preview
 * brings the React that does.
 */
export function givenTo(element: Element, around: unknown): Record<string, string> | undefined {
  const key = Object.keys(element).find((k) => k.startsWith("__reactFiber$"));
  let props: Fiber["memoizedProps"] = null;
  for (
    let at = key ? (element as unknown as Record<string, Fiber>)[key]!.return : null;
    at && typeof at.type !== "string" && at.type !== around;
    at = at.return
  ) {
    if (typeof at.type === "function") props = at.memoizedProps;
  }
  if (!props) return undefined;
  const texts = Object.entries(props).filter(([, v]) => ["string", "number", "boolean"].includes(typeof v));
  return Object.fromEntries(texts.map(([name, v]) => [name, String(v)]));
}
