/**
 * Edits on their way to the server. They are kept in order and in local storage until they are acknowledged, and sent
 * again after a break in the connection; each carries an id, so that none is done twice.
 */
import { type Edit, RefusedError, UnreachableError, replay, sendEdit, viewScene } from "../api/client";
import type { SceneAnswer, View } from "../api/generated";
import { type Part, chosenCharacter, notify, session, setSession } from "./session";

interface Waiting {
  id: string;
  edit: Edit;
}

const RETRY_MS = 1500;
const MOST_PARTS = 400;
let queue: Waiting[] = [];
let sending = false;

function storageName(sceneId: string): string {
  return `eddyfield.unsent.${sceneId}`;
}

function remember(sceneId: string) {
  if (queue.length) localStorage.setItem(storageName(sceneId), JSON.stringify(queue));
  else localStorage.removeItem(storageName(sceneId));
  setSession({ waiting: queue.length });
}

/** What is looked at now; the answer brings only parts that are not held yet. */
export function currentView(): View {
  const state = session();
  return {
    character_id: chosenCharacter(state)?.id ?? null,
    joint: state.joint,
    frozen_frame: state.frozenFrame,
    held: [...state.parts.keys()],
  };
}

function take(answer: SceneAnswer) {
  const before = session();
  const parts = new Map(before.parts);
  for (const [name, part] of Object.entries(answer.parts)) parts.set(name, part as Part);
  const used = new Set(namesIn(answer));
  for (const name of [...parts.keys()]) {
    if (parts.size <= MOST_PARTS) break;
    if (!used.has(name)) parts.delete(name);
  }
  const { first, last } = answer.scene;
  const frame = before.scene?.id === answer.scene.id ? before.frame : first;
  setSession({
    scene: answer.scene,
    parts,
    connected: true,
    frame: Math.max(first, Math.min(last, frame)),
    provisional: queue.length || before.gesturing ? before.provisional : null,
    drawn: before.drawn + 1,
  });
}

function namesIn(answer: SceneAnswer): string[] {
  const { cameras, characters, set_pieces, arc } = answer.scene;
  return [
    ...cameras.map((c) => c.path),
    ...characters.flatMap((c) => [c.rig, c.motion, c.shown, c.strobing]),
    ...set_pieces.map((p) => p.rig),
    ...(arc ? [arc] : []),
  ];
}

/** Open a scene, sending first what an earlier window left unsent. */
export async function openScene(id: string): Promise<void> {
  take(await viewScene(id, { held: [] }));
  try {
    queue = JSON.parse(localStorage.getItem(storageName(id)) ?? "[]") as Waiting[];
  } catch {
    queue = [];
  }
  setSession({ waiting: queue.length });
  void send(id);
}

/** Ask again for what is looked at: another joint, another frozen frame. */
export async function refreshView(): Promise<void> {
  const scene = session().scene;
  if (!scene) return;
  try {
    take(await viewScene(scene.id, currentView()));
  } catch (error) {
    told(error);
  }
}

/** Change the scene. */
export function edit(change: Edit): void {
  const scene = session().scene;
  if (!scene) return;
  queue.push({ id: crypto.randomUUID(), edit: change });
  remember(scene.id);
  void send(scene.id);
}

async function send(sceneId: string): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    while (queue.length && session().scene?.id === sceneId) {
      const [next] = queue as [Waiting];
      const revision = session().scene!.revision;
      try {
        const answer = await sendEdit(sceneId, {
          revision,
          request_id: next.id,
          edit: next.edit,
          view: currentView(),
        });
        queue.shift();
        remember(sceneId);
        take(answer);
      } catch (error) {
        if (error instanceof UnreachableError) {
          setSession({ connected: false });
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
          continue;
        }
        queue = [];
        remember(sceneId);
        setSession({ provisional: null, drawn: session().drawn + 1 });
        told(error);
        if (error instanceof RefusedError && error.status === 409) await refreshView();
      }
    }
  } finally {
    sending = false;
  }
}

export async function undoOrRedo(way: "undo" | "redo"): Promise<void> {
  const scene = session().scene;
  if (!scene || queue.length) return;
  const name = scene[way];
  if (!name) {
    notify(way === "undo" ? "There is nothing more to undo." : "There is nothing to redo.");
    return;
  }
  try {
    take(await replay(scene.id, way, scene.revision, currentView()));
    notify(`${way === "undo" ? "Undone" : "Done again"}: ${name}`);
  } catch (error) {
    told(error);
    if (error instanceof RefusedError && error.status === 409) await refreshView();
  }
}

export function told(error: unknown): void {
  if (error instanceof UnreachableError) setSession({ connected: false });
  notify(error instanceof Error ? error.message : String(error), "warning");
}
