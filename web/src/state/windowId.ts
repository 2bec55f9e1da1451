/**
 * Which window this is, for undo and for what is kept unsent. The id survives a reload; a window that is opened anew takes on
 * the id of the one that was closed last, so that what was done in it can still be undone; no two open windows share one.
 */
const OWN = "eddyfield.window-id";
const LAST = "eddyfield.last-window-id";
const [RELOAD_MS, DUPLICATE_MS] = [5000, 300];

/** The lock that a window holds as long as it is open; by it others know that it is. */
export const lockName = (id: string) => `eddyfield.window.${id}`;

let own: Promise<string> | null = null;
let known: string | null = null;

export function windowId(): Promise<string> {
  own ??= claim(sessionStorage.getItem(OWN), localStorage.getItem(LAST)).then((id) => {
    sessionStorage.setItem(OWN, id);
    localStorage.setItem(LAST, id);
    known = id;
    return id;
  });
  return own;
}

/** The id once it is known, which it is before a scene is shown. */
export const knownWindowId = () => known;

async function claim(before: string | null, last: string | null): Promise<string> {
  // A page that is loaded again may be there before the one that it takes the place of has gone.
  if (before && (await taken(before, wasReloaded() ? RELOAD_MS : DUPLICATE_MS))) return before;
  if (last && (await taken(last, 0))) return last;
  const id = crypto.randomUUID();
  await taken(id, 0);
  return id;
}

function wasReloaded(): boolean {
  const [entry] = performance.getEntriesByType("navigation") as PerformanceNavigationTiming[];
  return entry?.type === "reload";
}

/** Whether the id could be had within some time; it is held until the window is closed. */
async function taken(id: string, patience_ms: number): Promise<boolean> {
  if (!navigator.locks) return true;
  return new Promise<boolean>((resolve) => {
    const held = () => {
      resolve(true);
      return new Promise<never>(() => {});
    };
    const options = patience_ms ? { signal: AbortSignal.timeout(patience_ms) } : { ifAvailable: true };
    navigator.locks
      .request(lockName(id), options, (lock) => (lock ? held() : resolve(false)))
      .catch(() => resolve(false));
  });
}
