/** Every key and what it does, in one list that the help shows. */
import { useEffect } from "react";
import {
  setCameraKey,
  nudgeCameraKey,
  deleteCameraKey,
  placeAtRoam,
  putBack,
  toggleLock,
  toggleRide,
} from "../state/actions";
import { nudgeView } from "../picture/gestures";
import { undoOrRedo } from "../state/edits";
import { goTo, stop, togglePlay } from "../state/playback";
import { flipPoses, goToNewPose } from "../state/poses";
import { playRange, session, setSession } from "../state/session";
import { lookFrom, toggleFreeze, toggleRoam } from "../state/looking";
import { refreshView } from "../state/edits";

const ROUND_DEG = 5;
const SLIDE_SHARE = 0.08;
const IN_SHARE = 0.1;

export interface Shortcut {
  keys: string;
  label: string;
  group: "Time" | "Looking" | "Camera" | "Judging" | "Window";
  match: (event: KeyboardEvent) => boolean;
  run: () => void;
}

const plain = (key: string) => (event: KeyboardEvent) =>
  event.key.toLowerCase() === key.toLowerCase() &&
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  !(event.shiftKey && event.key.startsWith("Arrow"));

const withShift = (key: string) => (event: KeyboardEvent) =>
  event.key === key && event.shiftKey && !event.altKey && !event.ctrlKey;
const withAlt = (key: string) => (event: KeyboardEvent) =>
  event.key === key && event.altKey && !event.shiftKey;
const withBoth = (key: string) => (event: KeyboardEvent) =>
  event.key === key && event.altKey && event.shiftKey;

const step = (by: number) => () => {
  stop();
  goTo(session().frame + by);
};

