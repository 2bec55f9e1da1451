/**
 * Small live pictures, drawn by the one stage in turn: the Picture comes first, and only those in sight are drawn, the
 * longest waiting first.
 */
import type { SceneView } from "../api/generated";
import type { Sight } from "../optics/lens";
import type { Stage } from "./stage";
import type { Session } from "../state/session";

/** How many may be on their way at a time while nothing plays. */
const MOST_UNDER_WAY = 3;
/** While it plays, one of them is drawn that often: the Picture comes first. */
const PLAYING_EVERY_MS = 400;

export interface Tile {
  canvas: HTMLCanvasElement;
  sight: (state: Session) => Sight | null;
  /** What its picture depends on beside the frame and the poses: the name of the camera's path, say. */
  shows: (state: Session) => string;
  /** The frame that it shows, where that is not the playhead's. */
  frame?: (state: Session) => number;
}

const tiles = new Map<Tile, string>();
let ask: () => void = () => {};

/** Who draws tiles is asked through this whenever there is a new one. */
export function whenTileIsShown(drawn: () => void): void {
  ask = drawn;
}

let restUntil = 0;
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

/**
 * Draw tiles that are not current, the stage being posed for this frame; for those of other frames it is posed anew, which is
 * left alone while it plays. Answers whether more are to be drawn soon.
 */
export function drawTiles(stage: Stage, state: Session): boolean {
  if (!state.scene || performance.now() < heldUntil) return false;
  if (state.playing && performance.now() < restUntil) return false;
  let posed = state.frame;
  for (const [tile, drawn] of [...tiles]) {
    if (tile.frame && state.playing) continue;
    const frame = tile.frame?.(state) ?? state.frame;
    const now = `${frame} ${state.scene.revision} ${state.drawn} ${tile.shows(state)}`;
    if (now === drawn) continue;
    if (stage.tilesUnderWay >= (state.playing ? 1 : MOST_UNDER_WAY)) return !state.playing;
    const sight = tile.sight(state);
    const { width, height } = tile.canvas;
    if (sight && width && height) {
      if (frame !== posed)
        stage.pose(state.scene, state.parts, frame, { plain: state.shownAs === "plain body" });
      posed = frame;
      draw(stage, state.scene, sight, tile, now);
    }
    // Behind the others, so that all get their turn.
    tiles.delete(tile);
    tiles.set(tile, now);
    if (!state.playing) continue;
    restUntil = performance.now() + PLAYING_EVERY_MS;
    return false;
  }
  return false;
}

function draw(stage: Stage, scene: SceneView, sight: Sight, { canvas }: Tile, now: string): void {
  stage.tile(scene, sight, canvas.width, canvas.height, (picture) => {
    canvas.getContext("2d")!.putImageData(picture, 0, 0);
    canvas.dataset.drawn = now;
  });
}
