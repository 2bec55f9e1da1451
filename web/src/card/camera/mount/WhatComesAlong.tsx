/** Of what carries a camera, how much there is of each movement in this performance, and the share of it that comes along. */
import { Slider } from "@mantine/core";
import { useState } from "react";
import type { CameraPart } from "../../../api/generated";
import { lineThrough } from "../../../widgets/Grip";
import type { Attachment } from "./mounting";

const WIDTH = 226;
const HEIGHT = 20;
const PARTS = 5;
type Shares = Attachment["through"];

/** What one sees, and which of the shares it is taken along by. */
const MOVEMENTS: { name: string; unit: "m" | "°"; of: number[] }[] = [
  { name: "travel", unit: "m", of: [0, 2] },
  { name: "rise and fall", unit: "m", of: [1] },
  { name: "turning", unit: "°", of: [3] },
  { name: "nodding", unit: "°", of: [4] },
  { name: "leaning", unit: "°", of: [5] },
];

interface WhatComesAlongProps {
  carried: Attachment;
  path: CameraPart;
  row: number;
  locked: boolean;
  set: (through: Shares) => void;
}

export function WhatComesAlong({ carried, path, row, locked, set }: WhatComesAlongProps) {
  return (
    <div role="group" aria-label="What comes along">
      {MOVEMENTS.map((movement, index) => (
        <Movement
          key={movement.name}
          movement={movement}
          values={path.along.filter((_, i) => i % PARTS === index)}
          px={path.along_px[index] ?? 0}
          row={row}
          share={carried.through[movement.of[0]!]!}
          locked={locked}
          set={(share) => set(carried.through.map((s, i) => (movement.of.includes(i) ? share : s)) as Shares)}
        />
      ))}
    </div>
  );
}

interface MovementProps {
  movement: (typeof MOVEMENTS)[number];
  values: Float32Array;
  px: number;
  row: number;
  share: number;
  locked: boolean;
  set: (share: number) => void;
}

function Movement({ movement, values, px, row, share, locked, set }: MovementProps) {
  const [inHand, setInHand] = useState<number | null>(null);
  const percent = inHand ?? Math.round(share * 100);
  const low = values.reduce((a, b) => Math.min(a, b), Infinity);
  const high = values.reduce((a, b) => Math.max(a, b), -Infinity);
  const span = Math.max(high - low, 1e-6);
  const across = (index: number) => (index / Math.max(1, values.length - 1)) * WIDTH;
  const points = Array.from(
    values,
    (v, i) => [across(i), HEIGHT - 2 - ((v - low) / span) * (HEIGHT - 4)] as const,
  );
  return (
    <div className="movement">
      <div className="row">
        <span>{movement.name}</span>
        <span className="spacer" />
        <span className="mono soft">
          {amount(high - low, movement.unit)} · {Math.round(px)} px
        </span>
      </div>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
        <path d={`M0 ${HEIGHT - 0.5}H${WIDTH}`} className="drawn-base" />
        <path d={lineThrough(points)} className="drawn-track" />
        <path d={`M${across(row)} 0V${HEIGHT}`} className="drawn-playhead" />
      </svg>
      <div className="row">
        <Slider
          flex={1}
          size="sm"
          thumbLabel={`Share of the ${movement.name} that comes along`}
          min={0}
          max={100}
          step={1}
          label={null}
          value={percent}
          disabled={locked}
          onChange={setInHand}
          onChangeEnd={(n) => {
            setInHand(null);
            if (n !== Math.round(share * 100)) set(n / 100);
          }}
        />
        <span className="mono share">{percent} %</span>
      </div>
    </div>
  );
}

function amount(value: number, unit: "m" | "°"): string {
  if (unit === "°") return `${value.toFixed(value < 10 ? 1 : 0)}°`;
  return value < 1 ? `${(value * 100).toFixed(value < 0.1 ? 1 : 0)} cm` : `${value.toFixed(1)} m`;
}
