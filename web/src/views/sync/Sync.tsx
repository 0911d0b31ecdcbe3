import { NavLink, Outlet } from "react-router";

import { WhoWins } from "./WhoWins";
import classes from "./Sync.module.css";

const views = [
  { to: "/sync", label: "By component" },
  { to: "/sync/causes", label: "By cause" },
  { to: "/sync/decided", label: "Decided" },
  { to: "/sync/drift", label: "Over time" },
];

/** What moved apart in design, contract and code: looked at, decided, and followed. */
export function Sync() {
  return (
    <>
      <header className={classes.bar}>
        <h1>Sync</h1>
        <nav aria-label="Ways to look at it">
          {views.map((v) => (
            <NavLink key={v.to} to={v.to} end>
              {v.label}
            </NavLink>
          ))}
        </nav>
        <WhoWins />
      </header>
      <Outlet />
    </>
  );
}
