import { ActionIcon, Kbd, Modal, Switch, TextInput, Tooltip, useMantineColorScheme } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { spotlight } from "@mantine/spotlight";
import { IconHelp, IconMoon, IconSearch, IconSun } from "@tabler/icons-react";
import { useIsFetching, useIsMutating } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate } from "react-router";

import { api, ApiError, project as address, type Schema, useProject, useReadings, useWrite } from "../api/client";
import { Glyph } from "../ui/Glyph";
import { Empty } from "../ui/States";
import { DropAnywhere } from "./DropAnywhere";
import { type Command } from "./commands";
import { Find } from "./Find";
import { agreement, count } from "../ui/count";
import { say } from "../ui/say";
import classes from "./Frame.module.css";
import { useEvents } from "./events";
import { useOwnName } from "./here";
import { useKeys, useSingleKeys } from "./keys";

type Counted = "sources" | "survey" | "tokens" | "troubled" | "catalogue" | "sync" | "trial";

/** The line: the job's stations in order. Those that wait for a decision say so. */
const stations: { path: string; count: Counted; label: string; waits: boolean; counts: string; one: string }[] = [
  { path: "sources", count: "sources", label: "Sources", waits: false, counts: "files", one: "file" },
  {
    path: "survey",
    count: "survey",
    label: "Survey",
    waits: true,
    counts: "families without a component",
    one: "family without a component",
  },
  { path: "tokens", count: "tokens", label: "Tokens", waits: false, counts: "tokens", one: "token" },
  { path: "bench", count: "troubled", label: "Bench", waits: true, counts: "components with errors", one: "component with errors" },
  { path: "catalogue", count: "catalogue", label: "Catalogue", waits: false, counts: "released components", one: "released component" },
  { path: "sync", count: "sync", label: "Sync", waits: true, counts: "moves to decide", one: "move to decide" },
  { path: "trial", count: "trial", label: "Trial", waits: false, counts: "pages on trial", one: "page on trial" },
];

export function Frame() {
  const { pathname } = useLocation();
  const takesDrops = pathname === "/icons" || pathname === "/catalogue" || pathname.startsWith("/trial"); // these views take what is dropped themselves
  const line = useRef<HTMLElement>(null);
  useEffect(() => {
    // A narrow window shows a part of the line: the one with the station one is at.
    const here = line.current?.querySelector<HTMLElement>("[aria-current]");
    if (line.current && here) line.current.scrollLeft = here.offsetLeft - (line.current.clientWidth - here.offsetWidth) / 2;
  }, [pathname]);
  useEvents();
  const { data: project, error } = useProject();
  const [help, { open: openHelp, close: closeHelp }] = useDisclosure(false);
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  useKeys([
    ["?", openHelp],
    ["shift+?", openHelp],
    ["f", () => spotlight.open()],
  ]);
  const dark = colorScheme === "dark";
  const navigate = useNavigate();
  const fetched = useWrite(api.fetch, (r) => say("Fetched", `${count(r.documents.filter((d) => d.added).length, "new revision")} came.`));
  const commands: Command[] = [
    { label: "Where things stand", what: "The line in sentences", run: () => void navigate("/") },
    ...stations.map((s) => ({ label: s.label, what: "Station of the line", run: () => void navigate(`/${s.path}`) })),
    { label: dark ? "Light theme" : "Dark theme", what: "Of the application", run: () => setColorScheme(dark ? "light" : "dark") },
    { label: "Keys and help", what: "What the keys do", run: openHelp },
    { label: "Fetch the design", what: "Ask the design host for new revisions", run: () => fetched.mutate(undefined) },
  ];
  if (error instanceof ApiError && error.trouble.status === 404) {
    return (
      <main id="main">
        <Empty title="No such project" action={<a href="/">To the first project</a>}>
          An address begins with its project, and there is none at “{decodeURIComponent(address)}”.
        </Empty>
      </main>
    );
  }
  return (
    <div className={classes.frame}>
      <a className={classes.skip} href="#main">
        Skip to the view
      </a>
      <header className={classes.bar}>
        <Link to="/" className={classes.name} title="Where things stand">
          <Mark />
          <strong>{project?.name ?? "…"}</strong>
        </Link>
        <nav ref={line} className={classes.line} aria-label="The line">
          {stations.map((s) => (
            <NavLink key={s.path} to={`/${s.path}`} className={({ isActive }) => `${classes.station} ${isActive ? classes.here : ""}`}>
              {s.label}
              <Count station={s} project={project} />
            </NavLink>
          ))}
        </nav>
        <span className={classes.tools}>
          <Tool label="Find anything (F)" onClick={() => spotlight.open()}>
            <IconSearch size={16} />
          </Tool>
          <Tool label={dark ? "Light theme" : "Dark theme"} onClick={() => setColorScheme(dark ? "light" : "dark")}>
            {dark ? <IconSun size={16} /> : <IconMoon size={16} />}
          </Tool>
          <Tool label="Keys and help (?)" onClick={openHelp}>
            <IconHelp size={16} />
          </Tool>
        </span>
      </header>
      <main id="main" className={classes.main} tabIndex={-1}>
        <Outlet />
      </main>
      <Strip project={project} />
      {!takesDrops && <DropAnywhere />}
      <Find commands={commands} />
      <Help opened={help} close={closeHelp} />
    </div>
  );
}

