import { TextInput } from "@mantine/core";
import { useState } from "react";
import { useSearchParams } from "react-router";

import classes from "./ListHead.module.css";

/** The words that are searched for, kept in the address. */
export function useFind() {
  const [search, setSearch] = useSearchParams();
  // The field is its own master: the address follows a little later than keys are struck.
  const [find, setText] = useState(search.get("find") ?? "");
  const words = find.toLowerCase().split(/\s+/);
  return {
    find,
    setFind: (text: string) => {
      setText(text);
      setSearch(text ? { find: text } : {}, { replace: true });
    },
    /** Tells whether a text holds every word. */
    matches: (text: string) => words.every((w) => text.toLowerCase().includes(w)),
  };
}

interface Props {
  title: string;
  placeholder: string;
  find: string;
  setFind: (text: string) => void;
  children: React.ReactNode;
}

/** A list's title, its search, and how much of it is shown. */
export function ListHead({ title, placeholder, find, setFind, children }: Props) {
  return (
    <header className={classes.head}>
      <h1>{title}</h1>
      <TextInput aria-label={placeholder} placeholder={placeholder} value={find} onChange={(e) => setFind(e.currentTarget.value)} />
      <span className="quiet" role="status">
        {children}
      </span>
    </header>
  );
}
