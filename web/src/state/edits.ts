/**
 * Edits on their way to the server. They are kept in order until they are acknowledged, and sent again after a break in the
 * connection; each carries an id, so that none is done twice, and the revision that it was made on, so that none is done on
 * what another window has made of the scene. What is refused for that waits in a list for somebody to decide.
 */
import {
  type Edit,
  RefusedError,
  UnreachableError,
  previewEdit,
  replay,
  sendEdit,
  viewScene,
} from "../api/client";
import type { SceneAnswer, View } from "../api/generated";
import { type Part, type Session, judgedThing, notify, session, setSession, workedCamera } from "./session";
import { assembled, namesIn } from "./answered";
import type { Heard } from "../api/changes";
import { type Waiting, type Way, store, takeOver } from "./unsent";
import { asRecorded, tellRecorded } from "./recording";
import { knownWindowId, windowId } from "./windowId";

const RETRY_MS = 1500;
const [LOOK_MS, MOST_WAIT_MS] = [20, 3000];
const JUDGE_AFTER_MS = 40;
/** Parts that are held beside those of the cameras: of earlier states, for undo and for going back and forth. */
const SPARE_PARTS = 500;
const [SIGNED_OUT, CONFLICT, ASKS, DISK_FULL] = [401, 409, 428, 507];
let queue: Waiting[] = [];
/** The scene of this window. Answers about another one come too late. */
let opened: string | null = null;
/** Names of the parts of all cameras as stored at a revision, by which the server knows them. */
let ofCameras: { revision: number | null; names: Set<string> } = { revision: null, names: new Set() };
let sending = false;

function remember(sceneId: string) {
  if (sceneId !== opened) return;
  store(sceneId, queue, session().refused);
  setSession({ waiting: queue.length });
}

/** What is looked at now; the answer brings only parts that are not held yet. */
export function currentView(): View {
  const state = session();
  return {
    window_id: knownWindowId(),
    thing_id: judgedThing(state)?.id ?? null,
    joint: state.joint,
    frozen_frame: state.frozenFrame,
    matched_frame: state.matching?.first ?? null,
    beside: state.beside && { character_id: state.beside.characterId, source: state.beside.source },
    camera_id: state.looking === "cut" ? null : (workedCamera(state)?.id ?? null),
    cameras_of_revision: ofCameras.revision,
    known_parts: [...state.parts.keys()].filter((name) => !ofCameras.names.has(name)),
  };
}

function take(answer: SceneAnswer, stored = true, held?: Map<string, Part>, anew: Partial<Session> = {}) {
  if (answer.scene.id !== opened) return;
  const before = session();
  if (before.scene?.id === answer.scene.id && answer.scene.revision < before.scene.revision) {
    // An edit has overtaken this answer: what it was asked for is asked for again.
    void refreshView();
    return;
  }
  const parts = new Map([...before.parts, ...(held ?? [])]);
  for (const [name, part] of Object.entries(answer.parts)) parts.set(name, part as Part);
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
  const most = ofCameras.names.size + SPARE_PARTS;
  if (parts.size > most) {
    const used = new Set([...ofCameras.names, ...namesIn(scene, answer.scene.cameras)]);
    for (const name of [...parts.keys()]) {
      if (parts.size <= most) break;
      if (!used.has(name)) parts.delete(name);
    }
  }
  const { first, last } = scene;
  const frame = before.scene?.id === scene.id ? before.frame : first;
  setSession({
    ...anew,
    scene,
    parts,
    connected: true,
    signedOut: false,
    frame: Math.max(first, Math.min(last, frame)),
    provisional: !held && (queue.length || before.gesturing) ? before.provisional : null,
    drawn: before.drawn + 1,
  });
  if (stored && answer.scene.readings === null) judgeSoon();
  const fallback = scene.fallbacks[0];
  if (fallback && fallback !== before.scene?.fallbacks[0]) notify(fallback, "warning");
}

/** Open a scene, sending first what an earlier window left unsent. */
export async function openScene(id: string): Promise<void> {
  opened = id;
  queue = [];
  const answer = await viewScene(id, { window_id: await windowId(), known_parts: [] });
  if (opened !== id) return;
  const left = await takeOver(id);
  if (opened !== id) return;
  queue = left.waiting;
  setSession({ waiting: queue.length, refused: left.refused });
  // Only now: what is done as soon as the scene is there goes behind what was left.
  take(answer);
  void send(id);
}

/** Another scene in the place of the one that was open, of which all parts are here already; what else changes with it. */
export function goOnWith(answer: SceneAnswer, parts: Map<string, Part>, anew: Partial<Session>): void {
  const id = answer.scene.id;
  closeScene();
  opened = id;
  ofCameras = { revision: null, names: new Set() };
  take(answer, true, parts, { ...anew, waiting: 0, refused: [] });
  void takeOver(id).then((left) => {
    if (opened !== id) return;
    queue = [...left.waiting, ...queue];
    setSession({ waiting: queue.length, refused: left.refused });
    void send(id);
  });
}

