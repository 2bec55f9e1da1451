/** What an edit would do, shown while it is in the hand. */
import { type Edit, previewEdit } from "../api/client";
import type { View } from "../api/generated";
import { asRecorded } from "./recording";
import { session, setSession } from "./session";
import { afterStored, currentView, isBehind, openedScene, refreshView, report, take } from "./shown";

let previewing = false;
/** Still to be asked for. */
let newest: Edit | null = null;
let hand = 0;
/** A version that is looked at, while something else is pointed at or in the hand. */
let beneath: Edit | null = null;

afterStored(() => {
  const { inHand } = session();
  if (inHand) ask(inHand);
});

/**
 * Show what an edit would do while it is in the hand. The newest one wins; nothing is stored until `edit` is called.
 */
export function preview(change: Edit): void {
  endComparing(change);
  const before = session().inHand;
  if (isLook(before) && !isLook(change)) beneath = before;
  const inHand = asRecorded(change);
  setSession({ inHand });
  ask(inHand);
}

function ask(change: Edit): void {
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
        const view = currentView();
        const answer = await previewEdit(scene.id, { edit: change, view });
        if (mine !== hand || scene.id !== openedScene()) return;
        if (looksElsewhere(view, currentView())) {
          newest ??= change;
          continue;
        }
        // Readings and arc are worked out when the hand lets go; until then those there are stay.
        answer.scene.arc = scene.arc;
        answer.scene.arc_judgement = scene.arc_judgement;
        answer.scene.also = scene.also;
        take(answer, { stored: false });
      } catch (error) {
        if (mine !== hand) return;
        setSession({ inHand: newest });
        if (!newest && isBehind()) void refreshView();
        report(error);
      }
    }
  } finally {
    previewing = false;
    // Another hand has begun meanwhile.
    if (newest) ask(newest);
  }
}

/** Something else is looked at by now: an answer from before would take it away again. */
const looksElsewhere = (then: View, now: View) =>
  (["camera_id", "matched_frame", "laid_over", "thing_id", "joint", "frozen_frame"] as const).some(
    (name) => then[name] !== now[name],
  );

/** The hand lets go: previews that are still on their way no longer count. */
export function endPreview(): void {
  hand += 1;
  newest = beneath = null;
  if (session().inHand) setSession({ inHand: null });
}

/** Nothing comes of what was in the hand: the scene is shown as it is stored, or with the version that was looked at. */
export function cancelPreview(): void {
  const back = isLook(session().inHand) ? null : beneath;
  endPreview();
  setSession({ provisional: null });
  if (back) preview(back);
  else void refreshView();
}

const isLook = (change: Edit | null) => change?.edit === "bring next version";

/** Whoever changes a camera sees it as it is, and no longer as a saved view has it. */
export function endComparing(change: Edit): void {
  const { comparing } = session();
  const isOfIt = "camera_id" in change && change.camera_id === comparing?.cameraId;
  if (isOfIt && !/ view$/.test(change.edit)) setSession({ comparing: null });
}
