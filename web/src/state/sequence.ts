/**
 * A sequence: scenes played one after the other. The next one is fetched while the one before is looked at, so that playing goes
 * on into it without a gap.
 */
import { getSequence, viewScene } from "../api/client";
import type { SceneAnswer, SequenceView } from "../api/generated";
import { clearOfEdits, goOnWith } from "./edits";
import { report, withParts } from "./shown";
import { getReadyToHear } from "./hearing";
import type { Part } from "../api/part";
import { type Session, notify, session, setSession } from "./session";
import { timecode } from "./timecode";
import { windowId } from "./windowId";

export type Strung = SequenceView["scenes"][number];

/** A scene that was fetched before it is shown, with all parts that it is shown with. */
export interface Ahead {
  sceneId: string;
  answer: SceneAnswer;
  parts: Map<string, Part>;
}

let ahead: Ahead | null = null;
let fetching: string | null = null;

export function placeIn({ sequence, scene }: Pick<Session, "sequence" | "scene">): number {
  return sequence?.scenes.findIndex((one) => one.scene_id === scene?.id) ?? -1;
}

/** The scene that comes so many places after the one that is shown; round at the ends. */
export function sceneAfter(state: Pick<Session, "sequence" | "scene">, by = 1): Strung | null {
  const count = state.sequence?.scenes.length ?? 0;
  const here = placeIn(state);
  return here < 0 || count < 2 ? null : state.sequence!.scenes[(here + by + count) % count]!;
}

/** How many frames of the sequence come before a frame of the scene that is shown. */
export function runningFrame(state: Pick<Session, "sequence" | "scene">, frame: number): number {
  const here = state.sequence?.scenes[placeIn(state)];
  if (!here) return 0;
  return here.begins + ((frame - here.first) * here.lasts) / (here.last - here.first + 1);
}

export function runningTimecode(state: Pick<Session, "sequence" | "scene">, frame: number): string {
  const code = state.sequence!.timecode;
  return timecode(code.starts_at + Math.floor(runningFrame(state, frame) + 1e-6), code.numbers, code.dropped);
}

/** Fetch the sequence anew: a scene of it may have become longer, or another window changed it. */
export async function refreshSequence(): Promise<void> {
  const { sequence } = session();
  if (!sequence) return;
  try {
    const fresh = await getSequence(sequence.id);
    if (session().sequence?.id === fresh.id) setSession({ sequence: fresh });
  } catch (error) {
    report(error);
  }
}

/** While it plays: what is heard in the scene that was fetched ahead is made ready. */
export function getReadyToGoOn(): void {
  if (ahead) getReadyToHear(ahead.answer.scene.sounds);
}

/** What was fetched ahead, for whoever draws it ready. */
export const fetchedAhead = () => ahead;

/** Fetch the scene that is played next. */
export async function fetchAhead(): Promise<void> {
  const next = sceneAfter(session());
  if (!next) return;
  const wanted = `${next.scene_id} ${next.revision}`;
  if (fetching === wanted) return;
  fetching = wanted;
  try {
    const fetched = await fetchScene(next.scene_id);
    if (fetching === wanted) ahead = fetched;
  } catch {
    fetching = null; // it is fetched when it is gone to
  }
}

async function fetchScene(sceneId: string): Promise<Ahead> {
  const held = session().parts;
  const answer = await viewScene(sceneId, {
    window_id: await windowId(),
    known_parts: [...held.keys()].slice(0, MOST_KNOWN),
    judged: false,
  });
  // What is held now may be let go until then.
  const parts = withParts(new Map(held), answer.parts);
  return { sceneId, answer, parts };
}

/** So many names a request may have. */
const MOST_KNOWN = 6000;

/** Go on into the scene that was fetched ahead; null where it is not there yet. Answers its first frame. */
export function goOn(): number | null {
  const next = sceneAfter(session());
  if (!next || ahead?.sceneId !== next.scene_id) return null;
  show(ahead);
  return session().scene?.first ?? null;
}

/** Show a frame of one of its scenes. */
export async function goToScene(sceneId: string, frame?: number): Promise<void> {
  if (session().scene?.id !== sceneId) {
    try {
      await clearOfEdits();
      show(ahead?.sceneId === sceneId ? ahead : await fetchScene(sceneId));
    } catch (error) {
      report(error);
      return;
    }
  }
  const { scene } = session();
  if (scene && frame !== undefined)
    setSession({ frame: Math.max(scene.first, Math.min(scene.last, Math.round(frame))) });
}

export async function goToNextScene(by: 1 | -1): Promise<void> {
  const next = sceneAfter(session(), by);
  if (next) await goToScene(next.scene_id);
  else if (session().sequence) notify("This is the only scene of the sequence.");
  else notify("This scene is looked at by itself: open a sequence from the Desk.");
}

/** What one works on in one scene means nothing in another. */
function show({ answer, parts }: Ahead): void {
  ahead = null;
  fetching = null;
  const { characters } = session().scene ?? { characters: [] };
  const anew = {
    looking: "cut" as const,
    cameraId: null,
    lastThrough: null,
    characterId: null,
    judgedPieceId: null,
    thingId: null,
    joint: sameJoint(characters[0]?.name, answer),
    frozenFrame: null,
    chosenKeys: null,
    provisional: null,
    coverage: null,
    matching: null,
    laidOver: null,
    trying: null,
    comparing: null,
    beside: null,
    range: null,
    roam: null,
  };
  goOnWith(answer, parts, anew);
  void fetchAhead();
}

/** The joint that is looked at stays so where the first character of both scenes has the same name. */
function sameJoint(name: string | undefined, { scene }: SceneAnswer): string | null {
  return scene.characters[0]?.name === name ? session().joint : null;
}
