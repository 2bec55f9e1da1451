/** What the window shows: the scene as the server answered, the parts it holds, and where one is looking. */
import { create } from "zustand";
import type {
  Inspection,
  MakeStandIn,
  CameraView,
  SequenceView,
  CharacterView,
  Refusal,
  SceneView,
  PieceView,
  RigSource,
} from "../api/generated";
import type { Edit } from "../api/client";
import type { Part } from "../api/part";
import type { ChosenKeys, CopiedKeys } from "./chosenKeys";
import type { Pose } from "../optics/pose";
import type { MeasuredPoint } from "./measuredPoint";
import { FRESH_LOOKS, type JudgingLooks } from "./looks";
import type { Refused } from "./unsent";
import type { Trying } from "./way";

export type Looking = "cut" | "camera" | "roam";
export type CompanionKind = "roam" | "plan" | "camera";
export type FocusTint = "off" | "tint" | "blur";
export type Guide = "thirds" | "centre" | "own";
export interface Companion {
  kind: CompanionKind;
  cameraId: string | null;
}
/** An own guide line: across the frame at a share of its height, or down it at a share of its width. */
export interface GuideLine {
  way: "across" | "down";
  at: number;
}
export type WorkStage = "set up" | "time" | "judge" | "step" | "hand over";
export const WORK_STAGES: WorkStage[] = ["set up", "time", "judge", "step", "hand over"];

export interface Notice {
  tone: "plain" | "warning";
  text: string;
}

export type ShownAs = "as it comes" | "clay" | "silhouette" | "plain body";
export interface Session {
  /** The sequence that the scene is looked at in; null: by itself. */
  sequence: SequenceView | null;
  /** Playing goes on into the next scene. */
  through: boolean;
  scene: SceneView | null;
  parts: Map<string, Part>;
  /** Edits that wait for the server: shown as unsaved until it has acknowledged them. */
  waiting: number;
  /** Edits that were refused and wait for somebody to decide. */
  refused: Refused[];
  refusedOpen: boolean;
  /** What has to be decided before an undo is done. */
  asking: Refusal | null;
  connected: boolean;
  signedOut: boolean;
  notice: Notice | null;

  frame: number;
  playing: boolean;
  loop: boolean;
  everyFrame: boolean;
  dropped: number;
  /** Playing range, both ends included; null plays the whole scene. */
  range: [number, number] | null;

  looking: Looking;
  /** The camera that was chosen on the Bench: looked through, or worked on while one roams. */
  cameraId: string | null;
  /** The camera that was looked through last by itself: what one cuts to. */
  lastThrough: string | null;
  /** It plays, and the number keys cut. */
  cuttingLive: boolean;
  characterId: string | null;
  /** A prop or set piece whose way over the screen is looked at; null: that of the character. */
  judgedPieceId: string | null;
  roam: Pose | null;
  /** A camera that is being moved by hand, shown until the server has answered. */
  provisional: Pose | null;
  /** Whether that camera is in the hand just now: then no answer takes it away. */
  gesturing: boolean;
  /** What is shown as it would change the scene, and not stored: in the hand, pointed at, or a version that is looked at. */
  inHand: Edit | null;

  workStage: WorkStage;
  joint: string | null;
  frozenFrame: number | null;
  chosenKeys: ChosenKeys | null;
  copiedKeys: CopiedKeys | null;
  /** Moving a camera sets keys. */
  recording: boolean;
  /** What the Sheet's right side shows; and of which channel one works on the curve. */
  sheetSide: SheetSide;
  /** Columns of keys in the Sheet that are folded. */
  foldedColumns: string[];
  curveChannel: string | null;

