/** The delivery frame in small: where the held subject belongs, the room it may wander in, and its size, all dragged. */
import type { CameraPart, Framing } from "../../../api/generated";
import type { Edit } from "../../../api/client";
import { frameAspect } from "../../../optics/lens";
import { useSession } from "../../../state/session";
import { Grip, type Point, lineThrough } from "../../../widgets/Grip";
import { FramedMark } from "../../../marks/FramedMark";

const WIDTH = 240;
const TALLEST = 190;
const AROUND = 10;
const BRACKET_BESIDE = 46;
const LEAST_SHARE = 0.01;
type Corner = [number, number];

interface FrameDrawingProps {
  framing: Framing;
  path: CameraPart;
  row: number;
  locked: boolean;
  edited: (framing: Framing) => Edit;
}

export function FrameDrawing({ framing, path, row, locked, edited }: FrameDrawingProps) {
  const scene = useSession((s) => s.scene)!;
  const aspect = frameAspect(scene);
  const width = Math.min(WIDTH, TALLEST * aspect);
  const height = width / aspect;
  const inDrawing = ([x, y]: readonly [number, number]): [number, number] => [x * width, y * height];
  const seen = (at: number): [number, number] =>
    inDrawing([path.held_px[at * 2]! / scene.width, path.held_px[at * 2 + 1]! / scene.height]);
  const middle: Point = { x: framing.x * width, y: framing.y * height };
  const slack = framing.slack as Corner[];
  const corners = slack.map(([x, y]) => inDrawing([framing.x + x, framing.y + y]));
  const sizeNow = path.held_size_px[row]!;
  const share = framing.size?.share ?? sizeNow / scene.height;
  const bracket = { x: Math.min(width - 4, middle.x + BRACKET_BESIDE), half: (share * height) / 2 };
  const [nowX, nowY] = seen(row);
  return (
    <svg
      className="frame-drawing"
      viewBox={`${-AROUND} ${-AROUND} ${width + 2 * AROUND} ${height + 2 * AROUND}`}
      style={{ width: width + 2 * AROUND, maxWidth: "100%" }}
      role="group"
      aria-label="The framing, drawn in the delivery frame"
    >
      <rect width={width} height={height} className="drawn-frame" />
      <path
        className="drawn-thirds"
        d={[1, 2].map((n) => `M${(n * width) / 3} 0V${height}M0 ${(n * height) / 3}H${width}`).join("")}
      />
      {corners.length > 1 && (
        <polygon className="drawn-slack" points={corners.map((c) => c.join(",")).join(" ")} />
      )}
      <path
        className="drawn-track"
        d={lineThrough(Array.from({ length: scene.last - scene.first + 1 }, (_, i) => seen(i)))}
      />
      {Number.isFinite(nowX) && <circle cx={nowX} cy={nowY} r={2.6} className="drawn-now" />}
      {share > 0 && Number.isFinite(share) && (
        <SizeBracket
          at={bracket.x}
          middle={middle.y}
          half={bracket.half}
          px={Math.round(share * scene.height)}
          height={height}
          framing={framing}
          locked={locked}
          edited={edited}
        />
      )}
      {slack.map((corner, index) => (
        <Grip
          key={index}
          label={`Corner ${index + 1} of the room`}
          value={`${percent(corner[0])} across, ${percent(corner[1])} down from its place`}
          now={corner[0] * 100}
          at={{ x: corners[index]![0], y: corners[index]![1] }}
          step={1}
          disabled={locked}
          testId={`slack corner ${index}`}
          moved={({ x, y }) =>
            edited({
              ...framing,
              slack: slack.map((c, i): Corner =>
                i === index ? [bounded(x / width - framing.x), bounded(y / height - framing.y)] : c,
              ),
            })
          }
          removed={() => edited({ ...framing, slack: slack.filter((_, i) => i !== index) })}
        >
          <circle cx={corners[index]![0]} cy={corners[index]![1]} r={9} fill="transparent" />
          <circle cx={corners[index]![0]} cy={corners[index]![1]} r={3.2} className="drawn-corner" />
        </Grip>
      ))}
      <Grip
        label="Where it is held"
        value={`${percent(framing.x)} across, ${percent(framing.y)} down`}
        now={framing.x * 100}
        at={middle}
        step={1}
        disabled={locked}
        testId="framing mark"
        moved={({ x, y }) => edited({ ...framing, x: within(x / width), y: within(y / height) })}
      >
        <FramedMark x={middle.x} y={middle.y} missed={(path.reached[row]! & 2) === 0} />
      </Grip>
    </svg>
  );
}

interface SizeBracketProps {
  at: number;
  middle: number;
  half: number;
  px: number;
  height: number;
  framing: Framing;
  locked: boolean;
  edited: (framing: Framing) => Edit;
}

/** The size it has; held, its ends are dragged. */
function SizeBracket({ at, middle, half, px, height, framing, locked, edited }: SizeBracketProps) {
  const { size } = framing;
  const left = at > WIDTH - 50;
  const words = (
    <text x={left ? at - 7 : at + 7} y={middle + 4} textAnchor={left ? "end" : "start"} className="mono">
      {px} px
    </text>
  );
  const bar = <path d={`M${at - 5} ${middle - half}h10m-5 0v${2 * half}m-5 0h10`} />;
  if (!size)
    return (
      <g className="drawn-size">
        {bar}
        {words}
      </g>
    );
  const ends = [-1, 1].map((end) => (
    <Grip
      key={end}
      label={end < 0 ? "Upper end of its size" : "Lower end of its size"}
      value={`${px} px high`}
      now={px}
      at={{ x: at, y: middle + end * half }}
      step={1}
      disabled={locked}
      testId={end < 0 ? "size upper" : "size lower"}
      moved={({ y }) => {
        const share = Math.max(LEAST_SHARE, (2 * Math.abs(y - middle)) / height);
        return edited({ ...framing, size: { ...size, share } });
      }}
    >
      <rect
        x={at - 9}
        y={inSight(middle + end * half, height) - 8}
        width={18}
        height={16}
        fill="transparent"
      />
    </Grip>
  ));
  return (
    <g className="drawn-size held">
      {bar}
      {words}
      {ends}
    </g>
  );
}

/** Where an end that lies outside the drawing is taken hold of. */
function inSight(y: number, height: number): number {
  return Math.max(-AROUND / 2, Math.min(height + AROUND / 2, y));
}

function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

/** A place may lie a little outside the frame, and a corner no farther than one frame from it. */
function within(share: number): number {
  return Math.max(-0.5, Math.min(1.5, share));
}

function bounded(share: number): number {
  return Math.max(-1, Math.min(1, share));
}
