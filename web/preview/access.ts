import { computeAccessibleName, getRole } from "dom-accessibility-api";

import type { Access } from "./messages";

// Elements in which a header or footer is none of the page's (HTML-AAM 1.0, header and footer).
const sections = "article, aside, main, nav, section";

// Roles that the library knows nothing of, or tells whatever stands around (HTML-AAM 1.0, element roles).
const own: Record<string, (element: Element) => string> = {
  address: () => "group",
  hgroup: () => "group",
  legend: () => "",
  summary: () => "",
  header: (e) => (e.parentElement?.closest(sections) ? "" : "banner"),
  footer: (e) => (e.parentElement?.closest(sections) ? "" : "contentinfo"),
  section: (e) => (computeAccessibleName(e) ? "region" : ""),
};

/** What an element is in the accessibility tree; a role of nothing for one that is hidden from it. */
export function access(element: Element): Access {
  if (element.closest("[aria-hidden=true], [hidden]")) return { role: "" };
  const told = element.hasAttribute("role") ? undefined : own[element.localName];
  const role = told ? told(element) : (getRole(element) ?? "");
  if (role === "" || role === "presentation" || role === "none") return { role: "" };
  const out: Access = { role, name: computeAccessibleName(element) };
  if (role === "heading") out.level = Number(element.ariaLevel ?? /^h([1-6])$/.exec(element.localName)?.[1] ?? 2);
  return out;
}
