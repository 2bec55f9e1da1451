/** Looking at a cut from both sides. */
import { refreshView } from "./shown";
import { goTo, stop } from "./playback";
import { notify, session, setSession } from "./session";
import { type Shot, shotAt } from "./cutting";

/** The shots on both sides of a cut; null where no shot begins there any more. */
export function shotsAround(cut: Shot[], first: number): [Shot, Shot] | null {
  const at = cut.findIndex((shot) => shot.first === first);
  return at > 0 ? [cut[at - 1]!, cut[at]!] : null;
}

/** Look at both sides of the cut with which the shot at the playhead begins, or no longer. */
export function toggleMatching(): void {
  const { scene, frame, matching } = session();
  if (matching) return endMatching();
  const shot = shotAt(scene, frame);
  if (!scene || !shot) return;
  const first = shot.first > scene.first ? shot.first : scene.cut[1]?.first;
  if (first === undefined) {
    notify("The cut has one shot. Cut to another camera first (C), then match the two.");
    return;
  }
  matchCut(first);
}

export function matchCut(first: number): void {
  stop();
  goTo(first);
  setSession({ matching: { first, over: session().matching?.over ?? false } });
  void refreshView();
}

export function endMatching(): void {
  setSession({ matching: null });
}
