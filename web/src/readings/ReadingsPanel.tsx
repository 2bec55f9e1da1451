/** Readings: what was measured and is out of bounds, the worst first, with the fix where there is one. */
import { Button } from "@mantine/core";
import type { ReadingView } from "../api/generated";
import { PixelsOf } from "../card/Figure";
import { setRide } from "../state/actions";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { useSession } from "../state/session";

export function ReadingsPanel() {
  const readings = useSession((s) => s.scene!.readings);
  const joint = useSession((s) => s.joint);
  const sorted = [...readings].sort((a, b) => hurt(b) - hurt(a));
  return (
    <section className="panel" aria-label="Readings">
      <h2>
        Readings · {readings.length} <small>sorted by how much they hurt</small> <PixelsOf />
      </h2>
      <ul className="readings">
        {sorted.map((reading, index) => (
          <Row key={index} reading={reading} />
        ))}
        {!sorted.length && (
          <li className="empty">
            Nothing is out of bounds{joint ? "" : ". Choose a joint to have its arc judged as well"}.
          </li>
        )}
      </ul>
    </section>
  );
}

/** How many times over its threshold, so that pixels and metres can stand in one list. */
function hurt(reading: ReadingView): number {
  return reading.threshold > 0 ? Math.abs(reading.size) / reading.threshold : 0;
}

function Row({ reading }: { reading: ReadingView }) {
  const { kind, subject, first, last, fix } = reading;
  const frame = useCalmFrame();
  const here = frame >= first && frame <= last;
  return (
    <li className={here ? "here" : undefined}>
      <button className="what" onClick={() => goTo(first)}>
        <b>{kind}</b>
        <span className="soft">
          {subject} · {first === last ? first : `${first}–${last}`}
        </span>
      </button>
      <span className="mono size">{amount(reading)}</span>
      {fix === "ride" && <Button onClick={() => setRide("rigid")}>Ride</Button>}
    </li>
  );
}

function amount({ size, unit, kind }: ReadingView): string {
  if (unit === "m") return `${(size * 1000).toFixed(0)} mm`;
  if (unit === "frames") return "";
  const signed = kind === "strobes" ? size : Math.abs(size);
  return `${signed.toFixed(1)} px`;
}
