/** The line of action of the chosen character: a curve through hips, chest and head as they are shown. */
import type { RigPart } from "../api/generated";
import { type FrameRect, toScreen } from "../optics/lens";
import { shownJoints } from "../state/joints";
import { chosenCharacter, part, useSession } from "../state/session";
import { currentSight } from "../state/sight";
import type { Place } from "./Arcs";

/** Of the way from hips to head: how far the line goes on below and above. */
const [BELOW, ABOVE] = [0.7, 0.3];

export function ActionLine({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene } = state;
  const character = chosenCharacter(state);
  const rig = part<RigPart>(state, character?.rig);
  const sight = currentSight(state);
  if (!scene || !character || !rig || !sight) return null;
  const joints = shownJoints(state, character);
  const places = spineOf(rig, character.calm_joint, character.face_joint).flatMap((joint): Place[] => {
    const seen = joints[joint] && toScreen(joints[joint], sight, scene);
    if (!seen) return [];
    return [[rect.x + (seen.x * rect.width) / scene.width, rect.y + (seen.y * rect.height) / scene.height]];
  });
  if (places.length < 2) return null;
  const d = smooth(extended(places));
  return (
    <g fill="none" strokeLinecap="round" data-testid="action-line">
      <path d={d} stroke="var(--over-halo)" strokeOpacity={0.75} strokeWidth={6} />
      <path d={d} stroke="var(--over-red)" strokeWidth={2.6} strokeDasharray="9 5" />
    </g>
  );
}

/** The joints from one up to what it hangs on, the lower end first. */
export function spineOf(
  { joints, joint_parents: parents }: Pick<RigPart, "joints" | "joint_parents">,
  lowest: string,
  highest: string,
): number[] {
  const out: number[] = [];
  const end = joints.indexOf(lowest);
  for (let at = joints.indexOf(highest); at >= 0; at = parents[at] ?? -1) {
    out.unshift(at);
    if (at === end) break;
  }
  return out;
}

function extended(places: Place[]): Place[] {
  const [low, high] = [places[0]!, places.at(-1)!];
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const beyond = (end: Place, before: Place, share: number): Place => {
    const bone = Math.hypot(end[0] - before[0], end[1] - before[1]) || 1;
    const grow = (share * length) / bone;
    return [end[0] + grow * (end[0] - before[0]), end[1] + grow * (end[1] - before[1])];
  };
  return [beyond(low, places[1]!, BELOW), ...places, beyond(high, places.at(-2)!, ABOVE)];
}

/** A curve through all places (Catmull-Rom). */
function smooth(places: Place[]): string {
  let d = `M${places[0]![0].toFixed(1)} ${places[0]![1].toFixed(1)}`;
  for (let at = 0; at < places.length - 1; at++) {
    const [p0, p1, p2, p3] = [at - 1, at, at + 1, at + 2].map(
      (n) => places[Math.max(0, Math.min(places.length - 1, n))]!,
    ) as [Place, Place, Place, Place];
    const [c1, c2] = [0, 1].map((axis) => [
      p1[axis]! + (p2[axis]! - p0[axis]!) / 6,
      p2[axis]! - (p3[axis]! - p1[axis]!) / 6,
    ]) as [[number, number], [number, number]];
    d += `C${c1[0].toFixed(1)} ${c2[0].toFixed(1)} ${c1[1].toFixed(1)} ${c2[1].toFixed(1)} ${p2[0].toFixed(1)} ${p2[1].toFixed(1)}`;
  }
  return d;
}
