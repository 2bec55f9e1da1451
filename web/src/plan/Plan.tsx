/**
 * The scene from straight above, to scale: every camera as a small body, the one that is worked on with its wedge, near, far
 * and focus marks, its way, rail, arm or pivot, and handles; the characters' paths.
 */
import { useEffect, useMemo, useRef, useState } from "react";
import { IconArrowsExchange } from "@tabler/icons-react";
import { Vector3 } from "three";
import type { CameraPart, CameraView, MotionPart, RigPart, SceneView } from "../api/generated";
import { HandleDots } from "../picture/HandleDots";
import { drawnCameras } from "../picture/CameraBodies";
import { handlesOf } from "../picture/handles";
import { pixelsPerMetre } from "../picture/lens";
import { cameraSight } from "../picture/sight";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { dashesOf, tintOf } from "../state/lines";
import { lookThrough } from "../state/looking";
import { chosenCharacter, part, setSession, useSession, workedCamera } from "../state/session";

const MARGIN_M = 0.8;
const FARTHEST_M = 40;
const MOST_CROSSES = 24;
const MOVES_EVERY_MS = 160;
const ROUND_LENGTHS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
const LIFT_M_PER_PIXEL = 0.01;

/** On the page the world's Z runs to the right and X upwards, so that a shot from -X reads like the picture. */
type Point = [number, number];

export function Plan() {
  const camera = useSession((s) => workedCamera(s));
  const showCameras = useSession((s) => s.showCameras);
  return (
    <section className="panel" aria-label="Plan">
      <h2>
        Plan <small>from above{camera ? `, ${camera.name}` : ""}</small>
        <span className="spacer" />
        <select
          aria-label="Which cameras are shown"
          value={showCameras}
          onChange={(event) => setSession({ showCameras: event.target.value as "all" })}
        >
          <option value="all">all cameras</option>
          <option value="in use">those in use</option>
          <option value="none">this one</option>
        </select>
        <button
          className="toggle"
          onClick={() => setSession({ largePlan: true })}
          title="Plan into the large place"
          aria-label="Plan into the large place"
        >
          <IconArrowsExchange size={14} />
        </button>
      </h2>
      <div className="plan">
        <PlanDrawing />
      </div>
    </section>
  );
}

