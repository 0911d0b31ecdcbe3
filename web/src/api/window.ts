/** Tells this window from others: its own changes need not be told to it. */
export const ownWindow = globalThis.crypto?.randomUUID?.() ?? String(Math.random());
