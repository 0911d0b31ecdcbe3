import { useLocalStorage } from "@mantine/hooks";
import { Spotlight, type SpotlightActionData, type SpotlightActionGroupData } from "@mantine/spotlight";
import { type KeyboardEvent, type ReactNode, useEffect, useReducer, useRef, useState } from "react";
import { useNavigate } from "react-router";

import { type Schema, useEntries, useFound } from "../api/client";
import { Drawn } from "../ui/Drawn";
import { TokenPicture } from "../ui/TokenPicture";
import { type Command, commandsOfViews } from "./commands";
import classes from "./Frame.module.css";

type Hit = Schema["Hit"];

const groups: Record<Hit["kind"], string> = {
  component: "Components",
  prop: "Props",
  option: "Options",
  part: "Parts",
  case: "Cases",
  release: "Releases",
  shelf: "Shelves",
  icon: "Icons",
  token: "Tokens",
  group: "Groups of tokens",
  theme: "Themes",
  output: "Outputs",
  page: "Pages",
  family: "Families of the design",
  find: "Finds of the survey",
  layer: "Layers",
  source: "Sources",
  trial: "Pages on trial",
};

/** Where a hit is looked at. */
export function addressOf(h: Hit): string {
  const at = encodeURIComponent;
  const design = h.source ? `&document=${at(h.source)}` : "";
  switch (h.kind) {
    case "component":
      return h.status === "draft" ? `/bench/${h.slug}` : `/catalogue/${h.slug}`;
    case "part":
      return `/bench/${h.slug}?part=${at(h.part ?? "")}`;
    case "case":
      return `/bench/${h.slug}?case=${at(h.case ?? "")}`;
    case "icon":
      return `/icons?find=${at(h.name)}`;
    case "token":
      return `/tokens?find=${at(h.name)}`;
    case "page":
    case "layer":
      return `/survey?page=${at(h.page ?? "")}${design}`;
    case "family":
      return `/survey?show=families${design}`;
    case "find":
      return `/survey?find=${at(h.find ?? "")}${design}`;
    case "shelf":
      return `/catalogue?find=${at(h.name)}`;
    case "group":
      return `/tokens?find=${at(`${h.name}.`)}`;
    case "theme":
      return "/tokens";
    case "output":
      return `/tokens?show=outputs&output=${at(h.name)}`;
    case "source":
      return "/sources";
    case "trial":
      return `/trial/${h.slug}`;
    default:
      return `/catalogue/${h.slug}`;
  }
}

const first = (dialog: Element) => dialog.querySelector<HTMLElement>("button[data-action]");

/** How many of what was last gone to are kept. */
const mostRecent = 6;

/** Finds everything that has a name, and every command; what was last gone to comes first. */
export function Find({ commands }: { commands: Command[] }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState("");
  const [, reread] = useReducer((n: number) => n + 1, 0); // what views offer is read when it opens
  const words = typed;
  const search = useFound(words);
  const found = search.data ?? [];
  const fresh = words.trim() === "" || (search.isFetched && !search.isPlaceholderData);
  const entered = useRef<Element>(null);
  useEffect(() => {
    if (!fresh || !entered.current) return;
    first(entered.current)?.click();
    entered.current = null;
  }, [fresh]);
  // Enter goes to the first there is where none was chosen, once all that was typed was looked for.
  const onKeyDown = (e: KeyboardEvent<HTMLInputElement>) => {
    const dialog = e.currentTarget.closest("[role=dialog]");
    if (e.key !== "Enter" || !dialog || dialog.querySelector("[data-selected]")) return;
    e.preventDefault(); // what it leads to may have a button under the focus by the time the key is typed
    if (fresh) first(dialog)?.click();
    else entered.current = dialog;
  };
  const entries = useEntries().data ?? [];
  const [recent, setRecent] = useLocalStorage<Hit[]>({ key: "cobrik-recent", defaultValue: [] });
  const go = (h: Hit) => {
    setRecent([h, ...recent.filter((r) => addressOf(r) !== addressOf(h))].slice(0, mostRecent));
    void navigate(addressOf(h));
  };
  const picture = (h: Hit): ReactNode => {
    if (h.kind === "token") return <TokenPicture type={h.type ?? ""} value={h.value ?? ""} />;
    const entry = h.slug ? entries.find((e) => e.slug === h.slug) : undefined;
    if (!entry) return null;
    const scale = Math.min(1, 44 / Math.max(1, entry.width), 24 / Math.max(1, entry.height));
    return <Drawn entry={entry} scale={scale} />;
  };
  const action = (h: Hit, i: number): SpotlightActionData => ({
    id: `${h.kind} ${addressOf(h)} ${h.name} ${i}`,
    label: h.name,
    description: h.of,
    leftSection: <span className={classes.hit}>{picture(h)}</span>,
    onClick: () => go(h),
  });
  const matching = [...commandsOfViews(), ...commands].filter((c) =>
    words
      .toLowerCase()
      .split(/\s+/)
      .every((w) => `${c.label} ${c.what}`.toLowerCase().includes(w)),
  );
  const list: SpotlightActionGroupData[] = [];
  if (words.trim() === "" && recent.length > 0) list.push({ group: "Last gone to", actions: recent.map(action) });
  for (const [kind, group] of Object.entries(groups)) {
    const hits = found.filter((h) => h.kind === kind);
    if (hits.length > 0) list.push({ group, actions: hits.map(action) });
  }
  // A command that begins so is what was meant; else it comes after all that has a name.
  const meant = words.trim() !== "" && matching.some((c) => c.label.toLowerCase().startsWith(words.trim().toLowerCase()));
  const doing = matching.map((c) => ({ id: `command ${c.label} ${c.what}`, label: c.label, description: c.what, onClick: c.run }));
  if (doing.length > 0) list[meant ? "unshift" : "push"]({ group: "Commands", actions: doing });
  return (
    <Spotlight
      actions={list}
      filter={(_, actions) => actions}
      query={typed}
      onQueryChange={setTyped}
      shortcut={null}
      onSpotlightOpen={reread}
      transitionProps={{ duration: 0 }}
      overlayProps={{ backgroundOpacity: 0.35, blur: 0 }}
      attributes={{ content: { "aria-label": "Find" } }}
      scrollable
      maxHeight={440}
      nothingFound="Nothing of that name"
      searchProps={{ placeholder: "Find by name, or a command", "aria-label": "Find by name, or a command", onKeyDown }}
    />
  );
}
