/** Which readings are listed: those of somebody, of a camera, or of one kind of trouble. */
import type { ReadingView } from "../api/generated";
import { type Session, cameraNamed, thingNamed, useSession } from "../state/session";

/** So few are seen at a glance. */
const FEWEST = 4;

/** "who id" or "cause title"; null lists all. */
export type Sieve = string | null;

export function sieved(readings: ReadingView[], sieve: Sieve): ReadingView[] {
  if (sieve === null) return readings;
  return readings.filter((reading) => sievesOf(reading).includes(sieve));
}

const sievesOf = ({ character_id, camera_id, cause_title }: ReadingView): string[] => [
  ...(character_id ? [`who ${character_id}`] : []),
  ...(camera_id ? [`who ${camera_id}`] : []),
  `cause ${cause_title}`,
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
  const offered = [...new Set(readings.flatMap(sievesOf))];
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
  return kind === "who" ? ((thingNamed({ scene }, of) ?? cameraNamed({ scene }, of))?.name ?? "gone") : of;
}
