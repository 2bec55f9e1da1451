/** What the window shows: the scene as the server answered, the parts it holds, and where one is looking. */
import { create } from "zustand";
import type {
  ArcPart,
  CameraPart,
  CharacterView,
  MotionPart,
  RigPart,
  SceneView,
  ShownPart,
  StrobingPart,
} from "../api/generated";
import type { Pose } from "../picture/pose";

export type Part = RigPart | MotionPart | ShownPart | StrobingPart | CameraPart | ArcPart;
export type WorkStage = "set up" | "time" | "judge" | "step" | "hand over";
export const WORK_STAGES: WorkStage[] = ["set up", "time", "judge", "step", "hand over"];

export interface Notice {
  tone: "plain" | "warning";
  text: string;
}

export interface Session {
  scene: SceneView | null;
  parts: Map<string, Part>;
  /** Edits that wait for the server: shown as unsaved until it has acknowledged them. */
  waiting: number;
  connected: boolean;
  notice: Notice | null;

  frame: number;
  playing: boolean;
  loop: boolean;
  everyFrame: boolean;
  dropped: number;
  /** Playing range, both ends included; null plays the whole scene. */
  range: [number, number] | null;

  looking: "cut" | "roam";
  roam: Pose | null;
  /** A camera that is being moved by hand, shown until the server has answered. */
  provisional: Pose | null;
  /** Whether that camera is in the hand just now: then no answer takes it away. */
  gesturing: boolean;

  workStage: WorkStage;
  joint: string | null;
  frozenFrame: number | null;
  selectedKey: string | null;

  showMask: boolean;
  showSafe: boolean;
  showArc: boolean;
  showOnion: boolean;
  magnify: boolean;
  fullPicture: boolean;
  rowHeight: number;
  helpOpen: boolean;
  /** A number that changes whenever the Picture has something new to draw. */
  drawn: number;
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
  scene: null,
  parts: new Map(),
  waiting: 0,
  connected: true,
  notice: null,
  frame: 0,
  playing: false,
  loop: kept.loop ?? true,
  everyFrame: kept.everyFrame ?? false,
  dropped: 0,
  range: null,
  looking: "cut",
  roam: null,
  provisional: null,
  gesturing: false,
  workStage: "set up",
  joint: null,
  frozenFrame: null,
  selectedKey: null,
  showMask: kept.showMask ?? true,
  showSafe: kept.showSafe ?? true,
  showArc: kept.showArc ?? true,
  showOnion: kept.showOnion ?? false,
  magnify: false,
  fullPicture: false,
  rowHeight: kept.rowHeight ?? 13,
  helpOpen: false,
  drawn: 0,
};

export const useSession = create<Session>(() => fresh);
export const session = useSession.getState;
export const setSession = useSession.setState;

useSession.subscribe((now, before) => {
  const names = ["loop", "everyFrame", "showMask", "showSafe", "showArc", "showOnion", "rowHeight"] as const;
  if (names.every((name) => now[name] === before[name])) return;
  localStorage.setItem(STORED, JSON.stringify(Object.fromEntries(names.map((name) => [name, now[name]]))));
});

export function part<T extends Part>(
  state: Pick<Session, "parts">,
  name: string | null | undefined,
): T | null {
  return name ? ((state.parts.get(name) as T | undefined) ?? null) : null;
}

/** The character one works on: the first of the scene, for now the only one. */
export function chosenCharacter(state: Pick<Session, "scene">): CharacterView | null {
  return state.scene?.characters[0] ?? null;
}

export function cutCamera(state: Pick<Session, "scene" | "frame">) {
  const { scene, frame } = state;
  if (!scene) return null;
  let id = scene.cut[0]?.camera_id;
  for (const entry of scene.cut) if (entry.first <= frame) id = entry.camera_id;
  return scene.cameras.find((camera) => camera.id === id) ?? null;
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
