/** In Roam: the way of the chosen joint through the world, as seen from where one stands. */
import { useMemo } from "react";
import { Vector3 } from "three";
import { type FrameRect, onCanvas, toScreen } from "../optics/lens";
import { worldArc } from "../state/joints";
import { currentSight } from "../state/sight";
import { judgedThing, useSession } from "../state/session";
import { type Place, Ticks, linePath } from "./Arcs";

/** Frames to each side of the playhead where an arc is longer than this. */
const MOST = 1200;

export function RoamArc({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const scene = state.scene!;
  const sight = currentSight(state);
  const thing = judgedThing(state);
  const last = scene.last - scene.first;
  const { parts, joint } = state;
  const way = useMemo(() => worldArc({ parts }, thing, joint, last + 1), [parts, thing, joint, last]);
  if (!sight || !way) return null;
  const reach = state.looks.arcReach || (last > MOST ? MOST : last);
  const now = state.frame - scene.first;
  const drawn = {
    first: Math.max(0, now - reach),
    last: Math.min(last, now + reach),
    now: state.looks.arcReach ? now : null,
    reach,
  };
  const at = (row: number): Place | null => {
    const seen = toScreen(new Vector3().fromArray(way, row * 3), sight, scene);
    return seen && onCanvas(seen, rect, scene);
  };
  const rows = Array.from({ length: drawn.last - drawn.first + 1 }, (_, n) => drawn.first + n);
  const line = linePath(rows.map(at));
  return (
    <g data-testid="roam-arc">
      <g fill="none" strokeLinejoin="round">
        <path d={line} stroke="var(--over-halo)" strokeOpacity={0.7} strokeWidth={4} />
        <path d={line} stroke="var(--over-red)" strokeWidth={1.8} />
      </g>
      <Ticks at={at} thing={thing} drawn={drawn} />
    </g>
  );
}