/** Once everything that is on its way to the scene has been answered, or it has waited for some seconds. */
export async function clearOfEdits(): Promise<void> {
  for (let waited = 0; queue.length && waited < MOST_WAIT_MS; waited += LOOK_MS)
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
}

/** Leave the scene: what is still on its way to it is kept, and answers are not waited for. */
export function closeScene(): void {
  opened = null;
  queue = [];
}

let judging: ReturnType<typeof setTimeout> | undefined;

/** The picture first: readings are asked for when no edit is on its way any more. */
function judgeSoon(): void {
  clearTimeout(judging);
  judging = setTimeout(() => void judge(), JUDGE_AFTER_MS);
}

async function judge(): Promise<void> {
  const id = opened;
  if (!id || queue.length) return;
  try {
    const { scene, parts } = await viewScene(id, currentView());
    const now = session().scene;
    // Only of the scene as it is shown; a later edit asks again.
    if (id !== opened || now?.revision !== scene.revision) return;
    const held = new Map(session().parts);
    for (const [name, part] of Object.entries(parts)) held.set(name, part as Part);
    const { characters, arc_judgement } = scene;
    setSession({ scene: { ...now, characters, arc_judgement, readings: scene.readings ?? [] }, parts: held });
  } catch (error) {
    if (id === opened) report(error);
  }
}

/** Ask again for what is looked at: another joint, another frozen frame. */
export async function refreshView(): Promise<void> {
  const scene = session().scene;
  if (!scene) return;
  try {
    take(await viewScene(scene.id, currentView()));
  } catch (error) {
    if (scene.id === opened) report(error);
  }
}

/** Another window has changed the scene, or may have: show it as it is now, and say who did what. */
export function heardOfChange(what: Heard): void {
  const scene = session().scene;
  if (!scene || scene.id !== opened) return;
  if (what === "listening") {
    void follow(true);
    return;
  }
  if (what.scene_id !== opened || what.window_id === knownWindowId() || what.revision <= scene.revision)
    return;
  const who = what.who || "Another window";
  const did = { done: "", undone: "undone: ", redone: "done again: " }[what.way];
  notify(`${who}: ${did}${what.edit}${what.remark && `. ${what.remark}`}`);
  void follow();
}

/** Take what others have made of the scene; `unheard`, nobody has told of it yet. What is on its way will meet it by itself. */
async function follow(unheard = false): Promise<void> {
  const id = opened;
  if (!id || queue.length) return;
  try {
    const answer = await viewScene(id, { ...currentView(), judged: false });
    const known = session().scene?.revision ?? answer.scene.revision;
    take(answer);
    if (unheard && answer.scene.revision > known) notify("Another window has changed the scene.");
  } catch (error) {
    // A window that is only looking on keeps what it has, and is told when it changes something.
    if (id === opened && error instanceof UnreachableError) setSession({ connected: false });
  }
}

/** Change the scene. */
export function edit(change: Edit): void {
  const scene = session().scene;
  if (!scene) return;
  const made = asRecorded(change);
  endPreview();
  endComparing(made);
  enqueue(scene.id, made);
  tellRecorded(made);
}

/** Whoever changes a camera sees it as it is, and no longer as a saved view has it. */
function endComparing(change: Edit): void {
  const { comparing } = session();
  const isOfIt = "camera_id" in change && change.camera_id === comparing?.cameraId;
  if (isOfIt && !/ view$/.test(change.edit)) setSession({ comparing: null });
}

/** Take back the last edit, or bring it again: in its turn, after what is still on its way. */
export function undoOrRedo(way: Way): void {
  const scene = session().scene;
  if (scene) enqueue(scene.id, way);
}

/** Undo although what others did stands on it, and goes along. */
export function undoOfOthers(): void {
  const scene = session().scene;
  setSession({ asking: null });
  if (scene) enqueue(scene.id, "undo", true);
}

function enqueue(sceneId: string, what: Edit | Way, ofOthers = false): void {
  const last = queue.at(-1);
  // What is made while others are on their way is made on what they will make.
  const revision = last ? last.revision + 1 : session().scene!.revision;
  queue.push({ id: crypto.randomUUID(), edit: what, revision, ofOthers, kept: !session().connected });
  remember(sceneId);
  void send(sceneId);
}

/** Make a refused edit again, on the scene as it is now. */
export function tryAgain(id: string): void {
  const found = session().refused.find((r) => r.id === id);
  giveUp(id);
  if (found && opened) enqueue(opened, found.edit);
}

/** Forget a refused edit. */
export function giveUp(id: string): void {
  setSession({ refused: session().refused.filter((r) => r.id !== id) });
  if (opened) remember(opened);
}

