/**
 * Which window this is, for undo and for what is kept unsent. The id survives a reload; a window that is opened anew takes on
 * the id of the one that was closed last, so that what was done in it can still be undone; no two open windows share one.
 */
const OWN = "eddyfield.window-id";
const LAST = "eddyfield.last-window-id";

/** The lock that a window holds as long as it is open; by it others know that it is. */
export const lockName = (id: string) => `eddyfield.window.${id}`;

let own: Promise<string> | null = null;
let known: string | null = null;

export function windowId(): Promise<string> {
  own ??= claim([sessionStorage.getItem(OWN), localStorage.getItem(LAST)]).then((id) => {
    sessionStorage.setItem(OWN, id);
    localStorage.setItem(LAST, id);
    known = id;
    return id;
  });
  return own;
}

/** The id once it is known, which it is before a scene is shown. */
export const knownWindowId = () => known;

async function claim(wanted: (string | null)[]): Promise<string> {
  for (const id of wanted) if (id && (await isFree(id))) return id;
  const id = crypto.randomUUID();
  await isFree(id);
  return id;
}

async function isFree(id: string): Promise<boolean> {
  if (!navigator.locks) return true;
  return new Promise<boolean>((resolve) => {
    void navigator.locks.request(lockName(id), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      // Held until the window is closed.
      return lock && new Promise<never>(() => {});
    });
  });
}
