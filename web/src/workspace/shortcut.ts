/** One key, or several that do the same, and what it does. */
import { getHotkeyHandler } from "@mantine/hooks";

export interface Listed {
  /** As people read it. */
  keys: string;
  label: string;
  group: "Time" | "Cut" | "Looking" | "Moving" | "Keys" | "Camera" | "Judging" | "Window";
  /** As `@mantine/hooks` takes it; several do the same. */
  on: string[];
  /** By where the key is, whatever is written on it. */
  placed?: boolean;
  run: (event: KeyboardEvent) => void;
}

export interface Shortcut extends Listed {
  match: (event: KeyboardEvent) => boolean;
}

export function shortcut(listed: Listed): Shortcut {
  const options = { preventDefault: false, usePhysicalKeys: listed.placed ?? false };
  const match = (event: KeyboardEvent) => {
    let found = false;
    getHotkeyHandler(listed.on.map((hotkey) => [hotkey, () => (found = true), options]))(event);
    return found;
  };
  return { ...listed, match };
}
