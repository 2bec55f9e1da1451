/** What other windows make of the scene, shown as soon as it is heard of. */
import { UnreachableError, viewScene } from "../api/client";
import type { Heard } from "../api/changes";
import { notify, session, setSession } from "./session";
import { currentView, openedScene, take } from "./shown";
import { knownWindowId } from "./windowId";
import { within } from "./within";

/** Another window has changed the scene, or may have: show it as it is now, and say who did what. */
export function heardOfChange(what: Heard): void {
  const scene = session().scene;
  if (!scene || scene.id !== openedScene()) return;
  if (what === "listening") {
    void follow(true);
    return;
  }
  if (what.window_id === knownWindowId()) return;
  const who = what.who || "Another window";
  if (!("scene_id" in what)) {
    notify(`${who}: limits of the production`);
    void follow();
    return;
  }
  if (what.scene_id === within()?.scene_id) {
    void follow(); // what surrounds it has changed
    return;
  }
  if (what.scene_id !== scene.id || what.revision <= scene.revision) return;
  const did = { done: "", undone: "undone: ", redone: "done again: " }[what.way];
  notify(`${who}: ${did}${what.edit}${what.remark && `. ${what.remark}`}`);
  void follow();
}

/** Take what others have made of the scene; `unheard`, nobody has told of it yet. What is on its way will meet it by itself. */
async function follow(unheard = false): Promise<void> {
  const id = openedScene();
  if (!id || session().waiting) return;
  try {
    const answer = await viewScene(id, { ...currentView(), judged: false });
    const known = session().scene?.revision ?? answer.scene.revision;
    take(answer);
    if (unheard && answer.scene.revision > known) notify("Another window has changed the scene.");
  } catch (error) {
    // A window that is only looking on keeps what it has, and is told when it changes something.
    if (id === openedScene() && error instanceof UnreachableError) setSession({ connected: false });
  }
}
