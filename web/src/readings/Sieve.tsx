/** Which readings are listed: those of somebody, of a camera, or of one kind of trouble. */
import type { ReadingView } from "../api/generated";
import { type Session, cameraNamed, playRange, thingNamed, useSession } from "../state/session";

/** So few are seen at a glance. */
const FEWEST = 4;

/** "who id", "cause title", "shot number" or "range first last"; null lists all. */
export type Sieve = string | null;

export function sieved(readings: ReadingView[], sieve: Sieve): ReadingView[] {
  if (sieve === null) return readings;
  if (sieve.startsWith("range ")) {
    const [first, last] = sieve.slice(6).split(" ").map(Number) as [number, number];
    return readings.filter((reading) => reading.first <= last && reading.last >= first);
  }
  return readings.filter((reading) => sievesOf(reading).includes(sieve));
}

const sievesOf = ({ character_id, camera_id, cause_title, shot }: ReadingView): string[] => [
  ...(character_id ? [`who ${character_id}`] : []),
  ...(camera_id ? [`who ${camera_id}`] : []),
  `cause ${cause_title}`,
  ...(shot ? [`shot ${shot}`] : []),
];

export function SieveChoice({
  readings,
  sieve,
  choose,
}: {
  readings: ReadingView[];
  sieve: Sieve;
  choose: (sieve: Sieve) => void;
}) {
  const scene = useSession((s) => s.scene);
  const range = useSession((s) => s.range);
  const [first, last] = range && scene ? playRange({ scene, range }) : [0, 0];
  const shots = new Set(readings.map(({ shot }) => shot)).size;
  const offered = [...new Set(readings.flatMap(sievesOf))].filter(
    (one) => shots > 1 || !one.startsWith("shot "),
  );
  if (range) offered.push(`range ${first} ${last}`);
  if (sieve === null && (readings.length < FEWEST || offered.length < 2)) return null;
  return (
    <select
      aria-label="Which readings are listed"
      value={sieve ?? ""}
      onChange={(event) => choose(event.target.value || null)}
    >
      <option value="">all</option>
      {(sieve === null || offered.includes(sieve) ? offered : [sieve, ...offered]).map((one) => (
        <option key={one} value={one}>
          {titleOf(one, scene)}
        </option>
      ))}
    </select>
  );
}

function titleOf(sieve: string, scene: Session["scene"]): string {
  const [kind, ...rest] = sieve.split(" ");
  const of = rest.join(" ");
  if (kind === "shot") return sieve;
  if (kind === "range") return rest.join("–");
  return kind === "who" ? ((thingNamed({ scene }, of) ?? cameraNamed({ scene }, of))?.name ?? "gone") : of;
}
