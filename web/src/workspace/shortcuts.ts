/** Every key and what it does, in one list that the help shows. */
import {
  setCameraKey,
  nudgeCameraKey,
  deleteCameraKey,
  placeAtRoam,
  putBack,
  toggleLock,
  toggleRide,
} from "../state/actions";
import { compareLast, flickViews } from "../picture/Compare";
import { levelView, nudgeView, placeViewFraming, placeViewFrom, walkView } from "../picture/gestures";
import { toggleGuide } from "../card/camera/GuidesSection";
import { copyCamera, makeCameraHere } from "../state/makeCameras";
import { changeSpeed, toggleMeasuring, toggleWalking } from "../state/hands";
import { leave, saveView } from "./windowActions";
import { zoomRows } from "../state/rowHeight";
import { goTo, stop, togglePlay } from "../state/playback";
import { flipPoses, goToNewPose } from "../state/poses";
import { type FocusTint, playRange, session, setSession, workedCamera } from "../state/session";
import {
  type Side,
  lookThroughCut,
  lookThroughNumber,
  roamFromHere,
  toggleFreeze,
  toggleRoam,
} from "../state/looking";
import { refreshView, undoOrRedo } from "../state/edits";

const ROUND_DEG = 5;
const SLIDE_SHARE = 0.08;
const IN_SHARE = 0.1;
const ROLL_DEG = 1;
const STEP_M = 0.25;
const PLACEMENTS: Side[] = ["front", "left", "right", "back", "three-quarter", "above", "below"];
const TINTS: FocusTint[] = ["off", "tint", "blur"];

