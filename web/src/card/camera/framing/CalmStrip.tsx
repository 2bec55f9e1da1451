/** How calmly the camera follows, and what that does to this shot: how far the subject is from its place, frame by frame. */
import { Slider } from "@mantine/core";
import { useState } from "react";
import type { CameraPart, Framing } from "../../../api/generated";
import { SETTLING_HALVINGS } from "../../../api/tables";
import { useSession } from "../../../state/session";
import { lineThrough } from "../../../widgets/Grip";

const WIDTH = 240;
const HEIGHT = 34;
const CALMEST_FRAMES = 72;

interface CalmStripProps {
  framing: Framing;
  path: CameraPart;
  row: number;
  locked: boolean;
  set: (framing: Framing) => void;
}

export function CalmStrip({ framing, path, row, locked, set }: CalmStripProps) {
  const scene = useSession((s) => s.scene)!;
  const perHalfLife = scene.rate_float * SETTLING_HALVINGS;
  const stored = Math.round(framing.half_life_s * perHalfLife);
  const [inHand, setInHand] = useState<number | null>(null);
  const frames = inHand ?? stored;
  const count = path.away_px.length;
  const most = path.away_px.reduce((a, b) => (b > a ? b : a), 0);
  const at = path.away_px.indexOf(most);
  const scale = HEIGHT / Math.max(most, scene.height * 0.05);
  const points = Array.from(
    path.away_px,
    (px, i) => [(i / Math.max(1, count - 1)) * WIDTH, HEIGHT - px * scale] as const,
  );
  const reached = path.reached.reduce((n, bits) => n + ((bits & 2) > 0 ? 1 : 0), 0);
  return (
    <>
      <div className="row">
        <span>How calmly it follows</span>
        <span className="spacer" />
        <b className="mono">{frames ? `settles within ${frames} frames` : "at once"}</b>
      </div>
      <Slider
        thumbLabel="Settles within, frames"
        size="sm"
        min={0}
        max={Math.max(CALMEST_FRAMES, stored)}
        step={1}
        label={null}
        value={frames}
        disabled={locked}
        onChange={setInHand}
        onChangeEnd={(n) => {
          setInHand(null);
          if (n !== stored) set({ ...framing, half_life_s: n / perHalfLife });
        }}
      />
      <svg
        className="calm-strip"
        viewBox={`0 -2 ${WIDTH} ${HEIGHT + 4}`}
        role="img"
        aria-label={`It is away from its place by up to ${most.toFixed(0)} px`}
      >
        <path d={`M0 ${HEIGHT}H${WIDTH}`} className="drawn-base" />
        <path d={lineThrough(points)} className="drawn-track" />
        <path d={`M${(row / Math.max(1, count - 1)) * WIDTH} 0V${HEIGHT}`} className="drawn-playhead" />
      </svg>
      <p className="why">
        {most < 0.5
          ? "It never leaves its place."
          : `Away from it by up to ${most.toFixed(0)} px, on ${scene.first + at}.`}{" "}
        Reached on {reached} of {count} frames.
      </p>
    </>
  );
}