export const SHORTCUTS: Shortcut[] = [
  { keys: "Space", label: "Play, pause", group: "Time", match: plain(" "), run: togglePlay },
  { keys: "↓", label: "Next frame", group: "Time", match: plain("ArrowDown"), run: step(1) },
  { keys: "↑", label: "Frame before", group: "Time", match: plain("ArrowUp"), run: step(-1) },
  { keys: "→", label: "Next new pose", group: "Time", match: plain("ArrowRight"), run: () => goToNewPose(1) },
  {
    keys: "←",
    label: "New pose before",
    group: "Time",
    match: plain("ArrowLeft"),
    run: () => goToNewPose(-1),
  },
  {
    keys: "F",
    label: "Flip between the last two new poses",
    group: "Time",
    match: plain("f"),
    run: flipPoses,
  },
  {
    keys: "Home",
    label: "First frame of the range",
    group: "Time",
    match: plain("Home"),
    run: () => goTo(playRange(session())[0]),
  },
  {
    keys: "End",
    label: "Last frame of the range",
    group: "Time",
    match: plain("End"),
    run: () => goTo(playRange(session())[1]),
  },
  { keys: "R", label: "Roam, and back to the cut", group: "Looking", match: plain("r"), run: toggleRoam },
  { keys: "1", label: "Roam: front", group: "Looking", match: plain("1"), run: () => lookFrom("front") },
  { keys: "2", label: "Roam: side", group: "Looking", match: plain("2"), run: () => lookFrom("side") },
  {
    keys: "3",
    label: "Roam: three-quarter",
    group: "Looking",
    match: plain("3"),
    run: () => lookFrom("three-quarter"),
  },
  { keys: "4", label: "Roam: top", group: "Looking", match: plain("4"), run: () => lookFrom("top") },
  {
    keys: "Shift ←",
    label: "Go round the character to the left",
    group: "Looking",
    match: withShift("ArrowLeft"),
    run: () => nudgeView("round", -ROUND_DEG, 0),
  },
  {
    keys: "Shift →",
    label: "Go round to the right",
    group: "Looking",
    match: withShift("ArrowRight"),
    run: () => nudgeView("round", ROUND_DEG, 0),
  },
  {
    keys: "Shift ↑",
    label: "Go round upwards",
    group: "Looking",
    match: withShift("ArrowUp"),
    run: () => nudgeView("round", 0, ROUND_DEG),
  },
  {
    keys: "Shift ↓",
    label: "Go round downwards",
    group: "Looking",
    match: withShift("ArrowDown"),
    run: () => nudgeView("round", 0, -ROUND_DEG),
  },
  {
    keys: "Alt Shift ←",
    label: "Slide to the left",
    group: "Looking",
    match: withBoth("ArrowLeft"),
    run: () => nudgeView("slide", -SLIDE_SHARE, 0),
  },
  {
    keys: "Alt Shift →",
    label: "Slide to the right",
    group: "Looking",
    match: withBoth("ArrowRight"),
    run: () => nudgeView("slide", SLIDE_SHARE, 0),
  },
  {
    keys: "Alt Shift ↑",
    label: "Slide up",
    group: "Looking",
    match: withBoth("ArrowUp"),
    run: () => nudgeView("slide", 0, SLIDE_SHARE),
  },
  {
    keys: "Alt Shift ↓",
    label: "Slide down",
    group: "Looking",
    match: withBoth("ArrowDown"),
    run: () => nudgeView("slide", 0, -SLIDE_SHARE),
  },
  {
    keys: ".",
    label: "Move in",
    group: "Looking",
    match: plain("."),
    run: () => nudgeView("in", 0, IN_SHARE),
  },
  {
    keys: ",",
    label: "Move out",
    group: "Looking",
    match: plain(","),
    run: () => nudgeView("in", 0, -IN_SHARE),
  },
  {
    keys: "Z",
    label: "Magnifier: delivery pixels one to one",
    group: "Looking",
    match: plain("z"),
    run: () => setSession({ magnify: !session().magnify }),
  },
  {
    keys: "Enter",
    label: "Picture over the whole window, and back",
    group: "Looking",
    match: plain("Enter"),
    run: () => setSession({ fullPicture: !session().fullPicture }),
  },
  { keys: "K", label: "Set a key on the shot camera", group: "Camera", match: plain("k"), run: setCameraKey },
  {
    keys: "Delete",
    label: "Delete the chosen key",
    group: "Camera",
    match: (e) => plain("Delete")(e) || plain("Backspace")(e),
    run: deleteCameraKey,
  },
  {
    keys: "Alt ↓",
    label: "Move the key a frame later",
    group: "Camera",
    match: withAlt("ArrowDown"),
    run: () => nudgeCameraKey(1),
  },
  {
    keys: "Alt ↑",
    label: "Move the key a frame earlier",
    group: "Camera",
    match: withAlt("ArrowUp"),
    run: () => nudgeCameraKey(-1),
  },
  { keys: "L", label: "Lock or unlock the shot camera", group: "Camera", match: plain("l"), run: toggleLock },
  {
    keys: "P",
    label: "Put the shot camera where the Roam view is",
    group: "Camera",
    match: plain("p"),
    run: placeAtRoam,
  },
  {
    keys: "B",
    label: "Put a moved camera back to its keys",
    group: "Camera",
    match: plain("b"),
    run: putBack,
  },
  {
    keys: "A",
    label: "Arc on, off",
    group: "Judging",
    match: plain("a"),
    run: () => setSession({ showArc: !session().showArc }),
  },
  {
    keys: "I",
    label: "Freeze the arc on this frame's camera",
    group: "Judging",
    match: plain("i"),
    run: () => {
      toggleFreeze();
      void refreshView();
    },
  },
  {
    keys: "O",
    label: "Onion skin on, off",
    group: "Judging",
    match: plain("o"),
    run: () => setSession({ showOnion: !session().showOnion }),
  },
  { keys: "Y", label: "Ride on, off", group: "Judging", match: plain("y"), run: toggleRide },
  {
    keys: "G",
    label: "Safe lines on, off",
    group: "Window",
    match: plain("g"),
    run: () => setSession({ showSafe: !session().showSafe }),
  },
  {
    keys: "M",
    label: "Mask on, off",
    group: "Window",
    match: plain("m"),
    run: () => setSession({ showMask: !session().showMask }),
  },
  {
    keys: "+",
    label: "Taller rows in the Sheet",
    group: "Window",
    match: (e) => e.key === "+" || e.key === "=",
    run: () => zoomRows(1.3),
  },
  {
    keys: "−",
    label: "Shorter rows in the Sheet",
    group: "Window",
    match: plain("-"),
    run: () => zoomRows(1 / 1.3),
  },
  {
    keys: "Ctrl Z",
    label: "Undo",
    group: "Window",
    match: (e) => command(e) && !e.shiftKey && e.key.toLowerCase() === "z",
    run: () => void undoOrRedo("undo"),
  },
  {
    keys: "Ctrl Shift Z",
    label: "Redo",
    group: "Window",
    match: (e) => command(e) && e.shiftKey && e.key.toLowerCase() === "z",
    run: () => void undoOrRedo("redo"),
  },
  {
    keys: "?",
    label: "These keys",
    group: "Window",
    match: (e) => e.key === "?",
    run: () => setSession({ helpOpen: true }),
  },
  {
    keys: "Esc",
    label: "Leave the full Picture, the magnifier, the chosen key",
    group: "Window",
    match: plain("Escape"),
    run: leave,
  },
];

function command(event: KeyboardEvent): boolean {
  return event.ctrlKey || event.metaKey;
}

function leave() {
  setSession({ fullPicture: false, magnify: false, selectedKey: null, notice: null });
}

export const LOWEST_ROW = 4;
export const HIGHEST_ROW = 30;

export function zoomRows(factor: number): void {
  const height = Math.round(session().rowHeight * factor);
  setSession({ rowHeight: Math.max(LOWEST_ROW, Math.min(HIGHEST_ROW, height)) });
}

function typing(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return !!element?.closest("input, textarea, select, [role=dialog], [role=listbox], [contenteditable=true]");
}

/** Space and Enter belong to a button that has the focus. */
function pressing(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  return (
    (event.key === " " || event.key === "Enter") && !!element?.closest("button, a, [role=switch], summary")
  );
}

export function useShortcuts(active: boolean): void {
  useEffect(() => {
    if (!active) return;
    const listen = (event: KeyboardEvent) => {
      if (typing(event.target) || pressing(event)) return;
      const found = SHORTCUTS.find((shortcut) => shortcut.match(event));
      if (!found) return;
      event.preventDefault();
      found.run();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [active]);
}
