/** The scene as this window shows it: what it asks the server for, and what it makes of the answers. */
import { UnreachableError, viewScene } from "../api/client";
import type { PartChange, SceneAnswer, SceneView, View } from "../api/generated";
import { assembled, namesIn } from "./answered";
import type { Part } from "../api/part";
import { type Session, judgedThing, notify, session, setSession, thingNamed, workedCamera } from "./session";
import { changedBy, isChange } from "../api/partChanges";
import { knownWindowId } from "./windowId";
import { within } from "./within";

const JUDGE_AFTER_MS = 40;
/** Parts that are held beside those of the cameras: of earlier states, for undo and for going back and forth. */
const SPARE_PARTS = 500;

/** The scene of this window. Answers about another one come too late. */
let opened: string | null = null;
/** Names of the parts of all cameras as stored at a revision, by which the server knows them. */
let ofCameras: { revision: number | null; names: Set<string> } = { revision: null, names: new Set() };

/** Shows again what lies over the scene as it is stored. */
let showOver: () => void = () => {};
export const afterStored = (show: () => void): void => {
  showOver = show;
};

/** Whether something else is stored by now than lies under what is shown. */
let behind = false;
export const isBehind = (): boolean => behind;

export const openedScene = (): string | null => opened;

/** From now on answers are about this scene, or, with null, about none. */
export function turnTo(id: string | null): void {
  opened = id;
  ofCameras = { revision: null, names: new Set() };
}

/** What is looked at now; the answer brings only parts that are not held yet. */
export function currentView(): View {
  const state = session();
  return {
    window_id: knownWindowId(),
    within: within(),
    thing_id: judgedThing(state)?.id ?? null,
    joint: state.joint,
    frozen_frame: state.frozenFrame,
    matched_frame: state.matching?.first ?? null,
    laid_over: state.laidOver?.cameraId ?? null,
    also: state.looks.alsoArcs.filter((arc) => state.scene && thingNamed(state, arc.thing_id)),
    beside: state.beside && { character_id: state.beside.characterId, source: state.beside.source },
    camera_id: state.looking === "cut" ? null : (workedCamera(state)?.id ?? null),
    takes_changes: true,
    cameras_of_revision: ofCameras.revision,
    known_parts: [...state.parts.keys()].filter((name) => !ofCameras.names.has(name)),
  };
}

interface Taken {
  /** It is the scene as it is stored, and not as it would be after an edit in the hand. */
  stored?: boolean;
  /** Parts that are here already, of a scene that takes the place of another one. */
  held?: Map<string, Part>;
  /** What else changes in the same moment. */
  anew?: Partial<Session>;
}

/** Show what was answered. */
export function take(answer: SceneAnswer, { stored = true, held, anew = {} }: Taken = {}): void {
  if (answer.scene.id !== opened) return;
  const before = session();
  const waiting = anew.waiting ?? before.waiting;
  if (before.scene?.id === answer.scene.id && answer.scene.revision < before.scene.revision) {
    // An edit has overtaken this answer: what it was asked for is asked for again.
    void refreshView();
    return;
  }
  const parts = withParts(new Map([...before.parts, ...(held ?? [])]), answer.parts);
  if ([...answer.scene.cameras, answer.scene.shots].some((name) => !parts.has(name))) {
    // It counts on parts that were let go while it was on its way: all are asked for again.
    ofCameras = { revision: null, names: new Set() };
    void refreshView();
    return;
  }
  const scene = assembled(answer, parts);
  if (stored) {
    const names = new Set([...answer.scene.cameras, ...scene.cameras.flatMap((c) => [c.path, c.channels])]);
    ofCameras = { revision: answer.scene.revision, names };
  }
  const isUnderHand = stored && before.inHand && before.scene?.id === scene.id;
  behind = Boolean(isUnderHand);
  const shown = isUnderHand ? under(before.scene!, scene) : scene;
  const most = ofCameras.names.size + SPARE_PARTS;
  if (parts.size > most) {
    const used = new Set([
      ...ofCameras.names,
      ...namesIn(scene, answer.scene.cameras),
      ...namesIn(shown, []),
    ]);
    for (const name of [...parts.keys()]) {
      if (parts.size <= most) break;
      if (!used.has(name)) parts.delete(name);
    }
  }
  const { first, last } = scene;
  const frame = before.scene?.id === scene.id ? before.frame : first;
  setSession({
    ...anew,
    scene: shown,
    parts,
    connected: true,
    signedOut: false,
    frame: Math.max(first, Math.min(last, frame)),
    provisional: !held && (waiting || before.gesturing) ? before.provisional : null,
    drawn: before.drawn + 1,
  });
  if (stored && answer.scene.readings === null) judgeSoon();
  const fallback = scene.fallbacks[0];
  if (fallback && fallback !== before.scene?.fallbacks[0]) notify(fallback, "warning");
  if (stored) showOver();
}

/** What is in the hand stays in sight: only what is not worked out for it comes of what is stored. */
const under = (shown: SceneView, stored: SceneView): SceneView => {
  const { revision, arc, arc_judgement, also, readings, judged } = stored;
  return { ...shown, revision, arc, arc_judgement, also, readings, judged };
};

/** What is held, with what came in an answer: whole, or as what is different in it. */
export function withParts(held: Map<string, Part>, came: SceneAnswer["parts"]): Map<string, Part> {
  for (const [name, part] of Object.entries(came as Record<string, Part | PartChange>)) {
    const whole = isChange(part) ? changedBy(held.get(part.base), part) : part;
    if (whole) held.set(name, whole);
  }
  return held;
}

let judging: ReturnType<typeof setTimeout> | undefined;

/** The picture first: readings are asked for when no edit is on its way any more. */
function judgeSoon(): void {
  clearTimeout(judging);
  judging = setTimeout(() => void judge(), JUDGE_AFTER_MS);
}

async function judge(): Promise<void> {
  const id = opened;
  if (!id || session().waiting) return;
  try {
    const { scene, parts } = await viewScene(id, currentView());
    const now = session().scene;
    // Only of the scene as it is shown; a later edit asks again.
    if (id !== opened || now?.revision !== scene.revision) return;
    const { arc_judgement } = scene;
    const characters = session().inHand ? now.characters : scene.characters;
    setSession({
      scene: { ...now, characters, arc_judgement, readings: scene.readings ?? [], judged: true },
      parts: withParts(new Map(session().parts), parts),
    });
    showOver();
  } catch (error) {
    if (id === opened) report(error);
  }
}

let asked = 0;
let answered = 0;

/** Ask again for what is looked at: another joint, another frozen frame. Of answers that cross the later question's stays. */
export async function refreshView(): Promise<void> {
  const scene = session().scene;
  if (!scene) return;
  const question = ++asked;
  try {
    const answer = await viewScene(scene.id, currentView());
    if (question < answered) return;
    answered = question;
    take(answer);
  } catch (error) {
    if (scene.id === opened) report(error);
  }
}

export function report(error: unknown): void {
  if (error instanceof UnreachableError) setSession({ connected: false });
  notify(error instanceof Error ? error.message : String(error), "warning");
}