export interface Shortcut {
  keys: string;
  label: string;
  group: "Time" | "Looking" | "Moving" | "Camera" | "Judging" | "Window";
  match: (event: KeyboardEvent) => boolean;
  run: (event: KeyboardEvent) => void;
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

/** Moves the view, or the camera that is looked through, by a step. */
function nudge(
  keys: string,
  label: string,
  match: Shortcut["match"],
  way: "orbit" | "slide" | "in",
  right: number,
  up: number,
): Shortcut {
  return { keys, label, group: "Moving", match, run: () => nudgeView(way, right, up) };
}

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
  { keys: "R", label: "Roam, and back", group: "Looking", match: plain("r"), run: toggleRoam },
  {
    keys: "Shift R",
    label: "Roam on from where the camera is",
    group: "Looking",
    match: (e) => e.key === "R" && e.shiftKey && !command(e),
    run: roamFromHere,
  },
  {
    keys: "1 … 9",
    label: "Look through that camera of the Bench",
    group: "Looking",
    match: (e) => /^[1-9]$/.test(e.key) && !e.altKey && !command(e),
    run: (e) => lookThroughNumber(Number(e.key)),
  },
  { keys: "0", label: "Look through the cut", group: "Looking", match: plain("0"), run: lookThroughCut },
  {
    keys: "V",
    label: "Companion views beside the Picture",
    group: "Looking",
    match: (e) => plain("v")(e) && !e.shiftKey,
    run: () => setSession({ showCompanions: !session().showCompanions }),
  },
  {
    keys: "Alt 1 … 7",
    label: "Place the view: front, left, right, back, ¾, above, below",
    group: "Looking",
    match: (e) => e.altKey && /^Digit[1-7]$/.test(e.code),
    run: (e) => placeViewFrom(PLACEMENTS[Number(e.code.slice(5)) - 1]!),
  },
  {
    keys: "Alt 8",
    label: "Frame the whole body",
    group: "Looking",
    match: (e) => e.altKey && e.code === "Digit8",
    run: () => placeViewFraming("body"),
  },
  {
    keys: "Alt 9",
    label: "Frame the head",
    group: "Looking",
    match: (e) => e.altKey && e.code === "Digit9",
    run: () => placeViewFraming("head"),
  },
  {
    keys: "Alt 0",
    label: "Level: take the roll out",
    group: "Moving",
    match: (e) => e.altKey && e.code === "Digit0",
    run: levelView,
  },
  {
    keys: "Ctrl ↑ ↓",
    label: "Go ahead, back",
    group: "Moving",
    match: (e) => command(e) && (e.key === "ArrowUp" || e.key === "ArrowDown"),
    run: (e) => walkView(e.key === "ArrowUp" ? STEP_M : -STEP_M, 0, 0),
  },
  {
    keys: "Ctrl ← →",
    label: "Go to the left, to the right",
    group: "Moving",
    match: (e) => command(e) && (e.key === "ArrowLeft" || e.key === "ArrowRight"),
    run: (e) => walkView(0, e.key === "ArrowRight" ? STEP_M : -STEP_M, 0),
  },
  {
    keys: "Page Up, Page Down",
    label: "Fly up, down",
    group: "Moving",
    match: (e) => e.key === "PageUp" || e.key === "PageDown",
    run: (e) => walkView(0, 0, e.key === "PageUp" ? STEP_M : -STEP_M),
  },
  { keys: "W", label: "Walk on the ground, or fly", group: "Moving", match: plain("w"), run: toggleWalking },
  {
    keys: "[ ]",
    label: "Hands slower, faster",
    group: "Moving",
    match: (e) => e.key === "[" || e.key === "]",
    run: (e) => changeSpeed(e.key === "]" ? 2 : 0.5),
  },
  {
    keys: "< >",
    label: "Roll to the left, to the right",
    group: "Moving",
    match: (e) => e.key === "<" || e.key === ">",
    run: (e) => nudgeView("roll", e.key === ">" ? ROLL_DEG : -ROLL_DEG, 0),
  },
  nudge("Shift ←", "Go round the character to the left", withShift("ArrowLeft"), "orbit", -ROUND_DEG, 0),
  nudge("Shift →", "Go round to the right", withShift("ArrowRight"), "orbit", ROUND_DEG, 0),
  nudge("Shift ↑", "Go round upwards", withShift("ArrowUp"), "orbit", 0, ROUND_DEG),
  nudge("Shift ↓", "Go round downwards", withShift("ArrowDown"), "orbit", 0, -ROUND_DEG),
  nudge("Alt Shift ←", "Slide to the left", withBoth("ArrowLeft"), "slide", -SLIDE_SHARE, 0),
  nudge("Alt Shift →", "Slide to the right", withBoth("ArrowRight"), "slide", SLIDE_SHARE, 0),
  nudge("Alt Shift ↑", "Slide up", withBoth("ArrowUp"), "slide", 0, SLIDE_SHARE),
  nudge("Alt Shift ↓", "Slide down", withBoth("ArrowDown"), "slide", 0, -SLIDE_SHARE),
  nudge(".", "Move in", plain("."), "in", 0, IN_SHARE),
  nudge(",", "Move out", plain(","), "in", 0, -IN_SHARE),
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
  { keys: "K", label: "Set a key on the camera", group: "Camera", match: plain("k"), run: setCameraKey },
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
  { keys: "L", label: "Lock or unlock the camera", group: "Camera", match: plain("l"), run: toggleLock },
  {
    keys: "P",
    label: "Put the camera where the Roam view is",
    group: "Camera",
    match: plain("p"),
    run: placeAtRoam,
  },
  {
    keys: "B",
    label: "Put a moved camera back",
    group: "Camera",
    match: plain("b"),
    run: putBack,
  },
  {
    keys: "N",
    label: "New camera where one looks from",
    group: "Camera",
    match: plain("n"),
    run: makeCameraHere,
  },
  {
    keys: "Shift C",
    label: "Copy the camera",
    group: "Camera",
    match: (e) => e.key === "C" && e.shiftKey && !command(e),
    run: copyCamera,
  },
  {
    keys: "Shift V",
    label: "Save this view of the camera",
    group: "Camera",
    match: (e) => e.key === "V" && e.shiftKey && !command(e),
    run: saveView,
  },
  {
    keys: "X",
    label: "Flick between two saved views",
    group: "Camera",
    match: plain("x"),
    run: () => (session().comparing ? flickViews() : compareLast(workedCamera(session()))),
  },
  {
    keys: "E",
    label: "Sharpness: not shown, tinted, blurred",
    group: "Judging",
    match: plain("e"),
    run: () => setSession({ focusTint: TINTS[(TINTS.indexOf(session().focusTint) + 1) % TINTS.length] }),
  },
  {
    keys: "D",
    label: "Measure between two places",
    group: "Judging",
    match: plain("d"),
    run: toggleMeasuring,
  },
  {
    keys: "T",
    label: "Thirds on, off",
    group: "Window",
    match: plain("t"),
    run: () => toggleGuide("thirds"),
  },
  {
    keys: "C",
    label: "Centre on, off",
    group: "Window",
    match: (e) => plain("c")(e) && !e.shiftKey,
    run: () => toggleGuide("centre"),
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
    run: () => undoOrRedo("undo"),
  },
  {
    keys: "Ctrl Shift Z",
    label: "Redo",
    group: "Window",
    match: (e) => command(e) && e.shiftKey && e.key.toLowerCase() === "z",
    run: () => undoOrRedo("redo"),
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
    label: "Leave what is open: full Picture, measure, comparison",
    group: "Window",
    match: plain("Escape"),
    run: leave,
  },
];

function command(event: KeyboardEvent): boolean {
  return event.ctrlKey || event.metaKey;
}
