import { TextInput } from "@mantine/core";

import classes from "./ListHead.module.css";

interface Props {
  title: string;
  placeholder: string;
  find: string;
  setFind: (text: string) => void;
  children: React.ReactNode;
  /** From the field down into the list. */
  onDown?: () => void;
}

/** A list's title, its search, and how much of it is shown. */
export function ListHead({ title, placeholder, find, setFind, children, onDown }: Props) {
  return (
    <header className={classes.head}>
      <h1>{title}</h1>
      <TextInput
        aria-label={placeholder}
        placeholder={placeholder}
        value={find}
        onChange={(e) => setFind(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (!onDown || (e.key !== "ArrowDown" && e.key !== "Enter")) return;
          e.preventDefault();
          onDown();
        }}
      />
      <span className="quiet" role="status">
        {children}
      </span>
    </header>
  );
}
