/** A crane from the side and from above: its arm, how far it reaches, how high its head hangs and how far it has swung. */
import type { CameraPart, CameraView } from "../../../api/generated";
import type { Edit } from "../../../api/client";
import { session } from "../../../state/session";
import { Grip, type Point } from "../../../widgets/Grip";
import type { Of } from "./mounting";

const WIDTH = 240;
const SIDE = 132;
const ABOVE = 118;
const MARGIN = 22;
const ABOVE_MARGIN = 14;
const WEIGHT_SHARE = 0.28;
const SHORTEST_M = 0.2;
const HOOD = 20;
const LOWEST_DRAWN_M = 1.5;
const AHEAD_DEG = 75;

interface CraneDrawingProps {
  camera: CameraView;
  crane: Of<"crane">;
  path: CameraPart;
  row: number;
  locked: boolean;
}

export function CraneDrawing(props: CraneDrawingProps) {
  return (
    <>
      <FromTheSide {...props} />
      <FromAbove {...props} />
    </>
  );
}

function arm(path: CameraPart, row: number) {
  const [pitch, yaw, length] = (["arm_pitch", "arm_yaw", "arm_length"] as const).map(
    (n) => path.values[n]![row]!,
  );
  return { pitch: pitch!, yaw: yaw!, length: length! };
}

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** The longest the arm gets in the scene, so that the drawing keeps its scale while it moves. */
function longest(path: CameraPart): number {
  return path.values.arm_length!.reduce((a, b) => Math.max(a, b), 0);
}

/** The highest that its head gets in the scene, metres. */
function highest(path: CameraPart, baseHeight: number): number {
  const lengths = path.values.arm_length!;
  return path.values.arm_pitch!.reduce(
    (most, pitch, i) => Math.max(most, baseHeight + Math.sin(radians(pitch)) * lengths[i]!),
    baseHeight,
  );
}

/** Bring the head to a place told from its base: outward in a direction, as a pan in degrees, and up, in metres. */
function reaching(camera: CameraView, crane: Of<"crane">, pan: number, out: number, up: number): Edit {
  const [x, y, z] = crane.base as [number, number, number];
  const turn = radians(pan);
  return {
    edit: "reach with mount",
    camera_id: camera.id,
    place: [x + Math.sin(turn) * out, y + up, z - Math.cos(turn) * out],
    frame: session().frame,
  };
}

