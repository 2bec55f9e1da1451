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
    group: "Camera",
    on: ["Delete", "Backspace"],
    run: deleteChosen,
  },
  {
    keys: "Alt ↑ ↓",
    label: "Move the chosen keys a frame earlier, later",
    group: "Camera",
    on: ["alt+ArrowUp", "alt+ArrowDown"],
    run: (e) => nudgeChosen(e.key === "ArrowDown" ? 1 : -1),
  },
  {
    keys: "Shift Page Up, Page Down",
    label: "Key before, next key",
    group: "Camera",
    on: ["shift+PageUp", "shift+PageDown"],
    run: (e) => goToKey(e.key === "PageDown" ? 1 : -1),
  },
  { keys: "Ctrl A", label: "Choose all keys of the camera", group: "Camera", on: ["mod+A"], run: chooseAll },
  { keys: "Ctrl C", label: "Copy the chosen keys", group: "Camera", on: ["mod+C"], run: copyChosen },
  {
    keys: "Ctrl V",
    label: "Set the copied keys from here on",
    group: "Camera",
    on: ["mod+V"],
    run: () => pasteKeys(),
  },
  {
    keys: "Ctrl Shift V",
    label: "Set them at the frames that they came from",
    group: "Camera",
    on: ["mod+shift+V"],
    run: () => pasteKeys({ inPlace: true }),
  },
  {
    keys: "Alt M",
    label: "Run the chosen keys backwards",
    group: "Camera",
    on: ["alt+M"],
    placed: true,
    run: mirrorChosen,
  },
  {
    keys: "Alt K",
    label: "Record: moving the camera sets keys",
    group: "Camera",
    on: ["alt+K"],
    placed: true,
    run: toggleRecording,
  },
  {
    keys: "Shift K",
    label: "In the Sheet: spacing and slip, keys by groups, curves",
    group: "Camera",
    on: ["shift+K"],
    run: () => {
      const { sheetSide } = session();
      setSession({ sheetSide: SHEET_SIDES[(SHEET_SIDES.indexOf(sheetSide) + 1) % SHEET_SIDES.length]! });
    },
  },
];
