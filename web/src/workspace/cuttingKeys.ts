/** The keys of the cut. */
import { cutHere, cutLive, goToShot, joinHere, splitHere } from "../state/cutting";
import { nextTransition } from "../state/transitions";
import { type MarkKind, markHere } from "../state/sounds";
import { toggleMatching } from "../state/matching";
import { goToNextScene } from "../state/sequence";
import type { Listed } from "./shortcut";

const MARKS: Record<string, MarkKind> = {
  KeyA: "action",
  KeyB: "line begins",
  KeyE: "line ends",
  KeyT: "accent",
};

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
    label: "It begins with a dissolve, dip, blend, cut",
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
  {
    keys: "Alt H",
    label: "Match both sides of the cut",
    group: "Cut",
    on: ["alt+H"],
    placed: true,
    run: toggleMatching,
  },
  {
    keys: "Alt PgUp PgDn",
    label: "Scene before, next scene of the sequence",
    group: "Cut",
    on: ["alt+PageUp", "alt+PageDown"],
    run: (e) => void goToNextScene(e.key === "PageDown" ? 1 : -1),
  },
  {
    keys: "Alt A B E T",
    label: "Mark: action, line begins, ends, accent",
    group: "Cut",
    on: Object.keys(MARKS).map((code) => `alt+${code.replace("Key", "")}`),
    placed: true,
    run: (e) => markHere(MARKS[e.code]!),
  },
  {
    keys: "Shift Space",
    label: "Play and cut live: the number keys cut",
    group: "Cut",
    on: ["shift+space"],
    run: cutLive,
  },
];
