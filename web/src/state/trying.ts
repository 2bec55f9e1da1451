/** What would be best: ways to step and ride, tried by the core, looked at side by side, and one of them taken. */
import { tryCandidates } from "../api/client";
import { type FrameRect, frameAspect } from "../optics/lens";
import { assembled } from "./answered";
import { clockMs } from "./clock";
import { edit } from "./edits";
import { stop } from "./playback";
import { chosenCharacter, notify, session, setSession } from "./session";
import type { Trying, Way } from "./way";
import { currentView, report, withParts } from "./shown";

const [MARGIN, FOOT, HEAD, LAST_LINE] = [10, 66, 34, 20];
const MOST_ACROSS = 3;

/** Have every way tried for the chosen character, and show the best ones. */
export async function tryWays(): Promise<void> {
  const state = session();
  const character = chosenCharacter(state);
  if (!character || !state.scene) return;
  stop();
  const id = state.scene.id;
  try {
    const found = await tryCandidates(id, character.id, currentView());
    if (session().scene?.id !== id) return;
    const ways = found.candidates.map(({ answer, ...figures }): Way => {
      const parts = withParts(new Map(session().parts), answer.parts);
      return { ...figures, scene: assembled(answer, parts), parts };
    });
    const { tried, refused, first, last } = found;
    const revision = state.scene.revision;
    setSession({
      trying: { characterId: character.id, revision, first, last, ways, tried, refused },
      drawn: session().drawn + 1,
    });
  } catch (error) {
    report(error);
  }
}

export function endTrying(): void {
  setSession({ trying: null, drawn: session().drawn + 1 });
}

export function takeWay(way: Way): void {
  endTrying();
  if (!way.edit) return;
  edit(way.edit);
  notify(`${way.title}: taken. Ctrl Z brings back what was before.`);
}

/** The frame that all of them show just now: played again and again, at true rate. */
export function tryingFrame({ first, last, ways }: Trying): number {
  const rate = ways[0]?.scene.rate_float ?? 24;
  return first + (Math.floor((clockMs() * rate) / 1000) % (last - first + 1));
}

/** Where the pictures lie in a place for them. */
export function tryingRects({ ways }: Trying, width: number, height: number): FrameRect[] {
  const count = ways.length;
  if (!count) return [];
  const aspect = frameAspect(ways[0]!.scene);
  const across = Math.min(MOST_ACROSS, count);
  const down = Math.ceil(count / across);
  const tall = Math.min(
    (width - (across + 1) * MARGIN) / across / aspect,
    (height - HEAD - LAST_LINE) / down - FOOT,
  );
  const size = { width: Math.max(1, Math.round(tall * aspect)), height: Math.max(1, Math.round(tall)) };
  const left = Math.round((width - across * size.width - (across - 1) * MARGIN) / 2);
  return ways.map((_, at) => ({
    x: left + (at % across) * (size.width + MARGIN),
    y: HEAD + Math.floor(at / across) * (size.height + FOOT),
    ...size,
  }));
}
