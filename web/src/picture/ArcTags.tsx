/** What the list of readings says of the arc, each tied to its place on it; the three that hurt most. */
import type { ReadingView } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import type { FrameRect } from "../optics/lens";
import { amountOf } from "../state/readingText";
import { judgedThing, useSession } from "../state/session";
import { LABEL_HEIGHT, Label, labelWidth } from "./Label";

const MOST_TAGS = 3;
const MARGIN = 4;
const RING = 7;
/** How far above or below its place a tag may stand; the nearest that is free is taken. */
const AWAY = [74, -66, 110, -100, 146, -134];

type Place = [number, number];
interface Tag {
  reading: ReadingView;
  text: string;
  place: Place;
  x: number;
  y: number;
}

export function ArcTags({ at, rect }: { at: (frame: number) => Place | null; rect: FrameRect }) {
  const readings = useSession((s) => s.scene!.readings);
  const joint = useSession((s) => s.joint);
  const characterId = useSession((s) => judgedThing(s)?.id);
  const own = readings.filter((r) => r.subject === joint && r.character_id === characterId && !r.remark);
  const jolts = readings.filter((r) => r.kind === "camera_jolts");
  return tagged([...own, ...jolts], at, rect).map(({ reading, text, place, x, y }) => {
    const end = Math.max(x + MARGIN, Math.min(place[0], x + labelWidth(text) - MARGIN));
    const [from, to] = y > place[1] ? [place[1] + RING, y - LABEL_HEIGHT + 5] : [place[1] - RING, y + 5];
    return (
      <g key={`${reading.kind}${reading.first}`} data-testid="arc-fault">
        <circle
          cx={place[0]}
          cy={place[1]}
          r={RING}
          fill="none"
          stroke="var(--over-ochre)"
          strokeWidth={1.8}
        />
        <path d={`M${place[0]} ${from}L${end} ${to}`} stroke="var(--over-ochre)" strokeWidth={1.4} />
        <Label x={x} y={y} text={text} color="var(--over-ochre)" />
      </g>
    );
  });
}

/** Readings with the places of their tags, none over another. */
export function tagged(readings: ReadingView[], at: (frame: number) => Place | null, rect: FrameRect): Tag[] {
  const placed: Tag[] = [];
  for (const reading of readings) {
    const place = at(reading.first);
    if (!place || placed.length === MOST_TAGS) continue;
    const text = [READING_TITLES[reading.kind], amountOf(reading), `· ${reading.first}`].join(" ");
    const width = labelWidth(text);
    const x = Math.min(Math.max(place[0] - width / 2, rect.x + MARGIN), rect.x + rect.width - width - MARGIN);
    const free = AWAY.map((away) => place[1] + away).find(
      (y) =>
        y - LABEL_HEIGHT > rect.y &&
        y < rect.y + rect.height - MARGIN &&
        placed.every(
          (other) =>
            Math.abs(other.y - y) > LABEL_HEIGHT + 2 ||
            x + width < other.x ||
            other.x + labelWidth(other.text) < x,
        ),
    );
    if (free !== undefined) placed.push({ reading, text, place, x, y: free });
  }
  return placed;
}
