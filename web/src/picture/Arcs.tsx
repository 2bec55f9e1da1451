/** Ways over the screen: of the chosen joint, of those that stay beside it, and of the same joint in another version. */
import { memo } from "react";
import type { ArcPart, PieceMotionPart, SceneView, ShownPart } from "../api/generated";
import type { FrameRect } from "../optics/lens";
import { judgedThing, part, thingNamed, useSession } from "../state/session";
import { ArcTags } from "./ArcTags";
import { LABEL_HEIGHT, Label, labelWidth } from "./Label";

export type Place = [number, number];

/** Lines of the arcs that stay: each its own, so that they are told apart without colour. */
const DASHES = ["7 3", "2.5 2.5", "11 3 2 3", "5 5", "1.5 4", "9 2", "3 2 1 2", "6 2 2 2"];
const [THIN, THICK] = [1, 5.5];
/** How much of its strength an arc has at the farthest frames that are drawn. */
const FAINTEST = 0.12;

/** Where the arc is on a row of the scene, CSS pixels of the Picture; null where it is not in sight. */
export function arcPlace(arc: ArcPart, row: number, rect: FrameRect, scene: SceneView): Place | null {
  const [x, y] = [arc.pixels[2 * row] ?? NaN, arc.pixels[2 * row + 1] ?? NaN];
  if (Number.isNaN(x)) return null;
  return [rect.x + (x * rect.width) / scene.width, rect.y + (y * rect.height) / scene.height];
}

export const Arcs = memo(function Arcs({ rect }: { rect: FrameRect }) {
  const scene = useSession((s) => s.scene)!;
  const ownArc = useSession((s) => part<ArcPart>(s, s.scene?.arc));
  const parts = useSession((s) => s.parts);
  const thing = useSession((s) => judgedThing(s));
  const joint = useSession((s) => s.joint);
  const reach = useSession((s) => s.looks.arcReach);
  // Where all of it is drawn it stands still while it plays.
  const now = useSession((s) => (s.looks.arcReach ? s.frame - (s.scene?.first ?? 0) : null));
  const relativeTo = useSession((s) => s.looks.relativeTo);
  const seenFrom = useSession((s) => (s.looks.relativeTo ? s.frame - (s.scene?.first ?? 0) : 0));
  const last = scene.last - scene.first;
  const rows = now === null ? [0, last] : [Math.max(0, now - reach), Math.min(last, now + reach)];
  const drawn = { first: rows[0]!, last: rows[1]!, now, reach };
  const basis = scene.also.find(
    (one) => one.thing_id === relativeTo?.thing_id && one.joint === relativeTo.joint,
  );
  const seen = part<ArcPart>({ parts }, basis?.arc);
  const from = (track: ArcPart) => (seen && track !== seen ? relative(track, seen, seenFrom) : track);
  const arc = ownArc && from(ownArc);
  const others = scene.also.filter((one) => one.thing_id !== thing?.id || one.joint !== joint);
  const tracks = others.flatMap((one, index) => {
    const own = part<ArcPart>({ parts }, one.arc);
    return own ? [{ ...one, track: from(own), dash: DASHES[index % DASHES.length]! }] : [];
  });
  const ends = [...(arc && joint && tracks.length ? [{ joint, track: arc }] : []), ...tracks].flatMap(
    ({ joint: text, track }) => {
      for (let row = drawn.last; row >= drawn.first; row--) {
        const place = arcPlace(track, row, rect, scene);
        if (place) return [{ text, place }];
      }
      return [];
    },
  );
  return (
    <>
      {tracks.map(({ thing_id, joint: name, track, dash }) => (
        <g key={`${thing_id} ${name}`} data-testid="arc-also" aria-label={name}>
          <Line track={track} rect={rect} drawn={drawn} dash={dash} />
          <Ticks
            at={(row) => arcPlace(track, row, rect, scene)}
            thing={thingNamed({ scene }, thing_id)}
            drawn={drawn}
            small
          />
        </g>
      ))}
      {arc && (
        <g data-testid="arc">
          <ArcBeside rect={rect} />
          <Line track={arc} rect={rect} drawn={drawn} />
          <Ticks at={(row) => arcPlace(arc, row, rect, scene)} thing={thing} drawn={drawn} />
          <ArcTags at={(frame) => arcPlace(arc, frame - scene.first, rect, scene)} rect={rect} />
        </g>
      )}
      {apart(ends, rect).map(({ text, x, y }) => (
        <Label key={text} x={x} y={y} text={text} color="var(--over-red)" />
      ))}
    </>
  );
});