  /** Whether the Plan stands in the large place and the Picture among its companions. */
  largePlan: boolean;
  /** The camera for which a rail is being drawn on the Plan. */
  drawingRail: string | null;
  /** Counts how often a file was asked for. */
  choosingFile: number;
  /** What the file that was asked for is to take the place of; null: it comes in beside the others. */
  replacing: string | null;
  /** The character, prop or set piece that is worked on; null: the camera. */
  thingId: string | null;
  /** A file that may be a character's next version (null: it is to be found out whose), and one that is to be a scene. */
  versionAsked: { found: Inspection; characterId: string | null } | null;
  apart: Inspection | null;
  /** Files that have arrived and are being settled, one after the other. */
  arriving: Arriving[];
  showCompanions: boolean;
  companions: Companion[];
  /** Which cameras are drawn in Roam and on the Plan. */
  showCameras: "all" | "in use" | "none";
  guides: Guide[];
  guideLines: GuideLine[];
  focusTint: FocusTint;
  /** How fast hands and keys move a view, 1 is usual. */
  speed: number;
  /** Walking on the ground at this height, metres; null flies. */
  walkHeight: number | null;
  /** Two places that are measured between; null while not measuring. */
  measuring: MeasuredPoint[] | null;
  /** Cameras that play beside what is looked through, in step; "cut ID" is another cut. Null: none. */
  coverage: string[] | null;
  /** A cut whose two sides are looked at: the first frame of the shot that comes in; side by side or over each other. */
  matching: { first: number; over: boolean } | null;
  /** A second camera whose picture lies over the one that is looked at, by its share 0 to 1. */
  laidOver: { cameraId: string; share: number } | null;
  /** Ways to step and ride that are looked at side by side, over the Picture. */
  trying: Trying | null;
  /** Two saved views that are compared; the first is shown. */
  comparing: { cameraId: string; views: [string, string]; beside: boolean } | null;
  /** A version that is shown beside the one that is performed, and whether the two have changed places. */
  beside: { characterId: string; source: RigSource; name: string } | null;
  flipped: boolean;
  /** As it comes; form alone, without looks; or the pose alone, a plain body in the place of each character's mesh. */
  shownAs: ShownAs;
  showMask: boolean;
  showSafe: boolean;
  showArc: boolean;
  showOnion: boolean;
  looks: JudgingLooks;
  magnify: boolean;
  fullPicture: boolean;
  showBench: boolean;
  rowHeight: number;
  helpOpen: boolean;
  /** A number that changes whenever the Picture has something new to draw. */
  drawn: number;
}

/** Spacing and slip, the keys by groups of channels, their curves, or what is heard. */
export type SheetSide = "spacing" | "keys" | "curves" | "layers" | "sound";

/** A file that has come to the scene, and where on the ground it was let go. */
export interface Arriving {
  found: Inspection;
  at: { x: number; z: number };
  /** Of a stand-in: its shape, and its width, height and depth in metres. */
  standIn?: { shape: MakeStandIn["shape"]; size: [number, number, number] };
}

const STORED = "eddyfield.window";

function remembered(): Partial<Session> {
  try {
    return JSON.parse(localStorage.getItem(STORED) ?? "{}") as Partial<Session>;
  } catch {
    return {};
  }
}

const kept = remembered();

export const fresh: Session = {
  sequence: null,
  through: true,
  scene: null,
  parts: new Map(),
  waiting: 0,
  refused: [],
  refusedOpen: false,
  asking: null,
  connected: true,
  signedOut: false,
  notice: null,
  frame: 0,
  playing: false,
  loop: kept.loop ?? true,
  everyFrame: kept.everyFrame ?? false,
  dropped: 0,
  range: null,
  looking: "cut",
  cameraId: null,
  lastThrough: null,
  cuttingLive: false,
  characterId: null,
  judgedPieceId: null,
  roam: null,
  provisional: null,
  gesturing: false,
  inHand: null,
  workStage: "set up",
  joint: null,
  frozenFrame: null,
  chosenKeys: null,
  copiedKeys: null,
  recording: false,
  sheetSide: kept.sheetSide ?? "spacing",
  foldedColumns: kept.foldedColumns ?? [],
  curveChannel: null,
  largePlan: false,
  drawingRail: null,
  choosingFile: 0,
  replacing: null,
  thingId: null,
  versionAsked: null,
  apart: null,
  arriving: [],
  showCompanions: kept.showCompanions ?? false,
  companions: [
    { kind: "roam", cameraId: null },
    { kind: "camera", cameraId: null },
    { kind: "plan", cameraId: null },
  ],
  showCameras: kept.showCameras ?? "all",
  guides: kept.guides ?? [],
  guideLines: kept.guideLines ?? [],
  focusTint: "off",
  speed: kept.speed ?? 1,
  walkHeight: null,
  measuring: null,
  coverage: null,
  matching: null,
  laidOver: null,
  trying: null,
  comparing: null,
  beside: null,
  flipped: false,
  shownAs: kept.shownAs ?? "as it comes",
  showMask: kept.showMask ?? true,
  showSafe: kept.showSafe ?? true,
  showArc: kept.showArc ?? true,
  showOnion: kept.showOnion ?? false,
  looks: { ...FRESH_LOOKS, ...kept.looks, camera: "moves" },
  magnify: false,
  fullPicture: false,
  showBench: true,
  rowHeight: kept.rowHeight ?? 13,
  helpOpen: false,
  drawn: 0,
};

