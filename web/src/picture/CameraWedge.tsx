/** In Roam: the camera of the cut as a small body with its view wedge, in blue. */
import { Vector3 } from "three";
import { cutCamera, useSession } from "../state/session";
import { type FrameRect, toScreen } from "./lens";
import { currentSight, cutSight } from "./sight";

const WEDGE_M = 1.6;
const BODY: [number, number, number][] = [
  [-0.09, -0.08, 0.02],
  [0.09, -0.08, 0.02],
  [0.09, 0.08, 0.02],
  [-0.09, 0.08, 0.02],
  [-0.07, -0.06, 0.3],
  [0.07, -0.06, 0.3],
  [0.07, 0.06, 0.3],
  [-0.07, 0.06, 0.3],
];
const BODY_EDGES = [
  [0, 1],
  [1, 2],
  [2, 3],
  [3, 0],
  [4, 5],
  [5, 6],
  [6, 7],
  [7, 4],
  [0, 4],
  [1, 5],
  [2, 6],
  [3, 7],
];

export function CameraWedge({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene } = state;
  const sight = currentSight(state);
  const own = cutSight(state);
  const camera = cutCamera(state);
  if (!scene || !sight || !own || !camera) return null;
  const placed = (x: number, y: number, z: number) => {
    const seen = toScreen(new Vector3(x, y, z).applyMatrix4(own.world), sight, scene);
    return (
      seen && [rect.x + (seen.x * rect.width) / scene.width, rect.y + (seen.y * rect.height) / scene.height]
    );
  };
  const half = [scene.width / 2 / own.slopeX, scene.height / 2 / own.slopeY] as const;
  const corners = [
    [-1, 1],
    [1, 1],
    [1, -1],
    [-1, -1],
  ].map(([x, y]) => placed(x! * half[0] * WEDGE_M, y! * half[1] * WEDGE_M, -WEDGE_M));
  const eye = placed(0, 0, 0);
  const lines: (number[] | null)[][] = corners.flatMap((corner, i) => [
    [eye, corner],
    [corner, corners[(i + 1) % 4]!],
  ]);
  const body = BODY.map((p) => placed(...p));
  for (const [a, b] of BODY_EDGES) lines.push([body[a!]!, body[b!]!]);
  const d = lines
    .filter((line): line is number[][] => line.every((p) => p !== null))
    .map(([a, b]) => `M${a!.map((v) => v.toFixed(1)).join(" ")}L${b!.map((v) => v.toFixed(1)).join(" ")}`)
    .join("");
  return (
    <g data-testid="camera-wedge">
      <path d={d} stroke="#fff" strokeOpacity={0.6} strokeWidth={3.4} fill="none" />
      <path d={d} stroke="#2a65a5" strokeWidth={1.5} fill="none" />
      {eye && (
        <text
          x={eye[0]! + 10}
          y={eye[1]! - 10}
          fill="#1d4d85"
          fontWeight={600}
          fontSize={13}
          stroke="#fff"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {camera.name}
        </text>
      )}
    </g>
  );
}