/** A track as it is seen from another, which stands still where it is on a row. */
export function relative(track: ArcPart, from: ArcPart, row: number): ArcPart {
  const pixels = track.pixels.map((value, at) => value - from.pixels[at]! + from.pixels[2 * row + (at % 2)]!);
  return { ...track, pixels };
}

interface Drawn {
  /** Rows of the scene, and the one of the playhead where arcs fade away from it. */
  first: number;
  last: number;
  now: number | null;
  reach: number;
}

const strength = ({ now, reach }: Drawn, row: number) =>
  now === null ? 1 : 1 - (1 - FAINTEST) * (Math.abs(row - now) / (reach + 1));

interface OfTrack {
  track: ArcPart;
  rect: FrameRect;
  drawn: Drawn;
}

/** The line: in one piece, or frame by frame where it fades or shows its speed. */
function Line({ track, rect, drawn, dash }: OfTrack & { dash?: string }) {
  const scene = useSession((s) => s.scene)!;
  const bySpeed = useSession((s) => s.looks.arcBySpeed);
  const at = (row: number) => arcPlace(track, row, rect, scene);
  const rows = Array.from({ length: drawn.last - drawn.first + 1 }, (_, n) => drawn.first + n);
  const testId = dash ? undefined : "arc-line";
  if (drawn.now === null && !bySpeed) {
    const line = linePath(rows.map(at));
    return (
      <g fill="none" strokeLinejoin="round">
        <path d={line} stroke="var(--over-halo)" strokeOpacity={0.7} strokeWidth={4} />
        <path
          d={line}
          stroke="var(--over-red)"
          strokeWidth={1.8}
          strokeDasharray={dash}
          data-testid={testId}
        />
      </g>
    );
  }
  const most = Math.max(1e-6, ...track.spacing_px.filter((v) => !Number.isNaN(v)));
  return (
    <g fill="none" strokeLinecap={dash ? "butt" : "round"} data-testid={testId}>
      {rows.slice(1).map((row) => {
        const [a, b] = [at(row - 1), at(row)];
        if (!a || !b) return null;
        const speed = track.spacing_px[row]! / most;
        return (
          <path
            key={row}
            d={linePath([a, b])}
            stroke="var(--over-red)"
            strokeOpacity={strength(drawn, row)}
            strokeWidth={bySpeed ? THIN + (THICK - THIN) * (speed || 0) : 1.8}
            strokeDasharray={bySpeed ? undefined : dash}
          />
        );
      })}
    </g>
  );
}

type Thing = ReturnType<typeof judgedThing>;

/** A box where a new pose is shown, a stroke where one is held. */
interface TicksProps {
  at: (row: number) => Place | null;
  thing: Thing;
  drawn: Drawn;
  small?: boolean;
}