function setAside(refused: Waiting[], reason: string): void {
  setSession({ refused: [...session().refused, ...refused.map((r) => ({ ...r, reason }))] });
}

let previewing = false;
let newest: Edit | null = null;
let hand = 0;

/**
 * Show what an edit would do while it is in the hand. The newest one wins; nothing is stored until `edit` is called.
 */
export function preview(change: Edit): void {
  endComparing(change);
  newest = asRecorded(change);
  if (!previewing) void runPreviews(hand);
}

async function runPreviews(mine: number): Promise<void> {
  previewing = true;
  try {
    while (newest && mine === hand) {
      const change = newest;
      newest = null;
      const scene = session().scene;
      if (!scene) return;
      try {
        const answer = await previewEdit(scene.id, { edit: change, view: currentView() });
        if (mine !== hand || scene.id !== opened) return;
        // Readings and arc are worked out when the hand lets go; until then those there are stay.
        answer.scene.arc = scene.arc;
        answer.scene.arc_judgement = scene.arc_judgement;
        take(answer, false);
      } catch (error) {
        if (mine === hand) report(error);
      }
    }
  } finally {
    previewing = false;
  }
}

/** The hand lets go: previews that are still on their way no longer count. */
export function endPreview(): void {
  hand += 1;
  newest = null;
}

/** Nothing comes of what was in the hand: the scene is shown as it is stored. */
export function cancelPreview(): void {
  endPreview();
  setSession({ provisional: null });
  void refreshView();
}

async function send(sceneId: string): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    while (queue.length && opened === sceneId) {
      const [next] = queue as [Waiting];
      try {
        const answer = await sent(sceneId, next);
        if (opened !== sceneId) return; // it stays in the store, and is not done twice
        queue.shift();
        if (answer) {
          shiftRevisions(next.revision, answer.scene.revision);
          take(answer);
        } else shiftRevisions(next.revision, next.revision);
        remember(sceneId);
      } catch (error) {
        if (opened !== sceneId) return;
        if (keepsWaiting(error)) {
          for (const waiting of queue) waiting.kept = true;
          remember(sceneId);
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
          continue;
        }
        await refused(sceneId, next, error);
      }
    }
  } finally {
    sending = false;
  }
  if (queue.length && opened && opened !== sceneId) void send(opened);
}

/** The edits behind one that was acknowledged were made on what it made: on the very next revision, or, where it changed
 *  nothing, on its own. Where the scene has gone on farther than that, they will meet a conflict, as they should. */
function shiftRevisions(madeOn: number, answered: number): void {
  const shift = Math.min(answered, madeOn + 1) - (madeOn + 1);
  if (shift) for (const waiting of queue) waiting.revision += shift;
}

/** Whether an edit is to be sent again by itself, with what is told meanwhile. */
function keepsWaiting(error: unknown): boolean {
  if (error instanceof UnreachableError) {
    setSession({ connected: false });
    return true;
  }
  if (!(error instanceof RefusedError)) return false;
  if (error.status === SIGNED_OUT) {
    setSession({ signedOut: true });
    return true;
  }
  if (error.status === DISK_FULL) {
    notify(error.message, "warning");
    return true;
  }
  return false;
}

async function refused(sceneId: string, next: Waiting, error: unknown): Promise<void> {
  const reason = error instanceof Error ? error.message : String(error);
  if (error instanceof RefusedError && error.status === CONFLICT) {
    // What came after it was made on it.
    setAside(queue, reason);
    queue = [];
  } else {
    queue.shift();
    if (next.kept) setAside([next], reason);
    shiftRevisions(next.revision, next.revision);
  }
  remember(sceneId);
  setSession({ provisional: null, drawn: session().drawn + 1 });
  if (error instanceof RefusedError && error.status === ASKS) {
    setSession({ asking: error.refusal });
    return;
  }
  report(error);
  // What was previewed is not so; and after a conflict the scene is another one.
  if (error instanceof RefusedError) await refreshView();
}

/** The answer to what waited; null where there is nothing to undo or redo. */
async function sent(sceneId: string, { id, edit, revision, ofOthers }: Waiting): Promise<SceneAnswer | null> {
  const view = { ...currentView(), judged: false };
  if (edit !== "undo" && edit !== "redo") return sendEdit(sceneId, { revision, request_id: id, edit, view });
  const name = session().scene![edit];
  if (!name) {
    notify(edit === "undo" ? "There is nothing more to undo." : "There is nothing to redo.");
    return null;
  }
  const answer = await replay(sceneId, edit, {
    revision,
    request_id: id,
    of_others: ofOthers ?? false,
    view,
  });
  notify(`${edit === "undo" ? "Undone" : "Done again"}: ${name}`);
  return answer;
}

export function report(error: unknown): void {
  if (error instanceof UnreachableError) setSession({ connected: false });
  notify(error instanceof Error ? error.message : String(error), "warning");
}