export function PlanDrawing() {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const row = Math.max(0, Math.min(useCalmFrame(MOVES_EVERY_MS), scene.last) - scene.first);
  const camera = useSession((s) => workedCamera(s));
  const playing = useSession((s) => s.playing);
  const chosen = useSession((s) => chosenCharacter(s)?.id);
  const showCameras = useSession((s) => s.showCameras);
  const looking = useSession((s) => s.looking);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setSize(entry!.contentRect));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);

  const walks = useMemo(
    () => scene.characters.map((c) => ({ id: c.id, name: c.name, way: walkOf(parts, c) })),
    [parts, scene.characters],
  );
  const path = part<CameraPart>({ parts }, camera?.path);
  const way = useMemo<Point[]>(() => (path ? every(path.pose, 7, 2, 0) : []), [path]);
  const rail = useMemo<Point[]>(() => (path ? every(path.rail, 3, 2, 0) : []), [path]);
  const state = useSession.getState();
  const shown = useMemo(
    () => drawnCameras({ ...state, scene, showCameras }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the rest of the state does not decide it
    [scene, showCameras, camera?.id],
  );
  const eyes = shown.map((c) => ({ camera: c, eye: eyeOf(parts, c, row) })).filter((e) => e.eye !== null);
  const held = useRef<View | null>(null);
  const gesturing = useSession((s) => s.gesturing);
  const stands = useMemo<Point[]>(() => (path && camera ? standsOf(camera, path) : []), [path, camera]);
  const fit = useMemo(
    () => fitted([...walks.flatMap((w) => w.way), ...way, ...rail, ...stands], size),
    [walks, way, rail, stands, size],
  );
  // While something is in the hand the page stays as it lies.
  if (!gesturing || !held.current) held.current = fit;
  const view = held.current;
  const place = ([z, x]: Point): Point => [
    size.width / 2 + (z - view.z) * view.scale,
    size.height / 2 - (x - view.x) * view.scale,
  ];
  const line = (points: Point[], closed = false) =>
    points
      .map(
        (p, i) =>
          `${i ? "L" : "M"}${place(p)
            .map((v) => v.toFixed(1))
            .join(" ")}`,
      )
      .join("") + (closed && points.length ? "Z" : "");
  const handles = camera && !playing ? handlesOf({ parts, scene, frame: row + scene.first }, camera) : [];
  return (
    <div className="plan-drawing" ref={box}>
      {size.width > 0 && size.height > 0 && (
        <svg role="group" aria-label="Plan of the scene">
          <Grid view={view} size={size} />
          {camera && path && (
            <Wedge scene={scene} camera={camera} path={path} row={row} place={place} view={view} />
          )}
          {rail.length > 0 && camera && (
            <path
              d={line(rail, camera.mount.kind === "rail" && camera.mount.closed)}
              fill="none"
              stroke={tintOf(camera)}
              strokeWidth={5}
              strokeOpacity={0.25}
              data-testid="plan-rail"
            />
          )}
          {camera && (
            <path
              d={line(way)}
              fill="none"
              stroke={tintOf(camera)}
              strokeWidth={1.6}
              strokeDasharray={dashesOf(camera) || "6 4"}
            />
          )}
          {walks.map((walk) => (
            <path
              key={walk.id}
              d={line(walk.way)}
              fill="none"
              stroke="var(--red)"
              strokeWidth={walk.id === chosen ? 1.8 : 1}
            />
          ))}
          {camera && path && <Arms camera={camera} path={path} row={row} place={place} />}
          {camera?.keys.map((key) => {
            const at = way[Math.round(key.frame) - scene.first];
            if (!at || camera.keys.length > MOST_CROSSES) return null;
            const [x, y] = place(at);
            return (
              <path
                key={key.time}
                d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`}
                stroke="var(--blue)"
                strokeWidth={2}
                style={{ cursor: "pointer" }}
                onClick={() => goTo(key.frame)}
              />
            );
          })}
          {walks.map((walk) => {
            const at = walk.way[row];
            return (
              at && (
                <circle
                  key={walk.id}
                  cx={place(at)[0]}
                  cy={place(at)[1]}
                  r={walk.id === chosen ? 5 : 3.5}
                  fill="var(--red)"
                />
              )
            );
          })}
          {eyes.map(({ camera: c, eye }) => (
            <Body key={c.id} camera={c} eye={eye!} place={place} size={size} chosen={c.id === camera?.id} />
          ))}
          <HandleDots
            handles={looking === "roam" || camera ? handles : []}
            draw={(at) => place([at.z, at.x])}
            find={(at, from, lift) => {
              if (lift)
                return new Vector3(
                  from.x,
                  from.y + (place([from.z, from.x])[1] - at.y) * LIFT_M_PER_PIXEL,
                  from.z,
                );
              return new Vector3(
                view.x - (at.y - size.height / 2) / view.scale,
                from.y,
                view.z + (at.x - size.width / 2) / view.scale,
              );
            }}
          />
          <ScaleBar scale={view.scale} size={size} />
        </svg>
      )}
    </div>
  );
}

type Parts = Parameters<typeof part>[0]["parts"];

function walkOf(parts: Parts, character: SceneView["characters"][number]): Point[] {
  const motion = part<MotionPart>({ parts }, character.motion);
  const rig = part<RigPart>({ parts }, character.rig);
  if (!motion || !rig) return [];
  const joint = Math.max(0, rig.joints.indexOf(character.anchor));
  const stride = rig.joints.length * 3;
  return Array.from({ length: motion.joints.length / stride }, (_, r) => [
    motion.joints[r * stride + joint * 3 + 2]!,
    motion.joints[r * stride + joint * 3]!,
  ]);
}

/** Points of a raw array: of every row, the numbers at these places. */
function every(values: Float32Array, stride: number, z: number, x: number): Point[] {
  return Array.from({ length: values.length / stride }, (_, r) => [
    values[r * stride + z]!,
    values[r * stride + x]!,
  ]);
}

/** What a camera is carried from: the base of a crane, or where its pivot or carrier goes. */
function standsOf(camera: CameraView, path: CameraPart): Point[] {
  if (camera.mount.kind === "crane") return [[camera.mount.base[2]!, camera.mount.base[0]!]];
  return every(path.mount_places, 3, 2, 0);
}

interface Eye {
  at: Point;
  pan: number;
}

function eyeOf(parts: Parts, camera: CameraView, row: number): Eye | null {
  const path = part<CameraPart>({ parts }, camera.path);
  if (!path) return null;
  return {
    at: [path.pose[row * 7 + 2]!, path.pose[row * 7]!],
    pan: (path.pose[row * 7 + 3]! * Math.PI) / 180,
  };
}

/** A small body with a hood that opens towards what is seen, and its name. */
function Body({
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
      {chosen && (
        <text
          x={x}
          y={y + (y < size.height - 30 ? 19 : -12)}
          textAnchor={x > size.width * 0.7 ? "end" : "start"}
          fontSize={12}
          fill="var(--blue-deep)"
          className="haloed"
        >
          {camera.name}
        </text>
      )}
    </g>
  );
}

interface View {
  z: number;
  x: number;
  scale: number;
}

function fitted(points: Point[], size: { width: number; height: number }): View {
  if (!points.length || !size.width || !size.height) return { z: 0, x: 0, scale: 40 };
  const [zs, xs] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [z0, z1, x0, x1] = [Math.min(...zs), Math.max(...zs), Math.min(...xs), Math.max(...xs)];
  const scale = Math.min(size.width / (z1 - z0 + 2 * MARGIN_M), size.height / (x1 - x0 + 2 * MARGIN_M));
  return { z: (z0 + z1) / 2, x: (x0 + x1) / 2, scale };
}

function Grid({ view, size }: { view: View; size: { width: number; height: number } }) {
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
function Wedge({ scene, camera, path, row, place, view }: WedgeProps) {
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
function Arms({
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

function ScaleBar({ scale, size }: { scale: number; size: { width: number; height: number } }) {
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