export function Ticks({ at, thing, drawn, small }: TicksProps) {
  const scene = useSession((s) => s.scene)!;
  const shown = useSession((s) =>
    thing ? part<ShownPart | PieceMotionPart>(s, "shown" in thing ? thing.shown : thing.motion) : null,
  );
  const starts = shown && "exposure_start" in shown ? shown.exposure_start : null;
  const keys = new Set(
    shown && "key_poses" in shown ? Array.from(shown.key_poses, (frame) => Math.round(frame)) : [],
  );
  const half = small ? 1.9 : 2.8;
  return Array.from({ length: drawn.last - drawn.first + 1 }, (_, n) => {
    const row = drawn.first + n;
    const place = at(row);
    if (!place) return null;
    const opacity = strength(drawn, row);
    if (starts && starts[row] !== scene.first + row)
      return small ? null : (
        <HeldTick key={row} place={place} before={at(row - 1)} after={at(row + 1)} opacity={opacity} />
      );
    return (
      <rect
        key={row}
        x={place[0] - half}
        y={place[1] - half}
        width={2 * half}
        height={2 * half}
        fill={keys.has(scene.first + row) ? "var(--over-red)" : "var(--over-halo)"}
        stroke={keys.has(scene.first + row) ? "var(--over-halo)" : "var(--over-red)"}
        strokeWidth={1.3}
        opacity={opacity}
      />
    );
  });
}

/** A held frame: a short stroke across the arc. */
function HeldTick({
  place,
  before,
  after,
  opacity,
}: {
  place: Place;
  before: Place | null;
  after: Place | null;
  opacity: number;
}) {
  const a = before ?? place;
  const b = after ?? place;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [nx, ny] = [((a[1] - b[1]) / length) * 4.5, ((b[0] - a[0]) / length) * 4.5];
  return (
    <path
      d={`M${place[0] - nx} ${place[1] - ny}L${place[0] + nx} ${place[1] + ny}`}
      stroke="var(--over-red)"
      strokeWidth={1.2}
      opacity={opacity}
    />
  );
}

/** The same joint in the version beside. */
function ArcBeside({ rect }: { rect: FrameRect }) {
  const scene = useSession((s) => s.scene)!;
  const name = useSession((s) => s.beside?.name);
  const arc = useSession((s) => part<ArcPart>(s, s.scene?.beside?.arc));
  if (!arc) return null;
  const places = Array.from({ length: scene.last - scene.first + 1 }, (_, row) =>
    arcPlace(arc, row, rect, scene),
  );
  const end = places.findLast((place) => place !== null);
  return (
    <g data-testid="arc-beside">
      <path
        d={linePath(places)}
        fill="none"
        stroke="var(--over-halo)"
        strokeOpacity={0.6}
        strokeWidth={3.5}
      />
      <path
        d={linePath(places)}
        fill="none"
        stroke="var(--over-ink)"
        strokeWidth={1.5}
        strokeDasharray="5 3"
      />
      {end && name && (
        <Label
          x={Math.min(end[0] + 8, rect.x + rect.width - labelWidth(name))}
          y={end[1] + 1.5 * LABEL_HEIGHT}
          text={name}
          color="var(--over-ink)"
        />
      )}
    </g>
  );
}

/** A line through the places that there are. */
export function linePath(places: (Place | null)[]): string {
  let line = "";
  places.forEach((place, at) => {
    if (place) line += `${places[at - 1] ? "L" : "M"}${place[0].toFixed(1)} ${place[1].toFixed(1)}`;
  });
  return line;
}

/** Names beside the ends of their arcs, none over another. */
export function apart(
  ends: { text: string; place: Place }[],
  rect: FrameRect,
): { text: string; x: number; y: number }[] {
  const placed: { text: string; x: number; y: number }[] = [];
  for (const { text, place } of ends) {
    const x = Math.max(rect.x, Math.min(place[0] + 8, rect.x + rect.width - labelWidth(text) - 4));
    let y = Math.max(rect.y + LABEL_HEIGHT, place[1]);
    const hits = () =>
      placed.find(
        (other) =>
          Math.abs(other.y - y) < LABEL_HEIGHT + 2 &&
          x < other.x + labelWidth(other.text) &&
          other.x < x + labelWidth(text),
      );
    for (let other = hits(); other; other = hits()) y = other.y + LABEL_HEIGHT + 2;
    placed.push({ text, x, y });
  }
  return placed;
}
