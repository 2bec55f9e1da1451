/**
 * Small live pictures, drawn by the one stage in turn: the Picture comes first, and only those in sight are drawn, the
 * longest waiting first.
 */
import type { Sight } from "../picture/lens";
import type { Stage } from "../picture/stage";
import type { Session } from "../state/session";

/** How long tiles may be drawn at a time while nothing plays; one is drawn in any case. */
const RESTING_MS = 6;

export interface Tile {
  canvas: HTMLCanvasElement;
  sight: (state: Session) => Sight | null;
  /** What its picture depends on beside the frame and the poses: the name of the camera's path, say. */
  shows: (state: Session) => string;
}

const tiles = new Map<Tile, string>();
let ask: () => void = () => {};

/** Who draws tiles is asked through this whenever there is a new one. */
export function whenTileIsShown(drawn: () => void): void {
  ask = drawn;
}

let heldUntil = 0;
let timer = 0;

/** While the Bench is swept through its pictures wait: moving smoothly comes first. */
export function holdTiles(milliseconds: number): void {
  heldUntil = performance.now() + milliseconds;
  clearTimeout(timer);
  timer = window.setTimeout(() => ask(), milliseconds);
}

/** Have a small picture drawn from now on; the answer ends that. */
export function showTile(tile: Tile): () => void {
  tiles.set(tile, "");
  if (performance.now() >= heldUntil) ask();
  return () => tiles.delete(tile);
}

/** Draw some of the tiles that are not current. Answers whether more are waiting. The stage is posed for this frame. */
export function drawTiles(stage: Stage, state: Session): boolean {
  if (!state.scene || performance.now() < heldUntil) return false;
  const until = performance.now() + (state.playing ? 0 : RESTING_MS);
  let some = false;
  for (const [tile, drawn] of [...tiles]) {
    const now = `${state.frame} ${state.scene.revision} ${state.drawn} ${tile.shows(state)}`;
    if (now === drawn) continue;
    if (some && performance.now() >= until) return !state.playing;
    const sight = tile.sight(state);
    const { width, height } = tile.canvas;
    if (sight && width && height) {
      tile.canvas.getContext("2d")!.putImageData(stage.tile(state.scene, sight, width, height), 0, 0);
      tile.canvas.dataset.drawn = now;
    }
    // Behind the others, so that all get their turn.
    tiles.delete(tile);
    tiles.set(tile, now);
    some = true;
  }
  return false;
}
