/** Keeps the scene's small picture on the Desk current: a while after the last change, through the cut. */
import { type RefObject, useEffect } from "react";
import { saveThumbnail } from "../api/client";
import { session, useSession } from "../state/session";
import { cutSight } from "../state/sight";
import type { Stage } from "../stage/stage";

const WAIT_MS = 2500;
const WIDTH = 480;

export function useThumbnail(stage: RefObject<Stage | null>, redraw: RefObject<() => void>): void {
  const revision = useSession((s) => s.scene?.revision);
  useEffect(() => {
    const timer = setTimeout(() => void take(stage.current, () => redraw.current()), WAIT_MS);
    return () => clearTimeout(timer);
  }, [revision, stage, redraw]);
}

async function take(stage: Stage | null, redraw: () => void): Promise<void> {
  const state = session();
  const { scene } = state;
  if (!stage || !scene || state.playing || scene.around) return; // what surrounds it is not of it
  const middle = Math.round((scene.first + scene.last) / 2);
  const sight = cutSight({ ...state, frame: middle });
  if (!sight) return;
  const height = Math.round((WIDTH * scene.height) / (scene.width * scene.pixel_aspect));
  stage.pose(scene, state.parts, middle);
  const still = stage.still(scene, sight, WIDTH, Math.min(height, 600));
  redraw();
  const png = await still;
  if (png && png.size < 2 ** 20) await saveThumbnail(scene.id, png).catch(() => undefined);
}
