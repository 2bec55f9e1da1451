/** Every key and what it does, in one list that the help shows. */
import { flip, toggleBeside } from "../state/beside";
import { exposeHere } from "../state/exposing";
import { setCameraKey, placeAtRoam, putBack, toggleLock, toggleRide } from "../state/actions";
import { compareLast, flickViews } from "../picture/Compare";
import { levelView, nudgeView, walkView } from "../picture/gestures";
import { toggleGuide } from "../card/camera/GuidesSection";
import { copyCamera, makeCameraHere } from "../state/makeCameras";
import { askForFile } from "../state/contents";
import { changeSpeed, toggleMeasuring, toggleWalking } from "../state/hands";
import { type Listed, type Shortcut, shortcut } from "./shortcut";
import { arrangeNext, goToPane } from "./arrangements";
import { CUTTING } from "./cuttingKeys";
import { KEYING } from "./keyingKeys";
import { LOOKING, withAlt } from "./lookingKeys";
import { leave, saveView } from "./windowActions";
import { zoomRows } from "../state/rowHeight";
import { goTo, stop, togglePlay } from "../state/playback";
import { flipFrames, flipPoses, goToNewPose } from "../state/poses";
import {
  SHOWN_AS,
  type FocusTint,
  notify,
  playRange,
  session,
  setSession,
  workedCamera,
} from "../state/session";
import { keepArc, nextShare, setLooks } from "../state/judgingLooks";
import { toggleFreeze } from "../state/looking";
import { undoOrRedo } from "../state/edits";
import { refreshView } from "../state/shown";

const ROUND_DEG = 5;
const SLIDE_SHARE = 0.08;
const IN_SHARE = 0.1;
const ROLL_DEG = 1;
const STEP_M = 0.25;
const TINTS: FocusTint[] = ["off", "tint", "blur"];

const step = (by: number) => () => {
  stop();
  goTo(session().frame + by);
};

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The arrows move the view, or the camera that is looked through, by a step. */
function nudges(keys: string, label: string, held: string, way: "orbit" | "slide", by: number): Listed {
  const on = Object.keys(ARROWS).map((arrow) => `${held}+${arrow}`);
  const run = (event: KeyboardEvent) => {
    const [right, up] = ARROWS[event.key]!;
    nudgeView(way, right * by, up * by);
  };
  return { keys, label, group: "Moving", on, run };
}