export const useSession = create<Session>(() => fresh);
export const session = useSession.getState;
export const setSession = useSession.setState;

/** One after the other by a key. */
export const SHEET_SIDES: SheetSide[] = ["spacing", "keys", "curves", "layers", "sound"];
export const SHOWN_AS: ShownAs[] = ["as it comes", "clay", "silhouette", "plain body"];

/** What a window keeps from one visit to the next. */
export const KEPT = [
  "loop",
  "everyFrame",
  "shownAs",
  "sheetSide",
  "foldedColumns",
  "showMask",
  "showSafe",
  "showArc",
  "showOnion",
  "looks",
  "rowHeight",
  "showCompanions",
  "showCameras",
  "guides",
  "guideLines",
  "speed",
] as const;

export function keptSettings(state: Session): Partial<Session> {
  return Object.fromEntries(KEPT.map((name) => [name, state[name]]));
}

useSession.subscribe((now, before) => {
  if (KEPT.every((name) => now[name] === before[name])) return;
  localStorage.setItem(STORED, JSON.stringify(keptSettings(now)));
});

export function part<T extends Part>(
  state: Pick<Session, "parts">,
  name: string | null | undefined,
): T | null {
  return name ? ((state.parts.get(name) as T | undefined) ?? null) : null;
}

/** The character one works on: the one that was chosen, else the first of the scene. */
export function chosenCharacter(
  state: Pick<Session, "scene"> & Partial<Pick<Session, "characterId">>,
): CharacterView | null {
  const characters = state.scene?.characters ?? [];
  return characters.find((c) => c.id === state.characterId) ?? characters[0] ?? null;
}

/** Whose way over the screen is looked at: a prop or set piece, else the chosen character. */
export function judgedThing(
  state: Pick<Session, "scene"> & Partial<Pick<Session, "characterId" | "judgedPieceId">>,
): CharacterView | PieceView | null {
  return state.scene?.pieces.find((p) => p.id === state.judgedPieceId) ?? chosenCharacter(state);
}

/** What is looked at so: a joint of a character, prop or set piece, a point on its mesh, or (null) nothing yet. */
export function judging(
  scene: Session["scene"],
  thingId: string,
  joint: string | null,
): Partial<Pick<Session, "joint" | "judgedPieceId" | "characterId">> {
  const isPiece = scene?.pieces.some((p) => p.id === thingId) ?? false;
  return isPiece ? { judgedPieceId: thingId, joint } : { judgedPieceId: null, characterId: thingId, joint };
}

export function thingNamed(
  { scene }: Pick<Session, "scene">,
  id: string | null | undefined,
): CharacterView | PieceView | null {
  return [...(scene?.characters ?? []), ...(scene?.pieces ?? [])].find((thing) => thing.id === id) ?? null;
}

export function cameraNamed(state: Pick<Session, "scene">, id: string | null | undefined): CameraView | null {
  return state.scene?.cameras.find((camera) => camera.id === id) ?? null;
}

export function cutCamera(state: Pick<Session, "scene" | "frame">): CameraView | null {
  const { scene, frame } = state;
  if (!scene) return null;
  return cameraNamed(state, scene.cut.find((span) => frame <= span.last)?.camera_id);
}

/** The camera that hands and Card work on: the cut's while one looks through the cut, else the one that was chosen. */
export function workedCamera(
  state: Pick<Session, "scene" | "frame" | "looking" | "cameraId">,
): CameraView | null {
  const cut = cutCamera(state);
  return state.looking === "cut" ? cut : (cameraNamed(state, state.cameraId) ?? cut);
}

export function playRange(state: Pick<Session, "scene" | "range">): [number, number] {
  const { scene, range } = state;
  if (!scene) return [0, 0];
  const [first, last] = range ?? [scene.first, scene.last];
  return [Math.max(first, scene.first), Math.min(last, scene.last)];
}

export function notify(text: string, tone: Notice["tone"] = "plain") {
  setSession({ notice: { text, tone } });
}
