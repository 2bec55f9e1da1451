/** What is drawn on the Plan: the grid, cameras with what they see, what they are carried by, the scale. */
import { Vector3 } from "three";
import type { CameraPart, CameraView, SceneView } from "../api/generated";
import { pixelsPerMetre } from "../optics/lens";
import { cameraSight } from "../state/sight";
import { tintOf } from "../state/lines";
import { lookThrough } from "../state/looking";
import { useSession } from "../state/session";

const FARTHEST_M = 40;
const ROUND_LENGTHS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];

/** On the page the world's Z runs to the right and X upwards, so that a shot from -X reads like the picture. */
export type Point = [number, number];

export interface View {
  z: number;
  x: number;
  scale: number;
}

/** What a camera is carried from: the base of a crane, or where its pivot or carrier goes. */
export function standsOf(camera: CameraView, path: CameraPart): Point[] {
  if (camera.mount.kind === "crane") return [[camera.mount.base[2]!, camera.mount.base[0]!]];
  return every(path.mount_places, 3, 2, 0);
}

/** Points of a raw array: of every row, the numbers at these places. */
export function every(values: Float32Array, stride: number, z: number, x: number): Point[] {
  return Array.from({ length: values.length / stride }, (_, r) => [
    values[r * stride + z]!,
    values[r * stride + x]!,
  ]);
}

/** Where a camera stands, and how it is turned, in radians. */
export interface Eye {
  at: Point;
  pan: number;
}

/** A small body with a hood that opens towards what is seen. */
export function Body({
  camera,
  eye,
  place,
  size,
  chosen,
}: {
  camera: CameraView;
  eye: Eye;
  place: (p: Point) => Point;
  size: { width: number; height: number };
  chosen: boolean;
}) {
  const [x, y] = place(eye.at);
  // Pan 0 looks along -Z, which is to the left on the page; positive turns to +X, which is up.
  const turn = (-eye.pan * 180) / Math.PI + 180;
  const inside = x > 0 && y > 0 && x < size.width && y < size.height;
  if (!inside) return null;
  return (
    <g data-testid="plan-camera" data-camera={camera.name} opacity={chosen ? 1 : 0.7}>
      <g
        transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-turn + 180).toFixed(1)}) rotate(180)`}
      >
        <path
          d="M-7 -3.5H2V3.5H-7ZM2 -2.5L7 -6V6L2 2.5"
          fill={chosen ? tintOf(camera) : "var(--sheet)"}
          stroke={tintOf(camera)}
          strokeWidth={1.3}
          onClick={() => lookThrough(camera.id)}
          style={{ cursor: "pointer" }}
        >
          <title>{camera.name}</title>
        </path>
      </g>
    </g>
  );
}

export function Grid({ view, size }: { view: View; size: { width: number; height: number } }) {
  const step = ROUND_LENGTHS.find((length) => length * view.scale > 24) ?? 100;
  let d = "";
  const [wide, high] = [size.width / 2 / view.scale, size.height / 2 / view.scale];
  for (let z = Math.ceil((view.z - wide) / step) * step; z < view.z + wide; z += step)
    d += `M${(size.width / 2 + (z - view.z) * view.scale).toFixed(1)} 0V${size.height}`;
  for (let x = Math.ceil((view.x - high) / step) * step; x < view.x + high; x += step)
    d += `M0 ${(size.height / 2 - (x - view.x) * view.scale).toFixed(1)}H${size.width}`;
  return <path d={d} stroke="var(--rule)" strokeWidth={0.7} />;
}

interface WedgeProps {
  scene: SceneView;
  camera: CameraView;
  path: CameraPart;
  row: number;
  place: (point: Point) => Point;
  view: View;
}

/** What the camera sees from above; the sharp part of it shaded, the focus a line across. */
export function Wedge({ scene, camera, path, row, place, view }: WedgeProps) {
  const sight = cameraSight({ ...useSession.getState(), frame: row + scene.first }, camera);
  if (!sight) return null;
  const [perX] = pixelsPerMetre(sight, scene, 1);
  const half = scene.width / 2 / perX;
  const middle = (sight.shiftX * scene.width) / perX;
  const at = (side: number, depth: number): Point => {
    const grow = sight.parallelHeight === null ? depth : 1;
    const v = new Vector3((side * half - middle) * grow, 0, -depth).applyMatrix4(sight.world);
    return place([v.z, v.x]);
  };
  const far = Math.max(FARTHEST_M, 1000 / view.scale);
  const near = Math.max(sight.near, 0.02);
  const quad = (a: number, b: number) =>
    `M${at(-1, a).join(" ")}L${at(-1, b).join(" ")}L${at(1, b).join(" ")}L${at(1, a).join(" ")}Z`;
  const [focus, sharpNear, sharpFar] = [0, 1, 2].map((i) => path.depths[row * 4 + i]!);
  const level = Math.abs(path.pose[row * 7 + 4]!) < 60;
  return (
    <g>
      <path
        d={quad(near, Math.min(far, sight.far ?? far))}
        fill={tintOf(camera)}
        fillOpacity={0.09}
        stroke={tintOf(camera)}
        strokeWidth={1}
      />
      {sight.parallelHeight === null && level && (
        <g data-testid="plan-sharp">
          <path d={quad(sharpNear!, Math.min(sharpFar!, far))} fill={tintOf(camera)} fillOpacity={0.13} />
          <path
            d={`M${at(-1, focus!).join(" ")}L${at(1, focus!).join(" ")}`}
            stroke={tintOf(camera)}
            strokeWidth={1.4}
            strokeDasharray="2 3"
          />
        </g>
      )}
    </g>
  );
}

/** The crane's arm, and the way from a pivot or carrier to the camera. */
export function Arms({
  camera,
  path,
  row,
  place,
}: {
  camera: CameraView;
  path: CameraPart;
  row: number;
  place: (p: Point) => Point;
}) {
  const eye: Point = [path.pose[row * 7 + 2]!, path.pose[row * 7]!];
  const stands = standsOf(camera, path);
  const from = stands[Math.min(row, stands.length - 1)];
  if (!from) return null;
  return (
    <path
      d={`M${place(from).join(" ")}L${place(eye).join(" ")}`}
      stroke={tintOf(camera)}
      strokeWidth={2}
      strokeOpacity={0.7}
    />
  );
}

export function ScaleBar({ scale, size }: { scale: number; size: { width: number; height: number } }) {
  const length = ROUND_LENGTHS.find((l) => l * scale > 28) ?? 100;
  const [x, y] = [size.width - 16 - length * scale, size.height - 12];
  return (
    <g>
      <path d={`M${x} ${y}h${length * scale}`} stroke="var(--graphite)" strokeWidth={2} />
      <text
        x={x + (length * scale) / 2}
        y={y - 5}
        fontSize={12}
        textAnchor="middle"
        fill="var(--graphite)"
        fontFamily="var(--mono)"
        className="haloed"
      >
        {length} m
      </text>
    </g>
  );
}
