/** How much held poses ride: the same throughout, keyed, or only where they strobe. */
import "./keys.css";
import { Button } from "@mantine/core";
import type { CharacterView, ShownPart } from "../api/generated";
import { setRide } from "../state/actions";
import { useCalmFrame } from "../state/calmFrame";
import { fraction } from "../state/chosenKeys";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { useSession } from "../state/session";
import { Fields, NumberField } from "../widgets/NumberField";

export function RideWeight({ character, shown }: { character: CharacterView; shown: ShownPart }) {
  const frame = useCalmFrame();
  const first = useSession((s) => s.scene!.first);
  const keys = character.ride_keys;
  const isKeyed = keys.length > 0;
  const hasKeyHere = keys.some(({ time }) => time === String(frame));
  const weight = isKeyed ? (shown.ride_weights[frame - first] ?? 0) : character.ride_weight;
  const key = (value: number | null) =>
    edit({ edit: "key ride", character_id: character.id, time: String(frame), weight: value });
  return (
    <>
      <Fields columns={2}>
        <NumberField
          label={isKeyed ? `weight on ${frame}` : "weight"}
          value={weight * 100}
          unit="%"
          digits={0}
          step={10}
          min={0}
          max={100}
          title={isKeyed ? "Sets a key on this frame" : "Of all frames alike, until one is keyed"}
          onSet={(value) => (isKeyed ? key(value / 100) : setRide({ weight: value / 100 }))}
        />
      </Fields>
      <div className="actions">
        <Button
          title="Eased in before each stretch that strobes, and out after it"
          onClick={() => edit({ edit: "ride where it strobes", character_id: character.id, eases: 6 })}
        >
          Only where it strobes
        </Button>
        {hasKeyHere ? (
          <Button onClick={() => key(null)}>Take this key away</Button>
        ) : (
          <Button onClick={() => key(weight)}>Key it here</Button>
        )}
        {isKeyed && <Button onClick={() => setRide({}, false)}>Throughout</Button>}
      </div>
      {isKeyed && (
        <p className="why" data-testid="ride-keys">
          Keyed on{" "}
          {keys.map(({ time, weight: at }) => (
            <button key={time} className="toggle" onClick={() => goTo(Math.round(inFrames(time)))}>
              {time}: {Math.round(at * 100)} %
            </button>
          ))}
        </p>
      )}
    </>
  );
}

/** Of an exact time. */
function inFrames(time: string): number {
  const [over, under] = fraction(time);
  return over / under;
}
