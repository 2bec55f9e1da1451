/** Slower, faster, frozen, turned round: what becomes of time over what is played, or over a stretch from the playhead on. */
import { useCalmFrame } from "../state/calmFrame";
import { playRange, useSession } from "../state/session";

/** A stretch from the playhead, where no range is set. */
const USUAL_FRAMES = 12;
const SPEEDS: [string, number, string][] = [
  ["slower", 0.5, "Half as fast"],
  ["faster", 2, "Twice as fast"],
  ["freeze", 0, "Stands still"],
  ["turn round", -1, "Runs backwards"],
];

interface Bending {
  /** Of whom it is the time, as a label says it. */
  of: string;
  disabled?: boolean;
  bend: (stretch: { first: number; last: number; speed: number }) => void;
}

export function TimeBend({ of, disabled = false, bend }: Bending) {
  const scene = useSession((s) => s.scene)!;
  const range = useSession((s) => s.range);
  const frame = useCalmFrame();
  const [first, last] = range
    ? playRange({ scene, range })
    : [Math.min(frame, scene.last - 1), Math.min(frame + USUAL_FRAMES, scene.last)];
  return (
    <>
      <div className="choices by-words" role="group" aria-label={`Time of ${of} from ${first} to ${last}`}>
        {SPEEDS.map(([name, speed, title]) => (
          <button
            key={name}
            disabled={disabled}
            title={`${title} from ${first} to ${last}`}
            onClick={() => bend({ first, last, speed })}
          >
            {name}
          </button>
        ))}
      </div>
      <p className="why">
        From <span className="mono">{first}</span> to <span className="mono">{last}</span>
        {range ? ", what is played" : ": a stretch from the playhead, or set what is played"}. What comes
        after goes on from there.
      </p>
    </>
  );
}
