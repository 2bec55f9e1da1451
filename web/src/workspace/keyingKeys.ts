/** The keys of a camera's keys. */
import {
  chooseAll,
  copyChosen,
  deleteChosen,
  goToKey,
  mirrorChosen,
  nudgeChosen,
  pasteKeys,
} from "../state/chosenKeys";
import { toggleRecording } from "../state/recording";
import { SHEET_SIDES, session, setSession } from "../state/session";
import type { Listed } from "./shortcut";

export const KEYING: Listed[] = [
  {
    keys: "Delete",
    label: "Delete the chosen keys",
    group: "Keys",
    on: ["Delete", "Backspace"],
    run: deleteChosen,
  },
  {
    keys: "Alt ↑ ↓",
    label: "Move the chosen keys a frame earlier, later",
    group: "Keys",
    on: ["alt+ArrowUp", "alt+ArrowDown"],
    run: (e) => nudgeChosen(e.key === "ArrowDown" ? 1 : -1),
  },
  {
    keys: "Shift PgUp PgDn",
    label: "Key before, next key",
    group: "Keys",
    on: ["shift+PageUp", "shift+PageDown"],
    run: (e) => goToKey(e.key === "PageDown" ? 1 : -1),
  },
  { keys: "Ctrl A", label: "Choose all keys of the camera", group: "Keys", on: ["mod+A"], run: chooseAll },
  { keys: "Ctrl C", label: "Copy the chosen keys", group: "Keys", on: ["mod+C"], run: copyChosen },
  {
    keys: "Ctrl V",
    label: "Set the copied keys from here on",
    group: "Keys",
    on: ["mod+V"],
    run: () => pasteKeys(),
  },
  {
    keys: "Ctrl Shift V",
    label: "Set them where they came from",
    group: "Keys",
    on: ["mod+shift+V"],
    run: () => pasteKeys({ inPlace: true }),
  },
  {
    keys: "Alt M",
    label: "Run the chosen keys backwards",
    group: "Keys",
    on: ["alt+M"],
    placed: true,
    run: mirrorChosen,
  },
  {
    keys: "Alt K",
    label: "Record: moving the camera sets keys",
    group: "Keys",
    on: ["alt+K"],
    placed: true,
    run: toggleRecording,
  },
  {
    keys: "Shift K",
    label: "In the Sheet: spacing, keys, curves, layers, sound",
    group: "Keys",
    on: ["shift+K"],
    run: () => {
      const { sheetSide } = session();
      setSession({ sheetSide: SHEET_SIDES[(SHEET_SIDES.indexOf(sheetSide) + 1) % SHEET_SIDES.length]! });
    },
  },
];
