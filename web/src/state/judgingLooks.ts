/** How motion is looked at in the Picture: which arcs, how much of them, onion skins, and with or without the camera's share. */
import { refreshView } from "./shown";
import { type Session, judgedThing, notify, session, setSession } from "./session";
import { MOST_ALSO, type JudgingLooks } from "./looks";

export function setLooks(change: Partial<JudgingLooks>): void {
  setSession({ looks: { ...session().looks, ...change }, drawn: session().drawn + 1 });
}

/** The arc of the chosen joint stays in the Picture while others are chosen; or no longer. */
export function keepArc(): void {
  const state = session();
  const { joint, looks } = state;
  const thing = judgedThing(state);
  if (!joint || !thing) return notify("Choose a joint first: click one in the Picture.");
  const others = looks.alsoArcs.filter((arc) => arc.joint !== joint || arc.thing_id !== thing.id);
  if (others.length === looks.alsoArcs.length) {
    if (others.length === MOST_ALSO) return notify(`${MOST_ALSO} arcs stay already. Let one go first.`);
    others.push({ thing_id: thing.id, joint });
  }
  setLooks({ alsoArcs: others });
  void refreshView();
}

export function letArcGo(at: number): void {
  setLooks({ alsoArcs: session().looks.alsoArcs.filter((_, index) => index !== at) });
  void refreshView();
}

/** Play with the camera held still where it is now, with the camera alone, or as it is again. */
export function showShare(camera: JudgingLooks["camera"]): void {
  setLooks({ camera, heldFrame: session().frame });
}

/** The state by which cameras stand: of the frame on which they are held still, else as it is. */
export function withCameraHeld(state: Session): Session {
  const { camera, heldFrame } = state.looks;
  return camera === "held still" ? { ...state, frame: heldFrame } : state;
}

const WAYS: JudgingLooks["camera"][] = ["moves", "held still", "alone"];

export function nextShare(): void {
  showShare(WAYS[(WAYS.indexOf(session().looks.camera) + 1) % WAYS.length]!);
}
