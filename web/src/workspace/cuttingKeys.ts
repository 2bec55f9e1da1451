/** The keys of the cut. */
import { cutHere, cutLive, goToShot, joinHere, splitHere } from "../state/cutting";
import { nextTransition } from "../state/transitions";
import { type MarkKind, markHere } from "../state/sounds";
import type { Listed } from "./shortcut";

const MARKS: [string, MarkKind, string][] = [
  ["A", "action", "Mark an action here, also while it plays"],
  ["B", "line begins", "Mark that a line begins"],
  ["E", "line ends", "Mark that a line ends"],
  ["T", "accent", "Mark an accent"],
];

export const CUTTING: Listed[] = [
  {
    keys: "C",
    label: "Cut to the camera seen last",
    group: "Cut",
    on: ["C"],
    run: cutHere,
  },
  {
    keys: "Alt C",
    label: "Take this shot's cut away",
    group: "Cut",
    on: ["alt+C"],
    placed: true,
    run: joinHere,
  },
  {
    keys: "Alt X",
    label: "Split the shot here",
    group: "Cut",
    on: ["alt+X"],
    placed: true,
    run: splitHere,
  },
  {
    keys: "Alt D",
    label: "The shot begins with a dissolve, a dip, a blend, a cut",
    group: "Cut",
    on: ["alt+D"],
    placed: true,
    run: nextTransition,
  },
  {
    keys: "Alt ← →",
    label: "Shot before, next shot",
    group: "Cut",
    on: ["alt+ArrowLeft", "alt+ArrowRight"],
    run: (e) => goToShot(e.key === "ArrowRight" ? 1 : -1),
  },
  ...MARKS.map(([key, kind, label]): Listed => ({
    keys: `Alt ${key}`,
    label,
    group: "Cut",
    on: [`alt+${key}`],
    placed: true,
    run: () => markHere(kind),
  })),
  {
    keys: "Shift Space",
    label: "Play and cut live: the number keys cut",
    group: "Cut",
    on: ["shift+space"],
    run: cutLive,
  },
];
