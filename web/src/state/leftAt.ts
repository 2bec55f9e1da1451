/** Where a scene was left, so that it opens there again: frame, camera, joint. Kept by the browser. */
import { type Session, session, setSession, useSession } from "./session";

const FIELDS = ["frame", "looking", "cameraId", "characterId", "joint"] as const;
type Left = Pick<Session, (typeof FIELDS)[number]>;
const WAIT_MS = 400;
const nameOf = (sceneId: string) => `eddyfield.left.${sceneId}`;

/** Bring a scene that was just opened to where it was left; says whether something else is looked at now. */
export function goToWhereItWasLeft(sceneId: string): boolean {
  const { scene } = session();
  const left = read(sceneId);
  if (!left || !scene) return false;
  const camera = scene.cameras.find((c) => c.id === left.cameraId);
  const character = scene.characters.find((c) => c.id === left.characterId);
  setSession({
    frame: Math.max(scene.first, Math.min(scene.last, left.frame)),
    looking: camera && left.looking === "camera" ? "camera" : "cut",
    cameraId: camera?.id ?? null,
    characterId: character?.id ?? null,
    joint: left.joint,
  });
  return !!camera || !!character || left.joint !== null;
}

/** Remember where one is in a scene, until told to stop. */
export function rememberWhereOneIs(sceneId: string): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    clearTimeout(timer);
    timer = undefined;
    write(sceneId);
  };
  const release = useSession.subscribe((now, before) => {
    if (now.scene?.id !== sceneId || now.playing || FIELDS.every((name) => now[name] === before[name]))
      return;
    clearTimeout(timer);
    timer = setTimeout(keep, WAIT_MS);
  });
  return () => {
    if (timer !== undefined) keep();
    release();
  };
}

function read(sceneId: string): Left | null {
  try {
    return JSON.parse(localStorage.getItem(nameOf(sceneId)) ?? "null") as Left | null;
  } catch {
    return null;
  }
}

function write(sceneId: string): void {
  const now = session();
  try {
    localStorage.setItem(nameOf(sceneId), JSON.stringify(Object.fromEntries(FIELDS.map((n) => [n, now[n]]))));
  } catch {
    // A browser that keeps nothing opens it at its beginning.
  }
}