function Count({ station, project }: { station: (typeof stations)[number]; project?: Schema["Project"] }) {
  const n = project?.[station.count] ?? 0;
  return (
    <span className={station.waits && n > 0 ? classes.waits : classes.count} title={count(n, station.one, station.counts)}>
      {n}
      <span className="hidden-but-read"> {n === 1 ? station.one : station.counts}</span>
    </span>
  );
}

function Tool({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" color="gray" c="inherit" size={28} aria-label={label} onClick={onClick}>
        {children}
      </ActionIcon>
    </Tooltip>
  );
}

/** A small course of bricks. */
function Mark() {
  return (
    <svg width="22" height="22" viewBox="0 0 24 24" aria-hidden="true" className={classes.mark}>
      <path d="M2 4h9v4.5H2zM12.5 4H22v4.5h-9.5zM2 9.75h5v4.5H2zM8.5 9.75h7v4.5h-7zM17 9.75h5v4.5h-5zM2 15.5h9V20H2zM12.5 15.5H22V20h-9.5z" />
    </svg>
  );
}

function Strip({ project }: { project?: Schema["Project"] }) {
  const busy = useIsMutating() + useIsFetching();
  const check = project?.check;
  const { data: readings } = useReadings();
  return (
    <footer className={classes.strip}>
      <span>{project?.design || "No design yet"}</span>
      {project?.host.known && (
        <span className={project.host.failure ? classes.down : ""}>
          {project.host.failure
            ? `Design host is down: ${project.host.failure}`
            : `Design host ${project.host.checked ? `asked ${clock(project.host.checked)}` : "not asked yet"}`}
        </span>
      )}
      {readings?.map((r) => (
        <Link key={`${r.document} ${r.revision}`} to={`/survey?document=${encodeURIComponent(r.document)}`}>
          {r.name}, revision {r.revision}: {r.state === "waiting" ? "waits to be read" : `being read, ${Math.round(r.share * 100)} %`}
        </Link>
      ))}
      <span className={classes.push} aria-live="polite">
        {busy > 0 ? "Working…" : "Idle"}
      </span>
      {check ? (
        <span className={classes.check}>
          <Glyph verdict={check.differs ? "design moved" : "agree"} size={12} />
          {check.name}: {agreement(check.differs, check.facts)}, {clock(check.taken)}
        </span>
      ) : (
        <span>Nothing measured yet</span>
      )}
    </footer>
  );
}

function clock(time: string) {
  return new Date(time).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });
}

