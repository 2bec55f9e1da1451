/**
 * Edits on their way to the server. They are kept in order and in local storage until they are acknowledged, and sent
 * again after a break in the connection; each carries an id, so that none is done twice.
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
import type { CameraView, SceneAnswer, SceneView, View } from "../api/generated";
import { type Part, chosenCharacter, notify, session, setSession, workedCamera } from "./session";

type Way = "undo" | "redo";

interface Waiting {
  id: string;
  edit: Edit | Way;
}

const RETRY_MS = 1500;
/** Parts that are held beside those of the cameras: of earlier states, for undo and for going back and forth. */
const SPARE_PARTS = 500;
let queue: Waiting[] = [];
/** Names of the parts of all cameras as stored at a revision, by which the server knows them. */
let ofCameras: { revision: number | null; names: Set<string> } = { revision: null, names: new Set() };
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
    camera_id: state.looking === "cut" ? null : (workedCamera(state)?.id ?? null),
    cameras_of_revision: ofCameras.revision,
    held: [...state.parts.keys()].filter((name) => !ofCameras.names.has(name)),
  };
}

/** The scene with its cameras, which are sent as parts. */
function assembled(answer: SceneAnswer, parts: Map<string, Part>): SceneView {
  return { ...answer.scene, cameras: answer.scene.cameras.map((name) => parts.get(name) as CameraView) };
}

function take(answer: SceneAnswer, stored = true) {
  const before = session();
  if (before.scene?.id === answer.scene.id && answer.scene.revision < before.scene.revision) {
    // An edit has overtaken this answer: what it was asked for is asked for again.
    void refreshView();
    return;
  }
  const parts = new Map(before.parts);
  for (const [name, part] of Object.entries(answer.parts)) parts.set(name, part as Part);
  const scene = assembled(answer, parts);
  if (stored) {
    const names = new Set([...answer.scene.cameras, ...scene.cameras.map((c) => c.path)]);
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
    scene,
    parts,
    connected: true,
    frame: Math.max(first, Math.min(last, frame)),
    provisional: queue.length || before.gesturing ? before.provisional : null,
    drawn: before.drawn + 1,
  });
}

function namesIn(scene: SceneView, cameraViews: string[]): string[] {
  const { cameras, characters, set_pieces, arc, subjects } = scene;
  return [
    ...cameraViews,
    ...cameras.flatMap((c) => [c.path, ...c.views.map((v) => v.path)]),
    ...characters.flatMap((c) => [c.rig, c.motion, c.shown, c.strobing]),
    ...set_pieces.map((p) => p.rig),
    ...(arc ? [arc] : []),
    ...(subjects ? [subjects] : []),
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
  endPreview();
  enqueue(scene.id, change);
}

/** Take back the last edit, or bring it again: in its turn, after what is still on its way. */
export function undoOrRedo(way: Way): void {
  const scene = session().scene;
  if (scene) enqueue(scene.id, way);
}

function enqueue(sceneId: string, what: Edit | Way): void {
  queue.push({ id: crypto.randomUUID(), edit: what });
  remember(sceneId);
  void send(sceneId);
}

let previewing = false;
let newest: Edit | null = null;
let hand = 0;

/**
 * Show what an edit would do while it is in the hand. The newest one wins; nothing is stored until `edit` is called.
 */
export function preview(change: Edit): void {
  newest = change;
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
        if (mine !== hand) return;
        // Readings and arc are worked out when the hand lets go; until then those there are stay.
        answer.scene.readings = scene.readings;
        answer.scene.arc = scene.arc;
        take(answer, false);
      } catch (error) {
        if (mine === hand) told(error);
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

async function send(sceneId: string): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    while (queue.length && session().scene?.id === sceneId) {
      const [next] = queue as [Waiting];
      try {
        const answer = await sent(sceneId, next);
        queue.shift();
        if (answer) take(answer);
        remember(sceneId);
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
        // What was previewed is not so; and after a conflict the scene is another one.
        if (error instanceof RefusedError) await refreshView();
      }
    }
  } finally {
    sending = false;
  }
}

/** The answer to what waited; null where there is nothing to undo or redo. */
async function sent(sceneId: string, { id, edit }: Waiting): Promise<SceneAnswer | null> {
  const { revision, ...scene } = session().scene!;
  const view = currentView();
  if (edit !== "undo" && edit !== "redo") return sendEdit(sceneId, { revision, request_id: id, edit, view });
  const name = scene[edit];
  if (!name) {
    notify(edit === "undo" ? "There is nothing more to undo." : "There is nothing to redo.");
    return null;
  }
  const answer = await replay(sceneId, edit, revision, view);
  notify(`${edit === "undo" ? "Undone" : "Done again"}: ${name}`);
  return answer;
}

export function told(error: unknown): void {
  if (error instanceof UnreachableError) setSession({ connected: false });
  notify(error instanceof Error ? error.message : String(error), "warning");
}
