/**
 * The scene from straight above, to scale: every camera as a small body, the one that is worked on with its wedge, near, far
 * and focus marks, its way, rail, arm or pivot, and handles; the characters' paths.
 */
import { useEffect, useMemo, useRef, useState } from "react";
import { IconArrowsExchange } from "@tabler/icons-react";
import { Vector3 } from "three";
import type { CameraPart, CameraView, MotionPart, RigPart, SceneView } from "../api/generated";
import { HandleDots } from "../marks/HandleDots";
import { Arms, Body, Grid, type Eye, type Point, ScaleBar, type View, Wedge, every, standsOf } from "./marks";
import { RailStroke } from "./RailStroke";
import { chosenThingHandles, drawnCameras } from "../marks/CameraBodies";
import { handlesOf } from "../marks/handles";
import { uncrowded } from "../marks/uncrowded";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { worldArc } from "../state/joints";
import { dashesOf, tintOf } from "../state/lines";
import { chosenCharacter, judgedThing, part, setSession, useSession, workedCamera } from "../state/session";

const MARGIN_M = 0.8;
const NOTHING = new Float32Array();
/** How much closer the page could lie before it is laid anew. */
const MOST_ROOM = 1.7;
const MOST_CROSSES = 24;
const MOVES_EVERY_MS = 160;
/** CSS pixels of width from which every camera is named, not only the one that is worked on. */
const ROOM_FOR_NAMES = 420;
const LIFT_M_PER_PIXEL = 0.01;
/** Where the scale bar lies, from the lower right corner. */
const SCALE_BAR: Point[] = [
  [20, 16],
  [36, 16],
  [52, 16],
];

export function Plan() {
  const camera = useSession((s) => workedCamera(s));
  const showCameras = useSession((s) => s.showCameras);
  return (
    <section className="panel plan-pane" aria-label="Plan">
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
  const thingId = useSession((s) => s.thingId);
  const drawing = useSession((s) => s.drawingRail);
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
  const judged = useSession((s) => judgedThing(s));
  const joint = useSession((s) => (s.showArc ? s.joint : null));
  const arc = useMemo<Point[]>(
    () => every(worldArc({ parts }, judged, joint, scene.last - scene.first + 1) ?? NOTHING, 3, 2, 0),
    [parts, judged, joint, scene.first, scene.last],
  );
  const state = useSession.getState();
  const shown = useMemo(
    () => drawnCameras({ ...state, scene, showCameras }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the rest of the state does not decide it
    [scene, showCameras, camera?.id],
  );
  const eyes = shown.map((c) => ({ camera: c, eye: eyeOf(parts, c, row) })).filter((e) => e.eye !== null);
  const held = useRef<{ view: View; of: string } | null>(null);
  const gesturing = useSession((s) => s.gesturing);
  const stands = useMemo<Point[]>(() => (path && camera ? standsOf(camera, path) : []), [path, camera]);
  const points = useMemo(
    () => [...walks.flatMap((w) => w.way), ...way, ...rail, ...stands],
    [walks, way, rail, stands],
  );
  const fit = useMemo(() => fitted(points, size), [points, size]);
  // The page stays as it lies while something is in the hand, and afterwards as long as all of it is in sight on it.
  const of = `${scene.id} ${camera?.id} ${size.width} ${size.height}`;
  const stays = held.current?.of === of && (gesturing || stillFits(held.current.view, fit, points, size));
  if (!stays) held.current = { view: fit, of };
  const view = held.current!.view;
  const place = ([z, x]: Point): Point => [
    size.width / 2 + (z - view.z) * view.scale,
    size.height / 2 - (x - view.x) * view.scale,
  ];
  const ground = ([x, y]: Point): [number, number] => [
    view.x - (y - size.height / 2) / view.scale,
    view.z + (x - size.width / 2) / view.scale,
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
  const now = { parts, scene, frame: row + scene.first, thingId };
  const ofCamera = camera ? handlesOf(now, camera) : [];
  const handles = playing ? [] : [...ofCamera, ...chosenThingHandles(now)];
  const byId = new Map(eyes.map((e) => [e.camera.id, e.camera]));
  const own = eyes.filter((e) => e.camera.id === camera?.id);
  const others = size.width > ROOM_FOR_NAMES ? eyes.filter((e) => e.camera.id !== camera?.id) : [];
  const names = uncrowded(
    [...own, ...others].map(({ camera: c, eye }) => {
      const [x, y] = place(eye!.at);
      const inSight = x > 0 && y > 0 && x < size.width && y < size.height;
      return { id: c.id, text: c.name, at: inSight ? [x, y] : null, always: c.id === camera?.id };
    }),
    [
      ...handles.filter((h) => h.kind !== "camera").map(({ place: { x, z } }) => place([z, x])),
      ...SCALE_BAR.map(([left, up]): Point => [size.width - left, size.height - up]),
    ],
    size.width,
    size.height,
  );
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
          {arc.length > 0 && (
            <g data-testid="plan-arc">
              <path d={line(arc)} fill="none" stroke="var(--red)" strokeWidth={1.2} strokeDasharray="1 2" />
              <rect
                x={place(arc[row]!)[0] - 3}
                y={place(arc[row]!)[1] - 3}
                width={6}
                height={6}
                fill="var(--sheet)"
                stroke="var(--red)"
                strokeWidth={1.6}
              />
            </g>
          )}
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
          {names.map(({ id, text, x, y }) => (
            <text
              key={id}
              x={x}
              y={y}
              fontSize={12}
              fill={id === camera?.id ? "var(--blue-deep)" : tintOf(byId.get(id)!)}
              className="haloed"
              data-testid="plan-name"
            >
              {text}
            </text>
          ))}
          <HandleDots
            handles={handles}
            draw={(at) => place([at.z, at.x])}
            find={(at, from, lift) => {
              if (lift)
                return new Vector3(
                  from.x,
                  from.y + (place([from.z, from.x])[1] - at.y) * LIFT_M_PER_PIXEL,
                  from.z,
                );
              const [x, z] = ground([at.x, at.y]);
              return new Vector3(x, from.y, z);
            }}
          />
          <ScaleBar scale={view.scale} size={size} />
          {camera && drawing === camera.id && <RailStroke cameraId={camera.id} ground={ground} />}
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

function eyeOf(parts: Parts, camera: CameraView, row: number): Eye | null {
  const path = part<CameraPart>({ parts }, camera.path);
  if (!path) return null;
  return {
    at: [path.pose[row * 7 + 2]!, path.pose[row * 7]!],
    pan: (path.pose[row * 7 + 3]! * Math.PI) / 180,
  };
}

/** Whether everything is in sight on a page as it lies, and not too small. */
function stillFits(view: View, fit: View, points: Point[], size: { width: number; height: number }): boolean {
  if (fit.scale > view.scale * MOST_ROOM) return false;
  const [wide, high] = [size.width / 2 / view.scale, size.height / 2 / view.scale];
  return points.every(([z, x]) => Math.abs(z - view.z) <= wide && Math.abs(x - view.x) <= high);
}

function fitted(points: Point[], size: { width: number; height: number }): View {
  if (!points.length || !size.width || !size.height) return { z: 0, x: 0, scale: 40 };
  const [zs, xs] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [z0, z1, x0, x1] = [Math.min(...zs), Math.max(...zs), Math.min(...xs), Math.max(...xs)];
  const scale = Math.min(size.width / (z1 - z0 + 2 * MARGIN_M), size.height / (x1 - x0 + 2 * MARGIN_M));
  return { z: (z0 + z1) / 2, x: (x0 + x1) / 2, scale };
}
