/** The exposure column by hand: a new pose at the playhead or none any more, tapped along while it plays. */
import type { CharacterView, PieceMotionPart, PieceView, ShownPart } from "../api/generated";
import type { Edit } from "../api/client";
import { edit } from "./edits";
import { goTo } from "./playback";
import { newPoseFrames } from "./poses";
import { type Session, chosenCharacter, notify, part, session, useSession } from "./session";

let taps: number[] = [];

type Exposed = CharacterView | PieceView;

/** Whose exposures the Sheet shows: the prop that is judged, where its file moves anything, else the chosen character. */
export function exposed(state: Session): Exposed | null {
  const piece = state.scene?.pieces.find((one) => one.id === state.judgedPieceId);
  return piece?.motion ? piece : chosenCharacter(state);
}

/** Which frame's pose each frame shows. */
export function exposuresOf(state: Pick<Session, "parts">, thing: Exposed | null): Int32Array | null {
  if (!thing) return null;
  const shown =
    "shown" in thing ? part<ShownPart>(state, thing.shown) : part<PieceMotionPart>(state, thing.motion);
  return shown?.exposure_start ?? null;
}

/** The frames on which somebody shows a new pose, in order. */
export function startsOf(thing: Exposed | null): number[] {
  const { parts, scene } = session();
  const starts = exposuresOf({ parts }, thing);
  return starts && scene ? newPoseFrames(starts, scene.first) : [];
}

/** A new pose on the playhead, or none any more; while it plays, taps are collected until it stops. */
export function exposeHere(): void {
  const state = session();
  const { frame, playing } = state;
  const [thing, character] = [exposed(state), chosenCharacter(state)];
  if (playing && character) return tap(character, frame);
  if (!thing) return;
  const isNew = startsOf(thing).includes(frame);
  expose(thing, isNew ? { remove: [frame] } : { add: [frame] });
  notify(
    isNew
      ? `${thing.name} holds on over ${frame}. Shift P shows a new pose there again.`
      : `${thing.name} shows a new pose on ${frame}.`,
  );
}

type Change = { add?: number[]; remove?: number[] };

export const exposing = (thing: Exposed, change: Change): Edit =>
  "shown" in thing
    ? { edit: "change exposures", character_id: thing.id, ...change }
    : { edit: "change piece exposures", piece_id: thing.id, ...change };

export function expose(thing: Exposed, change: Change): void {
  edit(exposing(thing, change));
}

function tap(character: CharacterView, frame: number): void {
  if (taps.length === 0) {
    let before = frame;
    const end = useSession.subscribe((now) => {
      // Where it begins anew from the start of the range, the tapping is over.
      if (now.playing && now.frame >= before) return void (before = now.frame);
      end();
      keepTaps(character, before);
    });
  }
  if (taps.at(-1) !== frame) taps.push(frame);
  notify(`Tapping along: ${taps.length} new poses of ${character.name} since ${taps[0]}. Stop to keep them.`);
}

/** What was tapped is what is shown from the first tap to where it stopped. */
function keepTaps(character: CharacterView, last: number): void {
  const made = taps;
  taps = [];
  const first = made[0]!;
  edit({ edit: "tap exposures", character_id: character.id, taps: made, last });
  goTo(first);
  notify(`${made.length} poses tapped from ${first} to ${last}. Ctrl Z takes them away.`);
}

/** How many poses are held for how long, as an animator says it. */
export function holdsText(starts: number[], last: number): string {
  const counts = new Map<number, number>();
  starts.forEach((start, at) => {
    const held = (starts[at + 1] ?? last + 1) - start;
    counts.set(held, (counts.get(held) ?? 0) + 1);
  });
  const names = ["", "ones", "twos", "threes", "fours", "fives", "sixes", "sevens", "eights"];
  return [...counts]
    .sort(([a], [b]) => a - b)
    .map(([held, count]) => `${count} on ${names[held] ?? held}`)
    .join(", ");
}
