/**
 * What a window has not had acknowledged yet, kept in local storage until it is: each window has a store of its own. A window
 * that opens a scene takes over what windows that are gone have left behind for it.
 */
import type { Edit } from "../api/client";
import { lockName, windowId } from "./windowId";

export type Way = "undo" | "redo";

export interface Waiting {
  id: string;
  edit: Edit | Way;
  /** The revision that was shown when it was made, edits of this window that were still on their way counted in. */
  revision: number;
  /** An undo that takes back what others did as well, where that stands on it. */
  ofOthers?: boolean;
  /** It was made, or tried, while there was no connection. */
  kept?: boolean;
}

/** An edit that was refused and waits for somebody to decide. */
export interface Refused extends Waiting {
  reason: string;
}

interface Stored {
  waiting: Waiting[];
  refused: Refused[];
}

const PREFIX = "eddyfield.unsent";
const NOTHING: Stored = { waiting: [], refused: [] };

const storageName = (sceneId: string, windowId: string) => `${PREFIX}.${sceneId}.${windowId}`;

let known = "";

export function store(sceneId: string, waiting: Waiting[], refused: Refused[]): void {
  if (!known) return;
  const name = storageName(sceneId, known);
  if (waiting.length || refused.length)
    localStorage.setItem(name, JSON.stringify({ waiting, refused } satisfies Stored));
  else localStorage.removeItem(name);
}

/** What this window, and windows that are gone, left unsent of a scene; it is this window's from now on. */
export async function takeOver(sceneId: string): Promise<Stored> {
  known = await windowId();
  const taken: Stored = { waiting: [], refused: [] };
  const others = new Set<string>();
  if (navigator.locks)
    for (const lock of (await navigator.locks.query()).held ?? []) others.add(lock.name ?? "");
  const start = `${PREFIX}.${sceneId}`;
  const names = Object.keys(localStorage).filter((name) => name.startsWith(start));
  for (const name of names.sort()) {
    const owner = name.slice(start.length + 1);
    if (owner !== known && others.has(lockName(owner))) continue;
    const { waiting, refused } = read(name);
    taken.waiting.push(...waiting);
    taken.refused.push(...refused);
    localStorage.removeItem(name);
  }
  store(sceneId, taken.waiting, taken.refused);
  return taken;
}

function read(name: string): Stored {
  try {
    const found = JSON.parse(localStorage.getItem(name) ?? "{}") as Partial<Stored> | Waiting[];
    if (!Array.isArray(found)) return { ...NOTHING, ...found };
    // As it was kept before each edit knew its revision: nobody can say what it was made on.
    const reason = "It was kept by an earlier version of Eddyfield.";
    return { waiting: [], refused: found.map((w) => ({ ...w, revision: 0, reason })) };
  } catch {
    return NOTHING;
  }
}
