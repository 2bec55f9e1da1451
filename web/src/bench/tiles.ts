/**
 * Small live pictures, drawn by the one stage in turn: the Picture comes first, and only those in sight are drawn, the
 * longest waiting first.
 */
import type { Sight } from "../picture/lens";
import type { Stage } from "../picture/stage";
import { type Session, useSession } from "../state/session";

const PLAYING_BUDGET = 1;
const RESTING_BUDGET = 6;

export interface Tile {
  canvas: HTMLCanvasElement;
  sight: (state: Session) => Sight | null;
  /** What its picture depends on beside the frame and the poses: the name of the camera's path, say. */
  shows: (state: Session) => string;
}

const tiles = new Map<Tile, string>();

/** Have a small picture drawn from now on; the answer ends that. */
export function showTile(tile: Tile): () => void {
  tiles.set(tile, "");
  // Something to draw: whoever draws the Picture looks for tiles as well.
  useSession.setState({});
  return () => tiles.delete(tile);
}

/** Draw some of the tiles that are not current. Answers whether more are waiting. The stage is posed for this frame. */
export function drawTiles(stage: Stage, state: Session): boolean {
  if (!state.scene) return false;
  let budget = state.playing ? PLAYING_BUDGET : RESTING_BUDGET;
  let waiting = false;
  for (const [tile, drawn] of [...tiles]) {
    const now = `${state.frame} ${state.scene.revision} ${state.drawn} ${tile.shows(state)}`;
    if (now === drawn) continue;
    if (budget === 0) {
      waiting = true;
      break;
    }
    const sight = tile.sight(state);
    const { width, height } = tile.canvas;
    if (sight && width && height) {
      tile.canvas.getContext("2d")!.putImageData(stage.tile(state.scene, sight, width, height), 0, 0);
      tile.canvas.dataset.drawn = now;
    }
    // Behind the others, so that all get their turn.
    tiles.delete(tile);
    tiles.set(tile, now);
    budget -= 1;
  }
  return waiting && !state.playing;
}
