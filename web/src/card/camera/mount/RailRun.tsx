/** The rail from above as a drawn run: metres and keys along it, as thick as the camera is fast; and its speed over time. */
import type { CameraPart, CameraView, ChannelsPart } from "../../../api/generated";
import { part, setSession, useSession } from "../../../state/session";
import { Grip, type Point, lineThrough } from "../../../widgets/Grip";

const WIDTH = 240;
const HEIGHT = 150;
const MARGIN = 34;
const STRIP = 44;
const THICKEST = 9;
const TICK = 7;
const BESIDE = 31;
/** Between the names of two keys; one that would lie over another is left out. */
const NAMES_APART = 13;

interface RailRunProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  locked: boolean;
}

export function RailRun({ camera, path, row, locked }: RailRunProps) {
  const scene = useSession((s) => s.scene)!;
  const keyed = useSession((s) => part<ChannelsPart>(s, camera.channels)?.keyed.rail);
  const points = Array.from({ length: path.rail.length / 3 }, (_, i): Point => ({
    x: path.rail[i * 3]!,
    y: path.rail[i * 3 + 2]!,
  }));
  if (points.length < 2) return null;
  // Drawn at even steps of its length.
  const closed = camera.mount.kind === "rail" && camera.mount.closed;
  const line = fitted(closed ? [...points, points[0]!] : points);
  const along = line.map((_, i) => i / (line.length - 1));
  const on = path.values.rail!;
  const at = (share: number) => between(line, along, closed ? share - Math.floor(share) : share);
  const speeds = path.rail_speed;
  const fastest = speeds.reduce((a, b) => Math.max(a, b), 1e-6);
  const now = at(on[row]!);
  const metres = path.rail_length_m;
  const named: Point[] = [];
  const beside = (share: number, far: number) => {
    const [a, b] = [at(Math.max(0, share - 0.01)), at(Math.min(1, share + 0.01))];
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const here = at(share);
    return { x: here.x - ((b.y - a.y) / length) * far, y: here.y + ((b.x - a.x) / length) * far };
  };
  return (
    <>
      <p className="why">
        {metres.toFixed(1)} m in {((scene.last - scene.first + 1) / scene.rate_float).toFixed(1)} s, from
        above: drag the camera along it. The faster, the thicker.
      </p>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="rail-run"
        role="group"
        aria-label="The rail from above"
      >
        <path className="drawn-bed" d={lineThrough(line.map(({ x, y }) => [x, y]))} />
        {Array.from(speeds, (speed, i) => {
          if (i === 0 || on[i] === on[i - 1]) return null;
          const [a, b] = [at(on[i - 1]!), at(on[i]!)];
          return (
            <path
              key={i}
              className="drawn-speed"
              d={`M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`}
              strokeWidth={1 + (THICKEST - 1) * (speed / fastest)}
            />
          );
        })}
        {[0, 1].map((end) => {
          const place = beside(end, BESIDE);
          return (
            <text key={end} x={place.x} y={place.y + 4} textAnchor="middle" className="mono soft">
              {end ? `${metres.toFixed(1)} m` : "0 m"}
            </text>
          );
        })}
        {keyed &&
          Array.from(keyed.frames, (frame, i) => {
            const share = keyed.values[i]!;
            const [near, far, words] = [
              beside(share, -TICK / 2),
              beside(share, TICK / 2),
              beside(share, -BESIDE),
            ];
            const isFree = named.every(({ x, y }) => Math.hypot(x - words.x, y - words.y) >= NAMES_APART);
            if (isFree) named.push(words);
            return (
              <g key={i}>
                <path className="drawn-key" d={`M${near.x} ${near.y}L${far.x} ${far.y}`} />
                {isFree && (
                  <text x={words.x} y={words.y + 4} textAnchor="middle" className="mono">
                    {Number.isInteger(frame) ? frame : frame.toFixed(1)}
                  </text>
                )}
              </g>
            );
          })}
        <Grip
          label="Where the camera stands on its rail"
          value={`${(on[row]! * metres).toFixed(2)} m of ${metres.toFixed(2)} m`}
          now={on[row]! * metres}
          at={now}
          step={2}
          disabled={locked}
          testId="rail carriage"
          moved={(to) => ({
            edit: "set camera values",
            camera_id: camera.id,
            values: { rail: nearestShare(line, along, to) },
          })}
        >
          <circle cx={now.x} cy={now.y} r={12} fill="transparent" />
          <circle cx={now.x} cy={now.y} r={6} className="drawn-head" />
        </Grip>
      </svg>
      <SpeedStrip speeds={speeds} row={row} first={scene.first} />
    </>
  );
}

/** The speed along the rail over time; a click goes to the frame. */
function SpeedStrip({ speeds, row, first }: { speeds: Float32Array; row: number; first: number }) {
  const most = speeds.reduce((a, b) => Math.max(a, b), 0.01);
  const across = (index: number) => (index / Math.max(1, speeds.length - 1)) * WIDTH;
  const points = Array.from(speeds, (v, i) => [across(i), STRIP - (v / most) * (STRIP - 12)] as const);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${STRIP}`}
      className="speed-strip"
      role="img"
      aria-label={`Speed along the rail, up to ${most.toFixed(2)} metres a second`}
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const share = (event.clientX - box.left) / box.width;
        setSession({ frame: first + Math.round(share * (speeds.length - 1)) });
      }}
    >
      <path d={`${lineThrough(points)}L${WIDTH} ${STRIP}H0Z`} className="drawn-fill" />
      <path d={lineThrough(points)} className="drawn-camera-line" />
      <path d={`M${across(row)} 0V${STRIP}`} className="drawn-playhead" />
      <text x={Math.min(across(row) + 4, WIDTH - 52)} y={10} className="mono">
        {(speeds[row] ?? 0).toFixed(2)} m/s
      </text>
    </svg>
  );
}

/** World points fitted into the drawing, to scale. */
function fitted(points: Point[]): Point[] {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (WIDTH - 2 * MARGIN) / Math.max(right - left, 0.1),
    (HEIGHT - 2 * MARGIN) / Math.max(bottom - top, 0.1),
  );
  return points.map(({ x, y }) => ({
    x: WIDTH / 2 + (x - (left + right) / 2) * scale,
    y: HEIGHT / 2 + (y - (top + bottom) / 2) * scale,
  }));
}

/** The point at a share of the way; a ring goes on round. */
function between(line: Point[], along: number[], share: number): Point {
  const wanted = Math.max(0, Math.min(1, share));
  let index = along.findIndex((v) => v >= wanted);
  if (index <= 0) index = 1;
  const [a, b] = [line[index - 1]!, line[index]!];
  const part = (wanted - along[index - 1]!) / (along[index]! - along[index - 1]! || 1);
  return { x: a.x + (b.x - a.x) * part, y: a.y + (b.y - a.y) * part };
}

function nearestShare(line: Point[], along: number[], to: Point): number {
  let [best, least] = [0, Infinity];
  for (let i = 1; i < line.length; i++) {
    const [a, b] = [line[i - 1]!, line[i]!];
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const part = Math.max(0, Math.min(1, ((to.x - a.x) * dx + (to.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
    const away = Math.hypot(a.x + dx * part - to.x, a.y + dy * part - to.y);
    if (away < least) [best, least] = [along[i - 1]! + (along[i]! - along[i - 1]!) * part, away];
  }
  return best;
}
