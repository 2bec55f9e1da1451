/** The keys for what is looked through. */
import { placeViewFraming, placeViewFrom } from "../picture/gestures";
import { takeLive } from "../state/cutting";
import { toggleCoverage } from "../state/coverage";
import { changePlaces, toggleLaidOver } from "../state/laidOver";
import { session, setSession } from "../state/session";
import {
  type Side,
  lookThroughCut,
  lookThroughNext,
  lookThroughNumber,
  roamFromHere,
  toggleRoam,
} from "../state/looking";
import { toggleFullPicture } from "./fullScreen";
import type { Listed } from "./shortcut";

const PLACEMENTS: Side[] = ["front", "left", "right", "back", "three-quarter", "above", "below"];
const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const BY_DIGIT = DIGITS.length;
export const withAlt = (digit: string) => `alt+Digit${digit}`;
/** While one cuts live the numbers cut. */
const lookOrCut = (number: number) => (session().cuttingLive ? takeLive(number) : lookThroughNumber(number));
const digitOf = (event: KeyboardEvent) => Number(event.code.slice(-1));

export const LOOKING: Listed[] = [
  { keys: "R", label: "Roam, and back", group: "Looking", on: ["R"], run: toggleRoam },
  {
    keys: "Shift R",
    label: "Roam on from where the camera is",
    group: "Looking",
    on: ["shift+R"],
    run: roamFromHere,
  },
  {
    keys: "1 … 9",
    label: "Look through that camera of the Bench",
    group: "Looking",
    on: DIGITS,
    run: (e) => lookOrCut(Number(e.key)),
  },
  {
    keys: "Shift 1 … 9",
    label: "Through the tenth, and so on",
    group: "Looking",
    on: DIGITS.map((digit) => `shift+Digit${digit}`),
    placed: true,
    run: (e) => lookOrCut(BY_DIGIT + digitOf(e)),
  },
  {
    keys: "J, Shift J",
    label: "Look through the next camera of the Bench, the one before",
    group: "Looking",
    on: ["J", "shift+J"],
    run: (e) => lookThroughNext(e.shiftKey ? -1 : 1),
  },
  { keys: "0", label: "Look through the cut", group: "Looking", on: ["0"], run: lookThroughCut },
  {
    keys: "Alt V",
    label: "Coverage: up to three more cameras, in step",
    group: "Looking",
    on: ["alt+V"],
    placed: true,
    run: toggleCoverage,
  },
  {
    keys: "Alt L, Shift L",
    label: "Another camera laid over; the two change places",
    group: "Looking",
    on: ["alt+L", "shift+L"],
    placed: true,
    run: (e) => (e.altKey ? toggleLaidOver() : changePlaces()),
  },
  {
    keys: "V",
    label: "Companion views beside the Picture",
    group: "Looking",
    on: ["V"],
    run: () => setSession({ showCompanions: !session().showCompanions }),
  },
  {
    keys: "Alt 1 … 7",
    label: "Place the view: front, left, right, back, ¾, above, below",
    group: "Looking",
    on: DIGITS.slice(0, 7).map(withAlt),
    placed: true,
    run: (e) => placeViewFrom(PLACEMENTS[digitOf(e) - 1]!),
  },
  {
    keys: "Alt 8",
    label: "Frame the whole body",
    group: "Looking",
    on: [withAlt("8")],
    placed: true,
    run: () => placeViewFraming("body"),
  },
  {
    keys: "Alt 9",
    label: "Frame the head",
    group: "Looking",
    on: [withAlt("9")],
    placed: true,
    run: () => placeViewFraming("head"),
  },
  {
    keys: "Z",
    label: "Magnifier: delivery pixels one to one",
    group: "Looking",
    on: ["Z"],
    run: () => setSession({ magnify: !session().magnify }),
  },
  {
    keys: "Enter",
    label: "Picture over the whole screen, and back",
    group: "Looking",
    on: ["Enter"],
    run: toggleFullPicture,
  },
];
