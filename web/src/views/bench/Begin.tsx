import { Button } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, useStarts, useWrite } from "../../api/client";
import { useKeys } from "../../frame/keys";
import { Failure } from "../../ui/States";
import inline from "../../ui/Inline.module.css";
import classes from "./Bench.module.css";

/** Begins a component without a drawing: from a blank sheet, or from a ready-made start. */
export function Begin() {
  const starts = useStarts().data ?? [];
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [key, setKey] = useState("blank");
  const begin = useWrite(
    () => api.begin(name.trim(), key),
    (made) => void navigate(`/bench/${made.slug}?facet=contract`),
  );
  useKeys([["n", () => document.querySelector<HTMLInputElement>("[data-begin]")?.focus()]]);
  const chosen = starts.find((s) => s.key === key);
  return (
    <form
      className={classes.begin}
      aria-label="Begin a component"
      onSubmit={(e) => {
        e.preventDefault();
        begin.mutate(undefined);
      }}
    >
      <span>
        Begin <kbd>N</kbd>
      </span>
      <input
        data-begin
        aria-label="Name of the component"
        className={`mono ${inline.field}`}
        placeholder="ActionButton"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <span>from</span>
      <select aria-label="Start" className={inline.field} value={key} onChange={(e) => setKey(e.currentTarget.value)}>
        {starts.map((s) => (
          <option key={s.key} value={s.key}>
            {s.key === "blank" ? "a blank sheet" : s.name}
          </option>
        ))}
      </select>
      <span className="quiet">{chosen?.purpose || "without a drawing: the ledger has two sides then"}</span>
      <Button type="submit" disabled={name.trim() === ""} loading={begin.isPending}>
        Begin
      </Button>
      {begin.error && <Failure error={begin.error} />}
    </form>
  );
}