const LISTED: Listed[] = [
  { keys: "Space", label: "Play, pause", group: "Time", on: ["space"], run: togglePlay },
  { keys: "↓", label: "Next frame", group: "Time", on: ["ArrowDown"], run: step(1) },
  { keys: "↑", label: "Frame before", group: "Time", on: ["ArrowUp"], run: step(-1) },
  { keys: "→", label: "Next new pose", group: "Time", on: ["ArrowRight"], run: () => goToNewPose(1) },
  {
    keys: "←",
    label: "New pose before",
    group: "Time",
    on: ["ArrowLeft"],
    run: () => goToNewPose(-1),
  },
  {
    keys: "F",
    label: "Flip between the last two new poses",
    group: "Time",
    on: ["F"],
    run: flipPoses,
  },
  {
    keys: "Shift F",
    label: "Flip between this frame and another: press it on both",
    group: "Time",
    on: ["shift+F"],
    run: flipFrames,
  },
  {
    keys: "Shift P",
    label: "New pose here or none any more; playing: tap along",
    group: "Time",
    on: ["shift+P"],
    run: exposeHere,
  },
  {
    keys: "Home",
    label: "First frame of the range",
    group: "Time",
    on: ["Home"],
    run: () => goTo(playRange(session())[0]),
  },
  {
    keys: "End",
    label: "Last frame of the range",
    group: "Time",
    on: ["End"],
    run: () => goTo(playRange(session())[1]),
  },
  ...CUTTING,
  ...LOOKING,
  {
    keys: "Alt 0",
    label: "Level: take the roll out",
    group: "Moving",
    on: [withAlt("0")],
    placed: true,
    run: levelView,
  },
  {
    keys: "Ctrl ↑ ↓",
    label: "Go ahead, back",
    group: "Moving",
    on: ["mod+ArrowUp", "mod+ArrowDown"],
    run: (e) => walkView(e.key === "ArrowUp" ? STEP_M : -STEP_M, 0, 0),
  },
  {
    keys: "Ctrl ← →",
    label: "Go to the left, to the right",
    group: "Moving",
    on: ["mod+ArrowLeft", "mod+ArrowRight"],
    run: (e) => walkView(0, e.key === "ArrowRight" ? STEP_M : -STEP_M, 0),
  },
  {
    keys: "Page Up, Page Down",
    label: "Fly up, down",
    group: "Moving",
    on: ["PageUp", "PageDown"],
    run: (e) => walkView(0, 0, e.key === "PageUp" ? STEP_M : -STEP_M),
  },
  { keys: "W", label: "Walk on the ground, or fly", group: "Moving", on: ["W"], run: toggleWalking },
  {
    keys: "[ ]",
    label: "Hands slower, faster",
    group: "Moving",
    on: ["[", "]"],
    run: (e) => changeSpeed(e.key === "]" ? 2 : 0.5),
  },
  {
    keys: "< >",
    label: "Roll to the left, to the right",
    group: "Moving",
    on: ["<", ">", "shift+<", "shift+>"],
    run: (e) => nudgeView("roll", e.key === ">" ? ROLL_DEG : -ROLL_DEG, 0),
  },
  nudges("Shift ← → ↑ ↓", "Go round the character, over it and under it", "shift", "orbit", ROUND_DEG),
  nudges("Alt Shift ← → ↑ ↓", "Slide to the sides, up and down", "alt+shift", "slide", SLIDE_SHARE),
  {
    keys: ". ,",
    label: "Move in, out",
    group: "Moving",
    on: [".", ","],
    run: (e) => nudgeView("in", 0, e.key === "." ? IN_SHARE : -IN_SHARE),
  },
  { keys: "K", label: "Set a key on the camera", group: "Camera", on: ["K"], run: setCameraKey },
  ...KEYING,
  { keys: "L", label: "Lock or unlock the camera", group: "Camera", on: ["L"], run: toggleLock },
  {
    keys: "P",
    label: "Put the camera where the Roam view is",
    group: "Camera",
    on: ["P"],
    run: placeAtRoam,
  },
  {
    keys: "B",
    label: "Put a moved camera back",
    group: "Camera",
    on: ["B"],
    run: putBack,
  },
  {
    keys: "N",
    label: "New camera where one looks from",
    group: "Camera",
    on: ["N"],
    run: makeCameraHere,
  },
  {
    keys: "Shift C",
    label: "Copy the camera",
    group: "Camera",
    on: ["shift+C"],
    run: copyCamera,
  },
  {
    keys: "Shift V",
    label: "Save this view of the camera",
    group: "Camera",
    on: ["shift+V"],
    run: saveView,
  },
  {
    keys: "X",
    label: "Flick between two saved views",
    group: "Camera",
    on: ["X"],
    run: () => (session().comparing ? flickViews() : compareLast(workedCamera(session()))),
  },
  {
    keys: "E",
    label: "Sharpness: not shown, tinted, blurred",
    group: "Judging",
    on: ["E"],
    run: () => setSession({ focusTint: TINTS[(TINTS.indexOf(session().focusTint) + 1) % TINTS.length] }),
  },
  {
    keys: "D",
    label: "Measure between two places",
    group: "Judging",
    on: ["D"],
    run: toggleMeasuring,
  },
  {
    keys: "T",
    label: "Thirds on, off",
    group: "Window",
    on: ["T"],
    run: () => toggleGuide("thirds"),
  },
  {
    keys: "Shift T",
    label: "Centre on, off",
    group: "Window",
    on: ["shift+T"],
    run: () => toggleGuide("centre"),
  },
  {
    keys: "A",
    label: "Arc on, off",
    group: "Judging",
    on: ["A"],
    run: () => setSession({ showArc: !session().showArc }),
  },
  {
    keys: "Shift A",
    label: "The arc of this joint stays while others are chosen",
    group: "Judging",
    on: ["shift+A"],
    run: keepArc,
  },
  {
    keys: "Shift I",
    label: "Camera still, camera alone, all moves",
    group: "Judging",
    on: ["shift+I"],
    run: nextShare,
  },
  {
    keys: "I",
    label: "Freeze the arc on this frame's camera",
    group: "Judging",
    on: ["I"],
    run: () => {
      toggleFreeze();
      void refreshView();
    },
  },
  {
    keys: "O",
    label: "Onion skin on, off",
    group: "Judging",
    on: ["O"],
    run: () => setSession({ showOnion: !session().showOnion }),
  },
  {
    keys: "Shift Y",
    label: "What slips as a double image",
    group: "Judging",
    on: ["shift+Y"],
    run: () => setLooks({ echo: !session().looks.echo }),
  },
  {
    keys: "Shift O",
    label: "Line of action on, off",
    group: "Judging",
    on: ["shift+O"],
    run: () => setLooks({ actionLine: !session().looks.actionLine }),
  },
  {
    keys: "S",
    label: "The version before as a ghost, its arc beside; and without",
    group: "Judging",
    on: ["S"],
    run: toggleBeside,
  },
  {
    keys: "Shift S",
    label: "Flip: which of the two versions is solid",
    group: "Judging",
    on: ["shift+S"],
    run: flip,
  },
  { keys: "Y", label: "Ride on, off", group: "Judging", on: ["Y"], run: toggleRide },
  {
    keys: "H",
    label: "As clay, silhouette, plain body, and as it comes",
    group: "Looking",
    on: ["H"],
    run: () => {
      const next = SHOWN_AS[(SHOWN_AS.indexOf(session().shownAs) + 1) % SHOWN_AS.length]!;
      setSession({ shownAs: next });
      notify(next === "as it comes" ? "Shown as it comes." : `Shown as ${next}. H goes on.`);
    },
  },
  {
    keys: "G",
    label: "Safe lines on, off",
    group: "Window",
    on: ["G"],
    run: () => setSession({ showSafe: !session().showSafe }),
  },
  {
    keys: "M",
    label: "Mask on, off",
    group: "Window",
    on: ["M"],
    run: () => setSession({ showMask: !session().showMask }),
  },
  {
    keys: "+",
    label: "Taller rows in the Sheet",
    group: "Window",
    on: ["plus", "shift+plus", "=", "shift+="],
    run: () => zoomRows(1.3),
  },
  {
    keys: "−",
    label: "Shorter rows in the Sheet",
    group: "Window",
    on: ["minus"],
    run: () => zoomRows(1 / 1.3),
  },
  {
    keys: "U",
    label: "Bring in a file: a character, a prop, a set piece",
    group: "Window",
    on: ["U"],
    run: () => askForFile(),
  },
  {
    keys: "Ctrl Z",
    label: "Undo",
    group: "Window",
    on: ["mod+Z"],
    run: () => undoOrRedo("undo"),
  },
  {
    keys: "Ctrl Shift Z",
    label: "Redo",
    group: "Window",
    on: ["mod+shift+Z"],
    run: () => undoOrRedo("redo"),
  },
  {
    keys: "Q",
    label: "Next arrangement of the panes",
    group: "Window",
    on: ["Q"],
    run: arrangeNext,
  },
  {
    keys: "F6",
    label: "To the next pane; with Shift to the one before",
    group: "Window",
    on: ["F6", "shift+F6"],
    run: (event) => goToPane(event.shiftKey ? -1 : 1),
  },
  {
    keys: "?",
    label: "These keys",
    group: "Window",
    on: ["?", "shift+?"],
    run: () => setSession({ helpOpen: true }),
  },
  {
    keys: "Esc",
    label: "Leave what is open: full Picture, measure, comparison",
    group: "Window",
    on: ["Escape"],
    run: leave,
  },
];

export const SHORTCUTS: Shortcut[] = LISTED.map(shortcut);
