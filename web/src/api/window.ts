/** Tells this window from others: its own changes need not be told to it. */
export const ownWindow = globalThis.crypto?.randomUUID?.() ?? String(Math.random());

/** Where this browser keeps what people call themselves. */
export const nameKey = "cobrik-name";

/** What one calls oneself; empty for nothing. */
export function ownName(): string {
  try {
    const said: unknown = JSON.parse(localStorage.getItem(nameKey) ?? '""');
    return typeof said === "string" ? said.trim() : "";
  } catch {
    return "";
  }
}
