/** The scene from straight above, to scale: the cut's camera with its view wedge and way, the character's path. */
import { useMemo, useRef, useState, useEffect } from "react";
import type { CameraPart, MotionPart, RigPart } from "../api/generated";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { chosenCharacter, cutCamera, part, useSession } from "../state/session";

const MARGIN_M = 0.8;
const WEDGE_M = 40;
const MOVES_EVERY_MS = 160;
const ROUND_LENGTHS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];

type Point = [number, number];

export function Plan() {
  const scene = useSession((s) => s.scene)!;
  const row = Math.max(0, Math.min(useCalmFrame(MOVES_EVERY_MS), scene.last) - scene.first);
  const camera = useSession((s) => cutCamera(s));
  const path = useSession((s) => part<CameraPart>(s, cutCamera(s)?.path));
  const character = chosenCharacter({ scene });
  const motion = useSession((s) => part<MotionPart>(s, character?.motion));
  const rig = useSession((s) => part<RigPart>(s, character?.rig));
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setSize(entry!.contentRect));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);

  // The world's Z runs to the right and X upwards on the page, so that a shot from -X reads like the picture.
  const walk = useMemo<Point[]>(() => {
    if (!motion || !rig) return [];
    const joint = Math.max(0, rig.joints.indexOf(character?.anchor ?? ""));
    const stride = rig.joints.length * 3;
    return Array.from({ length: motion.joints.length / stride }, (_, r) => {
      const at = r * stride + joint * 3;
      return [motion.joints[at + 2]!, motion.joints[at]!];
    });
  }, [motion, rig, character?.anchor]);
  const way = useMemo<Point[]>(() => {
    if (!path) return [];
    return Array.from({ length: path.channels.length / 7 }, (_, r) => [
      path.channels[r * 7 + 2]!,
      path.channels[r * 7]!,
    ]);
  }, [path]);

  const view = useMemo(() => fitted([...walk, ...way], size), [walk, way, size]);
  const place = ([z, x]: Point): Point => [
    size.width / 2 + (z - view.z) * view.scale,
    size.height / 2 - (x - view.x) * view.scale,
  ];
  const line = (points: Point[]) =>
    points
      .map(
        (p, i) =>
          `${i ? "L" : "M"}${place(p)
            .map((v) => v.toFixed(1))
            .join(" ")}`,
      )
      .join("");
  const here = walk[row];
  const eye = way[row];
  return (
    <section className="panel" aria-label="Plan">
      <h2>
        Plan <small>from above{camera ? `, ${camera.name}` : ""}</small>
      </h2>
      <div className="plan" ref={box}>
        {size.width > 0 && (
          <svg aria-hidden="true">
            <Grid view={view} size={size} />
            {eye && path && <Wedge eye={eye} place={place} path={path} row={row} width={scene.width} />}
            <path d={line(way)} fill="none" stroke="var(--blue)" strokeWidth={1.6} strokeDasharray="6 4" />
            <path d={line(walk)} fill="none" stroke="var(--red)" strokeWidth={1.8} />
            {camera?.keys.map((key) => {
              const at = way[Math.round(key.frame) - scene.first];
              if (!at) return null;
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
            {here && <circle cx={place(here)[0]} cy={place(here)[1]} r={5} fill="var(--red)" />}
            {eye && (
              <g>
                <circle cx={place(eye)[0]} cy={place(eye)[1]} r={5} fill="var(--blue)" />
                <text
                  x={place(eye)[0]}
                  y={place(eye)[1] + (place(eye)[1] < size.height - 30 ? 19 : -10)}
                  textAnchor={place(eye)[0] > size.width * 0.7 ? "end" : "start"}
                  fontSize={12}
                  fill="var(--blue-deep)"
                >
                  {camera?.name}
                </text>
              </g>
            )}
            <ScaleBar scale={view.scale} size={size} />
          </svg>
        )}
      </div>
    </section>
  );
}

interface View {
  z: number;
  x: number;
  scale: number;
}

function fitted(points: Point[], size: { width: number; height: number }): View {
  if (!points.length || !size.width) return { z: 0, x: 0, scale: 40 };
  const [zs, xs] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [z0, z1, x0, x1] = [Math.min(...zs), Math.max(...zs), Math.min(...xs), Math.max(...xs)];
  const scale = Math.min(size.width / (z1 - z0 + 2 * MARGIN_M), size.height / (x1 - x0 + 2 * MARGIN_M));
  return { z: (z0 + z1) / 2, x: (x0 + x1) / 2, scale };
}

function Grid({ view, size }: { view: View; size: { width: number; height: number } }) {
  const step = ROUND_LENGTHS.find((length) => length * view.scale > 24) ?? 100;
  const lines: React.ReactNode[] = [];
  const [wide, high] = [size.width / 2 / view.scale, size.height / 2 / view.scale];
  for (let z = Math.ceil((view.z - wide) / step) * step; z < view.z + wide; z += step) {
    const at = size.width / 2 + (z - view.z) * view.scale;
    lines.push(<path key={`z${z.toFixed(2)}`} d={`M${at} 0V${size.height}`} />);
  }
  for (let x = Math.ceil((view.x - high) / step) * step; x < view.x + high; x += step) {
    const at = size.height / 2 - (x - view.x) * view.scale;
    lines.push(<path key={`x${x.toFixed(2)}`} d={`M0 ${at}H${size.width}`} />);
  }
  return (
    <g stroke="var(--rule)" strokeWidth={0.7}>
      {lines}
    </g>
  );
}

interface WedgeProps {
  eye: Point;
  place: (point: Point) => Point;
  path: CameraPart;
  row: number;
  width: number;
}

function Wedge({ eye, place, path, row, width }: WedgeProps) {
  const pan = (path.channels[row * 7 + 3]! * Math.PI) / 180;
  const half = Math.atan(width / 2 / path.pixels_per_slope[row * 2]!);
  const edge = (turn: number): Point => {
    const angle = pan + turn;
    return place([eye[0] - Math.cos(angle) * WEDGE_M, eye[1] + Math.sin(angle) * WEDGE_M]);
  };
  const [from, left, right] = [place(eye), edge(-half), edge(half)];
  return (
    <path
      d={`M${left.join(" ")}L${from.join(" ")}L${right.join(" ")}`}
      fill="var(--blue)"
      fillOpacity={0.1}
      stroke="var(--blue)"
      strokeWidth={1}
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
      >
        {length} m
      </text>
    </g>
  );
}