function FromTheSide({ camera, crane, path, row, locked }: CraneDrawingProps) {
  const { pitch, yaw, length } = arm(path, row);
  const reach = longest(path);
  const baseHeight = crane.base[1]!;
  const scale = Math.min(
    (WIDTH - 2 * MARGIN - HOOD) / (reach * (1 + WEIGHT_SHARE)),
    (SIDE - 2 * MARGIN) / Math.max(highest(path, baseHeight), LOWEST_DRAWN_M),
  );
  const ground = SIDE - 14;
  const pivot: Point = { x: MARGIN + reach * WEIGHT_SHARE * scale, y: ground - baseHeight * scale };
  const along = (share: number): Point => ({
    x: pivot.x + Math.cos(radians(pitch)) * length * share * scale,
    y: pivot.y - Math.sin(radians(pitch)) * length * share * scale,
  });
  const head = along(1);
  const weight = along(-WEIGHT_SHARE);
  const height = baseHeight + Math.sin(radians(pitch)) * length;
  const outward = Math.cos(radians(pitch)) * length;
  const steep = (p: number): string => {
    const [x, y] = [Math.cos(radians(p)), Math.sin(radians(p))].map((c) => c * length * scale);
    return `${(pivot.x + x!).toFixed(1)} ${(pivot.y - y!).toFixed(1)}`;
  };
  const lean = crane.follow_pitch ? -pitch : 0;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${SIDE}`}
      className="crane-drawing"
      role="group"
      aria-label="The crane from the side"
    >
      <path d={`M0 ${ground}H${WIDTH}`} className="drawn-ground" />
      <path
        className="drawn-swing"
        d={`M${steep(pitch - 25)}A${length * scale} ${length * scale} 0 0 0 ${steep(pitch + 25)}`}
      />
      <path d={`M${head.x} ${head.y}V${ground}`} className="drawn-measure" />
      <text x={Math.min(head.x + 5, WIDTH - 46)} y={(head.y + ground) / 2 + 4} className="mono">
        {height.toFixed(1)} m
      </text>
      <text x={(pivot.x + head.x) / 2} y={ground + 12} textAnchor="middle" className="mono soft">
        reach {outward.toFixed(1)} m
      </text>
      <path d={`M${weight.x} ${weight.y}L${head.x} ${head.y}`} className="drawn-arm" />
      <rect x={weight.x - 6} y={weight.y - 5} width={12} height={10} className="drawn-weight" />
      <Grip
        label="Height of the crane's base"
        value={`${baseHeight.toFixed(2)} m`}
        now={baseHeight}
        at={pivot}
        step={scale * 0.01}
        disabled={locked}
        testId="crane base height"
        moved={({ y }) => {
          const [x, , z] = crane.base as [number, number, number];
          const base: [number, number, number] = [x, Math.max(0, (ground - y) / scale), z];
          return {
            edit: "mount camera",
            camera_id: camera.id,
            mount: { ...crane, base },
            frame: session().frame,
            keep: false,
          };
        }}
      >
        <path d={`M${pivot.x} ${pivot.y}L${pivot.x + 9} ${ground}H${pivot.x - 9}Z`} className="drawn-stand" />
        <circle cx={pivot.x} cy={pivot.y} r={9} fill="transparent" />
        <circle cx={pivot.x} cy={pivot.y} r={2.6} className="drawn-pivot" />
      </Grip>
      <Grip
        label="Head of the crane, from the side"
        value={`${height.toFixed(2)} m high, ${outward.toFixed(2)} m out`}
        now={height}
        at={head}
        step={scale * 0.02}
        disabled={locked}
        testId="crane head"
        moved={({ x, y }) => {
          const [out, up] = [Math.max((x - pivot.x) / scale, 1e-3), (pivot.y - y) / scale];
          return reaching(camera, crane, crane.heading + yaw, out, up);
        }}
      >
        <g transform={`translate(${head.x} ${head.y}) rotate(${lean})`}>
          <rect x={-10} y={-10} width={34} height={20} fill="transparent" />
          <rect x={-4} y={-4} width={13} height={8} className="drawn-head" />
          <path d="M9 -2L20 -7V7L9 2Z" className="drawn-hood" />
        </g>
      </Grip>
    </svg>
  );
}

function FromAbove({ camera, crane, path, row, locked }: CraneDrawingProps) {
  const { pitch, yaw, length } = arm(path, row);
  // Where it swings far round there is as much room behind its base as before it.
  const isAhead = path.values.arm_yaw!.every((turn) => Math.abs(turn) < AHEAD_DEG);
  const scale = (ABOVE - 2 * ABOVE_MARGIN) / (Math.max(longest(path), SHORTEST_M) * (isAhead ? 1 : 2));
  const pivot: Point = { x: WIDTH / 2, y: isAhead ? ABOVE - ABOVE_MARGIN : ABOVE / 2 };
  const outward = Math.cos(radians(pitch)) * length;
  const at = (turn: number, far: number): Point => ({
    x: pivot.x + Math.sin(radians(turn)) * far * scale,
    y: pivot.y - Math.cos(radians(turn)) * far * scale,
  });
  const head = at(yaw, outward);
  const straight = at(0, longest(path));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${ABOVE}`}
      className="crane-drawing"
      role="group"
      aria-label="The crane from above"
    >
      <path d={`M${pivot.x} ${pivot.y}L${straight.x} ${straight.y}`} className="drawn-measure" />
      <circle cx={pivot.x} cy={pivot.y} r={outward * scale} className="drawn-swing" />
      <path d={`M${pivot.x} ${pivot.y}L${head.x} ${head.y}`} className="drawn-arm" />
      <circle cx={pivot.x} cy={pivot.y} r={4} className="drawn-pivot" />
      <text x={6} y={14} className="mono">
        swing {Math.abs(yaw).toFixed(0)}° {Math.abs(yaw) < 0.5 ? "" : yaw > 0 ? "right" : "left"}
      </text>
      <text x={6} y={28} className="soft">
        heading {crane.heading.toFixed(0)}°
      </text>
      <Grip
        label="Head of the crane, from above"
        value={`swung ${yaw.toFixed(0)} degrees`}
        now={yaw}
        at={head}
        step={2}
        disabled={locked}
        testId="crane swing"
        moved={({ x, y }) => {
          const turn = (Math.atan2(x - pivot.x, pivot.y - y) * 180) / Math.PI;
          return reaching(camera, crane, crane.heading + turn, outward, Math.sin(radians(pitch)) * length);
        }}
      >
        <circle cx={head.x} cy={head.y} r={11} fill="transparent" />
        <circle cx={head.x} cy={head.y} r={5} className="drawn-head" />
      </Grip>
    </svg>
  );
}