const keys: [string, string][] = [
  ["F", "Find by name, or a command"],
  ["?", "This list"],
  ["↑ ↓", "Ledger: the fact above, below"],
  ["E", "Ledger: edit the contract's value"],
  ["Esc", "Ledger: leave a value as it was"],
  ["A", "Ledger: all facts, or those that differ"],
  ["C", "Bench: the comparison"],
  ["L", "Bench: the containers"],
  ["S", "Bench: the contract as a sheet"],
  ["S T A U H C R", "Component's page: specimen, states, access, uses, history, code, review"],
  ["↑ ↓ Enter", "Catalogue: the component before, after; open it"],
  ["H", "Bench: the behaviour"],
  ["K", "Bench: the checks"],
  ["D", "Bench: the code"],
  ["N", "Bench's list: begin a component without a drawing"],
  ["↑ ↓ ← →", "Sheet: the cell beside"],
  ["Enter", "Sheet: type in the cell, or keep what is typed"],
  ["Tab", "Sheet: take the first of what could follow"],
  ["N", "Sheet: a new prop or part behind; I: a part inside"],
  ["V", "Sheet: add a value, or a rule with when …:"],
  ["P F", "Sheet: make a prop of the part, or a flag that shows it"],
  ["R W U", "Sheet: duplicate; put a container around, take it away (or put a use's parts in its place)"],
  ["Alt ↑ ↓ ← →", "Sheet: move the row; a part in and out"],
  ["Del", "Sheet: remove, once it is shown what goes along"],
  ["B", "Sheet: rules by part, or by condition"],
  ["O", "Sheet: make the part a component of its own"],
  ["E", "Sheet: fewer rules that say the same"],
  ["↑ ↓ ← →", "Behaviour: the state beside, or through time and from one instance to another"],
  ["Enter", "Behaviour: the state's sentences; on the time line, let it happen"],
  ["Ctrl Enter", "Behaviour: keep the words; Esc drops them"],
  ["Space .", "Time line: play, or stop; go to the next change"],
  ["M X", "Checks: mend a finding; set it aside"],
  ["G", "Bench: the cases in rows, or in one"],
  ["W", "Bench: the case under stress, or as it is"],
  ["B", "Bench: every case at once, with what is in trouble"],
  ["I  R  Z", "Bench: all cases in the next state, right to left, with text of twice the size"],
  ["N", "Bench: save the case by a name"],
  ["T", "Bench: the next theme"],
  ["Enter", "Cutting list: edit the cell"],
  ["Space", "Cutting list: mark the row, for one value in several"],
  ["← →", "Case strip: the case before, after; widths: 1 px, with Shift 16 px"],
  ["Page ↑ ↓", "Widths: where something changes next"],
  ["Ctrl Z", "Bench, Tokens: undo the last edit"],
  ["Ctrl Shift Z", "Bench, Tokens: redo"],
  ["↑ ↓", "Tokens: the token above, below"],
  ["T", "Sync: take the design's side of a move"],
  ["K", "Sync: keep the contract's side"],
  ["D", "Sync: ask the designer to follow the contract"],
  ["B L", "Sync, of the code: put back, leave"],
  ["M", "Sync: what both changed, where one value has it"],
  ["P C V R D", "Trial: the page, its content, versions for widths, releases of what it uses, the code"],
  ["↑ ↓ Enter", "Outline: the row above, below; type in it. Typing: Enter begins a row below, Esc leaves"],
  ["N", "Outline: a row below; Del: remove the row with what stands in it"],
  ["Alt ↑ ↓ ← →", "Outline: move the row with what stands in it; out and in"],
  ["U S", "Outline: duplicate the row; put a stack around it"],
  ["Ctrl Space", "Outline, typing: what could follow; Tab takes it"],
];

function Help({ opened, close }: { opened: boolean; close: () => void }) {
  const [single, setSingle] = useSingleKeys();
  const [name, setName] = useOwnName();
  return (
    <Modal opened={opened} onClose={close} title="Keys" closeButtonProps={{ "aria-label": "Close" }}>
      <dl className={classes.keys}>
        {keys.map(([key, what]) => (
          <div key={what}>
            <dt>
              <Kbd>{key}</Kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <Switch
        size="xs"
        label="Keys without Ctrl do something outside of the rows they belong to"
        checked={single}
        onChange={(e) => setSingle(e.currentTarget.checked)}
      />
      <TextInput
        size="xs"
        label="Others who are at the same component see you as"
        maxLength={60}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <p className="quiet">
        Three bars stand for design, contract and built component. Level: they agree. The one that moved stands up; one that is missing is a
        dotted outline; all different is hatched.
      </p>
    </Modal>
  );
}
