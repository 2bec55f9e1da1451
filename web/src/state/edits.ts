/**
 * Edits on their way to the server. They are kept in order until they are acknowledged, and sent again after a break in the
 * connection; each carries an id, so that none is done twice, and the revision that it was made on, so that none is done on
 * what another window has made of the scene. What is refused for that waits in a list for somebody to decide.
 */
import { type Edit, RefusedError, UnreachableError, replay, sendEdit, viewScene } from "../api/client";
import type { SceneAnswer } from "../api/generated";
import { tellHowFar } from "./correcting";
import { endComparing, endPreview } from "./previews";
import { asRecorded, tellRecorded } from "./recording";
import type { Part } from "../api/part";
import { type Session, notify, session, setSession } from "./session";
import { currentView, openedScene, refreshView, report, take, turnTo } from "./shown";
import { type Waiting, type Way, store, takeOver } from "./unsent";
import { windowId } from "./windowId";
import { within } from "./within";

const RETRY_MS = 1500;
const [LOOK_MS, MOST_WAIT_MS] = [20, 3000];
const [SIGNED_OUT, CONFLICT, ASKS, DISK_FULL] = [401, 409, 428, 507];
let queue: Waiting[] = [];
let sending = false;

function remember(sceneId: string) {
  if (sceneId !== openedScene()) return;
  store(sceneId, queue, session().refused);
  setSession({ waiting: queue.length });
}

/** Open a scene, sending first what an earlier window left unsent. */
export async function openScene(id: string): Promise<void> {
  leaveFor(id);
  const answer = await viewScene(id, {
    window_id: await windowId(),
    within: within(),
    judged: false, // the picture first
    known_parts: [],
  });
  if (openedScene() !== id) return;
  const left = await takeOver(id);
  if (openedScene() !== id) return;
  queue = left.waiting;
  setSession({ waiting: queue.length, refused: left.refused });
  // Only now: what is done as soon as the scene is there goes behind what was left.
  take(answer);
  void send(id);
}

/** Another scene in the place of the one that was open, of which all parts are here already; what else changes with it. */
export function goOnWith(answer: SceneAnswer, parts: Map<string, Part>, anew: Partial<Session>): void {
  const id = answer.scene.id;
  leaveFor(id);
  take(answer, { held: parts, anew: { ...anew, waiting: 0, refused: [] } });
  void takeOver(id).then((left) => {
    if (openedScene() !== id) return;
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
  leaveFor(null);
}

/** Nothing of the scene that was open is in the hand or on its way any more. */
function leaveFor(id: string | null): void {
  turnTo(id);
  queue = [];
  endPreview();
}

/** Change the scene. */
export function edit(change: Edit): void {
  const scene = session().scene;
  if (!scene) return;
  const made = asRecorded(change);
  tellHowFar(made);
  endPreview();
  endComparing(made);
  enqueue(scene.id, made);
  tellRecorded(made);
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
  const sceneId = openedScene();
  if (found && sceneId) enqueue(sceneId, found.edit);
}

/** Forget a refused edit. */
export function giveUp(id: string): void {
  setSession({ refused: session().refused.filter((r) => r.id !== id) });
  const sceneId = openedScene();
  if (sceneId) remember(sceneId);
}

function setAside(refused: Waiting[], reason: string): void {
  setSession({ refused: [...session().refused, ...refused.map((r) => ({ ...r, reason }))] });
}

async function send(sceneId: string): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    while (queue.length && openedScene() === sceneId) {
      const [next] = queue as [Waiting];
      try {
        const answer = await sent(sceneId, next);
        if (openedScene() !== sceneId) return; // it stays in the store, and is not done twice
        queue.shift();
        shiftRevisions(next.revision, answer?.scene.revision ?? next.revision);
        // With the scene itself: nobody is to see that nothing is on its way any more before what came of it is there.
        if (answer) take(answer, { anew: { waiting: queue.length } });
        remember(sceneId);
      } catch (error) {
        if (openedScene() !== sceneId) return;
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
  const now = openedScene();
  if (queue.length && now && now !== sceneId) void send(now);
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
