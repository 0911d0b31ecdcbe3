import type { Schema } from "../api/client";
import classes from "./ThemeSelect.module.css";

interface Props {
  themes: Schema["LookTheme"][];
  /** Name of the theme that is shown. */
  value: string;
  onChange: (theme: Schema["LookTheme"]) => void;
  /** What is said of a theme behind its name. */
  note?: (name: string) => string;
}

/** Turns what is shown to another theme; nothing where there is only one. */
export function ThemeSelect({ themes, value, onChange, note }: Props) {
  if (themes.length < 2) return null;
  return (
    <select
      aria-label="Theme"
      className={classes.theme}
      value={value}
      onChange={(e) => onChange(themes.find((t) => t.name === e.target.value)!)}
    >
      {themes.map((t) => (
        <option key={t.name} value={t.name}>
          {t.name}
          {note?.(t.name)}
        </option>
      ))}
    </select>
  );
}
