/** The measure between two places of the scene: how far, and how much of it is level and upright. */
import { Vector3 } from "three";
import { useSession } from "../state/session";
import { Label } from "./Label";
import { type FrameRect, onCanvas, toScreen } from "../optics/lens";
import { currentSight } from "../state/sight";

export function Measure({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { measuring, scene } = state;
  const sight = currentSight(state);
  if (!measuring?.length || !scene || !sight) return null;
  const places = measuring.map((p) => new Vector3(p.x, p.y, p.z));
  const seen = places.map((place) => toScreen(place, sight, scene));
  const at = seen.map((s) => s && onCanvas(s, rect, scene));
  const [a, b] = places;
  const [from, to] = at;
  return (
    <g data-testid="measure">
      {from && to && (
        <>
          <path
            d={`M${from.join(" ")}L${to.join(" ")}`}
            stroke="var(--over-halo)"
            strokeWidth={4}
            strokeOpacity={0.8}
          />
          <path d={`M${from.join(" ")}L${to.join(" ")}`} stroke="var(--over-ink)" strokeWidth={1.6} />
        </>
      )}
      {at.map(
        (place, index) =>
          place && (
            <g key={index} transform={`translate(${place.join(" ")})`}>
              <path d="M-5 -5L5 5M5 -5L-5 5" stroke="var(--over-halo)" strokeWidth={4} />
              <path d="M-5 -5L5 5M5 -5L-5 5" stroke="var(--over-ink)" strokeWidth={1.8} />
            </g>
          ),
      )}
      {from && to && a && b && (
        <Label
          x={(from[0] + to[0]) / 2 + 8}
          y={(from[1] + to[1]) / 2 - 8}
          text={`${a.distanceTo(b).toFixed(3)} m · level ${Math.hypot(b.x - a.x, b.z - a.z).toFixed(3)} · up ${(b.y - a.y).toFixed(3)}`}
          color="var(--over-ink)"
        />
      )}
    </g>
  );
}
