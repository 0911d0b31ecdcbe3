import { type HotkeyItem, useHotkeys, useLocalStorage } from "@mantine/hooks";

/** Whether single keys do anything: people who speak to their computer switch them off (WCAG 2.2, 2.1.4). */
export const useSingleKeys = () => useLocalStorage({ key: "cobrik-single-keys", defaultValue: true, getInitialValueInEffect: false });

/** Shortcuts of a single key, which do nothing while something is typed, or once they are switched off. */
export function useKeys(keys: HotkeyItem[]) {
  const [on] = useSingleKeys();
  useHotkeys(on ? keys : []);
}
